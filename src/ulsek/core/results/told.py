"""Told and worked out: what a pasted text claims of yield, keeping, strength and dose, beside what the draft comes to, with the likeliest cause of a gap."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..base.figures import quantity, with_half_range
from ..base.messages import NOTHING, Message, days, grams, listed, message
from ..base.ranges import Range
from ..evaluation.evaluate import Evaluation
from ..spec import spec as s

_SAME = 0.10
"""A yield that is told within a tenth of what is worked out agrees with it: people round."""
_BY_UNIT = {"mL": "volume_ml", "g": "mass_g"}
_STRENGTHS = {"°Bx": "brix", "% vol": "abv", "g/100 mL": "acid_g_100ml"}
_SAME_STRENGTH = 0.05
"""A strength that is told within a twentieth of what is worked out agrees with it."""
_LEAST_ACID, _LEAST_ALCOHOL = 0.05, 0.5
"""Acid [g] and alcohol [% vol] of a serve from which they are named."""

_LESS_TOLD = message("Less than its parts come to: reduced further, or left in the pan and the sieve?")
_MORE_TOLD = message("More than its parts come to: is there water that the text does not say, or is it told before straining?")
_STRONGER_TOLD = {
    "brix": message("More than its parts come to: does it boil down further, or is less water in it than the text says?"),
    "abv": message("More than its parts come to: is the spirit stronger than the one in Stores?"),
    "acid_g_100ml": message("More than its parts come to: is the fruit sharper, or is the acid reckoned as another one?"),
}
_WEAKER_TOLD = message("Less than its parts come to: is there water that the text does not say?")
_MORE_BOTTLED = message("More was bottled than the text tells: did it reduce less, or did more go in?")
_LESS_BOTTLED = message("Less was bottled than the text tells: reduced further, or left in the pan and the sieve?")


@dataclass(frozen=True, slots=True)
class ToldClaim:
    """One claim of the text: `told` are its words, `worked_out` what the spec comes to, `happened` what was bottled, empty where nothing was; `agrees` is None for what
    is not compared. `cause` explains a gap.
    """

    kind: str
    told: str
    worked_out: Message
    agrees: bool | None
    cause: Message
    happened: Message = NOTHING


def told_and_worked_out(evaluation: Evaluation, factor: float = 1.0, bottled_ml: float | None = None) -> tuple[ToldClaim, ...]:
    """Returns the claims of a spec beside its evaluation, in their order. A claim without a figure is told only.

    `factor` is the size of the batch as a multiple of the spec, by which a told yield is multiplied; `bottled_ml` is what was bottled [mL], None before that.
    """
    return tuple(_compared(evaluation, factor, bottled_ml))


def _compared(evaluation: Evaluation, factor: float, bottled_ml: float | None) -> Iterator[ToldClaim]:
    for claim in evaluation.inputs.spec.claims:
        if claim.kind == "yield" and claim.amount is not None and claim.unit in _BY_UNIT and evaluation.last is not None:
            told = claim.amount.times(factor)
            yield _yield(evaluation, evaluation.last, claim, told, bottled_ml)
        elif claim.kind == "keeps" and claim.amount is not None and evaluation.last is not None:
            yield _keeps(evaluation, claim.text, claim.amount)
        elif claim.kind == "strength" and claim.amount is not None and claim.unit in _STRENGTHS and evaluation.last is not None:
            yield _strength(evaluation, evaluation.last, claim.text, claim.amount, _STRENGTHS[claim.unit])
        elif claim.kind == "serve" and claim.amount is not None and claim.unit == "mL" and evaluation.last is not None:
            yield ToldClaim("serve", claim.text, _holds(evaluation, evaluation.last, claim.amount.value), None, NOTHING)
        else:
            yield ToldClaim(claim.kind, claim.text, NOTHING, None, NOTHING)


def _strength(evaluation: Evaluation, last: int, words: str, told: Range, figure: str) -> ToldClaim:
    worked = evaluation.range(last, figure)
    slack = _SAME_STRENGTH * max(worked.value, told.value)
    cause = NOTHING
    if told.low > worked.high + slack:
        cause = _STRONGER_TOLD[figure]
    elif told.high < worked.low - slack:
        cause = _WEAKER_TOLD
    worked_out = with_half_range(figure, worked.value, worked.half_width)
    return ToldClaim("strength", words, worked_out, agrees=cause is NOTHING, cause=cause)


def _holds(evaluation: Evaluation, last: int, volume_ml: float) -> Message:
    """Returns a message with the sugar [g], acid [g] and pure alcohol [mL] in a serve of `volume_ml` [mL]. Small amounts of acid and alcohol are omitted."""
    figures = evaluation.figures[last]
    sugar, acid = (figures[name] * volume_ml / 100.0 for name in ("sugar_g_100ml", "acid_g_100ml"))
    ethanol_ml = figures["abv"] * volume_ml / 100.0
    parts = [message("{sugar} of sugar", sugar=grams(sugar))]
    if acid >= _LEAST_ACID:
        parts.append(message("{acid} of acid", acid=grams(acid)))
    if figures["abv"] >= _LEAST_ALCOHOL:
        parts.append(message("{ethanol} of pure alcohol", ethanol=quantity("volume_ml", ethanol_ml)))
    return message("{volume} holds {parts}", volume=quantity("volume_ml", volume_ml), parts=listed(parts, "and"))


def _yield(evaluation: Evaluation, last: int, claim: s.Claim, told: Range, bottled_ml: float | None) -> ToldClaim:
    figure = _BY_UNIT[claim.unit]
    worked = evaluation.range(last, figure)
    counted = bottled_ml is not None and figure == "volume_ml"
    found = Range.exact(bottled_ml) if counted and bottled_ml is not None else worked
    slack = _SAME * found.value
    cause = NOTHING
    if told.high < found.low - slack:
        cause = _MORE_BOTTLED if counted else _LESS_TOLD
    elif told.low > found.high + slack:
        cause = _LESS_BOTTLED if counted else _MORE_TOLD
    return ToldClaim(
        "yield",
        claim.text,
        with_half_range(figure, worked.value, worked.half_width),
        agrees=cause is NOTHING,
        cause=cause,
        happened=message("{volume}", volume=quantity(figure, found.value)) if counted else NOTHING,
    )


def _keeps(evaluation: Evaluation, words: str, told: Range) -> ToldClaim:
    kept = evaluation.keeping
    agrees = told.value <= kept.days
    return ToldClaim(
        "keeps", words, days(kept.days), agrees=agrees, cause=NOTHING if agrees else message("{because}.", because=kept.because)
    )
