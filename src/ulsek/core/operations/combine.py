"""Combine: putting things together without heat, and how much a bring-to-target line takes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.figures import quantity
from ..base.messages import Computed, Given, Message, grams, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES
from ..materials.vessel_state import Matter, Outcome
from ..properties.density import volume_from_reading_ml, volume_ml
from ..properties.measure import figure_of
from .amounts import Target, TargetProperty
from .step import Step, celsius, minutes, number

_CAP = 40
_TOLERANCE = 1e-11
_NUDGE = 1e-5


@dataclass(frozen=True, slots=True)
class Reach:
    """One target and the thing added to reach it; `unit` is the contents of one gram."""

    property: TargetProperty
    value: float
    name: str
    unit: Contents


def solve_linear(matrix: list[list[float]], right: list[float]) -> list[float] | None:
    """x with matrix · x = right, by elimination with row pivots; None when the rows don't tell the unknowns apart."""
    n = len(right)
    rows = [[*row, value] for row, value in zip(matrix, right, strict=True)]
    scale = max((abs(entry) for row in matrix for entry in row), default=0.0)
    for column in range(n):
        pivot = max(range(column, n), key=lambda row: abs(rows[row][column]))
        if abs(rows[pivot][column]) <= 1e-14 * scale:
            return None
        rows[column], rows[pivot] = rows[pivot], rows[column]
        for row in range(column + 1, n):
            share = rows[row][column] / rows[column][column]
            rows[row] = [a - share * b for a, b in zip(rows[row], rows[column], strict=True)]
    found = [0.0] * n
    for row in reversed(range(n)):
        known = sum(rows[row][column] * found[column] for column in range(row + 1, n))
        found[row] = (rows[row][n] - known) / rows[row][row]
    return found


def _with(contents: Contents, reaches: Sequence[Reach], grams: Sequence[float]) -> Contents:
    for reach, mass in zip(reaches, grams, strict=True):
        contents = contents + reach.unit.scaled(mass)
    return contents


def amounts_to_reach(contents: Contents, reaches: Sequence[Reach]) -> list[float] | None:
    """Grams of each addition that bring `contents` to all targets at once; may be negative; None when nothing does.

    Newton's method from zero on the exact figures (volumes by the mixture formula), to 1e-11 of each target, at most 40 rounds.
    1000 mL juice of 0.85 g/100 mL takes 53.4 g citric acid to stand at 6.00 g/100 mL. Source: mass balance.
    """
    start = contents.mass_g
    grams = [0.0] * len(reaches)
    for _ in range(_CAP):
        mixed = _with(contents, reaches, grams)
        if mixed.liquid.mass_g <= 0 or any(mass < -1e-9 for mass in mixed.grams.values()):
            return None
        now = [figure_of(reach.property, mixed) for reach in reaches]
        off = [reach.value - figure for reach, figure in zip(reaches, now, strict=True)]
        if all(abs(miss) <= _TOLERANCE * max(1.0, abs(reach.value)) for miss, reach in zip(off, reaches, strict=True)):
            return grams
        nudge = _NUDGE * max(start, 1.0)
        slopes = []
        for reach in reaches:
            nudged = mixed + reach.unit.scaled(nudge)
            slopes.append([(figure_of(target.property, nudged) - figure) / nudge for target, figure in zip(reaches, now, strict=True)])
        step = solve_linear([[slopes[column][row] for column in range(len(reaches))] for row in range(len(reaches))], off)
        if step is None:
            return None
        grams = [mass + change for mass, change in zip(grams, step, strict=True)]
    return None


def bring_to(contents: Contents, reaches: Sequence[Reach]) -> list[float]:
    """Grams of each addition, none below zero, that bring `contents` to all targets. Refuses what adding cannot reach, and says why."""
    if contents.liquid.mass_g <= 0:
        raise Refusal(
            message("There is nothing in the vessel to bring to a target"), remedy=message("Put the liquid in first"), code="empty"
        )
    grams = amounts_to_reach(contents, reaches)
    slack = 1e-9 * contents.mass_g
    if grams is not None and all(mass >= -slack for mass in grams):
        return [max(0.0, mass) for mass in grams]
    worst = reaches[0] if grams is None else min(zip(grams, reaches, strict=True), key=lambda pair: pair[0])[1]
    now = figure_of(worst.property, contents)
    more = figure_of(worst.property, contents + worst.unit.scaled(0.01 * contents.mass_g))
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


def bring_to_read_hot(liquor: Contents, reaches: list[Reach], found: list[float], t_c: float) -> list[float]:
    """Masses [g] of the additions in `reaches` when volume targets are read at `t_c` [°C] instead of 20 °C; `found` are those at 20 °C. Three rounds, error below 0.01 mL.

    Raises Refusal as `bring_to` does. Source: `volume_from_reading_ml`.
    """
    for _ in range(3):
        filled = liquor
        for reach, mass_g in zip(reaches, found, strict=True):
            filled = filled + reach.unit.scaled(mass_g)
        at_20 = [replace(r, value=volume_from_reading_ml(r.value, t_c, filled)) if r.property == "volume_ml" else r for r in reaches]
        found = bring_to(liquor, at_20)
    return found


PACKED_VOID = Range(0.42, 0.32, 0.52)
"""Share of a jar of loose pieces that is gaps between them; house experience, not a standard."""
_COVER_OVER = 1.03
"""Covered means a finger's breadth above: three percent more than the bed."""


def to_cover_ml(pieces_ml: float, void: float, there_ml: float) -> float:
    """Liquid [mL] to add so that pieces of `pieces_ml` [mL] of their own, with `void` [0 to 1] of the bed as gaps, stand covered.

    Bed = pieces/(1 − void); liquid = 1.03 × bed − pieces − what is there. 500 mL of pieces at 0.42 take 388 mL. Error: the gaps, 15 %.
    Source: volume balance, house experience. Refuses when nothing needs covering.
    """
    if pieces_ml <= 0:
        raise Refusal(message("There is nothing to cover"), remedy=message("Put the fruit, peel or spice in first"), code="no_pieces")
    needed = _COVER_OVER * pieces_ml / (1.0 - void) - pieces_ml - there_ml
    if needed <= 0:
        raise Refusal(
            message("It stands covered already"),
            bound=message("{there} mL are in the vessel", there=Computed(there_ml, decimals=0)),
            remedy=message("Leave this line out"),
            code="unreachable",
        )
    return needed


@dataclass(frozen=True, slots=True)
class Combine(Step):
    """Put the lines in and mix, without heat."""

    verb: ClassVar[str] = "combine"
    title: ClassVar[Message] = template("Stir in {names}")
    title_alone: ClassVar[Message] = message("Stir")
    family: ClassVar[str] = "combine"
    takes_lines: ClassVar[bool] = True

    def sentence(self, *, first: bool) -> Message:
        """As for any verb; otherwise for what is brought to a target, and for the first step, which pours."""
        if self.lines and all(isinstance(line.amount, Target) for line in self.lines):
            return template("Bring {goal} with {names}")
        return template("Pour {names}") if self.lines and first else super(Combine, self).sentence(first=first)


@dataclass(frozen=True, slots=True)
class DryMix(Step):
    """Mix powders into the sugar first, so that they don't clump."""

    verb: ClassVar[str] = "dry_mix"
    title: ClassVar[Message] = template("Mix {names} dry")
    title_alone: ClassVar[Message] = message("Mix dry")
    family: ClassVar[str] = "combine"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 3.0
    usual_check: ClassVar[str] = "one colour, no streaks"

    def remarks(self, before: Matter, after: Outcome) -> Iterator[Remark]:
        del after
        if before.liquor.of("water") > 0.2 * before.liquor.mass_g:
            yield self.remark(
                "wet_dry_mix",
                "check",
                message("There is liquid in the dry mix: powders clump."),
                message("Mix the dry things in a dry bowl first"),
            )


@dataclass(frozen=True, slots=True)
class OffHeat(Step):
    """Add off the heat: delicate juice, zest, tincture, once the pot has come down to `below_c`."""

    verb: ClassVar[str] = "off_heat"
    title: ClassVar[Message] = template("Add {names} off the heat, below {below_c}")
    title_alone: ClassVar[Message] = template("Add off the heat, below {below_c}")
    family: ClassVar[str] = "combine"
    takes_lines: ClassVar[bool] = True
    below_c: float = celsius(60.0, 20.0, 95.0)
    minutes: float = minutes(0.0)

    def remarks(self, before: Matter, after: Outcome) -> Iterator[Remark]:
        del after
        if before.temperature_c > self.below_c + 0.5:
            yield self.remark(
                "too_hot_to_add",
                "check",
                message(
                    "It stands at {temperature} °C; this goes in below {below} °C.",
                    temperature=Computed(before.temperature_c, decimals=0),
                    below=Given(self.below_c),
                ),
                message("Let it cool first"),
            )


@dataclass(frozen=True, slots=True)
class MakeUp(Step):
    """Make up to the line: not so much added, but as much as the line asks, at 20 °C, after everything has dissolved."""

    verb: ClassVar[str] = "make_up"
    title: ClassVar[Message] = template("Make up to the line with {names}")
    title_alone: ClassVar[Message] = message("Make up to the line")
    family: ClassVar[str] = "combine"
    takes_lines: ClassVar[bool] = True
    usual_gear: ClassVar[tuple[str, ...]] = ("volumetric jug",)
    usual_check: ClassVar[str] = "lower edge of the curve on the line, at eye height"
    read_at_c: float = number(20.0, 4.0, 60.0, "°C", message("from 4 to 60 °C"))

    def remarks(self, before: Matter, after: Outcome) -> Iterator[Remark]:
        del after
        if before.temperature_c > 25.0 and self.read_at_c == 20.0:
            yield self.remark(
                "line_read_hot",
                "check",
                message(
                    "It stands at {temperature} °C, and the line holds at 20 °C: made up hot it comes out short.",
                    temperature=Computed(before.temperature_c, decimals=0),
                ),
                message("Let it come to 20 °C before the last of the water"),
            )


@dataclass(frozen=True, slots=True)
class Emulsify(Step):
    """Beat oil into gum and water, gum first wetted: a concentrate that stays cloudy for weeks."""

    verb: ClassVar[str] = "emulsify"
    title: ClassVar[Message] = template("Beat {names} into an emulsion")
    title_alone: ClassVar[Message] = message("Beat into an emulsion")
    family: ClassVar[str] = "combine"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 15.0
    usual_gear: ClassVar[tuple[str, ...]] = ("stick blender",)
    usual_check: ClassVar[str] = "a drop in water clouds evenly, no ring of oil"
    gum_per_oil_least: float = number(1.0, 0.0, 5.0, "g gum per g oil", message("from 0 to 5"))

    def remarks(self, before: Matter, after: Outcome) -> Iterator[Remark]:
        del before
        oil, gum = after.matter.liquor.of("oil"), after.matter.liquor.of("gum")
        if oil <= 0:
            yield self.remark("no_oil", "check", message("There is no oil to emulsify."), message("Put the oil in"))
            return
        if gum < self.gum_per_oil_least * oil:
            yield self.remark(
                "thin_emulsion",
                "check",
                message("{gum} of gum hold {oil} of oil: gum arabic wants one to two times the oil.", gum=grams(gum), oil=grams(oil)),
                message("Add {mass} more gum", mass=grams(self.gum_per_oil_least * oil - gum)),
            )
        load = 1e6 * oil / volume_ml(after.matter.liquor)
        yield self.remark(
            "oil_load",
            "note",
            message(
                "The concentrate holds {load} of oil: dosed one to a thousand a drink gets {dose}.",
                load=Computed(load / 1000.0, "g/L", 1),
                dose=Computed(load / 1000.0, "mg/L", 0),
            ),
            message("Food-grade oil, by weight, never neat on skin"),
        )


def pieces_volume_ml(matter: Matter) -> float:
    """Volume [mL] that pieces take up themselves: Σ grams × specific volume, gaps not counted. 1000 g of fruit is about 960 mL. Source: `substances`."""
    contents = [piece.contents for piece in matter.pieces]
    return sum(volume_ml(one) + one.of("insolubles") * SUBSTANCES["insolubles"].volume_ml_g for one in contents)
