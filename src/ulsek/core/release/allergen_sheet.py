"""Allergen sheet of a menu: every drink against every allergen, through its preps and the equipment that it shares.

An empty cell is no promise: it says that the allergen is in nothing that is written into the drink, and stands on no equipment that is known.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from ..base.answer import in_answer
from ..base.messages import Message, message
from .allergens import AllergenAnswer

DECLARED = (
    "gluten",
    "crustaceans",
    "egg",
    "fish",
    "peanuts",
    "soya",
    "milk",
    "nuts",
    "celery",
    "mustard",
    "sesame",
    "sulphites",
    "lupin",
    "molluscs",
)
"""The allergens that have to be declared. Source: Regulation (EU) No 1169/2011, Annex II, in its order. Other places have other lists."""

Mark = Literal["holds", "gear", "ask", ""]


@dataclass(frozen=True, slots=True)
class SheetRow:
    """A drink: a mark for each allergen of the sheet, and the answer with every way by which each comes in.

    A mark is "holds" if an ingredient contains it; else "ask" if the allergens of an ingredient are unknown; else "gear" if shared equipment may carry it; else empty.
    """

    name: str
    marks: tuple[Mark, ...]
    answer: AllergenAnswer


@dataclass(frozen=True, slots=True)
class AllergenSheet:
    """The allergens of the sheet in their order, and a row for each drink."""

    allergens: tuple[str, ...]
    rows: tuple[SheetRow, ...]

    @property
    @in_answer()
    def legend(self) -> tuple[Message, ...]:
        """Returns what the marks mean."""
        return (
            message("holds: it goes into the drink."),
            message("gear: equipment that the drink shares may carry it; clean it before."),
            message("ask: nobody has said what something in it holds."),
            message(
                "An empty field is no promise: it is in nothing that is written into the drink. Local codes say what must be declared."
            ),
        )


def allergen_sheet(answers: Iterable[AllergenAnswer]) -> AllergenSheet:
    """Returns the sheet of these drinks. After the declared allergens come others that a drink holds or may carry, by name."""
    found = list(answers)
    others = {word for answer in found for word in _words(answer)} - set(DECLARED)
    allergens = (*DECLARED, *sorted(others))
    return AllergenSheet(allergens, tuple(SheetRow(answer.name, _marks(answer, allergens), answer) for answer in found))


def _words(answer: AllergenAnswer) -> Iterator[str]:
    yield from (item.allergen for item in answer.contains)
    yield from (item.allergen for item in answer.shared)


def _marks(answer: AllergenAnswer, allergens: Sequence[str]) -> tuple[Mark, ...]:
    held = {item.allergen for item in answer.contains}
    carried = {item.allergen for item in answer.shared}

    def mark(word: str) -> Mark:
        if word in held:
            return "holds"
        # Cleaning the equipment is not enough while an ingredient is unknown.
        return "ask" if answer.unknown else "gear" if word in carried else ""

    return tuple(map(mark, allergens))


def sheet_rows(sheet: AllergenSheet, head: Sequence[str], before: Sequence[str]) -> Iterator[tuple[str, ...]]:
    """Yields the sheet as rows of a table, the column names first. Each row starts with the cells `before`, whose column names are `head`."""
    yield (*head, "drink", *sheet.allergens, "through", "gear", "unknown")
    for row in sheet.rows:
        through = "; ".join(str(item.words) for item in row.answer.contains)
        gear = "; ".join(f"{item.gear}: {item.allergen} ({item.source})" for item in row.answer.shared)
        yield (*before, row.name, *row.marks, through, gear, "; ".join(row.answer.unknown))
