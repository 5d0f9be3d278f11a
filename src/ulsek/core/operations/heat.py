"""Heating: bring to, hold, simmer, reduce, caramelise; what leaves with the steam."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.figures import POT_CM, quantity
from ..base.messages import NOTHING, Computed, Given, Message, grams, message, percent, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..chemistry.substances import SUGARS
from ..materials.softening import minutes_at_simmer
from ..materials.vessel_state import Outcome, StepContext, VesselState, outgoing_stream
from ..properties import energy, sugar
from ..properties.alcohol import MOST_RETENTION_MIN
from ..properties.density import volume_ml
from ..properties.water import boiling_c, boils_at
from .extract import EXCHANGE_H, LEAST_EXCHANGE_H, exchanged, softened
from .steam import HOTTEST_C, SIMMER_W, USUAL_POT_CM, Heating, is_dry, steam_g, steam_rising_g, steam_simmering_g, steamed, without
from .step import Step, amount_in, celsius, choice, minutes, number, optional_range, prior, share_in

_MAY_BOIL_C, _BOILS_LOWER_K = 75.0, 0.5
"""From here on [°C] the boil of a liquid is looked up; it is spoken of when it stays so far [K] below what was asked for."""
_BOILS_FROM_C = 99.5
"""“Bring to” this temperature or more means the boil."""
_SOFTENS_TO_C = 110.0
"""Temperature [°C] up to which softening was observed to go faster. House experience."""
_WATER_OF_BROWNING, _MOST_TURNED = 0.05, 0.95
"""Water that a gram of sugar loses as it browns [g], about one molecule per molecule of sucrose, and the largest share that browns before it burns. House judgement."""
_GAS_LEAVES_C = 40.0


def _hot(state: VesselState, context: StepContext, heating: Heating) -> Outcome:
    """Returns the vessel after a time in the heat: pieces exchange and soften, steam leaves with what follows it, gas escapes. Raises Refusal if it is empty."""
    if state.mass_g <= 0:
        raise Refusal(message("There is nothing in the vessel to heat"), remedy=message("Put the liquid in first"), code="empty")
    t_c, minutes_ = heating.t_c, heating.minutes
    if state.pieces:
        state = exchanged(state, minutes_, min(t_c, 100.0), max(LEAST_EXCHANGE_H, context.value_of(EXCHANGE_H)))
        state = softened(state, context, minutes_at_simmer(minutes_, min(t_c, _SOFTENS_TO_C), heating.from_c))
    liquid, removed = steamed(state.liquid, context, heating)
    streams = [outgoing_stream("steam", "steam", removed)] if removed.mass_g else []
    # Warm liquid holds so little gas that a stirred pot has lost it.
    if liquid.of("carbon_dioxide") and t_c >= _GAS_LEAVES_C:
        streams.append(outgoing_stream("gas", "gas", Contents({"carbon_dioxide": liquid.of("carbon_dioxide")})))
        liquid = liquid.without("carbon_dioxide")
    return Outcome(replace(state, liquid=liquid, temperature_c=t_c, hottest_c=max(state.hottest_c, t_c)), tuple(streams))


@dataclass(frozen=True, slots=True)
class Dissolve(Step):
    """The lines go in and are warmed to `temperature_c` for `minutes` in all; steam leaves, as `steam_g` says or as the lid allows."""

    verb: ClassVar[str] = "dissolve"
    title: ClassVar[Message] = template("Stir in {names}, warm to {temperature_c}, {minutes}")
    title_alone: ClassVar[Message] = template("Warm to {temperature_c}, {minutes}")
    family: ClassVar[str] = "heat"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 4.0
    usual_check: ClassVar[str] = "no crystals on the spoon"
    temperature_c: float = celsius(60.0, 5.0, 100.0)
    minutes: float = minutes(10.0)
    lid: str = choice("half", "on", "off")
    steam_g: Range | None = optional_range("g", 1e6)
    pot_cm: float = number(USUAL_POT_CM, POT_CM.low, POT_CM.high, "cm", POT_CM.words)
    ethanol_left: Range | None = optional_range("of the alcohol", 1.0)

    @property
    def to_the_boil(self) -> bool:
        """True if it is brought to the boil, at whatever temperature this liquid boils at this height."""
        return self.temperature_c >= _BOILS_FROM_C

    def stands_at_c(self, state: VesselState, context: StepContext) -> float:
        """Returns the temperature reached [°C]: the one asked for, at most the boiling point of the liquid at this air pressure. Source: `boiling_c`."""
        if self.temperature_c < _MAY_BOIL_C or is_dry(state.liquid):
            return self.temperature_c
        # One evaluation instead of a search: most steps stay far from the boil.
        if not self.to_the_boil and not boils_at(state.liquid, self.temperature_c, context.pressure_kpa):
            return self.temperature_c
        return boiling_c(state.liquid, context.pressure_kpa)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del before
        if not self.to_the_boil and after.state.temperature_c < self.temperature_c - _BOILS_LOWER_K:
            yield self.remark(
                "boils_lower",
                "check",
                message(
                    "It boils at {boils} °C here and gets no hotter: {wanted} °C is not reached.",
                    boils=Computed(after.state.temperature_c, decimals=1),
                    wanted=Given(self.temperature_c),
                ),
                message("Give it longer, or go by what it should look like"),
            )

    def lost(self, factor: float, from_c: float) -> Range:
        """Returns the steam [g]: as the spec says, scaled with the batch, else by pot, lid and minutes; above 95 °C as at a simmer."""
        if self.steam_g is not None:
            return Range(self.steam_g.value * factor, self.steam_g.low * factor, self.steam_g.high * factor)
        return self.lost_by_pot(from_c)

    def lost_by_pot(self, from_c: float) -> Range:
        """Returns the steam [g] if it was not weighed. Source: `steam_g`, `steam_simmering_g`."""
        del from_c
        # Diffusion ends at the boil: from there the stove's power decides how much leaves.
        if self.temperature_c > HOTTEST_C:
            powers = (SIMMER_W.value, SIMMER_W.low, SIMMER_W.high)
            return Range(*(steam_simmering_g(self.minutes, self.temperature_c, self.pot_cm, self.lid, watts) for watts in powers))
        return steam_g(self.minutes, self.temperature_c, self.pot_cm, self.lid)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Water leaves as steam, with alcohol and acetic acid by their volatility. Error: that of `steam_g`. Source: mass balance."""
        t_c = self.stands_at_c(state, context)
        return _hot(state, context, Heating(t_c, self.minutes, self._steam(state, context), self.lid, ethanol_left=self.ethanol_left))

    def _steam(self, state: VesselState, context: StepContext) -> float:
        """Returns the steam in this pass [g]: as weighed, or by the pot; 0 for a dry powder."""
        if self.steam_g is None and is_dry(state.liquid):
            return 0.0
        return amount_in(context, self.lost(context.factor, state.temperature_c))


@dataclass(frozen=True, slots=True)
class BringTo(Dissolve):
    """Brought to a temperature and taken off, without holding."""

    verb: ClassVar[str] = "bring_to"
    title: ClassVar[Message] = template("Bring to {temperature_c}")
    title_alone: ClassVar[Message] = NOTHING
    temperature_c: float = celsius(85.0, 5.0, 100.0)
    minutes: float = minutes(8.0)

    def sentence(self, *, first: bool) -> Message:
        del first
        return message("Bring to the boil") if self.to_the_boil else self.title

    def lost_by_pot(self, from_c: float) -> Range:
        """Returns the steam on the way up [g]; to the boil as to 95 °C, because it does not stay there. Source: `steam_rising_g`."""
        to_c = min(self.temperature_c, HOTTEST_C)
        return steam_rising_g(self.minutes, min(max(0.0, from_c), to_c), to_c, self.pot_cm, self.lid)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """As `Dissolve`; what is brought to the boil is at its own boiling point. Source: `boiling_c`."""
        t_c = self.stands_at_c(state, context)
        return _hot(
            state, context, Heating(t_c, self.minutes, self._steam(state, context), self.lid, state.temperature_c, self.ethanol_left)
        )


@dataclass(frozen=True, slots=True)
class Hold(Dissolve):
    """Hold at a temperature."""

    verb: ClassVar[str] = "hold"
    title: ClassVar[Message] = template("Hold at {temperature_c} for {minutes}")
    title_alone: ClassVar[Message] = NOTHING
    usual_check: ClassVar[str] = "probe stays there"
    temperature_c: float = celsius(70.0, 5.0, 100.0)
    minutes: float = minutes(5.0)


@dataclass(frozen=True, slots=True)
class Simmer(Step):
    """Kept just at the boil for `minutes`: mass lost = net power × time / latent heat, by pot and lid."""

    verb: ClassVar[str] = "simmer"
    title: ClassVar[Message] = template("Simmer {names} {minutes}")
    title_alone: ClassVar[Message] = template("Simmer {minutes}")
    family: ClassVar[str] = "heat"
    scaled_up: ClassVar[Message] = message(
        "a fuller pan heats and cools slower and steams off less for its weight: weigh it after, and taste earlier."
    )
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 3.0
    usual_check: ClassVar[str] = "small bubbles, no rolling boil"
    minutes: float = minutes(10.0)
    power_w: Range = prior(SIMMER_W.value, SIMMER_W.low, SIMMER_W.high, "W into steam", 20000.0)
    lid: str = choice("half", "on", "off")
    pot_cm: float = number(USUAL_POT_CM, POT_CM.low, POT_CM.high, "cm", POT_CM.words)
    steam_g: Range | None = optional_range("g", 1e6)
    ethanol_left: Range | None = optional_range("of the alcohol", 1.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Steam = power × time / latent heat, as the lid allows; or `steam_g` as weighed, scaled with the batch. Source: energy balance."""
        dry = is_dry(state.liquid)
        boils = 100.0 if dry else boiling_c(state.liquid, context.pressure_kpa)
        if self.steam_g is not None:
            # A weighed loss belongs to the batch it was weighed at, so it grows with it.
            lost = amount_in(context, self.steam_g) * context.factor
        elif dry:
            lost = 0.0
        else:
            lost = steam_simmering_g(self.minutes, boils, self.pot_cm, self.lid, amount_in(context, self.power_w))
        return _hot(state, context, Heating(boils, self.minutes, lost, self.lid, ethanol_left=self.ethanol_left))


@dataclass(frozen=True, slots=True)
class Reduce(Step):
    """Boiled down to a fraction of its mass, a mass, a volume or a °Bx: the steam follows from the state to reach."""

    verb: ClassVar[str] = "reduce"
    family: ClassVar[str] = "heat"
    title: ClassVar[Message] = message("Reduce …")
    scaled_up: ClassVar[Message] = message("reducing goes by the pan's surface, not the volume: weigh to the end instead of timing it.")
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 6.0
    usual_check: ClassVar[str] = "weigh the pot; stop at the figure"
    tried: ClassVar[tuple[str, ...]] = ("to_fraction",)
    to_fraction: float | None = number(None, 0.02, 0.999, "of its weight", message("from 0.02 to 0.999 of its weight"))
    to_mass_g: float | None = number(None, 0.1, 1e6, "g", message("from 0.1 g to a tonne"))
    to_volume_ml: float | None = number(None, 0.1, 1e6, "mL", message("from 0.1 mL to 1 000 L, read at 20 °C"))
    to_brix: float | None = number(None, 0.5, 85.0, "°Bx", message("from 0.5 to 85 °Bx"))
    stops_within: Range = prior(1.0, 0.97, 1.03, "of the weight it stops at", 2.0)
    power_w: Range = prior(1200.0, 700.0, 1900.0, "W into steam", 20000.0)
    lid: str = choice("off", "half", "on")
    ethanol_left: Range | None = optional_range("of the alcohol", 1.0)

    @property
    def goal(self) -> tuple[str, float]:
        """Returns the one state to reach. Raises Refusal for none and for several."""
        given = [
            (name, value) for name in ("to_fraction", "to_mass_g", "to_volume_ml", "to_brix") if (value := getattr(self, name)) is not None
        ]
        if len(given) != 1:
            raise Refusal(
                message("A reduction needs one state to reach") if not given else message("A reduction cannot stop at two states"),
                remedy=message("Give one of a fraction, a weight, a volume line or a °Bx"),
                code="missing" if not given else "twice",
            )
        return given[0]

    def sentence(self, *, first: bool) -> Message:
        """Returns the sentence of the state to reach; that of any verb while there is none, or several."""
        del first
        try:
            name, value = self.goal
        except Refusal:
            return self.title
        if name == "to_fraction":
            return message("Reduce to {share} of its weight", share=percent(value))
        return message("Reduce to {goal}", goal=quantity(name.removeprefix("to_"), value))

    def _lost(self, state: VesselState, factor: float) -> float:
        name, value = self.goal
        liquid = state.liquid
        # A fraction needs no factor of the batch: it is of whatever stands in the vessel.
        if name == "to_fraction":
            return (1.0 - value) * state.mass_g
        if name == "to_mass_g":
            return state.mass_g - value * factor
        # Dissolved solids stay: their mass over the wanted °Bx is the mass that stays.
        if name == "to_brix":
            return liquid.solution.mass_g - sugar.brix(liquid) * liquid.solution.mass_g / value
        # A volume has no such short cut, since sugar and water do not add up.
        low, high = 0.0, liquid.of("water")
        for _ in range(60):
            middle = (low + high) / 2.0
            if volume_ml(without(liquid, Contents({"water": middle}))) > value * factor:
                low = middle
            else:
                high = middle
        return (low + high) / 2.0

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Water leaves until the state is reached; acetic acid and alcohol follow. `stops_within` is the precision of the stop.

        Raises Refusal for a state that is passed already, and for more steam than water. 2000 g of 15.5 °Bx to 40 °Bx loses 1225 g. Source: mass balance.
        """
        if state.mass_g <= 0:
            raise Refusal(message("There is nothing in the vessel to reduce"), remedy=message("Put the liquid in first"), code="empty")
        stop = context.value_of(self.stops_within)
        lost = self._lost(state, context.factor)
        # The stop is uncertain in the mass that stays, which is what a person weighs.
        ends = (state.mass_g - lost) * stop
        lost = state.mass_g - ends if lost > 0 else lost
        if lost <= 0:
            # Only this pass overshoots: at its own figure the step is possible, so nothing leaves.
            if stop != 1.0 and self._lost(state, context.factor) > 0:
                return Outcome(state)
            raise Refusal(
                message("It is further than that already"),
                bound=message(
                    "{mass} g at {brix} °Bx stand in the vessel",
                    mass=Computed(state.mass_g, decimals=0),
                    brix=Computed(sugar.brix(state.liquid), decimals=1),
                ),
                remedy=message("Add liquid, or leave the step out"),
                code="unreachable",
            )
        if lost >= state.liquid.of("water"):
            raise Refusal(
                message("{lost} g of steam cannot leave", lost=Computed(lost, decimals=0)),
                bound=message("the vessel holds {of} g of water", of=Computed(state.liquid.of("water"), decimals=0)),
                remedy=message("Stop earlier"),
                code="more_than_there_is",
            )
        # The time decides how much alcohol stays; it is that of the usual power, since passes vary the loss itself.
        mins = energy.minutes_to_drive_off(lost, 100.0, self.power_w.value)
        boils = boiling_c(state.liquid, context.pressure_kpa)
        done = _hot(state, context, Heating(boils, min(mins, MOST_RETENTION_MIN), lost, self.lid, ethanol_left=self.ethanol_left))
        removed = done.outgoing[0].contents if done.outgoing else Contents()
        spare = removed.mass_g - lost
        if spare > 0 and removed.of("water") > spare:
            # Alcohol and acid that left are part of the mass lost, so less water has to leave.
            back = Contents({"water": spare})
            steam = outgoing_stream("steam", "steam", without(removed, back))
            return Outcome(done.state.with_liquid(done.state.liquid + back), (steam, *done.outgoing[1:]))
        return done

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        lost = math.fsum(stream.contents.mass_g for stream in after.outgoing)
        power = self.power_w
        least, usual, most = (energy.minutes_to_drive_off(lost, 100.0, watts) for watts in (power.high, power.value, power.low))
        yield self.remark(
            "takes",
            "note",
            message(
                "{lost} of steam take about {usual} ({least} to {most}) on a full ring; weigh twice and Ulsek knows this pot.",
                lost=grams(lost),
                usual=Computed(usual, "min", 0),
                least=Computed(least, decimals=0),
                most=Computed(most, decimals=0),
            ),
        )
        if self.to_volume_ml is not None:
            yield self.remark(
                "line_at_20",
                "note",
                message(
                    "{to_volume} counts at 20 °C: at the boil the same liquid stands about a twenty-fifth higher.",
                    to_volume=Computed(self.to_volume_ml, "mL", 0),
                ),
            )
        if before.liquid.total(SUGARS) and after.state.liquid.mass_g:
            yield self.remark(
                "loses_aroma",
                "note",
                message("Reducing keeps sugar and acid and loses aroma."),
                message("Keep a sample of the start beside it"),
            )


@dataclass(frozen=True, slots=True)
class Caramelise(Step):
    """Sugar heated until it browns: water leaves, sugar becomes less sweet solids."""

    verb: ClassVar[str] = "caramelise"
    title: ClassVar[Message] = template("Caramelise at {temperature_c}")
    family: ClassVar[str] = "heat"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 10.0
    usual_check: ClassVar[str] = "colour of the house's sample"
    temperature_c: float = number(170.0, 140.0, 200.0, "°C", message("from 140 to 200 °C"))
    minutes: float = minutes(12.0)
    turned: Range = prior(0.15, 0.05, 0.30, "of the sugar", 0.95)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """All free water leaves; `turned` of the sugar becomes other solids, each gram releasing 0.05 g of water.

        Error: a factor of two in `turned`. Raises Refusal for a vessel without sugar. Source: house experience, mass balance.
        """
        if state.liquid.total(SUGARS) <= 0:
            raise Refusal(message("There is no sugar in the vessel to brown"), remedy=message("Put sugar in first"), code="no_sugar")
        share = share_in(context, self.turned, _MOST_TURNED)
        grams = dict(state.liquid.grams)
        browned = math.fsum(grams.get(key, 0.0) for key in SUGARS) * share
        # Browning spares no sugar; which goes first matters less than how far it is taken.
        for key in SUGARS:
            if key in grams:
                grams[key] *= 1.0 - share
        # No free water is left at these temperatures.
        steam = grams.pop("water", 0.0) + _WATER_OF_BROWNING * browned
        grams["other_solubles"] = grams.get("other_solubles", 0.0) + (1.0 - _WATER_OF_BROWNING) * browned
        left = replace(state, liquid=Contents(grams), temperature_c=self.temperature_c, hottest_c=self.temperature_c)
        return Outcome(left, (outgoing_stream("steam", "steam", Contents({"water": steam})),))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del before, after
        yield self.remark(
            "hot_sugar",
            "check",
            message(
                "Sugar at {temperature} °C burns deep and spits when liquid goes in.", temperature=Computed(self.temperature_c, decimals=0)
            ),
            message("Long sleeves, a wide pot, warm liquid in a thin stream, face away"),
        )
