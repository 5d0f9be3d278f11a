"""Paired trial of two ways."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ulsek.core.base.messages import Computed, Message, message, sentences
from ulsek.core.base.refusals import Refusal

_SURE = 0.95
_LEAST_PAIRS = 3
_HOPELESS = 60
"""More pairs than a bar will ever work: a difference that needs them does not matter to it."""


@dataclass(frozen=True, slots=True)
class Verdict:
    """Mean difference (second less first) with its interval, both means, the spread, and the sentence that follows from them."""

    pairs: int
    first: float
    second: float
    spread: float
    mean: float
    low: float | None
    high: float | None
    more_pairs: int | None
    text: Message


def _check(first: Sequence[float], second: Sequence[float]) -> None:
    """Raises Refusal for results that do not come in pairs, for none, and for one that is negative or not finite."""
    if len(first) != len(second):
        raise Refusal(
            message("The pairs do not match"),
            "pairs",
            message("{first} and {second} results", first=len(first), second=len(second)),
            message("Give both results of every pair"),
            "missing",
        )
    if not first:
        raise Refusal(
            message("There are no pairs yet"),
            "pairs",
            remedy=message("Halve the fruit, work each half its own way, weigh both"),
            code="missing",
        )
    if not all(math.isfinite(value) and value >= 0 for value in (*first, *second)):
        raise Refusal(
            message("A result cannot be"), "pairs", message("each is nothing or more"), message("Check the figures"), "out_of_bounds"
        )


def paired(first: Sequence[float], second: Sequence[float], names: tuple[str, str], unit: str) -> Verdict:
    """Returns whether two ways differ, from pairs worked side by side: the mean difference [`unit`] with its 95 % interval by Student's t.

    One way gives more only if the interval excludes zero; else it tells how many more pairs would show a difference as large as the one seen. Fewer than three
    pairs give no interval. Raises Refusal for results that do not come in pairs, or cannot be. Source: Student 1908, paired samples.
    """
    _check(first, second)
    n = len(first)
    means = math.fsum(first) / n, math.fsum(second) / n
    apart = [b - a for a, b in zip(first, second, strict=True)]
    mean = math.fsum(apart) / n
    if n < _LEAST_PAIRS:
        more = _LEAST_PAIRS - n
        few = message("{n} of {least} pairs: too few to say anything. {more} more.", n=n, least=_LEAST_PAIRS, more=more)
        return Verdict(n, *means, 0.0, mean, None, None, more, few)
    from scipy.stats import t

    spread = math.sqrt(math.fsum((value - mean) ** 2 for value in apart) / (n - 1))
    half = float(t.ppf(0.5 + _SURE / 2.0, n - 1)) * spread / math.sqrt(n)
    low, high = mean - half, mean + half
    if low > 0 or high < 0:
        better, (least, most) = (names[1], (low, high)) if mean > 0 else (names[0], (-high, -low))
        plan_from = message(
            "{way:capital} gives more: between {least} and {most} {unit}, from {n} pairs.",
            way=better,
            least=Computed(least, decimals=1),
            most=Computed(most, decimals=1),
            unit=unit,
            n=n,
        )
        return Verdict(n, *means, spread, mean, low, high, 0, plan_from)
    needed = _pairs_for(mean, spread, n)
    unknown = message(
        "Nobody can tell from {n} pairs: the difference lies between {low} and {high} {unit}.",
        n=n,
        low=Computed(low, decimals=1),
        high=Computed(high, decimals=1),
        unit=unit,
    )
    off = Computed(abs(mean), decimals=1)
    close = message("Too close to matter.")
    asked = message("If it is really {off} {unit}, about {n} more pairs would show it.", off=off, unit=unit, n=needed) if needed else close
    return Verdict(n, *means, spread, mean, low, high, needed, sentences(unknown, asked))


def _pairs_for(mean: float, spread: float, n: int) -> int | None:
    """Returns how many more pairs [count] would exclude zero from the interval in four of five trials, for the difference seen; None if there are too many."""
    if abs(mean) < 1e-9:
        return None
    total = math.ceil(((1.96 + 0.84) * spread / mean) ** 2)
    return max(1, total - n) if total <= _HOPELESS else None
