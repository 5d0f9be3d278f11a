"""Flow: masses through the vessels, step by step, for one set of inputs. `evaluate` calls it once plainly and again for each source of doubt."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ..base.messages import Computed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..materials.material import Material
from ..materials.vessel_state import GAS, MELT, SHELF_C, SURPLUS, Leaving, MaterialFacts, Matter, Outcome, Piece
from ..materials.weighed_vessel import SAME_G, moved_between
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..operations.combine import PACKED_VOID, MakeUp, Reach, bring_to, bring_to_read_hot, pieces_volume_ml, to_cover_ml
from ..properties.density import density_g_ml, volume_ml
from ..properties.water import ATMOSPHERE_KPA
from ..spec import spec as s

Doubts = Mapping[str, float]
"""How far each uncertain input group stands from its best value, in half-ranges: ``{"material:quince_juice:brix": 1.0}``."""


@dataclass(frozen=True, slots=True)
class Added:
    """A line that went in: grams, and of what."""

    line: str
    material: str
    mass_g: float
    contents: Contents

    @property
    def own(self) -> bool:
        """Whether it came out of this spec itself, out of the air or off the ice, instead of Stores."""
        return self.material.startswith((BY_PRODUCT, VESSEL)) or self.by_itself

    @property
    def by_itself(self) -> bool:
        """Whether the step itself brought it in, after the lines."""
        return self.material in (GAS, MELT, SURPLUS)


@dataclass(frozen=True, slots=True)
class StepFlow:
    """One step done: what went in, what left, the vessel with the lines in (`before`), what the step made of it (`after`), where that is
    now (`vessel`) and what stands there.

    `doubts` are the process figures with a range that the step used; `line_doubts` those of its amounts; times are minutes on the spec's clock.
    """

    step: s.Step
    added: tuple[Added, ...]
    leaving: tuple[Leaving, ...]
    matter: Matter
    vessel: str
    before: Matter
    after: Outcome
    doubts: tuple[Range, ...] = ()
    line_doubts: Mapping[str, tuple[Range, ...]] = field(default_factory=dict)
    begins_min: float = 0.0
    ends_min: float = 0.0

    @property
    def contents(self) -> Contents:
        return self.matter.contents

    @property
    def temperature_c(self) -> float:
        return self.matter.temperature_c


@dataclass(frozen=True, slots=True)
class Standing:
    """Vessels, streams and the masses that went in, at one moment between two steps."""

    vessels: Mapping[str, Matter]
    streams: Mapping[str, Matter]
    masses: Mapping[str, float]


@dataclass(frozen=True)
class Flow:
    """All steps that could be done, the vessels and unused by-products at the end, and the refusal that stopped it, if any."""

    steps: tuple[StepFlow, ...]
    vessels: Mapping[str, Matter]
    streams: Mapping[str, Matter]
    refusal: Refusal | None = None
    standing: tuple[Standing, ...] = ()
    """How everything stood before each step, so that another pass can begin there."""

    @property
    def masses(self) -> dict[str, float]:
        """Grams of every line that went in."""
        return {added.line: added.mass_g for step in self.steps for added in step.added}


@dataclass(frozen=True)
class Inputs:
    """What a flow is worked out from, besides the doubts.

    `factor` scales what is fixed in the spec; `actual_g` are lines already weighed; `spilled_g` grams lost after a step; `held_g`
    amounts that stay as computed while the doubts move; `skipped` steps whose heat never was, `by_volume` lines that were counted or measured out instead
    of weighed; `vessel_g` what a vessel weighed after a step, which is what stands in it from then on, whatever was worked out;
    `pressure_kpa` [kPa] the air's, by which things boil.
    """

    spec: s.Spec
    materials: Mapping[str, Material]
    factor: float = 1.0
    actual_g: Mapping[str, float] = field(default_factory=dict)
    spilled_g: Mapping[str, float] = field(default_factory=dict)
    held_g: Mapping[str, float] = field(default_factory=dict)
    skipped: frozenset[str] = frozenset()
    by_volume: frozenset[str] = frozenset()
    vessel_g: Mapping[str, float] = field(default_factory=dict)
    pressure_kpa: float = ATMOSPHERE_KPA


class _Pass:
    """What one step may ask of this pass: how uncertain figures stand in it."""

    def __init__(self, walk: _Walk, step: s.Step) -> None:
        self._walk, self._z = walk, walk.doubts.get(f"step:{step.id}", 0.0)
        self.factor = walk.inputs.factor
        self.pressure_kpa = walk.inputs.pressure_kpa
        self.capacity_ml = walk.inputs.spec.vessels[step.vessel].capacity_ml
        self.used: list[Range] = []

    def of(self, doubtful: Range) -> float:
        """The figure in this pass; one with a range counts as a doubt of this step."""
        if doubtful.is_exact:
            return doubtful.value
        self.used.append(doubtful)
        return doubtful.at(self._z) if self._z else doubtful.value

    def take_stream(self, name: str) -> Matter | None:
        return self._walk.streams.pop(name, None)

    def facts(self, material: str) -> MaterialFacts:
        return self._walk.material(material)


class _Walk:
    """One pass through the steps."""

    def __init__(self, inputs: Inputs, doubts: Doubts) -> None:
        self.inputs, self.doubts = inputs, doubts
        self.vessels = {key: Matter() for key in inputs.spec.vessels}
        self.streams: dict[str, Matter] = {}
        self.masses: dict[str, float] = {}
        self.lines = inputs.spec.lines

    def material(self, key: str) -> Material:
        found = self.inputs.materials.get(key)
        if found is None:
            raise Refusal(
                message("Nothing is known about “{key}”", key=key), remedy=message("Choose a material from Stores"), code="unknown_material"
            )
        return found

    def _doubt(self, key: str) -> tuple[float, float]:
        get = self.doubts.get
        return get(f"material:{key}", 0.0) + get(f"material:{key}:brix", 0.0), get(f"material:{key}:acid", 0.0)

    def unit(self, key: str) -> Contents:
        """One gram of what a line names: a material, a by-product or what another vessel holds."""
        own = self.own(key)
        if own is None:
            return self.material(key).per_gram(*self._doubt(key))
        return own.contents.scaled(1.0 / own.mass_g) if own.mass_g > 0 else Contents()

    def own(self, key: str) -> Matter | None:
        """What this spec itself made under that name; None for a material."""
        if key.startswith(BY_PRODUCT):
            name = key.removeprefix(BY_PRODUCT)
            if name not in self.streams:
                raise Refusal(
                    message("No earlier step leaves a by-product “{name}”", name=name),
                    remedy=message("Name it at the step that makes it"),
                    code="unknown_reference",
                )
            return self.streams[name]
        return self.vessels[key.removeprefix(VESSEL)] if key.startswith(VESSEL) else None

    def density(self, key: str) -> float:
        own = self.own(key)
        return self.material(key).density_g_ml() if own is None else density_g_ml(own.contents)

    def mass(self, line: s.Line, before: Mapping[str, Matter], home: str, noted: list[Range]) -> float:
        """Grams of a fixed, ratio, percent, state or all-of line, following ratios to the lines they name."""
        if line.id in self.masses:
            return self.masses[line.id]
        if line.id in self.inputs.actual_g:
            return self.inputs.actual_g[line.id]
        amount = line.amount
        z = self.doubts.get(f"line:{line.id}", 0.0)
        if isinstance(amount, s.Fixed):
            return self._fixed(line, amount, z, noted)
        if isinstance(amount, s.All):
            own = self.own(line.material)
            return amount.share * own.mass_g if own is not None else 0.0
        if isinstance(amount, s.Ratio):
            return self._ratio(line, amount, before, home, noted)
        if isinstance(amount, s.Percent):
            held = before[home]
            if amount.basis == "w/w":
                return held.mass_g * amount.percent / 100.0
            millilitres = volume_ml(held.contents)
            return millilitres * amount.percent / 100.0 * (self.density(line.material) if amount.basis == "v/v" else 1.0)
        if isinstance(amount, s.State):
            return self._to_state(line, amount, home, z, noted)
        raise Refusal(
            message("A target cannot be measured against"),
            remedy=message("Measure against a line with an amount of its own"),
            code="circle",
        )

    def _fixed(self, line: s.Line, amount: s.Fixed, z: float, noted: list[Range]) -> float:
        quantity = amount.quantity
        if amount.spread is not None:
            noted.append(amount.spread)
            quantity = amount.spread.at(z)
        quantity *= self.inputs.factor if amount.scales else 1.0
        if amount.dimension == "mass":
            return quantity
        if amount.dimension == "volume":
            if self.own(line.material) is not None:
                return quantity * self.density(line.material)
            loose = self.material(line.material).poured_g_ml
            if not loose.is_exact:
                noted.append(loose)
            return quantity * loose.at(z)
        material = self.material(line.material)
        if material.piece_g is None:
            raise Refusal(
                message("Nobody has said what one {material} weighs", material=material.name.lower()),
                remedy=message("Weigh it and write grams"),
                code="no_piece_weight",
            )
        each = material.piece_g
        if each.is_exact:
            return quantity * each.value
        # The mean of n pieces is surer than one: its spread falls with √n.
        surer = Range(
            each.value, each.value - (each.value - each.low) / quantity**0.5, each.value + (each.high - each.value) / quantity**0.5
        )
        noted.append(surer)
        return quantity * surer.at(z)

    def _ratio(self, line: s.Line, amount: s.Ratio, before: Mapping[str, Matter], home: str, noted: list[Range]) -> float:
        if amount.line is not None:
            other = self.lines.get(amount.line)
            if other is None:
                raise Refusal(
                    message("There is no line “{line}”", line=amount.line),
                    remedy=message("Measure it against a line of this spec"),
                    code="unknown_reference",
                )
            grams = self.mass(other, before, home, noted)
            if amount.basis == "weight":
                return grams * amount.ratio
            return grams / self.density(other.material) * amount.ratio * self.density(line.material)
        held = before[amount.vessel or home]
        return (
            held.mass_g * amount.ratio
            if amount.basis == "weight"
            else volume_ml(held.contents) * amount.ratio * self.density(line.material)
        )

    def _to_state(self, line: s.Line, amount: s.State, home: str, z: float, noted: list[Range]) -> float:
        """Grams that bring the vessel to a state; up to a line they are solved for, since what dissolves takes less room than it did dry."""
        vessel = self.vessels[home]
        there = volume_ml(vessel.liquor) if vessel.liquor.mass_g else 0.0
        if amount.state == "cover":
            noted.append(PACKED_VOID)
            covering = to_cover_ml(pieces_volume_ml(vessel), min(0.9, max(0.05, PACKED_VOID.at(z))), there)
            return covering * self.density(line.material)
        line_ml = amount.line_ml * self.inputs.factor if amount.line_ml is not None else self.inputs.spec.vessels[home].capacity_ml
        if line_ml is None:
            raise Refusal(
                message("Nobody has said where the vessel's line is"),
                remedy=message("Give the line in mL, or the vessel's capacity"),
                code="missing",
            )
        room = line_ml - there - pieces_volume_ml(vessel)
        if room <= 0:
            raise Refusal(
                message("{there} mL stand above the line already", there=Computed(there, decimals=0)),
                bound=message("the line is at {line} mL", line=Computed(line_ml, decimals=0)),
                remedy=message("Leave this line out"),
                code="unreachable",
            )
        if vessel.liquor.liquid.mass_g <= 0:
            return room * self.density(line.material)
        return bring_to(vessel.liquor, [Reach("volume_ml", there + room, line.material, self.unit(line.material))])[0]

    def put(self, home: str, line: s.Line, grams: float, added: list[Added]) -> None:
        vessel, own = self.vessels[home], self.own(line.material)
        if own is not None:
            if grams > own.mass_g * (1.0 + 1e-9):
                name = line.material.partition(":")[2]
                raise Refusal(
                    message("{grams} g of {name} cannot be taken", grams=Computed(grams, decimals=0), name=name),
                    bound=message("there are {mass} g", mass=Computed(own.mass_g, decimals=0)),
                    remedy=message("Take less, or all of it"),
                    code="more_than_there_is",
                )
            share = min(1.0, grams / own.mass_g) if own.mass_g > 0 else 0.0
            taken = own.scaled(share)
            rest = own.scaled(1.0 - share)
            if line.material.startswith(VESSEL):
                self.vessels[line.material.removeprefix(VESSEL)] = rest
            else:
                self.streams[line.material.removeprefix(BY_PRODUCT)] = rest
            contents = taken.contents
            self.vessels[home] = vessel.joined(taken)
        else:
            material = self.material(line.material)
            if material.pieces:
                parts = {name: part.scaled(grams) for name, part in material.parts_per_gram(*self._doubt(line.material)).items()}
                piece = Piece(line.material, parts, grams)
                contents = piece.contents
                self.vessels[home] = vessel.joined(Matter(pieces=(piece,), clock_min=vessel.clock_min))
            else:
                contents = material.per_gram(*self._doubt(line.material)).scaled(grams)
                joined = vessel.with_added(contents, line.material, grams)
                if material.browns_min is not None:
                    # Fresh juice brings its own live enzyme, whatever heat the vessel has seen.
                    joined = replace(joined, hottest_c=joined.temperature_c).at(
                        vessel.clock_min, {line.material: vessel.clock_min, **vessel.open_since_min}
                    )
                self.vessels[home] = joined
        self.masses[line.id] = grams
        added.append(Added(line.id, line.material, grams, contents))

    def step(self, step: s.Step) -> StepFlow:
        before = dict(self.vessels)
        added: list[Added] = []
        reaching: list[s.Line] = []
        targets = (
            [line.id for line in step.lines if isinstance(line.amount, s.Target) and line.id not in self.inputs.actual_g]
            if step.lines
            else []
        )
        following = [line for line in step.lines if _follows(line, targets) and line.id not in self.inputs.actual_g] if targets else []
        line_doubts: dict[str, tuple[Range, ...]] = {}
        for line in step.lines:
            try:
                if isinstance(line.amount, s.Target) and line.id not in self.inputs.actual_g:
                    if line.id in self.inputs.held_g and line.amount.dosed == "sum":
                        self.put(step.vessel, line, self.inputs.held_g[line.id], added)
                    else:
                        reaching.append(line)
                elif line not in following:
                    noted: list[Range] = []
                    self.put(step.vessel, line, self.mass(line, before, step.vessel, noted), added)
                    if noted:
                        line_doubts[line.id] = tuple(noted)
            except Refusal as refusal:
                raise refusal.at(f"steps/{step.id}/lines/{line.id}/amount") from refusal
        if reaching:
            self._reach(step, reaching, following, added)
        for line in following:
            try:
                if line.id not in self.masses:
                    self.put(step.vessel, line, self.mass(line, before, step.vessel, []), added)
            except Refusal as refusal:
                raise refusal.at(f"steps/{step.id}/lines/{line.id}/amount") from refusal
        ready = self.vessels[step.vessel]
        asked = _Pass(self, step)
        try:
            outcome = step.act(ready, asked)
        except Refusal as refusal:
            raise refusal.at(f"steps/{step.id}") from refusal
        begins = ready.clock_min
        ends = begins + step.hands_min + step.waiting_min
        leaving = list(outcome.leaving)
        matter = self._spill(step, outcome.matter.at(ends, self._opened(step, outcome.matter, ends)), leaving)
        if outcome.gained.mass_g:
            added.append(
                Added(f"{step.id}.{outcome.gained_as.partition(':')[0]}", outcome.gained_as, outcome.gained.mass_g, outcome.gained)
            )
        home = self._place(step, matter, leaving, ends)
        self._as_weighed(step, home, leaving, added)
        return StepFlow(
            step, tuple(added), tuple(leaving), self.vessels[home], home, ready, outcome, tuple(asked.used), line_doubts, begins, ends
        )

    def _reach(self, step: s.Step, reaching: list[s.Line], following: list[s.Line], added: list[Added]) -> None:
        """Adds to the vessel the mass [g] of each target's line that reaches all targets together; `following` lines count by their ratio. Raises Refusal where
        no addition reaches them.
        """
        try:
            blends = [self._blend(line, following) for line in reaching]
            reaches = [
                Reach(line.amount.property, line.amount.value * self._grows(line.amount), self._called(line), unit)
                for line, (unit, _) in zip(reaching, blends, strict=True)
                if isinstance(line.amount, s.Target)
            ]
            liquor = self.vessels[step.vessel].liquor
            found = bring_to(liquor, reaches)
            if isinstance(step, MakeUp) and step.read_at_c != SHELF_C:
                found = bring_to_read_hot(liquor, reaches, found, step.read_at_c)
        except Refusal as refusal:
            raise refusal.at(f"steps/{step.id}/lines/{reaching[0].id}/amount") from refusal
        for line, grams, (_, share) in zip(reaching, found, blends, strict=True):
            self.put(step.vessel, line, grams * share, added)

    def _blend(self, line: s.Line, following: list[s.Line]) -> tuple[Contents, float]:
        """(one gram of a target's line together with what follows it, the line's own share of that gram)."""
        unit, grams = self.unit(line.material), 1.0
        for other in following:
            amount = other.amount
            if isinstance(amount, s.Ratio) and amount.line == line.id:
                ratio = amount.ratio
                if amount.basis == "volume":
                    ratio *= self.density(other.material) / self.density(line.material)
                unit, grams = unit + self.unit(other.material).scaled(ratio), grams + ratio
        return unit.scaled(1.0 / grams), 1.0 / grams

    def _called(self, line: s.Line) -> str:
        return line.material.partition(":")[2] if line.own else self.material(line.material).name

    def _opened(self, step: s.Step, matter: Matter, ends: float) -> Mapping[str, float]:
        """Since when each thing that browns has stood open: from the end of the step that cut or juiced it, or as it came."""
        pieces = self.vessels[step.vessel].pieces
        if not pieces:
            return matter.open_since_min
        opened = dict(matter.open_since_min)
        for piece in pieces:
            material = self.inputs.materials.get(piece.material)
            exposed = step.verb in ("juice", "cut", "crush", "muddle", "blend") or piece.cut > 1.0
            if material is not None and material.browns_min is not None and exposed:
                opened.setdefault(piece.material, ends - step.waiting_min)
        return opened

    def _spill(self, step: s.Step, matter: Matter, leaving: list[Leaving]) -> Matter:
        spilled = self.inputs.spilled_g.get(step.id, 0.0)
        if not spilled:
            return matter
        share = spilled / matter.mass_g if matter.mass_g else 2.0
        if share > 1.0:
            raise Refusal(
                message("{spilled} g cannot have been spilled", spilled=Computed(spilled, decimals=0)),
                f"steps/{step.id}",
                message("the vessel held {mass} g", mass=Computed(matter.mass_g, decimals=0)),
            )
        leaving.append(Leaving("spilled", "spill", matter.scaled(share)))
        return matter.scaled(1.0 - share)

    def _as_weighed(self, step: s.Step, home: str, leaving: list[Leaving], added: list[Added]) -> None:
        """The vessel as it was weighed after the step. What is missing went as steam where there was steam, else under a name of its own; what is more came
        out of the steam or the sieve as far as they held it, else it is said to be more.
        """
        weighed, matter = self.inputs.vessel_g.get(step.id), self.vessels[home]
        if weighed is None or matter.mass_g <= 0:
            return
        for i, stream in enumerate(leaving):
            off = weighed - matter.mass_g
            if abs(off) < SAME_G:
                break
            moved = moved_between(matter, stream, off)
            if moved is not None:
                matter, leaving[i] = moved
                if stream.kept:
                    self.streams[stream.name] = replace(leaving[i].matter, clock_min=matter.clock_min)
        off = weighed - matter.mass_g
        if off <= -SAME_G:
            share = -off / matter.mass_g
            leaving.append(Leaving("not accounted for", "missing", matter.scaled(share)))
            matter = matter.scaled(1.0 - share)
        elif off >= SAME_G:
            more = matter.contents.scaled(off / matter.mass_g)
            added.append(Added(f"{step.id}.surplus", SURPLUS, off, more))
            matter = matter.scaled(weighed / matter.mass_g)
        self.vessels[home] = matter

    def _place(self, step: s.Step, matter: Matter, leaving: list[Leaving], ends: float) -> str:
        """Puts what came of the step where it belongs: the product into its vessel, by-products among the streams. Says which vessel holds the product."""
        drawn = step.verb == "split" and bool(step.into)
        for stream in leaving:
            if drawn and stream.kind == "drawn_off":
                self.vessels[step.into] = self.vessels[step.into].joined(stream.matter)
            elif stream.kept:
                standing = replace(stream.matter, clock_min=ends)
                self.streams[stream.name] = self.streams[stream.name].joined(standing) if stream.name in self.streams else standing
        if drawn:
            leaving[:] = [stream for stream in leaving if stream.kind != "drawn_off"]
        if step.into and not drawn and step.into != step.vessel:
            # What waits in the other vessel (an antioxidant, a syrup) is met there.
            self.vessels[step.vessel] = Matter(clock_min=ends)
            self.vessels[step.into] = self.vessels[step.into].joined(matter) if self.vessels[step.into].mass_g else matter
            return step.into
        self.vessels[step.vessel] = matter
        return step.vessel

    def _grows(self, target: s.Target) -> float:
        """Volume and mass targets grow with the batch; concentrations don't."""
        return self.inputs.factor if target.property in ("volume_ml", "mass_g") else 1.0


def _follows(line: s.Line, targets: list[str]) -> bool:
    """Whether a line stands in a fixed ratio to a target of its own step: then both reach the target together, two of citric acid to one of malic."""
    return isinstance(line.amount, s.Ratio) and line.amount.line in targets


def flow(inputs: Inputs, doubts: Doubts | None = None, after: Flow | None = None, begin: int = 0) -> Flow:
    """Every step in order. Mass is conserved to rounding: what went in is in the vessels or has left under a name.

    Stops at the first step that cannot be done and keeps its refusal; the steps before it stand. With `after`, the first `begin` steps are
    taken over from that flow: nothing that differs has touched them.
    """
    walk = _Walk(inputs, doubts or {})
    done: list[StepFlow] = []
    standing: list[Standing] = []
    refused: Refusal | None = None
    if after is not None and begin:
        start = after.standing[begin]
        walk.vessels, walk.streams, walk.masses = dict(start.vessels), dict(start.streams), dict(start.masses)
        done = list(after.steps[:begin])
    for step in inputs.spec.steps[begin:]:
        if after is None:
            standing.append(Standing(dict(walk.vessels), dict(walk.streams), dict(walk.masses)))
        try:
            done.append(walk.step(step))
        except Refusal as refusal:
            refused = refusal
            break
    return Flow(tuple(done), walk.vessels, walk.streams, refused, tuple(standing))


def balance_g(flow: Flow) -> tuple[float, float]:
    """(grams from Stores and air, grams in vessels, unused by-products and losses) of a whole flow: equal to 1e-9. Source: mass balance."""
    went_in = sum(added.mass_g for step in flow.steps for added in step.added if not added.material.startswith((BY_PRODUCT, VESSEL)))
    held = sum(matter.mass_g for matter in (*flow.vessels.values(), *flow.streams.values()))
    lost = sum(stream.contents.mass_g for step in flow.steps for stream in step.leaving if not stream.kept)
    return went_in, held + lost
