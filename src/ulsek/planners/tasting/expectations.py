"""What a panel can show, before anybody tastes."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.stats import binom, norm

from ulsek.core.tasting.design import PanelDesign
from ulsek.core.tasting.found import ALARM, Expected
from ulsek.core.tasting.methods import METHODS

from .shares import _of_all, bounds, critical

POWER = 0.8
"""A panel that shows what is there in four of five cases: customary."""
MOST_SETS = 2000
"""More sets than anybody ever tastes."""
_STAYS = 6
"""The power of an exact test falls a little from one number of sets to the next: what must hold for so many in a row."""
_USUAL_SCATTER = 1.5
"""Standard deviation of the scores that one taster gives two like glasses [points of ten]. House experience."""


def expected(design: PanelDesign) -> Expected:
    """Returns what a panel can show."""
    method = METHODS[design.method]
    if method.aim == "difference" and method.guess is not None:
        return _difference(design, method.guess)
    if method.key == "paired":
        return _preference(design)
    return _standing(design, ranks=method.key == "ranking")


def _difference(design: PanelDesign, guess: float) -> Expected:
    each = (design.rounds,) * design.tasters
    needed = critical(design.sets, guess)
    typical = math.floor(design.sets * guess)
    return Expected(
        design.sets,
        needed,
        _least_share(lambda share: _power(needed, each, share, guess)) if needed is not None else None,
        bounds(typical, each, guess)[1],
        sets_for_line(guess, design.line),
    )


def _power(needed: int | None, each: tuple[int, ...], share: float, guess: float) -> float:
    """Returns the probability of `needed` right answers or more, where a share of tasters always tells and the others guess."""
    return float(_of_all(each, share, 1.0 if max(each) > 1 else 0.0, guess)[needed:].sum()) if needed is not None else 0.0


def _least_share(power: Callable[[float], float]) -> float | None:
    found: Iterator[float] = (share / 100.0 for share in range(1, 101) if power(share / 100.0) >= POWER)
    return next(found, None)


@lru_cache(maxsize=256)
def sets_for_line(guess: float, line: float) -> int | None:
    """Returns how many sets [count], each by another taster, show in four of five panels that at most the share `line` can tell, if nobody can; None if more than 2,000."""
    at_line = guess + (1.0 - guess) * line
    sets = np.arange(1, MOST_SETS + 1)
    # Shown if so few are right that the line would give them in at most one of twenty panels: the same as an upper bound below the line.
    most: NDArray[Any] = binom.ppf(ALARM, sets, at_line)
    most = np.where(binom.cdf(most, sets, at_line) > ALARM, most - 1, most)
    return _first_steady(binom.cdf(most, sets, guess))


def _first_steady(power: NDArray[Any]) -> int | None:
    enough = power >= POWER
    for at in np.nonzero(enough)[0]:
        if enough[at : at + _STAYS].all() and at + _STAYS <= enough.size:
            return int(at) + 1
    return None


def _preference(design: PanelDesign) -> Expected:
    # A taster's liking may be as firm as can be: then their second answer repeats the first, and tasters are what counts.
    tasters = design.tasters
    needed = critical(tasters, 0.5, ALARM / 2.0)
    sets = np.arange(1, MOST_SETS + 1)
    least = binom.ppf(1.0 - ALARM / 2.0, sets, 0.5) + 1
    return Expected(
        design.sets,
        needed * design.rounds if needed is not None else None,
        _least_share(lambda share: float(binom.sf(needed - 1, tasters, share)) if needed is not None and share > 0.5 else 0.0),
        None,
        _first_steady(binom.sf(least - 1, sets, design.line)),
    )


def _standing(design: PanelDesign, *, ranks: bool) -> Expected:
    """Returns what a panel of scores can show, by the usual scatter of scores and the correction of the smallest of all pairs; of ranks only how many pairs tell."""
    pairs = design.samples * (design.samples - 1) / 2.0
    if ranks:
        needed = critical(design.tasters, 0.5, ALARM / pairs / 2.0)
        return Expected(design.sets, needed, None, None, None)
    factor = float(norm.ppf(1.0 - ALARM / pairs / 2.0) + norm.ppf(POWER))
    apart = factor * _USUAL_SCATTER * math.sqrt(2.0 / design.tasters)
    return Expected(design.sets, None, apart, None, math.ceil(2.0 * (factor * _USUAL_SCATTER / design.line) ** 2))
