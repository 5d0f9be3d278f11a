"""Steps: begun, done, skipped, changed, in another order, or added."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ...base.messages import message
from ...evaluation.flow import flow
from ...evaluation.flow_values import AsMade, Inputs
from ..batch_record import BatchRecord
from ..event_parts import Form, Text, required
from ..spec_as_made import brought_forward, changed_step, with_extra_step, without_skipped
from .event import Event

_STEP = Text(about="the step")


@dataclass(frozen=True, slots=True, kw_only=True)
class StepBegun(Event):
    """The step's time counts from now. A second one changes nothing."""

    kind = "step_begun"

    step: str = required(_STEP)

    def apply(self, record: BatchRecord) -> None:
        # A second beginning changes nothing: the time has been counting since the first.
        record.begun.setdefault(record.step(self.step).id, self.at)


@dataclass(frozen=True, slots=True, kw_only=True)
class StepDone(Event):
    """The step is done, and the next one is at hand."""

    kind = "step_done"

    step: str = required(_STEP)

    def apply(self, record: BatchRecord) -> None:
        step = record.step(self.step).id
        record.begun.setdefault(step, self.at)
        record.done[step] = self.at


@dataclass(frozen=True, slots=True, kw_only=True)
class StepSkipped(Event):
    """As `step_done`; lines of the step that are not weighed stay out."""

    kind = "step_skipped"

    step: str = required(_STEP)

    def apply(self, record: BatchRecord) -> None:
        step = record.step(self.step)
        if step.id in record.done and step.id not in record.skipped:
            record.conflicts.append(
                message(
                    "“{step}” was done, and then skipped by {by}. It counts as skipped; take that back if it was done.",
                    step=record.title(step),
                    by=self.by,
                )
            )
        record.begun.setdefault(step.id, self.at)
        record.done[step.id] = self.at
        record.skipped.add(step.id)
        for line in step.lines:
            # What had been poured of it before it was skipped is in the vessel.
            if so_far := record.so_far_g(line):
                record.actual_g[line.id] = so_far
        record.spec = without_skipped(record.spec, step.id, record.actual_g)


@dataclass(frozen=True, slots=True, kw_only=True)
class StepChanged(Event):
    """The step was done with other parameters, each within the bounds of its verb."""

    kind = "step_changed"

    step: str = required(_STEP)
    changes: Mapping[str, Any] = required(
        Form(about="parameters of the step's verb, as in the spec file", wrong=message("A changed step needs its changes"))
    )

    def apply(self, record: BatchRecord) -> None:
        changed = changed_step(record.step(self.step), self.changes)
        record.spec = replace(record.spec, steps=tuple(changed if item.id == changed.id else item for item in record.spec.steps))


@dataclass(frozen=True, slots=True, kw_only=True)
class StepFirst(Event):
    """The step moves before all that are not done. If it needs what they leave, it stays, and that is shown as a conflict."""

    kind = "step_first"

    step: str = required(_STEP)

    def apply(self, record: BatchRecord) -> None:
        step = record.step(self.step)
        if step.id in record.done:
            return
        moved = brought_forward(record.spec, step.id, record.done)
        # Tried before it is done: a step that needs what another leaves cannot come before it.
        trouble = flow(Inputs(moved, record.materials, AsMade(actual_g=record.actual_g))).refusal
        if trouble and flow(Inputs(record.spec, record.materials, AsMade(actual_g=record.actual_g))).refusal is None:
            record.conflicts.append(message("“{step}” cannot come first: {trouble}", step=record.title(step), trouble=trouble.message))
            return
        by = self.by or message("somebody")
        record.notes.append(message("“{step}” was brought forward by {by}.", step=record.title(step), by=by))
        record.spec = moved


@dataclass(frozen=True, slots=True, kw_only=True)
class StepAdded(Event):
    """A step that the spec does not have, after the last one that is done. Its lines are weighed like any other."""

    kind = "step_added"
    moves_supplies = True

    step: Mapping[str, Any] = required(Form(about="a step as in the spec file", wrong=message("An added step must be a step")))

    def brings(self) -> frozenset[str]:
        lines = self.step.get("lines")
        if not isinstance(lines, list):
            return frozenset()
        return frozenset(str(line["material"]) for line in lines if isinstance(line, dict) and line.get("material"))

    def apply(self, record: BatchRecord) -> None:
        record.spec, step = with_extra_step(self.step, record.spec, record.done, record.materials)
        record.added_steps.add(step)
