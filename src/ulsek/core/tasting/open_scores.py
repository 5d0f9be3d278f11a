"""Scores by tasters who knew what they drank, as a result in words: what they thought, which shows nothing of guests."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from ..base.figures import SCORE
from ..base.messages import NOTHING, Computed, Given, Message, counted, listed, message


@dataclass(frozen=True, slots=True)
class OpenScore:
    """A taster's score [points, 1 to 10, two decimals at most], what it was tasted against and a note (both empty if nobody said), and the moment."""

    score: float
    taster: str
    reference: str
    note: str
    at: datetime


@dataclass(frozen=True, slots=True)
class OpenResult:
    """The scores of one thing, the newest first: what they say, what they do not, and their mean [points]."""

    headline: Message
    about: Message
    mean: float
    scores: tuple[OpenScore, ...]


def open_result(scores: Sequence[OpenScore]) -> OpenResult | None:
    """Returns the result of scores that were given openly; None without any."""
    if not scores:
        return None
    mean = math.fsum(item.score for item in scores) / len(scores)
    tasters = tuple(dict.fromkeys(item.taster for item in scores))
    against = tuple(dict.fromkeys(item.reference for item in scores if item.reference))
    beside = message(", against {reference}", reference=listed(against)) if against else NOTHING
    if len(scores) == 1:
        headline = message("{taster} gave {score} of {most}{beside}.", taster=tasters[0], score=Given(mean), most=_most(), beside=beside)
    else:
        low, high = (Given(end(item.score for item in scores)) for end in (min, max))
        headline = message(
            "{mean} of {most} on average, {low} to {high}, by {tasters}{beside}.",
            mean=Computed(mean, decimals=1),
            most=_most(),
            low=low,
            high=high,
            tasters=counted("{n} taster", "{n} tasters", len(tasters)),
            beside=beside,
        )
    about = message("They knew what they drank: it says what they thought, and shows nothing of guests.")
    return OpenResult(headline, about, mean, tuple(sorted(scores, key=lambda item: item.at, reverse=True)))


def _most() -> Given:
    return Given(SCORE.high)
