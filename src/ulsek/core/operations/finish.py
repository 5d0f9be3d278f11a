"""Finishing: cool, carbonate, bottle, label, store, rest, split, clean."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.messages import Computed, Given, Message, grams, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.vessel_state import Outcome, OutgoingStream, StepContext, VesselState
from ..properties import carbonation
from ..properties.density import volume_ml
from .extract import EXCHANGE_H, LEAST_EXCHANGE_H, exchanged
from .step import Step, celsius, choice, flag, minutes, number, prior, share_in, text

EMPTY_G, _EMPTY_ML = 0.5, 1.0
"""Below so much a vessel is empty [g, mL]."""


_HOT_C, _FIRST_STAGE_C, COOLING_MIN = 57.0, 21.0, 360.0
"""From hot [°C] to the end of the first stage [°C], and both stages of cooling together [min]: 2 h to 21 °C, 4 h more to 5 °C. FDA Food Code 2022, 3-501.14."""
_FRIDGE_G = 2000.0
"""Mass [g] above which a hot vessel warms what stands beside it in a fridge. House experience."""
_CARBONATES_BELOW_C = 10.0
"""Temperature [°C] up to which a liquid takes gas well. House experience."""
_SEALED_HOT_C = 45.0
"""Temperature [°C] above which a closed bottle pulls a vacuum as it cools. House experience."""
_FREEZES_BELOW_C, _FREEZER_ROOM_PERCENT = -2.0, 10.0
"""Temperature [°C] below which a thin liquid freezes through, and the head room [%] that its ice takes. Handbook: ice takes 9 % more room."""
_FILL_OFF_K = 2.0
"""Below the temperature of filling by more than this [K] it is told. House judgement."""


def bottles(volume_ml: float, bottle_ml: float, head_room_percent: float) -> tuple[int, float]:
    """Returns (count of full bottles, mL left for a part bottle) when each takes `bottle_ml` [mL] less its head room. 1430 mL in 500 mL at 10 %: 3 and 80 mL.
    Raises Refusal for bottles without volume.
    """
    fill = bottle_ml * (1.0 - head_room_percent / 100.0)
    if fill <= 0:
        raise Refusal(
            message("{head_room} % head room leaves nothing to fill", head_room=Given(head_room_percent)), remedy=message("Leave less room")
        )
    # Rounding must not cost a bottle that is exactly full.
    full = math.floor(volume_ml / fill + 1e-9)
    return full, max(0.0, volume_ml - full * fill)


def bottle_count(volume_ml: float, bottle_ml: float, head_room_percent: float) -> int:
    """Returns the count of bottles, the part bottle included, at least one. 1430 mL in 500 mL at 10 %: 4. Raises Refusal as `bottles` does. Source: `bottles`."""
    full, rest = bottles(volume_ml, bottle_ml, head_room_percent)
    return max(1, full + (rest >= _EMPTY_ML))


@dataclass(frozen=True, slots=True)
class Cool(Step):
    """Cooled to `to_c` within `minutes`, through the danger zone in two stages, each with its limit."""

    verb: ClassVar[str] = "cool"
    title: ClassVar[Message] = template("Cool to {to_c}")
    family: ClassVar[str] = "finish"
    scaled_up: ClassVar[Message] = message("more of it cools slower: shallow pans or an ice bath, or it stays warm too long.")
    usual_check: ClassVar[str] = "probe in the middle"
    ends: ClassVar[bool] = True
    to_c: float = celsius(4.0, 0.0, 95.0)
    minutes: float = minutes(60.0)
    method: str = choice("ice_bath", "blast", "fridge")

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Nothing leaves; the temperature is `to_c`."""
        del context
        return Outcome(replace(state, temperature_c=self.to_c))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        # Both stages together: one time stands for the whole way down.
        if before.temperature_c > _HOT_C and self.to_c <= _FIRST_STAGE_C and self.minutes > COOLING_MIN:
            yield self.remark(
                "slow_cooling",
                "check",
                message(
                    "{minutes} from {temperature} °C is longer than 2 h to 21 °C and 4 h more to 5 °C.",
                    minutes=Computed(self.minutes / 60.0, "h", 1),
                    temperature=Computed(before.temperature_c, decimals=0),
                ),
                message("Ice bath in shallow pans; follow your local food code"),
            )
        # A fridge is made to hold cold, not to take heat out.
        if before.temperature_c > _HOT_C and self.method == "fridge" and before.mass_g > _FRIDGE_G:
            yield self.remark(
                "hot_in_fridge",
                "check",
                message(
                    "{mass} at {temperature} °C warm a fridge and cool too slowly.",
                    mass=Computed(before.mass_g / 1000.0, "kg", 1),
                    temperature=Computed(before.temperature_c, decimals=0),
                ),
                message("Ice bath first"),
            )


@dataclass(frozen=True, slots=True)
class Carbonate(Step):
    """Carbon dioxide under pressure, cold, shaken to equilibrium."""

    verb: ClassVar[str] = "carbonate"
    title: ClassVar[Message] = template("Carbonate at {temperature_c}")
    family: ClassVar[str] = "finish"
    takes_lines: ClassVar[bool] = True
    usual_gear: ClassVar[tuple[str, ...]] = ("siphon or keg", "gauge")
    temperature_c: float = celsius(3.0, -1.0, 20.0)
    gauge_kpa: float = number(200.0, 10.0, 900.0, "kPa", message("from 10 to 900 kPa above the air"))
    minutes: float = minutes(10.0)
    reaches: Range = prior(0.85, 0.65, 1.0, "of what rest would give", 1.0)
    loss_percent: Range = prior(20.0, 10.0, 35.0, "% on opening and pouring", 90.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Gas comes in by Henry's law × `reaches`, less the loss on opening and pouring. Raises Refusal for an empty vessel. Source: `carbonation_g_l`, house
        experience.
        """
        if state.liquid.of("water") <= 0:
            raise Refusal(message("There is nothing in the vessel to carbonate"), remedy=message("Put the liquid in first"), code="empty")
        litres = volume_ml(state.liquid) / 1000.0
        # Equilibrium first; shaking reaches part of it, and opening loses part of that.
        # At the pressure of the cylinder; a vessel that was not purged holds less, which `reaches` covers.
        rest = carbonation.carbonation_g_l(state.liquid, self.temperature_c, self.gauge_kpa) * litres
        stays = rest * share_in(context, self.reaches) * (1.0 - share_in(context, self.loss_percent, 95.0) / 100.0)
        gas = Contents({"carbon_dioxide": stays})
        return Outcome(replace(state, liquid=state.liquid + gas, temperature_c=self.temperature_c), (), gas)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        litres = volume_ml(after.state.liquid) / 1000.0
        grams = after.state.liquid.of("carbon_dioxide") / litres
        yield self.remark(
            "gas",
            "note",
            message(
                "{grams} in the glass, {volumes} volumes.",
                grams=Computed(grams, "g/L", 1),
                volumes=Computed(carbonation.volumes(grams), decimals=1),
            ),
        )
        yield self.remark(
            "pressure",
            "check",
            message("{gauge} kPa burst what is not made for it.", gauge=Given(self.gauge_kpa)),
            message("Only vessels rated for the pressure, valve checked, never a bottle with a crack"),
        )
        if before.temperature_c > _CARBONATES_BELOW_C >= self.temperature_c:
            yield self.remark(
                "warm_gas",
                "check",
                message(
                    "It stands at {temperature} °C: warm liquid takes little gas.", temperature=Computed(before.temperature_c, decimals=0)
                ),
                message("Chill it first"),
            )


@dataclass(frozen=True, slots=True)
class Bottle(Step):
    """Filled into bottles of `bottle_ml` with `head_room_percent` left empty; kept at `keep_c`."""

    verb: ClassVar[str] = "bottle"
    title: ClassVar[Message] = message("Bottle and label")
    family: ClassVar[str] = "finish"
    usual_hands_on_min: ClassVar[float] = 8.0
    usual_gear: ClassVar[tuple[str, ...]] = ("clean bottles", "funnel")
    ends: ClassVar[bool] = True
    bottle_ml: float = number(500.0, 10.0, 50000.0, "mL", message("from 10 mL to 50 L"))
    head_room_percent: float = number(5.0, 0.0, 50.0, "%", message("from 0 to 50 %"))
    keep_c: float = celsius(4.0, -25.0, 30.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Nothing leaves; the temperature is `keep_c`."""
        del context
        return Outcome(replace(state, temperature_c=self.keep_c))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        if before.temperature_c > _SEALED_HOT_C and self.verb == "bottle":
            yield self.remark(
                "sealed_hot",
                "check",
                message(
                    "It stands at {temperature} °C: sealed hot it pulls a vacuum and sweats.",
                    temperature=Computed(before.temperature_c, decimals=0),
                ),
                message("Cool it first, or fill hot as a step of its own with your authority's plan"),
            )
        volume = volume_ml(before.contents) if before.mass_g else 0.0
        # Warmer than that a syrup or a spirit does not freeze through.
        # A bottle that is full to the neck breaks before the liquid can push its cap off.
        if self.keep_c < _FREEZES_BELOW_C and self.head_room_percent < _FREEZER_ROOM_PERCENT:
            yield self.remark(
                "no_head_room",
                "stop",
                message("{head_room} % head room bursts in the freezer: ice takes a tenth more.", head_room=Given(self.head_room_percent)),
                message("Leave 10 % and more"),
            )
        if volume < _EMPTY_ML:
            yield self.remark(
                "pours_nothing",
                "stop",
                message("Nothing is left in the vessel to bottle."),
                message("Bottle the vessel that holds it, or pour it in here first"),
            )
            return
        full, rest = bottles(volume, self.bottle_ml, self.head_room_percent)
        of, over, room = Computed(self.bottle_ml, "mL", 0), Computed(rest, "mL", 0), Given(self.head_room_percent)
        if not full:
            words = message("Fills one bottle of {of} to {over}.", of=of, over=over)
        elif rest >= 1:
            words = message("Fills {full} × {of} and {over} over, {room} % head room.", full=full, of=of, over=over, room=room)
        else:
            words = message("Fills {full} × {of}, {room} % head room.", full=full, of=of, room=room)
        yield self.remark("fills", "note", words)


@dataclass(frozen=True, slots=True)
class HotFill(Bottle):
    """Filled hot into hot bottles and closed at once, only by a procedure that the house's authority has seen."""

    verb: ClassVar[str] = "hot_fill"
    title: ClassVar[Message] = template("Fill hot at {fill_c}")
    fill_c: float = celsius(85.0, 60.0, 98.0)
    keep_c: float = celsius(4.0, -2.0, 30.0)
    procedure: str = text()
    """The house's approved procedure by its name in the house's rules; without one the date stays the short one."""

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        yield self.remark(
            "hot_fill",
            "check",
            message(
                "Filling at {fill} °C is preserving: without a checked pH and a plan the date stays the short one.", fill=Given(self.fill_c)
            ),
            message("Ask your authority; goggles and gloves, bottles made for heat"),
        )
        # Bottles and cap are sterilised by the heat of what is filled: colder, they are not.
        if before.temperature_c < self.fill_c - _FILL_OFF_K:
            yield self.remark(
                "not_hot_enough",
                "check",
                message(
                    "It stands at {temperature} °C, and is filled at {fill} °C.",
                    temperature=Computed(before.temperature_c, decimals=0),
                    fill=Given(self.fill_c),
                ),
                message("Bring it back up first"),
            )
        yield from Bottle.remarks(self, before, after)


@dataclass(frozen=True, slots=True)
class Rest(Step):
    """Resting, mellowing, settling, counted on the clock."""

    verb: ClassVar[str] = "rest"
    title: ClassVar[Message] = template("Rest {minutes}")
    family: ClassVar[str] = "finish"
    usual_hands_on_min: ClassVar[float] = 1.0
    minutes: float = minutes(1440.0)
    temperature_c: float = celsius(4.0, -25.0, 30.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Nothing leaves; pieces that are still in go on exchanging. Source: `operations.extract.exchange`."""

        # Below 0 °C the exchange goes on as at 0 °C, which is on the safe side: it hardly goes on at all.
        changed = (
            exchanged(state, self.minutes, max(0.0, self.temperature_c), max(LEAST_EXCHANGE_H, context.value_of(EXCHANGE_H)))
            if state.pieces
            else state
        )
        return Outcome(replace(changed, temperature_c=self.temperature_c))


@dataclass(frozen=True, slots=True)
class Store(Rest):
    """Put it away at its place, until it is needed."""

    verb: ClassVar[str] = "store"
    title: ClassVar[Message] = message("Put away")
    minutes: float = minutes(0.0)
    place: str = text()


@dataclass(frozen=True, slots=True)
class Label(Step):
    """Name, date, lot, allergens on every vessel."""

    verb: ClassVar[str] = "label"
    title: ClassVar[Message] = message("Label and date")
    family: ClassVar[str] = "finish"
    stays_put: ClassVar[bool] = True


@dataclass(frozen=True, slots=True)
class Clean(Step):
    """The named equipment is cleaned: allergens that it carried end here."""

    verb: ClassVar[str] = "clean"
    title: ClassVar[Message] = template("Clean {gear}")
    family: ClassVar[str] = "finish"
    usual_hands_on_min: ClassVar[float] = 6.0
    stays_put: ClassVar[bool] = True
    sanitised: str = choice("washed", "sanitised")


@dataclass(frozen=True, slots=True)
class Split(Step):
    """A part is drawn off: into another vessel (`into`) or as a by-product with a name."""

    verb: ClassVar[str] = "split"
    title: ClassVar[Message] = message("Draw off a part")
    family: ClassVar[str] = "finish"
    share: float | None = number(None, 0.001, 1.0, "of it", message("above 0 and at most all of it"))
    mass_g: float | None = number(None, 0.1, 1e6, "g", message("from 0.1 g to a tonne"))

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """A share of everything leaves under the by-product's name; the rest stays. Raises Refusal for more than there is. Source: mass balance."""
        mass = state.mass_g
        if mass <= 0:
            raise Refusal(message("There is nothing in the vessel to split"), remedy=message("Put something in first"), code="empty")
        if (self.share is None) == (self.mass_g is None):
            raise Refusal(message("A split needs how much leaves"), remedy=message("Give a share or a weight, one of them"), code="missing")
        # A mass grows with the batch; a share need not.
        share = self.share if self.share is not None else (self.mass_g or 0.0) * context.factor / mass
        if share > 1.0 + 1e-12:
            raise Refusal(
                message("{share} g cannot be drawn off", share=Computed(share * mass, decimals=0)),
                bound=message("the vessel holds {mass} g", mass=Computed(mass, decimals=0)),
                remedy=message("Draw off less"),
                code="more_than_there_is",
            )
        removed = OutgoingStream(self.by_product or "drawn off", "drawn_off", state.scaled(share), bool(self.by_product or self.into))
        return Outcome(state.scaled(1.0 - share), (removed,))


@dataclass(frozen=True, slots=True)
class Discard(Step):
    """Something is thrown away: a by-product by its name (`of`), or the content of the vessel, which must be `confirmed`."""

    verb: ClassVar[str] = "discard"
    title: ClassVar[Message] = template("Throw away {of}")
    family: ClassVar[str] = "finish"
    of: str = text()
    confirmed: bool = flag()

    @property
    def empties_vessel(self) -> bool:
        """True if the content of the vessel is thrown away, False for a by-product."""
        return not self.of.strip()

    def sentence(self, *, first: bool) -> Message:
        del first
        return message("Throw away what is in the vessel") if self.empties_vessel else self.title

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """A by-product of that name leaves; without a name the content of the vessel does. An unknown name has no effect. Source: mass balance."""
        if self.empties_vessel:
            return Outcome(VesselState(clock_min=state.clock_min), (OutgoingStream("thrown away", "discarded", state),))
        # Taken by its name: a later step of the same name finds nothing more.
        stream = context.take_stream(self.of.strip())
        return Outcome(state, (OutgoingStream(self.of.strip(), "discarded", stream),) if stream is not None else ())

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        if self.empties_vessel and before.mass_g > EMPTY_G and not self.confirmed:
            yield self.remark(
                "discards_vessel",
                "stop",
                message("This throws away all that is in the vessel, {mass}.", mass=grams(before.mass_g)),
                message("Name what is thrown away, or confirm that the vessel is emptied"),
            )
        if not self.empties_vessel and not after.outgoing:
            yield self.remark(
                "discards_nothing",
                "note",
                message("Nothing is kept under the name “{of}”: what was strained out or peeled off unnamed has left already.", of=self.of),
            )
