"""Clarification by enzyme, egg raft, agar, gelatin, milk or settling: what each removes, its loss, and when it does not work."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.figures import quantity
from ..base.messages import Computed, Given, Message, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.vessel_state import Outcome, OutgoingStream, StepContext, VesselState
from ..properties.acidity import acid_g_100ml
from ..properties.alcohol import abv
from ..properties.density import volume_ml
from ..properties.ph import ph_or_neutral
from .step import Step, celsius, minutes, number, prior, share_in

CLEARED = ("insolubles", "pectin", "protein", "fat")
"""What a fining takes with it, besides liquid."""
_ENZYME_MIN = 50.0
"""Minutes at 45 °C, pH 3.5 and a usual dose in which 63 % of the pectin is cut; makers' sheets, ± a factor of two."""
CLEARS_AT = 0.5
"""Share of the pectin that must be cut before the haze flocks and sinks: half is enough for a clear juice, house experience and makers' sheets (0.35 to 0.7)."""


_ENZYME_C, _FASTEST_C, _KILLED_C = 45.0, 50.0, 60.0
"""Temperature [°C] of the rate above, of the fastest cut, and from which nothing is cut. Makers' sheets."""
_RATE_DOUBLES_K = 10.0
"""Temperature difference [K] that doubles the rate. Makers' sheets."""
_FULL_RATE_PH, _RATE_HALVES_PH = 3.0, 0.5
"""pH below which the rate falls, and the fall of pH that halves it. Makers' sheets."""
_KEEP_BELOW_C, _NEARLY_CUT = 55.0, 0.02
"""Temperature [°C] above which the enzyme is warned of, and the share of the pectin by which a cut may fall short unmentioned. House experience."""
_ENZYME_MOST_ABV, _AGAR_MOST_ABV = 12.0, 20.0
"""Strengths [% vol] above which pectinase stops and agar sets poorly. House experience."""
_DOSE_SPAN = (0.2, 3.0)
"""Multiples of the usual dose within which the rate follows the dose: past it the enzyme is saturated. House judgement."""
_PROTEIN_SHARE = 0.1
"""Share of the powder of a commercial enzyme that is protein. Makers' sheets."""
_COOKED_C, _RAFT_PERCENT = 74.0, 0.1
"""Temperature [°C] at which egg white is cooked by food codes, and egg white [% of the liquid, dry] that a raft needs. House experience for the latter."""
_AGAR_LEAST_PH = 2.5
"""pH below which agar is hydrolysed while it is boiled. House experience."""
_CURDLES_PH, _CURDLES_G_100ML = 4.6, 0.3
"""Isoelectric point of casein, and the titratable acid [g/100 mL] that brings the milk to it. Handbook; house experience."""
_HOLDS_HAZE_PERCENT = 0.2
"""Pectin [% by weight] above which a juice stays cloudy for weeks. House experience."""
_MOST_LOSS = 0.9
"""Largest share of the liquid [g/g] that lees can retain; the rest runs off, however thick they are. House judgement."""


def fined(liquid: Contents, takes: float, loss: float, *, keeps: tuple[str, ...] = ()) -> tuple[Contents, Contents]:
    """Returns (clear liquid, lees): `takes` [0 to 1] of pulp, pectin, protein and fat and `loss` [0 to 1] of the liquid stay in the lees.

    1000 g of cloudy juice with 10 g pulp at 0.95 and 8 % loss leaves 911 g. Error: the loss, 5 to 25 % of the batch. Source: mass balance.
    """
    lees: dict[str, float] = {}
    for key, grams in liquid.grams.items():
        # Pulp leaves at its own share, but never less than the liquid that stays with it.
        lees[key] = grams * (max(takes, loss) if key in CLEARED and key not in keeps else loss)
    # A substance of which nothing is left is omitted: figures count what is listed.
    clear = Contents({key: grams - lees[key] for key, grams in liquid.grams.items() if grams - lees[key] > 0.0})
    return clear, Contents(lees)


def enzyme_done(minutes_: float, t_c: float, ph_: float, dose_share: float) -> float:
    """Returns the share [0 to 1] of the pectin cut after `minutes_` [min] at `t_c` [0 to 60 °C], at `ph_` and `dose_share` of the usual dose [1 = usual].

    First order; the rate doubles per 10 K to 50 °C, falls to zero at 60 °C, and halves for each half unit of pH below 3. 0.63 after 50 min at 45 °C and pH 3.5.
    Error a factor of two. Raises Refusal outside these bounds. Source: makers' sheets, house experience.
    """
    for value, low, high, what in (
        (minutes_, 0.0, 1e7, "min"),
        (ph_, -1.0, 14.0, "pH"),
        (dose_share, 0.0, 1e3, message("times the usual dose")),
    ):
        if not low <= value <= high:
            raise Refusal(
                message("{value} {what} is no time, pH or dose of an enzyme", value=Given(value), what=what),
                bound=message("from {low} to {high} {what}", low=Given(low), high=Given(high), what=what),
                code="out_of_bounds",
            )
    # Rates double per 10 K until heat unfolds the enzyme itself.
    warmth = math.pow(2.0, (min(t_c, _FASTEST_C) - _ENZYME_C) / _RATE_DOUBLES_K)
    warmth *= max(0.0, min(1.0, (_KILLED_C - t_c) / (_KILLED_C - _FASTEST_C)))
    # Commercial pectinases are made for pH 3 to 5; lime juice lies below that.
    acid = math.pow(0.5, max(0.0, _FULL_RATE_PH - ph_) / _RATE_HALVES_PH)
    # Independent effects on one rate: their factors multiply.
    rate = warmth * acid * dose_share / _ENZYME_MIN
    return 1.0 - math.exp(-rate * minutes_)


def enzyme_minutes(t_c: float, ph_: float, dose_share: float, cut: float = CLEARS_AT, where: str = "temperature") -> Range:
    """Returns the time [min] in which `cut` [0 to 1] of the pectin is cut at `t_c` [°C], `ph_` and `dose_share` of the usual dose: the inverse of
    `enzyme_done`.

    35 min for the half that clears a juice at 45 °C, pH 3.5 and the usual dose, 10 h at 4 °C; half to twice that, settling not included. Raises Refusal for
    temperatures that inactivate the enzyme. Source: as `enzyme_done`.
    """
    # The rate from one minute of the forward formula, so that both cannot drift apart.
    pace = -math.log(1.0 - enzyme_done(1.0, t_c, ph_, dose_share))
    if pace <= 0.0:
        raise Refusal(
            message("{t} °C kills the enzyme", t=Given(t_c)),
            where,
            message("it works from 0 to below 60 °C"),
            message("Keep it at 40 to 50 °C"),
            "unreachable",
        )
    needed = -math.log(1.0 - cut) / pace
    # Dose, haze and stirring differ: twice as fast and half as fast are both usual.
    return Range(needed, needed / 2.0, needed * 2.0)


def _strength(liquid: Contents) -> float:
    volume = volume_ml(liquid)
    return abv(liquid.of("ethanol"), volume) if volume > 0 else 0.0


def _no_pieces(state: VesselState) -> None:
    if state.pieces:
        raise Refusal(message("Pieces don't clarify"), remedy=message("Strain them out first"), code="pieces_in_filter")
    if state.liquid.mass_g <= 0:
        raise Refusal(message("There is nothing in the vessel to clarify"), remedy=message("Put the juice in first"), code="empty")


@dataclass(frozen=True, slots=True)
class _Fining(Step):
    """Base of the clarifications that leave lees behind."""

    family: ClassVar[str] = "clarify"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 10.0
    usual_check: ClassVar[str] = "clear against the light"
    lees_called: ClassVar[str] = "lees"
    takes: Range = prior(0.95, 0.85, 0.99, "of the haze", 1.0)
    loss: Range = prior(0.10, 0.05, 0.18, "of the liquid", 0.9)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """`takes` of pulp, pectin, protein and fat and `loss` of the liquid stay behind as lees. Source: house experience, mass balance."""
        _no_pieces(state)
        clear, lees = fined(state.liquid, share_in(context, self.takes), share_in(context, self.loss, _MOST_LOSS))
        # Settling has no temperature of its own in some verbs: the vessel keeps what it had.
        temperature = getattr(self, "temperature_c", state.temperature_c)
        removed = OutgoingStream(
            self.by_product or self.lees_called,
            "lees",
            VesselState(lees, dict(state.solids_g), (), temperature, state.clock_min),
            bool(self.by_product),
        )
        return Outcome(
            replace(state, liquid=clear, solids_g={}, temperature_c=temperature, hottest_c=max(state.hottest_c, temperature)), (removed,)
        )


@dataclass(frozen=True, slots=True)
class Enzyme(_Fining):
    """Pectin enzyme, stirred in and left: pectin is cut, pulp sinks, clear juice is drawn off."""

    verb: ClassVar[str] = "enzyme"
    title: ClassVar[Message] = template("Leave with the enzyme {minutes} at {temperature_c}")
    usual_gear: ClassVar[tuple[str, ...]] = ("fine scale", "tall jar")
    minutes: float = minutes(90.0)
    temperature_c: float = celsius(45.0, 0.0, 60.0)
    usual_dose_percent: float = number(0.15, 0.01, 1.0, "% of the juice", message("from 0.01 to 1 % of the juice, by the maker's sheet"))
    loss: Range = prior(0.08, 0.04, 0.15, "of the liquid", 0.9)

    def _done(self, state: VesselState) -> float:
        # The enzyme is a line of its own; its dose is found as the dissolved protein that it brings.
        dose = (
            100.0 * state.liquid.of("protein") / state.liquid.mass_g / (_PROTEIN_SHARE * self.usual_dose_percent)
            if state.liquid.of("protein")
            else 1.0
        )
        return enzyme_done(self.minutes, self.temperature_c, ph_or_neutral(state.liquid), min(_DOSE_SPAN[1], max(_DOSE_SPAN[0], dose)))

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """The cut pectin becomes dissolved solids; pulp sinks once half of it is cut, in part before; the lees hold the loss. Source: `enzyme_done`, mass
        balance.
        """
        _no_pieces(state)
        done = self._done(state)
        grams = dict(state.liquid.grams)
        cut = grams.get("pectin", 0.0) * done
        # Fragments of pectin stay dissolved and count to the °Bx.
        if cut:
            grams["pectin"] -= cut
            grams["other_solubles"] = grams.get("other_solubles", 0.0) + cut
        clear, lees = fined(
            Contents(grams),
            # Half-cut pectin still carries part of the haze.
            min(1.0, done / CLEARS_AT) * share_in(context, self.takes),
            share_in(context, self.loss, _MOST_LOSS),
            # What was cut is dissolved, and the enzyme itself does not sink: both stay with the clear liquid.
            keeps=("pectin", "protein"),
        )
        removed = OutgoingStream(
            self.by_product or "lees",
            "lees",
            VesselState(lees, dict(state.solids_g), (), self.temperature_c, state.clock_min),
            bool(self.by_product),
        )
        return Outcome(
            replace(state, liquid=clear, solids_g={}, temperature_c=self.temperature_c, hottest_c=max(state.hottest_c, self.temperature_c)),
            (removed,),
        )

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        done, strength = self._done(before), _strength(before.liquid)
        # The reason that is named is the one that decides: heat before slowness.
        if self.temperature_c > _KEEP_BELOW_C:
            yield self.remark(
                "enzyme_killed",
                "check",
                message("{temperature} °C kills the enzyme.", temperature=Given(self.temperature_c)),
                message("Keep it at 40 to 50 °C"),
            )
        elif done < CLEARS_AT - _NEARLY_CUT:
            yield self.remark(
                "enzyme_slow",
                "check",
                message(
                    "After {minutes} about {done} % of the pectin is cut, and half of it clears a juice: cold and acid slow it.",
                    minutes=Computed(self.minutes, "min", 0),
                    done=Computed(100 * done, decimals=0),
                ),
                message("Warmer, longer, or more by the maker's sheet; or an egg raft or agar instead"),
            )
        # Ethanol unfolds proteins; the juice is cleared before it meets the spirit.
        if strength > _ENZYME_MOST_ABV:
            yield self.remark(
                "enzyme_in_spirit",
                "check",
                message("Alcohol of {abv} stops the enzyme.", abv=quantity("abv", strength)),
                message("Clarify the juice before the spirit goes in"),
            )


@dataclass(frozen=True, slots=True)
class EggRaft(_Fining):
    """Egg white beaten in, heated with stirring until the raft forms, held at a measured, cooked temperature, and drawn off below it."""

    verb: ClassVar[str] = "egg_raft"
    title: ClassVar[Message] = template("Raft of {names}, hold at {temperature_c}")
    title_alone: ClassVar[Message] = template("Hold the raft at {temperature_c}")
    lees_called: ClassVar[str] = "egg raft"
    usual_hands_on_min: ClassVar[float] = 20.0
    minutes: float = minutes(20.0)
    temperature_c: float = celsius(85.0, 40.0, 98.0)
    takes: Range = prior(0.97, 0.90, 1.0, "of the haze", 1.0)
    loss: Range = prior(0.12, 0.07, 0.20, "of the liquid", 0.9)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        # Egg white's dry matter is insoluble once cooked, so it is counted among what does not dissolve.
        white = 100.0 * before.liquid.of("insolubles") / before.liquid.mass_g
        if self.temperature_c < _COOKED_C:
            yield self.remark(
                "raft_not_cooked",
                "stop",
                message("At {temperature} °C the raft is not cooked.", temperature=Given(self.temperature_c)),
                message("Probe it: 74 °C and more in the middle, as your code asks"),
            )
        if white < _RAFT_PERCENT:
            yield self.remark("thin_raft", "check", message("Too little egg white for a raft."), message("One to three whites per litre"))
        yield self.remark("egg_stays", "note", message("Clear is not free from egg: the allergen stays on the label."))


@dataclass(frozen=True, slots=True)
class Agar(_Fining):
    """Agar boiled in a part, stirred in, set, broken and drained (or frozen and thawed)."""

    verb: ClassVar[str] = "agar"
    title: ClassVar[Message] = template("Set with {names}, break and drain")
    title_alone: ClassVar[Message] = message("Set, break and drain")
    lees_called: ClassVar[str] = "agar curd"
    minutes: float = minutes(90.0)
    temperature_c: float = celsius(4.0, -20.0, 30.0)
    loss: Range = prior(0.15, 0.08, 0.25, "of the liquid", 0.9)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        # Agar is hydrolysed by heat in acid, before it can set.
        if ph_or_neutral(before.liquid) < _AGAR_LEAST_PH:
            yield self.remark(
                "agar_in_acid",
                "check",
                message("Boiled in sharp juice agar breaks down and sets weakly."),
                message("Boil it in water or a quarter of the juice, and stir the rest in warm"),
            )
        if _strength(before.liquid) > _AGAR_MOST_ABV:
            yield self.remark(
                "agar_in_spirit",
                "check",
                message("In {abv} agar sets poorly.", abv=quantity("abv", _strength(before.liquid))),
                message("Clarify before the spirit"),
            )


@dataclass(frozen=True, slots=True)
class Gelatin(_Fining):
    """Gelatin stirred in, frozen solid, thawed in the cold over a cloth: clear drip, jelly stays."""

    verb: ClassVar[str] = "gelatin"
    title: ClassVar[Message] = template("Freeze with {names}, thaw over cloth {minutes}")
    title_alone: ClassVar[Message] = template("Freeze, thaw over cloth {minutes}")
    lees_called: ClassVar[str] = "gelatin jelly"
    minutes: float = minutes(2880.0)
    temperature_c: float = celsius(4.0, -2.0, 8.0)
    takes: Range = prior(0.98, 0.92, 1.0, "of the haze", 1.0)
    loss: Range = prior(0.18, 0.10, 0.30, "of the liquid", 0.9)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        # Their proteases cut gelatin to pieces that no longer gel; heat destroys them, which is why boiled juice sets.
        if any(key.startswith(("pineapple", "kiwi", "papaya", "fig", "ginger")) for key in (*before.solids_g, *before.open_since_min)):
            yield self.remark(
                "no_jelly",
                "check",
                message("Raw pineapple, kiwi, papaya, fig and ginger digest gelatin: it will not set."),
                message("Boil the juice first, or use agar"),
            )
        yield self.remark("not_vegan", "note", message("Gelatin is of animal or fish origin: neither vegan nor free from it."))


@dataclass(frozen=True, slots=True)
class MilkClarify(_Fining):
    """Pour the sharp mix into the milk, let it curdle, run it through its own curd."""

    verb: ClassVar[str] = "milk_clarify"
    title: ClassVar[Message] = template("Curdle {names}, run through the curd")
    title_alone: ClassVar[Message] = message("Curdle and run through the curd")
    lees_called: ClassVar[str] = "curd"
    usual_hands_on_min: ClassVar[float] = 20.0
    minutes: float = minutes(240.0)
    temperature_c: float = celsius(10.0, 0.0, 60.0)
    takes: Range = prior(0.96, 0.88, 0.99, "of the haze", 1.0)
    loss: Range = prior(0.12, 0.06, 0.20, "of the liquid", 0.9)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        # Casein curdles at its isoelectric point; titratable acid must outweigh what the milk itself buffers.
        acid = acid_g_100ml(before.liquid)
        if ph_or_neutral(before.liquid) > _CURDLES_PH or acid < _CURDLES_G_100ML:
            yield self.remark(
                "no_curd",
                "check",
                message("{acid} of acid does not curdle milk.", acid=quantity("acid_g_100ml", acid)),
                message("Milk needs pH 4.6 or lower: bring the acid up first"),
            )
        yield self.remark(
            "milk_stays", "note", message("Clear is not free from milk: lactose and whey protein stay, and so does the allergen.")
        )


@dataclass(frozen=True, slots=True)
class Settle(_Fining):
    """Left in the cold; the clear liquid is racked off the sediment."""

    verb: ClassVar[str] = "settle"
    title: ClassVar[Message] = template("Settle {minutes} and rack")
    lees_called: ClassVar[str] = "sediment"
    usual_hands_on_min: ClassVar[float] = 6.0
    minutes: float = minutes(1440.0)
    temperature_c: float = celsius(4.0, -2.0, 25.0)
    takes: Range = prior(0.70, 0.40, 0.90, "of the pulp", 1.0)
    loss: Range = prior(0.08, 0.04, 0.15, "of the liquid", 0.9)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """`takes` of the pulp sinks; pectin and protein stay dissolved. Source: house experience, mass balance."""
        _no_pieces(state)
        clear, lees = fined(
            state.liquid,
            share_in(context, self.takes),
            share_in(context, self.loss, _MOST_LOSS),
            # Dissolved, so gravity alone does not move them.
            keeps=("pectin", "protein"),
        )
        removed = OutgoingStream(
            self.by_product or "sediment",
            "lees",
            VesselState(lees, dict(state.solids_g), (), self.temperature_c, state.clock_min),
            bool(self.by_product),
        )
        return Outcome(replace(state, liquid=clear, solids_g={}, temperature_c=self.temperature_c), (removed,))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        pectin = 100.0 * before.liquid.of("pectin") / before.liquid.mass_g
        # Pectin carries a charge that keeps particles apart; without an enzyme they never touch.
        if pectin > _HOLDS_HAZE_PERCENT:
            yield self.remark(
                "pectin_holds_haze",
                "check",
                message("{pectin} % pectin holds the haze up for weeks.", pectin=Computed(pectin, decimals=1)),
                message("Use the enzyme first"),
            )
