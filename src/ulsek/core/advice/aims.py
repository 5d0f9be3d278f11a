"""Aims: the value that a figure of a vessel should have, and its open form."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, get_args

from ..base.figures import FIGURES, Bounds, quantity
from ..base.messages import Computed, Given, Message, listed, message, verbatim
from ..base.refusals import Refusal

AimProperty = Literal["brix", "brix_reading", "acid_g_100ml", "sugar_g_100ml", "abv", "volume_ml", "mass_g", "ph", "cost"]
Bound = Literal["is", "least", "most"]
AIMS: Mapping[str, Bounds] = {key: FIGURES[key].bounds for key in get_args(AimProperty) if key != "cost"} | {
    "cost": Bounds(0.0, 1e6, message("zero or more"))
}
"""What can be aimed at, with its bounds in words."""


_ROUNDING = 1e-7
"""Miss within which an aim without tolerance is met, relative to its value: what Newton's method leaves. Source: `solver`."""


@dataclass(frozen=True, slots=True)
class Aim:
    """What a figure should be, in its unit: `value` within its `tolerance` (`bound` "is"), at "least" it, or at "most" it."""

    property: AimProperty
    value: float
    tolerance: float = 0.0
    bound: Bound = "is"

    def miss(self, figure: float) -> float:
        """Returns the figure less the value, in the figure's unit; 0 if a bound is met."""
        # A bound is missed on one side only; “is” on both.
        off = figure - self.value
        return 0.0 if (self.bound == "least" and off > 0) or (self.bound == "most" and off < 0) else off

    def holds(self, figure: float) -> bool:
        """Returns True if a figure meets the aim."""
        return abs(self.miss(figure)) <= max(self.tolerance, _ROUNDING * max(1.0, abs(self.value)))

    def said(self) -> Message:
        """ "40.0 °Bx", "at most 5.00 in cost"."""
        if self.property == "cost":
            figure = message("{value} in cost", value=Computed(self.value))
        else:
            value = quantity(self.property, self.value)
            figure = message("pH {value}", value=value) if self.property == "ph" else verbatim(value)
        if self.bound == "is":
            return figure
        return message("at least {figure}", figure=figure) if self.bound == "least" else message("at most {figure}", figure=figure)


def read_aim(data: Any, where: str = "aims") -> Aim:
    """Returns an aim from its open form ``{"property", "value", "tolerance", "bound"}``. Raises Refusal, at its place, for a property, value or bound that
    cannot be aimed at.
    """
    if not isinstance(data, dict) or data.get("property") not in AIMS:
        raise Refusal(
            message("This is nothing to aim at"),
            f"{where}/property",
            message("choose one of {aims}", aims=listed(AIMS, "comma")),
            code="unknown_reference",
        )
    name = str(data["property"])
    low, high, words = AIMS[name]
    value, tolerance = data.get("value"), data.get("tolerance", 0.0)
    for key, number in (("value", value), ("tolerance", tolerance)):
        if isinstance(number, bool) or not isinstance(number, int | float) or not math.isfinite(number):
            raise Refusal(message("A number is missing"), f"{where}/{key}", words, code="missing")
    value, tolerance = float(value), float(tolerance)  # type: ignore[arg-type]
    if not low <= value <= high or tolerance < 0:
        raise Refusal(message("{value} is out of bounds", value=Given(value)), f"{where}/value", words, code="out_of_bounds")
    if data.get("bound", "is") not in ("is", "least", "most"):
        raise Refusal(
            message("“{bound}” is not known here", bound=data["bound"]), f"{where}/bound", message("choose one of is, least, most")
        )
    return Aim(name, value, tolerance, data.get("bound", "is"))  # type: ignore[arg-type]
