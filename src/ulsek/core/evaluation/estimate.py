"""Estimate of the uncertain inputs of a spec, and how a reading updates it.

Inputs are grouped per material and per step. A juice has two groups, its °Bx and its acid, which are correlated until one of them is read. The position of a
group is counted in half-ranges (5 to 95 %) from its best value, with variance 1 before any reading. A reading is a linear least-squares update of all groups.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from ..base.ranges import Range
from .group_key import GroupKey

MOST_GROUPS = 16
"""Most groups of an estimate."""
Priors = Mapping[GroupKey, tuple[float, float]]
"""Mean and variance of groups that earlier batches have taught, in half-ranges of their prior."""


@dataclass(frozen=True)
class Estimate:
    """Mean position and covariance of the groups, in half-ranges."""

    groups: tuple[GroupKey, ...]
    mean: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]

    @classmethod
    def before_readings(cls, groups: Sequence[GroupKey], correlations: Mapping[tuple[GroupKey, GroupKey], float] | None = None) -> Estimate:
        """Returns the estimate with every group at its best value, variance 1, and the `correlations` [-1 to 1] of pairs of groups."""
        place = {group: n for n, group in enumerate(groups)}
        rows = [[0.0] * len(place) for _ in place]
        for n, row in enumerate(rows):
            # Positions are counted in half-ranges, so every variance starts at 1.
            row[n] = 1.0
        for (one, other), correlation in (correlations or {}).items():
            if one in place and other in place:
                rows[place[one]][place[other]] = rows[place[other]][place[one]] = correlation
        return cls(tuple(groups), (0.0,) * len(place), tuple(map(tuple, rows)))

    def covering(self, groups: Sequence[GroupKey]) -> Estimate:
        """Returns the estimate with those of `groups` added that it does not have yet, each at its best value and uncorrelated."""
        new = tuple(group for group in groups if group not in self.groups)
        if not new:
            return self
        fresh = Estimate.before_readings(new)
        rows = [(*row, *(0.0 for _ in new)) for row in self.covariance] + [(*(0.0 for _ in self.groups), *row) for row in fresh.covariance]
        return Estimate((*self.groups, *new), (*self.mean, *fresh.mean), tuple(rows))

    def starting_at(self, priors: Priors) -> Estimate:
        """Returns the estimate with the mean and variance of some groups from earlier batches; those groups become uncorrelated."""
        known = {i: priors[group] for i, group in enumerate(self.groups) if group in priors}
        if not known:
            return self
        mean = tuple(known[i][0] if i in known else m for i, m in enumerate(self.mean))
        rows = tuple(
            tuple((known[i][1] if i == j else 0.0) if i in known or j in known else p for j, p in enumerate(row))
            for i, row in enumerate(self.covariance)
        )
        return Estimate(self.groups, mean, rows)

    def spread(self, slopes: Sequence[float]) -> float:
        """Returns the half-range of a figure, in its unit, from its `slopes` per half-range of each group: √(dᵀ P d)."""
        # Zero slopes are left out: most groups do not reach most figures.
        terms = [p * a * b for i, j, p in self._entries if (a := slopes[i]) and (b := slopes[j])]
        return math.sqrt(max(0.0, math.fsum(terms))) if terms else 0.0

    @cached_property
    def _entries(self) -> tuple[tuple[int, int, float], ...]:
        """The covariances that are not zero, as (row, column, value). Before readings there are few outside the diagonal."""
        return tuple((i, j, p) for i, row in enumerate(self.covariance) for j, p in enumerate(row) if p)

    def spread_after(self, target: Sequence[float], slopes: Sequence[float], instrument: float) -> float:
        """Returns `spread(target)` as it would be after reading a figure with `slopes` by an instrument of this half-range, without a full update.

        √(dᵀPd − (dᵀPe)² / (eᵀPe + r²)).
        """
        # The variance of the difference of reading and prediction.
        variance = self.spread(slopes) ** 2 + instrument**2
        if variance <= 0:
            return self.spread(target)
        shared = math.fsum([p * a * b for i, j, p in self._entries if (a := target[i]) and (b := slopes[j])])
        return math.sqrt(max(0.0, self.spread(target) ** 2 - shared**2 / variance))

    def updated(self, slopes: Sequence[float], residual: float, instrument: float) -> Estimate:
        """Returns the estimate after reading a figure with `slopes`. `residual` is read less predicted, `instrument` its half-range, both in the figure's unit.

        One Kalman step: gain = P d / (dᵀ P d + r²). A figure without slopes changes nothing.
        """
        n = len(self.groups)
        towards = [math.fsum(self.covariance[row][column] * slopes[column] for column in range(n)) for row in range(n)]
        total = math.fsum(d * t for d, t in zip(slopes, towards, strict=True)) + instrument**2
        if total <= 0:
            return self
        # A group moves by its share in what was uncertain of the figure, in the direction of the miss.
        mean = tuple(m + t / total * residual for m, t in zip(self.mean, towards, strict=True))
        covariance = tuple(
            tuple(self.covariance[row][column] - towards[row] * towards[column] / total for column in range(n)) for row in range(n)
        )
        return Estimate(self.groups, mean, covariance)


@dataclass(frozen=True, slots=True)
class Slopes:
    """A figure's `value`, and its change when each group moves `up` or `down` by one half-range, in the figure's unit."""

    value: float
    up: tuple[float, ...]
    down: tuple[float, ...]

    @property
    def middle(self) -> tuple[float, ...]:
        """Mean slope per half-range of each group, in the figure's unit."""
        return tuple((up - down) / 2 for up, down in zip(self.up, self.down, strict=True))

    @property
    def even(self) -> bool:
        """True if every group moves the figure as far down as up."""
        return self.up == tuple([-down for down in self.down])

    def range(self, estimate: Estimate, floor: float = 0.0) -> Range:
        """Returns the figure with its 5 and 95 % points, in its unit, each side from its own slopes. The low end is at least `floor`, a physical bound."""
        if not any(self.up) and not any(self.down):
            return Range.exact(self.value)
        # The common case: one root instead of two, and no signs to sort out.
        if self.even:
            half = estimate.spread(self.up)
            return Range(self.value, min(self.value, max(floor, self.value - half)), self.value + half)
        rises: list[float] = []
        falls: list[float] = []
        for up, down in zip(self.up, self.down, strict=True):
            # A group that lowers the figure when it moves up counts with the opposite sign, so that two correlated groups can still offset each other.
            if up >= down:
                rises.append(max(0.0, up))
                falls.append(max(0.0, -down))
            else:
                rises.append(-max(0.0, down))
                falls.append(-max(0.0, -up))
        above, below = estimate.spread(rises), estimate.spread(falls)
        return Range(self.value, min(self.value, max(floor, self.value - below)), self.value + above)

    def shares(self, estimate: Estimate) -> dict[GroupKey, float]:
        """Returns the share [0 to 1] of the variance that each group causes, the largest first. The shares add up to 1 if the groups are independent."""
        parts = {
            group: estimate.covariance[i][i] * slope**2 for i, (group, slope) in enumerate(zip(estimate.groups, self.middle, strict=True))
        }
        total = math.fsum(parts.values())
        return dict(sorted(((group, part / total) for group, part in parts.items() if total > 0), key=lambda item: -item[1]))
