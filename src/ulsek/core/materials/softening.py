"""Softening: how plant tissue falls apart in the heat, by kind of fruit, and gives its inside to the liquid around it.

Kinds, paces and final shares are dated data in ``data/softening.json``: house experience, not a standard.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.messages import listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal

_AT_C = 95.0
"""Temperature [°C] at which the paces are given: a simmer."""
_FIRM_BELOW_C = 60.0
"""Below this [°C] cell walls hold: pectin does not come apart, and its own enzyme makes it firmer."""
_DOUBLES_PER_K = 10.0
RIND = ("zest", "peel", "stone", "core", "pips")
"""Parts of a fruit that stay pieces when its flesh falls apart."""


@dataclass(frozen=True, slots=True)
class Softening:
    """One kind of fruit: minutes at 95 °C until 63 % of what will fall apart has done so, and the share [0 to 1] that does in the end."""

    kind: str
    minutes: Range
    most: Range

    @property
    def pace(self) -> Range:
        """The pace [1/min] at 95 °C: the reciprocal of `minutes`, so that a high figure means softer fruit. 0.167 for berries."""
        return Range(1.0 / self.minutes.value, 1.0 / self.minutes.high, 1.0 / self.minutes.low)


@cache
def _data() -> Mapping[str, Any]:
    found: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "softening.json").read_text(encoding="utf-8"))
    return found


@cache
def softening(kind: str) -> Softening:
    """The figures of one kind. Raises Refusal for a kind that is not in the data. Source: house experience, `data/softening.json`."""
    kinds = _data()["kinds"]
    if kind not in kinds:
        raise Refusal(
            message("“{kind}” is no kind of fruit that softens", kind=kind),
            "softens",
            message("choose one of {kinds}", kinds=listed(kinds, "comma")),
            code="unknown_word",
        )
    low, value, high = kinds[kind]["minutes"]
    least, usual, most = kinds[kind]["most"]
    return Softening(kind, Range(value, low, high), Range(usual, least, most))


@cache
def kind_of(material: str, kind: str = "", group: str = "") -> str | None:
    """The softening kind of a material: by its key, else by its group in the juice table, else by what kind of material it is; None for what does not soften."""
    data = _data()
    named = next((name for name, keys in data["of"].items() if material in keys), None)
    found: str | None = named or data["by_group"].get(group) or data["by_kind"].get(kind)
    return found


@cache
def pulp_keeps(through: str) -> float:
    """Liquid that pulp keeps back in a sieve, a cloth or a bag [-], against the same fruit's `hold_g_g` in a sieve that nobody stirs. 0.65 stirred.

    Source: house experience, `data/softening.json`.
    """
    return float(_data()["pulp_keeps"][through])


def minutes_at_simmer(minutes: float, t_c: float, from_c: float | None = None) -> float:
    """Minutes at 95 °C [min] that soften as much as `minutes` [min] at `t_c` [°C], or as a steady rise from `from_c` [°C] to it.

    t × 2^((T − 95)/10), nothing below 60 °C; over a rise the mean of that between both temperatures. 10 min at 85 °C are 5; a rise of 8 min from 20
    to 100 °C is 1.9. Error: that of the doubling, a factor of one and a half. Source: house experience.
    """
    if t_c < _FIRM_BELOW_C:
        return 0.0
    rate = math.pow(2.0, (t_c - _AT_C) / _DOUBLES_PER_K)
    if from_c is None or from_c >= t_c:
        return minutes * rate
    begins = max(from_c, _FIRM_BELOW_C)
    soft = rate - math.pow(2.0, (begins - _AT_C) / _DOUBLES_PER_K)
    return minutes * _DOUBLES_PER_K / math.log(2.0) * soft / (t_c - from_c)


def fallen_apart(simmered_min: float, pace: float, most: float, cut: float = 1.0) -> float:
    """Share [0 to 1] of the tissue that has fallen apart after `simmered_min` [min] at 95 °C: most × (1 − exp(−pace × cut × t)).

    Cut fruit is twice as fast, crushed four times. 0.90 of whole berries after 18 min. Error: the kind's own range. Source: first-order softening, house experience.
    """
    return most * (1.0 - math.exp(-pace * cut * simmered_min))
