"""Tables in CSV (RFC 4180) whose cells no spreadsheet takes for formulas."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator, Sequence

from .messages import listed, message
from .refusals import Refusal

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def cell(text: str) -> str:
    """Returns a cell that no spreadsheet takes for a formula: an apostrophe is added before one, and removed again on reading."""
    return f"'{text}" if text.startswith(_FORMULA) else text


def plain_cell(text: str | None) -> str:
    """Returns the text of a cell as it was before `cell` wrote it, without blanks around it; an empty one for None."""
    found = (text or "").strip()
    return found[1:].strip() if found.startswith("'") and found[1:].startswith(_FORMULA) else found


_DELIMITERS = ("\t", ";", ",", "|")


def table_rows(text: str) -> Iterator[list[str]]:
    """Yields the rows of a table in CSV as plain cells, without the empty ones; its delimiter is the one that its first line has most of.

    Raises Refusal, at `text`, for a text that cannot be taken apart.
    """
    lines = text.lstrip("\ufeff").splitlines()
    head = next((line for line in lines if line.strip()), "")
    try:
        for row in csv.reader(lines, delimiter=max(_DELIMITERS, key=head.count)):
            cells = [plain_cell(cell) for cell in row]
            if any(cells):
                yield cells
    except csv.Error:
        raise Refusal(
            message("The table cannot be taken apart"), "text", remedy=message("Export it again, as CSV"), code="unreadable"
        ) from None


def not_a_table() -> Refusal:
    """Returns the refusal of a text without a row of heads and a row under it."""
    return Refusal(
        message("This is no table"), "text", message("a row of heads and one row under it"), message("Export it as CSV"), "unreadable"
    )


def checked_meanings(said: Sequence[str], count: int, allowed: Sequence[str]) -> list[str]:
    """Returns the meaning of each of `count` columns; empty where none is given, and where a column before has the same meaning. Raises Refusal at `columns` for a meaning that
    is not allowed.
    """
    found: list[str] = []
    for meaning in [*said, *[""] * count][:count]:
        if meaning and meaning not in allowed:
            raise Refusal(
                message("A column cannot be “{meaning}”", meaning=meaning[:20]),
                "columns",
                message("there are {meanings}", meanings=listed(allowed, "comma")),
                code="unknown_reference",
            )
        found.append("" if meaning in found else meaning)
    return found


def csv_text(rows: Iterable[Sequence[str]]) -> str:
    """Returns rows of cells as CSV, one line each."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerows([cell(text) for text in row] for row in rows)
    return out.getvalue()
