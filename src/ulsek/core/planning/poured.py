"""Materials used directly in drinks: the mass that each day uses, and when the stock runs out."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import fmean

_WEEK = 7


@dataclass(frozen=True, slots=True)
class Poured:
    """Mass of a material that is used directly in drinks on each day of a situation [g], and the names of those drinks."""

    per_day_g: tuple[float, ...]
    drinks: tuple[str, ...]


def weekday_means(days: Mapping[date, float]) -> tuple[float, ...]:
    """Returns the mean of each weekday, Monday first, in the unit of `days`. A weekday without observations gets the mean of all days; all are 0 without any observation."""
    if not days:
        return (0.0,) * _WEEK
    of: list[list[float]] = [[] for _ in range(_WEEK)]
    for day, amount in days.items():
        of[day.weekday()].append(amount)
    usual = fmean(days.values())
    return tuple(fmean(amounts) if amounts else usual for amounts in of)


def poured_before_g(per_day_g: Sequence[float], opens_min: Sequence[float], until_min: float) -> float:
    """Returns the mass used on the days that open before a moment [g]. Today counts in full, since its sales are not known yet."""
    return math.fsum(amount for amount, opens in zip(per_day_g, opens_min, strict=True) if opens < until_min)


def runs_out_min(per_day_g: Sequence[float], opens_min: Sequence[float], here_g: float) -> float | None:
    """Returns the opening of the first day during which the stock `here_g` [g] is used up [min from now]; None if it lasts through all of the days."""
    left = here_g
    for amount, opens in zip(per_day_g, opens_min, strict=True):
        left -= amount
        if left < 0.0:
            return opens
    return None
