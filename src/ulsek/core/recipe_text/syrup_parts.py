"""Syrups whose parts stand in parentheses behind them: “500 ml of syrup (1 kg sugar to 1 litre water)” is read as “500 ml of 1:1 syrup”."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..written.tokens import Token, tokens_of
from .material_names import Named
from .rows import ratio_in
from .text_reading import TextReading

_MOST_INSIDE = 16
"""Largest number of tokens of the parts of a syrup [count]."""
_MOST_NAME = 3
"""Tokens before the parenthesis among which the word for syrup stands: “jarabe de azúcar (1:1)” [count]."""
_MOST_BEFORE = 8
"""Tokens before the word for syrup among which its amount ends [count]."""
_LEAST, _MOST = 0.5, 3.0
"""Sugar to water of what is still a syrup [g/g]."""


def with_syrup_parts(reading: TextReading, tokens: Sequence[Token]) -> list[Token]:
    """Returns tokens with the ratio of sugar to water in front of a syrup, in place of the parts in parentheses behind it. Other tokens are left as they are."""
    made = list(tokens)
    if not any(token.plain == "(" for token in tokens):
        return made
    for at in range(len(tokens) - 2, 0, -1):
        begin = _syrup_before(reading, tokens, at) if tokens[at].plain == "(" else None
        end = next((n for n in range(at + 1, min(len(tokens), at + _MOST_INSIDE)) if tokens[n].plain == ")"), 0)
        ratio = _ratio(reading, tokens[at + 1 : end]) if begin is not None and end else 0.0
        if begin is not None and _LEAST <= ratio <= _MOST:
            made[at : end + 1] = []
            made[begin:begin] = _written(ratio, tokens[begin].start)
    return made


def _syrup_before(reading: TextReading, tokens: Sequence[Token], at: int) -> int | None:
    """Returns where the name of a syrup begins before a position: at “hot” in “500 ml of hot sugar syrup (”; None without one."""
    words = reading.words
    form = next((n for n in range(at - 1, max(-1, at - 1 - _MOST_NAME), -1) if words.at("forms", tokens, n) == (1, "syrup")), None)
    if form is None:
        return None
    first = max(0, form - _MOST_BEFORE)
    begin = first + max((q.end for q in reading.quantities.all(tokens[first:form])), default=0)
    return next((n + 1 for n in range(form - 1, begin - 1, -1) if _parts(reading, tokens[n])), begin)


def _parts(reading: TextReading, token: Token) -> bool:
    """Returns True for what stands before a name: a mark, “of”, “the”, “with”."""
    words = reading.words.words
    return token.kind == "mark" or any(token.plain in words[section] for section in ("of", "definite", "with", "and"))


def _ratio(reading: TextReading, tokens: Sequence[Token]) -> float:
    """Returns sugar to water [g/g or mL/mL] of “1 kg sugar to 1 litre water”, “2 parts sugar, 1 part water”, “equal parts sugar and water” and “2:1”; 0 for other words."""
    alone = ratio_in(tokens)
    if alone is not None and len(tokens) == alone[1]:
        return alone[2]
    kinds = {reading.material(str(item.key)).kind: item for item in _named(reading, tokens)}
    if set(kinds) != {"sweetener", "water"}:
        return 0.0
    if reading.words.says("equal", tokens) or reading.words.says("alike", tokens):
        return 1.0
    amounts = [q for q in reading.quantities.all(tokens) if q.kind in ("mass", "volume", "parts")]
    if len(amounts) != 2 or (amounts[0].kind == "parts") != (amounts[1].kind == "parts"):
        return 0.0
    sugar, water = amounts if kinds["sweetener"].start < kinds["water"].start else amounts[::-1]
    if sugar.kind == "volume" or water.amount.value <= 0:
        # A cup of sugar is no cup of water by weight: that is asked.
        return 0.0
    return sugar.amount.value / water.amount.value


def _named(reading: TextReading, tokens: Sequence[Token]) -> list[Named]:
    return [item for item in reading.names.mentions(tokens) if item.key]


def _written(ratio: float, at: int) -> list[Token]:
    """Returns the tokens of a ratio, of no length, at a place of the text [letters]."""
    return [replace(token, start=at, end=at) for token in tokens_of(f"{ratio:g}:1")]
