"""Pars: what must stand there of a prep at the start of each day of a usual week, and on a day that is not usual."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

from ..base.messages import WEEKDAYS, Given, message
from ..base.refusals import Refusal
from .house_experience import figure

MOST_PAR_ML = 1_000_000.0
"""Most of a prep that a par may ask for [mL]; house judgement: a thousand litres."""
TIMES = (0.0, 20.0)
"""Least and most times a usual day [-]; 0 is a day on which the house is closed. House judgement."""
USED_SHARE = figure("used_share_of_par")
"""Share of a par that is expected to be used on its day where nothing is known of its use. House experience."""
_WEEK = 7


@dataclass(frozen=True, slots=True)
class Par:
    """A par: `must_ml` [mL] for each day of a week, Monday first; `use_ml` [mL] what is expected to be used on it (None: a share of the par, by house experience)."""

    must_ml: tuple[float, ...]
    use_ml: tuple[float, ...] | None = None


@dataclass(frozen=True, slots=True)
class DayChange:
    """A day that is not usual: everything `times` as much as on a usual day, but for the preps in `must_ml` [mL], of which so much must stand there."""

    day: date
    name: str = ""
    times: float = 1.0
    must_ml: Mapping[str, float] = field(default_factory=dict)


def _checked_ml(value: float, where: str) -> float:
    if not math.isfinite(value) or not 0.0 <= value <= MOST_PAR_ML:
        raise Refusal(
            message("{volume} mL cannot stand there", volume=Given(value)),
            where,
            message("from 0 to {most} mL", most=Given(MOST_PAR_ML)),
            message("Write 0 for a day on which none is needed"),
            "out_of_bounds",
        )
    return float(value)


def checked_week(must_ml: Sequence[float], where: str = "must_ml") -> tuple[float, ...]:
    """Returns the volumes of a week [mL], Monday first. Raises Refusal at the weekday for a volume that is not finite or outside 0 to 1 000 000 mL, and at `where` unless there are seven."""
    if len(must_ml) != _WEEK:
        raise Refusal(
            message("A week has seven days"), where, message("{n} were given", n=len(must_ml)), message("Give one volume for each day")
        )
    return tuple(_checked_ml(value, f"{where}/{WEEKDAYS[n].text().lower()}") for n, value in enumerate(must_ml))


def checked_change(change: DayChange, today: date) -> DayChange:
    """Returns the change. Raises Refusal, at its place, for a day before `today`, and for a factor or a volume out of its bounds."""
    if change.day < today:
        raise Refusal(message("This day is over"), "day", remedy=message("Choose today or later"), code="out_of_bounds")
    if not math.isfinite(change.times) or not TIMES[0] <= change.times <= TIMES[1]:
        raise Refusal(
            message("{times} times a usual day cannot be", times=Given(change.times)),
            "times",
            message("from {low} to {high}", low=Given(TIMES[0]), high=Given(TIMES[1])),
            message("Write 0 for a day on which the house is closed"),
            "out_of_bounds",
        )
    for key, value in change.must_ml.items():
        _checked_ml(value, f"must_ml/{key}")
    return change


def must_and_use(
    key: str, par: Par, days: Iterable[date], changes: Mapping[date, DayChange]
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Returns (what must stand there, what is expected to be used) of a prep on each of the days [mL].

    2 L on Fridays, a party for which it takes half as much again: 3 L; of which 70 % are expected to be used where nothing is known. Never more is used than stands there.
    """
    must, use = [], []
    for day in days:
        usual = par.must_ml[day.weekday()]
        used = par.use_ml[day.weekday()] if par.use_ml is not None else USED_SHARE * usual
        change = changes.get(day)
        if change is not None:
            wanted = change.must_ml.get(key, usual * change.times)
            used = used * wanted / usual if usual > 0.0 else USED_SHARE * wanted
            usual = wanted
        must.append(usual)
        use.append(min(used, usual))
    return tuple(must), tuple(use)
