"""Composition of a syrup in parentheses after its name: “500 ml of syrup (1 kg sugar to 1 litre water)” is read as “500 ml of 1:1 syrup”."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token, tokens_of
from .material_names import Named
from .rows import ratio_in
from .text_reading import TextReading

_MOST_INSIDE = 16
"""Most tokens between “(” and “)” of a composition: “(1 kg sugar to 1 litre water)” has seven [count]."""
_MOST_NAME = 3
"""Most tokens from the word “syrup” to the “(” after it: three in “jarabe de azúcar (1:1)” [count]."""
_MOST_BEFORE = 8
"""Number of tokens before the word “syrup” among which its amount is sought: “500 ml of hot sugar syrup” has five [count]."""
_LEAST, _MOST = 0.5, 3.0
"""Smallest and largest ratio of sugar to water of a syrup [g/g]."""


def with_syrup_parts(reading: TextReading, tokens: Sequence[Token]) -> list[Token]:
    """Returns tokens in which a parenthesis with sugar and water after a syrup is replaced by their ratio [g/g] before it. Its text counts as part of the name."""
    made = list(tokens)
    if not any(token.plain == "(" for token in tokens):
        return made
    for at in range(len(tokens) - 2, 0, -1):
        begin = _syrup_before(reading, tokens, at) if tokens[at].plain == "(" else None
        end = next((n for n in range(at + 1, min(len(tokens), at + _MOST_INSIDE + 2)) if tokens[n].plain == ")"), 0)
        ratio = _ratio(reading, tokens[at + 1 : end]) if begin is not None and end else 0.0
        if begin is not None and _LEAST <= ratio <= _MOST:
            # The name reaches to the end of the parenthesis, so that its text is tied to the ingredient.
            made[at - 1 : end + 1] = [replace(tokens[at - 1], end=tokens[end].end)]
            made[begin:begin] = _written(ratio, tokens[begin].start)
    return made


def _syrup_before(reading: TextReading, tokens: Sequence[Token], at: int) -> int | None:
    """Returns the position of the first word of a syrup's name that ends before `at`: “hot” in “500 ml of hot sugar syrup (”; None if no syrup is named there."""
    words = reading.words
    form = next((n for n in range(at - 1, max(-1, at - 1 - _MOST_NAME), -1) if words.at("forms", tokens, n) == (1, "syrup")), None)
    if form is None:
        return None
    first = max(0, form - _MOST_BEFORE)
    begin = first + max((q.end for q in reading.quantities.all(tokens[first:form])), default=0)
    return next((n + 1 for n in range(form - 1, begin - 1, -1) if _parts(reading, tokens[n])), begin)


def _parts(reading: TextReading, token: Token) -> bool:
    """Returns True if a token may precede a name but is no part of it: a mark, “of”, “the”, “with”."""
    words = reading.words.words
    return token.kind == "mark" or any(token.plain in words[section] for section in ("of", "definite", "with", "and"))


def _ratio(reading: TextReading, tokens: Sequence[Token]) -> float:
    """Returns sugar to water [g/g] of “1 kg sugar to 1 litre water”, “1 cup sugar, 1 cup water”, “2 parts sugar, 1 part water” and “2:1”; 0 for other words."""
    alone = ratio_in(tokens)
    if alone is not None and len(tokens) == alone[1]:
        return alone[2]
    named = {reading.material(str(item.key)).kind: item for item in _named(reading, tokens)}
    if set(named) != {"sweetener", "water"}:
        return 0.0
    if reading.words.says("equal", tokens) or reading.words.says("alike", tokens):
        return 1.0
    amounts = [q for q in reading.quantities.all(tokens) if q.kind in (*MEASURED, "parts")]
    if len(amounts) != 2 or (amounts[0].kind == "parts") != (amounts[1].kind == "parts"):
        return 0.0
    sugar, water = named["sweetener"], named["water"]
    of_sugar, of_water = amounts if sugar.start < water.start else amounts[::-1]
    grams = _weight(reading, of_water, water)
    return _weight(reading, of_sugar, sugar) / grams if grams else 0.0


def _weight(reading: TextReading, quantity: Quantity, named: Named) -> float:
    """Returns the mass of a quantity of a material [g], or its number of parts; 0 if the material has no known bulk density."""
    value = quantity.amount.value
    return value if quantity.kind == "parts" else reading.mass_g(quantity.kind, value, str(named.key)) or 0.0


def _named(reading: TextReading, tokens: Sequence[Token]) -> list[Named]:
    return [item for item in reading.names.mentions(tokens) if item.key]


def _written(ratio: float, at: int) -> list[Token]:
    """Returns the tokens of a ratio in three figures, with zero length at a place of the text [letters]."""
    return [replace(token, start=at, end=at) for token in tokens_of(f"{ratio:.3g}:1")]
