"""Readings of a run compared with the prediction, the updated estimate, and the evidence on the product."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from ..base.figures import FIGURES
from ..base.messages import NOTHING, Computed, Message, grams, message, sentences
from ..base.ranges import Range
from ..chemistry.contents import Contents
from ..evaluation.estimate import Estimate
from ..evaluation.evaluate import Evaluation
from ..evaluation.flow_values import StepFlow
from ..evaluation.product_shelf_life import agreement_at
from ..evaluation.reading_agreement import instrument_half_range
from ..properties.measure import NAMES
from ..safety.barriers import Evidence, HotFill
from ..spec import spec as s
from .reading import Reading

_SAME_SHARE = 1e-6
"""Share of a liquid by which two may differ and still be the same: rounding."""
_LEAST_READS = 2
"""Readings of a thermometer from which a holding time is known. Source: definition."""


@dataclass(frozen=True, slots=True)
class ReadingCheck:
    """A reading and its prediction."""

    event: str
    property: str
    value: float
    predicted: Range
    agrees: bool
    text: Message
    step: str


def compared_reading(evaluation: Evaluation, reading: Reading, place: int | None) -> tuple[ReadingCheck, Estimate]:
    """Returns a reading compared with its prediction, and the estimate after it; a reading that disagrees changes nothing until it is confirmed."""
    prop, value = reading.property, reading.value
    step = evaluation.flow.steps[place].step.id if place is not None else ""
    found = agreement_at(evaluation, place, prop, value) if place is not None and FIGURES[prop].is_compared else None
    # Before anything is in a vessel there is nothing to compare with: the reading is kept, and teaches nothing.
    if place is None or found is None:
        noted = Computed(value, decimals=1)
        early = message("{value} read before anything was in the vessel; kept as a note.", value=noted)
        words = early if place is None else message("{value} noted.", value=noted)
        return ReadingCheck(reading.event, prop, value, Range.exact(value), True, words, step), evaluation.estimate
    # A reading that disagrees may be a slip: it changes nothing until it is read again.
    if not found.agrees:
        off = message("{read} read, {predicted} predicted: they disagree.", read=found.read_words, predicted=found.predicted_words)
        text = sentences(off, _question(prop, found.residual, evaluation.flow.steps[place]))
        return ReadingCheck(reading.event, prop, value, found.predicted, False, text, step), evaluation.estimate
    text = message("{read} read agrees with {predicted} predicted.", read=found.read_words, predicted=found.predicted_words)
    estimate = evaluation.estimate
    if prop in NAMES:
        abv = evaluation.figures[place].get("abv", 0.0)
        # Only figures that the flow computes linearly teach about its inputs; pH and the like are compared only.
        estimate = estimate.updated(evaluation.slopes(place, prop).middle, found.residual, instrument_half_range(prop, abv))
    return ReadingCheck(reading.event, prop, value, found.predicted, True, text, step), estimate


def _question(prop: str, residual: float, done: StepFlow) -> Message:
    """Returns the question about a reading that disagrees: a mass that is missing or too large is no error of an instrument; pulp gives more if it is worked
    through.
    """
    # Only a mass or a volume can be lost; a figure of the liquid is read again.
    if prop not in ("mass_g", "volume_ml"):
        return message("Stir, let it cool to 20 °C and read again; if it stands, check what was weighed.")
    amount = grams(abs(residual)) if prop == "mass_g" else Computed(abs(residual), "mL")
    tared = message("Was the pan tared?")
    if done.step.family in ("extract", "strain", "clarify"):
        if residual <= 0:
            came = message("{amount} less came through than this material gives.", amount=amount)
            return sentences(came, message("What is left in the cloth, and can it be pressed again?"), tared)
        came = message("{amount} more came through than this material gives.", amount=amount)
        stirred = message("Cooked fruit falls apart and gives more when it is stirred or pressed through: was it?")
        return sentences(came, stirred if done.before.pulp_g else NOTHING, message("Is solid in it?"), tared)
    if residual > 0:
        more = message("{amount} more than went in.", amount=amount)
        return sentences(more, tared, message("Was something added and not written down?"))
    lost = message("Was something spilled, boiled off or left in another vessel? Write down which.")
    return sentences(message("{amount} vanished.", amount=amount), tared, lost)


def hot_fill_of(spec: s.Spec, watched: Mapping[str, Sequence[Reading]]) -> HotFill | None:
    """Returns the hot filling by its thermometer: the lowest temperature [°C], and the minutes between the first reading and the last.

    None if the spec names no procedure, or with fewer than two readings. `watched` are the readings taken during a step, by step.
    """
    for step in spec.steps:
        if isinstance(step, s.HotFill) and step.procedure:
            reads = [reading for reading in watched.get(step.id, ()) if reading.property == "temperature_c"]
            if len(reads) < _LEAST_READS:
                return None
            times = [datetime.fromisoformat(reading.at) for reading in reads]
            # The coolest reading counts: the procedure asks for its temperature all the time.
            return HotFill(step.procedure, min(reading.value for reading in reads), (max(times) - min(times)).total_seconds() / 60.0)
    return None


_BEARS_ON_KEEPING = ("brix_reading", "ph", "water_activity")


def evidence_of(
    reads: Sequence[Reading], checks: Sequence[ReadingCheck], evaluation: Evaluation, hot_fill: HotFill | None = None
) -> Evidence:
    """Returns the evidence of this batch on its product: the last reading of each kind that agrees and was taken of the same liquid as is bottled.

    A reading of the raw juice is no evidence on the cordial. The newest pH counts, and only if its meter was checked. Strength is by what was weighed. A
    reading that disagrees cancels the one before it, and what was weighed.
    """
    # Later steps that leave the liquid as it is, such as bottling, carry the reading along.
    product = {
        done.step.id for done in evaluation.flow.steps if evaluation.final is not None and _same_liquid(done.state.liquid, evaluation.final)
    }
    shown: dict[str, float] = {}
    disagreeing: dict[str, Message] = {}
    checked = False
    for reading, check in zip(reads, checks, strict=True):
        if check.property not in _BEARS_ON_KEEPING or check.step not in product:
            continue
        # The newest reading counts: an earlier one was of another state, or a slip.
        if check.agrees:
            shown[check.property] = check.value
            disagreeing.pop(check.property, None)
        else:
            shown.pop(check.property, None)
            disagreeing[check.property] = check.text
        if check.property == "ph":
            checked = reading.checked
    return Evidence(shown, checked, hot_fill=hot_fill, disagreeing=disagreeing)


def _same_liquid(one: Contents, other: Contents) -> bool:
    """Returns True if two liquids hold the same shares of every substance, to a millionth."""
    mine, theirs = one.mass_g, other.mass_g
    if mine <= 0 or theirs <= 0:
        return False
    return all(abs(one.of(key) / mine - other.of(key) / theirs) < _SAME_SHARE for key in {**one.grams, **other.grams})
