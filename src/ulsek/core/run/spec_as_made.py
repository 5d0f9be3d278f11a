"""The spec as it was made: steps changed, skipped, moved or added, another material on a line, a repair as a step."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from ..base.messages import listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..materials.material import Material
from ..operations.step import ChoiceParam, FlagParam, NumberParam, RangeParam
from ..spec import spec as s
from ..spec.json_form import read_spec
from .repair import RepairAddition


def changed_step(step: s.Step, changes: Mapping[str, Any]) -> s.Step:
    """Returns the step as it was done. Raises Refusal for parameters that its verb does not have, and for figures out of bounds."""
    params = step.params()
    values: dict[str, Any] = {}
    for name, value in sorted(changes.items()):
        where = f"body/changes/{name}"
        if name not in params:
            raise Refusal(message("This step has no “{name}” to change", name=name), where)
        param = params[name]
        if value is None and getattr(param, "optional", False):
            values[name] = None
        elif isinstance(param, NumberParam):
            if isinstance(value, bool) or not isinstance(value, int | float) or not param.low <= value <= param.high:
                raise Refusal(message("{value} cannot be", value=value), where, param.words, code="out_of_bounds")
            values[name] = float(value)
        elif isinstance(param, RangeParam):
            values[name] = Range.read(value, where, ceiling=param.ceiling)
        elif isinstance(param, ChoiceParam) and value not in param.allowed:
            raise Refusal(
                message("“{value}” is not known here", value=value),
                where,
                message("choose one of {allowed}", allowed=listed(param.allowed, "comma")),
            )
        elif isinstance(param, FlagParam) and not isinstance(value, bool):
            raise Refusal(message("“{value}” is neither yes nor no", value=value), where, code="unreadable")
        else:
            values[name] = value
    return replace(step, **values)


def brought_forward(spec: s.Spec, step_id: str, done: Mapping[str, str]) -> s.Spec:
    """Returns the spec with a step moved before everything that is not done yet."""
    moved = next(step for step in spec.steps if step.id == step_id)
    rest = [step for step in spec.steps if step.id != step_id]
    at = next((i for i, step in enumerate(rest) if step.id not in done), len(rest))
    return replace(spec, steps=(*rest[:at], moved, *rest[at:]))


def without_skipped(spec: s.Spec, step_id: str, actual_g: Mapping[str, float]) -> s.Spec:
    """Returns the spec without what a skipped step would have added; what was weighed before it was skipped stays in the vessel."""
    return replace(
        spec,
        steps=tuple(
            replace(step, lines=tuple(line for line in step.lines if line.id in actual_g)) if step.id == step_id else step
            for step in spec.steps
        ),
    )


def in_its_place(spec: s.Spec, line_id: str, material: str) -> s.Spec:
    """Returns the spec with another material on one line, at the same mass."""
    return replace(
        spec,
        steps=tuple(
            replace(step, lines=tuple(replace(line, material=material) if line.id == line_id else line for line in step.lines))
            for step in spec.steps
        ),
    )


def with_repair(
    spec: s.Spec, step_id: str, additions: Iterable[RepairAddition], done: Mapping[str, str], materials: Mapping[str, Material]
) -> s.Spec:
    """Returns the spec with the additions as a step of its own, before the first cooling or bottling that is not done.

    Raises Refusal for a material that is not described.
    """
    lines = tuple(s.Line(item.line, item.material, s.Fixed(item.mass_g, "mass", "", scales=False)) for item in additions)
    for line in lines:
        if line.material not in materials:
            raise Refusal(
                message("Nothing is known about “{material}”", material=line.material),
                "body/additions",
                remedy=message("Choose a material of this spec"),
            )
    # Before cooling and bottling, where it can still be stirred in.
    places = [i for i, step in enumerate(spec.steps) if step.ends and step.id not in done]
    at = places[0] if places else len(spec.steps)
    vessel = spec.steps[max(0, at - 1)].vessel
    step = s.Combine(step_id, vessel, lines, "the repair that was taken")
    return replace(spec, steps=(*spec.steps[:at], step, *spec.steps[at:]))


def with_extra_step(
    form: Mapping[str, Any], spec: s.Spec, done: Mapping[str, str], materials: Mapping[str, Material]
) -> tuple[s.Spec, str]:
    """Returns the spec with the step of `form` (as in the spec file) after the last step that is done, and the step's id.

    Raises Refusal for a step that cannot be read, an id that the spec has already, and a material that is not described.
    """
    # Read as a spec of one step, so that a step on a tablet obeys the same rules as one in a file.
    shown = {"format": "ulsek.spec", "version": 1, "vessels": [{"id": key, "name": item.name} for key, item in spec.vessels.items()]}
    read = read_spec({**shown, "steps": [form]})
    step = read.steps[0]
    if step.id in {item.id for item in spec.steps} or set(read.lines) & set(spec.lines):
        raise Refusal(
            message("“{step}” stands there already", step=step.id),
            "body/step/id",
            remedy=message("Give the step another name"),
            code="twice",
        )
    unknown = [line.material for line in step.lines if line.material not in materials]
    if unknown:
        raise Refusal(
            message("Nothing is known about “{unknown}”", unknown=unknown[0]),
            "body/step",
            remedy=message("Describe it in Stores first"),
            code="unknown_reference",
        )
    at = max((i + 1 for i, item in enumerate(spec.steps) if item.id in done), default=0)
    return replace(spec, steps=(*spec.steps[:at], step, *spec.steps[at:])), step.id
