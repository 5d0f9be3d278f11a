"""What a panel shows once its seal is broken: the verdict, where each sample stands, and each taster's answers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from ulsek.core.base.answer import json_member
from ulsek.core.base.messages import NOTHING, Message
from ulsek.core.base.ranges import Range
from ulsek.core.tasting.answers import Answered, chosen_sample, is_right
from ulsek.core.tasting.design import PanelDesign, SheetPage
from ulsek.core.tasting.found import LikedSpot, PanelFound
from ulsek.core.tasting.methods import METHODS
from ulsek.core.tasting.names import short_names
from ulsek.core.tasting.next_trial import (
    POINTS_OF_A_SHARE,
    NextSpot,
    TastedSpot,
    missing_spots,
    missing_words,
    next_after_difference,
    next_by_scores,
)
from ulsek.core.tasting.old_bottle import AgedSample, AgeFound, found_of_age
from ulsek.core.tasting.verdict import PanelVerdict, key_lost, nothing_to_say, verdict


@dataclass(frozen=True, slots=True)
class TasterDot:
    """What one seat said of a sample: a score [points], a place, or 1 and 0 for right and wrong, chosen and not chosen; in a round."""

    seat: int
    round: int
    value: float


@dataclass(frozen=True, slots=True)
class SampleStanding:
    """A sample with the codes on its glasses, its figure (mean score or mean place; None where there is none) and the dots."""

    sample: int
    codes: tuple[str, ...]
    figure: Range | None
    dots: tuple[TasterDot, ...]


@dataclass(frozen=True, slots=True)
class TasterWord:
    """A taster's own word about a glass or a set of glasses."""

    seat: int
    codes: tuple[str, ...]
    word: str


@dataclass(frozen=True, slots=True)
class PanelResults:
    """Where the samples stand, the best first where they have an order; for right and wrong answers one row of all dots. `sets` is the key: what stood in each glass.

    `liked` is where the panel likes what differs only in sugar and acid, `liked_words` says why it is not known; `next` is the trial worth making. `age`
    is what older bottles showed beside younger ones, None without such.
    """

    standings: tuple[SampleStanding, ...]
    sets: tuple[SheetPage, ...]
    words: tuple[TasterWord, ...]
    found: PanelFound | None
    liked: LikedSpot | None
    liked_words: Message
    next: NextSpot | None
    age: AgeFound | None = field(default=None, metadata=json_member(stored=None))


@dataclass(frozen=True, slots=True)
class Told:
    """What a panel is told from: its design, the names of its samples, its pages, the answers that count, those samples that differ only in sugar and acid, and those
    of one version with their age.

    With a `stop` nothing is counted, and the verdict says why.
    """

    design: PanelDesign
    names: Sequence[str]
    pages: Sequence[SheetPage]
    answered: Sequence[Answered]
    spots: Sequence[TastedSpot]
    stop: Message = NOTHING
    aged: Sequence[AgedSample] = ()


def told(panel: Told) -> tuple[PanelVerdict, PanelResults]:
    """Returns the verdict of a panel and its results."""
    # The statistics library takes a second to load: it is loaded where it is first needed.
    from .panel import found_of
    from .surface import liked_spot

    design, answered = panel.design, panel.answered
    found = None if panel.stop else found_of(design, answered)
    said = verdict(design, short_names(panel.names), found) if found is not None else nothing_to_say(len(answered))
    if panel.stop:
        said = PanelVerdict(panel.stop, said.sentences[:1], said.caution, is_shown=False, figures=())
    words = tuple(TasterWord(item.page.seat, item.page.codes, item.answer["word"]) for item in answered if item.answer.get("word"))
    sets = tuple(page for page in panel.pages if page.asks != "attributes")
    spots = _scored(panel.spots, found)
    liked = liked_spot(spots, found.scores.error) if found is not None and found.scores is not None else None
    missing = missing_words(spots) if spots and missing_spots(spots) else NOTHING
    following = _next(design, spots, found)
    age = found_of_age(design, panel.aged, found)
    return said, PanelResults(tuple(_standings(design, sets, answered, found)), sets, words, found, liked, missing, following, age)


def without_key() -> tuple[PanelVerdict, PanelResults]:
    """Returns the verdict and the empty results of a panel whose key is not on this site."""
    return key_lost(), PanelResults((), (), (), None, None, NOTHING, None)


def _scored(spots: Sequence[TastedSpot], found: PanelFound | None) -> list[TastedSpot]:
    """Returns the spots with what was found of each: a mean score, or the share that likes it better, in points."""
    if found is None:
        return list(spots)
    if found.scores is not None:
        values: Sequence[float] = [item.value for item in found.scores.means]
    elif found.ranking is not None:
        values = [POINTS_OF_A_SHARE * worth for worth in found.ranking.worths]
    elif found.share is not None and not found.share.guess:
        values = [POINTS_OF_A_SHARE * (1.0 - found.share.share), POINTS_OF_A_SHARE * found.share.share]
    else:
        return list(spots)
    return [replace(spot, score=values[spot.sample]) for spot in spots]


def _next(design: PanelDesign, spots: Sequence[TastedSpot], found: PanelFound | None) -> NextSpot | None:
    if found is None or len(spots) < 2:
        return None
    if found.share is not None and METHODS[design.method].aim == "difference":
        return next_after_difference(spots[0], spots[1], is_shown=found.share.is_shown)
    return next_by_scores(spots, found.scores.sd_rest if found.scores is not None else 0.0)


def _standings(
    design: PanelDesign, sets: Sequence[SheetPage], answered: Sequence[Answered], found: PanelFound | None
) -> list[SampleStanding]:
    if METHODS[design.method].aim == "difference":
        dots = tuple(TasterDot(item.page.seat, item.page.round, float(is_right(item.page, item.answer))) for item in answered)
        return [SampleStanding(0, (), None, dots)]
    rows = [
        SampleStanding(sample, _codes(sets, sample), _figure(found, sample), tuple(_dots(answered, sample)))
        for sample in range(design.samples)
    ]
    if found is None or found.share is not None:
        return rows
    lower_is_better = found.ranking is not None
    return sorted(rows, key=lambda row: (row.figure.value if row.figure else 0.0) * (1.0 if lower_is_better else -1.0))


def _codes(sets: Sequence[SheetPage], sample: int) -> tuple[str, ...]:
    seen = {code: None for page in sets for code, inside in zip(page.codes, page.samples, strict=True) if inside == sample}
    return tuple(seen)


def _figure(found: PanelFound | None, sample: int) -> Range | None:
    if found is None:
        return None
    if found.scores is not None:
        return found.scores.means[sample]
    return Range.exact(found.ranking.mean_ranks[sample]) if found.ranking is not None else None


def _dots(answered: Sequence[Answered], sample: int) -> list[TasterDot]:
    dots = []
    for item in answered:
        page, answer = item.page, item.answer
        if page.asks == "liking" and page.samples[0] == sample:
            dots.append(TasterDot(page.seat, page.round, answer["score"]))
        elif page.asks == "ranking":
            ranked = [chosen_sample(page, code) for code in answer["order"]]
            dots.append(TasterDot(page.seat, page.round, float(ranked.index(sample) + 1)))
        elif page.asks == "preferred":
            dots.append(TasterDot(page.seat, page.round, float(chosen_sample(page, answer["code"]) == sample)))
    return dots
