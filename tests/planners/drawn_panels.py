"""Panels drawn from a population whose share of tellers is known, and how often bounds miss it or a difference is shown that is not there."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulsek.core.tasting.sequential import decided
from ulsek.planners.tasting.ranks import ranking
from ulsek.planners.tasting.scores import Scored, scores
from ulsek.planners.tasting.shares import bounds, by_chance, split_by_chance

GUESS = 1 / 3


def drawn_shares(tasters, rounds, share, spread, *, panels, seed, guess=GUESS):
    """Right answers of each taster [panels × tasters]: what a taster perceives is drawn from a beta distribution, what they do not is guessed."""
    chance = np.random.default_rng(seed)
    if share in (0.0, 1.0) or spread == 0.0:
        tells = np.full((panels, tasters), share)
    elif spread == 1.0:
        tells = (chance.random((panels, tasters)) < share).astype(float)
    else:
        odds = (1.0 - spread) / spread
        tells = chance.beta(share * odds, (1.0 - share) * odds, (panels, tasters))
    return chance.binomial(rounds, guess + (1.0 - guess) * tells), rounds


def misses(drawn: tuple[np.ndarray, int], share: float, guess: float) -> tuple[float, float]:
    """The shares of panels whose upper bound lies below the truth, and whose lower bound lies above it."""
    right, rounds = drawn
    each = (rounds,) * right.shape[1]
    known: dict[int, tuple[float, float]] = {}
    found = [
        known.setdefault(total, bounds(total, each, guess)) if total not in known else known[total] for total in right.sum(axis=1).tolist()
    ]
    return float(np.mean([high < share - 1e-9 for _, high in found])), float(np.mean([low > share + 1e-9 for low, _ in found]))


def false_alarms(tasters, rounds, *, panels, seed, guess=GUESS):
    """How often a difference is shown where nobody can tell."""
    right, _ = drawn_shares(tasters, rounds, 0.0, 0.0, panels=panels, seed=seed, guess=guess)
    return float(np.mean([by_chance(total, tasters * rounds, guess) <= 0.05 for total in right.sum(axis=1).tolist()]))


def false_preferences(tasters, rounds, spread, *, panels, seed):
    """How often a preference is shown where half of the guests prefer each; the liking of one taster is as firm as `spread` says."""
    chosen, _ = drawn_shares(tasters, rounds, 0.5, spread, panels=panels, seed=seed, guess=0.0)
    return float(np.mean([split_by_chance(total, (rounds,) * tasters) <= 0.05 for total in chosen.sum(axis=1).tolist()]))


def false_pairs_of_ranks(tasters, samples, *, panels, seed):
    """How often any pair is shown where every order is equally likely."""
    chance = np.random.default_rng(seed)
    drawn = ([(chance.permutation(samples) + 1).tolist() for _ in range(tasters)] for _ in range(panels))
    return float(np.mean([any(pair.is_shown for pair in ranking(ranks).pairs) for ranks in drawn]))


def false_scores(tasters, samples, *, panels, seed, rounds=1):
    """How often any pair of scores is shown where none differs, and how often a mean's interval misses its truth."""
    chance = np.random.default_rng(seed)
    alarms, missed = [], []
    for _ in range(panels):
        given: list[Scored] = []
        kindness = chance.normal(0, 0.8, tasters)
        # A taster who likes one sample more does so again: the interaction that repeats do not remove.
        taste = chance.normal(0, 0.5, (tasters, samples))
        for turn in range(1, rounds + 1):
            for taster in range(tasters):
                given += [
                    Scored(
                        taster,
                        int(sample),
                        place,
                        turn,
                        float(5.5 + kindness[taster] + taste[taster, sample] + 0.2 * place + chance.normal(0, 1.2)),
                    )
                    for place, sample in enumerate(chance.permutation(samples))
                ]
        found = scores(given, samples)
        alarms.append(any(pair.is_shown for pair in found.pairs))
        truth = 5.5 + 0.2 * (samples - 1) / 2
        missed.append(not found.means[0].low <= truth <= found.means[0].high)
    return float(np.mean(alarms)), float(np.mean(missed))


def wrong_ends(tasters, line, *, panels, seed):
    """How often a panel that ends by its rule shows a difference where there is none, and says that the line is kept where it is reached."""
    chance = np.random.default_rng(seed)

    def ends(share: float) -> Sequence[str]:
        found = []
        for _ in range(panels):
            right, said = 0, ""
            for sets in range(1, tasters + 1):
                right += chance.random() < GUESS + (1 - GUESS) * share
                said = decided(int(right), sets, GUESS, line)
                if said:
                    break
            found.append(said)
        return found

    return float(np.mean([said == "difference" for said in ends(0.0)])), float(np.mean([said == "line kept" for said in ends(line)]))
