"""Values with their uncertainty."""

from __future__ import annotations

import math
from dataclasses import dataclass

from .messages import Given, message
from .refusals import Refusal

NORMAL_95 = 1.645
"""Standard deviations of a normal distribution below which 95 % of it lie: half of a 5 to 95 % range. Source: definition."""


@dataclass(frozen=True, slots=True)
class Range:
    """A best value with its 5 and 95 % points, all in one unit. It is exact if the three are equal."""

    value: float
    low: float
    high: float

    @classmethod
    def exact(cls, value: float) -> Range:
        """Returns a value without uncertainty."""
        return cls(value, value, value)

    @classmethod
    def around(cls, value: float, half_width: float, floor: float = -math.inf) -> Range:
        """Returns `value` ± `half_width`, the low end at least `floor` (a physical bound)."""
        return cls(value, max(floor, value - half_width), value + half_width)

    @property
    def is_exact(self) -> bool:
        """True if the three values are equal."""
        return self.low == self.value == self.high

    @property
    def half_width(self) -> float:
        """Half of the distance between the ends, in the unit of the value."""
        return (self.high - self.low) / 2

    def at(self, z: float) -> float:
        """Returns the value moved by `z` half-ranges: 0 is the best value, 1 the high end, −1 the low end, linear between and beyond."""
        return self.value + z * ((self.high - self.value) if z > 0 else (self.value - self.low))

    def times(self, factor: float) -> Range:
        """Returns the range multiplied by `factor` [0 or more]: a spread as multiples becomes one in the unit of the factor."""
        return Range(self.value * factor, self.low * factor, self.high * factor)

    @classmethod
    def read(cls, data: object, where: str, *, floor: float = 0.0, ceiling: float = math.inf) -> Range:
        """Returns a range from an open file: a plain number (exact) or ``{"value", "low", "high"}``. Raises Refusal for values out of order or bound."""
        if isinstance(data, dict):
            try:
                found = cls(float(data["value"]), float(data["low"]), float(data["high"]))
            except (KeyError, TypeError, ValueError):
                raise Refusal(
                    message("A range needs value, low and high as numbers"), where, remedy=message("Write all three, or one plain number")
                ) from None
        elif isinstance(data, int | float) and not isinstance(data, bool):
            found = cls.exact(float(data))
        else:
            what = message("A number is missing") if data is None else message("“{data}” is no number", data=str(data)[:80])
            raise Refusal(what, where, remedy=message("Write a number, or value, low and high"))
        if not all(math.isfinite(part) for part in (found.value, found.low, found.high)):
            raise Refusal(message("A range must be of finite numbers"), where)
        if not found.low <= found.value <= found.high:
            raise Refusal(
                message(
                    "The range {low} to {high} does not hold its value {found}",
                    low=Given(found.low),
                    high=Given(found.high),
                    found=Given(found.value),
                ),
                where,
                remedy=message("Put low, value and high in order"),
            )
        if found.low < floor or found.high > ceiling:
            raise Refusal(
                message("{low} to {high} is out of bounds", low=Given(found.low), high=Given(found.high)),
                where,
                message("{floor} to {ceiling} is possible", floor=Given(floor), ceiling=Given(ceiling)),
            )
        return found
