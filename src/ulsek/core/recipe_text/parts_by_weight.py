"""Amounts of juice, zest and peel in rows that count or weigh the whole fruit: “1 kg limes, juiced”, “1 kg oranges (about 400 ml juice)”."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..base.ranges import Range
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .ingredient import Amount
from .material_names import Named
from .piece_amounts import share_of
from .spellings import fruit_of, part_key
from .text_reading import TextReading

MEASURED_PARTS = ("juice", "zest", "peel")
"""Parts of a fruit that are measured by themselves."""


def said_of_the_part(reading: TextReading, tokens: Sequence[Token], found: Sequence[Quantity], part: str) -> Quantity | None:
    """Returns the quantity in brackets that measures a part of the fruit: the 400 ml of “(about 400 ml juice)”; None if no bracket contains one."""
    bracket = next((at for at, token in enumerate(tokens) if token.plain in ("(", "[")), len(tokens))
    return next((q for q in found if q.start > bracket and part_behind(reading, tokens, q) == part), None)


def part_behind(reading: TextReading, tokens: Sequence[Token], quantity: Quantity) -> str:
    """Returns the part ("juice", "zest" or "peel") that follows a mass or volume: “250 ml juice”, “30 g of zest”; "" if none does, or if a name follows the part."""
    at = quantity.end
    if quantity.kind not in MEASURED or at >= len(tokens):
        return ""
    at += tokens[at].plain in reading.words.words["of"]
    hit = reading.words.at("part_words", tokens, at)
    if not hit or hit[1] not in MEASURED_PARTS:
        return ""
    behind = tokens[at + hit[0] :]
    return str(hit[1]) if not behind or behind[0].kind == "mark" or behind[0].plain in reading.words.words["and"] else ""


def parts_measured(reading: TextReading, tokens: Sequence[Token], found: Sequence[Quantity], named: Named) -> list[tuple[Named, Quantity]]:
    """Returns (part, quantity) for each part of a fruit that a row measures after the fruit: “6 lemons, about 250 ml juice”; [] for other rows."""
    known = reading.names.known
    fruit = (fruit_of(named.key, known) if named.part else named.key) if named.key is not None else None
    parts = [(part, q) for q in found[1:] if (part := part_behind(reading, tokens, q))]
    if fruit is None or (named.part and len(parts) < 2):
        return []
    keys = [(part, part_key(fruit, part, known), q) for part, q in parts]
    return [(replace(named, key=key, part=part), q) for part, key, q in keys if key is not None]


def of_the_whole(reading: TextReading, tokens: Sequence[Token], item: Named, quantity: Quantity | None, *, several: bool) -> Amount | None:
    """Returns the usual mass of a part [g] of a mass of whole fruit; None if the written mass is that of the part.

    `several`: the row names more than one part of the fruit. “200 g freshly squeezed lime” is juice that was weighed.
    """
    known = reading.names.known
    fruit = fruit_of(item.key, known) if item.key is not None else None
    if quantity is None or quantity.kind != "mass" or fruit is None or not item.part:
        return None
    if not (several or _before_the_mass(reading, tokens, item, quantity) or _done_to_it(reading, tokens, item)):
        return None
    share = share_of(reading, fruit, item.part)
    grams = quantity.amount
    return Amount("mass", Range(grams.value * share.value, grams.low * share.low, grams.high * share.high), f"the {item.part} of it", True)


def _before_the_mass(reading: TextReading, tokens: Sequence[Token], item: Named, quantity: Quantity) -> bool:
    """Returns True if the part and “of” precede the mass: “juice of 1 kg lemons”."""
    of = quantity.start - 1
    before = [reading.words.at("part_words", tokens, at) for at in range(max(0, of))]
    return of > 0 and tokens[of].plain in reading.words.words["of"] and any(hit and hit[1] == item.part for hit in before)


def _done_to_it(reading: TextReading, tokens: Sequence[Token], item: Named) -> bool:
    """Returns True if a word such as “juiced” follows the fruit and the row names no part: “1 kg limes, juiced”."""
    words = reading.words
    done = next((at for at in range(len(tokens)) if words.at("part_done", tokens, at)), 0)
    if not done or tokens[done - 1].plain in words.words["freshly"] or next(reading.names.mentions(tokens[done + 1 :]), None) is not None:
        return False
    nouns = (hit for at in range(len(tokens)) if (hit := words.at("part_words", tokens, at)) and not words.at("part_done", tokens, at))
    return all(hit[1] != item.part for hit in nouns)
