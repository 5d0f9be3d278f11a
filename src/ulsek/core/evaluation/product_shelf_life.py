"""What is shown of an evaluated spec, and how long its product, its by-products and what is left of it keep by that."""

from __future__ import annotations

import math
from dataclasses import replace

from ..base.figures import half_range
from ..base.messages import message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..materials.vessel_state import VesselState
from ..operations.amounts import VESSEL
from ..properties.bounds import is_solution
from ..properties.measure import NAMES
from ..properties.water import water_activity, water_activity_doubt
from ..safety.barriers import Evidence, Predicted, saturated, thinned_to
from ..safety.process_history import ProcessHistory
from ..safety.shelf_life import Keeping, Product, keeping
from .flow_figures import FlowFigures
from .reading_agreement import NO_ACID_PH, PLANT_PH, Agreement, agreement

SPIRITS = ("spirit", "tincture", "extract")
"""Kinds of material that carry their strength on the label."""
SHOWS = ("water_activity", "ph", "abv")
"""Figures that can stand for a barrier, with their ranges."""


def agreement_at(evaluation: FlowFigures, step: int, name: str, value: float) -> Agreement | None:
    """A reading of a figure after a step beside its prediction; None for a figure that cannot be worked out there."""
    if name in NAMES:
        if name not in evaluation.figures[step]:
            return None
        spread = evaluation.estimate.spread(evaluation.slopes(step, name).middle)
        return agreement(name, value, evaluation.range(step, name), spread=spread, abv=evaluation.figures[step].get("abv", 0.0))
    try:
        return agreement(name, value, evaluation.range(step, name))
    except Refusal:
        if name != "ph" or not evaluation.figures[step].get("volume_ml"):
            return None
        return agreement(name, value, NO_ACID_PH if evaluation.weighed else PLANT_PH)


def settled(evaluation: FlowFigures, evidence: Evidence) -> Evidence:
    """The evidence that agrees with this spec: a reading that contradicts it shows nothing, and is said."""
    if evaluation.last is None:
        return evidence
    read, disagreeing = dict(evidence.read), dict(evidence.disagreeing)
    for name, value in evidence.read.items():
        found = agreement_at(evaluation, evaluation.last, name, value)
        if found is not None and not found.agrees:
            del read[name]
            disagreeing[name] = message(
                "{read} read, {predicted} predicted: they disagree, so nothing is shown. Read it again, and check what was weighed.",
                read=found.read_words,
                predicted=found.predicted_words,
            )
    return replace(evidence, read=read, disagreeing=disagreeing)


def _read_water_activity(evaluation: FlowFigures, evidence: Evidence) -> float | None:
    """The water activity [-] that a °Bx reading shows, at its unfavourable end: that of the final liquid thinned or thickened to what was read less the
    instrument's half-range, never past saturation, with what the model and the rest of the doubt may add. None without a reading.
    """
    reading, final = evidence.read.get("brix_reading"), evaluation.final
    if reading is None or final is None or evaluation.last is None or not is_solution(final):
        return None
    half = half_range("brix_reading")
    as_read = thinned_to(final, max(0.1, reading - half))
    value = water_activity(saturated(as_read))
    rest = evaluation.estimate.spread_after(
        evaluation.slopes(evaluation.last, "water_activity").middle, evaluation.slopes(evaluation.last, "brix_reading").middle, half
    )
    return min(1.0, value + math.hypot(rest, water_activity_doubt(as_read, value)[1]))


def _shown_range(evaluation: FlowFigures, name: str) -> Range | None:
    """A figure of the finished product with its range, of the saturated liquid where it would stand past saturation; None if it cannot be worked out."""
    if evaluation.last is None or evaluation.final is None:
        return None
    try:
        found = evaluation.range(evaluation.last, name)
    except Refusal:
        return None
    if name != "water_activity":
        return found
    lift = max(0.0, water_activity(saturated(evaluation.final)) - found.value)
    return Range(found.value + lift, found.low + lift, min(1.0, found.high + lift))


def product_keeping(evaluation: FlowFigures) -> Keeping:
    """How long the product keeps by what was shown of it and what was weighed. Raises Refusal for a class that the rules do not hold."""
    figures = {name: found for name in SHOWS if (found := _shown_range(evaluation, name)) is not None}
    evidence = settled(evaluation, evaluation.evidence)
    evidence = replace(evidence, strength_by_label=evidence.strength_by_label or any(m.kind in SPIRITS for m in evaluation.used))
    predicted = Predicted(figures, evaluation.weighed, _read_water_activity(evaluation, evidence))
    return keeping(evaluation.used, evaluation.rules.keeping, Product(evaluation.final, predicted, evaluation.history), evidence)


def kept_of(evaluation: FlowFigures, name: str) -> Keeping:
    """How long what stands in a vessel or by-product at the end keeps with nothing shown of it; `name` as a line calls it (`vessel:ID`, `by_product:NAME`)."""
    kind, _, key = name.partition(":")
    state = (evaluation.plain.vessels if f"{kind}:" == VESSEL else evaluation.plain.streams).get(key)
    history = evaluation.histories[-1].get(name, ProcessHistory()) if evaluation.histories else ProcessHistory()
    used = [evaluation.inputs.materials[item] for item in history.heated_c]
    contents = state.liquid if state is not None and state.liquid.mass_g > 0 else None
    return keeping(used, evaluation.rules.keeping, Product(contents, history=history))


def kept_in(evaluation: FlowFigures, step: str, name: str, state: VesselState) -> Keeping:
    """How long something that left a vessel at a step would keep, with nothing shown of it; `name` is the vessel as a line calls it."""
    index = next(i for i, done in enumerate(evaluation.plain.steps) if done.step.id == step)
    held = evaluation.histories[index - 1].get(name, ProcessHistory()) if index else ProcessHistory()
    keys = {*state.solids_g, *(piece.material for piece in state.pieces)} or set(held.heated_c)
    used = [evaluation.inputs.materials[key] for key in keys if key in evaluation.inputs.materials]
    return keeping(used, evaluation.rules.keeping, Product(state.liquid if state.liquid.mass_g > 0 else None, history=held))
