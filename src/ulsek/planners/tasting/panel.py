"""What the answers of a panel show, by its method."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from ulsek.core.base.ranges import Range
from ulsek.core.tasting.answers import Answered, chosen_sample, is_right
from ulsek.core.tasting.design import PanelDesign
from ulsek.core.tasting.found import ALARM, SURE, PanelFound, ShareFound, TasterCount
from ulsek.core.tasting.methods import METHODS, Method
from ulsek.core.tasting.sequential import decided

from . import distances
from .ranks import ranking
from .scores import Marked, Scored, attributes, scores
from .shares import bounds, by_chance, share_of, split_by_chance


def found_of(design: PanelDesign, answered: Sequence[Answered]) -> PanelFound | None:
    """Returns what the answers show; None if they are too few to say anything: none at all, or scores by one taster."""
    method = METHODS[design.method]
    if not answered:
        return None
    if method.aim == "difference":
        return PanelFound(share=_difference(method, design, answered))
    if method.key == "paired":
        return PanelFound(share=_preference(answered))
    if method.key == "ranking":
        return PanelFound(ranking=ranking(_ranks(design, answered)))
    return _standing(design, answered)


def _counts(answered: Sequence[Answered], counts: Sequence[bool]) -> tuple[TasterCount, ...]:
    right: dict[int, int] = defaultdict(int)
    of: dict[int, int] = defaultdict(int)
    for item, is_one in zip(answered, counts, strict=True):
        right[item.page.seat] += is_one
        of[item.page.seat] += 1
    return tuple(TasterCount(seat, right[seat], of[seat]) for seat in sorted(of))


def _difference(method: Method, design: PanelDesign, answered: Sequence[Answered]) -> ShareFound:
    guess = method.guess or 0.0
    counts = _counts(answered, [is_right(item.page, item.answer) for item in answered])
    right, each = sum(item.right for item in counts), tuple(item.of for item in counts)
    low, high = bounds(right, each, guess)
    share = share_of(right, sum(each), guess)
    if method.key == "same_different":
        d_prime = _same_different(answered)
    else:
        d_prime = Range(*(distances.distance(method.key, guess + (1.0 - guess) * at) for at in (share, low, high)))
    ended_by = decided(right, sum(each), guess, design.line) if design.is_sequential else None
    return ShareFound(counts, guess, share, low, high, by_chance(right, sum(each), guess), SURE, d_prime, ended_by)


def _same_different(answered: Sequence[Answered]) -> Range | None:
    """Returns the distance d′ from pairs; None unless both kinds of pairs were tasted."""
    same = [bool(item.answer["same"]) for item in answered if len(set(item.page.samples)) == 1]
    different = [bool(item.answer["same"]) for item in answered if len(set(item.page.samples)) > 1]
    return distances.same_different(sum(same), len(same), sum(different), len(different)) if same and different else None


def _preference(answered: Sequence[Answered]) -> ShareFound:
    counts = _counts(answered, [chosen_sample(item.page, item.answer["code"]) == 1 for item in answered])
    chosen, each = sum(item.right for item in counts), tuple(item.of for item in counts)
    chance = split_by_chance(chosen, each)
    # Where no preference is shown both ends count, so that they hold one half between them as the test does.
    sure = SURE if chance <= ALARM else 1.0 - ALARM / 2.0
    low, high = bounds(chosen, each, 0.0, sure)
    return ShareFound(counts, 0.0, chosen / sum(each), low, high, chance, sure)


def _ranks(design: PanelDesign, answered: Sequence[Answered]) -> list[list[float]]:
    """Returns for each taster the mean rank of every sample over the rounds."""
    places: dict[int, list[list[int]]] = defaultdict(list)
    for item in answered:
        ranked = [chosen_sample(item.page, code) for code in item.answer["order"]]
        places[item.page.seat].append([ranked.index(sample) + 1 for sample in range(design.samples)])
    return [[sum(column) / len(rows) for column in zip(*rows, strict=True)] for _, rows in sorted(places.items())]


def _standing(design: PanelDesign, answered: Sequence[Answered]) -> PanelFound | None:
    liking = [item for item in answered if item.page.asks == "liking"]
    steps = 2 if design.attributes else 1
    # The place of a glass in its round: pages of a glass follow one another.
    given = [
        Scored(item.page.seat, item.page.samples[0], (item.page.turn - 1) // steps % design.samples, item.page.round, item.answer["score"])
        for item in liking
    ]
    by_glass = {(item.taster, item.sample, item.round): item.score for item in given}
    marks = [
        Marked(item.page.seat, item.page.samples[0], key, mark, by_glass[item.page.seat, item.page.samples[0], item.page.round])
        for item in answered
        if item.page.asks == "attributes"
        for key, mark in item.answer["marks"].items()
        if (item.page.seat, item.page.samples[0], item.page.round) in by_glass
    ]
    try:
        return PanelFound(scores=scores(given, design.samples), attributes=attributes(marks))
    except ValueError:
        return None
