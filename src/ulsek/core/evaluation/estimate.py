"""Belief: where each uncertain input stands, how sure that is, and what a reading teaches.

Inputs are grouped per material and per process step; a juice has two groups, its °Bx and its acid, which rise and fall together
until one is read. A group's position is counted in half-ranges (5 to 95 %) from its best value, with variance 1 before any
reading. A reading moves the groups by linear least squares.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from ..base.ranges import Range

MOST_GROUPS = 16


@dataclass(frozen=True)
class Belief:
    """Mean position and covariance of the groups, in half-ranges."""

    groups: tuple[str, ...]
    mean: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]

    @classmethod
    def before_readings(cls, groups: Sequence[str], together: Mapping[tuple[str, str], float] | None = None) -> Belief:
        """Every group at its best value; `together` holds the correlation of pairs that rise and fall together."""
        pairs = together or {}
        rows = (tuple(1.0 if one == other else pairs.get((one, other), pairs.get((other, one), 0.0)) for other in groups) for one in groups)
        return cls(tuple(groups), (0.0,) * len(groups), tuple(rows))

    def covering(self, groups: Sequence[str]) -> Belief:
        """The same with those of `groups` that it does not have yet, each at its best value, tied to nothing."""
        new = tuple(group for group in groups if group not in self.groups)
        if not new:
            return self
        fresh = Belief.before_readings(new)
        rows = [(*row, *(0.0 for _ in new)) for row in self.covariance] + [(*(0.0 for _ in self.groups), *row) for row in fresh.covariance]
        return Belief((*self.groups, *new), (*self.mean, *fresh.mean), tuple(rows))

    def starting_at(self, taught: Mapping[str, tuple[float, float]]) -> Belief:
        """The same with the mean and variance of some groups as a house has learned them; nothing ties those to others."""
        known = {i: taught[group] for i, group in enumerate(self.groups) if group in taught}
        if not known:
            return self
        mean = tuple(known[i][0] if i in known else m for i, m in enumerate(self.mean))
        rows = tuple(
            tuple((known[i][1] if i == j else 0.0) if i in known or j in known else p for j, p in enumerate(row))
            for i, row in enumerate(self.covariance)
        )
        return Belief(self.groups, mean, rows)

    def spread(self, slopes: Sequence[float]) -> float:
        """Half-range of a figure that moves by `slopes` per half-range of each group: √(dᵀ P d)."""
        terms = [p * a * b for i, j, p in self._entries if (a := slopes[i]) and (b := slopes[j])]
        return math.sqrt(max(0.0, math.fsum(terms))) if terms else 0.0

    @cached_property
    def _entries(self) -> tuple[tuple[int, int, float], ...]:
        """The covariances that are not zero: before readings there are few beside the diagonal."""
        return tuple((i, j, p) for i, row in enumerate(self.covariance) for j, p in enumerate(row) if p)

    def spread_after(self, target: Sequence[float], slopes: Sequence[float], instrument: float) -> float:
        """`spread(target)` as it would be once a figure with `slopes` is read: √(dᵀPd − (dᵀPe)² / (eᵀPe + r²)), without the whole of `taught`."""
        variance = self.spread(slopes) ** 2 + instrument**2
        if variance <= 0:
            return self.spread(target)
        shared = math.fsum([p * a * b for i, j, p in self._entries if (a := target[i]) and (b := slopes[j])])
        return math.sqrt(max(0.0, self.spread(target) ** 2 - shared**2 / variance))

    def taught(self, slopes: Sequence[float], surprise: float, instrument: float) -> Belief:
        """The belief after reading a figure with `slopes`, `surprise` = read − predicted, and the instrument's half-range, same unit.

        One Kalman step: gain = P d / (dᵀ P d + r²). A figure that nothing doubtful moves teaches nothing.
        """
        n = len(self.groups)
        towards = [math.fsum(self.covariance[row][column] * slopes[column] for column in range(n)) for row in range(n)]
        total = math.fsum(d * t for d, t in zip(slopes, towards, strict=True)) + instrument**2
        if total <= 0:
            return self
        mean = tuple(m + t / total * surprise for m, t in zip(self.mean, towards, strict=True))
        covariance = tuple(
            tuple(self.covariance[row][column] - towards[row] * towards[column] / total for column in range(n)) for row in range(n)
        )
        return Belief(self.groups, mean, covariance)


@dataclass(frozen=True, slots=True)
class Slopes:
    """By how much one figure changes when each group goes `up` or `down` by one half-range from where it stands."""

    value: float
    up: tuple[float, ...]
    down: tuple[float, ...]

    @property
    def middle(self) -> tuple[float, ...]:
        """Mean slope per half-range of each group."""
        return tuple((up - down) / 2 for up, down in zip(self.up, self.down, strict=True))

    @property
    def even(self) -> bool:
        """Whether every group moves the figure as far down as up."""
        return self.up == tuple([-down for down in self.down])

    def range(self, belief: Belief, floor: float = 0.0) -> Range:
        """The figure with its 5 and 95 % points: the two sides apart where they differ, never below its physical floor."""
        if not any(self.up) and not any(self.down):
            return Range.exact(self.value)
        if self.even:
            half = belief.spread(self.up)
            return Range(self.value, min(self.value, max(floor, self.value - half)), self.value + half)
        rises: list[float] = []
        falls: list[float] = []
        for up, down in zip(self.up, self.down, strict=True):
            # A group that lowers the figure on its way up counts backwards, so that two that offset each other still do.
            if up >= down:
                rises.append(max(0.0, up))
                falls.append(max(0.0, -down))
            else:
                rises.append(-max(0.0, down))
                falls.append(-max(0.0, -up))
        above, below = belief.spread(rises), belief.spread(falls)
        return Range(self.value, min(self.value, max(floor, self.value - below)), self.value + above)

    def shares(self, belief: Belief) -> dict[str, float]:
        """Share of the variance that each group brings, largest first; adds to 1 where the groups are independent."""
        parts = {group: belief.covariance[i][i] * slope**2 for i, (group, slope) in enumerate(zip(belief.groups, self.middle, strict=True))}
        total = math.fsum(parts.values())
        return dict(sorted(((group, part / total) for group, part in parts.items() if total > 0), key=lambda item: -item[1]))
