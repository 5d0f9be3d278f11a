"""Sales from a table that a till exports: the meaning of its columns, the products sold on each day of the house, and the lines that could not be read."""

from __future__ import annotations

import json
import re
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from functools import cache
from importlib.resources import files
from typing import Literal

from ..base.messages import Message, listed, message
from ..base.refusals import Refusal
from ..base.tables import checked_meanings, not_a_table, table_rows
from ..base.vocabulary import plain

MOST_LETTERS, MOST_ROWS = 40_000_000, 400_000
"""Letters and rows of one file [count]."""
MOST_NAME = 80
"""Most letters of a product's name [count]; a line with a longer one is not read."""
MOST_PRODUCTS = 2000
"""Most different products of one file [count]: a column with more holds receipts or notes."""
MEANINGS = ("day", "product", "count")
"""What a column may be: when it was sold, what, and how many of it. Without a column of counts every row is one sale."""
DateOrder = Literal["", "ymd", "dmy", "mdy"]
_DATE = re.compile(
    r"^\s*(\d{1,4})\s*[-/.]\s*(\d{1,2})\s*[-/.]\s*(\d{1,4})(?:[T,\s]+(\d{1,2})[:.h](\d{2})(?::\d{2})?\s*([ap]m)?)?", re.IGNORECASE
)
_COUNT = re.compile(r"^[-+]?\d{1,7}(?:[.,]\d{1,3})?$")
_THREE_DIGITS = re.compile(r"^[-+]?\d{1,3}[.,]\d{3}$")
_MONTHS, _MOST_PROBLEMS, _CENTURY, _HEAD_LETTERS = 12, 5, 100, 20_000


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
    """A till's table as read: its columns, the order of its dates, the sales by day and product, the number of rows, and of those that could not be read [count]; `problems` describes the
    first five of these.
    """

    columns: tuple[TillColumn, ...]
    order: DateOrder
    sold: tuple[Sold, ...]
    rows: int
    unread: int
    problems: tuple[Message, ...]


@cache
def _heads() -> Mapping[str, str]:
    """Returns the meaning of a column (one of `MEANINGS`) by its normalised heading, for the headings of all languages."""
    data = json.loads((files("ulsek.core") / "data" / "till_columns.json").read_text(encoding="utf-8"))
    return {plain(word): meaning for words in data.values() for meaning, known in words.items() for word in known}


def read_till(text: str, *, meanings: Sequence[str] = (), order: DateOrder = "", turns: time = time(0)) -> TillTable:
    """Returns the sales in a table. `meanings` are those of its columns, `order` is that of its dates; both are inferred if empty. A sale before `turns`, when the day of the
    house begins, belongs to the day before.

    Raises Refusal, at `text`, for an empty text, one that is too long, and one without a readable line; at `columns` for an unknown meaning, if no column is the day or none
    the product, and for more than 2,000 products; at `order` if every date can be read in two orders.
    """
    if len(text) > MOST_LETTERS:
        raise _too_long(message("at most {most} letters", most=MOST_LETTERS))
    rows = table_rows(text)
    heads = next(rows, None)
    if heads is None:
        raise not_a_table()
    columns = _known_columns(heads, meanings)
    cells = _cells(rows, {column.meaning: n for n, column in enumerate(columns) if column.meaning})
    return _summed(columns, order or _order({row[0] for row in cells}), cells, turns)


def till_columns(text: str, meanings: Sequence[str] = ()) -> tuple[TillColumn, ...]:
    """Returns the columns of a table with their meanings, complete or not; none for an empty text. Raises Refusal at `columns` for an unknown meaning."""
    heads = next(table_rows("\n".join(text[:_HEAD_LETTERS].lstrip("\ufeff\n").splitlines()[:1])), None)
    return _columns(heads, meanings) if heads else ()


def _too_long(bound: Message) -> Refusal:
    return Refusal(message("The table is too long"), "text", bound, message("Take it in parts, a month at a time"), "too_long")


def _columns(heads: Sequence[str], meanings: Sequence[str]) -> tuple[TillColumn, ...]:
    said = meanings or [_heads().get(plain(head), "") for head in heads]
    return tuple(TillColumn(head, meaning) for head, meaning in zip(heads, checked_meanings(said, len(heads), MEANINGS), strict=True))


def _known_columns(heads: Sequence[str], meanings: Sequence[str]) -> tuple[TillColumn, ...]:
    """Returns the columns. Raises Refusal at `columns` for an unknown meaning and if no column is the day or none the product."""
    found = _columns(heads, meanings)
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


def _cells(rows: Iterator[list[str]], at: Mapping[str, int]) -> list[tuple[str, str, str]]:
    """Returns the cells of day, product and count of every row, by the number `at` which each column stands. Raises Refusal for no row and for too many."""
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
        raise not_a_table()
    return found


def _order(days: set[str]) -> DateOrder:
    """Returns the order in which most of the dates that can be read in one way only are written. Raises Refusal at `order` if every date can be read in two ways."""
    orders: Counter[DateOrder] = Counter()
    ambiguous = ""
    for text in sorted(days):
        found = _DATE.match(text)
        if found is None:
            continue
        first, second = int(found[1]), int(found[2])
        if len(found[1]) > 2:
            orders["ymd"] += 1
        elif first > _MONTHS or "." in text.partition(" ")[0]:
            orders["dmy"] += 1
        elif second > _MONTHS:
            orders["mdy"] += 1
        else:
            ambiguous = ambiguous or text
    if orders:
        return orders.most_common(1)[0][0]
    if not ambiguous:
        return "ymd"
    raise Refusal(
        message("“{day}” can be read two ways", day=ambiguous[:20]),
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


def _separates_thousands(counts: set[str]) -> bool:
    """Returns True if "1,234" is a number above a thousand in this table: it has such counts, and others without a separator. A till that writes decimals writes them everywhere."""
    return any(_THREE_DIGITS.match(text) for text in counts) and any(text.lstrip("+-").isdigit() for text in counts)


def _number(text: str, *, thousands: bool) -> float | None:
    """Returns a count; None if it cannot be read."""
    if not _COUNT.match(text):
        return None
    return float(re.sub(r"[.,]", "" if thousands and _THREE_DIGITS.match(text) else ".", text))


def _summed(columns: tuple[TillColumn, ...], order: DateOrder, cells: Sequence[tuple[str, str, str]], turns: time) -> TillTable:
    """Returns the sales summed by day and product. Raises Refusal at `text` if no line could be read, and at `columns` for too many products."""
    days = {text: _day(text, order, turns) for text in {row[0] for row in cells}}
    counts = {row[2] for row in cells}
    numbers = {text: _number(text, thousands=_separates_thousands(counts)) for text in counts}
    sold: dict[tuple[date, str], float] = {}
    problems: list[Message] = []
    unread = 0
    for line, (day_text, product, count) in enumerate(cells, 2):
        day, name, number = days[day_text], " ".join(product.split()), numbers[count]
        if day is None or number is None or not 0 < len(name) <= MOST_NAME:
            # A line of totals under the table has no day: it is counted, and no error.
            unread += 1
            if len(problems) < _MOST_PROBLEMS:
                what = day_text if day is None else count if 0 < len(name) <= MOST_NAME else product
                problems.append(message("Line {line}: “{what}” was not read", line=line, what=what[:40]))
            continue
        sold[day, name] = sold.get((day, name), 0.0) + number
    if not sold:
        raise Refusal(
            message("Nothing of this table could be read"), "text", problems[0], message("Say which column is which"), "unreadable"
        )
    products = len({name for _, name in sold})
    if products > MOST_PRODUCTS:
        raise Refusal(
            message("There are {n} different products", n=products),
            "columns",
            message("at most {most}", most=MOST_PRODUCTS),
            message("Say which column is what was sold"),
            "out_of_bounds",
        )
    sales = tuple(Sold(day, name, count) for (day, name), count in sorted(sold.items()))
    return TillTable(columns, order, sales, len(cells), unread, tuple(problems))


def used_of(
    sold: Mapping[date, Mapping[str, float]], per_serve: Mapping[str, float], spill_percent: Mapping[str, float]
) -> dict[date, float]:
    """Returns the use of a material on each day, in the unit of `per_serve`: the serves sold of each drink [count] times the amount in one serve, plus the share that is spilled
    [%, below 100]. A day with more refunds than sales of a drink counts none of it.
    """
    return {
        day: sum(
            max(0.0, count) * per_serve[drink] / (1.0 - spill_percent.get(drink, 0.0) / 100.0)
            for drink, count in drinks.items()
            if drink in per_serve
        )
        for day, drinks in sold.items()
    }
