"""Finds amounts of the text that became no ingredient of the draft, and asks about each."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..written.quantities import MEASURED, Quantity
from .action import Action
from .doubts import Doubt
from .layout import Block
from .spellings import fruit_of
from .text_reading import TextReading
from .usual import usual

_QUESTION = "Nothing was taken from this: what goes in?"
_MOST_NAME = 4
"""Words behind an amount that may name its thing [count]."""
_MOST_BEFORE = 3
"""Largest number of tokens from “want” to an amount of the product: “you want 200 g of tea syrup” [count]."""
_MOST_ROW = 8
"""Words of a row of the list that names a thing and no amount, at most [count]."""
_KEPT = ("skip", "notes")
"""Sections that are kept as words only."""


def ask_what_goes_in(reading: TextReading, action: Action) -> None:
    """Adds a doubt about an action of the method from which nothing was taken."""
    begin, end = action.start, action.end
    reading.doubts.append(Doubt("not_taken", action.line, reading.text[begin:end], _QUESTION, (), begin, end))


def not_taken(blocks: Sequence[Block], reading: TextReading) -> Iterator[Doubt]:
    """Yields a doubt for each row with an amount that became no ingredient, and for each material measured in the method that is not in the draft."""
    places = [(item.start, item.end) for item in reading.listed] + [(doubt.start, doubt.end) for doubt in reading.doubts]
    there = {item.key for item in reading.listed}
    spooned = usual()["by_volume"]
    there |= {key for key, made in spooned.items() if made in there}
    there |= {base for key in there if (base := fruit_of(key, reading.names.known))}
    listed = [at for at, block in enumerate(blocks) if block.kind == "list"]
    method = max((at for at, block in enumerate(blocks) if block.kind == "method"), default=0)
    for at, block in enumerate(blocks):
        start, end = block.tokens[0].start, block.tokens[-1].end
        if block.kind in ("claim", "title", "heading") or block.section in _KEPT:
            continue
        taken = any(start <= place < end for place, _ in places)
        if taken and block.kind != "method":
            continue
        found = [q for q in reading.quantities.all(block.tokens) if q.kind in (*MEASURED, "percent", "vague")]
        mentions = [item for item in reading.names.mentions(block.tokens) if item.key] if found else []
        strange = [
            item
            for item in mentions
            if item.key not in there
            and (fruit_of(str(item.key), reading.names.known) or "") not in there
            and not any(begin <= block.tokens[item.start].start < finish for begin, finish in places)
        ]
        lost = (
            mentions
            if block.kind in ("list", "note")
            else [
                item for item in strange if any(q.end <= item.start <= q.end + 1 and not _is_basis(q.start, block, reading) for q in found)
            ]
        )
        in_list = block.kind == "note" and bool(listed) and listed[0] < at < max(listed[-1], method)
        if in_list and not found and len(block.tokens) <= _MOST_ROW:
            # “Vinegar enough for the lot”
            first = next(iter(reading.names.mentions(block.tokens)), None)
            lost = [first] if first is not None and first.start == 0 and first.key and first.key not in there else []
        if lost or (block.kind == "method" and any(_names_a_form(q, block, reading, places) for q in found)):
            yield Doubt("not_taken", block.line, reading.text[start:end], _QUESTION, (), start, end)


def _names_a_form(quantity: Quantity, block: Block, reading: TextReading, places: Sequence[tuple[int, int]]) -> bool:
    """Returns True for a mass or volume that is followed by a form such as syrup and belongs to no ingredient and no doubt: “250 ml of almond syrup”."""
    behind = block.tokens[quantity.end : quantity.end + _MOST_NAME]
    at = block.tokens[quantity.start].start
    taken = any(begin <= at < finish for begin, finish in places)
    before = block.tokens[max(0, quantity.start - _MOST_BEFORE) : quantity.start]
    wanted = any(token.plain in reading.words.words["want_words"] for token in before) and reading.words.says("preps", behind)
    return quantity.kind in MEASURED and not taken and not wanted and any(token.plain in reading.words.words["forms"] for token in behind)


def _is_basis(start: int, block: Block, reading: TextReading) -> bool:
    """Returns True for the amount behind “for every”: nothing of it goes in."""
    hits = ((at, reading.words.at("per", block.tokens, at)) for at in range(max(0, start - 3), start))
    return any(hit is not None and at + hit[0] == start for at, hit in hits)
