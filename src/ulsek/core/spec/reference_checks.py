"""Faults of a spec as a whole: amounts in a circle or ahead of their line, streams that no step makes, vessels that do not exist."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ..base.messages import NOTHING, Message, listed, message
from ..base.refusals import Refusal
from ..operations.amounts import VESSEL, Line, Ratio
from .spec import Spec


def _ratio_fault(spec: Spec, line: Line, ratio: Ratio, step_of: Mapping[str, int]) -> tuple[Message, Message, str] | None:
    """Returns (what is wrong, what to do, code) about the line that a ratio refers to; None if it can be computed."""
    if ratio.line is None:
        return None
    if ratio.line == line.id:
        return message("This amount is measured against itself"), message("Measure it against another line"), "circle"
    if ratio.line not in step_of:
        return message("There is no line “{line}”", line=ratio.line), message("Measure it against a line of this spec"), "unknown_reference"
    # Followed along its ratios: the first line that comes back closes the circle.
    seen, current = [line.id], ratio.line
    while current in spec.lines:
        if current in seen:
            circle = " → ".join([*seen, current])
            return message("These amounts go round in a circle: {lines}", lines=circle), message("Give one of them grams"), "circle"
        seen.append(current)
        onward = spec.lines[current].amount
        current = onward.line if isinstance(onward, Ratio) and onward.line else ""
    if step_of[ratio.line] > step_of[line.id]:
        return (
            message("This amount is measured against a line that comes later"),
            message("Move the step, or measure it against an earlier line"),
            "later",
        )
    return None


def reference_faults(spec: Spec) -> Iterator[Refusal]:
    """Yields a refusal for each ratio that refers to no vessel, to no line, to itself, in a circle, or to a line of a later step."""
    step_of = {line.id: number for number, step in enumerate(spec.steps) for line in step.lines}
    for step in spec.steps:
        for line in step.lines:
            amount, where = line.amount, f"steps/{step.id}/lines/{line.id}/amount/to"
            if not isinstance(amount, Ratio):
                continue
            if amount.vessel is not None and amount.vessel not in spec.vessels:
                yield Refusal(
                    message("There is no vessel “{vessel}”", vessel=amount.vessel),
                    where,
                    remedy=message("Name one of the spec's vessels"),
                    code="unknown_reference",
                )
            fault = _ratio_fault(spec, line, amount, step_of)
            if fault is not None:
                what, remedy, code = fault
                yield Refusal(what, where, remedy=remedy, code=code)


def stream_faults(spec: Spec) -> list[Refusal]:
    """Returns a refusal for each line that takes a by-product no step before it makes, or a vessel that does not exist."""
    faults: list[Refusal] = []
    made: set[str] = set()
    for step in spec.steps:
        for line in step.lines:
            where = f"steps/{step.id}/lines/{line.id}/material"
            kind, _, name = line.material.partition(":")
            if line.material.startswith(VESSEL) and name not in spec.vessels:
                faults.append(
                    Refusal(
                        message("There is no vessel “{name}”", name=name),
                        where,
                        remedy=message("Name one of the spec's vessels"),
                        code="unknown_reference",
                    )
                )
            elif line.material.startswith(VESSEL) and name == step.vessel:
                faults.append(
                    Refusal(message("A vessel cannot be poured into itself"), where, remedy=message("Pour it into another"), code="circle")
                )
            elif kind == "by_product" and name not in made:
                faults.append(
                    Refusal(
                        message("No earlier step leaves a by-product “{name}”", name=name),
                        where,
                        message("there are {made}", made=listed(sorted(made), "comma")) if made else NOTHING,
                        message("Name the by-product at the step that makes it"),
                        "unknown_reference",
                    )
                )
        if step.by_product:
            made.add(step.by_product)
    return faults
