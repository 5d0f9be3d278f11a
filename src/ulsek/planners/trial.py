"""A paired trial of two ways: what the pairs can honestly say."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ulsek.core.base.number_format import figure
from ulsek.core.base.refusals import Refusal

_SURE = 0.95
_LEAST_PAIRS = 3
_HOPELESS = 60
"""More pairs than a bar will ever work: a difference that needs them does not matter to it."""


@dataclass(frozen=True, slots=True)
class Verdict:
    """Mean difference (second less first) with its interval, both means and spreads, and the sentence that follows from them."""

    pairs: int
    first: float
    second: float
    spread: float
    mean: float
    low: float | None
    high: float | None
    more_pairs: int | None
    text: str


def paired(first: Sequence[float], second: Sequence[float], names: tuple[str, str], unit: str) -> Verdict:
    """Whether two ways differ, from pairs worked side by side: the mean difference with its 95 % interval by Student's t.

    Says which gives more only when the interval leaves nothing out of doubt; else about how many more pairs would tell a difference as large as the one seen.
    Refuses lists of unlike length, fewer than three pairs give no interval. Source: Student 1908, paired samples.
    """
    if len(first) != len(second):
        raise Refusal(
            "The pairs do not match", "pairs", f"{len(first)} and {len(second)} results", "Give both results of every pair", "missing"
        )
    if not first:
        raise Refusal("There are no pairs yet", "pairs", remedy="Halve the fruit, work each half its own way, weigh both", code="missing")
    if not all(math.isfinite(value) and value >= 0 for value in (*first, *second)):
        raise Refusal("A result cannot be", "pairs", "each is nothing or more", "Check the figures", "out_of_bounds")
    n = len(first)
    means = math.fsum(first) / n, math.fsum(second) / n
    apart = [b - a for a, b in zip(first, second, strict=True)]
    mean = math.fsum(apart) / n
    if n < _LEAST_PAIRS:
        more = _LEAST_PAIRS - n
        return Verdict(n, *means, 0.0, mean, None, None, more, f"{n} of {_LEAST_PAIRS} pairs: too few to say anything. {more} more.")
    from scipy.stats import t

    spread = math.sqrt(math.fsum((value - mean) ** 2 for value in apart) / (n - 1))
    half = float(t.ppf(0.5 + _SURE / 2.0, n - 1)) * spread / math.sqrt(n)
    low, high = mean - half, mean + half
    if low > 0 or high < 0:
        better, by = (names[1], (low, high)) if mean > 0 else (names[0], (-high, -low))
        text = f"{better[0].upper()}{better[1:]} gives more: between {figure(by[0], 1)} and {figure(by[1], 1)} {unit}, from {n} pairs."
        return Verdict(n, *means, spread, mean, low, high, 0, text)
    needed = _pairs_for(mean, spread, n)
    asked = f"If it is really {figure(abs(mean), 1)} {unit}, about {needed} more pairs would show it." if needed else "Too close to matter."
    span = f"between {figure(low, 1)} and {figure(high, 1)} {unit}"
    text = f"Nobody can tell from {n} pairs: the difference lies {span}. {asked}"
    return Verdict(n, *means, spread, mean, low, high, needed, text)


def _pairs_for(mean: float, spread: float, n: int) -> int | None:
    """More pairs until a difference as seen would leave nothing out of its interval four times in five; none where it is hopeless."""
    if abs(mean) < 1e-9:
        return None
    total = math.ceil(((1.96 + 0.84) * spread / mean) ** 2)
    return max(1, total - n) if total <= _HOPELESS else None
