"""Readings of a run: each beside what was predicted, what it teaches, and what it shows of the product."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from . import say
from . import spec as s
from .belief import Belief
from .contents import Contents
from .evaluate import Evaluation
from .events import Event, value_read
from .keeping import Evidence
from .makeup import READ_ACID, READ_BRIX
from .ranges import Range

INSTRUMENT = {"brix_reading": READ_BRIX, "acid_g_100ml": READ_ACID, "mass_g": 2.0, "volume_ml": 10.0}
"""Half-range of one reading, in its own unit; house experience, not a standard."""
AGREES_WITHIN = 1.2
"""A reading agrees within 1.2 times the 5 to 95 % half-range of prediction and instrument together: 95 % of honest readings do."""


@dataclass(frozen=True, slots=True)
class ReadingCheck:
    """A reading beside what was predicted."""

    event: str
    property: str
    value: float
    predicted: Range
    agrees: bool
    text: str
    step: str

    def as_data(self) -> dict[str, Any]:
        return {**{name: getattr(self, name) for name in self.__slots__}, "predicted": self.predicted.as_data()}


def read_beside(evaluation: Evaluation, event: Event, place: int | None) -> tuple[ReadingCheck, Belief]:
    """A reading beside the prediction, and the belief after it; a reading that disagrees teaches nothing until it is confirmed."""
    prop, value = str(event.body["property"]), float(value_read(event.body))
    step = evaluation.plain.steps[place].step.id if place is not None else ""
    if place is None or prop not in evaluation.figures[place]:
        words = (
            f"{say.figure(value, 1)} read before anything was in the vessel; kept as a note."
            if place is None
            else f"{say.figure(value, 1)} noted."
        )
        return ReadingCheck(event.id, prop, value, Range.exact(value), True, words, step), evaluation.belief
    predicted = evaluation.range(place, prop)
    slopes = evaluation.slopes(place, prop)
    instrument = INSTRUMENT[prop]
    surprise = value - predicted.value
    room = AGREES_WITHIN * math.hypot(evaluation.belief.spread(slopes.middle), instrument)
    around = f"{say.of(prop, predicted.value)} ± {say.figure(predicted.half_width, say.DECIMALS_OF.get(prop))}"
    if abs(surprise) > room:
        text = f"{say.of(prop, value)} read, {around} predicted: they disagree. {_question(prop, surprise, evaluation.plain.steps[place].step)}"
        return ReadingCheck(event.id, prop, value, predicted, False, text, step), evaluation.belief
    text = f"{say.of(prop, value)} read agrees with {around} predicted."
    return ReadingCheck(event.id, prop, value, predicted, True, text, step), evaluation.belief.taught(slopes.middle, surprise, instrument)


def _question(prop: str, surprise: float, step: s.Step) -> str:
    """What to ask when a reading disagrees: a mass that vanished or appeared is no instrument's fault."""
    if prop not in ("mass_g", "volume_ml"):
        return "Stir, let it cool to 20 °C and read again; if it stands, check what was weighed."
    amount = say.grams(abs(surprise)) if prop == "mass_g" else f"{say.figure(abs(surprise))}{say.GAP}mL"
    if step.family in ("extract", "strain", "clarify"):
        more, less = "more came through than this material gives", "less came through than this material gives"
        ask = "Is solid in it?" if surprise > 0 else "What is left in the cloth, and can it be pressed again?"
        return f"{amount} {more if surprise > 0 else less}. {ask} Was the pan tared?"
    if surprise > 0:
        return f"{amount} more than went in. Was the pan tared? Was something added and not written down?"
    return f"{amount} vanished. Was the pan tared? Was something spilled, boiled off or left in another vessel? Write down which."


_BEARS_ON_KEEPING = ("brix_reading", "ph", "water_activity")


def evidence_of(reads: Sequence[Event], checks: Sequence[ReadingCheck], evaluation: Evaluation) -> Evidence:
    """What this batch has shown of its product: the last reading of each kind that agrees and was taken of the same liquid as is bottled.

    A reading of the raw juice shows nothing of the cordial. The newest pH counts, and only when its meter was checked. Strength is by what was weighed.
    """
    product = {
        done.step.id
        for done in evaluation.plain.steps
        if evaluation.final is not None and _same_liquid(done.matter.liquor, evaluation.final)
    }
    shown: dict[str, float] = {}
    checked = False
    for event, check in zip(reads, checks, strict=True):
        if check.property not in _BEARS_ON_KEEPING or check.step not in product:
            continue
        if check.agrees:
            shown[check.property] = check.value
        else:
            # A reading that disagrees unsays the one before it.
            shown.pop(check.property, None)
        if check.property == "ph":
            checked = event.body.get("checked") is True
    return Evidence(shown, checked, any(material.kind == "spirit" for material in evaluation.used))


def _same_liquid(one: Contents, other: Contents) -> bool:
    """Whether two liquids hold the same shares of everything, to a millionth."""
    mine, theirs = one.mass_g, other.mass_g
    if mine <= 0 or theirs <= 0:
        return False
    return all(abs(one.of(key) / mine - other.of(key) / theirs) < 1e-6 for key in {**one.grams, **other.grams})
