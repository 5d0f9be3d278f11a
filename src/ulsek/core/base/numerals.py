"""Numbers as people write them: decimal and thousands marks, common and vulgar fractions, mixed numbers."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

VULGAR = {
    "½": 1 / 2, "⅓": 1 / 3, "⅔": 2 / 3, "¼": 1 / 4, "¾": 3 / 4, "⅛": 1 / 8, "⅜": 3 / 8, "⅝": 5 / 8, "⅞": 7 / 8, "⅕": 1 / 5, "⅖": 2 / 5, "⅗": 3 / 5, "⅘": 4 / 5, "⅙": 1 / 6, "⅚": 5 / 6,
}  # fmt: skip
"""Values of the vulgar fractions [-]. Source: Unicode, Number Forms."""
_SPACES = "\u0020\u00a0\u202f\u2009"
_SLASH = "/\u2044"
DIGITS = rf"(?:\d{{1,3}}(?:[{_SPACES}]\d{{3}})+(?![\d])(?:[.,]\d+)?|\d{{1,3}}(?:[.,'’]\d{{3}})+(?!\d)(?:[.,]\d+)?|\d+(?:[.,]\d+)?|[.,]\d+)"
"""Pattern of a decimal number, with thousands apart or not: “1 200”, “1,200.5”, “.5”."""
_BAR = rf"[{_SPACES}]?[{_SLASH}][{_SPACES}]?"
_OVER = rf"(?:\d+{_BAR}\d(?!\d)|(?<!\d)\d{_BAR}\d+|(?<!\d)\d\d{_BAR}(?:16|32|64|100)(?!\d))"
"""Pattern of a number over another. Two numbers of two digits, such as 65/20, are a fraction only over 16, 32, 64 or 100: else they are a temperature and a time."""
FRACTION = rf"(?:\d+[{_SPACES}]*[-–]?[{_SPACES}]*)??(?:[{''.join(VULGAR)}]|{_OVER})"
"""Pattern of a fraction or a mixed number: “½”, “1½”, “1 1/2”, “1-1/2”."""
_FRACTION = re.compile(
    rf"^(?:(?P<whole>\d+)[{_SPACES}]*[-–]?[{_SPACES}]*)??(?:(?P<vulgar>[{''.join(VULGAR)}])|(?P<top>\d+)[{_SPACES}]?[{_SLASH}][{_SPACES}]?(?P<bottom>\d+))$"
)
_GROUPED = re.compile(r"^\d{1,3}(?:([.,'’])\d{3})+$")


@dataclass(frozen=True, slots=True)
class Numeral:
    """A number as it was written. `other` is what it would be if its mark were the other one (1.500 as 1500); None if it can be read one way only."""

    value: float
    other: float | None = None


def decimal(text: str) -> Numeral:
    """Returns the value of a decimal number. A comma before exactly three digits divides thousands, a point does not, but both readings are given.

    “1,200.5” is 1200.5, “1.200,5” too; “1,000” is 1000 and may be 1; “1.500” is 1.5 and may be 1500; “2,5” is 2.5. Raises ValueError for other texts.
    """
    bare = re.sub(rf"[{_SPACES}'’]", "", text)
    comma, point = bare.rfind(","), bare.rfind(".")
    if comma >= 0 and point >= 0:
        mark, thousands = (",", ".") if comma > point else (".", ",")
        return Numeral(float(bare.replace(thousands, "").replace(mark, ".")))
    if bare.count(",") > 1 or bare.count(".") > 1:
        return Numeral(float(bare.replace(",", "").replace(".", "")))
    grouped = _GROUPED.match(bare)
    if grouped and not bare.startswith("0"):
        as_thousands, as_decimal = float(bare.replace(grouped[1], "")), float(bare.replace(",", "."))
        return Numeral(as_thousands, as_decimal) if grouped[1] == "," else Numeral(as_decimal, as_thousands)
    return Numeral(float(bare.replace(",", ".")))


def fraction(text: str) -> Numeral:
    """Returns the value of a fraction or a mixed number; infinity for a division by zero. Raises ValueError for other texts."""
    found = _FRACTION.match(text)
    if not found:
        raise ValueError(text)
    whole = float(found["whole"] or 0)
    if found["vulgar"]:
        return Numeral(whole + VULGAR[found["vulgar"]])
    bottom = float(found["bottom"])
    return Numeral(math.inf if bottom == 0 else whole + float(found["top"]) / bottom)
