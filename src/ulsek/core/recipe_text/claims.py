"""Claims of a text: how much it makes, how long it keeps, how it is served. They are kept and compared, and change nothing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..base.ranges import Range
from ..base.vocabulary import plain
from ..written.lexicon import Lexicon
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token
from .text_reading import TextReading

ClaimKind = Literal["yield", "keeps", "serve", "strength"]


@dataclass(frozen=True, slots=True)
class Claim:
    """One claim: its words, and its figure as far as it has one: mL, g or pieces of a yield (`unit` says which), days of keeping, mL of a serve; of a strength
    °Bx, % vol of alcohol or g of acid per 100 mL.
    """

    kind: ClaimKind
    line: int
    text: str
    start: int
    end: int
    amount: Range | None = None
    unit: str = ""


def claim_in(line: int, tokens: Sequence[Token], text: str, reading: TextReading) -> Claim:
    """Returns the claim that a row of tokens makes."""
    found = reading.words.at("claims", tokens, 0)
    kind = kind_at(reading.words, tokens) or "serve"
    if found is None and any(q.kind == "minutes" for q in reading.quantities.all(tokens)):
        kind = "keeps"
    quantities = reading.quantities.all(tokens)
    amount, unit = None, ""
    sized = found is None and len(quantities) == 1 and quantities[0].kind in MEASURED
    if sized and (quantities[0].end - quantities[0].start == len(tokens) or tokens[-1].plain in reading.words.words["out_words"]):
        # “2 L”, “about 1 kg out”
        kind = "yield"
    if found is None and kind != "keeps" and reading.words.says("makes_so_much", tokens):
        # “To make a litre of”
        kind = "yield"
    if kind == "strength" or (found is None and any(q.kind == "brix" for q in quantities)):
        kind = "strength"
        amount, unit = _strength(tokens, quantities, reading)
    elif kind == "keeps":
        time = next((q for q in quantities if q.kind == "minutes"), None)
        if time is not None:
            amount, unit = time.amount.times(1 / 1440.0), "days"
    else:
        sizes = [q for q in quantities if q.kind in MEASURED]
        if len(sizes) > 1 and next(reading.names.mentions(tokens[sizes[0].end : sizes[-1].start]), None) is not None:
            # “3 kg tomatoes → 1.8 L”: what comes of it.
            sizes = sizes[-1:]
        size = next(iter(sizes), None) or next((q for q in quantities if q.kind in ("count", "vague")), None)
        if size is not None:
            amount, unit = size.amount, {"mass": "g", "volume": "mL"}.get(size.kind, size.unit)
    return Claim(kind, line, text, tokens[0].start, tokens[-1].end, amount, unit)


def kind_at(words: Lexicon, tokens: Sequence[Token]) -> ClaimKind | None:
    """Returns the kind of the claim that begins a row of tokens; None for a row that begins with no word of claims."""
    # “Serve 30 mL” is no “serves 30”.
    exact = next((kind for kind, said in words.data["claims"].items() if any(plain(word) == tokens[0].plain for word in said)), None)
    found = words.at("claims", tokens, 0)
    return exact or (found[1] if found else None)


def _strength(tokens: Sequence[Token], quantities: Sequence[Quantity], reading: TextReading) -> tuple[Range | None, str]:
    """Returns (figure, unit) of “brix 65”, “ABV 22 %”, “acidity 6 %”; (None, "") where no figure stands."""
    figure = next((q for q in quantities if q.kind in ("brix", "percent", "count")), None)
    if figure is None:
        return None, ""
    if figure.kind == "brix":
        return figure.amount, "°Bx"
    if reading.words.says("acidity_words", tokens):
        return figure.amount, "g/100 mL"
    return (figure.amount, "% vol") if reading.words.says("strength_words", tokens) else (figure.amount, "°Bx")
