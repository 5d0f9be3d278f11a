"""Discriminability of two samples (d′): the difference of their perceptual means in units of the perceptual standard deviation, by Thurstone's model."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from scipy.integrate import quad
from scipy.optimize import brentq, minimize_scalar
from scipy.stats import norm

from ulsek.core.base.ranges import Range

_FARTHEST = 8.0
"""A distance that is not told from a larger one: all but one answer in ten million are right."""
_LEVEL_90 = 2.705543454095404
"""Twice the fall of the log likelihood at the ends of a 90 % interval: the 90 % point of chi-squared with one degree of freedom."""


def triangle(distance: float) -> float:
    """Returns the probability of a right answer in a triangle test at a distance d′, by integration. 1/3 at 0. Source: Ennis 1993, equation 3."""
    root3, shift = math.sqrt(3.0), distance * math.sqrt(2.0 / 3.0)

    def density(z: float) -> float:
        return float(2.0 * (norm.cdf(shift - z * root3) + norm.cdf(-shift - z * root3)) * norm.pdf(z))

    return float(quad(density, 0.0, math.inf, epsabs=1e-10)[0])


def pair(distance: float) -> float:
    """Returns the probability that the stronger of two is chosen at a distance d′: 1/2 at 0. Source: Thurstone 1927, case V."""
    return float(norm.cdf(distance / math.sqrt(2.0)))


_CURVES: Mapping[str, Callable[[float], float]] = {"triangle": triangle, "paired": pair}


def distance(method: str, probability: float) -> float:
    """Returns the distance d′ at which the answers of a method (`triangle`, `paired`) are right with a probability: 0 at or below chance, 8 at most."""
    curve = _CURVES[method]
    if probability <= curve(0.0):
        return 0.0
    if probability >= curve(_FARTHEST):
        return _FARTHEST
    return float(brentq(lambda d: curve(d) - probability, 0.0, _FARTHEST, xtol=1e-8))


def same_different(same_said_same: int, same: int, different_said_same: int, different: int) -> Range:
    """Returns the distance d′ with its 90 % interval by profile likelihood, from `same` pairs that were the same and `different` ones that were not [count],
    and how many of each were called the same. The taster calls two the same if they are closer than a criterion of their own, which is fitted. Source: Christensen and Brockhoff 2009.
    """

    def log_likelihood(d: float, criterion: float) -> float:
        root2 = math.sqrt(2.0)
        alike = 2.0 * norm.cdf(criterion / root2) - 1.0
        apart = norm.cdf((criterion - d) / root2) - norm.cdf((-criterion - d) / root2)
        said = ((same_said_same, same, alike), (different_said_same, different, apart))
        return math.fsum(_log(x, p) + _log(n - x, 1.0 - p) for x, n, p in said)

    def best(d: float) -> float:
        found = minimize_scalar(lambda c: -log_likelihood(d, c), bounds=(1e-6, _FARTHEST), method="bounded", options={"xatol": 1e-7})
        return -float(found.fun)

    peak = minimize_scalar(lambda d: -best(d), bounds=(0.0, _FARTHEST), method="bounded", options={"xatol": 1e-6})
    top, value = max((best(0.0), 0.0), (-float(peak.fun), float(peak.x)))

    def below(d: float) -> float:
        return 2.0 * (top - best(d)) - _LEVEL_90

    low = 0.0 if below(0.0) <= 0.0 else float(brentq(below, 0.0, value, xtol=1e-6))
    high = _FARTHEST if below(_FARTHEST) <= 0.0 else float(brentq(below, value, _FARTHEST, xtol=1e-6))
    return Range(value, low, high)


def _log(count: int, probability: float) -> float:
    return count * math.log(max(probability, 1e-300)) if count else 0.0
