"""Bounds: two checks of the inputs of every property."""

from __future__ import annotations

import math

from ..base.messages import NOTHING, Given, Message, message, span
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES

_ROUNDING_G = -1e-9
"""What subtraction may leave of nothing."""

DRY = 0.03
"""With no more water than this share of everything [g/g] it is powder with its own moisture and no solution; house judgement."""
LEAST_G = 1e-12


def is_solution(contents: Contents) -> bool:
    """Returns True if there is enough water to dissolve in: more than 3 % [g/g], which excludes powder with its moisture. Source: definition."""
    return checked_contents(contents).of("water") > max(LEAST_G, DRY * contents.mass_g)


def bounded(value: float, low: float, high: float, unit: str, what: Message, remedy: Message = NOTHING) -> float:
    """Returns `value` if it is from `low` to `high` [`unit`]. Raises Refusal for NaN and outside these bounds. Source: definition."""
    if low <= value <= high:
        return value
    if not isinstance(value, int | float) or math.isnan(value):
        raise Refusal(
            message("{what:capital} must be a number", what=what),
            bound=span(low, high, unit),
            code="not_finite",
        )
    raise Refusal(
        message("{value} is out of bounds for {what}", value=Given(value, unit), what=what),
        bound=span(low, high, unit),
        remedy=remedy,
        code="out_of_bounds",
    )


def checked_contents(contents: Contents) -> Contents:
    """Returns the contents if every substance is known and has a mass of 0 or more [g]. Raises Refusal for NaN, infinity and negative masses. Source:
    definition.
    """
    values = contents.grams.values()
    # A sum that is a finite number holds neither NaN nor infinity; this runs before every property.
    if not values or (min(values) >= _ROUNDING_G and math.fsum(values) < math.inf):
        return contents
    for key, grams in contents.grams.items():
        if not _ROUNDING_G <= grams < math.inf:
            raise Refusal(
                message(
                    "{grams} g of {substances} cannot be in a vessel",
                    grams=Given(grams),
                    substances=SUBSTANCES[key].name if key in SUBSTANCES else key,
                ),
                bound=message("every substance weighs zero grams or more"),
                remedy=message("Check what went in and what left"),
                code="not_finite" if math.isnan(grams) else "out_of_bounds",
            )
    return contents
