"""A run's rows turned into the core's values, and the projection that lists show."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import timedelta
from typing import Any

from ulsek.core.base.answer import stored_json
from ulsek.core.base.messages import Message, Word, alone, message, stored
from ulsek.core.materials.supply import material_of_key
from ulsek.core.recipe_text.capture import captured
from ulsek.core.run.device_clocks import moment
from ulsek.core.run.events.catalogue import read_stored_event
from ulsek.core.run.events.event import Event
from ulsek.core.run.fold import fold_pinned
from ulsek.core.run.state import RunState
from ulsek.core.spec.sentences import step_title
from ulsek.core.spec.spec import Bottle

from .models import Run
from .schemas import Waiting


def events_of(run: Run) -> list[Event]:
    """The events that count: those that came after the finish are kept beside them."""
    return [read_stored_event(data) for data in run.events.filter(late=False).values_list("data", flat=True)]


def folded(run: Run, events: Iterable[Event]) -> RunState:
    """Where the run stands, from what it pinned at its start."""
    return fold_pinned(run.snapshot, events)


def supplies_pinned(snapshot: Mapping[str, Any]) -> dict[str, str]:
    """The supply that a run takes each material from, by the material's key in the run."""
    lots = {key: f"lot:{code}" for key, code in snapshot["lots"].items()}
    return lots | {key: f"delivery:{item}" for key, item in snapshot["stock"].items()}


def waiting_of(state: RunState) -> Waiting | None:
    """What the step at hand waits for, since when and until when; none while it needs hands."""
    step = state.current
    if step is None or step.waiting_min <= 0 or step.id not in state.begun:
        return None
    begun = moment(state.begun[step.id])
    due = begun + timedelta(minutes=step.waiting_min)
    return Waiting(since=begun, until=due, kind=step.verb, family=step.family, doing=alone(Word("verbs", step.verb, form="doing")))


def _step_at_hand(state: RunState) -> Message:
    if state.current is not None:
        return step_title(state.current, state.materials, first=state.current is state.spec.steps[0], spec=state.spec)
    return message("Finished") if state.status == "finished" else message("All steps done")


def projection(state: RunState, snapshot: Mapping[str, Any]) -> dict[str, Any]:
    """What lists need without folding again: the step, what it waits for until when, and what is gone out of which supply,
    and what the batch takes and makes."""
    step = state.current
    steps = state.spec.steps
    return {
        "step": stored(_step_at_hand(state)),
        "number": steps.index(step) + 1 if step else len(steps),
        "of": len(steps),
        "waiting": stored_json(waiting_of(state)),
        "taken_g": {} if state.status == "finished" else state.taken_g(supplies_pinned(snapshot)),
        "batch_g": state.batch_g,
        "batch_ml": state.batch_ml,
        "last": state.events[-1].by if state.events else "",
    }


def as_draft(run: Run, name: str) -> dict[str, Any]:
    """What was really weighed in a run, in its order, as the draft of a spec. Refuses a run in which nothing was weighed."""
    state = folded(run, events_of(run))
    weighings: list[dict[str, Any]] = []
    for step in state.spec.steps:
        if step.id not in state.done or step.id in state.skipped:
            continue
        own = {name: getattr(step, name) for name in step.params()}
        figures = {
            "verb": step.verb,
            **{name: value for name, value in own.items() if isinstance(value, int | float) and not isinstance(value, bool)},
        }
        weighed = [line for line in step.lines if line.id in state.actual_g and not line.own]
        if not weighed and not step.lines:
            weighings.append(figures)
        for n, line in enumerate(weighed):
            weighings.append({"material": material_of_key(line.material), "mass_g": state.actual_g[line.id], **(figures if n == 0 else {})})
    return captured(name, weighings)


def bottle_of(state: RunState) -> Bottle:
    return next((step for step in state.spec.steps if isinstance(step, Bottle)), Bottle("bottle", ""))
