"""Alternatives of a line: “500 g honey (or 450 g maple syrup)” is two lines of one group of options, of which one counts."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..spec.options import MOST_GROUPS
from ..written.quantities import Quantity
from ..written.tokens import Token
from .action import Action
from .doubts import Answer, Change, Form
from .ingredient import Ingredient
from .ingredient_maker import IngredientMaker
from .material_names import Named
from .text_reading import TextReading


def offer(
    maker: IngredientMaker, reading: TextReading, first: Ingredient, tokens: Sequence[Token], named: Named, much: Quantity | None
) -> None:
    """Stores an alternative of an ingredient, with its own amount or that of the first. It joins the list in `put_in`."""
    if named.key == first.key or not tokens:
        return
    second = (
        maker.with_amount(first.line, tokens, named, much)
        if much is not None
        else maker.ingredient(first.line, tokens, named, first.amount)
    )
    instead(reading, first, second)


def instead(reading: TextReading, first: Ingredient, second: Ingredient) -> None:
    """Moves a listed ingredient to the alternatives of another."""
    reading.listed.remove(second)
    reading.alternatives.append((first, second))


def put_in(reading: TextReading, actions: Sequence[Action]) -> None:
    """Adds every alternative to the list next to the ingredient that it may replace, each pair as a group of options, with a doubt about the choice."""
    for number, (first, second) in enumerate(reading.alternatives, 1):
        names = [reading.called(first), reading.called(second)]
        action = next((action for action in actions if any(item is first for item in action.lines)), None)
        measured = first.split or any(item.per is not None and item.per[0] is first for item in reading.listed)
        if action is None or measured or number > MOST_GROUPS:
            # Something hangs on the first: it is exchanged where that is answered.
            answers = [Answer(name, (Change({"material": item.key}),)) for name, item in zip(names, (first, second), strict=True)]
        else:
            first.option, second.option = f"or{number}/a", f"or{number}/b"
            action.lines.insert(action.lines.index(first) + 1, second)
            reading.listed.insert(reading.listed.index(first) + 1, second)
            answers = [Answer(name, (Change({"choose": item.option}),)) for name, item in zip(names, (first, second), strict=True)]
        reading.ask("alternatives", first, f"Which is it: {' or '.join(names)}?", *answers)


def groups(reading: TextReading) -> Iterator[Form]:
    """Yields the groups of options of the draft; the first of each is chosen."""
    for first, second in reading.alternatives:
        if first.option:
            names = [reading.called(item) for item in (first, second)]
            yield {
                "id": first.option.partition("/")[0],
                "name": " or ".join(names),
                "chosen": "a",
                "choices": [{"id": key, "name": name} for key, name in zip("ab", names, strict=True)],
            }
