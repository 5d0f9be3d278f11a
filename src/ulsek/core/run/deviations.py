"""Deviations: weights that are not what was planned, the dose that they came to, and what that changes in a batch."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from ..advice.batch_scaling import driver_mass_g
from ..base import number_format as say
from ..base.figures import with_unit
from ..evaluation.evaluate import Evaluation, evaluate
from ..safety.house_rules import Rules
from ..spec import spec as s
from ..spec.sentences import listed, short_name
from .batch_record import BatchRecord
from .learned_priors import Taught

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


def factor_of(record: BatchRecord, actual_g: Mapping[str, float]) -> float:
    """Returns how many times the spec the batch is: by the driving line if its mass is in `actual_g` [g], else as it was started."""
    spec = record.spec
    if spec.driver in actual_g and spec.driver in spec.lines:
        return actual_g[spec.driver] / driver_mass_g(spec, record.materials)
    return record.started_factor or 1.0


def dose_reached(line: s.Line, planned_g: float, actual_g: float) -> str:
    """The dose that a weighed line came to: “2.30 g on 700 g is 0.329 %”; empty for amounts that are no dose by weight, and where none was planned.

    base = planned / (percent/100), or planned / ratio [g]; the same base that the amount was worked out from.
    """
    amount = line.amount
    if planned_g <= 0:
        return ""
    if isinstance(amount, s.Percent) and amount.basis == "w/w":
        base = 100.0 * planned_g / amount.percent
        return f"{say.grams(actual_g)} on {say.grams(base)} is {say.given(100.0 * actual_g / base, 3)} %"
    if isinstance(amount, s.Ratio) and amount.basis == "weight":
        base = planned_g / amount.ratio
        return f"{say.grams(actual_g)} on {say.grams(base)} is {say.given(actual_g / base, 3)} per g"
    return ""


@dataclass
class WeightComparison:
    """Each weight of a batch compared with the one planned from all others, by the rules of the house and what its batches taught.

    `factor` is how many times the spec the batch is, `vessel_g` the mass of vessels as weighed after a step [g]. Other readings are not used.
    """

    record: BatchRecord
    factor: float
    vessel_g: Mapping[str, float]
    rules: Rules
    learned: Taught
    _evaluations: dict[tuple[str, float], Evaluation] = field(default_factory=dict)

    def _evaluation(self, without: str, factor: float) -> Evaluation:
        """Returns the evaluation with all weights but that of the line `without`; with all of them if it is empty."""
        key = (without, factor)
        if key not in self._evaluations:
            record = self.record
            self._evaluations[key] = evaluate(
                record.spec,
                record.materials,
                factor=factor,
                actual_g={line: mass for line, mass in record.actual_g.items() if line != without},
                spilled_g=record.spilled_g,
                skipped=record.skipped,
                vessel_g=self.vessel_g,
                rules=self.rules,
                learned=self.learned,
            )
        return self._evaluations[key]

    @cached_property
    def deviations(self) -> tuple[Deviation, ...]:
        """Every weighed line whose mass differs from the one planned from all other weights, in the order of weighing."""
        return tuple(found for line in self.record.actual_g if (found := self._deviation(line)))

    def dose(self, line: s.Line) -> str:
        """Returns the dose that a weighed line came to, in words; empty if its amount is no percent or ratio, or if it is not weighed yet."""
        actual = self.record.actual_g.get(line.id)
        if actual is None or not isinstance(line.amount, s.Percent | s.Ratio):
            return ""
        planned = self._evaluation(line.id, self.factor).plain.masses.get(line.id)
        return dose_reached(line, planned, actual) if planned else ""

    def _deviation(self, line_id: str) -> Deviation | None:
        """Returns what is said of one weight; None if it is as planned, or if nothing was planned of it."""
        record = self.record
        line = record.spec.lines.get(line_id)
        if line is None:
            return None
        others = {key: mass for key, mass in record.actual_g.items() if key != line_id}
        before = self._evaluation(line_id, factor_of(record, others))
        planned = before.plain.masses.get(line_id)
        if planned is None:
            return None
        actual = record.actual_g[line_id]
        share = actual / planned - 1.0 if planned > 0 else math.inf
        if abs(share) < NOTABLE_SHARE:
            return None
        after = self._evaluation("", self.factor)
        side = "over" if share > 0 else "short"
        sentence = f"{record.name(line)}: {say.grams(actual)} instead of {say.grams(planned)}, {say.figure(abs(actual - planned))}{say.GAP}g {side}"
        reached = dose_reached(line, planned, actual)
        sentence += f": {reached}, {say.figure(100 * abs(share), 0)} % {side}." if reached else "."
        if rescaled := self._rescaled(before, after):
            sentence += f" Rescaled after it: {listed(rescaled)}."
        if line_id == record.spec.driver and after.last is not None:
            sentence += f" Makes {say.amount(after.figures[after.last]['volume_ml'] / 1000, 'L')}."
        else:
            sentence += _off_goal(record.spec, after, before)
        return Deviation(line_id, planned, actual, sentence, abs(share) < QUIET_SHARE)

    def _rescaled(self, before: Evaluation, after: Evaluation) -> list[str]:
        """Returns the lines that are not weighed yet and whose planned mass changed, each in words."""
        lines, found = self.record.spec.lines, []
        for key, mass in after.plain.masses.items():
            was = before.plain.masses.get(key)
            if key in lines and key not in self.record.actual_g and was and abs(mass / was - 1.0) > NOTABLE_SHARE:
                found.append(f"{short_name(self.record.name(lines[key]))} is now {say.grams(mass)}")
        return found


def _off_goal(spec: s.Spec, after: Evaluation, before: Evaluation) -> str:
    if after.last is None or before.last is None:
        return ""
    parts = []
    for goal in spec.goals:
        now, was = after.figures[after.last].get(goal.property, 0.0), before.figures[before.last].get(goal.property, 0.0)
        if abs(now - was) > 0.1 * goal.tolerance:
            parts.append(f"{with_unit(goal.property, now)} instead of {with_unit(goal.property, was)}")
    return f" The batch heads for {listed(parts)}." if parts else ""
