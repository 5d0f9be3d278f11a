"""Mass flow: the masses in the vessels, step by step, for one set of inputs. `evaluate` calls it once with every input at its best value, and again for each moved group."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from ..base.messages import Computed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..materials.vessel_state import SURPLUS, MaterialFacts, OutgoingStream, Piece, VesselState
from ..materials.weighed_vessel import SAME_G, moved_between
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..spec import spec as s
from .flow_values import Flow, Inputs, LineAddition, Snapshot, StepFlow
from .group_key import Positions, step_key
from .line_mass import StepMasses
from .pass_state import PassState

_EXPOSING = frozenset({"juice", "cut", "crush", "muddle", "blend"})
"""Verbs that expose the inside of a fruit to air."""
_NO_POSITIONS: Positions = {}
_MORE_THAN_ALL = 2.0
"""Share that stands for anything taken out of an empty vessel."""


class _Context:
    """The `StepContext` of one step in one pass. It records the ranges that the operation used."""

    def __init__(self, state: PassState, step: s.Step) -> None:
        self._state = state
        self._z = state.positions.get(step_key(step.id), 0.0) if state.positions else 0.0
        self.factor = state.inputs.made.factor
        self.pressure_kpa = state.inputs.pressure_kpa
        self.capacity_ml = state.inputs.spec.vessels[step.vessel].capacity_ml
        self.used: list[Range] = []

    def value_of(self, figure: Range) -> float:
        """Returns the value of a process figure in this pass, in its own unit. A figure with a range is recorded as an uncertain input of the step."""
        if figure.is_exact:
            return figure.value
        self.used.append(figure)
        return figure.at(self._z) if self._z else figure.value

    def take_stream(self, name: str) -> VesselState | None:
        """Removes a by-product and returns it; None if there is none of this name."""
        return self._state.streams.pop(name, None)

    def facts(self, material: str) -> MaterialFacts:
        """Returns a material's process figures. Raises Refusal if there is no material of this key."""
        return self._state.material(material)


class _Pass:
    """One pass through the steps, which changes its state in place."""

    def __init__(self, state: PassState) -> None:
        self.state, self.inputs = state, state.inputs

    def step(self, step: s.Step) -> StepFlow:
        """Does one step. Raises Refusal, placed at the step or line, if it cannot be done."""
        added, line_ranges = self._add_lines(step) if step.lines else ([], {})
        # Lines go in before the verb acts: “simmer with peel” simmers with the peel in.
        filled = self.state.vessels[step.vessel]
        context = _Context(self.state, step)
        try:
            outcome = step.act(filled, context)
        except Refusal as refusal:
            raise refusal.at(f"steps/{step.id}") from refusal
        begins = filled.clock_min
        # Hands-on time first, then the wait: the clock of the vessel runs on with both.
        ends = begins + step.labour_min + step.waiting_min
        outgoing = list(outcome.outgoing)
        product = self._spill(step, outcome.state.at(ends, self._exposed_since(step, outcome.state, ends)), outgoing)
        if outcome.gained.mass_g:
            kind = outcome.gained_as.partition(":")[0]
            added.append(LineAddition(f"{step.id}.{kind}", outcome.gained_as, outcome.gained.mass_g, outcome.gained))
        vessel_id = self._place(step, product, outgoing, ends)
        self._as_weighed(step, vessel_id, outgoing, added)
        return StepFlow(
            step,
            tuple(added),
            tuple(outgoing),
            self.state.vessels[vessel_id],
            vessel_id,
            filled,
            outcome,
            tuple(context.used),
            line_ranges,
            begins,
            ends,
        )

    def _add_lines(self, step: s.Step) -> tuple[list[LineAddition], dict[str, tuple[Range, ...]]]:
        """Adds the lines of a step to its vessel. Returns them, and the ranges that the amount of each line depends on.

        Lines with an amount of their own go in first, then all targets together, then the lines that follow a target by a ratio.
        """
        state, masses = self.state, StepMasses(self.state, step)
        weighed = self.inputs.made.actual_g
        # What was weighed is known, and no longer solved for.
        open_targets = [line for line in step.lines if isinstance(line.amount, s.Target) and line.id not in weighed]
        ids = [line.id for line in open_targets]
        following = [line for line in step.lines if _follows(line, ids) and line.id not in weighed] if ids else []
        added: list[LineAddition] = []
        ranges: dict[str, tuple[Range, ...]] = {}
        solved: list[s.Line] = []
        for line in step.lines:
            try:
                if line.id in ids and isinstance(line.amount, s.Target):
                    # Dosed by calculation the mass is fixed and the result uncertain; dosed by reading the reverse.
                    if line.id in self.inputs.held_g and line.amount.dosed == "sum":
                        self._put(step.vessel, line, self.inputs.held_g[line.id], added)
                    else:
                        solved.append(line)
                elif line not in following:
                    used: list[Range] = []
                    self._put(step.vessel, line, masses.mass_g(line, used), added)
                    if used:
                        ranges[line.id] = tuple(used)
            except Refusal as refusal:
                raise refusal.at(_amount_of(step, line)) from refusal
        if solved:
            try:
                found = masses.target_masses_g(solved, following)
            except Refusal as refusal:
                raise refusal.at(_amount_of(step, solved[0])) from refusal
            for line, mass_g in zip(solved, found, strict=True):
                self._put(step.vessel, line, mass_g, added)
        for line in following:
            try:
                if line.id not in state.masses:
                    self._put(step.vessel, line, masses.mass_g(line, []), added)
            except Refusal as refusal:
                raise refusal.at(_amount_of(step, line)) from refusal
        return added, ranges

    def _put(self, vessel_id: str, line: s.Line, mass_g: float, added: list[LineAddition]) -> None:
        """Adds a mass [g] of a line's material to the vessel `vessel_id`. Raises Refusal for more of a by-product or vessel than there is."""
        state = self.state
        vessel, own = state.vessels[vessel_id], state.own(line.material)
        if own is not None:
            taken = self._take(line, own, mass_g)
            # Read again: a draft may pour a vessel into itself, and what was taken is no longer in it.
            contents, state.vessels[vessel_id] = taken.contents, state.vessels[vessel_id].joined(taken)
        else:
            material, at = state.material(line.material), state.position_of(line.material)
            if material.pieces:
                parts = {name: part.scaled(mass_g) for name, part in material.parts_per_gram(*at).items()}
                piece = Piece(line.material, parts, mass_g)
                contents = piece.contents
                state.vessels[vessel_id] = vessel.joined(VesselState(pieces=(piece,), clock_min=vessel.clock_min))
            else:
                contents = material.per_gram(*at).scaled(mass_g)
                joined = vessel.with_added(contents, line.material, mass_g)
                if material.browns_min is not None:
                    # Fresh juice brings its own active enzyme, however hot the vessel has been.
                    joined = replace(joined, hottest_c=joined.temperature_c).at(
                        vessel.clock_min, {line.material: vessel.clock_min, **vessel.open_since_min}
                    )
                state.vessels[vessel_id] = joined
        state.masses[line.id] = mass_g
        added.append(LineAddition(line.id, line.material, mass_g, contents))

    def _take(self, line: s.Line, own: VesselState, mass_g: float) -> VesselState:
        """Takes a mass [g] out of the by-product or vessel `own` that a line names, and returns it."""
        if mass_g > own.mass_g * (1.0 + 1e-9):
            raise Refusal(
                message("{grams} g of {name} cannot be taken", grams=Computed(mass_g, decimals=0), name=line.material.partition(":")[2]),
                bound=message("there are {mass} g", mass=Computed(own.mass_g, decimals=0)),
                remedy=message("Take less, or all of it"),
                code="more_than_there_is",
            )
        # By mass: what is taken from a vessel has the composition of the whole.
        share = min(1.0, mass_g / own.mass_g) if own.mass_g > 0 else 0.0
        rest = own.scaled(1.0 - share)
        if line.material.startswith(VESSEL):
            self.state.vessels[line.material.removeprefix(VESSEL)] = rest
        else:
            self.state.streams[line.material.removeprefix(BY_PRODUCT)] = rest
        return own.scaled(share)

    def _exposed_since(self, step: s.Step, state: VesselState, ends: float) -> Mapping[str, float]:
        """Returns since when each material that browns is exposed to air [min on the clock of the spec], for the state after a step that `ends` then."""
        pieces = self.state.vessels[step.vessel].pieces
        if not pieces:
            return state.open_since_min
        since = dict(state.open_since_min)
        for piece in pieces:
            material = self.inputs.materials.get(piece.material)
            # Only what is open to air browns: whole fruit does not, until it is cut.
            if material is not None and material.browns_min is not None and (step.verb in _EXPOSING or piece.cut > 1.0):
                since.setdefault(piece.material, ends - step.waiting_min)
        return since

    def _spill(self, step: s.Step, state: VesselState, outgoing: list[OutgoingStream]) -> VesselState:
        """Returns the state without the mass that was spilled after the step, which is appended to `outgoing`. Raises Refusal for more than there is."""
        spilled = self.inputs.made.spilled_g.get(step.id, 0.0)
        if not spilled:
            return state
        # What is spilled has the composition of what is in the vessel.
        share = spilled / state.mass_g if state.mass_g else _MORE_THAN_ALL
        if share > 1.0:
            raise Refusal(
                message("{spilled} g cannot have been spilled", spilled=Computed(spilled, decimals=0)),
                f"steps/{step.id}",
                message("the vessel held {mass} g", mass=Computed(state.mass_g, decimals=0)),
            )
        outgoing.append(OutgoingStream("spilled", "spill", state.scaled(share)))
        return state.scaled(1.0 - share)

    def _as_weighed(self, step: s.Step, vessel_id: str, outgoing: list[OutgoingStream], added: list[LineAddition]) -> None:
        """Sets the vessel `vessel_id` to its mass as weighed after the step, if it was weighed.

        A difference is moved from or to the streams of the step, as far as they hold it: water by the steam, liquid by the sieve. What is still missing leaves
        as "not accounted for"; what is still too much is added as a surplus.
        """
        weighed, state = self.inputs.made.vessel_g.get(step.id), self.state.vessels[vessel_id]
        if weighed is None or state.mass_g <= 0:
            return
        for i, stream in enumerate(outgoing):
            off = weighed - state.mass_g
            if abs(off) < SAME_G:
                break
            # Streams in the order in which they left, until the difference is accounted for.
            moved = moved_between(state, stream, off)
            if moved is not None:
                state, outgoing[i] = moved
                if stream.kept:
                    self.state.streams[stream.name] = replace(outgoing[i].state, clock_min=state.clock_min)
        off = weighed - state.mass_g
        # Still too little: nothing that left can account for it.
        if off <= -SAME_G:
            share = -off / state.mass_g
            outgoing.append(OutgoingStream("not accounted for", "missing", state.scaled(share)))
            state = state.scaled(1.0 - share)
        elif off >= SAME_G:
            added.append(LineAddition(f"{step.id}.surplus", SURPLUS, off, state.contents.scaled(off / state.mass_g)))
            state = state.scaled(weighed / state.mass_g)
        self.state.vessels[vessel_id] = state

    def _place(self, step: s.Step, product: VesselState, outgoing: list[OutgoingStream], ends: float) -> str:
        """Puts the product into its vessel and by-products among the streams. Returns the vessel that holds the product."""
        vessels, streams = self.state.vessels, self.state.streams
        # Only a split sends its stream, and not its product, into the other vessel.
        drawn = step.verb == "split" and bool(step.into)
        if drawn:
            # First what stays: a draft may draw off into the same vessel, which then holds both.
            vessels[step.vessel] = product
        for stream in outgoing:
            if drawn and stream.kind == "drawn_off":
                vessels[step.into] = vessels[step.into].joined(stream.state)
            elif stream.kept:
                now = replace(stream.state, clock_min=ends)
                streams[stream.name] = streams[stream.name].joined(now) if stream.name in streams else now
        if drawn:
            outgoing[:] = [stream for stream in outgoing if stream.kind != "drawn_off"]
        if step.into and not drawn and step.into != step.vessel:
            # What the other vessel holds already, such as an antioxidant, is mixed with the product.
            vessels[step.vessel] = VesselState(clock_min=ends)
            vessels[step.into] = vessels[step.into].joined(product) if vessels[step.into].mass_g else product
            return step.into
        if not drawn:
            vessels[step.vessel] = product
        return step.vessel


def _amount_of(step: s.Step, line: s.Line) -> str:
    return f"steps/{step.id}/lines/{line.id}/amount"


def _follows(line: s.Line, targets: list[str]) -> bool:
    """Returns True for a line in a fixed ratio to a target of its own step: both reach the target together, such as two of citric acid to one of malic."""
    return isinstance(line.amount, s.Ratio) and line.amount.line in targets


def flow(
    inputs: Inputs, positions: Positions = _NO_POSITIONS, after: Flow | None = None, begin: int = 0, *, resumable: bool = True
) -> Flow:
    """Returns the flow of a spec with its uncertain inputs at `positions` [half-ranges]. Mass is conserved to 1e-9, relative.

    It ends before the first step that cannot be done, and holds that step's refusal. With `after`, its first `begin` steps are taken from that flow: the
    caller knows that nothing before them differs. No other flow can begin within one that is not `resumable`, which saves the snapshots.
    """
    resumed = after is not None and begin > 0
    start = after.snapshots[begin] if after is not None and resumed else None
    current = _Pass(PassState(inputs, positions, start))
    done: list[StepFlow] = list(after.steps[:begin]) if after is not None and resumed else []
    snapshots: list[Snapshot] = list(after.snapshots[:begin]) if after is not None and resumed and resumable else []
    refused: Refusal | None = None
    for step in inputs.spec.steps[begin:]:
        if resumable:
            snapshots.append(current.state.snapshot())
        try:
            done.append(current.step(step))
        except Refusal as refusal:
            refused = refusal
            break
    return Flow(tuple(done), current.state.vessels, current.state.streams, refused, tuple(snapshots))
