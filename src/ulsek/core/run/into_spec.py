"""A batch written as a spec: its weighings as a draft, and its decisions by taste into the draft of its spec."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from copy import deepcopy
from typing import Any

from ..base.messages import message
from ..base.refusals import Refusal
from ..materials.supply import material_of_key
from ..recipe_text.capture import captured
from .state import RunState
from .taste import SettledAmount

_WHOLE_FROM_G = 100.0
"""Mass [g] from which a person writes whole grams. House experience."""


def as_draft(state: RunState, name: str) -> dict[str, Any]:
    """Returns the weighings of a batch, in their order, as the draft of a spec. Raises Refusal for a batch in which nothing was weighed."""
    weighings: list[Mapping[str, object]] = []
    for step in state.spec.steps:
        if step.id not in state.done or step.id in state.skipped:
            continue
        own = {name: getattr(step, name) for name in step.params()}
        figures: Mapping[str, object] = {
            "verb": step.verb,
            **{name: value for name, value in own.items() if isinstance(value, int | float) and not isinstance(value, bool)},
        }
        weighed = [line for line in step.lines if line.id in state.actual_g and not line.own]
        if not weighed and not step.lines:
            weighings.append(figures)
        for n, line in enumerate(weighed):
            # The figures of the step stand with its first weighing: they are those of one step.
            weighings.append({"material": material_of_key(line.material), "mass_g": state.actual_g[line.id], **(figures if n == 0 else {})})
    return captured(name, weighings)


def _written(mass_g: float) -> str:
    """Returns a mass [g] as a person would write it: three figures below 100 g, whole grams above."""
    return f"{mass_g:.3g} g" if mass_g < _WHOLE_FROM_G else f"{mass_g:.0f} g"


def _put(steps: list[Any], settled: SettledAmount, made: RunState) -> None:
    amount = {"kind": "fixed", "written": _written(settled.mass_g)}
    for item in steps:
        for line in item.get("lines", []):
            if settled.line and line["id"] == settled.line:
                line["amount"] = {**line["amount"], **amount}
                return
    if settled.line:
        raise Refusal(
            message("The draft does not have this line any more"),
            f"steps/{settled.line}",
            remedy=message("Change it by hand"),
            code="gone",
        )
    step = next(item for item in made.spec.steps if item.id == settled.step)
    if any(item["id"] == step.id for item in steps):
        raise Refusal(message("The draft has this step already"), f"steps/{step.id}", code="twice")
    before = [item.id for item in made.spec.steps[: made.spec.steps.index(step)]]
    # After the steps that came before it in the batch, wherever the draft has them now.
    at = max((i + 1 for i, item in enumerate(steps) if item["id"] in before), default=0)
    line = {"id": f"{step.id}.{settled.material}", "material": settled.material, "amount": amount}
    steps.insert(at, {"id": step.id, "verb": step.verb, "vessel": step.vessel, "lines": [line], "note": "by taste"})


def with_settled(body: dict[str, Any], settled: Iterable[SettledAmount], made: RunState) -> dict[str, Any]:
    """Returns the open form of a spec with every amount that a batch decided by taste; a step that the batch added comes after those before it.

    Raises Refusal for a line that the form does not have any more, and for a step that it has already.
    """
    changed = deepcopy(body)
    for item in settled:
        _put(changed["steps"], item, made)
    return changed
