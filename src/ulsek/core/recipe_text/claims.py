"""Claims of a text: how much it makes, how long it keeps, how it is served. They are kept and compared, and change nothing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..base.ranges import Range
from ..written.quantities import MEASURED
from ..written.tokens import Token
from .text_reading import TextReading

ClaimKind = Literal["yield", "keeps", "serve"]


@dataclass(frozen=True, slots=True)
class Claim:
    """One claim: its words, and its figure as far as it has one: mL, g or pieces of a yield (`unit` says which), days of keeping, mL of a serve."""

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
    kind: ClaimKind = found[1] if found else "serve"
    if found is None and any(q.kind == "minutes" for q in reading.quantities.all(tokens)):
        kind = "keeps"
    quantities = reading.quantities.all(tokens)
    amount, unit = None, ""
    if kind == "keeps":
        time = next((q for q in quantities if q.kind == "minutes"), None)
        if time is not None:
            amount, unit = time.amount.times(1 / 1440.0), "days"
    else:
        size = next((q for q in quantities if q.kind in MEASURED), None) or next(
            (q for q in quantities if q.kind in ("count", "vague")), None
        )
        if size is not None:
            amount, unit = size.amount, {"mass": "g", "volume": "mL"}.get(size.kind, size.unit)
    return Claim(kind, line, text, tokens[0].start, tokens[-1].end, amount, unit)
