"""Inversion: acid and heat hydrolyse sucrose to glucose and fructose, so that a syrup crystallises less and tastes sweeter."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from ..base.messages import NOTHING, Computed, Given, Message, message, template
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.constants import GAS_J_MOL_K, ZERO_C_K
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, SUBSTANCES
from ..materials.vessel_state import Outcome, StepContext, VesselState
from ..properties.ph import ph
from .heat import Hold
from .step import amount_in, celsius, choice, minutes, prior

_RATE_25 = 3.4e-3
"""Rate [1/min] of the inversion of sucrose at 25 °C for each mol/L of hydrogen ions; published for strong acids, ±20 %."""
_ACTIVATION_J_MOL = 107_000.0
"""Activation energy [J/mol] of the inversion by acid; published values lie between 104 and 110 kJ/mol."""
_AT_K = 298.15


def inverted_share(minutes_: float, t_c: float, ph_: float, pace: float = 1.0) -> float:
    """Share [0 to 1] of the sucrose inverted after `minutes_` [0 to 600 000 min] at `t_c` [0 to 120 °C] and `ph_` [−1 to 14; alkali, which splits sugar
    otherwise, is not counted]: 1 − exp(−k t).

    k = 0.0034/min × [H⁺] × exp(107 000/R (1/298.15 − 1/T)), × `pace`. Half of it after 11 min at 100 °C and pH 2.5; 3 % in 20 min at 85 °C and pH 3.5. Error a
    factor of one and a half. Raises Refusal outside these bounds. Source: first-order kinetics of the acid inversion of sucrose, published rate and activation
    energy.
    """
    for value, low, high, what in (
        (minutes_, 0.0, 6e5, "min"),
        (t_c, 0.0, 120.0, "°C"),
        (ph_, -1.0, 14.0, "pH"),
        (pace, 0.0, 100.0, message("times")),
    ):
        if not low <= value <= high:
            raise Refusal(
                message("{value} {what} is outside the sum of inversion", value=Given(value), what=what),
                bound=message("from {low} to {high} {what}", low=Given(low), high=Given(high), what=what),
                code="out_of_bounds",
            )
    # Arrhenius from 25 °C, at which the rate was published.
    warmth = math.exp(_ACTIVATION_J_MOL / GAS_J_MOL_K * (1.0 / _AT_K - 1.0 / (t_c + ZERO_C_K)))
    # Catalysed by hydrogen ions: the rate is in proportion to their activity.
    return 1.0 - math.exp(-_RATE_25 * 10.0**-ph_ * warmth * pace * minutes_)


def inverted(contents: Contents, share: float) -> Contents:
    """Returns the liquid with `share` [0 to 1] of its sucrose hydrolysed: a gram gives 0.526 g each of glucose and fructose and takes 0.0526 g of water.

    Raises Refusal if there is too little water. Mass is conserved. Source: molar masses.
    """
    sucrose = contents.of("sucrose") * share
    # One molecule takes up one of water and becomes two of equal mass.
    half = sucrose * SUBSTANCES["glucose"].molar_mass / SUBSTANCES["sucrose"].molar_mass
    left = contents.taking("sucrose", sucrose).taking("water", 2.0 * half - sucrose)
    return left + Contents({"glucose": half, "fructose": half})


@dataclass(frozen=True, slots=True)
class Invert(Hold):
    """An acid syrup held hot so that part of its sucrose is hydrolysed to glucose and fructose."""

    verb: ClassVar[str] = "invert"
    title: ClassVar[Message] = template("Keep at {temperature_c} for {minutes}, for the sugar to invert")
    title_alone: ClassVar[Message] = NOTHING
    usual_check: ClassVar[str] = "by the clock and the probe; weigh it after"
    temperature_c: float = celsius(95.0, 40.0, 100.0)
    minutes: float = minutes(30.0)
    lid: str = choice("on", "half", "off")
    pace: Range = prior(1.0, 0.6, 1.6, "times the published rate", 20.0)

    def act(self, state: VesselState, context: StepContext) -> Outcome:
        """Heated as by `Hold`; sucrose inverts at the pH of the syrup. Raises Refusal for a vessel without sucrose or acid. Source: `inverted_share`, mass
        balance.
        """
        liquid = state.liquid
        if liquid.of("sucrose") <= 0:
            raise Refusal(
                message("There is no sucrose in the vessel to invert"), remedy=message("Put sugar and water in first"), code="no_sugar"
            )
        if liquid.total(ACIDS) <= 0:
            raise Refusal(
                message("Without acid nothing inverts here"),
                remedy=message("Put a gram or two of acid in for each kilogram of sugar"),
                code="no_acid",
            )
        done = Hold.act(self, state, context)
        # pH as it went in: acid does not leave, and what evaporates changes it by hundredths.
        share = inverted_share(self.minutes, done.state.temperature_c, ph(liquid), amount_in(context, self.pace))
        return replace(done, state=replace(done.state, liquid=inverted(done.state.liquid, share)))

    def remarks(self, before: VesselState, after: Outcome) -> Iterator[Remark]:
        yield from Hold.remarks(self, before, after)
        share = 1.0 - after.state.liquid.of("sucrose") / before.liquid.of("sucrose")
        yield self.remark(
            "inverted",
            "note",
            message(
                "About {share} % of the sucrose inverts at pH {ph} ({minutes} min).",
                share=Computed(100 * share, decimals=0),
                ph=Computed(ph(before.liquid), decimals=2),
                minutes=Given(self.minutes),
            ),
        )
