"""One amount for several things in a sentence: “sugar and water, 500 g each”, “equal parts of honey and hot water”."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..base.ranges import Range
from ..written.quantities import MEASURED, Quantity
from .action import Action
from .calling import Calling
from .clauses import joins
from .ingredient import LEAST_GRAMS
from .ingredient_maker import IngredientMaker
from .material_names import Named
from .text_reading import TextReading

_MOST_BETWEEN = 3
"""Largest number of tokens between several names and the amount that each of them has: the “, say about” of “sugar and water, say about 500 g each” [count]."""


def put_in_alike(reading: TextReading, calling: Calling, action: Action) -> None:
    """Adds the materials that share one amount, or are equal parts, to an action and removes that amount from its quantities. Skips groups with a listed material."""
    for group in _groups(reading, action):
        if any(calling.the_one(named) is not None for named in group):
            continue
        much = _amount(reading, action, group)
        if much is None:
            continue
        action.quantities = [q for q in action.quantities if q is not much]
        maker, count = IngredientMaker(reading), len(reading.listed)
        for named in group:
            maker.with_amount(action.line, action.tokens[named.start : named.end], named, much)
        calling.add(action, *reading.listed[count:])


def _groups(reading: TextReading, action: Action) -> Iterator[Sequence[Named]]:
    """Yields the rows of known names that only “and” or commas part: “sugar, water and salt”."""
    tokens, words = action.tokens, reading.words.words
    row: list[Named] = []
    for named in reading.names.mentions(tokens):
        between = tokens[row[-1].end : named.start] if row else ()
        if row and not (between and all(joins(token, words) for token in between)):
            if len(row) > 1:
                yield row
            row = []
        row = [*row, named] if named.key is not None else []
    if len(row) > 1:
        yield row


def _amount(reading: TextReading, action: Action, group: Sequence[Named]) -> Quantity | None:
    """Returns the amount of each material of a group: 500 g for “sugar and water, 500 g each”, 1 part for “equal parts sugar and water”.

    Returns None if neither “each” nor “equal parts” is said of the group.
    """
    tokens, words = action.tokens, reading.words
    start, end = group[0].start, group[-1].end

    def of(at: int) -> int:
        return at + (at < len(tokens) and tokens[at].plain in words.words["of"])

    for quantity in action.quantities:
        if quantity.kind not in MEASURED and not (quantity.kind == "count" and quantity.amount.value >= LEAST_GRAMS):
            continue
        each = words.at("alike", tokens, of(quantity.end))
        if each is None:
            continue
        behind = end <= quantity.start <= end + _MOST_BETWEEN
        before = of(of(quantity.end) + each[0]) == start
        if behind or before:
            return quantity
    for at in range(max(0, start - _MOST_BETWEEN), start):
        equal = words.at("equal", tokens, at)
        if equal and of(at + equal[0]) == start:
            return Quantity(at, start, "parts", Range.exact(1.0), "parts")
    return None
