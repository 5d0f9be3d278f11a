"""Units: amounts as people write them, parsed with kitchen units by locale. The text is always kept.

Sources: US customary and imperial measures by definition (international yard and pound agreement 1959; UK Weights and Measures Act 1985); metric cup,
tablespoon and teaspoon as used in Australia and New Zealand (cup) and on metric spoon sets.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Literal

from .messages import message
from .numerals import DIGITS, FRACTION, decimal, fraction
from .refusals import Refusal
from .vocabulary import aliases

Locale = Literal["us", "imperial", "metric"]
LOCALES: tuple[Locale, ...] = ("us", "imperial", "metric")
Dimension = Literal["mass", "volume", "count"]

DROP_ML = 0.05
"""What one drop of a usual dropper holds [mL], until twenty of them are weighed; within a factor of two. House experience, not a standard."""

_MASS_G = {"g": 1.0, "kg": 1000.0, "mg": 0.001, "hg": 100.0, "oz": 28.349523125, "lb": 453.59237}
_VOLUME_ML = {"ml": 1.0, "cl": 10.0, "dl": 100.0, "l": 1000.0}
KITCHEN_ML: dict[Locale, dict[str, float]] = {
    "us": {
        "cup": 236.5882365,
        "tbsp": 14.78676478125,
        "tsp": 4.92892159375,
        "fl oz": 29.5735295625,
        "pint": 473.176473,
        "quart": 946.352946,
        "gallon": 3785.411784,
        "gill": 118.29411825,
        "dessertspoon": 9.8578431875,
    },
    "imperial": {
        "cup": 284.130625,
        "tbsp": 17.7581640625,
        "tsp": 5.91938802083,
        "fl oz": 28.4130625,
        "pint": 568.26125,
        "quart": 1136.5225,
        "gallon": 4546.09,
        "gill": 142.0653125,
        "dessertspoon": 11.83877604167,
    },
    "metric": {
        "cup": 250.0,
        "tbsp": 15.0,
        "tsp": 5.0,
        "fl oz": 30.0,
        # Nothing is sold by a metric pint: who writes of pints in a metric kitchen has them from the United Kingdom, or from the United States.
        "pint": 568.26125,
        "quart": 1136.5225,
        "gallon": 4546.09,
        "gill": 142.0653125,
        "dessertspoon": 10.0,
    },
}
CUP_WORDS: dict[Locale, str] = {"metric": "metric cups", "us": "US cups", "imperial": "imperial cups"}
"""What the cups of each locale are called."""
METRIC = ("g", "kg", "hg", "mg", "ml", "cl", "dl", "l")
_WRITTEN = re.compile(rf"^\s*(?P<sign>[-−]?)\s*(?P<number>{FRACTION}|{DIGITS})\s*(?P<unit>.*?)\s*$")
MOST_WRITTEN = 120
"""Letters of a written amount [count]: within it the pattern is fast whatever is repeated."""
KNOWN_UNITS = "g, kg, mg, oz, lb, mL, cL, dL, L, tsp, tbsp, cup, fl oz, pint, quart, each"


@dataclass(frozen=True, slots=True)
class Quantity:
    """A number with its unit resolved to grams, millilitres or pieces, and the text it was read from."""

    value: float
    dimension: Dimension
    written: str


def _number(found: re.Match[str], *, decimal_comma: bool = False) -> float:
    said = found["number"]
    if not re.fullmatch(DIGITS, said):
        return fraction(said).value
    numeral = decimal(said)
    # “66,667” in a field of its own has a decimal comma; in a recipe “1,000 g” is a kilogram.
    return numeral.other if decimal_comma and "," in said and numeral.other is not None else numeral.value


def unit_size(unit: str, locale: Locale) -> tuple[Dimension, float]:
    """Returns the dimension of a unit, by its key, and how many g, mL or pieces one is. Raises LookupError for an unknown unit."""
    if unit in _MASS_G:
        return "mass", _MASS_G[unit]
    if unit == "each":
        return "count", 1.0
    return "volume", (_VOLUME_ML | KITCHEN_ML[locale])[unit]


def _matched(written: str) -> re.Match[str] | None:
    if len(written) > MOST_WRITTEN:
        remedy = message("Write a number and a unit, such as 620 g")
        raise Refusal(
            message("This is too long for an amount"),
            bound=message("at most {most} letters", most=MOST_WRITTEN),
            remedy=remedy,
            code="too_long",
        )
    return _WRITTEN.match(written)


def read_number(written: str) -> float:
    """Returns a number as people type it: "1 1/2", "½", "1,34", "1 340". Raises Refusal for anything else, a unit after it included."""
    found = _matched(written)
    if not found or found["unit"]:
        raise Refusal(
            message("“{written}” is no number", written=written.strip()) if written.strip() else message("A number is missing"),
            remedy=message("Write figures, such as 0.62 or 1 1/2"),
        )
    number = _number(found, decimal_comma=True)
    if not math.isfinite(number):
        raise Refusal(
            message("“{written}” divides by zero", written=written.strip()), remedy=message("Write figures, such as 0.62 or 1 1/2")
        )
    return -number if found["sign"] else number


def parse_quantity(written: str, locale: Locale = "metric") -> Quantity:
    """Returns the grams, mL or pieces of a text such as "1 1/2 cups", "1,5 kg", "½ tsp", "3 each"; `locale` decides the size of cups and spoons.

    Raises Refusal for an empty text, more than `MOST_WRITTEN` letters, a number without a unit, an unknown unit, and amounts of zero or less. An ounce is a
    mass; a fluid ounce must be written "fl oz".
    """
    found = _matched(written)
    if not found:
        remedy = message("Write a number and a unit, such as 620 g")
        raise Refusal(
            message("The amount is empty")
            if not written.strip()
            else message("“{written}” cannot be read as an amount", written=written.strip()),
            remedy=remedy,
            code="unreadable_amount",
        )
    value = _number(found)
    if found["sign"] or value <= 0 or not math.isfinite(value):
        raise Refusal(
            message("“{written}” is not an amount to add", written=written.strip()),
            bound=message("it must be more than nothing"),
            remedy=message("Write a number above zero"),
            code="not_positive",
        )
    unit = found["unit"].casefold().rstrip(".")
    # Aliases of every language, since a pasted recipe does not say which it is in.
    unit = aliases("units").get(unit, unit)
    try:
        dimension, each = unit_size(unit, locale)
        return Quantity(value * each, dimension, written)
    except LookupError:
        pass
    if not unit:
        raise Refusal(
            message("“{written}” has no unit", written=written.strip()),
            remedy=message("Write one of {known_units}", known_units=KNOWN_UNITS),
            code="no_unit",
        )
    raise Refusal(
        message("“{unit}” is a unit that Ulsek does not know", unit=found["unit"]),
        bound=message("it knows {known_units}", known_units=KNOWN_UNITS),
        remedy=message("Weigh it and write grams"),
        code="unknown_unit",
    )
