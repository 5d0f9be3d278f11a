"""Deviations: weights that are not what was planned, the dose that they came to, and what that changes in a batch."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from ..advice.batch_scaling import driver_mass_g
from ..base import number_format as say
from ..base.figures import with_unit
from ..evaluation.evaluate import Evaluation
from ..materials.material import Material
from ..spec import spec as s
from ..spec.sentences import listed, material_name, short_name
from .events import Event
from .state import RunState

QUIET_SHARE = 0.01
"""A weight within one percent is as planned: nobody could taste it."""
NOTABLE_SHARE = 0.005


@dataclass(frozen=True, slots=True)
class Deviation:
    """A weight that is not what was planned, and what it changes. `quiet` when nobody could taste it."""

    line: str
    planned_g: float
    actual_g: float
    text: str
    quiet: bool

    def as_data(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in self.__slots__}


def factor_of(spec: s.Spec, materials: Mapping[str, Material], events: Iterable[Event], actual_g: Mapping[str, float]) -> float:
    """How many times the spec this batch is: by the weighed driving line once it is weighed, else as it was started."""
    if spec.driver in actual_g and spec.driver in spec.lines:
        return actual_g[spec.driver] / driver_mass_g(spec, materials)
    started = next((event for event in events if event.kind == "started"), None)
    return float(started.body.get("factor") or 1.0) if started else 1.0


def dose_reached(line: s.Line, planned_g: float, actual_g: float) -> str:
    """The dose that a weighed line came to: “2.30 g on 700 g is 0.329 %”; empty for amounts that are no dose by weight.

    base = planned / (percent/100), or planned / ratio [g]; the same base that the amount was worked out from.
    """
    amount = line.amount
    if isinstance(amount, s.Percent) and amount.basis == "w/w":
        base = 100.0 * planned_g / amount.percent
        return f"{say.grams(actual_g)} on {say.grams(base)} is {say.given(100.0 * actual_g / base, 3)} %"
    if isinstance(amount, s.Ratio) and amount.basis == "weight":
        base = planned_g / amount.ratio
        return f"{say.grams(actual_g)} on {say.grams(base)} is {say.given(actual_g / base, 3)} per g"
    return ""


def deviation(state: RunState, line_id: str) -> Deviation | None:
    """What is said of one weight: None where it is as planned, and where nothing was planned of it."""
    line = state.spec.lines.get(line_id)
    if line is None:
        return None
    others = {key: mass for key, mass in state.actual_g.items() if key != line_id}
    factor = factor_of(state.spec, state.materials, state.events, others)
    before = state.with_weights(factor, others)
    planned = before.plain.masses.get(line_id)
    if planned is None:
        return None
    actual = state.actual_g[line_id]
    share = actual / planned - 1.0 if planned > 0 else math.inf
    if abs(share) < NOTABLE_SHARE:
        return None
    name = material_name(line.material, state.materials)
    after = state.with_weights(state.factor, state.actual_g)
    changed = []
    for key, mass in after.plain.masses.items():
        was = before.plain.masses.get(key)
        if key in state.spec.lines and key not in state.actual_g and was and abs(mass / was - 1.0) > NOTABLE_SHARE:
            changed.append(f"{short_name(material_name(state.spec.lines[key].material, state.materials))} is now {say.grams(mass)}")
    sentence = f"{name}: {say.grams(actual)} instead of {say.grams(planned)}, {say.figure(abs(actual - planned))}{say.GAP}g {'over' if share > 0 else 'short'}"
    reached = dose_reached(line, planned, actual)
    sentence += f": {reached}, {say.figure(100 * abs(share), 0)} % {'over' if share > 0 else 'short'}." if reached else "."
    if changed:
        sentence += f" Rescaled after it: {listed(changed)}."
    if line_id == state.spec.driver and after.last is not None:
        sentence += f" Makes {say.amount(after.figures[after.last]['volume_ml'] / 1000, 'L')}."
    else:
        sentence += _off_goal(state, after, before)
    return Deviation(line_id, planned, actual, sentence, abs(share) < QUIET_SHARE)


def deviations(state: RunState) -> tuple[Deviation, ...]:
    """Returns every weighed line whose mass differs from the one planned from all other weights, in the order of weighing."""
    return tuple(found for line in state.actual_g if (found := deviation(state, line)))


def dose_of(state: RunState, line: s.Line) -> str:
    """The dose that a weighed line came to, in words; empty where its amount is no percent or ratio, or where it is not weighed yet."""
    actual = state.actual_g.get(line.id)
    if actual is None or not isinstance(line.amount, s.Percent | s.Ratio):
        return ""
    others = {key: mass for key, mass in state.actual_g.items() if key != line.id}
    planned = state.with_weights(state.factor, others).plain.masses.get(line.id)
    return dose_reached(line, planned, actual) if planned else ""


def _off_goal(state: RunState, after: Evaluation, before: Evaluation) -> str:
    if after.last is None or before.last is None:
        return ""
    parts = []
    for goal in state.spec.goals:
        now, was = after.figures[after.last].get(goal.property, 0.0), before.figures[before.last].get(goal.property, 0.0)
        if abs(now - was) > 0.1 * goal.tolerance:
            parts.append(f"{with_unit(goal.property, now)} instead of {with_unit(goal.property, was)}")
    return f" The batch heads for {listed(parts)}." if parts else ""
