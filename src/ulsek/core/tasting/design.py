"""Design of a panel: its bounds, and the blind codes and balanced orders of its glasses, which follow from a secret seed."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TypeVar

from ..base.messages import Computed, Given, Message, listed, message, percent
from ..base.refusals import Refusal
from .methods import ATTRIBUTES, Aim, Method, PageKind, check_samples, method_of

MOST_TASTERS, MOST_ROUNDS = 40, 4
USUAL_TASTERS, USUAL_ROUNDS, USUAL_GLASS_ML = 6, 2, 15.0
LEAST_GLASS_ML, MOST_GLASS_ML = 2.0, 60.0
_FIRST_CODE, _CODES = 100, 900
SEED_LETTERS = 32
"""A seed is 128 random bits in hex."""
Item = TypeVar("Item")


@dataclass(frozen=True, slots=True)
class LineBounds:
    """What a line may be: its bounds, the usual one, and how it is printed: as a percentage or as points of a score."""

    least: float
    most: float
    usual: float
    is_share: bool

    def printed(self, line: float) -> Computed:
        """Returns a line as it is printed."""
        return percent(line) if self.is_share else Computed(line, "points", 1)


LINES: Mapping[Aim, LineBounds] = {
    "difference": LineBounds(0.05, 0.9, 0.2, is_share=True),
    "preference": LineBounds(0.51, 0.95, 0.65, is_share=True),
    "standing": LineBounds(0.2, 5.0, 1.0, is_share=False),
}
"""What difference matters: the largest share of guests who may tell; the share who must like one better; points of a score."""


@dataclass(frozen=True, slots=True)
class PanelDesign:
    """A panel as it is planned: `tasters` [count] taste `rounds` sets each [count] of so many `samples` [count], `glass_ml` in every glass [mL].

    `line` is what difference matters (`LINES`), fixed before anybody tastes. `attributes` are asked after the liking of a glass. `dark_glasses` hide a
    colour that would give a sample away. `is_sequential`: a rule that was fixed at the start ends the panel as soon as it is decided.
    """

    method: str
    tasters: int = USUAL_TASTERS
    rounds: int = USUAL_ROUNDS
    line: float = LINES["difference"].usual
    samples: int = 2
    glass_ml: float = USUAL_GLASS_ML
    dark_glasses: bool = False
    attributes: tuple[str, ...] = ()
    is_sequential: bool = False

    @property
    def sets(self) -> int:
        """Sets that are tasted in all [count]."""
        return self.tasters * self.rounds

    @property
    def glasses_each(self) -> int:
        """Glasses that one taster is poured [count]."""
        return self.rounds * method_of(self.method).glasses(self.samples)

    @property
    def pages_each(self) -> int:
        """Pages of one taster's sheet [count]."""
        method = method_of(self.method)
        return self.rounds * (self.samples * (2 if self.attributes else 1) if method.asks == "liking" else 1)


def _out_of_bounds(what: Message, where: str, bound: Message, remedy: Message) -> Refusal:
    return Refusal(what, where, bound, remedy, "out_of_bounds")


def checked_design(design: PanelDesign) -> PanelDesign:
    """Returns the design. Raises Refusal, at its place, for samples, tasters, rounds, a line, a glass or attributes that cannot be."""
    method = method_of(design.method)
    check_samples(method, design.samples)
    if not 1 <= design.tasters <= MOST_TASTERS:
        what, remedy = message("{n} tasters cannot be", n=design.tasters), message("Split a larger crowd into two panels")
        raise _out_of_bounds(what, "tasters", message("1 to {most}", most=MOST_TASTERS), remedy)
    if not 1 <= design.rounds <= MOST_ROUNDS:
        what, remedy = message("{n} rounds cannot be", n=design.rounds), message("A tongue tires: ask more people instead")
        raise _out_of_bounds(what, "rounds", message("1 to {most}", most=MOST_ROUNDS), remedy)
    bounds = LINES[method.aim]
    if not bounds.least <= design.line <= bounds.most:
        what, remedy = message("A line of {line} cannot be", line=bounds.printed(design.line)), message("Say what difference matters")
        raise _out_of_bounds(
            what, "line", message("{least} to {most}", least=bounds.printed(bounds.least), most=bounds.printed(bounds.most)), remedy
        )
    if not LEAST_GLASS_ML <= design.glass_ml <= MOST_GLASS_ML:
        raise _out_of_bounds(
            message("{glass} in a glass cannot be", glass=Given(design.glass_ml, "mL")),
            "glass_ml",
            message("{least} to {most}", least=Computed(LEAST_GLASS_ML, "mL", 0), most=Computed(MOST_GLASS_ML, "mL", 0)),
            message("15 mL is a usual taste"),
        )
    _check_extras(method, design)
    return design


def _check_extras(method: Method, design: PanelDesign) -> None:
    unknown = [key for key in design.attributes if key not in ATTRIBUTES]
    if unknown or len(set(design.attributes)) != len(design.attributes):
        raise Refusal(
            message("“{key}” is not asked here", key=(unknown or design.attributes)[0][:40]),
            "attributes",
            message("choose of {names}, each once", names=listed(ATTRIBUTES, "comma")),
            code="unknown_reference",
        )
    if design.attributes and method.asks != "liking":
        raise Refusal(
            message("What is just about right is asked with a score"),
            "attributes",
            remedy=message("Take scores, or leave it out"),
            code="refused",
        )
    if design.is_sequential and (method.aim != "difference" or design.rounds != 1):
        raise Refusal(
            message("A panel that ends by a rule asks whether anybody can tell, each taster once"),
            "is_sequential",
            remedy=message("One round, or no rule"),
            code="refused",
        )


@dataclass(frozen=True, slots=True)
class SheetPage:
    """One page of a taster's sheet: the `seat` (from 1), its number `turn` among the pages of that seat (from 1), its `round` (from 1), what it `asks`, and for each
    glass in the order served its code and the sample in it (from 0).
    """

    seat: int
    turn: int
    round: int
    asks: PageKind
    codes: tuple[str, ...]
    samples: tuple[int, ...]


class _Draws:
    """Uniform draws that follow from a seed by SHA-256 alone, so that every version of Python gives the same ones."""

    def __init__(self, seed: str) -> None:
        self._numbers = self._stream(seed)

    @staticmethod
    def _stream(seed: str) -> Iterator[int]:
        block = 0
        while True:
            digest = hashlib.sha256(f"{seed}:{block}".encode()).digest()
            yield from (int.from_bytes(digest[at : at + 8]) for at in range(0, len(digest), 8))
            block += 1

    def below(self, n: int) -> int:
        """Returns an integer from 0 to n − 1, each equally likely."""
        top = (1 << 64) // n * n
        return next(number for number in self._numbers if number < top) % n

    def shuffled(self, items: Sequence[Item]) -> list[Item]:
        """Returns the items in a random order (Fisher and Yates 1938)."""
        mixed = list(items)
        for last in range(len(mixed) - 1, 0, -1):
            other = self.below(last + 1)
            mixed[last], mixed[other] = mixed[other], mixed[last]
        return mixed


def _balanced_rows(samples: int) -> list[tuple[int, ...]]:
    """Returns orders of so many samples in which each stands in every place, and follows each other one, equally often (Williams 1949)."""
    zigzag = [(place + 1) // 2 if place % 2 else (samples - place // 2) % samples for place in range(samples)]
    rows = [tuple((first + step) % samples for step in zigzag) for first in range(samples)]
    return rows if samples % 2 == 0 else rows + [tuple(reversed(row)) for row in rows]


def _orders(method: Method, design: PanelDesign, draws: _Draws) -> list[tuple[int, ...]]:
    """Returns an order for each taster: every order of the method equally often, as far as their number allows, and none predictable."""
    if method.orders:
        rows = list(method.orders)
    else:
        named = draws.shuffled(range(design.samples))
        rows = [tuple(named[place] for place in row) for row in _balanced_rows(design.samples)]
    found: list[tuple[int, ...]] = []
    while len(found) < design.tasters:
        found += draws.shuffled(rows)
    return draws.shuffled(found[: design.tasters])


def pages_of(design: PanelDesign, seed: str) -> tuple[SheetPage, ...]:
    """Returns every page of a panel, by seat and turn. The same seed gives the same pages.

    Where the odd glass or a pair is asked for, each glass has a code of its own of three figures, so that two tasters who compare codes learn nothing; else each sample
    has one in each round. Raises Refusal for a design that cannot be, and ValueError for an empty seed: the key of an open panel that was moved to
    another site is lost.
    """
    if not seed:
        raise ValueError("without its seed nobody knows which glass holds what")
    method = method_of(checked_design(design).method)
    draws = _Draws(seed)
    free = iter(draws.shuffled([str(_FIRST_CODE + number) for number in range(_CODES)]))
    found = []
    for turn in range(1, design.rounds + 1):
        # Balanced within each round, so that a panel that ends early is balanced as well.
        orders = _orders(method, design, draws)
        shared = [] if method.orders else [next(free) for _ in range(design.samples)]
        for seat, order in enumerate(orders, 1):
            codes = tuple(shared[sample] if shared else next(free) for sample in order)
            found.append((seat, turn, codes, order))
    return tuple(
        page for seat in range(1, design.tasters + 1) for page in _sheet(method, design, [item for item in found if item[0] == seat])
    )


def _sheet(method: Method, design: PanelDesign, sets: Sequence[tuple[int, int, tuple[str, ...], tuple[int, ...]]]) -> Iterator[SheetPage]:
    """Yields the pages of one taster, of their sets in order: a page for a set, or for each glass of it one for the liking and one for the attributes."""
    turn = 0
    for seat, in_round, codes, order in sets:
        if method.asks != "liking":
            turn += 1
            yield SheetPage(seat, turn, in_round, method.asks, codes, order)
            continue
        kinds: tuple[PageKind, ...] = ("liking", "attributes") if design.attributes else ("liking",)
        for code, sample in zip(codes, order, strict=True):
            for kind in kinds:
                turn += 1
                yield SheetPage(seat, turn, in_round, kind, (code,), (sample,))
