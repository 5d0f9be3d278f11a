"""Numbers put into words: figures with spaces that do not break, rounded as a maker would say them."""

from __future__ import annotations

GAP = "\u00a0"


def figure(value: float, decimals: int | None = None) -> str:
    """A number as the bench prints it: thousands apart by a space that does not break, sensible decimals.

    Without `decimals`: none from 100 up, one from 10, two below.
    """
    size = abs(value)
    places = decimals if decimals is not None else (0 if size >= 99.95 else 1 if size >= 9.995 else 2)
    printed = f"{value:,.{places}f}".replace(",", GAP)
    zero = not any(digit in printed for digit in "123456789")
    return printed.lstrip("-") if zero else printed.replace("-", "\N{MINUS SIGN}")


_LEAST = 0.005


def amount(value: float, unit: str, decimals: int | None = None) -> str:
    """A figure and its unit with a space between that does not break. What is there and would print as nothing is “under 0.01”."""
    if decimals is None and 0.0 < value < _LEAST:
        return f"under 0.01{GAP}{unit}"
    return f"{figure(value, decimals)}{GAP}{unit}"


def grams(value: float) -> str:
    return amount(value, "g")


UNIT_OF = {
    "mass_g": "g",
    "volume_ml": "mL",
    "brix": "°Bx",
    "brix_reading": "°Bx",
    "acid_g_100ml": "g/100 mL",
    "sugar_g_100ml": "g/100 mL",
    "abv": "% vol",
    "density_g_ml": "g/mL",
    "ph": "",
    "water_activity": "",
    "freezing_c": "°C",
    "boiling_c": "°C",
    "viscosity_mpa_s": "mPa·s",
    "sweetness_g_100ml": "g/100 mL",
    "acid_g_100g": "g/100 g",
    "abw": "% w/w",
    "carbonation_g_l": "g/L",
}

DECIMALS_OF = {
    "brix": 1,
    "brix_reading": 1,
    "acid_g_100ml": 2,
    "sugar_g_100ml": 1,
    "abv": 1,
    "density_g_ml": 3,
    "ph": 2,
    "water_activity": 3,
    "freezing_c": 1,
    "boiling_c": 1,
    "sweetness_g_100ml": 1,
    "acid_g_100g": 2,
    "abw": 1,
    "carbonation_g_l": 1,
}

NAME_OF = {
    "mass_g": "weight",
    "volume_ml": "volume",
    "brix": "dissolved solids",
    "brix_reading": "the refractometer's reading",
    "acid_g_100ml": "titratable acid",
    "sugar_g_100ml": "sugars",
    "abv": "alcohol",
    "density_g_ml": "density",
    "ph": "pH",
    "water_activity": "water activity",
    "freezing_c": "freezing point",
    "boiling_c": "boiling point",
    "viscosity_mpa_s": "viscosity",
    "sweetness_g_100ml": "sweetness, as sugar",
    "acid_g_100g": "titratable acid by weight",
    "abw": "alcohol by weight",
    "carbonation_g_l": "carbon dioxide",
}


def of(quantity: str, value: float) -> str:
    """A value of a named property with its unit: ``of("brix", 40)`` is "40.0 °Bx"."""
    unit = UNIT_OF[quantity]
    return amount(value, unit, DECIMALS_OF.get(quantity)) if unit else figure(value, DECIMALS_OF.get(quantity))
