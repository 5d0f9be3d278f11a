"""Preps within a recipe: “for the syrup …”, of which a later line takes a part: “200 ml syrup (above)”. Each is made in a vessel of its own."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..base.vocabulary import plain
from ..properties.density import sucrose_density
from ..written.quantities import MEASURED
from .action import Action
from .doubts import Doubt
from .ingredient import Ingredient
from .layout import Block
from .text_reading import TextReading

_ALL_OF_IT = 0.97
"""Share from which all of a prep is poured [g/g]: people round."""


@dataclass(frozen=True, slots=True)
class Part:
    """A prep within a text: the vessel that it is made in, the stems of the words that call it, and its blocks."""

    vessel: str
    called: frozenset[str]
    blocks: tuple[Block, ...]


@dataclass(frozen=True, slots=True)
class Parts:
    """A text in parts: the preps, the blocks of what is made of them, and for each line that takes a prep, by where it begins in the text [letters], which."""

    preps: tuple[Part, ...]
    blocks: tuple[Block, ...]
    taken: dict[int, Part]


def parts_of(blocks: Sequence[Block], reading: TextReading) -> Parts | None:
    """Returns a text in parts; None where no line takes what another part makes, or where the steps of both are told together."""
    groups = list(_groups(blocks, reading))
    taken: dict[int, Part] = {}
    for number, group in enumerate(groups):
        for block in group.blocks:
            prep = next((other for other in groups[:number] if _takes(block, other, reading)), None) if block.kind == "list" else None
            if prep is not None:
                taken[block.tokens[0].start] = prep
    preps = [group for group in groups if any(group is prep for prep in taken.values())]
    rest = [block for group in groups if not any(group is prep for prep in preps) for block in group.blocks]
    told = _named([block for block in rest if block.kind == "method"], reading)
    if not preps or any(_steps_elsewhere(prep, told, reading) for prep in preps):
        return None
    return Parts(tuple(preps), tuple(rest), taken)


def _named(blocks: Sequence[Block], reading: TextReading) -> set[str]:
    return {str(item.key) for block in blocks for item in reading.names.mentions(block.tokens) if item.key}


def _steps_elsewhere(prep: Part, told: set[str], reading: TextReading) -> bool:
    """Returns True for a prep without steps of its own, whose things the steps elsewhere speak of: `told` are the materials that they name."""
    if any(block.kind == "method" for block in prep.blocks):
        return False
    return bool(told & _named([block for block in prep.blocks if block.kind == "list"], reading))


def _groups(blocks: Sequence[Block], reading: TextReading) -> Iterator[Part]:
    """Yields the groups of blocks under the headings that name a prep; what stands before the first has no name."""
    words = reading.words.words
    vessel, called, held = "pot", frozenset[str](), list[Block]()
    for block in blocks:
        named = [
            token
            for token in block.tokens
            if token.kind == "word" and token.plain not in words["for_the"] and token.plain not in words["after_verb"]
        ]
        said = " ".join(token.plain for token in block.tokens)
        if block.kind == "heading" and named and said not in words["headings"] and said not in words["list_headings"]:
            if held:
                yield Part(vessel, called, tuple(held))
            name = "_".join(re.findall(r"\w+", plain(" ".join(token.plain for token in named))))[:40]
            vessel, called, held = name or "prep", frozenset(token.stem for token in named), []
        held.append(block)
    if held:
        yield Part(vessel, called, tuple(held))


def _takes(block: Block, prep: Part, reading: TextReading) -> bool:
    """Returns True for a line that takes what a prep is called, with an amount: “500 ml syrup (above)”."""
    words = reading.words.words
    amounts = [q for q in reading.quantities.all(block.tokens) if q.kind in MEASURED]
    if not amounts or not prep.called:
        return False
    inside = {at for q in amounts for at in range(q.start, q.end)}
    named = [token for at, token in enumerate(block.tokens) if at not in inside and token.kind == "word"]
    said = {token.stem for token in named if token.stem not in words["describes"] and token.plain not in words["above_words"]}
    above = any(token.plain in words["above_words"] for token in named)
    return bool(said & prep.called) and (said <= prep.called or above)


def poured(actions: list[Action], reading: TextReading, item: Ingredient, prep: Part, held: Sequence[Ingredient]) -> None:
    """Puts a step in that pours so much of a prep where a line takes it, in place of the line. `held` are the things that the prep is made of."""
    at = next((at for at, action in enumerate(actions) if any(line is item for line in action.lines)), len(actions))
    share = _share(reading, item, held)
    pour = Action("split", item.line, (), vessel=prep.vessel, share=min(share, 1.0), place=(item.start, item.end))
    actions.insert(at, pour)
    for action in actions:
        action.lines[:] = [line for line in action.lines if line is not item]
    reading.listed.remove(item)
    reading.settle(item.start, item.end)
    if share > 1.0:
        question = f"What is made above comes to {100 / share:.0f} % of this: all of it is poured. Is that right?"
        reading.doubts.append(Doubt("more_than_made", item.line, item.text, question, (), item.start, item.end))


def _share(reading: TextReading, item: Ingredient, held: Sequence[Ingredient]) -> float:
    """Returns which share of a prep a line takes [g/g], by what went into it: all of it where the line takes as much, or does not say how much; above 1 where it takes more."""
    whole = sum(reading.grams(line) or 0.0 for line in held)
    sugar = sum(reading.grams(line) or 0.0 for line in held if reading.material(line.key).kind == "sweetener")
    if whole <= 0 or item.amount.kind not in ("mass", "volume"):
        return 1.0
    grams = item.amount.amount.value
    if item.amount.kind == "volume":
        grams *= sucrose_density(sugar / whole) / 1000.0
    share = grams / whole
    return 1.0 if _ALL_OF_IT <= share <= 1.0 / _ALL_OF_IT else float(f"{share:.4g}")
