"""Ranks of several samples: Friedman's test, corrected pairs, and Bradley–Terry shares."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations, product

import numpy as np
from scipy.stats import chi2

from ulsek.core.tasting.found import PairFound, RankingFound

from .shares import bounds, split_by_chance

Ranks = Sequence[Sequence[float]]
"""For each taster the rank of every sample, 1 the best; mean ranks of a taster who ranked more than once."""
_STEPS, _CLOSE = 500, 1e-10
_PRIOR = 0.5
"""Wins that every pair gets on each side beforehand, so that a sample that always wins has a finite share (Firth 1993 for one comparison)."""


def ranking(ranks: Ranks) -> RankingFound:
    """Returns what ranks show. Raises ValueError without tasters."""
    if not ranks:
        raise ValueError("nobody has ranked")
    table = np.asarray(ranks, dtype=float)
    statistic, chance = friedman(table.tolist())
    return RankingFound(
        len(ranks), tuple(map(float, table.mean(axis=0))), worths(ranks), statistic, chance, corrected_pairs(pairs_of_ranks(ranks))
    )


def friedman(ranks: Ranks) -> tuple[float, float]:
    """Returns (Friedman's statistic corrected for ties, the probability of it by chance). Source: Conover 1999, equation 5.8.4 in its chi-squared form."""
    table = np.asarray(ranks, dtype=float)
    n, k = table.shape
    spread = float(((table - (k + 1) / 2.0) ** 2).sum())
    if spread == 0.0:
        return 0.0, 1.0
    between = float(((table.sum(axis=0) - n * (k + 1) / 2.0) ** 2).sum())
    statistic = (k - 1) * between / spread
    return statistic, float(chi2.sf(statistic, k - 1))


def pairs_of_ranks(ranks: Ranks) -> list[PairFound]:
    """Returns every pair with the tasters who put the one before the other, the one before more often first; not corrected. Ties are left out (Dixon and Mood 1946)."""
    found = []
    for a, b in combinations(range(len(ranks[0])), 2):
        before, after = sum(row[a] < row[b] for row in ranks), sum(row[a] > row[b] for row in ranks)
        first, second, most = (a, b, before) if before >= after else (b, a, after)
        of = before + after
        ones = (1,) * of
        chance, low = (split_by_chance(most, ones), bounds(most, ones, 0.0)[0]) if of else (1.0, 0.0)
        found.append(PairFound(first, second, most, of, chance, low))
    return found


def corrected_pairs(pairs: Sequence[PairFound]) -> tuple[PairFound, ...]:
    """Returns the pairs, the surest first, with their probabilities corrected for their number."""
    corrected = holm([item.by_chance for item in pairs])
    return tuple(sorted((replace(item, by_chance=p) for item, p in zip(pairs, corrected, strict=True)), key=lambda item: item.by_chance))


def holm(chances: Sequence[float]) -> list[float]:
    """Returns probabilities corrected for their number, in their order: any false alarm among them has the accepted probability. Source: Holm 1979."""
    found, least = [0.0] * len(chances), 0.0
    for place, at in enumerate(sorted(range(len(chances)), key=chances.__getitem__)):
        least = max(least, min(1.0, chances[at] * (len(chances) - place)))
        found[at] = least
    return found


def worths(ranks: Ranks) -> tuple[float, ...]:
    """Returns for each sample the probability that it is liked better than another one drawn of the rest, by the model of Bradley and Terry 1952.

    Fitted to the pairs that the ranks hold, by minorisation and maximisation (Hunter 2004), to 1e-10.
    """
    k = len(ranks[0])
    wins = np.zeros((k, k))
    for row, (a, b) in product(ranks, combinations(range(k), 2)):
        share = 0.5 if row[a] == row[b] else float(row[a] < row[b])
        wins[a, b] += share
        wins[b, a] += 1.0 - share
    wins += _PRIOR * (1.0 - np.eye(k))
    games = wins + wins.T
    strength = np.ones(k) / k
    for _ in range(_STEPS):
        sums = games / (strength[:, None] + strength[None, :])
        np.fill_diagonal(sums, 0.0)
        new = wins.sum(axis=1) / sums.sum(axis=1)
        new /= new.sum()
        moved = float(np.abs(new - strength).max())
        strength = new
        if moved < _CLOSE:
            break
    beats = strength[:, None] / (strength[:, None] + strength[None, :])
    np.fill_diagonal(beats, 0.0)
    return tuple(math.fsum(row) / (k - 1) for row in beats.tolist())
