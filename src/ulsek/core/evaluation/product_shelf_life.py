"""Shelf life of an evaluated spec: evidence, and how long product, by-products and leftovers keep by it."""

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
from ..properties.water import water_activity, water_activity_uncertainty
from ..safety.barriers import Evidence, Predicted, saturated, thinned_to
from ..safety.process_history import ProcessHistory
from ..safety.shelf_life import Keeping, Product, keeping
from .flow_figures import FlowFigures
from .reading_agreement import NO_ACID_PH, PLANT_PH, Agreement, agreement

_LEAST_READING_BX = 0.1
"""Least reading [°Bx] that a liquid is thinned to: below, twenty times its water would not be enough. House judgement."""
SPIRITS = ("spirit", "tincture", "extract")
"""Kinds of material that carry their strength on the label."""
SHOWS = ("water_activity", "ph", "abv")
"""Figures that can stand for a barrier, with their ranges."""


def agreement_at(evaluation: FlowFigures, step: int, name: str, value: float) -> Agreement | None:
    """Returns a reading of a figure after a step compared with its prediction; None for a figure that cannot be computed there."""
    if name in NAMES:
        if name not in evaluation.figures[step]:
            return None
        # The spread by the estimate, which earlier readings have narrowed, not by the inputs as they began.
        spread = evaluation.estimate.spread(evaluation.slopes(step, name).middle)
        return agreement(name, value, evaluation.range(step, name), spread=spread, abv=evaluation.figures[step].get("abv", 0.0))
    try:
        return agreement(name, value, evaluation.range(step, name))
    except Refusal:
        if name != "ph" or not evaluation.figures[step].get("volume_ml"):
            return None
        return agreement(name, value, NO_ACID_PH if evaluation.weighed else PLANT_PH)


def agreeing_evidence(evaluation: FlowFigures, evidence: Evidence) -> Evidence:
    """Returns the evidence without readings that contradict the spec; each of those is listed as disagreeing."""
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
    """Returns the water activity [-] that a °Bx reading shows, at its unfavourable end; None without a reading.

    The final liquid is diluted or concentrated to the reading less the half-range of the instrument, at most to saturation; the error of the model and the rest
    of the uncertainty are added.
    """
    reading, final = evidence.read.get("brix_reading"), evaluation.final
    if reading is None or final is None or evaluation.last is None or not is_solution(final):
        return None
    half = half_range("brix_reading")
    as_read = thinned_to(final, max(_LEAST_READING_BX, reading - half))
    # Saturated: what crystallises binds no water, whatever the refractometer showed before.
    value = water_activity(saturated(as_read))
    rest = evaluation.estimate.spread_after(
        evaluation.slopes(evaluation.last, "water_activity").middle, evaluation.slopes(evaluation.last, "brix_reading").middle, half
    )
    return min(1.0, value + math.hypot(rest, water_activity_uncertainty(as_read, value)[1]))


def _shown_range(evaluation: FlowFigures, name: str) -> Range | None:
    """Returns a figure of the product with its range, of the saturated liquid if it would be past saturation; None if it cannot be computed."""
    if evaluation.last is None or evaluation.final is None:
        return None
    try:
        found = evaluation.range(evaluation.last, name)
    except Refusal:
        return None
    if name != "water_activity":
        return found
    # The flow's own figure knows of no crystals; the liquid above them is thinner.
    lift = max(0.0, water_activity(saturated(evaluation.final)) - found.value)
    return Range(found.value + lift, found.low + lift, min(1.0, found.high + lift))


def product_keeping(evaluation: FlowFigures) -> Keeping:
    """Returns how long the product keeps by its evidence and by what was weighed. Raises Refusal for a class that the rules do not hold."""
    figures = {name: found for name in SHOWS if (found := _shown_range(evaluation, name)) is not None}
    evidence = agreeing_evidence(evaluation, evaluation.evidence)
    # A spirit's label is evidence of strength; nobody measures it again at a bar.
    evidence = replace(evidence, strength_by_label=evidence.strength_by_label or any(m.kind in SPIRITS for m in evaluation.used))
    predicted = Predicted(figures, evaluation.weighed, _read_water_activity(evaluation, evidence))
    return keeping(evaluation.used, evaluation.rules.keeping, Product(evaluation.final, predicted, evaluation.history), evidence)


def keeping_of_remainder(evaluation: FlowFigures, name: str) -> Keeping:
    """Returns how long the content of a vessel or by-product at the end keeps, without evidence; `name` as a line uses it (`vessel:ID`, `by_product:NAME`)."""
    kind, _, key = name.partition(":")
    state = (evaluation.flow.vessels if f"{kind}:" == VESSEL else evaluation.flow.streams).get(key)
    history = evaluation.histories[-1].get(name, ProcessHistory()) if evaluation.histories else ProcessHistory()
    used = [evaluation.inputs.materials[item] for item in history.heated_c]
    contents = state.liquid if state is not None and state.liquid.mass_g > 0 else None
    return keeping(used, evaluation.rules.keeping, Product(contents, history=history))


def keeping_of_stream(evaluation: FlowFigures, step: str, name: str, state: VesselState) -> Keeping:
    """Returns how long something that left a vessel at a step keeps, without evidence; `name` is the vessel as a line names it."""
    index = next(i for i, done in enumerate(evaluation.flow.steps) if done.step.id == step)
    held = evaluation.histories[index - 1].get(name, ProcessHistory()) if index else ProcessHistory()
    keys = {*state.solids_g, *(piece.material for piece in state.pieces)} or set(held.heated_c)
    used = [evaluation.inputs.materials[key] for key in keys if key in evaluation.inputs.materials]
    return keeping(used, evaluation.rules.keeping, Product(state.liquid if state.liquid.mass_g > 0 else None, history=held))
