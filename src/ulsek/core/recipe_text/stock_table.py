"""A table of what a house buys, as its supplier, its till or its spreadsheet writes it: which column is which, and which material each row is."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.messages import Message, listed, message
from ..base.refusals import Refusal
from ..base.tables import checked_meanings, not_a_table, table_rows
from ..base.vocabulary import plain
from ..materials.delivery import pack_g
from ..materials.material import read_material
from ..written.lexicon import LANGUAGES
from ..written.tokens import tokens_of
from .material_names import MaterialNames, material_names

MOST_LETTERS = 200_000
"""Letters of a table [count]."""
MOST_ROWS = 500
"""Rows of a table [count]."""
MEANINGS = ("product", "supplier", "pack", "unit", "packs", "price")
"""What a column may be: the product's name, who sells it, what a pack holds, the unit of that, how many packs there are, and what one costs."""
_UNIT_IN_HEAD = re.compile(r"[(\[](\w{1,2})[)\]]|\b(kg|g|ml|cl|l)\s*$", re.IGNORECASE)
_TIMES = re.compile(r"^\s*(\d{1,3})\s*[x×*]\s*(.+)$", re.IGNORECASE)
_HELD = re.compile(r"(?<![\w.,])\d{1,5}(?:[.,]\d{1,3})?\s*(?:kg|g|ml|cl|l)\b", re.IGNORECASE)
"""What a pack holds, where it stands in the product's name: “Gin 70cl”."""
_PRICE = re.compile(r"\d[\d\s.,'’]*")
_SHOWN = 40
"""Letters of a cell that a doubt repeats [count]."""
_COUNT = re.compile(r"^\d{1,4}(?:[.,]0+)?$")


@dataclass(frozen=True, slots=True)
class StockColumn:
    """A column: its head as written, and what it is taken as, one of `MEANINGS` or empty."""

    head: str
    meaning: str


@dataclass(frozen=True, slots=True)
class StockRow:
    """A row: its line, the product as written, the material that it is taken as (empty for none) with its name, and the rest as it can
    be sent; `doubts` say what is missing or could not be read.
    """

    line: int
    product: str
    material: str
    material_name: str
    supplier: str
    pack: str
    packs: int
    price: str
    doubts: tuple[Message, ...]


@dataclass(frozen=True, slots=True)
class StockTable:
    """A table of stock as it is understood."""

    columns: tuple[StockColumn, ...]
    rows: tuple[StockRow, ...]


@cache
def _heads() -> Mapping[str, str]:
    """Returns what a column is by the words of its head, in every language."""
    data = json.loads((files("ulsek.core") / "data" / "stock_columns.json").read_text(encoding="utf-8"))
    return {plain(word): meaning for words in data.values() for meaning, known in words.items() for word in known}


def read_stock_table(text: str, materials: Mapping[str, Mapping[str, Any]], meanings: Sequence[str] = ()) -> StockTable:
    """Returns what a table says, by `materials` of the house in the open form; `meanings` say what each column is, empty to find out by its head.

    Raises Refusal for an empty or too long text, for one without a row of heads and a row under it, and if no column is the product.
    """
    cells = _cells(text)
    heads = cells[0]
    said = tuple(meanings) or tuple(_heads().get(plain(_UNIT_IN_HEAD.sub("", head).strip()), "") for head in heads)
    columns = tuple(StockColumn(head, meaning) for head, meaning in zip(heads, checked_meanings(said, len(heads), MEANINGS), strict=True))
    if not any(column.meaning == "product" for column in columns):
        raise Refusal(
            message("No column says what it is"),
            "columns",
            message("the heads are {heads}", heads=listed(heads, "comma")),
            message("Say which column is the product"),
            "missing",
        )
    names = [material_names(language, materials) for language in LANGUAGES]
    rows = (_row(line, row, columns, names, materials) for line, row in enumerate(cells[1:], 2))
    return StockTable(columns, tuple(row for row in rows if row is not None))


def _cells(text: str) -> list[list[str]]:
    if len(text) > MOST_LETTERS:
        raise Refusal(
            message("The table is too long"),
            "text",
            message("at most {most} letters", most=MOST_LETTERS),
            message("Take it in parts"),
            "too_long",
        )
    found = list(table_rows(text))
    if len(found) < 2:
        raise not_a_table()
    if len(found) > MOST_ROWS + 1:
        raise Refusal(
            message("The table has too many rows"),
            "text",
            message("at most {most}", most=MOST_ROWS),
            message("Take it in parts"),
            "too_long",
        )
    return found


def _row(
    line: int,
    cells: Sequence[str],
    columns: Sequence[StockColumn],
    names: Sequence[MaterialNames],
    materials: Mapping[str, Mapping[str, Any]],
) -> StockRow | None:
    """Returns a row as it is understood; None if it names no product."""
    by = {column.meaning: cells[at] if at < len(cells) else "" for at, column in enumerate(columns) if column.meaning}
    head = next((column.head for column in columns if column.meaning == "pack"), "")
    product = by["product"]
    if not product:
        return None
    doubts: list[Message] = []
    held = _HELD.search(product)
    material, unlike = _material_of(_HELD.sub(" ", product), names)
    name = str(materials[material]["name"]) if material else ""
    if not material:
        doubts.append(message("No material is called that: say what it is."))
    elif unlike:
        doubts.append(message("Is it {material}? “{words}” may make it another thing.", material=name, words=unlike))
    pack, each = _pack(by.get("pack", "") or (held[0].strip() if held else ""), by.get("unit", ""), head)
    count = by.get("packs", "").strip()
    packs = each * int(float(count.replace(",", "."))) if _COUNT.match(count) else each
    if count and not _COUNT.match(count):
        doubts.append(message("“{written}” is no count of packs.", written=count[:_SHOWN]))
    elif not packs:
        doubts.append(message("None of it is there."))
    if not pack:
        doubts.append(message("What does a pack hold?"))
    elif material:
        try:
            pack_g(pack, read_material(material, materials[material]))
        except Refusal as refusal:
            doubts.append(refusal.message)
    price = _money(by.get("price", ""))
    if by.get("price") and not price:
        doubts.append(message("“{written}” is no price.", written=by["price"][:_SHOWN]))
    return StockRow(line, product, material, name, by.get("supplier", ""), pack, packs, price, tuple(doubts))


def _material_of(product: str, names: Sequence[MaterialNames]) -> tuple[str, str]:
    """Returns (key of the material that a product's name names, words of it that may make it another thing): (“water”, “Tonic”) for tonic water. Of all languages
    the one in which most of it is a name; empty if it names nothing known.
    """
    tokens = tokens_of(product)
    found: list[tuple[int, int, str, str]] = []
    for known in names:
        named = known.named(tokens)
        if named is None or not (named.key or len(named.near) == 1):
            continue
        around = [at for at in range(len(tokens)) if not named.start <= at < named.end]
        unlike = [*named.beside, *(tokens[at].text for at in around if known.words.at("forms", tokens, at))]
        if not named.key:
            unlike = unlike or [named.said]
        found.append((len(unlike), named.start - named.end, named.key or named.near[0], " ".join(dict.fromkeys(unlike))))
    best = min(found, default=(0, 0, "", ""))
    return best[2], best[3]


def _pack(written: str, unit: str, head: str) -> tuple[str, int]:
    """Returns (what a pack holds as an amount, number of packs): “6 x 1 L” is six packs of 1 L; a bare number takes the unit of its own column or head."""
    times = _TIMES.match(written)
    packs = int(times[1]) if times else 1
    amount = (times[2] if times else written).strip()
    if amount and not any(letter.isalpha() for letter in amount):
        of_head = _UNIT_IN_HEAD.search(head)
        given = unit.strip() or (next(filter(None, of_head.groups()), "") if of_head else "")
        amount = f"{amount} {given}".strip()
    return amount, packs


def _money(written: str) -> str:
    """Returns the price in a cell as a decimal number without its currency: “€ 1.234,50” gives “1234.50”. Empty for a cell without a number, and for a negative one."""
    found = _PRICE.search(written)
    if not found or written[: found.start()].rstrip().endswith(("-", "−", "(")):
        return ""
    digits = re.sub(r"[\s'’]", "", found[0]).rstrip(".,")
    mark = max(digits.rfind("."), digits.rfind(","))
    # The last mark is the decimal one unless exactly three digits follow it: “1,234” is a thousand and more.
    if mark < 0 or (len(digits) - mark - 1 == 3 and digits.count(digits[mark]) >= 1 and not ("." in digits and "," in digits)):
        return re.sub(r"[.,]", "", digits)
    return f"{re.sub(r'[.,]', '', digits[:mark])}.{digits[mark + 1 :]}"
