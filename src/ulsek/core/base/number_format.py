"""Number format: groups of thousands separated by spaces that do not break, decimals by size or as given, and a unit.

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
LEAST_PRINTED = 0.005
"""The least value that is printed by its size; below it is "under 0.01"."""


_NO_DECIMALS_FROM, _ONE_DECIMAL_FROM = 99.95, 9.995
"""Sizes that round to 100 and to 10.0: a number is never printed with four figures because of its last one."""
_PLAIN = (1e-6, 1e15)
"""Sizes between which an input is written in full: outside, zeros would be counted wrong."""


def places(value: float, decimals: int | None = None) -> int:
    """Returns how many decimals a number is printed with: `decimals` if given, else none from 100 up, one from 10, two below.

    The limits are 99.95 and 9.995, which print as 100 and 10.0.
    """
    size = abs(value)
    return decimals if decimals is not None else 0 if size >= _NO_DECIMALS_FROM else 1 if size >= _ONE_DECIMAL_FROM else 2


def figure(value: float, decimals: int | None = None) -> str:
    """Returns a number as text, rounded to the nearest at `places` decimals, an exact half away from zero.

    1234.5 is "1 235", 0.125 is "0.13", −3 is "−3.00". A number that rounds to zero has no sign; one that is not finite is "–". `decimals` from 0 to 15.
    """
    if not math.isfinite(value):
        return "–"
    rounded = Decimal(value).quantize(_UNITS_OF_PLACES[places(value, decimals)], context=_EXACT)
    printed = f"{rounded.copy_abs():,f}".replace(",", GAP)
    return MINUS + printed if rounded < 0 else printed


def given(value: float, digits: int = 6) -> str:
    """Returns an input or a bound as text: its whole part in full, otherwise at most `digits` significant digits, no trailing zeros.

    62.5 is "62.5", 1234567.4 is "1 234 567", −30 is "−30". From 1e15 on, below 1e-6, and for a number that is not finite it is "1e+300", "1e-09", "inf", as
    Python writes it, so that the text of a typing error stays short.
    """
    size = abs(value)
    if not math.isfinite(value) or not (size == 0 or _PLAIN[0] <= size < _PLAIN[1]):
        return f"{value:.{digits}g}"
    printed = f"{Decimal(f'{value:.{max(digits, len(str(int(size))))}g}'):,f}"
    return printed.replace(",", GAP).replace("-", MINUS)


def amount(value: float, unit: str, decimals: int | None = None) -> str:
    """Returns the text of `figure` and a unit, with spaces that do not break. Without `decimals`, a value above 0 that would print as 0 is "under 0.01"."""
    printed = "under 0.01" if decimals is None and 0.0 < value < LEAST_PRINTED else figure(value, decimals)
    return f"{printed} {unit}".replace(" ", GAP)


def grams(value: float) -> str:
    """Returns a mass [g] as text: 1234.5 is "1 235 g"."""
    return amount(value, "g")
