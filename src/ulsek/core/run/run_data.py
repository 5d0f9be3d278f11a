"""A run as JSON, for screens, files and the command line."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..results.evaluation_data import evaluation_data
from ..spec import spec as s
from ..spec.sentences import material_name, step_title
from .batch_record import Taste
from .end_point_watch import is_watched
from .learned_priors import lessons
from .reading_check import volume_expected_ml
from .state import RunState
from .taste import settled_in_spec, taste_advice

LABELLED_WAIT_MIN = 15.0
"""A vessel that waits longer [min] is left alone, and wants a label. House experience."""


def _taste_data(state: RunState, taste: Taste) -> dict[str, Any]:
    done = next((item for item in state.evaluation.plain.steps if item.step.id == taste.step), None)
    return {**taste.as_data(), "advice": taste_advice(taste.verdict, taste.share, done)}


def _known_ahead(state: RunState, line: s.Line) -> bool:
    """Returns True if the line's mass follows from masses alone, so that it can be weighed before its step; False for percents of a vessel, targets and by-products."""
    seen: set[str] = set()
    while isinstance(line.amount, s.Ratio) and line.amount.line in state.spec.lines and line.id not in seen:
        seen.add(line.id)
        line = state.spec.lines[line.amount.line]
    return isinstance(line.amount, s.Fixed) and not line.own


def _step_data(state: RunState, step: s.Step, position: int, planned: Mapping[str, Any]) -> dict[str, Any]:
    progress = "skipped" if step.id in state.skipped else "done" if step.id in state.done else "now" if step is state.current else "later"
    return {
        "id": step.id,
        "verb": step.verb,
        "title": step_title(step, state.materials, first=position == 0, spec=state.spec),
        "note": step.note,
        "check": step.check,
        "vessel": step.vessel,
        "state": progress,
        "begun_at": state.begun.get(step.id),
        "done_at": state.done.get(step.id),
        "minutes": step.waiting_min or None,
        "watched": is_watched(step),
        "wants_label": step.waiting_min >= LABELLED_WAIT_MIN,
        "extra": step.id in state.record.extra,
        "sample": {"wanted": step.keep_sample, "mass_g": state.record.sampled.get(step.id)},
        "lines": [
            {
                "id": line.id,
                "material": line.material,
                "supply": state.supplies.get(line.id),
                "name": material_name(line.material, state.materials, spec=state.spec),
                "planned_g": planned.get(line.id),
                "actual_g": state.actual_g.get(line.id),
                "parts": [{"material": key, "mass_g": mass} for key, mass in state.record.parts_g(line)]
                if line.id in state.record.poured
                else [],
                "so_far_g": state.record.so_far_g(line),
                "ahead": _known_ahead(state, line),
                "dose": state.weights.dose(line),
            }
            for line in step.lines
        ],
    }


def run_data(state: RunState) -> dict[str, Any]:
    """Returns the state of a run as JSON values: its steps and lines with planned and weighed grams [g], its evaluation, readings and repairs."""
    step, line = state.current, state.next_line
    result = evaluation_data(state.evaluation)
    planned = {added["line"]: added["mass_g"] for flow_step in result["steps"] for added in flow_step["added"]}
    return {
        "status": state.status,
        "factor": state.factor,
        "current": {"step": step.id if step else None, "line": line.id if line else None},
        "steps": [_step_data(state, item, i, planned) for i, item in enumerate(state.spec.steps)],
        "place": state.place,
        "evaluation": result,
        "deviations": [item.as_data() for item in state.deviations],
        "readings": [item.as_data() for item in state.readings],
        "repairs": [item.as_data() for item in state.repairs],
        "notes": list(state.notes),
        "watch": state.watch.as_data() if state.watch else None,
        "hands": list(state.hands),
        "tastes": [_taste_data(state, taste) for taste in state.record.tastes],
        "lessons": [item.as_data() for item in lessons(state.evaluation, state.began)],
        "off_spec": state.off_spec,
        "expected_ml": expected.as_data() if (expected := volume_expected_ml(state.evaluation)) else None,
        "conflicts": [*state.record.conflicts, *(words for _, words in state.record.past_use_by.values())],
        "settled": settled_in_spec(
            state.written,
            state.spec,
            state.actual_g,
            state.record.extra,
            state.factor,
            {key: item.name for key, item in state.materials.items()},
        ),
    }
