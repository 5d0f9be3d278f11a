"""Methods of a sensory panel: what a taster is asked, how many samples it takes, and what chance alone gives."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from ..base.messages import Message, listed, message
from ..base.refusals import Refusal

MethodKey = Literal["triangle", "same_different", "paired", "ranking", "scores"]
Aim = Literal["difference", "preference", "standing"]
"""Can anybody tell; which is liked; how do they stand."""
PageKind = Literal["odd", "same", "preferred", "ranking", "liking", "attributes"]
"""What one page of a taster's sheet asks."""


@dataclass(frozen=True, slots=True)
class Method:
    """A method of tasting samples.

    `guess` is the probability of a right answer by guessing, for a pair that is liked alike of either choice; None for what has no such chance. `orders` are the
    orders of two samples (0 and 1) in one set, each to be served equally often; empty if a set holds every sample once. `task` is what the taster is
    asked, `hint` stands below it, `why` tells the lead what speaks for the method.
    """

    key: MethodKey
    aim: Aim
    asks: PageKind
    guess: float | None
    least_samples: int
    most_samples: int
    orders: tuple[tuple[int, ...], ...]
    name: Message
    task: Message
    hint: Message
    why: Message

    def glasses(self, samples: int) -> int:
        """Returns the glasses [count] of one set with so many samples."""
        return len(self.orders[0]) if self.orders else samples


METHODS: Mapping[str, Method] = {
    item.key: item
    for item in (
        Method(
            "triangle",
            "difference",
            "odd",
            1.0 / 3.0,
            2,
            2,
            ((0, 0, 1), (0, 1, 0), (1, 0, 0), (1, 1, 0), (1, 0, 1), (0, 1, 1)),
            message("Odd one of three"),
            message("Which one is the odd one?"),
            message("Two of the three are the same. If you cannot tell, guess: that is part of it."),
            message("Nobody has to know what differs. Chance gives one right answer in three."),
        ),
        Method(
            "same_different",
            "difference",
            "same",
            0.5,
            2,
            2,
            ((0, 0), (0, 1), (1, 0), (1, 1)),
            message("Same or different"),
            message("Are these two the same?"),
            message("Some pairs are the same, some are not. If you cannot tell, guess: that is part of it."),
            message(
                "Two glasses instead of three, good for what stays long on the tongue. Chance gives one in two, so it takes more tastings."
            ),
        ),
        Method(
            "paired",
            "preference",
            "preferred",
            0.5,
            2,
            2,
            ((0, 1), (1, 0)),
            message("Which of two is liked"),
            message("Which one do you like better?"),
            message("There is no right answer. If they are the same to you, take the one that you would finish."),
            message("The plainest question there is. Guests judge it best: staff know the house too well."),
        ),
        Method(
            "ranking",
            "preference",
            "ranking",
            None,
            3,
            6,
            (),
            message("In order of liking"),
            message("Put them in order, the one you like best first."),
            message("Touch the glasses one after the other. You may taste again."),
            message("For three to six: quicker than scores, and nobody has to agree on what a seven is."),
        ),
        Method(
            "scores",
            "standing",
            "liking",
            None,
            2,
            12,
            (),
            message("A score for each glass"),
            message("How much do you like it?"),
            message("Touch the line. Nothing is marked until you do."),
            message("Says how far apart they stand, and with what is just about right also why. The first sample is the control."),
        ),
    )
}
"""Source: triangle test ISO 4120:2021, paired comparison ISO 5495:2005, ranking ISO 8587:2006; sets of a same–different test after Macmillan and Creelman 2005."""
PROPOSED: Mapping[Aim, tuple[MethodKey, ...]] = {
    "difference": ("triangle", "same_different"),
    "preference": ("paired", "ranking"),
    "standing": ("scores",),
}


@dataclass(frozen=True, slots=True)
class AimWords:
    """What a panel is asked for, and when that is the question."""

    question: Message
    about: Message


AIMS: Mapping[Aim, AimWords] = {
    "difference": AimWords(message("Can anybody tell?"), message("A cheaper, an older or another one in place of the house's own.")),
    "preference": AimWords(message("Which is liked?"), message("Two or more, and one of them is to stay.")),
    "standing": AimWords(message("How do they stand?"), message("Scores against a control, and what is just about right.")),
}


@dataclass(frozen=True, slots=True)
class Attribute:
    """Something of a taste that may be too little, just right or too much."""

    key: str
    name: Message
    little: Message
    much: Message


ATTRIBUTES: Mapping[str, Attribute] = {
    item.key: item
    for item in (
        Attribute("sweet", message("sweet"), message("not sweet enough"), message("too sweet")),
        Attribute("tart", message("tart"), message("not tart enough"), message("too tart")),
        Attribute("bitter", message("bitter"), message("not bitter enough"), message("too bitter")),
        Attribute("body", message("body"), message("too thin"), message("too thick")),
    )
}
JUST_RIGHT, LEAST_MARK, MOST_MARK = 3, 1, 5
"""Marks of a scale that is just about right in its middle."""


def proposed(aim: Aim, samples: int) -> tuple[Method, ...]:
    """Returns the methods that answer a question about so many samples, the one to take first. Raises Refusal if there are too few or too many for all of them."""
    fitting = tuple(METHODS[key] for key in PROPOSED[aim] if METHODS[key].least_samples <= samples <= METHODS[key].most_samples)
    if not fitting:
        check_samples(METHODS[PROPOSED[aim][-1]], samples)
    return fitting


def method_of(key: str) -> Method:
    """Returns the method with this key. Raises Refusal for an unknown one."""
    if key not in METHODS:
        raise Refusal(
            message("“{key}” is no way to taste", key=key[:40]),
            "method",
            message("choose one of {names}", names=listed(METHODS, "comma")),
            code="unknown_reference",
        )
    return METHODS[key]


def check_samples(method: Method, samples: int) -> None:
    """Raises Refusal for a number of samples [count] that a method does not take."""
    least, most = method.least_samples, method.most_samples
    if samples < least:
        raise Refusal(
            message("{n} of at least {least} samples", n=samples, least=least),
            "samples",
            remedy=message("Say what it is tasted against"),
            code="missing",
        )
    if samples > most:
        raise Refusal(
            message("{n} samples are too many for “{method}”", n=samples, method=method.name),
            "samples",
            message("at most {most}", most=most),
            message("Taste them in two panels, or give scores") if method.key != "scores" else message("Taste them in two panels"),
            "out_of_bounds",
        )
