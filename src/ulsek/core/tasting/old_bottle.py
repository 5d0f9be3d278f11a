"""An older bottle beside a younger one of the same version: what its tasting says of how long the product is good. It shortens a date and never lengthens one."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..base.messages import NOTHING, Message, days, message
from .design import PanelDesign
from .found import PairFound, PanelFound
from .methods import METHODS


@dataclass(frozen=True, slots=True)
class AgedSample:
    """A sample of a panel, by its place (from 0), and its age when the panel was opened [days; the day from which it keeps is day 1]."""

    sample: int
    day: int


@dataclass(frozen=True, slots=True)
class AgeFound:
    """What was found of age: the sentence, and for how many days at most the product is good by it [days]; None if no older sample was shown to be worse. `caution`
    says what else may be behind it, empty if nothing was shown.
    """

    days: int | None
    words: Message
    caution: Message = NOTHING


def age_beforehand(aged: Sequence[AgedSample]) -> Message:
    """Returns what a panel of an older bottle beside a younger one can do, before anybody tastes; empty if no two samples of one version differ in age."""
    tasted = {item.day for item in aged}
    if len(tasted) < 2:
        return NOTHING
    return message(
        "Day {old} against day {young}: if age is shown, a shorter date is proposed. No panel makes one longer.",
        old=max(tasted),
        young=min(tasted),
    )


def found_of_age(design: PanelDesign, aged: Sequence[AgedSample], found: PanelFound | None) -> AgeFound | None:
    """Returns what a panel found of age; None if no two samples of one version differ in age, or nothing was found at all.

    The product is good until the oldest day that was tasted and not shown to be worse; where none lies between, until the day before the one that was.
    """
    days_of = {item.sample: item.day for item in aged}
    if found is None or len(set(days_of.values())) < 2:
        return None
    worse = sorted((days_of[old], days_of[young]) for young, old in _worse(design, found) if days_of.get(young, 0) < days_of.get(old, 0))
    youngest, oldest = min(days_of.values()), max(days_of.values())
    if not worse:
        if found.share is not None and found.share.is_shown and METHODS[design.method].aim == "preference":
            return AgeFound(None, message("Day {old} is preferred to day {young}. That makes no date longer.", old=oldest, young=youngest))
        return AgeFound(
            None,
            message("No harm of age was shown on day {old} against day {young}. That makes no date longer.", old=oldest, young=youngest),
        )
    turned, against = worse[0]
    between = [day for day in days_of.values() if against < day < turned]
    good = max(between, default=turned - 1)
    told = (
        message("Day {old} was told from day {young}", old=turned, young=against)
        if METHODS[design.method].aim == "difference"
        else message("Day {old} is liked less than day {young}", old=turned, young=against)
    )
    if between:
        words = message("{told}, and of day {good} that was not shown: good for {days}.", told=told, good=good, days=days(good))
    else:
        words = message("{told}: good for {days} at most. Nobody tasted what lies between.", told=told, days=days(good))
    return AgeFound(good, words, message("They are of different batches: whatever else differs between those counts as age here."))


def _worse(design: PanelDesign, found: PanelFound) -> Iterator[tuple[int, int]]:
    """Yields (better sample, worse sample) of each pair that was shown; of a difference, which has no direction, both ways."""
    if found.share is not None and found.share.is_shown:
        if METHODS[design.method].aim == "difference":
            yield from ((0, 1), (1, 0))
        else:
            # The share is that of the second sample.
            yield (1, 0) if 2 * found.share.right >= found.share.of else (0, 1)
    pairs: Sequence[PairFound] = (
        found.ranking.pairs if found.ranking is not None else found.scores.pairs if found.scores is not None else ()
    )
    yield from ((item.first, item.second) for item in pairs if item.is_shown)
