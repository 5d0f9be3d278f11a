"""The format of numbers: thousands apart by spaces that do not break, decimals by size or as given, and a unit behind them.

The front end prints numbers by the same rules (`web/src/parts/numbers.ts`); `npm run parity` compares both over the parity corpus.
"""

from __future__ import annotations

import math
from decimal import ROUND_HALF_UP, Context, Decimal

GAP = "\u00a0"
MINUS = "\N{MINUS SIGN}"
_EXACT = Context(prec=400, rounding=ROUND_HALF_UP)
"""Enough digits for every float, so that a number is rounded once, on its exact value."""
_UNITS_OF_PLACES = tuple(Decimal(1).scaleb(-places) for places in range(16))
_LEAST = 0.005


def places(value: float, decimals: int | None = None) -> int:
    """Decimals that a number is printed with: `decimals` where given, else none from 100 up, one from 10, two below.

    The limits are 99.95 and 9.995, which print as 100 and 10.0.
    """
    size = abs(value)
    return decimals if decimals is not None else 0 if size >= 99.95 else 1 if size >= 9.995 else 2


def figure(value: float, decimals: int | None = None) -> str:
    """A number as it is printed everywhere: rounded to the nearest at `places` decimals, an exact half away from zero.

    1234.5 is "1 235", 0.125 is "0.13", −3 is "−3.00"; what rounds to nothing has no sign, and what is not finite is "–". `decimals` from 0 to 15.
    """
    if not math.isfinite(value):
        return "–"
    rounded = Decimal(value).quantize(_UNITS_OF_PLACES[places(value, decimals)], context=_EXACT)
    printed = f"{rounded.copy_abs():,f}".replace(",", GAP)
    return MINUS + printed if rounded < 0 else printed


def amount(value: float, unit: str, decimals: int | None = None) -> str:
    """A figure and its unit with a space between that does not break. Without `decimals`, what is there and would print as nothing is "under 0.01"."""
    if decimals is None and 0.0 < value < _LEAST:
        return f"under 0.01{GAP}{unit}"
    return f"{figure(value, decimals)}{GAP}{unit}"


def grams(value: float) -> str:
    """A mass [g] as text: 1234.5 is "1 235 g"."""
    return amount(value, "g")
