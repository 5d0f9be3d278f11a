"""Softening: how plant tissue disintegrates in heat, by kind of fruit, and releases its contents.

Kinds, rates and final shares are dated data in ``data/softening.json``: house experience, not a standard.
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
    """One kind of fruit: minutes at 95 °C until 63 % of what will disintegrate has done so, and the final share [0 to 1]; `drawn_g_g` is what dry sugar draws
    from it in the end [g/g], `draw_hours` when 63 % of that is drawn at 20 °C [h].
    """

    kind: str
    minutes: Range
    most: Range
    drawn_g_g: Range
    draw_hours: Range

    @property
    def pace(self) -> Range:
        """Rate [1/min] at 95 °C: the reciprocal of `minutes`, so that its high end is the softer fruit. 0.167 for berries."""
        return Range(1.0 / self.minutes.value, 1.0 / self.minutes.high, 1.0 / self.minutes.low)


@cache
def _data() -> Mapping[str, Any]:
    found: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "softening.json").read_text(encoding="utf-8"))
    return found


@cache
def softening(kind: str) -> Softening:
    """Returns the figures of one kind. Raises Refusal for a kind that is not in the data. Source: house experience, `data/softening.json`."""
    kinds = _data()["kinds"]
    if kind not in kinds:
        raise Refusal(
            message("“{kind}” is no kind of fruit that softens", kind=kind),
            "softens",
            message("choose one of {kinds}", kinds=listed(kinds, "comma")),
            code="unknown_word",
        )
    ranges = {name: Range(value, low, high) for name, (low, value, high) in kinds[kind].items()}
    return Softening(kind, **ranges)


@cache
def kind_of(material: str, kind: str = "", group: str = "") -> str | None:
    """Returns the softening kind of a material: by its key, else by its group in the juice table, else by its kind; None for what does not soften."""
    data = _data()
    named = next((name for name, keys in data["of"].items() if material in keys), None)
    found: str | None = named or data["by_group"].get(group) or data["by_kind"].get(kind)
    return found


@cache
def pulp_keeps(through: str) -> float:
    """Returns the liquid that pulp retains in a sieve, a cloth or a bag, relative to the fruit's `hold_g_g` in a sieve that is not stirred [-]. 0.65 stirred.

    Source: house experience, `data/softening.json`.
    """
    return float(_data()["pulp_keeps"][through])


def minutes_at_simmer(minutes: float, t_c: float, from_c: float | None = None) -> float:
    """Returns the time at 95 °C [min] that softens as much as `minutes` [min] at `t_c` [°C], or as a steady rise to it from `from_c` [°C].

    t × 2^((T − 95)/10), nothing below 60 °C; over a rise the mean of that between both temperatures. 10 min at 85 °C: 5; a rise of 8 min from 20 to 100 °C:
    1.9. Error: that of the doubling, a factor of one and a half. Source: house experience.
    """
    if t_c < _FIRM_BELOW_C:
        return 0.0
    rate = math.pow(2.0, (t_c - _AT_C) / _DOUBLES_PER_K)
    if from_c is None or from_c >= t_c:
        return minutes * rate
    # The integral of 2^((T − 95)/10) over a steady rise has this closed form.
    begins = max(from_c, _FIRM_BELOW_C)
    soft = rate - math.pow(2.0, (begins - _AT_C) / _DOUBLES_PER_K)
    return minutes * _DOUBLES_PER_K / math.log(2.0) * soft / (t_c - from_c)


def fallen_apart(simmered_min: float, pace: float, most: float, cut: float = 1.0) -> float:
    """Returns the share [0 to 1] of the tissue that has disintegrated after `simmered_min` [min] at 95 °C: most × (1 − exp(−pace × cut × t)).

    Cut fruit is twice as fast, crushed fruit four times. 0.90 of whole berries after 18 min. Error: the range of the kind. Source: first-order softening, house
    experience.
    """
    return most * (1.0 - math.exp(-pace * cut * simmered_min))
