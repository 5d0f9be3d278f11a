"""Tables within a text: the rows below a row of heads as lines of a list, without the marks between their cells."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from ..written.lexicon import Lexicon
from ..written.tokens import Token

Row = tuple[int, list[Token]]
"""A row of a text: the number of its line, and its tokens."""
_MARKS = ("|", ";", ",")
"""What stands between the cells of a table."""


@dataclass(frozen=True, slots=True)
class _Table:
    """A table: the mark between its cells, and what each column holds: recipe, item, amount, unit, a unit of measure, or "note"."""

    mark: str
    columns: tuple[str, ...]


def without_tables(rows: Sequence[Row], words: Lexicon) -> Iterator[Row]:
    """Yields the rows of a text; those of a table as “Honey 200 g, runny”, its row of heads left out. A text without a table is yielded as it is."""
    table: _Table | None = None
    for number, tokens in rows:
        heads = _heads(tokens, words)
        if heads is not None:
            table = heads
            continue
        if len(tokens) > 1 and all(_is_head(token.plain, words) for token in tokens):
            # Between tabs nothing stands: “Ingredient  Amount”.
            continue
        cells = _cells(tokens, table.mark) if table is not None else []
        if table is not None and 1 < len(cells) <= len(table.columns):
            line = list(_line(cells, table.columns))
            if line:
                yield number, line
            continue
        # A row without the table's mark ends it.
        table = table if len(cells) > 1 else None
        yield number, tokens


def _heads(tokens: Sequence[Token], words: Lexicon) -> _Table | None:
    """Returns the table that a row of heads begins: “Ingredient,Amount”; None for another row."""
    kinds: Mapping[str, Any] = words.data["columns"]
    named = {said: kind for kind, heads in kinds.items() for said in heads}
    for mark in _MARKS:
        if not any(token.plain == mark for token in tokens):
            continue
        cells = _cells(tokens, mark)
        said = [" ".join(token.plain for token in cell) for cell in cells]
        if len(cells) > 1 and all(_is_head(head, words) for head in said):
            columns = [head if head in words.words["unit_heads"] else named.get(head, "note") for head in said]
            if "item" not in columns and "recipe" in columns:
                # “Name;Amount;Unit” names what goes in.
                columns[columns.index("recipe")] = "item"
            return _Table(mark, tuple("note" if column == "method" else column for column in columns))
    return None


def _is_head(said: str, words: Lexicon) -> bool:
    heads = {head for column in words.data["columns"].values() for head in column}
    return said in heads or said in words.words["table_heads"] or said in words.words["headings"]


def _cells(tokens: Sequence[Token], mark: str) -> list[list[Token]]:
    cells: list[list[Token]] = [[]]
    for token in tokens:
        if token.plain == mark:
            cells.append([])
        else:
            cells[-1].append(token)
    if mark == "|":
        # A table of markdown has a mark before the first cell and behind the last.
        cells = cells[not cells[0] :]
        cells = cells[: len(cells) - (bool(cells) and not cells[-1])]
    return cells


def _line(cells: Sequence[Sequence[Token]], columns: Sequence[str]) -> Iterator[Token]:
    for cell, column in zip(cells, columns, strict=False):
        if not cell or column == "recipe":
            continue
        if column == "note":
            yield replace(cell[0], kind="mark", text=",", plain=",", stem=",", number=None, end=cell[0].start)
        yield from cell
        if len(cell) == 1 and cell[0].number is not None and column not in ("item", "amount", "unit", "note"):
            # “| Sugar | 500 |” below “g”
            yield replace(cell[0], kind="word", text=column, plain=column, stem=column, number=None, start=cell[0].end)
