"""Mass of a line: how many grams of its material an amount of each kind is, and how many reach the targets of a step."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..base.figures import quantity
from ..base.linear_algebra import solve_linear
from ..base.messages import Computed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..materials.vessel_state import SHELF_C, VesselState
from ..operations.amounts import TargetProperty
from ..operations.combine import MakeUp
from ..properties.density import volume_from_reading_ml, volume_ml
from ..properties.measure import figure_of
from ..spec import spec as s
from .group_key import line_key
from .pass_state import PassState, vessel_of

_CAP = 40
"""Most rounds of Newton's method."""
_TOLERANCE = 1e-11
"""Relative miss of a target at which Newton's method ends."""
_NUDGE = 1e-5
"""Step of the difference quotients, as a share of the mass of the vessel."""
_HOT_ROUNDS = 3
"""Rounds of `bring_to_read_hot`: what is added changes the expansion, and that changes what is added."""
PACKED_VOID = Range(0.42, 0.32, 0.52)
"""Share of the volume of loose pieces that is gaps between them. House experience, not a standard."""
_LEAST_VOID, _MOST_VOID = 0.05, 0.9
"""Bounds of that share when it is moved past its range: pieces that leave no gaps, or take no room, do not exist."""
_COVER_OVER = 1.03
"""Volume to fill against that of the bed of pieces, so that liquid stands a little above it. House experience."""
_NONE_PER_MASS = 1e-9
"""Share of the vessel's mass within which a computed mass counts as zero."""


_TRIED_SHARE = 0.01
"""Share of the vessel's mass that is added to see whether an addition raises or lowers a figure."""


@dataclass(frozen=True, slots=True)
class Reach:
    """A target `value` of a property, in its unit, and what is added to reach it: its name, and the contents of one gram of it [g by substance]."""

    property: TargetProperty
    value: float
    name: str
    per_gram: Contents


def _with(contents: Contents, reaches: Sequence[Reach], masses_g: Sequence[float]) -> Contents:
    for reach, mass_g in zip(reaches, masses_g, strict=True):
        contents = contents + reach.per_gram.scaled(mass_g)
    return contents


def amounts_to_reach(contents: Contents, reaches: Sequence[Reach]) -> list[float] | None:
    """Returns the mass [g] of each addition that together bring `contents` to all targets; masses may be negative. None if no masses do.

    Newton's method from zero on the exact figures (volumes by the mixture formula), to 1e-11 of each target, at most 40 rounds.
    1000 mL of juice of 0.85 g/100 mL to 6.00 g/100 mL: 53.4 g of citric acid. Source: mass balance.
    """
    start = contents.mass_g
    masses = [0.0] * len(reaches)
    for _ in range(_CAP):
        # From the current masses, not step by step, so that rounding does not add up.
        mixed = _with(contents, reaches, masses)
        # Newton stepped out of what can exist: more was taken than there is.
        if mixed.solution.mass_g <= 0 or any(mass < -1e-9 for mass in mixed.grams.values()):
            return None
        now = [figure_of(reach.property, mixed) for reach in reaches]
        off = [reach.value - figure for reach, figure in zip(reaches, now, strict=True)]
        if all(abs(miss) <= _TOLERANCE * max(1.0, abs(reach.value)) for miss, reach in zip(off, reaches, strict=True)):
            return masses
        nudge = _NUDGE * max(start, 1.0)
        slopes = []
        for reach in reaches:
            nudged = mixed + reach.per_gram.scaled(nudge)
            # Every addition moves every target: sugar thins acid, water thins both.
            slopes.append([(figure_of(target.property, nudged) - figure) / nudge for target, figure in zip(reaches, now, strict=True)])
        step = solve_linear([[slopes[column][row] for column in range(len(reaches))] for row in range(len(reaches))], off)
        if step is None:
            return None
        masses = [mass + change for mass, change in zip(masses, step, strict=True)]
    return None


def bring_to(contents: Contents, reaches: Sequence[Reach]) -> list[float]:
    """Returns the mass [g, 0 or more] of each addition that together bring `contents` to all targets.

    Raises Refusal for an empty vessel, and for targets that no additions reach. Error and source: see `amounts_to_reach`.
    """
    if contents.solution.mass_g <= 0:
        raise Refusal(
            message("There is nothing in the vessel to bring to a target"), remedy=message("Put the liquid in first"), code="empty"
        )
    masses = amounts_to_reach(contents, reaches)
    slack = _NONE_PER_MASS * contents.mass_g
    # A target that is reached already comes out as −1e-12 g.
    if masses is not None and all(mass >= -slack for mass in masses):
        return [max(0.0, mass) for mass in masses]
    # The refusal names the target that is missed the most.
    worst = reaches[0] if masses is None else min(zip(masses, reaches, strict=True), key=lambda pair: pair[0])[1]
    now = figure_of(worst.property, contents)
    more = figure_of(worst.property, contents + worst.per_gram.scaled(_TRIED_SHARE * contents.mass_g))
    stands, material = quantity(worst.property, now), worst.name.lower()
    if more > now + 1e-12:
        bound = message("the vessel stands at {now}, and {material} raises it", now=stands, material=material)
    elif more < now - 1e-12:
        bound = message("the vessel stands at {now}, and {material} lowers it", now=stands, material=material)
    else:
        bound = message("the vessel stands at {now}, and {material} does not change it", now=stands, material=material)
    raise Refusal(
        message("{target} cannot be reached by adding {material}", target=quantity(worst.property, worst.value), material=material),
        bound=bound,
        remedy=message("Change the target, or add something else"),
        code="unreachable",
    )


def bring_to_read_hot(liquid: Contents, reaches: list[Reach], found: list[float], t_c: float) -> list[float]:
    """Returns the mass [g] of each addition where volume targets are read at `t_c` [°C] instead of 20 °C; `found` are the masses at 20 °C.

    Error below 0.01 mL after three rounds. Raises Refusal as `bring_to` does. Source: `volume_from_reading_ml`.
    """
    for _ in range(_HOT_ROUNDS):
        filled = _with(liquid, reaches, found)
        at_20 = [replace(r, value=volume_from_reading_ml(r.value, t_c, filled)) if r.property == "volume_ml" else r for r in reaches]
        found = bring_to(liquid, at_20)
    return found


def to_cover_ml(pieces_ml: float, void: float, there_ml: float) -> float:
    """Returns the liquid [mL] to add so that pieces are covered: `pieces_ml` [mL] of them, with `void` [0 to 1] of the bed as gaps, in `there_ml` [mL].

    Bed = pieces/(1 − void); liquid = 1.03 × bed − pieces − what is there. 500 mL of pieces at 0.42: 388 mL. Error: that of the gaps, 15 %.
    Raises Refusal if there are no pieces, or if they are covered already. Source: volume balance, house experience.
    """
    if pieces_ml <= 0:
        raise Refusal(message("There is nothing to cover"), remedy=message("Put the fruit, peel or spice in first"), code="no_pieces")
    # Gaps and the layer above the bed are filled by liquid; the pieces are not.
    needed = _COVER_OVER * pieces_ml / (1.0 - void) - pieces_ml - there_ml
    if needed <= 0:
        raise Refusal(
            message("It stands covered already"),
            bound=message("{there} mL are in the vessel", there=Computed(there_ml, decimals=0)),
            remedy=message("Leave this line out"),
            code="unreachable",
        )
    return needed


class StepMasses:
    """Masses of the lines of one step. Ratios and percents of a vessel refer to the vessels as they were before the step."""

    def __init__(self, state: PassState, step: s.Step) -> None:
        self._state, self._step = state, step
        self._before: Mapping[str, VesselState] = dict(state.vessels)
        self._measuring: list[str] = []

    def mass_g(self, line: s.Line, used: list[Range]) -> float:
        """Returns the mass of a line without a target [g]; the ranges that its amount depends on are appended to `used`.

        Raises Refusal for a ratio to a line with a target or to no line, and for a volume, a count or a vessel of which too little is known.
        """
        state = self._state
        # A line that went in already keeps its mass, however often others are measured against it.
        if line.id in state.masses:
            return state.masses[line.id]
        if line.id in state.inputs.made.actual_g:
            return state.inputs.made.actual_g[line.id]
        amount = line.amount
        match amount:
            case s.Fixed():
                return self._fixed_g(line, amount, used)
            case s.All():
                own = state.own(line.material)
                return amount.share * own.mass_g if own is not None else 0.0
            case s.Ratio():
                return self._ratio_g(line, amount, used)
            case s.Percent():
                return self._percent_g(line, amount)
            case s.State():
                return self._to_state_g(line, amount, used)
        raise Refusal(
            message("A target cannot be measured against"),
            remedy=message("Measure against a line with an amount of its own"),
            code="circle",
        )

    def _position(self, line: s.Line) -> float:
        positions = self._state.positions
        return positions.get(line_key(line.id), 0.0) if positions else 0.0

    def _fixed_g(self, line: s.Line, amount: s.Fixed, used: list[Range]) -> float:
        state, z, quantity_ = self._state, self._position(line), amount.quantity
        if amount.spread is not None:
            used.append(amount.spread)
            quantity_ = amount.spread.at(z)
        quantity_ *= state.inputs.made.factor if amount.scales else 1.0
        if amount.dimension == "mass":
            return quantity_
        if amount.dimension == "volume":
            if state.own(line.material) is not None:
                return quantity_ * state.density_g_ml(line.material)
            density = state.material(line.material).poured_g_ml
            if not density.is_exact:
                used.append(density)
            # A volume of powder depends on how it is packed, which is a range of its own.
            return quantity_ * density.at(z)
        material = state.material(line.material)
        if material.piece_g is None:
            raise Refusal(
                message("Nobody has said what one {material} weighs", material=material.name.lower()),
                remedy=message("Weigh it and write grams"),
                code="no_piece_weight",
            )
        one = material.piece_g
        if one.is_exact:
            return quantity_ * one.value
        # The mean of n pieces has a narrower range than one piece: it falls with √n.
        root = quantity_**0.5
        mean = Range(one.value, one.value - (one.value - one.low) / root, one.value + (one.high - one.value) / root)
        used.append(mean)
        return quantity_ * mean.at(z)

    def _ratio_g(self, line: s.Line, amount: s.Ratio, used: list[Range]) -> float:
        state, by_weight = self._state, amount.basis == "weight"
        if amount.line is not None:
            other = state.lines.get(amount.line)
            if other is None:
                raise Refusal(
                    message("There is no line “{line}”", line=amount.line),
                    remedy=message("Measure it against a line of this spec"),
                    code="unknown_reference",
                )
            mass_g = self._other_g(other, used)
            # Parts by volume go through both densities, since only masses are kept.
            if by_weight:
                return mass_g * amount.ratio
            return mass_g / state.density_g_ml(other.material) * amount.ratio * state.density_g_ml(line.material)
        held = vessel_of(self._before, amount.vessel or self._step.vessel)
        return held.mass_g * amount.ratio if by_weight else volume_ml(held.contents) * amount.ratio * state.density_g_ml(line.material)

    def _other_g(self, line: s.Line, used: list[Range]) -> float:
        """Returns the mass [g] of a line that another is measured against. Raises Refusal for lines that are measured against each other."""
        # A draft may hold such a circle: it is told as a fault, and the step cannot be done.
        if line.id in self._measuring:
            raise Refusal(
                message("These amounts go round in a circle: {lines}", lines=" → ".join([*self._measuring, line.id])),
                remedy=message("Give one of them grams"),
                code="circle",
            )
        self._measuring.append(line.id)
        try:
            return self.mass_g(line, used)
        finally:
            self._measuring.pop()

    def _percent_g(self, line: s.Line, amount: s.Percent) -> float:
        held = self._before[self._step.vessel]
        if amount.basis == "w/w":
            return held.mass_g * amount.percent / 100.0
        part = volume_ml(held.contents) * amount.percent / 100.0
        return part * self._state.density_g_ml(line.material) if amount.basis == "v/v" else part

    def _to_state_g(self, line: s.Line, amount: s.State, used: list[Range]) -> float:
        """Returns the mass that brings the vessel to a state [g]. Up to a line it is solved for: what dissolves takes less room than it did dry."""
        state, vessel_id = self._state, self._step.vessel
        vessel = state.vessels[vessel_id]
        there = volume_ml(vessel.liquid) if vessel.liquid.mass_g else 0.0
        if amount.state == "cover":
            used.append(PACKED_VOID)
            void = min(_MOST_VOID, max(_LEAST_VOID, PACKED_VOID.at(self._position(line))))
            return to_cover_ml(vessel.pieces_ml, void, there) * state.density_g_ml(line.material)
        line_ml = (
            amount.line_ml * state.inputs.made.factor if amount.line_ml is not None else state.inputs.spec.vessels[vessel_id].capacity_ml
        )
        if line_ml is None:
            raise Refusal(
                message("Nobody has said where the vessel's line is"),
                remedy=message("Give the line in mL, or the vessel's capacity"),
                code="missing",
            )
        room = line_ml - there - vessel.pieces_ml
        if room <= 0:
            raise Refusal(
                message("{there} mL stand above the line already", there=Computed(there, decimals=0)),
                bound=message("the line is at {line} mL", line=Computed(line_ml, decimals=0)),
                remedy=message("Leave this line out"),
                code="unreachable",
            )
        # In an empty vessel nothing dissolves: volume is volume.
        if vessel.liquid.solution.mass_g <= 0:
            return room * state.density_g_ml(line.material)
        return bring_to(vessel.liquid, [Reach("volume_ml", there + room, line.material, state.per_gram(line.material))])[0]

    def target_masses_g(self, targets: list[s.Line], following: list[s.Line]) -> list[float]:
        """Returns the mass [g] of the line of each target, in their order, so that the vessel as it is now reaches all targets together.

        Lines that are `following`, by a ratio to one of them, are counted in. Raises Refusal as `bring_to` does.
        """
        state, step = self._state, self._step
        blends = [self._blend(line, following) for line in targets]
        reaches = [
            Reach(amount.property, amount.value * self._growth(amount), self._name(line), per_gram)
            for line, (per_gram, _) in zip(targets, blends, strict=True)
            if isinstance(amount := line.amount, s.Target)
        ]
        liquid = state.vessels[step.vessel].liquid
        found = bring_to(liquid, reaches)
        # Read hot, the liquid stands higher at the line than it will at 20 °C.
        if isinstance(step, MakeUp) and step.read_at_c != SHELF_C:
            found = bring_to_read_hot(liquid, reaches, found, step.read_at_c)
        return [mass * share for mass, (_, share) in zip(found, blends, strict=True)]

    def _blend(self, line: s.Line, following: list[s.Line]) -> tuple[Contents, float]:
        """Returns (contents of one gram of a target's line together with the lines that follow it, the line's own share of that gram)."""
        state = self._state
        per_gram, mass_g = state.per_gram(line.material), 1.0
        for other in following:
            amount = other.amount
            if isinstance(amount, s.Ratio) and amount.line == line.id:
                ratio = amount.ratio
                if amount.basis == "volume":
                    ratio *= state.density_g_ml(other.material) / state.density_g_ml(line.material)
                # The blend is one addition: its lines keep their proportions whatever mass the target takes.
                per_gram, mass_g = per_gram + state.per_gram(other.material).scaled(ratio), mass_g + ratio
        return per_gram.scaled(1.0 / mass_g), 1.0 / mass_g

    def _name(self, line: s.Line) -> str:
        return line.material.partition(":")[2] if line.own else self._state.material(line.material).name

    def _growth(self, target: s.Target) -> float:
        """Returns the factor on a target: volumes and masses grow with the batch, concentrations do not."""
        return self._state.inputs.made.factor if target.property in ("volume_ml", "mass_g") else 1.0
