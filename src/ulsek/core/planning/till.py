"""What a till sold, from a table that it exports: which column is which, on which day of the house what was sold, and what could not be read."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from functools import cache
from importlib.resources import files
from typing import Literal

from ..base.messages import Message, listed, message
from ..base.refusals import Refusal
from ..base.tables import table_rows
from ..base.vocabulary import plain

MOST_LETTERS, MOST_ROWS = 40_000_000, 400_000
"""Letters and rows of one file [count]."""
MOST_NAME = 80
"""Letters of a product's name [count]; longer ones are cut."""
MEANINGS = ("day", "product", "count")
"""What a column may be: when it was sold, what, and how many of it. Without a column of counts every row is one sale."""
DateOrder = Literal["", "ymd", "dmy", "mdy"]
_DATE = re.compile(
    r"^\s*(\d{1,4})\s*[-/.]\s*(\d{1,2})\s*[-/.]\s*(\d{1,4})(?:[T,\s]+(\d{1,2})[:.h](\d{2})(?::\d{2})?\s*([ap]m)?)?", re.IGNORECASE
)
_COUNT = re.compile(r"^[-+]?\d{1,7}(?:[.,]\d{1,3})?$")
_MONTHS, _TOLD, _CENTURY, _HEAD_LETTERS = 12, 5, 100, 20_000


@dataclass(frozen=True, slots=True)
class TillColumn:
    """A column: its head as written, and what it is taken as, one of `MEANINGS` or empty."""

    head: str
    meaning: str


@dataclass(frozen=True, slots=True)
class Sold:
    """How many of a product were sold on a day of the house [count]; refunds are subtracted, so that it may be below 0."""

    day: date
    product: str
    count: float


@dataclass(frozen=True, slots=True)
class TillTable:
    """A till's table as it is understood: its columns, the order of its dates, what was sold by day and product, and the lines that could not be read, the first of them in words."""

    columns: tuple[TillColumn, ...]
    order: DateOrder
    sold: tuple[Sold, ...]
    rows: int
    unread: int
    told: tuple[Message, ...]


@cache
def _heads() -> Mapping[str, str]:
    """Returns what a column is by the words of its head, in every language."""
    data = json.loads((files("ulsek.core") / "data" / "till_columns.json").read_text(encoding="utf-8"))
    return {plain(word): meaning for words in data.values() for meaning, known in words.items() for word in known}


def read_till(text: str, *, meanings: Sequence[str] = (), order: DateOrder = "", turns: time = time(0)) -> TillTable:
    """Returns what a till sold. `meanings` say what each column is, `order` how its dates are written; both are found out where they are empty. What was sold before the
    hour at which the house's day `turns` counts for the day before.

    Raises Refusal, at its place, for a text that is empty, too long or no table, if no column is the day or none the product, and for dates that can be read two ways.
    """
    if len(text) > MOST_LETTERS:
        raise _too_long(message("at most {most} letters", most=MOST_LETTERS))
    rows = table_rows(text)
    heads = next(rows, None)
    if heads is None:
        raise Refusal(
            message("This is no table"), "text", message("a row of heads and one row under it"), message("Export it as CSV"), "unreadable"
        )
    columns = _columns(heads, meanings)
    at = {column.meaning: n for n, column in enumerate(columns) if column.meaning}
    cells = _taken(rows, at)
    known = order or _order({row[0] for row in cells})
    return _summed(columns, known, cells, turns)


def till_columns(text: str, meanings: Sequence[str] = ()) -> tuple[TillColumn, ...]:
    """Returns the columns of a table, each with what it is taken as, whether or not that is enough to read it; none for an empty text. Raises Refusal for a meaning that does not exist."""
    heads = next(table_rows("\n".join(text[:_HEAD_LETTERS].lstrip("\ufeff\n").splitlines()[:1])), None)
    return _said_columns(heads, meanings) if heads else ()


def _too_long(bound: Message) -> Refusal:
    return Refusal(message("The table is too long"), "text", bound, message("Take it in parts, a month at a time"), "too_long")


def _said_columns(heads: Sequence[str], meanings: Sequence[str]) -> tuple[TillColumn, ...]:
    said = [*meanings, *[""] * len(heads)][: len(heads)] if meanings else [_heads().get(plain(head), "") for head in heads]
    found: list[TillColumn] = []
    for head, meaning in zip(heads, said, strict=True):
        if meaning and meaning not in MEANINGS:
            raise Refusal(
                message("A column cannot be “{meaning}”", meaning=meaning[:20]),
                "columns",
                message("there are {meanings}", meanings=listed(MEANINGS, "comma")),
                code="unknown_reference",
            )
        found.append(TillColumn(head, "" if any(one.meaning == meaning for one in found) else meaning))
    return tuple(found)


def _columns(heads: Sequence[str], meanings: Sequence[str]) -> tuple[TillColumn, ...]:
    found = _said_columns(heads, meanings)
    for meaning, what in (("day", message("No column says when it was sold")), ("product", message("No column says what was sold"))):
        if not any(column.meaning == meaning for column in found):
            raise Refusal(
                what,
                "columns",
                message("the heads are {heads}", heads=listed([head[:40] for head in heads[:12]], "comma")),
                message("Say which column it is"),
                "missing",
            )
    return found


def _taken(rows: Iterator[list[str]], at: Mapping[str, int]) -> list[tuple[str, str, str]]:
    """Returns the cells of day, product and count of every row."""
    day, product, count = at["day"], at["product"], at.get("count", -1)
    found = []
    for row in rows:
        found.append(
            (
                row[day] if day < len(row) else "",
                row[product] if product < len(row) else "",
                "1" if count < 0 else row[count] if count < len(row) else "",
            )
        )
        if len(found) > MOST_ROWS:
            raise _too_long(message("at most {most} rows", most=MOST_ROWS))
    if not found:
        raise Refusal(
            message("This is no table"), "text", message("a row of heads and one row under it"), message("Export it as CSV"), "unreadable"
        )
    return found


def _order(days: set[str]) -> DateOrder:
    """Returns the order in which the dates are written, by those that can be read one way only. Raises Refusal if every one can be read two ways."""
    ambiguous = False
    for text in days:
        found = _DATE.match(text)
        if found is None:
            continue
        first, second = int(found[1]), int(found[2])
        if len(found[1]) > 2:
            return "ymd"
        if first > _MONTHS or "." in text.partition(" ")[0]:
            return "dmy"
        if second > _MONTHS:
            return "mdy"
        ambiguous = True
    if not ambiguous:
        return "ymd"
    raise Refusal(
        message("“{day}” can be read two ways", day=min(days)[:20]),
        "order",
        message("day first, or month first"),
        message("Say which comes first"),
        "ambiguous",
    )


def _day(text: str, order: DateOrder, turns: time) -> date | None:
    """Returns the day of the house of a date with or without a clock; None if it cannot be read."""
    found = _DATE.match(text)
    if found is None:
        return None
    numbers = [int(found[n]) for n in (1, 2, 3)]
    year, month, day = {"ymd": numbers, "dmy": numbers[::-1], "mdy": [numbers[2], *numbers[:2]]}[order or "ymd"]
    try:
        read = date(year + 2000 if year < _CENTURY else year, month, day)
        if found[4] is None:
            return read
        hour = int(found[4]) % 12 + (12 if found[6].lower() == "pm" else 0) if found[6] else int(found[4])
        return (datetime.combine(read, time(hour, int(found[5]))) - timedelta(hours=turns.hour, minutes=turns.minute)).date()
    except ValueError:
        return None


def _summed(columns: tuple[TillColumn, ...], order: DateOrder, cells: Sequence[tuple[str, str, str]], turns: time) -> TillTable:
    days = {text: _day(text, order, turns) for text in {row[0] for row in cells}}
    sold: dict[tuple[date, str], float] = {}
    told: list[Message] = []
    unread = 0
    for line, (day_text, product, count) in enumerate(cells, 2):
        day = days[day_text]
        name = " ".join(product.split())[:MOST_NAME]
        if day is None or not name or not _COUNT.match(count):
            # A line of totals under the table says nothing of a day: it is no fault.
            unread += 1
            if len(told) < _TOLD:
                what = day_text if day is None else count if name else product
                told.append(message("Line {line}: “{what}” was not read", line=line, what=what[:40]))
            continue
        key = (day, name)
        sold[key] = sold.get(key, 0.0) + float(count.replace(",", "."))
    if not sold:
        raise Refusal(
            message("Nothing of this table could be read"),
            "text",
            told[0] if told else message("no rows"),
            message("Say which column is which"),
            "unreadable",
        )
    return TillTable(
        columns, order, tuple(Sold(day, name, count) for (day, name), count in sorted(sold.items())), len(cells), unread, tuple(told)
    )


def used_of(
    sold: Mapping[date, Mapping[str, float]], per_serve_ml: Mapping[str, float], spill_percent: Mapping[str, float]
) -> dict[date, float]:
    """Returns what was used of a prep on each day [mL]: `sold` serves of each drink [count] by day, times what one takes of it [mL], with what is spilled [%]."""
    return {
        day: sum(
            max(0.0, count) * per_serve_ml[drink] / (1.0 - spill_percent.get(drink, 0.0) / 100.0)
            for drink, count in drinks.items()
            if drink in per_serve_ml
        )
        for day, drinks in sold.items()
    }
