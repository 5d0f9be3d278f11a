"""Whole fruits in the list of which the method uses only the peel or zest: “6 lemons … peel the lemons, muddle the peels with the sugar”."""

from __future__ import annotations

from collections.abc import Sequence

from .action import Action
from .ingredient import Amount, Ingredient
from .line_questions import LineQuestions
from .piece_amounts import part_g, product
from .text_reading import TextReading

_TAKES = {"peel": "peel", "zest": "zest"}
"""Part of a fruit that each verb takes off."""


def parts_put_in(reading: TextReading, actions: Sequence[Action]) -> None:
    """Puts in the peel or zest that later steps use, where a step takes it off fruit that is whole in the list and nothing else of it is used.

    Fruit of which later steps name no part, or its flesh or juice, stays whole. The part has the usual amount of so many fruits, and is asked about.
    """
    for position, action in enumerate(actions):
        part = _TAKES.get(action.verb)
        whole = [item for item in action.lines if part and reading.material(item.key).kind == "fruit" and item.amount.kind == "count"]
        used = _parts_of(reading, actions[position + 1 :]) if whole else set()
        if part is not None and used and used <= set(_TAKES):
            for item in whole:
                _becomes(reading, item, part)


def _parts_of(reading: TextReading, actions: Sequence[Action]) -> set[str]:
    """Returns the parts of fruit that steps name or take."""
    found: set[str] = set()
    for action in actions:
        if action.verb in ("discard", "strain", "press", "filter"):
            continue
        found |= {"juice"} if action.verb == "juice" else set()
        said = (reading.words.at("part_words", action.tokens, at) for at in range(len(action.tokens)))
        found |= {str(part[1]) for part in said if part}
    return found


def _becomes(reading: TextReading, item: Ingredient, part: str) -> None:
    """Changes an ingredient from a count of fruit to the mass of a part of that many fruits [g], if the fruit has the part."""
    named = reading.part_of(item.named, part)
    if named is None or named.key is None:
        return
    amount = product(item.amount.amount, part_g(reading, item.key, part))
    item.named, item.key = named, named.key
    item.amount = Amount("mass", amount, f"the {part} of one", assumed=True)
    LineQuestions(reading).how_much(item, item.amount.unit, "count_of_fruit")
