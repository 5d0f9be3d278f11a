"""Materials that go straight into drinks: how much of them a usual day takes, and when they run out."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import fmean

_WEEK = 7


@dataclass(frozen=True, slots=True)
class Poured:
    """How much of a material goes straight into drinks on each day of a situation [g], and the names of the drinks."""

    per_day_g: tuple[float, ...]
    drinks: tuple[str, ...]


def weekday_means(days: Mapping[date, float]) -> tuple[float, ...]:
    """Returns the mean of each weekday, Monday first; a weekday without a day has the mean of all days, and everything is 0 without any day."""
    if not days:
        return (0.0,) * _WEEK
    of: list[list[float]] = [[] for _ in range(_WEEK)]
    for day, amount in days.items():
        of[day.weekday()].append(amount)
    usual = fmean(days.values())
    return tuple(fmean(amounts) if amounts else usual for amounts in of)


def poured_before_g(per_day_g: Sequence[float], opens_min: Sequence[float], until_min: float) -> float:
    """Returns how much is poured on the days that open before a moment [g]. Today counts whole: what was poured of it is not known before the till tells."""
    return math.fsum(amount for amount, opens in zip(per_day_g, opens_min, strict=True) if opens < until_min)


def runs_out_min(per_day_g: Sequence[float], opens_min: Sequence[float], here_g: float) -> float | None:
    """Returns when the first day opens during which `here_g` [g] is used up [min from now]; None if it lasts through all of the days."""
    left = here_g
    for amount, opens in zip(per_day_g, opens_min, strict=True):
        left -= amount
        if left < 0.0:
            return opens
    return None
