"""Batch ahead: drinks made by the bottle before service, with the water that ice would give, kept in the fridge or the freezer, poured by the glass."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar

from ..base import number_format as say
from ..base.figures import with_unit
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..materials.vessel_state import Bench, Matter, Outcome
from ..properties.alcohol import abv
from ..properties.density import volume_ml
from ..properties.water import freezing_c, ice_share
from .finish import Bottle, bottles
from .serve import Build, Shake, StirIce
from .step import Step, celsius, choice, number

_SETS_SHARE, _SLUSH_SHARE = 0.5, 0.02
"""Share of the water as ice from which a bottle no longer pours, and from which it is slush; house experience."""
_COLDEST_C = -30.0


def _strength(matter: Matter) -> float:
    volume = volume_ml(matter.liquor)
    return abv(matter.liquor.of("ethanol"), volume) if volume > 0 else 0.0


@dataclass(frozen=True, slots=True)
class DiluteAhead(Step):
    """Put in the water that stirring or shaking on ice would have given: as lines, by weight of what is there."""

    verb: ClassVar[str] = "dilute_ahead"
    family: ClassVar[str] = "prebatch"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 3.0
    usual_gear: ClassVar[tuple[str, ...]] = ("jug", "bench scale")
    served: str = choice("stir_ice", "shake", "build")

    def act(self, matter: Matter, bench: Bench) -> Outcome:
        """The lines are in; nothing else changes. Refuses an empty vessel. Source: mass balance."""
        del bench
        if matter.mass_g <= 0:
            raise Refusal("There is nothing to dilute", remedy="Put the drink in first", code="empty")
        return Outcome(matter)

    def remarks(self, before: Matter, after: Outcome) -> Iterator[Remark]:
        del before
        strength = with_unit("abv", _strength(after.matter))
        words = {"stir_ice": "stirring on ice", "shake": "shaking on ice", "build": "ice in the glass"}[self.served]
        least, most = _usual_melt(self.served)
        yield self.remark(
            "diluted_ahead",
            "note",
            f"It pours at {strength}. {words[:1].upper()}{words[1:]} gives {say.figure(least, 0)} to {say.figure(most, 0)} % of its weight in water: weigh a glass before and after, once.",
        )


def _usual_melt(served: str) -> tuple[float, float]:
    """Least and most water [% of the drink's weight] that a way with ice gives: the serve verb's own range. Source: `serve`."""
    found = {"stir_ice": StirIce, "shake": Shake, "build": Build}[served]("melt", "glass").melt_percent
    return found.low, found.high


@dataclass(frozen=True, slots=True)
class BottleAhead(Bottle):
    """Fill the batch into bottles with head space, to be kept in the `stands` freezer or fridge at `keep_c`."""

    verb: ClassVar[str] = "bottle_ahead"
    family: ClassVar[str] = "prebatch"
    bottle_ml: float = number(700.0, 10.0, 50000.0, "mL", "from 10 mL to 50 L")
    stands: str = choice("freezer", "fridge")
    keep_c: float = celsius(-18.0, -30.0, 10.0)

    @property
    def _kept_at(self) -> str:
        return say.amount(self.keep_c, "°C", 0 if float(self.keep_c).is_integer() else 1)

    def act(self, matter: Matter, bench: Bench) -> Outcome:
        """Nothing leaves; it stands at `keep_c`. Refuses a fridge below freezing and a freezer above it."""
        if (self.stands == "fridge") == (self.keep_c < -1.0):
            raise Refusal(
                f"A {self.stands} does not stand at {self._kept_at}",
                bound="a fridge from −1 to 10 °C, a freezer from −30 to −1 °C",
                remedy="Say which of the two it is, and its temperature",
                code="out_of_bounds",
            )
        return Bottle.act(self, matter, bench)

    def remarks(self, before: Matter, after: Outcome) -> Iterator[Remark]:
        # Head room is asked for by how much of it becomes ice, not by the freezer alone.
        yield from (remark for remark in Bottle.remarks(self, before, after) if remark.code != "no_head_room")
        if before.liquor.of("water") <= 0:
            return
        yield from self._ice(before)

    def _ice(self, before: Matter) -> Iterator[Remark]:
        """Whether it freezes where it stands: where its first ice forms, how much of its water is ice, and the room that it takes. Source: `freezing_c`, `ice_share`."""
        strength = with_unit("abv", _strength(before))
        try:
            starts = freezing_c(before.liquor)
        except Refusal as refusal:
            yield self.remark(
                "stays_liquid", "note", f"{strength}: {refusal.what[:1].lower()}{refusal.what[1:]}, so it pours at {self._kept_at}."
            )
            return
        share = ice_share(before.liquor, max(_COLDEST_C, self.keep_c)) if self.keep_c < starts else 0.0
        if share < _SLUSH_SHARE:
            yield self.remark(
                "stays_liquid", "note", f"{strength}: first ice at {say.figure(starts, 1)} °C, so it pours at {self._kept_at}."
            )
            return
        volume = volume_ml(before.liquor)
        grows = 100.0 * 0.09 * share * before.liquor.of("water") / volume
        if share >= _SETS_SHARE:
            yield self.remark(
                "sets_solid",
                "stop",
                f"{strength}: at {self._kept_at} {say.figure(100 * share, 0)} % of its water is ice: it does not pour, and breaks the bottle.",
                "Keep it in the fridge, make it stronger, or leave out part of the water",
            )
            return
        yield self.remark(
            "slush",
            "check",
            f"{strength}: at {self._kept_at} {say.figure(100 * share, 0)} % of its water is ice, and it grows by {say.figure(grows, 0)} %.",
            "Give it a warmer shelf or less water; what pours first is stronger than what stays",
        )
        if self.head_room_percent < grows + 2.0:
            yield self.remark(
                "no_head_room",
                "stop",
                f"{say.given(self.head_room_percent)} % head room is too little for ice that takes {say.figure(grows, 0)} % more.",
                f"Leave {math.ceil(grows + 3.0)} % and more",
            )


@dataclass(frozen=True, slots=True)
class PourAhead(Step):
    """Pour the batch by the glass, `serve_ml` each, out of bottles of `bottle_ml`: how many there are, and what is left in the last."""

    verb: ClassVar[str] = "pour_ahead"
    family: ClassVar[str] = "prebatch"
    stays_put: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 0.5
    usual_gear: ClassVar[tuple[str, ...]] = ("jigger", "glass")
    serve_ml: float = number(90.0, 5.0, 5000.0, "mL", "from 5 mL to 5 L")
    bottle_ml: float = number(700.0, 10.0, 50000.0, "mL", "from 10 mL to 50 L")
    head_room_percent: float = number(5.0, 0.0, 50.0, "%", "from 0 to 50 %")

    def remarks(self, before: Matter, after: Outcome) -> Iterator[Remark]:
        del after
        volume = volume_ml(before.liquor) if before.liquor.mass_g else 0.0
        if volume <= 0:
            yield self.remark("pours_nothing", "stop", "Nothing is left in the vessel to pour.", "Pour from the vessel that holds it")
            return
        full, rest = bottles(volume, self.bottle_ml, self.head_room_percent)
        each = self.bottle_ml * (1.0 - self.head_room_percent / 100.0)
        of_full, over = divmod(each, self.serve_ml)
        of_last, last = divmod(rest, self.serve_ml)
        serves = full * int(of_full) + int(of_last)
        words = f"{serves} serves of {say.amount(self.serve_ml, 'mL', 0)}"
        if full:
            words += f", {int(of_full)} from each of {full} full bottles with {say.amount(over, 'mL', 0)} left in it"
        if rest >= 1.0:
            words += f"; the last one holds {say.amount(rest, 'mL', 0)}: {int(of_last)} serves and {say.amount(last, 'mL', 0)} left"
        yield self.remark("serves", "note", f"{words}.")
