"""Combine: verbs that put things together without heat."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar

from ..base.messages import Computed, Given, Message, grams, message, template
from ..base.remarks import Remark
from ..materials.vessel_state import SHELF_C, Outcome, VesselState
from ..properties.density import volume_ml
from .amounts import Target
from .step import Step, celsius, minutes, number

_WET_SHARE = 0.2
"""Mass share of water above which a mix is no dry one: sugar holds less as moisture. House judgement."""
_PROBE_OFF_K = 0.5
"""What a kitchen probe may show off [K]. House experience."""
_LINE_MOST_C = 25.0
"""Temperature [°C] up to which a line of 20 °C may be read: 5 K are 0.1 % of volume. Source: `volume_at_ml`."""


@dataclass(frozen=True, slots=True)
class Combine(Step):
    """Put the lines in and mix, without heat."""

    verb: ClassVar[str] = "combine"
    title: ClassVar[Message] = template("Stir in {names}")
    title_alone: ClassVar[Message] = message("Stir")
    family: ClassVar[str] = "combine"
    takes_lines: ClassVar[bool] = True

    def sentence(self, *, first: bool) -> Message:
        """Returns the sentence of a step that reaches a target or is the first one, else that of any verb."""
        # A target is what the person aims at: it is named before the things that reach it.
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

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        if before.liquid.of("water") > _WET_SHARE * before.liquid.mass_g:
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

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        if before.temperature_c > self.below_c + _PROBE_OFF_K:
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
    """Make up to the line: at 20 °C, after everything has dissolved, as much is added as the line asks."""

    verb: ClassVar[str] = "make_up"
    title: ClassVar[Message] = template("Make up to the line with {names}")
    title_alone: ClassVar[Message] = message("Make up to the line")
    family: ClassVar[str] = "combine"
    takes_lines: ClassVar[bool] = True
    usual_gear: ClassVar[tuple[str, ...]] = ("volumetric jug",)
    usual_check: ClassVar[str] = "lower edge of the curve on the line, at eye height"
    read_at_c: float = number(20.0, 4.0, 60.0, "°C", message("from 4 to 60 °C"))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del after
        # Five kelvin over 20 °C are a tenth of a percent of volume: less than the eye reads on a line.
        if before.temperature_c > _LINE_MOST_C and self.read_at_c == SHELF_C:
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

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        del before
        oil, gum = after.state.liquid.of("oil"), after.state.liquid.of("gum")
        if oil <= 0:
            yield self.remark("no_oil", "check", message("There is no oil to emulsify."), message("Put the oil in"))
            return
        # Too little gum leaves drops of oil uncovered, which run together and rise.
        if gum < self.gum_per_oil_least * oil:
            yield self.remark(
                "thin_emulsion",
                "check",
                message("{gum} of gum hold {oil} of oil: gum arabic wants one to two times the oil.", gum=grams(gum), oil=grams(oil)),
                message("Add {mass} more gum", mass=grams(self.gum_per_oil_least * oil - gum)),
            )
        # Per volume, since the concentrate is dosed by volume.
        load = 1e6 * oil / volume_ml(after.state.liquid)
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
