"""Deviations: weights that differ from the plan, the dose that they come to, and their effect on the batch."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from ..advice.batch_scaling import driver_mass_g
from ..base.figures import quantity
from ..base.messages import NOTHING, Computed, Given, Message, Value, grams, listed, message, sentences
from ..evaluation.estimate import Priors
from ..evaluation.evaluate import Evaluation, evaluate
from ..evaluation.flow_values import AsMade
from ..safety.house_rules import Rules
from ..spec import spec as s
from ..spec.sentences import inside_name
from .batch_record import BatchRecord

QUIET_SHARE = 0.01
"""A weight within one percent is as planned: nobody could taste it."""
NOTABLE_SHARE = 0.005


_MOVED_SHARE = 0.1
"""Share of a goal's tolerance from which its change is worth telling. House judgement."""


@dataclass(frozen=True, slots=True)
class Deviation:
    """A weight that differs from the planned one, and its effect. `quiet` is True if it could not be tasted."""

    line: str
    planned_g: float
    actual_g: float
    text: Message
    quiet: bool


def factor_of(record: BatchRecord, actual_g: Mapping[str, float]) -> float:
    """Returns how many times the spec the batch is: by the driving line if its mass is in `actual_g` [g], else as it was started."""
    spec = record.spec
    if spec.driver in actual_g and spec.driver in spec.lines:
        # Weighed, the driving line decides, whatever was asked for at the start.
        return actual_g[spec.driver] / driver_mass_g(spec, record.materials)
    return record.started_factor or 1.0


def dose_reached(line: s.Line, planned_g: float, actual_g: float) -> Message:
    """Returns the dose that a weighed line comes to: “2.30 g on 700 g is 0.329 %”; empty for amounts that are not a dose by weight, and if none was planned.

    base = planned / (percent/100), or planned / ratio [g]; the same base that the amount was computed from.
    """
    amount = line.amount
    if planned_g <= 0:
        return NOTHING
    if isinstance(amount, s.Percent) and amount.basis == "w/w":
        # The base that the percent was of, recovered from the planned mass: it is not stored.
        base = 100.0 * planned_g / amount.percent
        dose = Given(100.0 * actual_g / base, digits=3)
        return message("{mass} on {base} is {dose} %", mass=grams(actual_g), base=grams(base), dose=dose)
    if isinstance(amount, s.Ratio) and amount.basis == "weight":
        base = planned_g / amount.ratio
        return message("{mass} on {base} is {dose} per g", mass=grams(actual_g), base=grams(base), dose=Given(actual_g / base, digits=3))
    return NOTHING


@dataclass
class WeightComparison:
    """Each weight of a batch compared with the one planned from all others, by the rules and the priors of the house.

    `factor` is the multiple of the spec, `vessel_g` the mass of vessels as weighed after a step [g]. Other readings are not used.
    """

    record: BatchRecord
    factor: float
    vessel_g: Mapping[str, float]
    rules: Rules
    priors: Priors
    _evaluations: dict[tuple[str, float], Evaluation] = field(default_factory=dict)

    def _evaluation(self, without: str, factor: float) -> Evaluation:
        """Returns the evaluation with all weights but that of the line `without`; with all of them if it is empty."""
        key = (without, factor)
        if key not in self._evaluations:
            record = self.record
            # All weights but one: what this line was planned as, given everything else that went in.
            actual_g = {line: mass for line, mass in record.actual_g.items() if line != without}
            made = AsMade(factor, actual_g, record.spilled_g, self.vessel_g, frozenset(record.skipped))
            self._evaluations[key] = evaluate(record.spec, record.materials, made, begin=self.priors, rules=self.rules)
        return self._evaluations[key]

    @cached_property
    def deviations(self) -> tuple[Deviation, ...]:
        """Every weighed line whose mass differs from the one planned from all other weights, in the order of weighing."""
        return tuple(found for line in self.record.actual_g if (found := self._deviation(line)))

    def dose(self, line: s.Line) -> Message:
        """Returns the dose that a weighed line came to, in words; empty if its amount is no percent or ratio, or if it is not weighed yet."""
        actual = self.record.actual_g.get(line.id)
        if actual is None or not isinstance(line.amount, s.Percent | s.Ratio):
            return NOTHING
        planned = self._evaluation(line.id, self.factor).flow.masses.get(line.id)
        return dose_reached(line, planned, actual) if planned else NOTHING

    def _deviation(self, line_id: str) -> Deviation | None:
        """Returns the deviation of one weight; None if it is as planned, or if nothing was planned."""
        record = self.record
        line = record.spec.lines.get(line_id)
        if line is None:
            return None
        others = {key: mass for key, mass in record.actual_g.items() if key != line_id}
        before = self._evaluation(line_id, factor_of(record, others))
        planned = before.flow.masses.get(line_id)
        # A line that the spec does not reach has no plan to differ from.
        if planned is None:
            return None
        actual = record.actual_g[line_id]
        share = actual / planned - 1.0 if planned > 0 else math.inf
        # Less than the hand pours by is not told at all; up to `QUIET_SHARE` it is told quietly.
        if abs(share) < NOTABLE_SHARE:
            return None
        after = self._evaluation("", self.factor)
        rescaled = self._rescaled(before, after)
        said = sentences(
            _instead(record.name(line), planned, actual, dose_reached(line, planned, actual)),
            message("Rescaled after it: {lines}.", lines=listed(rescaled)) if rescaled else NOTHING,
            _makes(after) if line_id == record.spec.driver and after.last is not None else _off_goal(record.spec, after, before),
        )
        return Deviation(line_id, planned, actual, said, abs(share) < QUIET_SHARE)

    def _rescaled(self, before: Evaluation, after: Evaluation) -> list[Message]:
        """Returns the lines that are not weighed yet and whose planned mass changed, each in words."""
        record, found = self.record, []
        # Only lines that are still to come are told: what is weighed does not move.
        for key, mass in after.flow.masses.items():
            was = before.flow.masses.get(key)
            if key in record.spec.lines and key not in record.actual_g and was and abs(mass / was - 1.0) > NOTABLE_SHARE:
                name = inside_name(record.spec.lines[key].material, record.materials)
                found.append(message("{material} is now {mass}", material=name, mass=grams(mass)))
        return found


def _instead(name: Message, planned_g: float, actual_g: float, dose: Message) -> Message:
    """Returns a mass and the planned one [g], with the dose that it comes to if it is one."""
    off = Computed(abs(actual_g - planned_g), "g")
    weights: dict[str, Value] = {"material": name, "actual": grams(actual_g), "planned": grams(planned_g), "off": off}
    over = actual_g > planned_g
    if not dose:
        if over:
            return message("{material}: {actual} instead of {planned}, {off} over.", **weights)
        return message("{material}: {actual} instead of {planned}, {off} short.", **weights)
    share = Computed(100.0 * abs(actual_g / planned_g - 1.0), decimals=0)
    if over:
        return message("{material}: {actual} instead of {planned}, {off} over: {dose}, {share} % over.", **weights, dose=dose, share=share)
    return message("{material}: {actual} instead of {planned}, {off} short: {dose}, {share} % short.", **weights, dose=dose, share=share)


def _makes(after: Evaluation) -> Message:
    if after.last is None:
        return NOTHING
    return message("Makes {volume}.", volume=Computed(after.figures[after.last]["volume_ml"] / 1000, "L"))


def _off_goal(spec: s.Spec, after: Evaluation, before: Evaluation) -> Message:
    if after.last is None or before.last is None:
        return NOTHING
    parts = []
    for goal in spec.goals:
        now, was = after.figures[after.last].get(goal.property, 0.0), before.figures[before.last].get(goal.property, 0.0)
        if abs(now - was) > _MOVED_SHARE * goal.tolerance:
            parts.append(message("{now} instead of {was}", now=quantity(goal.property, now), was=quantity(goal.property, was)))
    return message("The batch heads for {figures}.", figures=listed(parts)) if parts else NOTHING
