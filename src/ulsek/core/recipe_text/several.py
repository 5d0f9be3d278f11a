"""Several recipes in one text: where each begins, as it is written one after another, or as rows of a table."""

from __future__ import annotations

import csv
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any, TypeVar

from ..base.messages import message
from ..base.refusals import Refusal
from ..base.vocabulary import plain
from ..written.lexicon import LANGUAGES, lexicon
from ..written.tokens import Token, tokens_of
from .languages import language_of
from .layout import Layout
from .material_names import material_names
from .rows import bare
from .text_reading import TextReading
from .verbs import VerbFinder

MOST_RECIPES = 60
"""Recipes that are read from one text [count]."""
MOST_TOGETHER = 100_000
"""Letters of a text with several recipes [count]."""
_FEW_LINES = 2
"""Lines of a list after which a prep's name begins another recipe, though no method was told [count]."""
Part = TypeVar("Part")
_RULE = frozenset("-=*_~%#")
_DELIMITERS = ("\t", ";", ",", "|")


@dataclass(frozen=True, slots=True)
class _Row:
    """A line that is not empty: its place in the text [letter], its tokens, and whether an empty line or a rule stands before it."""

    start: int
    tokens: list[Token]
    apart: bool


def recipes_of(text: str, known: Mapping[str, Any]) -> tuple[str, ...]:
    """Returns the recipes of a text, each with all of its words; a text with one recipe is returned whole. Raises Refusal for a language that is not read, for a text of more
    than 100 000 letters, and for more than 60 recipes.
    """
    if len(text) > MOST_TOGETHER:
        raise Refusal(
            message("The text is too long"),
            "text",
            message("at most {most} letters", most=MOST_TOGETHER),
            message("Paste a part of it at a time"),
            "too_long",
        )
    language = language_of(text, tokens_of(text[:20_000]))
    reading = TextReading(text, lexicon(language), "metric", material_names(language, known), {})
    layout = Layout(reading, VerbFinder(reading.words, reading.quantities))
    rows = list(_rows(text))
    titles = frozenset(
        at for at, row in enumerate(rows) if at and row.apart and layout.begins_a_recipe(row.tokens, _after(rows, at), told=True)
    )
    begins = _beginnings(rows, titles, layout, sure=False)
    if len(begins) > 1:
        # Where several recipes stand, another name over another list is another recipe.
        begins = _beginnings(rows, titles, layout, sure=True)
    return within_most([text[begin:end].strip() for begin, end in zip(begins, [*begins[1:], len(text)], strict=True)])


def _after(rows: Sequence[_Row], at: int) -> list[Token] | None:
    return rows[at + 1].tokens if at + 1 < len(rows) else None


def _beginnings(rows: Sequence[_Row], titles: Collection[int], layout: Layout, *, sure: bool) -> list[int]:
    """Returns where the recipes of a text begin [letters]; `titles` are the rows that may be a title, `sure` is set where it is known that there are several."""
    begins = [0]
    listed, told, begun = 0, False, 0
    # What stands behind the last title decides nothing.
    for at, row in enumerate(rows[: max(titles) + 1] if titles else ()):
        if at in titles:
            named = layout.names_a_prep(row.tokens)
            content = listed > 0 and (told or (listed >= _FEW_LINES and (sure or named)))
            # A name with nothing to read under it ends at the next name: it is refused by itself.
            content = content or (sure and named and at - begun >= _FEW_LINES)
            if content and layout.begins_a_recipe(row.tokens, _after(rows, at), told=told or sure):
                begins.append(row.start)
                listed, told, begun = 0, False, at
        kinds = layout.kinds_of(row.tokens)
        listed += "list" in kinds or ("method" in kinds and layout.measures(row.tokens))
        told = told or "method" in kinds
    return begins


def _rows(text: str) -> Iterator[_Row]:
    offset, apart = 0, True
    for raw in text.split("\n"):
        marks = raw.strip()
        tokens = [] if marks and set(marks) <= _RULE else bare(tokens_of(raw, offset))
        if tokens:
            # A title of a marked-up text needs no empty line before it.
            yield _Row(offset, tokens, apart or marks.startswith("#"))
        apart = not tokens
        offset += len(raw) + 1


def within_most(parts: Sequence[Part]) -> tuple[Part, ...]:
    """Returns recipes of one text. Raises Refusal for more than 60."""
    if len(parts) > MOST_RECIPES:
        raise Refusal(
            message("The text holds too many recipes"),
            "text",
            message("at most {most} recipes at once", most=MOST_RECIPES),
            message("Paste a part of it at a time"),
            "too_long",
        )
    return tuple(parts)


@cache
def _column_heads() -> Mapping[str, str]:
    """Returns, by the word at the head of a column, what a table of recipes has in it, in every language: recipe, item, amount, unit, method."""
    return {plain(word): name for language in LANGUAGES for name, words in lexicon(language).data["columns"].items() for word in words}


def table_of(text: str) -> tuple[str, ...]:
    """Returns the recipes of a table, as texts: a row for each ingredient, with the recipe's name, the ingredient, its amount, and what is done. Empty for what is no
    such table. Raises Refusal for more than 60 recipes, and for a table that cannot be taken apart.
    """
    head = text.lstrip("\ufeff").split("\n", 1)[0]
    delimiter = max(_DELIMITERS, key=head.count)
    if delimiter not in head:
        return ()
    try:
        rows = list(csv.reader(text.lstrip("\ufeff").splitlines(), delimiter=delimiter))
    except csv.Error:
        raise Refusal(
            message("The table cannot be taken apart"), "text", remedy=message("Export it again, as CSV"), code="unreadable"
        ) from None
    heads = _column_heads()
    columns = {name: at for at, cell in enumerate(rows[0]) if (name := heads.get(plain(cell.strip())))}
    if not {"recipe", "item"} <= set(columns):
        return ()
    lines: dict[str, list[str]] = {}
    methods: dict[str, list[str]] = {}
    name = ""
    for row in rows[1:]:
        cells = {column: row[at].strip() if at < len(row) else "" for column, at in columns.items()}
        # A spreadsheet writes the name of a recipe once, over its rows.
        name = cells["recipe"] or name
        if not any(cells.values()) or not name:
            continue
        amount = " ".join(part for part in (cells.get("amount", ""), cells.get("unit", "")) if part)
        lines.setdefault(name, [])
        if cells["item"]:
            lines[name].append(f"{amount} {cells['item']}".strip())
        if cells.get("method") and cells["method"] not in methods.setdefault(name, []):
            methods[name].append(cells["method"])
    return within_most(["\n".join([name, "", *listed, "", *methods.get(name, ())]).strip() for name, listed in lines.items()])
