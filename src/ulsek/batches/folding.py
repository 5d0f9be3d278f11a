"""Rows of a run as values of the core, and the projection for lists."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from ulsek.core.base.answer import stored_json
from ulsek.core.base.messages import Message, message, stored
from ulsek.core.run.events.catalogue import read_stored_event
from ulsek.core.run.events.event import Event
from ulsek.core.run.fold import fold_pinned
from ulsek.core.run.state import RunState
from ulsek.core.run.waiting import waiting_of
from ulsek.core.spec.sentences import step_title

from .models import Run


def events_of(run: Run) -> list[Event]:
    """Returns the events that count; those after the finish are omitted."""
    return [read_stored_event(data) for data in run.events.filter(late=False).values_list("data", flat=True)]


def folded(run: Run, events: Iterable[Event]) -> RunState:
    """Returns the state of the run, from what it pinned at its start."""
    return fold_pinned(run.snapshot, events)


def supplies_pinned(snapshot: Mapping[str, Any]) -> dict[str, str]:
    """Returns the supply of each material of a run, by the material's key in the run."""
    lots = {key: f"lot:{code}" for key, code in snapshot["lots"].items()}
    return lots | {key: f"delivery:{item}" for key, item in snapshot["stock"].items()}


def _step_at_hand(state: RunState) -> Message:
    if state.current is not None:
        return step_title(state.current, state.materials, first=state.current is state.spec.steps[0], spec=state.spec)
    return message("Finished") if state.status == "finished" else message("All steps done")


def projection(state: RunState, snapshot: Mapping[str, Any]) -> dict[str, Any]:
    """Returns what lists need without folding: the step at hand, its wait, what was taken from which supply, and what the batch takes and makes."""
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
