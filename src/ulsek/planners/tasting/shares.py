"""Shares of guests from right answers or choices: exact bounds that count repeats by one taster as what they are."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ulsek.core.tasting.found import ALARM, SURE

Floats = NDArray[Any]
_SPREADS = (0.0, 0.2, 0.4, 0.6, 0.8, 1.0)
"""How far tasters differ, from all alike (0) to some who always tell and others who never do (1): the correlation of what one taster perceives."""
_TOLERANCE = 1e-9


@lru_cache(maxsize=4096)
def _of_one(n: int, share: float, spread: float, guess: float) -> tuple[float, ...]:
    """Returns the probabilities of 0 to `n` right answers by one taster.

    What a taster perceives is beta distributed over tasters with the mean `share` and the correlation `spread`; what is not perceived is guessed right with
    the probability `guess`. Source: beta-binomial model corrected for guessing, Brockhoff 2003.
    """
    if spread <= 0.0 or share in (0.0, 1.0):
        p = guess + (1.0 - guess) * share
        return tuple(math.comb(n, x) * p**x * (1.0 - p) ** (n - x) for x in range(n + 1))
    if spread >= 1.0:
        guessed = [math.comb(n, x) * guess**x * (1.0 - guess) ** (n - x) for x in range(n + 1)]
        return tuple((1.0 - share) * p + (share if x == n else 0.0) for x, p in enumerate(guessed))
    a, b = share * (1.0 - spread) / spread, (1.0 - share) * (1.0 - spread) / spread

    def log_beta(x: float, y: float) -> float:
        return math.lgamma(x) + math.lgamma(y) - math.lgamma(x + y)

    scale = log_beta(a, b)
    return tuple(
        math.comb(n, x)
        * math.fsum(
            math.comb(x, seen) * guess ** (x - seen) * (1.0 - guess) ** (seen + n - x) * math.exp(log_beta(a + seen, b + n - x) - scale)
            for seen in range(x + 1)
        )
        for x in range(n + 1)
    )


def _of_all(each: Sequence[int], share: float, spread: float, guess: float) -> Floats:
    """Returns the probabilities of 0 to all right answers by tasters who answered so many sets `each` [count]."""
    if spread <= 0.0:
        return np.array(_of_one(sum(each), share, 0.0, guess))
    total: Floats = np.ones(1)
    for n in each:
        total = np.convolve(total, _of_one(n, share, spread, guess))
    return total


def _spreads(each: Sequence[int]) -> tuple[float, ...]:
    # One set by each taster tells nothing of how tasters differ, and needs nothing of it.
    return _SPREADS if max(each) > 1 else (0.0,)


def at_least(right: int, each: Sequence[int], share: float, guess: float) -> float:
    """Returns the probability of `right` answers or more, for the spread of tasters that makes it largest."""
    return max(float(_of_all(each, share, spread, guess)[right:].sum()) for spread in _spreads(each))


def at_most(right: int, each: Sequence[int], share: float, guess: float) -> float:
    """Returns the probability of `right` answers or fewer, for the spread of tasters that makes it largest."""
    return max(float(_of_all(each, share, spread, guess)[: right + 1].sum()) for spread in _spreads(each))


def bounds(right: int, each: Sequence[int], guess: float, sure: float = SURE) -> tuple[float, float]:
    """Returns the one-sided bounds (low, high) [0 to 1] of the share of guests, each with the confidence `sure`, guessing removed.

    `each` has the sets [count] that each taster answered, none of them 0; `right` are the right answers in all. With one set each they are those of Clopper and Pearson 1934;
    with more, the spread of tasters is the one that makes the bound widest, so that they hold whatever it is. Raises ValueError without answers.
    """
    total = sum(each)
    if not each or not 0 <= right <= total:
        raise ValueError(f"{right} of {total} right answers")
    miss = 1.0 - sure
    low = 0.0 if at_least(right, each, 0.0, guess) >= miss else _root(lambda share: at_least(right, each, share, guess) - miss)
    high = 1.0 if at_most(right, each, 1.0, guess) >= miss else _root(lambda share: miss - at_most(right, each, share, guess))
    return low, high


def _root(rising: Any) -> float:
    """Returns where a function that rises from below 0 at 0 to above 0 at 1 is 0, by bisection; `_TOLERANCE` wide."""
    low, high = 0.0, 1.0
    while high - low > _TOLERANCE:
        middle = (low + high) / 2.0
        low, high = (low, middle) if rising(middle) > 0.0 else (middle, high)
    return (low + high) / 2.0


def share_of(right: int, total: int, guess: float) -> float:
    """Returns the estimated share [0 to 1] of guests who tell, guessing removed, never below 0. Source: Abbott 1925."""
    return max(0.0, (right / total - guess) / (1.0 - guess))


def by_chance(right: int, total: int, guess: float) -> float:
    """Returns the probability that guessing alone gives `right` of `total` or more. Whoever only guesses does so anew each time, so repeats do not matter."""
    return float(_of_all((total,), 0.0, 0.0, guess)[right:].sum())


def split_by_chance(chosen: int, each: Sequence[int]) -> float:
    """Returns the probability of a split at least as uneven, either way, where both samples are liked by half of the guests: exact, and for repeats by tasters
    whose liking may be as firm as can be.
    """
    total = sum(each)
    return min(1.0, 2.0 * at_least(max(chosen, total - chosen), each, 0.5, 0.0))


def critical(total: int, guess: float, alarm: float = ALARM) -> int | None:
    """Returns the least number of right answers of `total` that guessing alone gives with a probability of at most `alarm`; None if all of them do not suffice."""
    tail = np.cumsum(_of_all((total,), 0.0, 0.0, guess)[::-1])[::-1]
    found = np.nonzero(tail <= alarm)[0]
    return int(found[0]) if found.size else None
