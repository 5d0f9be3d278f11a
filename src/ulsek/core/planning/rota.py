"""The rota: who is free when, and where the hands-on times of a batch fit, as late as possible or as soon as possible."""

from __future__ import annotations

import math
from bisect import bisect, insort
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from itertools import islice

from .house_experience import figure
from .prep_facts import HandsOn, PrepFacts
from .situation import Worker

_GRID_MIN = figure("grid_min")
_LONGER_ALWAYS_MIN, _LONGER_FROM_MIN, _LONGER_SHARE = (figure("wait_may_be_longer", name) for name in ("always_min", "from_min", "share"))
_OVERLONG_MIN = figure("wait_may_be_longer", "at_worst_min")
_SEARCHED_MIN = figure("searched_days") * 1440.0
_EVEN = 1e-6
"""Moments closer than that are the same [min]."""
_AT_LEAST = HandsOn(0.0, 1.0)
"""A batch that needs no hands at all still needs somebody who begins it."""


@dataclass(frozen=True, slots=True)
class HandsAt:
    """A time interval in which one person works on a batch [min from now]; `worker` is empty in a list by the clock alone."""

    worker: str
    from_min: float
    until_min: float


@dataclass(frozen=True, slots=True)
class Placement:
    """Where a batch fits: its hands-on times with who does them, and when it may be poured [min from now].

    `overlong_min`: how much longer than it may [min] a wait goes on, because nobody is there when it is over.
    """

    hands: tuple[HandsAt, ...]
    ready_min: float
    overlong_min: float = 0.0

    @property
    def start_min(self) -> float:
        """When it is begun [min from now]."""
        return self.hands[0].from_min


def _longer_min(wait_min: float, *, overlong: bool) -> float:
    """Returns the allowed delay [min] after a wait of `wait_min` [min]: 10 min, or 25 % of a wait of two hours and more; 16 h for such a wait if `overlong`.

    Source: house experience. A schedule reports an overlong wait.
    """
    if wait_min < _LONGER_FROM_MIN:
        return _LONGER_ALWAYS_MIN
    return max(_LONGER_ALWAYS_MIN, _OVERLONG_MIN if overlong else _LONGER_SHARE * wait_min)


class Rota:
    """Who is in and who is busy. A batch begins on a quarter of an hour by the clock of the house."""

    def __init__(self, workers: Iterable[Worker], now: datetime, *, by_the_clock: bool) -> None:
        self._workers = {worker.key: worker for worker in workers}
        self._windows = {key: sorted(one.windows, key=lambda window: window.from_min) for key, one in self._workers.items()}
        self._ends = {key: [window.until_min for window in windows] for key, windows in self._windows.items()}
        self._busy: dict[str, list[tuple[float, float]]] = {key: [] for key in self._workers}
        self._load = dict.fromkeys(self._workers, 0.0)
        self._soonest: dict[tuple[str, float, str], Placement | None] = {}
        self._least_ready: dict[tuple[str, str], tuple[float, float]] = {}
        self._by_the_clock = by_the_clock
        self._first = (-(now.minute + now.second / 60.0 + now.microsecond / 6e7)) % _GRID_MIN

    def _down(self, at_min: float) -> float:
        return math.floor((at_min - self._first) / _GRID_MIN + 1e-9) * _GRID_MIN + self._first

    def _up(self, at_min: float) -> float:
        return math.ceil((at_min - self._first) / _GRID_MIN - 1e-9) * _GRID_MIN + self._first

    def _first_free(self, worker: str, from_min: float, latest_min: float, minutes: float) -> float | None:
        """Returns the first moment from `from_min` on [min from now] at which a worker is present and free for `minutes`; None if it is after `latest_min`."""
        busy = self._busy[worker]
        windows = self._windows[worker]
        for n in range(bisect(self._ends[worker], from_min + minutes - _EVEN), len(windows)):
            window = windows[n]
            at = max(from_min, window.from_min)
            if at > latest_min:
                return None
            # The times do not overlap, so that their ends are in order too.
            for begins, ends in islice(busy, max(0, bisect(busy, (at, math.inf)) - 1), None):
                if begins >= at + minutes or at > latest_min:
                    break
                at = max(at, ends)
            if at <= latest_min and at + minutes <= window.until_min + _EVEN:
                return at
        return None

    def _by_clock(self, parts: tuple[HandsOn, ...], facts: PrepFacts, start: float) -> Placement:
        hands, at = [], start
        for n, part in enumerate(parts):
            at += part.wait_min if n else 0.0
            hands.append(HandsAt("", at, at + part.minutes))
            at += part.minutes
        return Placement(tuple(hands), at + facts.ready_wait_min)

    def _begun(self, worker: str, parts: tuple[HandsOn, ...], facts: PrepFacts, start: float, *, overlong: bool) -> Placement | None:
        """Returns the placement of a batch that a worker, free at `start`, begins then; None if one of its later periods of hands-on work finds nobody within the allowed delay."""
        hands = [HandsAt(worker, start, start + parts[0].minutes)]
        longer = 0.0
        for part in parts[1:]:
            due = hands[-1].until_min + part.wait_min
            found = self._taken_up(worker, due, part, overlong=overlong)
            if found is None:
                return None
            if found.from_min - due > _longer_min(part.wait_min, overlong=False) + _EVEN:
                longer += found.from_min - due
            hands.append(found)
        return Placement(tuple(hands), hands[-1].until_min + facts.ready_wait_min, longer)

    def _taken_up(self, first: str, due: float, part: HandsOn, *, overlong: bool) -> HandsAt | None:
        """Returns the person and interval of a hands-on time that is due at `due` [min from now]: the earliest within the allowed delay, the person who started the batch if two
        are equally early. None if nobody is available.
        """
        latest, best = due + _longer_min(part.wait_min, overlong=overlong), None
        for worker in (first, *(key for key in self._windows if key != first)):
            at = self._first_free(worker, due, latest if best is None else best.from_min - _EVEN, part.minutes)
            if at is not None:
                best = HandsAt(worker, at, at + part.minutes)
                if at <= due + _EVEN:
                    break
        return best

    def _starts_back(self, worker: str, latest: float, earliest: float, minutes: float) -> Iterator[float]:
        """Yields the start times on the grid at which a worker is free for `minutes`, in descending order [min from now]."""
        busy = self._busy[worker]
        for window in reversed(self._windows[worker]):
            start = self._down(min(latest, window.until_min - minutes))
            lowest = max(window.from_min, earliest) - _EVEN
            while start >= lowest:
                before = bisect(busy, (start + minutes - _EVEN, -math.inf)) - 1
                if before >= 0 and busy[before][1] > start + _EVEN:
                    start = self._down(busy[before][0] - minutes)
                    continue
                yield start
                start -= _GRID_MIN

    def _starts_on(self, worker: str, earliest: float, minutes: float) -> Iterator[float]:
        """Yields the start times on the grid at which a worker is free for `minutes`, in ascending order [min from now]."""
        busy = self._busy[worker]
        for window in self._windows[worker]:
            start = self._up(max(earliest, window.from_min))
            while start + minutes <= window.until_min + _EVEN:
                before = bisect(busy, (start + minutes - _EVEN, -math.inf)) - 1
                if before >= 0 and busy[before][1] > start + _EVEN:
                    start = self._up(busy[before][1])
                    continue
                yield start
                start += _GRID_MIN

    def latest(self, facts: PrepFacts, by_min: float, earliest_min: float, only: str = "") -> Placement | None:
        """Returns the placement with the latest start that is ready by `by_min` and starts at `earliest_min` or later [min from now]; None if there is none.

        Waits without overlong delay are preferred, then workers who are cleared for it. `only` names the worker who must begin it.
        """
        parts = facts.hands or (_AT_LEAST,)
        last_start = by_min - max(facts.takes_min, parts[0].minutes)
        # Hands only become fewer, so what could not be ready by a moment still cannot.
        since, least = self._least_ready.get((facts.key, only), (math.inf, 0.0))
        if earliest_min >= since and least > by_min + _EVEN:
            return None
        if self._by_the_clock:
            start = self._down(last_start)
            return self._by_clock(parts, facts, start) if start >= earliest_min else None
        # Waits as they should be before waits that go on too long; who is cleared before who is not.
        for overlong in (False, True):
            for group in self._groups(facts.key, only):
                best = self._latest_of(group, facts, parts, (earliest_min, last_start, by_min), overlong=overlong)
                if best is not None:
                    return best
        return None

    def _latest_of(
        self, group: list[str], facts: PrepFacts, parts: tuple[HandsOn, ...], span: tuple[float, float, float], *, overlong: bool
    ) -> Placement | None:
        earliest, last_start, by = span
        best: Placement | None = None
        for worker in group:
            for start in self._starts_back(worker, last_start, earliest, parts[0].minutes):
                if best is not None and start <= best.start_min:
                    break
                found = self._begun(worker, parts, facts, start, overlong=overlong)
                if found is not None and found.ready_min <= by + _EVEN:
                    best = found
                    break
        return best

    def soonest(self, facts: PrepFacts, earliest_min: float, only: str = "") -> Placement | None:
        """Returns the placement that is ready first, of those that start from `earliest_min` to seven days later; None if there is none."""
        parts = facts.hands or (_AT_LEAST,)
        if self._by_the_clock:
            return self._by_clock(parts, facts, self._up(earliest_min))
        known = (facts.key, earliest_min, only)
        if known not in self._soonest:
            found = self._searched(facts, parts, earliest_min, only, overlong=False)
            found = found or self._searched(facts, parts, earliest_min, only, overlong=True)
            self._soonest[known] = found
            self._least_ready[facts.key, only] = (earliest_min, found.ready_min if found is not None else math.inf)
        return self._soonest[known]

    def _searched(
        self, facts: PrepFacts, parts: tuple[HandsOn, ...], earliest_min: float, only: str, *, overlong: bool
    ) -> Placement | None:
        best: Placement | None = None
        for worker in (key for group in self._groups(facts.key, only) for key in group):
            for start in self._starts_on(worker, earliest_min, parts[0].minutes):
                if start > earliest_min + _SEARCHED_MIN or (best is not None and start + facts.takes_min >= best.ready_min):
                    break
                found = self._begun(worker, parts, facts, start, overlong=overlong)
                if found is not None:
                    best = found if best is None or found.ready_min < best.ready_min else best
                    break
        return best

    def _groups(self, prep: str, only: str) -> Iterator[list[str]]:
        """Yields groups of workers who may begin a batch, in order of preference: `only` alone if it is given, else the cleared ones and then the others, the least busy first."""
        if only in self._workers:
            yield [only]
            return
        by_load = sorted(self._workers, key=lambda key: (self._load[key], key))
        yield [key for key in by_load if self._workers[key].is_cleared(prep)]
        yield [key for key in by_load if not self._workers[key].is_cleared(prep)]

    def take(self, placement: Placement) -> None:
        """Marks the times of a batch as busy."""
        self._soonest.clear()
        for one in placement.hands:
            if one.worker:
                insort(self._busy[one.worker], (one.from_min, one.until_min))
                self._load[one.worker] += one.until_min - one.from_min
