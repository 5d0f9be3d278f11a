"""Drinks bottled before service: with the water that ice would give, kept in the fridge or the freezer, poured by the glass."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import ClassVar

from ..base.figures import quantity
from ..base.messages import Computed, Given, Message, Value, message, sentences, template
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..materials.vessel_state import Outcome, StepContext, VesselState
from ..properties.alcohol import abv
from ..properties.density import volume_ml
from ..properties.water import freezing_c, ice_share
from .finish import Bottle, bottles
from .freeze import ICE_GROWS
from .serve import Build, Shake, StirIce
from .step import Step, celsius, choice, number

_SETS_SHARE, _SLUSH_SHARE = 0.5, 0.02
"""Share of the water as ice from which a bottle no longer pours, and from which it is slush; house experience."""
_COLDEST_C = -30.0


def _strength(state: VesselState) -> float:
    volume = volume_ml(state.liquid)
    return abv(state.liquid.of("ethanol"), volume) if volume > 0 else 0.0


@dataclass(frozen=True, slots=True)
class DiluteAhead(Step):
    """The water that stirring or shaking on ice would give is added as lines, by mass of the drink."""

    verb: ClassVar[str] = "dilute_ahead"
    title: ClassVar[Message] = template("Dilute ahead with {names}")
    title_alone: ClassVar[Message] = message("Dilute ahead")
    family: ClassVar[str] = "prebatch"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 3.0
    usual_gear: ClassVar[tuple[str, ...]] = ("jug", "bench scale")
    served: str = choice("stir_ice", "shake", "build")

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Nothing besides the lines changes. Raises Refusal for an empty vessel. Source: mass balance."""
        del context
        if state.mass_g <= 0:
            raise Refusal(message("There is nothing to dilute"), remedy=message("Put the drink in first"), code="empty")
        return Outcome(state)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del before
        ways = {"stir_ice": message("stirring on ice"), "shake": message("shaking on ice"), "build": message("ice in the glass")}
        least, most = _usual_melt(self.served)
        yield self.remark(
            "diluted_ahead",
            "note",
            message(
                "It pours at {strength}. {way:capital} gives {least} to {most} % of its weight in water: weigh a glass before and after, once.",
                strength=quantity("abv", _strength(after.state)),
                way=ways[self.served],
                least=Computed(least, decimals=0),
                most=Computed(most, decimals=0),
            ),
        )


_FRIDGE_LEAST_C = -1.0
"""Coldest temperature [°C] that a refrigerator is set to. House experience."""
_SPARE_ROOM_PERCENT = 2.0
"""Head room [%] besides what the ice takes. House experience."""


def _usual_melt(served: str) -> tuple[float, float]:
    """Returns least and most water [% of the mass of the drink] that a way with ice gives: the range of the serve verb. Source: `serve`."""
    found = {"stir_ice": StirIce, "shake": Shake, "build": Build}[served]("melt", "glass").melt_percent
    return found.low, found.high


@dataclass(frozen=True, slots=True)
class BottleAhead(Bottle):
    """Filled into bottles with head space, to be kept in the `stands` freezer or fridge at `keep_c`."""

    verb: ClassVar[str] = "bottle_ahead"
    title: ClassVar[Message] = template("Bottle the batch, keep at {keep_c}")
    family: ClassVar[str] = "prebatch"
    bottle_ml: float = number(700.0, 10.0, 50000.0, "mL", message("from 10 mL to 50 L"))
    stands: str = choice("freezer", "fridge")
    keep_c: float = celsius(-18.0, -30.0, 10.0)

    @property
    def _kept_at(self) -> Computed:
        return Computed(self.keep_c, "°C", 0 if float(self.keep_c).is_integer() else 1)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Nothing leaves; the temperature is `keep_c`. Raises Refusal for a fridge below freezing and a freezer above it."""
        # Colder than a refrigerator is set to, or warmer than a freezer is.
        if (self.stands == "fridge") == (self.keep_c < _FRIDGE_LEAST_C):
            raise Refusal(
                message("A {stands} does not stand at {kept_at}", stands=self.stands, kept_at=self._kept_at),
                bound=message("a fridge from −1 to 10 °C, a freezer from −30 to −1 °C"),
                remedy=message("Say which of the two it is, and its temperature"),
                code="out_of_bounds",
            )
        return Bottle.act(self, state, context)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        # The head room depends on the share of ice, not on the freezer alone.
        yield from (remark for remark in Bottle.remarks(self, before, after) if remark.code != "no_head_room")
        if before.liquid.of("water") <= 0:
            return
        yield from self._ice(before)

    def _ice(self, before: VesselState) -> Iterator[Remark]:
        """Yields what is said of ice in the bottles: the first ice, the share of the water that is ice, and the room that it takes. Source: `freezing_c`, `ice_share`."""
        liquid, strength, kept_at = before.liquid, quantity("abv", _strength(before)), self._kept_at
        try:
            starts = freezing_c(liquid)
        except Refusal as refusal:
            pours = message("At {strength} it pours at {kept_at}.", strength=strength, kept_at=kept_at)
            yield self.remark("stays_liquid", "note", sentences(message("{what}.", what=refusal.what), pours))
            return
        # Below −30 °C the freezing formula ends; hardly more becomes ice there.
        share = ice_share(liquid, max(_COLDEST_C, self.keep_c)) if self.keep_c < starts else 0.0
        percent = Computed(100 * share, decimals=0)
        if share < _SLUSH_SHARE:
            first = Computed(starts, decimals=1)
            yield self.remark(
                "stays_liquid",
                "note",
                message(
                    "{strength}: first ice at {starts} °C, so it pours at {kept_at}.", strength=strength, starts=first, kept_at=kept_at
                ),
            )
        elif share >= _SETS_SHARE:
            yield self.remark(
                "sets_solid",
                "stop",
                message(
                    "{strength}: at {kept_at} {share} % of its water is ice: it does not pour, and breaks the bottle.",
                    strength=strength,
                    kept_at=kept_at,
                    share=percent,
                ),
                message("Keep it in the fridge, make it stronger, or leave out part of the water"),
            )
        else:
            # Only the part that is ice grows.
            grows = 100.0 * (ICE_GROWS - 1.0) * share * liquid.of("water") / volume_ml(liquid)
            yield self.remark(
                "slush",
                "check",
                message(
                    "{strength}: at {kept_at} {share} % of its water is ice, and it grows by {grows} %.",
                    strength=strength,
                    kept_at=kept_at,
                    share=percent,
                    grows=Computed(grows, decimals=0),
                ),
                message("Give it a warmer shelf or less water; what pours first is stronger than what stays"),
            )
            if self.head_room_percent < grows + _SPARE_ROOM_PERCENT:
                yield self._too_full(grows)

    def _too_full(self, grows: float) -> Remark:
        return self.remark(
            "no_head_room",
            "stop",
            message(
                "{head_room} % head room is too little for ice that takes {grows} % more.",
                head_room=Given(self.head_room_percent),
                grows=Computed(grows, decimals=0),
            ),
            message("Leave {room} % and more", room=math.ceil(grows + _SPARE_ROOM_PERCENT + 1.0)),
        )


@dataclass(frozen=True, slots=True)
class PourAhead(Step):
    """Poured by the glass, `serve_ml` each, from bottles of `bottle_ml`: the count of glasses, and what is left in the last bottle."""

    verb: ClassVar[str] = "pour_ahead"
    title: ClassVar[Message] = template("Pour by the glass, {serve_ml} each")
    family: ClassVar[str] = "prebatch"
    stays_put: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 0.5
    usual_gear: ClassVar[tuple[str, ...]] = ("jigger", "glass")
    serve_ml: float = number(90.0, 5.0, 5000.0, "mL", message("from 5 mL to 5 L"))
    bottle_ml: float = number(700.0, 10.0, 50000.0, "mL", message("from 10 mL to 50 L"))
    head_room_percent: float = number(5.0, 0.0, 50.0, "%", message("from 0 to 50 %"))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        volume = volume_ml(before.liquid) if before.liquid.mass_g else 0.0
        if volume <= 0:
            yield self.remark(
                "pours_nothing", "stop", message("Nothing is left in the vessel to pour."), message("Pour from the vessel that holds it")
            )
            return
        full, rest = bottles(volume, self.bottle_ml, self.head_room_percent)
        each = self.bottle_ml * (1.0 - self.head_room_percent / 100.0)
        # Serves are counted bottle by bottle: nobody pours one glass out of two.
        of_full, over = divmod(each, self.serve_ml)
        of_last, last = divmod(rest, self.serve_ml)
        serves = full * int(of_full) + int(of_last)
        all_of_it: dict[str, Value] = {"serves": serves, "serve": Computed(self.serve_ml, "mL", 0)}
        each_full: dict[str, Value] = {"each": int(of_full), "full": full, "over": Computed(over, "mL", 0)}
        the_last: dict[str, Value] = {"rest": Computed(rest, "mL", 0), "of_last": int(of_last), "last": Computed(last, "mL", 0)}
        yield self.remark("serves", "note", _serves(all_of_it, each_full if full else {}, the_last if rest >= 1.0 else {}))


def _serves(whole: Mapping[str, Value], each_full: Mapping[str, Value], last: Mapping[str, Value]) -> Message:
    """Returns the count of serves of a batch, of each full bottle, and of the last one."""
    if each_full and last:
        return message(
            "{serves} serves of {serve}, {each} from each of {full} full bottles with {over} left in it; the last one holds {rest}: {of_last} serves and {last} left.",
            **whole,
            **each_full,
            **last,
        )
    if each_full:
        return message("{serves} serves of {serve}, {each} from each of {full} full bottles with {over} left in it.", **whole, **each_full)
    if last:
        return message("{serves} serves of {serve}; the last one holds {rest}: {of_last} serves and {last} left.", **whole, **last)
    return message("{serves} serves of {serve}.", **whole)
