"""Serving: how a drink is put together. Ice gives water while it chills; the amount is a house's own figure, with its range."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.messages import Computed, Message, grams, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.vessel_state import MELT, Outcome, StepContext, VesselState
from ..properties.density import volume_ml
from .step import Step, amount_in, celsius, minutes, prior

_LATENT_J_G, _WATER_J_GK = 333.6, 4.19
"""Heat that ice takes to melt, and that a thin drink gives for each degree. Source: IAPWS R10-06, water at 0 °C."""


_SURELY_TOO_LITTLE = 0.7
"""Share of the heat balance below which a melt cannot be true. House judgement."""


def least_melt_g(state: VesselState, to_c: float) -> float:
    """Returns the mass [g] of ice at 0 °C that must melt to chill a vessel to `to_c` [°C]: the heat balance alone, without glass, air or wet ice.

    100 g at 20 °C to 0 °C: 25.1 g. Below 0 °C the ice itself is colder, which is not counted. Source: heat balance, IAPWS R10-06.
    """
    # Only melting is counted: ice below 0 °C would take up 2 J more per gram and kelvin.
    return max(0.0, state.mass_g * _WATER_J_GK * (state.temperature_c - max(0.0, to_c)) / _LATENT_J_G)


@dataclass(frozen=True, slots=True)
class _OnIce(Step):
    """Base of the ways with ice: the share of it that melts into the drink, and the temperature reached."""

    family: ClassVar[str] = "serve"
    takes_lines: ClassVar[bool] = True
    melt_percent: Range = prior(22.0, 15.0, 30.0, "% of its weight in melted ice", 300.0)
    to_c: float = celsius(-1.0, -12.0, 15.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Melted ice comes in as water, `melt_percent` of the drink. Raises Refusal for an empty vessel. Source: mass balance, house experience."""
        if state.mass_g <= 0:
            raise Refusal(message("There is nothing to chill"), remedy=message("Put the drink in first"), code="empty")
        # The figure includes wet ice and the glass: house experience, not the heat balance.
        melt = Contents({"water": state.mass_g * amount_in(context, self.melt_percent) / 100.0})
        return Outcome(replace(state, liquid=state.liquid + melt, temperature_c=self.to_c), (), melt, MELT)

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        melt = after.gained.mass_g
        volume = volume_ml(before.liquid)
        yield self.remark(
            "dilution",
            "note",
            message(
                "{melt} of ice melt in: {before} become {after}.",
                melt=grams(melt),
                before=Computed(volume, "mL", 0),
                after=Computed(volume + melt, "mL", 0),
            ),
        )
        least = least_melt_g(before, self.to_c)
        # Below the heat balance the drink would not be cold; glass and air are not counted, so a margin stays.
        if melt < _SURELY_TOO_LITTLE * least:
            yield self.remark(
                "too_little_melt",
                "check",
                message(
                    "From {temperature} °C to {to} °C takes {least} of melted ice by the heat alone.",
                    temperature=Computed(before.temperature_c, decimals=0),
                    to=Computed(max(0.0, self.to_c), decimals=0),
                    least=grams(least),
                ),
                message("Chill it beforehand, or write what really melts: weigh a glass before and after"),
            )


@dataclass(frozen=True, slots=True)
class Build(_OnIce):
    """Put together in the glass, over ice."""

    verb: ClassVar[str] = "build"
    title: ClassVar[Message] = template("Build {names} in the glass over ice")
    title_alone: ClassVar[Message] = message("Build in the glass over ice")
    usual_hands_on_min: ClassVar[float] = 1.0
    usual_gear: ClassVar[tuple[str, ...]] = ("glass", "ice")
    melt_percent: Range = prior(14.0, 6.0, 22.0, "% of its weight in melted ice", 300.0)
    to_c: float = celsius(4.0, -12.0, 15.0)


@dataclass(frozen=True, slots=True)
class StirIce(_OnIce):
    """Stirred on ice and strained off it."""

    verb: ClassVar[str] = "stir_ice"
    title: ClassVar[Message] = template("Stir {names} on ice")
    title_alone: ClassVar[Message] = message("Stir on ice")
    usual_hands_on_min: ClassVar[float] = 1.5
    usual_gear: ClassVar[tuple[str, ...]] = ("mixing jug", "bar spoon", "ice")


@dataclass(frozen=True, slots=True)
class Shake(_OnIce):
    """Shaken hard on ice and strained off it."""

    verb: ClassVar[str] = "shake"
    title: ClassVar[Message] = template("Shake {names} hard on ice")
    title_alone: ClassVar[Message] = message("Shake hard on ice")
    usual_hands_on_min: ClassVar[float] = 1.5
    usual_gear: ClassVar[tuple[str, ...]] = ("shaker", "ice", "fine sieve")
    melt_percent: Range = prior(30.0, 22.0, 42.0, "% of its weight in melted ice", 300.0)
    to_c: float = celsius(-4.0, -12.0, 15.0)


@dataclass(frozen=True, slots=True)
class BlendIce(_OnIce):
    """Blended with ice; all of the ice stays in the glass."""

    verb: ClassVar[str] = "blend_ice"
    title: ClassVar[Message] = template("Blend {names} with ice")
    title_alone: ClassVar[Message] = message("Blend with ice")
    usual_hands_on_min: ClassVar[float] = 2.0
    usual_gear: ClassVar[tuple[str, ...]] = ("blender", "ice")
    melt_percent: Range = prior(110.0, 80.0, 150.0, "% of its weight in melted ice", 300.0)
    to_c: float = celsius(-5.0, -12.0, 15.0)


@dataclass(frozen=True, slots=True)
class DryShake(Step):
    """Shaken without ice, for foam."""

    verb: ClassVar[str] = "dry_shake"
    title: ClassVar[Message] = template("Shake {names} without ice")
    title_alone: ClassVar[Message] = message("Shake without ice")
    family: ClassVar[str] = "serve"
    takes_lines: ClassVar[bool] = True
    usual_hands_on_min: ClassVar[float] = 1.0
    usual_gear: ClassVar[tuple[str, ...]] = ("shaker",)
    usual_check: ClassVar[str] = "foam stands"
    minutes: float = minutes(0.3)
