"""Scores of several samples: means and differences by a linear mixed model with tasters and places in the order as random, and scales that are just about right."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cho_factor, cho_solve
from scipy.optimize import minimize
from scipy.stats import t as student

from ulsek.core.base.figures import SCORE
from ulsek.core.base.ranges import Range
from ulsek.core.tasting.found import AttributeFound, PairFound, ScoresFound
from ulsek.core.tasting.methods import JUST_RIGHT

from .ranks import corrected_pairs, holm, pairs_of_ranks
from .shares import split_by_chance

Floats = NDArray[Any]
_TWO_SIDED = 0.95
"""Quantile of the ends of a 90 % interval."""
_SEARCH = (-14.0, 6.0)
"""Bounds of the logarithm of a ratio of variances: from none to four hundred times the rest's."""
_STARTS = ((-1.0, -3.0), (1.0, -6.0))


@dataclass(frozen=True, slots=True)
class Scored:
    """One score [points] by a taster of a sample (from 0), at a place of the order (from 0) in a round (from 1)."""

    taster: int
    sample: int
    place: int
    round: int
    score: float


@dataclass(frozen=True, slots=True)
class _Fit:
    means: Floats
    covariance: Floats
    variances: tuple[float, ...]
    freedom: float


def _indicator(of: Sequence[int]) -> Floats:
    values = sorted(set(of))
    found = np.zeros((len(of), len(values)))
    found[np.arange(len(of)), [values.index(item) for item in of]] = 1.0
    return found


def fitted(y: Floats, x: Floats, random: Sequence[Floats]) -> _Fit:
    """Returns the fixed effects of a linear mixed model with their covariance, the variances of the random effects and of the rest [squared units of y], and the
    degrees of freedom.

    `x` is the design of the fixed effects, `random` the indicators of each random factor. Variances by restricted maximum likelihood (Patterson and
    Thompson 1971); degrees of freedom by containment, those of the rest. Raises ValueError with no freedom left.
    """
    n, p = x.shape
    freedom = n - np.linalg.matrix_rank(np.hstack([x, *random]))
    if freedom < 1:
        raise ValueError("too few scores to fit")
    z = np.hstack(random)
    widths = [item.shape[1] for item in random]
    # All that is needed of the data, so that a step of the search costs a matrix as large as there are tasters and places.
    both = np.hstack([x, y[:, None]])
    within, crossed, own = both.T @ both, z.T @ both, z.T @ z

    def parts(logs: Sequence[float]) -> tuple[float, Floats, Floats, float]:
        """Returns (twice the negative restricted log likelihood, fixed effects, information, variance of the rest) at logarithms of ratios of variances."""
        root = np.repeat(np.exp(np.asarray(logs) / 2.0), widths)
        factor = cho_factor(np.eye(root.size) + root[:, None] * own * root, lower=True)
        scaled = root[:, None] * crossed
        cover = within - scaled.T @ cho_solve(factor, scaled)
        information, moment = cover[:p, :p], cover[:p, p]
        beta = np.linalg.solve(information, moment)
        sigma2 = max(float(cover[p, p] - moment @ beta), 1e-12) / (n - p)
        determinant = 2.0 * float(np.log(np.diag(factor[0])).sum()) + float(np.linalg.slogdet(information)[1])
        return (n - p) * math.log(sigma2) + determinant, beta, information, sigma2

    tried = [
        minimize(lambda logs: parts(logs)[0], start[: len(random)], method="L-BFGS-B", bounds=[_SEARCH] * len(random)) for start in _STARTS
    ]
    found = min(tried, key=lambda item: float(item.fun))
    _, beta, information, sigma2 = parts(found.x)
    variances = tuple(sigma2 * math.exp(log) for log in found.x)
    return _Fit(beta, sigma2 * np.linalg.inv(information), (*variances, sigma2), float(freedom))


def scores(given: Sequence[Scored], samples: int) -> ScoresFound:
    """Returns what scores show. A taster who scored a sample more than once counts once, with the mean, so that repeats make nothing surer than it is.

    Raises ValueError if a sample has no score, or there is only one taster: then nothing tells how tasters differ.
    """
    tasters = sorted({item.taster for item in given})
    if len(tasters) < 2 or {item.sample for item in given} != set(range(samples)):
        raise ValueError("too few scores to fit")
    table = _by_taster(given, tasters, samples)
    is_once = max(item.round for item in given) == 1
    rows = list(given) if is_once else [Scored(taster, sample, 0, 1, score) for (taster, sample), score in table.items()]
    y = np.array([item.score for item in rows])
    x = np.zeros((len(rows), samples))
    x[np.arange(len(rows)), [item.sample for item in rows]] = 1.0
    factors = [_indicator([item.taster for item in rows])]
    # The place in the order is left out where so few scores leave nothing to tell it from chance.
    by_place = is_once and len(rows) > samples + len(tasters) - 1 + len({item.place for item in rows}) - 1
    if by_place:
        factors.append(_indicator([item.place for item in rows]))
    fit = fitted(y, x, factors)
    half = float(student.ppf(_TWO_SIDED, fit.freedom))
    means = tuple(_bounded(float(m), half * math.sqrt(v)) for m, v in zip(fit.means, np.diag(fit.covariance), strict=True))
    order = fit.variances[1] if by_place else 0.0
    return ScoresFound(
        len(tasters),
        means,
        math.sqrt(fit.variances[0]),
        math.sqrt(order),
        math.sqrt(fit.variances[-1]),
        _pairs(fit, table, tasters, samples, half),
    )


def _bounded(mean: float, half: float) -> Range:
    """Returns a mean with its interval inside the scale."""
    value = min(max(mean, SCORE.low), SCORE.high)
    return Range(value, max(SCORE.low, min(value, mean - half)), min(SCORE.high, max(value, mean + half)))


def _by_taster(given: Sequence[Scored], tasters: Sequence[int], samples: int) -> dict[tuple[int, int], float]:
    said: dict[tuple[int, int], list[float]] = defaultdict(list)
    for item in given:
        said[item.taster, item.sample].append(item.score)
    return {key: math.fsum(said[key]) / len(said[key]) for key in ((t, s) for t in tasters for s in range(samples)) if key in said}


def _pairs(fit: _Fit, table: dict[tuple[int, int], float], tasters: Sequence[int], samples: int, half: float) -> tuple[PairFound, ...]:
    # Fewer points are a lower place: who scored only one of two has no say in that pair.
    counted = {}
    for a, b in combinations(range(samples), 2):
        rows = [[-table[taster, a], -table[taster, b]] for taster in tasters if (taster, a) in table and (taster, b) in table]
        counted[a, b] = pairs_of_ranks(rows)[0] if rows else PairFound(0, 1, 0, 0, 1.0, 0.0)
    found = []
    for a, b in combinations(range(samples), 2):
        apart = float(fit.means[a] - fit.means[b])
        error = math.sqrt(max(float(fit.covariance[a, a] + fit.covariance[b, b] - 2.0 * fit.covariance[a, b]), 1e-18))
        chance = float(2.0 * student.sf(abs(apart) / error, fit.freedom))
        first, second = (a, b) if apart >= 0.0 else (b, a)
        votes = counted[a, b]
        before = votes.before if (votes.first == 0) == (first == a) else votes.of - votes.before
        interval = Range(abs(apart), abs(apart) - half * error, abs(apart) + half * error)
        found.append(PairFound(first, second, before, votes.of, chance, votes.low, interval))
    return corrected_pairs(found)


@dataclass(frozen=True, slots=True)
class Marked:
    """The mark of a taster for an attribute of a sample (from 0), and the score of the same glass [points]."""

    taster: int
    sample: int
    attribute: str
    mark: int
    score: float


def attributes(given: Sequence[Marked]) -> tuple[AttributeFound, ...]:
    """Returns for each sample and attribute how many found it too little, right and too much, and what that cost it. Of a taster who marked it twice the first
    mark counts. Probabilities are corrected for the number of samples and attributes.
    """
    said: dict[tuple[int, str], dict[int, Marked]] = defaultdict(dict)
    for item in given:
        said[item.sample, item.attribute].setdefault(item.taster, item)
    found = []
    for (sample, attribute), by in said.items():
        marks = list(by.values())
        little = sum(item.mark < JUST_RIGHT for item in marks)
        much = sum(item.mark > JUST_RIGHT for item in marks)
        right = [item.score for item in marks if item.mark == JUST_RIGHT]
        off = [item.score for item in marks if item.mark != JUST_RIGHT]
        chance = split_by_chance(max(little, much), (1,) * (little + much)) if little + much else 1.0
        drop = math.fsum(right) / len(right) - math.fsum(off) / len(off) if right and off else None
        found.append(AttributeFound(sample, attribute, little, len(right), much, chance, drop))
    corrected = holm([item.by_chance for item in found])
    return tuple(replace(item, by_chance=p) for item, p in zip(found, corrected, strict=True))
