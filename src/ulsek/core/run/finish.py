"""Finish of a batch: the expected volume, the decision on everything that is left over, and the question about an amount that is far off."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ..base.messages import NOTHING, Computed, Message, message, verbatim
from ..base.ranges import Range
from ..evaluation.evaluate import Evaluation
from ..evaluation.reading_agreement import agreement
from ..operations.amounts import BY_PRODUCT

POURING_SHARE = 0.05
"""Of a batch, so much may cling to pots and funnels before anybody is asked where it is; house experience."""

READ_OFF_ML = 10.0
"""What is in a bottle can be read off it to so much [mL]. House experience."""


def volume_expected_ml(evaluation: Evaluation) -> Range | None:
    """Returns least and largest volume in the bottles [mL] that raises no question: the prediction with its half-range and that of the jug, at least a
    twentieth either way.

    1000 mL ± 20: 950 to 1050. None for a batch that makes nothing. Source: house experience.
    """
    if evaluation.last is None:
        return None
    predicted = evaluation.range(evaluation.last, "volume_ml")
    found = agreement("volume_ml", predicted.value, predicted, spread=predicted.half_width)
    # The larger of what the sum leaves open and what clings to pots.
    room = max(found.room, POURING_SHARE * predicted.value)
    return Range(predicted.value, max(0.0, predicted.value - room), predicted.value + room)


def suggested_ml(evaluation: Evaluation) -> float:
    """Returns the proposed volume in the bottles [mL]: the prediction, as it can be read off bottles. 1433 mL: 1430. 0 if nothing is made."""
    predicted = evaluation.figures[evaluation.last]["volume_ml"] if evaluation.last is not None else 0.0
    # Rounded to what can be read off a bottle, so that nobody types digits that nobody saw.
    return math.floor(predicted / READ_OFF_ML + 0.5) * READ_OFF_ML


def missing_amount_question(expected: Range, read: float, unit: str) -> Message:
    """Returns the question about an amount at the finish [`unit`: mL or g], without its question mark; empty if it is within what was `expected`."""
    if expected.low <= read <= expected.high:
        return NOTHING
    off, worked_out = Computed(abs(read - expected.value), unit), Computed(expected.value, unit)
    if read < expected.value:
        return message(
            "{off} less than the {expected} that were worked out. Where is the rest: spilled, poured, left in a pot",
            off=off,
            expected=worked_out,
        )
    return message(
        "{off} more than the {expected} that were worked out. What was added, or was the jug read wrong", off=off, expected=worked_out
    )


@dataclass(frozen=True, slots=True)
class LeftoverAsked:
    """A leftover that the finish asks about, by its `key`: the name of its lot, and the default decision."""

    key: str
    called: Message
    usual: Literal["lot", "bin"]


def leftovers_asked(evaluation: Evaluation) -> tuple[LeftoverAsked, ...]:
    """Returns what the finish asks about: rests in vessels, kept by default, and by-products, discarded by default; waste is not asked about. House experience."""
    return tuple(
        LeftoverAsked(item.key, item.name, "lot")
        if item.stands == "vessel"
        else LeftoverAsked(item.key, verbatim(item.key.removeprefix(BY_PRODUCT)), "bin")
        for item in evaluation.leftovers
        if item.stands != "bin"
    )
