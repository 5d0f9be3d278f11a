"""Where a panel likes a liquid: a surface of second order over sugar and acid, fitted to the scores of samples that differ in nothing else."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ulsek.core.base.ranges import Range
from ulsek.core.tasting.found import LikedSpot
from ulsek.core.tasting.next_trial import TastedSpot, distinct, missing_spots

_DRAWS, _SEED = 400, 1951
"""Surfaces that are drawn from the doubt of the fit, always the same ones."""
_GRID = 41
_LOW, _HIGH = 5.0, 95.0


def liked_spot(spots: Sequence[TastedSpot], spread: float) -> LikedSpot | None:
    """Returns where the scores are highest inside what was tasted, with the 5 and 95 % points of sugar and acid [g/100 mL] and the score there [points].

    `spread` is the standard error of one sample's mean [points]. None with fewer than seven distinct spots, and where the spots lie so that no surface
    follows. Source: response surface of second order, Box and Wilson 1951; doubt by draws from the fit's normal distribution.
    """
    scored = [spot for spot in distinct(spots) if spot.score is not None]
    if missing_spots(scored):
        return None
    at = np.array([[math.log(spot.sugar), math.log(spot.acid)] for spot in scored])
    middle, scale = at.mean(axis=0), at.std(axis=0)
    if not (scale > 0.0).all():
        return None
    y = np.array([spot.score for spot in scored], dtype=float)
    terms = _terms((at - middle) / scale)
    if np.linalg.matrix_rank(terms) < terms.shape[1]:
        return None
    beta, *_ = np.linalg.lstsq(terms, y, rcond=None)
    left = y - terms @ beta
    freedom = len(y) - terms.shape[1]
    sigma = max(spread, math.sqrt(float(left @ left) / freedom))
    cover = sigma**2 * np.linalg.inv(terms.T @ terms)
    low, high = at.min(axis=0), at.max(axis=0)
    grid = np.array([[a, b] for a in np.linspace(low[0], high[0], _GRID) for b in np.linspace(low[1], high[1], _GRID)])
    looked = _terms((grid - middle) / scale)
    drawn = np.random.default_rng(_SEED).multivariate_normal(beta, cover, _DRAWS)
    tops = grid[np.argmax(looked @ drawn.T, axis=0)]
    top = int(np.argmax(looked @ beta))
    ends = np.percentile(tops, [_LOW, _HIGH], axis=0)
    sugar, acid = (_range(grid[top, k], ends[0, k], ends[1, k]) for k in (0, 1))
    return LikedSpot(sugar, acid, float(looked[top] @ beta))


def _terms(at: NDArray[Any]) -> NDArray[Any]:
    a, b = at[:, 0], at[:, 1]
    return np.column_stack([np.ones(len(at)), a, b, a * a, b * b, a * b])


def _range(value: float, low: float, high: float) -> Range:
    return Range(math.exp(value), math.exp(min(low, value)), math.exp(max(high, value)))
