"""Extraction: macerate, steep, infuse, press; exchange between the inside of pieces and the liquid around them."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.figures import quantity
from ..base.messages import Message, grams, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..chemistry.substances import SUGARS
from ..materials.softening import RIND, fallen_apart, minutes_at_simmer
from ..materials.vessel_state import SHELF_C, Outcome, OutgoingStream, Piece, StepContext, VesselState, outgoing_stream, summed, total
from ..properties.alcohol import abv
from ..properties.density import volume_ml
from ..properties.sugar import undissolved_sucrose_g
from .pieces import inside
from .steam import HOTTEST_C, USUAL_POT_CM, Heating, steam_g, steamed
from .step import Step, amount_in, celsius, choice, minutes, number, optional_range, prior, share_in
from .strain import DEFAULT_HOLD_G_G, held_g, undissolved_at

EXCHANGE_H = Range(24.0, 12.0, 48.0)
"""Hours at 20 °C in which a whole fruit has exchanged 63 % of its inside with the liquid around it; house experience, not a standard."""
DRAWN_G_G = Range(0.30, 0.20, 0.40)
"""Grams that sugar draws from a gram of peel in the end; soft skins 0.4 to 0.7. House experience, not a standard."""
DRAW_H = Range(6.0, 3.0, 12.0)
"""Hours at 20 °C until 63 % of that is drawn; house experience, not a standard."""
_SIMMERS_FROM_C = 90.0
"""What is steeped at this temperature or more loses steam as a pot on the stove does."""
DOUBLES_PER_K = 10.0
"""An extraction's rate doubles per 10 K or so."""


_MOST_DRAWN, _MOST_HELD = 0.95, 0.95
"""Shares of a piece's inside that sugar draws at most, and of a liquid that pressed solids retain at most. House experience."""
_SLOWEST_PER_H, LEAST_EXCHANGE_H = 0.005, 0.1
"""Slowest rate of a draw [1/h], and shortest exchange [h], that a pass may reach: past them its formula has no finite answer. House judgement."""
_MOST_CUT = 2.0
"""Sugar draws no faster from crushed skins than from cut ones: both lie open. House judgement."""
_DRY_SUGAR_G, _WEAKER_ABV = 0.5, 0.5
"""Undissolved sugar [g] and loss of strength [% vol] from which they are mentioned. House judgement."""
_FLAMMABLE_ABV = 45.0
"""Strength [% vol] above which the vapours of a spirit ignite in a warm room: 40 % vol flashes at 26 °C. Handbook."""
_FULL_AFTER_TAU = 3.0
"""Duration of a full infusion, as a multiple of its time constant: 95 % of its plateau is reached. Source: definition."""


def extent(minutes_: float, hours_at_20: float, t_c: float, cut: float = 1.0) -> float:
    """Returns the share [0 to 1] of an exchange that is done after `minutes_` [min] at `t_c` [°C]: 1 − exp(−t/τ), τ halved per 10 K and by the cut.

    Range 0 to 100 °C; error a factor of two in τ. 0.63 after 24 h at 20 °C for whole fruit. Source: first-order approach, house experience.
    """
    # Diffusion is faster in the warm and over shorter paths: both divide the time constant.
    tau = hours_at_20 * 60.0 * 2.0 ** (-(t_c - 20.0) / DOUBLES_PER_K) / cut
    return 1.0 - math.exp(-minutes_ / tau)


def pace_of(hours: Range) -> Range:
    """Returns the rate [1/h] of a first-order step with so many `hours` to 63 %: the reciprocal, so that its high end gives more, as that of a plateau does.
    Source: definition.
    """
    # The slowest time is the lowest rate: the ends change places.
    return Range(1.0 / hours.value, 1.0 / hours.high, 1.0 / hours.low)


def exchange(liquid: Contents, piece: Piece, share: float) -> tuple[Contents, Piece]:
    """Returns (liquid, piece) after `share` [0 to 1] of a full exchange: at 1 the liquid in the piece equals the liquid around it, its mass unchanged.

    Fruit in spirit gives water and takes ethanol until both are equal. The mass of every substance is conserved. Source: mass balance.
    """
    within, outside = inside(piece.contents), liquid.solution
    both = within.mass_g + outside.mass_g
    if within.mass_g <= 0 or outside.mass_g <= 0:
        return liquid, piece
    mixed = (within + outside).grams
    to_within = within.mass_g / both
    # Equal composition is the end of diffusion; masses inside and outside stay what they were.
    kept = {key: (1.0 - share) * within.of(key) + share * grams * to_within for key, grams in mixed.items()}
    around = {key: grams - kept[key] for key, grams in mixed.items()}
    solid = {key: grams for key, grams in piece.contents.grams.items() if key not in within.grams}
    # Pulp does not diffuse into a piece.
    floating = {key: grams for key, grams in liquid.grams.items() if key not in outside.grams}
    return Contents({**around, **floating}), piece.becoming(Contents({**kept, **solid}))


def exchanged(state: VesselState, minutes_: float, t_c: float, hours: float) -> VesselState:
    """Returns the vessel after all its pieces have exchanged with its liquid for `minutes_` [min] at `t_c` [°C]. Source: `exchange`, `extent`."""
    # One after another, each with the liquid that the one before left: the order changes the third digit.
    liquid, left = state.liquid, []
    for piece in state.pieces:
        liquid, changed = exchange(liquid, piece, extent(minutes_, hours, t_c, piece.cut))
        left.append(changed)
    return replace(state, liquid=liquid, pieces=tuple(left))


def softened(state: VesselState, context: StepContext, simmered_min: float) -> VesselState:
    """Returns the vessel after `simmered_min` [min at 95 °C] of heat: what has disintegrated joins the liquid, its plant matter as pulp; rind, stones and cores
    stay pieces.

    800 g of gooseberries leave about 80 g of pieces after 18 min. Mass is conserved. Error: the range of the kind. Source: `softening`, mass balance.
    """
    if not state.pieces or simmered_min <= 0:
        return state
    liquid, left = state.liquid, list[Piece]()
    pulp: dict[str, float] = {}
    for piece in state.pieces:
        kind = context.facts(piece.material).softening
        # Rind, stones and cores keep their shape in any simmer.
        soft = [name for name in piece.parts if name not in RIND]
        share = 0.0
        if kind is not None and soft and piece.contents.mass_g > 0:
            pace, most = amount_in(context, kind.pace), share_in(context, kind.most)
            share = fallen_apart(simmered_min, pace, most, piece.cut)
        if share <= 0:
            left.append(piece)
            continue
        removed = total(piece.parts[name].scaled(share) for name in soft)
        liquid = liquid + removed
        # The mass as it went in is shared like the contents, since what a sieve holds is counted by it.
        grams = piece.grams_in * removed.mass_g / piece.contents.mass_g
        pulp[piece.material] = pulp.get(piece.material, 0.0) + grams
        parts = {name: part.scaled(1.0 - share) if name in soft else part for name, part in piece.parts.items()}
        left.append(replace(piece, parts=parts, grams_in=piece.grams_in - grams))
    return replace(state, liquid=liquid, pieces=tuple(left), solids_g=summed(state.solids_g, pulp), pulp_g=summed(state.pulp_g, pulp))


def drawn(piece: Piece, grams: float) -> tuple[Contents, Piece]:
    """Returns (what sugar has drawn, the piece left) when `grams` [g] of its inside leave; at most 95 % of it. Source: mass balance."""
    within = inside(piece.contents)
    # Sugar draws water until both have the same activity, so some always stays.
    share = min(_MOST_DRAWN, grams / within.mass_g) if within.mass_g > 0 else 0.0
    out = within.scaled(share)
    left = Contents({key: mass - out.of(key) for key, mass in piece.contents.grams.items()})
    return out, piece.becoming(left)


def drawn_by_sugar(
    state: VesselState,
    context: StepContext,
    minutes: float,
    temperature_c: float,
    drawn_g_g: Range | None = None,
    hours: Range | None = None,
) -> VesselState:
    """Returns the vessel after sugar has drawn liquid from its pieces for `minutes`.

    `drawn_g_g` [g/g] is the most that is drawn from a gram of plant matter and `hours` the time to 63 % of it, both by material where not given. Source: `Macerate`.
    """
    liquid, left = state.liquid, []
    for piece in state.pieces:
        facts = context.facts(piece.material)
        # The nearest figure counts: the step's own, the material's, that of its kind of fruit, that of peel.
        kind = facts.softening
        plateau = context.value_of(drawn_g_g or facts.drawn_g_g or (kind.drawn_g_g if kind else DRAWN_G_G))
        pace = context.value_of(pace_of(hours or facts.draw_hours or (kind.draw_hours if kind else DRAW_H)))
        out, changed = drawn(
            piece,
            piece.grams_in * max(0.0, plateau) * extent(minutes, 1.0 / max(_SLOWEST_PER_H, pace), temperature_c, min(_MOST_CUT, piece.cut)),
        )
        liquid = liquid + out
        left.append(changed)
    return replace(state, liquid=liquid, pieces=tuple(left))


@dataclass(frozen=True, slots=True)
class Macerate(Step):
    """Skins or fruit packed in sugar until the sugar is wet with what it has drawn."""

    verb: ClassVar[str] = "macerate"
    title: ClassVar[Message] = template("Leave {names} in sugar {minutes}")
    title_alone: ClassVar[Message] = template("Leave in sugar {minutes}")
    family: ClassVar[str] = "extract"
    scaled_up: ClassVar[Message] = message("fruit and sugar lie deeper: turn them, and give them longer.")
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 8.0
    usual_check: ClassVar[str] = "sugar wet through, no dry corner"
    minutes: float = minutes(1080.0)
    temperature_c: float = celsius(20.0, 0.0, 60.0)
    drawn_g_g: Range | None = optional_range("g per g of skin", 1.0)
    hours: Range | None = optional_range("h to 63 %", 200.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Drawn = mass of skin × plateau × (1 − exp(−t/τ)), faster when warm and cut; undissolved sugar stays and is reported.

        Error: the ranges of plateau and time, 40 %. 100 g of peel after 18 h at 20 °C: 28.5 g; of strawberries 55 g. Of zest and leaves, whose water counts as
        liquid from the start, nothing more is drawn. Raises Refusal for a vessel without plant matter, and for one without sugar. Source: house experience, mass balance.
        """
        if not state.pieces and not state.solids_g:
            raise Refusal(
                message("There are no skins or fruit for the sugar to draw from"),
                remedy=message("Put them in, as pieces"),
                code="no_pieces",
            )
        if state.liquid.total(SUGARS) <= 0:
            raise Refusal(message("Without sugar nothing is drawn"), remedy=message("Put sugar on the skins"), code="no_sugar")
        changed = drawn_by_sugar(state, context, self.minutes, self.temperature_c, self.drawn_g_g, self.hours)
        return Outcome(replace(changed, temperature_c=self.temperature_c))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del before
        dry = undissolved_sucrose_g(after.state.liquid, self.temperature_c)
        if dry > _DRY_SUGAR_G:
            yield self.remark(
                "sugar_stays_dry",
                "note",
                message("{dry} of the sugar are still undissolved.", dry=grams(dry)),
                message("Add the juice or a little warm water and stir; rinse the skins with it"),
            )


@dataclass(frozen=True, slots=True)
class Steep(Step):
    """The lines go in and stay for `minutes` at `temperature_c`; what dissolves joins the liquid."""

    verb: ClassVar[str] = "steep"
    title: ClassVar[Message] = template("Steep {names} {minutes} at {temperature_c}")
    title_alone: ClassVar[Message] = template("Leave for {minutes}")
    family: ClassVar[str] = "extract"
    scaled_up: ClassVar[Message] = message(
        "leaves and whole spices give more in a vessel that keeps its heat: taste earlier than the time says."
    )
    takes_lines: ClassVar[bool] = True
    usual_check: ClassVar[str] = "taste, stop when it is there"
    tried: ClassVar[tuple[str, ...]] = ("minutes",)
    minutes: float = minutes(20.0)
    temperature_c: float = celsius(20.0, -5.0, 100.0)
    exchange_h: Range = prior(24.0, 12.0, 48.0, "h to 63 % at 20 °C", 2000.0)
    strength_min: float = number(None, 0.1, 1e6, "min", message("the house's own minutes to full strength"))
    lid: str = choice("on", "half", "off")
    pot_cm: float = number(USUAL_POT_CM, 5.0, 100.0, "cm", message("from 5 to 100 cm across"))

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Pieces exchange their inside with the liquid, first order, faster when warm; ground and leafy matter has joined it already.

        From 90 °C on it counts as a simmer: fruit disintegrates and steam leaves. Error: a factor of two in the time. Source: `exchange`, `extent`, `softened`,
        `steam_g`.
        """
        changed = state
        if state.pieces:
            # Softening is judged after the exchange: pieces that fall apart have given their juice by then.
            changed = exchanged(state, self.minutes, self.temperature_c, max(LEAST_EXCHANGE_H, context.value_of(self.exchange_h)))
            changed = softened(changed, context, minutes_at_simmer(self.minutes, self.temperature_c))
        changed = replace(changed, temperature_c=self.temperature_c, hottest_c=max(state.hottest_c, self.temperature_c))
        # Below a simmer the pot is covered or cool, and its loss lies within the error.
        if self.temperature_c < _SIMMERS_FROM_C or not changed.liquid.of("water"):
            return Outcome(changed)
        water = amount_in(context, steam_g(self.minutes, min(self.temperature_c, HOTTEST_C), self.pot_cm, self.lid))
        liquid, removed = steamed(changed.liquid, context, Heating(self.temperature_c, self.minutes, water, self.lid))
        return Outcome(replace(changed, liquid=liquid), (outgoing_stream("steam", "steam", removed),))

    @property
    def strength(self) -> float | None:
        """Returns the strength relative to the house's full strength: 1 is as it was tasted then, 1.25 too strong by a quarter; None before it was tasted."""
        if not self.strength_min:
            return None
        # Full strength is as good as the plateau: three time constants reach 95 % of it.
        tau = self.strength_min / _FULL_AFTER_TAU
        return (1.0 - math.exp(-self.minutes / tau)) / (1.0 - math.exp(-_FULL_AFTER_TAU))


@dataclass(frozen=True, slots=True)
class Infuse(Steep):
    """Fruit, peel or spice in spirit: fruit gives its water to the spirit, solids retain some spirit."""

    verb: ClassVar[str] = "infuse"
    title: ClassVar[Message] = template("Infuse {names} {minutes}")
    title_alone: ClassVar[Message] = template("Infuse {minutes}")
    scaled_up: ClassVar[Message] = message("herbs pack in a fuller vessel: stir, and taste earlier.")
    minutes: float = minutes(2880.0)
    temperature_c: float = celsius(20.0, -5.0, 60.0)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        def strength(contents: Contents) -> float:
            volume = volume_ml(contents)
            return abv(contents.of("ethanol"), volume) if volume > 0 else 0.0

        first, last = strength(before.liquid), strength(after.state.liquid)
        if first <= 0:
            yield self.remark(
                "no_spirit",
                "check",
                message("There is no spirit in the vessel to infuse in."),
                message("Pour the spirit first, or steep instead"),
            )
        # Less than that no hydrometer shows.
        elif first - last > _WEAKER_ABV:
            yield self.remark(
                "weaker_spirit",
                "note",
                message("Fruit takes the spirit from {before} to {after}.", before=quantity("abv", first), after=quantity("abv", last)),
                message("Start stronger, or dry the fruit"),
            )
        if first > _FLAMMABLE_ABV:
            yield self.remark(
                "flammable",
                "check",
                message("Spirit of {abv} burns and so do its vapours.", abv=quantity("abv", first)),
                message("No flame, no hot plate, lid on"),
            )


@dataclass(frozen=True, slots=True)
class VacuumInfuse(Infuse):
    """A vacuum, released: liquid is pushed into the pieces at once, each cycle equivalent to hours of waiting."""

    verb: ClassVar[str] = "vacuum_infuse"
    title: ClassVar[Message] = template("Infuse {names} under vacuum")
    title_alone: ClassVar[Message] = message("Infuse under vacuum")
    usual_gear: ClassVar[tuple[str, ...]] = ("vacuum chamber",)
    minutes: float = minutes(10.0)
    cycles: float = number(3.0, 1.0, 30.0, "cycles", message("from 1 to 30 cycles"))
    cycle_worth_h: Range = prior(6.0, 2.0, 12.0, "h each", 100.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Each cycle counts as `cycle_worth_h` [h] of exchange at 20 °C. Error: a factor of three. Source: house experience, mass balance."""
        exchange_min = amount_in(context, self.cycle_worth_h) * self.cycles * 60.0
        # The equivalent is stated at 20 °C, whatever the chamber's own temperature.
        changed = exchanged(state, exchange_min, SHELF_C, max(LEAST_EXCHANGE_H, context.value_of(self.exchange_h)))
        return Outcome(replace(changed, temperature_c=self.temperature_c))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del before, after
        yield self.remark(
            "vacuum_glass",
            "check",
            message("Glass under vacuum can burst inwards; warm liquid boils over."),
            message("Use a vessel made for it, cold and half full, behind a guard"),
        )


@dataclass(frozen=True, slots=True)
class Press(Step):
    """The solids are pressed: liquid that they hold comes back, cake leaves, the liquid turns cloudier."""

    verb: ClassVar[str] = "press"
    title: ClassVar[Message] = template("Press {names}")
    title_alone: ClassVar[Message] = message("Press")
    family: ClassVar[str] = "extract"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 8.0
    gives: Range = prior(0.5, 0.3, 0.7, "of what they hold", 1.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """`gives` of the pieces' inside runs out, and the same share of the liquid that plant matter would retain.

        Error: the range of the share. Source: house experience, mass balance.
        """
        share = share_in(context, self.gives)
        return _pressed(self, state, context, share)


def _pressed(step: Step, state: VesselState, context: StepContext, share: float) -> Outcome:
    liquid, cake = state.liquid, []
    for piece in state.pieces:
        # Only what dissolves or mixes can be pressed out; fibre stays in the cake.
        within = inside(piece.contents)
        out = within.scaled(share)
        liquid = liquid + out
        cake.append(piece.becoming(Contents({key: mass - out.of(key) for key, mass in piece.contents.grams.items()})))
    # What is pressed out of the plant matter is what it no longer retains.
    held = held_g(state.solids_g, holds(state.solids_g, context)) * (1.0 - share)
    # Undissolved sugar is a solid and stays in the press with the cake.
    dry = undissolved_at(liquid, state.temperature_c)
    solution = liquid.solution.taking("sucrose", dry) if dry else liquid.solution
    # No more can be held back than there is, and a little always runs.
    held = min(held, _MOST_HELD * solution.mass_g)
    stays = (solution.scaled(held / solution.mass_g) if held else Contents()) + Contents(
        {"insolubles": liquid.of("insolubles"), "sucrose": dry}
    )
    through = solution.scaled(1.0 - held / solution.mass_g) if solution.mass_g else solution
    removed = VesselState(stays, dict(state.solids_g), tuple(cake), state.temperature_c, state.clock_min)
    if removed.mass_g <= 0 or not (state.pieces or liquid.of("insolubles")):
        raise Refusal(
            message("There is nothing in the vessel to press"), remedy=message("Press before the solids are strained out"), code="no_pieces"
        )
    return Outcome(
        VesselState(through, {}, (), state.temperature_c, state.clock_min, state.open_since_min, state.hottest_c),
        (OutgoingStream(step.by_product or "pressed cake", "pressed", removed, bool(step.by_product)),),
    )


def holds(solids: Mapping[str, float], context: StepContext) -> dict[str, float]:
    """Returns the liquid retained per gram [g/g] by each plant matter in this pass: the material's own, else the house's."""
    return {key: amount_in(context, context.facts(key).hold_g_g or DEFAULT_HOLD_G_G) for key in solids}
