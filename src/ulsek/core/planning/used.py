"""Pars from what was used: what a prep uses on each day of a week, and how much has to stand there so that it runs out seldom."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import NormalDist, fmean

from ..base.messages import Computed, Message, message
from .house_experience import figure
from .pars import Par

_WEEK = 7
_RUN_OUT_SHARE, _FRESH_SHARE = figure("par_from_use", "run_out_share"), figure("par_from_use", "run_out_share_in_a_day")
_LEAST_DAYS = int(figure("par_from_use", "least_days"))
_LEAST_SPREAD, _STEP_ML = figure("par_from_use", "least_spread_share"), figure("par_from_use", "step_ml")
WINDOW_DAYS = int(figure("par_from_use", "window_days"))
"""So many days back count for what a prep uses [d]; house experience: seasons change."""


@dataclass(frozen=True, slots=True)
class UsedBetween:
    """What was used of a prep [mL] on the days from `first` to `last`, both counted: a pour on one day, or the gap that a count found."""

    first: date
    last: date
    ml: float


@dataclass(frozen=True, slots=True)
class ParFromUse:
    """A par by use [mL], Monday first, with the mean use of each day; `days` were looked at. `said` tells what it rests on."""

    must_ml: tuple[float, ...]
    use_ml: tuple[float, ...]
    days: int
    said: Message

    @property
    def par(self) -> Par:
        """Returns the par to store: volumes rounded up to whole 10 mL. Source: house experience."""
        return Par(tuple(_STEP_ML * math.ceil(ml / _STEP_ML - 1e-9) for ml in self.must_ml), self.use_ml)


@dataclass(frozen=True, slots=True)
class BottleNote:
    """A record about one bottle on a day: the volume used `ml` [mL]; for a count the volume left, and the volume `before_ml` [mL] that was expected (None: not recorded).

    `bottle` identifies it, and `made` is the day from which it could be used.
    """

    bottle: int
    made: date
    day: date
    is_count: bool
    ml: float
    before_ml: float | None = None


def used_by_notes(notes: Iterable[BottleNote], earliest: date) -> tuple[UsedBetween, ...]:
    """Returns the use that follows from notes in order of time. What a count finds missing was used since the count before it, or since the bottle was made, not before `earliest`.

    A count that finds more than was expected is omitted.
    """
    found: list[UsedBetween] = []
    counted_on: dict[int, date] = {}
    for note in notes:
        if not note.is_count:
            found.append(UsedBetween(note.day, note.day, note.ml))
            continue
        since = min(note.day, counted_on.get(note.bottle, max(earliest, note.made)))
        counted_on[note.bottle] = note.day
        if note.before_ml is not None and note.before_ml > note.ml:
            found.append(UsedBetween(since, note.day, note.before_ml - note.ml))
    return tuple(found)


def daily_use(used: Iterable[UsedBetween], usual_ml: tuple[float, ...], today: date) -> dict[date, float]:
    """Returns the use [mL] of each day before `today`, from the first to the last day with a note; 0 for a day in between without one."""
    found = {day: ml for day, ml in by_day(used, usual_ml).items() if day < today}
    if not found:
        return {}
    first, last = min(found), max(found)
    return {day: found.get(day, 0.0) for day in (first + timedelta(days=n) for n in range((last - first).days + 1))}


def by_day(used: Iterable[UsedBetween], usual_ml: tuple[float, ...]) -> dict[date, float]:
    """Returns what was used on each day [mL]. What was found over several days is spread by the usual week (evenly where that is 0): 3 L over two days of which the second
    usually uses twice as much are 1 and 2 L.
    """
    found: dict[date, float] = {}
    for one in used:
        days = [one.first + timedelta(days=n) for n in range((one.last - one.first).days + 1)]
        weights = [usual_ml[day.weekday()] for day in days]
        total = math.fsum(weights)
        for day, weight in zip(days, weights, strict=True):
            found[day] = found.get(day, 0.0) + one.ml * (weight / total if total > 0.0 else 1.0 / len(days))
    return found


def run_out_share(lasts_days: int) -> float:
    """Returns the accepted probability [-] that a day uses more of a prep than its par, for a prep that can be served on `lasts_days` days: the longer it lasts, the smaller.

    Source: the critical ratio of the newsvendor problem, with the ends of house experience: 30 % for one day, 2 % from fifteen on; 15 % for two days.
    """
    return max(_RUN_OUT_SHARE, _FRESH_SHARE / max(1, lasts_days))


def _quantile(share: float, freedom: int) -> float:
    """Returns the upper point of Student's t that is exceeded with a share. Source: Cornish–Fisher expansion (Abramowitz and Stegun 26.7.5), within 1 % from 5 degrees
    of freedom on.
    """
    z = NormalDist().inv_cdf(1.0 - share)
    g1 = (z**3 + z) / 4.0
    g2 = (5.0 * z**5 + 16.0 * z**3 + 3.0 * z) / 96.0
    g3 = (3.0 * z**7 + 19.0 * z**5 + 17.0 * z**3 - 15.0 * z) / 384.0
    return z + g1 / freedom + g2 / freedom**2 + g3 / freedom**3


def par_from_use(days: Mapping[date, float], par_ml: tuple[float, ...], lasts_days: int) -> ParFromUse | None:
    """Returns the par that follows from the use of each day [mL]; None for fewer than three days. A weekday without observations gets the usual week's shape at the observed level.

    The spread is relative and pooled over the week: a Friday that uses four times as much varies four times as much. The par is the upper end of a prediction interval that a
    day exceeds with 2 %: mean · (1 + t · s · √(1 + 1/n)). Source: normal theory; at least 15 % spread, house experience.
    """
    if len(days) < _LEAST_DAYS:
        return None
    of = {weekday: [ml for day, ml in days.items() if day.weekday() == weekday] for weekday in range(_WEEK)}
    means = {weekday: fmean(values) for weekday, values in of.items() if values}
    known = math.fsum(par_ml[weekday] for weekday in means)
    level = math.fsum(means.values()) / known if known > 0.0 else 1.0
    # Means of one or two days are drawn to the shape of the usual week.
    use = []
    for weekday in range(_WEEK):
        usual, count = par_ml[weekday] * level, len(of[weekday])
        use.append((count * means[weekday] + usual) / (count + 1) if count else usual)
    errors = [ml / use[day.weekday()] - 1.0 for day, ml in days.items() if use[day.weekday()] > 0.0]
    freedom = max(2, len(errors) - len(means))
    spread = max(_LEAST_SPREAD, math.sqrt(math.fsum(one * one for one in errors) / freedom)) if errors else _LEAST_SPREAD
    share = run_out_share(lasts_days)
    t = _quantile(share, freedom)
    must = tuple(mean * (1.0 + t * spread * math.sqrt(1.0 + 1.0 / (len(of[weekday]) + 1))) for weekday, mean in enumerate(use))
    return ParFromUse(
        must,
        tuple(use),
        len(days),
        message(
            "By {n} days: one day varies by {spread} %, and it may run out on one day in {often}.",
            n=len(days),
            spread=Computed(100.0 * spread, decimals=0),
            often=Computed(1.0 / share, decimals=0),
        ),
    )
