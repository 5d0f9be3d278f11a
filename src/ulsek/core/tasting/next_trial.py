"""The trial worth making next: a noticeable step of sugar or acid from what was tasted, in the direction that would teach most."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

from ..base.figures import FIGURES
from ..base.linear_algebra import solve_linear
from ..base.messages import NOTHING, Computed, Message, counted, grams, listed, message, short_name
from .serving import NOTICEABLE

SURFACE_SPOTS = 7
"""Spots from which on a surface of second order, which has six coefficients, is fitted."""
_RIDGE = 0.05
"""What holds the slopes where the spots lie on a line [squared logarithm]; about the square of two noticeable steps."""
_LEAST_SPREAD = 0.3
"""What an untasted spot may be worth at least by being new [points]. House judgement."""
POINTS_OF_A_SHARE = 4.0
"""Points for which a share of guests who like a sample better stands, where there are no scores. House judgement."""
_LITRE_ML = 1000.0
_SAME = 0.02
"""Relative difference of sugar or acid below which two spots are one."""


@dataclass(frozen=True, slots=True)
class TastedSpot:
    """A sample (from 0) with its sugar and acid [g/100 mL] and its mean score [points]; None where it has none."""

    sample: int
    sugar: float
    acid: float
    score: float | None = None


@dataclass(frozen=True, slots=True)
class NextSpot:
    """Where the next trial should stand [g/100 mL], from which sample (from 0) it begins, and what it would tell."""

    sugar: float
    acid: float
    sample: int
    words: Message
    why: Message


def _logs(spot: TastedSpot) -> tuple[float, float]:
    return math.log(spot.sugar), math.log(spot.acid)


def _apart(one: tuple[float, float], other: tuple[float, float]) -> float:
    return math.hypot(one[0] - other[0], one[1] - other[1])


def distinct(spots: Sequence[TastedSpot]) -> list[TastedSpot]:
    """Returns the spots that differ from those before them by more than 2 % in sugar or acid; those without both are left out."""
    found: list[TastedSpot] = []
    for spot in spots:
        if spot.sugar > 0.0 and spot.acid > 0.0 and all(_apart(_logs(spot), _logs(other)) > _SAME for other in found):
            found.append(spot)
    return found


def missing_spots(spots: Sequence[TastedSpot]) -> int:
    """Returns how many more spots that differ only in sugar and acid would show a surface [count]; 0 if there are enough."""
    return max(0, SURFACE_SPOTS - len(distinct(spots)))


def missing_words(spots: Sequence[TastedSpot]) -> Message:
    """Returns that so few spots show no surface, and how many more would."""
    n = len(distinct(spots))
    few = counted("{n} spot shows no surface", "{n} spots show no surface", n)
    return message("{few}: {more} more that differ only in sugar and acid would.", few=few, more=missing_spots(spots))


def next_after_difference(house: TastedSpot, other: TastedSpot, *, is_shown: bool) -> NextSpot | None:
    """Returns the next spot after two samples were told apart or not: one noticeable step past the new one if no difference was shown, else half way back.

    None if they hardly differ in sugar and acid.
    """
    if len(distinct((house, other))) < 2:
        return None
    one, two = _logs(house), _logs(other)
    if is_shown:
        at = ((one[0] + two[0]) / 2.0, (one[1] + two[1]) / 2.0)
        why = message("Half way back: it would tell where it begins to be noticed.")
        return _spot(at, house.sample, why)
    length = _apart(one, two)
    step = math.log1p(NOTICEABLE) / length
    at = (two[0] + step * (two[0] - one[0]), two[1] + step * (two[1] - one[1]))
    return _spot(at, other.sample, message("One noticeable step past it: it would tell where it begins to be noticed."))


def _spot(at: tuple[float, float], sample: int, why: Message) -> NextSpot:
    sugar, acid = math.exp(at[0]), math.exp(at[1])
    figures = {key: Computed(value, "g", FIGURES[key].decimals) for key, value in (("sugar_g_100ml", sugar), ("acid_g_100ml", acid))}
    words = message("{sugar} sugar, {acid} acid in 100 mL.", sugar=figures["sugar_g_100ml"], acid=figures["acid_g_100ml"])
    return NextSpot(sugar, acid, sample, words, why)


def next_by_scores(spots: Sequence[TastedSpot], spread: float) -> NextSpot | None:
    """Returns the next spot after scores whose rest scatters by `spread` [points]: of the eight steps of a tenth around the best spot the one that is worth most.

    A step is worth what the slopes of the scores promise, and what is not known there: more the farther it lies from everything tasted. The slopes are
    fitted by ridge regression on logarithms (Hoerl and Kennard 1970). None without two scored spots.
    """
    scored = [spot for spot in distinct(spots) if spot.score is not None]
    if len(scored) < 2:
        return None
    best = max(scored, key=lambda spot: spot.score or 0.0)
    slopes = _slopes(scored)
    step, middle = math.log1p(NOTICEABLE), _logs(best)

    def worth(by: tuple[int, int]) -> float:
        at = (middle[0] + step * by[0], middle[1] + step * by[1])
        nearest = min(_apart(at, _logs(spot)) for spot in scored)
        promised = slopes[0] * step * by[0] + slopes[1] * step * by[1]
        return promised + max(_LEAST_SPREAD, spread / 2.0) * min(1.0, nearest / step)

    by = max(((a, b) for a, b in product((-1, 0, 1), repeat=2) if (a, b) != (0, 0)), key=worth)
    at = (middle[0] + step * by[0], middle[1] + step * by[1])
    return _spot(at, best.sample, _direction(by))


def _slopes(spots: Sequence[TastedSpot]) -> tuple[float, float]:
    """Returns the slopes of the scores along the logarithms of sugar and acid [points]."""
    n = len(spots)
    rows = [(*_logs(spot), spot.score or 0.0) for spot in spots]
    mean = [math.fsum(row[k] for row in rows) / n for k in range(3)]
    moved = [[row[k] - mean[k] for k in range(3)] for row in rows]

    def product_of(i: int, j: int) -> float:
        return math.fsum(row[i] * row[j] for row in moved)

    matrix = [[product_of(0, 0) + _RIDGE, product_of(0, 1)], [product_of(0, 1), product_of(1, 1) + _RIDGE]]
    found = solve_linear(matrix, [product_of(0, 2), product_of(1, 2)])
    return (found[0], found[1]) if found is not None else (0.0, 0.0)


def _direction(by: tuple[int, int]) -> Message:
    sugar, acid = by
    if acid == 0:
        told = message("less sugar") if sugar < 0 else message("more sugar")
    elif sugar == 0:
        told = message("less acid") if acid < 0 else message("more acid")
    elif sugar == acid:
        told = message("less of both") if sugar < 0 else message("more of both")
    else:
        told = message("less sugar, more acid") if sugar < 0 else message("more sugar, less acid")
    return message(
        "One noticeable step from the one that stands best, with {change}: nothing like it was tasted, and the scores point there.",
        change=told,
    )


def additions_words(additions: Sequence[tuple[str, float]], made_ml: float, lot: str) -> Message:
    """Returns what goes into each litre, from the additions to a batch of `made_ml` [mL] as (name, mass [g]); of the bottle `lot` if it is named. Empty without additions."""
    if not additions or made_ml <= 0.0:
        return NOTHING
    parts = listed(message("{mass} {name}", mass=grams(mass * _LITRE_ML / made_ml), name=short_name(name)) for name, mass in additions)
    return message("Into each litre of {lot}: {parts}.", lot=lot, parts=parts) if lot else message("Into each litre: {parts}.", parts=parts)
