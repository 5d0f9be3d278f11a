"""The state of a run: its steps done, its next step and line, and its evaluation with the weights so far."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

from ..base.figures import quantity, with_half_range
from ..base.messages import NOTHING, Message, listed, message
from ..evaluation.estimate import Priors
from ..evaluation.evaluate import Evaluation
from ..materials.material import Material
from ..materials.supply import material_of_key
from ..spec import spec as s
from .batch_record import BatchRecord
from .deviations import Deviation, WeightComparison
from .device_clocks import clock_notes
from .end_point_watch import watch_of
from .events.event import Event
from .finish import suggested_ml
from .reading_check import ReadingCheck
from .repair import Repair
from .taste import SettledAmount, settled_in_spec
from .watch import Watch


def place_of(evaluation: Evaluation, actual_g: Mapping[str, float], done: Mapping[str, str]) -> int | None:
    """Returns the index of the last step that is done or whose lines are all weighed; None if there is none."""
    found = None
    for i, flow in enumerate(evaluation.flow.steps):
        lines = flow.step.lines
        if flow.step.id in done or (lines and all(line.id in actual_g for line in lines)):
            found = i
    return found


@dataclass
class RunState:
    """The state of one batch after its events. Built by `fold`."""

    written: s.Spec
    record: BatchRecord
    events: Sequence[Event]
    factor: float
    evaluation: Evaluation
    priors: Priors
    readings: tuple[ReadingCheck, ...] = ()
    repairs: tuple[Repair, ...] = ()
    vessel_g: Mapping[str, float] = field(default_factory=dict)
    """Mass of the vessel's content as weighed after a step [g], by step."""
    passed_over: tuple[str, ...] = ()
    """Ids of the events that do not count: those that were taken back, and what took them back."""

    @property
    def spec(self) -> s.Spec:
        """The spec as it was made so far."""
        return self.record.spec

    @property
    def materials(self) -> Mapping[str, Material]:
        """The materials of the run, by key."""
        return self.record.materials

    @property
    def actual_g(self) -> Mapping[str, float]:
        """Mass in of each line [g]."""
        return self.record.actual_g

    @property
    def spilled_g(self) -> Mapping[str, float]:
        """Mass that left after a step [g], by step."""
        return self.record.spilled_g

    @property
    def done(self) -> Mapping[str, str]:
        """When each step was done [ISO 8601 with offset]."""
        return self.record.done

    @property
    def begun(self) -> Mapping[str, str]:
        """When each step was begun [ISO 8601 with offset]."""
        return self.record.begun

    @property
    def skipped(self) -> set[str]:
        """Ids of the steps that were skipped."""
        return self.record.skipped

    @property
    def handed_to(self) -> Sequence[str]:
        """Names of the people to whom the batch was handed over, in order."""
        return self.record.handed_to

    @property
    def supplies(self) -> Mapping[str, str]:
        """The supply named for each line; lines without one are omitted."""
        return self.record.supplies

    def taken_g(self, supply_of: Mapping[str, str]) -> dict[str, float]:
        """Returns the mass [g] weighed from each supply. `supply_of` maps the key of a material in this run to its supply; materials without one are omitted."""
        found: dict[str, float] = {}
        for line in self.spec.lines.values():
            for key, mass in self.record.parts_g(line):
                supply = supply_of.get(key)
                if supply is not None and mass > 0:
                    found[supply] = found.get(supply, 0.0) + mass
        return found

    @property
    def taken_keys(self) -> set[str]:
        """The keys of all materials and supplies that the lines are taken from."""
        return {key for line in self.spec.lines.values() for key in (line.material, *(key for key, _ in self.record.parts_g(line)))}

    @property
    def batch_g(self) -> dict[str, float]:
        """Mass of each material in the whole batch [g], weighed or planned, over all supplies."""
        masses = self.evaluation.flow.masses
        found: dict[str, float] = {}
        for line in self.spec.lines.values():
            if not line.own and line.id in masses:
                material = material_of_key(line.material)
                found[material] = found.get(material, 0.0) + masses[line.id]
        return found

    @property
    def batch_ml(self) -> float:
        """Volume of the product [mL]; 0 if nothing is made."""
        last = self.evaluation.last
        return self.evaluation.figures[last]["volume_ml"] if last is not None else 0.0

    @property
    def bottled_ml(self) -> float | None:
        """Volume that was bottled [mL], as read at the finish, else as predicted; None for an open batch."""
        if self.status == "open":
            return None
        return suggested_ml(self.evaluation) if self.record.bottled_ml is None else self.record.bottled_ml

    @property
    def notes(self) -> Sequence[Message]:
        """Notes of the batch, with those on clocks that were wrong."""
        return [*self.record.notes, *clock_notes(self.events)]

    @property
    def status(self) -> Literal["open", "finished"]:
        """ "open", or "finished"."""
        return self.record.status

    @property
    def current(self) -> s.Step | None:
        """The first step that is not done; None after the last."""
        return next((step for step in self.spec.steps if step.id not in self.done), None)

    @property
    def bottle(self) -> s.Bottle:
        """How it is bottled; with the verb's usual figures if the spec has no such step."""
        return next((step for step in self.spec.steps if isinstance(step, s.Bottle)), s.Bottle("bottle", ""))

    @property
    def next_line(self) -> s.Line | None:
        """The first line of the current step that is not weighed; None if all are."""
        step = self.current
        return next((line for line in step.lines if line.id not in self.actual_g), None) if step else None

    @property
    def sample_due(self) -> s.Step | None:
        """The step whose sample is to be set aside now: the last one done in the vessel of the current step; None if it asks for none, or has it."""
        step = self.current
        if step is None:
            return None
        before = [
            item for item in self.spec.steps[: self.spec.steps.index(step)] if item.vessel == step.vessel and item.id not in self.skipped
        ]
        last = before[-1] if before else None
        return last if last is not None and last.keep_sample and last.id not in self.record.sampled else None

    @cached_property
    def watch(self) -> Watch | None:
        """The end-point watch of the current step; None if it has not begun or is not monitored."""
        step = self.current
        done = next((item for item in self.evaluation.flow.steps if step is not None and item.step.id == step.id), None)
        if step is None or done is None or step.id not in self.begun:
            return None
        return watch_of(done, self.begun[step.id], self.record.watched.get(step.id, ()), self.evaluation.rules.keeping)

    @property
    def repair_at_hand(self) -> Repair | None:
        """The repair to ask for now; None while a pot is boiling, because its end is not known. One that was put off is asked for again before the batch is
        cooled or bottled.
        """
        if self.watch is not None and self.watch.charted and self.watch.state != "there":
            return None
        offered = next((repair for repair in self.repairs if repair.state == "offered"), None)
        if offered is not None or self.current is None or not self.current.ends:
            return offered
        return next((repair for repair in self.repairs if repair.state == "put off"), None)

    @property
    def touched(self) -> s.Step | None:
        """The step after which the vessel at hand is as it is now: the current one if one of its lines is in, else the last one that is done."""
        step = self.current
        if step is not None and any(line.id in self.actual_g for line in step.lines):
            return step
        done = [item for item in self.spec.steps if item.id in self.done and item.id not in self.skipped]
        return done[-1] if done else step

    @cached_property
    def weights(self) -> WeightComparison:
        """The weights compared with those that were planned."""
        return WeightComparison(self.record, self.factor, self.vessel_g, self.evaluation.rules, self.priors)

    @property
    def deviations(self) -> tuple[Deviation, ...]:
        """Every weighed line whose mass differs from the one planned from all other weights, in the order of weighing."""
        return self.weights.deviations

    @property
    def place(self) -> int | None:
        """Index of the last step that is done or whose lines are all weighed; None if there is none."""
        return place_of(self.evaluation, self.actual_g, self.done)

    @property
    def settled(self) -> tuple[SettledAmount, ...]:
        """Every amount that was decided by taste, for the next version of the spec."""
        names = {key: item.name for key, item in self.materials.items()}
        return settled_in_spec(self.written, self.spec, self.actual_g, self.record.added_steps, self.factor, names)

    @property
    def off_spec(self) -> Message:
        """A sentence on each goal that the product misses by more than its tolerance; empty if it misses none."""
        if self.evaluation.last is None:
            return NOTHING
        figures = self.evaluation.figures[self.evaluation.last]
        off = [goal for goal in self.spec.goals if abs(figures.get(goal.property, 0.0) - goal.value) > goal.tolerance]
        parts = [
            message(
                "{now} instead of {goal}",
                now=quantity(goal.property, figures.get(goal.property, 0.0)),
                goal=with_half_range(goal.property, goal.value, goal.tolerance),
            )
            for goal in off
        ]
        return message("Outside its spec: {figures}.", figures=listed(parts)) if parts else NOTHING
