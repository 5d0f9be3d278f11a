"""Told and worked out: what a pasted text claims of yield and keeping, beside what the draft comes to, with the likeliest cause of a gap."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from ..base.figures import with_half_range
from ..base.messages import NOTHING, Message, days, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..evaluation.evaluate import Evaluation

_SAME = 0.10
"""A yield that is told within a tenth of what is worked out agrees with it: people round."""
_BY_UNIT = {"mL": "volume_ml", "g": "mass_g"}


@dataclass(frozen=True, slots=True)
class ToldClaim:
    """One claim of the text: `told` are its words, `worked_out` what the draft comes to; `agrees` is None for what is not compared. `cause` explains a gap."""

    kind: str
    told: str
    worked_out: Message
    agrees: bool | None
    cause: Message


def told_and_worked_out(evaluation: Evaluation, body: Mapping[str, Any]) -> tuple[ToldClaim, ...]:
    """Returns the claims of a draft beside its evaluation, in their order. A claim without a figure is told only."""
    claims = body.get("claims")
    return tuple(_compared(evaluation, claims if isinstance(claims, list) else []))


def _compared(evaluation: Evaluation, claims: list[Any]) -> Iterator[ToldClaim]:
    for claim in claims:
        if not isinstance(claim, dict):
            continue
        kind, words, amount = str(claim.get("kind", "")), str(claim.get("text", "")), _amount(claim.get("amount"))
        if kind == "yield" and amount is not None and claim.get("unit") in _BY_UNIT and evaluation.last is not None:
            yield _yield(evaluation, words, amount, _BY_UNIT[claim["unit"]])
        elif kind == "keeps" and amount is not None and evaluation.last is not None:
            yield _keeps(evaluation, words, amount)
        else:
            yield ToldClaim(kind, words, NOTHING, None, NOTHING)


def _amount(data: Any) -> Range | None:
    try:
        return Range.read(data, "claims") if data is not None else None
    except Refusal:
        return None


def _yield(evaluation: Evaluation, words: str, told: Range, figure: str) -> ToldClaim:
    if evaluation.last is None:
        return ToldClaim("yield", words, NOTHING, None, NOTHING)
    found = evaluation.range(evaluation.last, figure)
    worked_out = with_half_range(figure, found.value, found.half_width)
    slack = _SAME * found.value
    if told.high < found.low - slack:
        cause = message("Less than its parts come to: reduced further, or left in the pan and the sieve?")
    elif told.low > found.high + slack:
        cause = message("More than its parts come to: is there water that the text does not say, or is it told before straining?")
    else:
        return ToldClaim("yield", words, worked_out, agrees=True, cause=NOTHING)
    return ToldClaim("yield", words, worked_out, agrees=False, cause=cause)


def _keeps(evaluation: Evaluation, words: str, told: Range) -> ToldClaim:
    kept = evaluation.keeping
    agrees = told.value <= kept.days
    return ToldClaim(
        "keeps", words, days(kept.days), agrees=agrees, cause=NOTHING if agrees else message("{because}.", because=kept.because)
    )
