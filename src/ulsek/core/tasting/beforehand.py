"""What a panel can show, in words, before anybody tastes."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..base.messages import Computed, Message, counted, message, percent
from .design import LINES, PanelDesign
from .found import Expected
from .methods import METHODS
from .verdict import share_up


@dataclass(frozen=True, slots=True)
class Beforehand:
    """What a panel can show, as sentences, the most important first; and whether it can show what its line asks for."""

    sentences: tuple[Message, ...]
    reaches_line: bool


def beforehand(design: PanelDesign, expected: Expected) -> Beforehand:
    """Returns what a panel of this design can show."""
    method = METHODS[design.method]
    line = LINES[method.aim].printed(design.line)
    if method.aim == "difference":
        said = _difference(expected, line)
    elif method.key == "paired":
        said = _preference(design, expected, line)
    elif method.key == "ranking":
        said = [_ranking(design, expected)]
    else:
        said = _scores(design, expected, line)
    reaches = expected.needed_sets is not None and expected.needed_sets <= expected.sets
    return Beforehand(tuple(said), reaches or method.key == "ranking")


def line_words(design: PanelDesign) -> Message:
    """Returns the line of a design, as it was fixed before anybody tastes."""
    aim = METHODS[design.method].aim
    line = LINES[aim].printed(design.line)
    if aim == "difference":
        return message("We switch if at most {line} of guests can tell.", line=line)
    if aim == "preference":
        return message("It counts if at least {line} of guests prefer it.", line=line)
    return message("It matters from {line} on.", line=line)


def _tens(count: int) -> int:
    """Returns a number of sets as it is told: from fifty on in tens, rounded up."""
    return count if count < 50 else 10 * math.ceil(count / 10.0)


def _sets(count: int) -> Message:
    return counted("{n} tasting", "{n} tastings", count)


def _difference(expected: Expected, line: Computed) -> Sequence[Message]:
    said = []
    if expected.needed_sets is None:
        said.append(message("That at most {line} can tell is more than a panel can show.", line=line))
    elif expected.needed_sets > expected.sets:
        said.append(
            message(
                "{sets} can hardly show that at most {line} can tell: that takes about {needed}.",
                sets=_sets(expected.sets),
                line=line,
                needed=_tens(expected.needed_sets),
            )
        )
    else:
        said.append(message("{sets} are enough to show that at most {line} can tell, if nobody can.", sets=_sets(expected.sets), line=line))
    if expected.likely_bound is not None:
        said.append(message("If nobody can, it will say about: up to {high} may notice.", high=share_up(expected.likely_bound)))
    said.append(_difference_shown(expected))
    return said


def _difference_shown(expected: Expected) -> Message:
    if expected.needed_right is None:
        return message("Even if all are right, that can be chance: ask more people.")
    if expected.detectable is None:
        return message("A difference is shown from {n} right of {of}.", n=expected.needed_right, of=expected.sets)
    return message(
        "A difference is shown from {n} right of {of}; four times in five if {share} of guests can tell.",
        n=expected.needed_right,
        of=expected.sets,
        share=percent(expected.detectable),
    )


def _preference(design: PanelDesign, expected: Expected, line: Computed) -> Sequence[Message]:
    said = []
    if expected.needed_right is None:
        said.append(message("Even if all prefer the same one, that can be chance: ask more people."))
    else:
        said.append(message("A preference is shown from {n} of {of} for one of them.", n=expected.needed_right, of=expected.sets))
    if expected.needed_sets is not None and expected.needed_sets > design.tasters:
        said.append(
            message(
                "If {line} of guests prefer it, that shows four times in five with about {n} tasters; here are {tasters}.",
                line=line,
                n=_tens(expected.needed_sets),
                tasters=design.tasters,
            )
        )
    elif expected.needed_sets is not None:
        said.append(message("If {line} of guests prefer it, that shows at least four times in five.", line=line))
    if design.rounds > 1:
        said.append(message("Whoever likes one likes it again: a second round makes little surer."))
    return said


def _ranking(design: PanelDesign, expected: Expected) -> Message:
    if expected.needed_right is None:
        return message("Even if all put one before another, that can be chance among so many pairs: ask more people.")
    return message(
        "Of two, one is shown to be liked better from {n} of {tasters} tasters on.", n=expected.needed_right, tasters=design.tasters
    )


def _scores(design: PanelDesign, expected: Expected, line: Computed) -> Sequence[Message]:
    said = []
    if expected.detectable is not None:
        said.append(
            message(
                "With {tasters}, two that lie {apart} apart show it four times in five, if scores scatter as usual.",
                tasters=counted("{n} taster", "{n} tasters", design.tasters),
                apart=Computed(expected.detectable, "points", 1),
            )
        )
    if expected.needed_sets is not None and expected.needed_sets > design.tasters:
        said.append(message("Your line of {line} takes about {n} tasters.", line=line, n=_tens(expected.needed_sets)))
    return said
