"""What the statistics of a panel found: figures without words. `ulsek.planners.tasting` computes them, `ulsek.core.tasting.verdict` puts them into words."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ..base.ranges import Range

SURE, ALARM = 0.95, 0.05
"""Confidence of a one-sided bound, and the probability of a false alarm that is accepted."""


Decided = Literal["", "difference", "line kept"]
"""What the rule of a sequential panel has decided; empty: nothing yet."""


@dataclass(frozen=True, slots=True)
class TasterCount:
    """Of `of` sets [count] one taster answered `right` rightly, or chose the second sample so often."""

    seat: int
    right: int
    of: int


@dataclass(frozen=True, slots=True)
class ShareFound:
    """A share of guests [0 to 1], from answers that guessing alone gets right with probability `guess` (0 where there is no guessing).

    `low` and `high` are one-sided bounds of the confidence `sure`, `by_chance` is the probability that chance alone gives so many right or more (for a preference: a split at
    least as uneven). `d_prime` is the distance of the samples in units of perception; None for a preference. `ended_by` is what the rule of a sequential panel
    decided, empty if nothing yet; None for a panel without a rule.
    """

    counts: tuple[TasterCount, ...]
    guess: float
    share: float
    low: float
    high: float
    by_chance: float
    sure: float = SURE
    d_prime: Range | None = None
    ended_by: Decided | None = None

    @property
    def right(self) -> int:
        """Right answers, or choices of the second sample, in all [count]."""
        return sum(item.right for item in self.counts)

    @property
    def of(self) -> int:
        """Sets that were answered in all [count]."""
        return sum(item.of for item in self.counts)

    @property
    def is_shown(self) -> bool:
        """True if chance alone gives this in at most one of twenty panels; for a panel that ends by a rule, if the rule says so."""
        return self.by_chance <= ALARM if self.ended_by is None else self.ended_by == "difference"


@dataclass(frozen=True, slots=True)
class PairFound:
    """Two samples (from 0) against each other: `first` stands before `second` for `before` of `of` tasters [count], ties left out.

    `apart` is the difference of their scores, first less second [points], with its 90 % interval; None for ranks. `by_chance` is corrected for the number
    of pairs (Holm 1979), `low` the one-sided 95 % bound of the share that puts `first` before.
    """

    first: int
    second: int
    before: int
    of: int
    by_chance: float
    low: float
    apart: Range | None = None

    @property
    def is_shown(self) -> bool:
        """True if chance alone gives this in at most one of twenty panels."""
        return self.by_chance <= ALARM


@dataclass(frozen=True, slots=True)
class RankingFound:
    """Ranks of samples: the mean rank of each (1 is best), its Bradley–Terry share (the probability that it is liked better than the others on average), Friedman's
    statistic with the probability of it by chance, and the pairs.
    """

    tasters: int
    mean_ranks: tuple[float, ...]
    worths: tuple[float, ...]
    friedman: float
    by_chance: float
    pairs: tuple[PairFound, ...]


@dataclass(frozen=True, slots=True)
class ScoresFound:
    """Scores of samples: each mean with its 90 % interval [points], the standard deviations of tasters, of places in the order, and of the rest [points], and the pairs."""

    tasters: int
    means: tuple[Range, ...]
    sd_tasters: float
    sd_order: float
    sd_rest: float
    pairs: tuple[PairFound, ...]

    @property
    def error(self) -> float:
        """Standard error of the mean of one sample [points], tasters and the order apart."""
        return self.sd_rest / math.sqrt(self.tasters)


@dataclass(frozen=True, slots=True)
class AttributeFound:
    """How many tasters [count] found an attribute of a sample too little, just right, too much; the probability by chance of a split so uneven between too
    little and too much, corrected for the number of samples and attributes; and by how much less those who did not find it right liked the glass [points], None if nobody or everybody did.
    """

    sample: int
    attribute: str
    little: int
    right: int
    much: int
    by_chance: float
    drop: float | None


@dataclass(frozen=True, slots=True)
class LikedSpot:
    """Where a panel likes a liquid, inside what was tasted: sugar and acid with their doubt [g/100 mL], and the score there [points]."""

    sugar: Range
    acid: Range
    score: float


@dataclass(frozen=True, slots=True)
class PanelFound:
    """Everything that was found, by the aim of the panel; what does not apply is None or empty."""

    share: ShareFound | None = None
    ranking: RankingFound | None = None
    scores: ScoresFound | None = None
    attributes: tuple[AttributeFound, ...] = ()


@dataclass(frozen=True, slots=True)
class Expected:
    """What a panel can show, computed before anybody tastes.

    `sets` [count] in all; `needed_right` the least right answers (or choices of one sample) [count] that show a difference, None if even all do not;
    `detectable` the share (or difference in points) that it shows in four of five panels, None if none; `likely_bound` the upper bound that it reaches
    if there is nothing to find; `needed_sets` how many sets show in four of five panels what the line asks for, None if more than are ever tasted.
    """

    sets: int
    needed_right: int | None
    detectable: float | None
    likely_bound: float | None
    needed_sets: int | None
