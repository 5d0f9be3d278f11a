"""Faults of a spec as a whole: amounts that go round in a circle or look ahead, streams that nobody makes, vessels that are not there."""

from __future__ import annotations

from ..base.messages import NOTHING, listed, message
from ..base.refusals import Refusal
from ..operations.amounts import VESSEL, Ratio
from .spec import Spec


def reference_faults(spec: Spec) -> list[Refusal]:
    """Ratios to lines that are not there, to themselves, in a circle, or to lines that come later."""
    faults: list[Refusal] = []
    place = {
        line.id: (number, f"steps/{step.id}/lines/{line.id}/amount/to") for number, step in enumerate(spec.steps) for line in step.lines
    }
    order = {line_id: rank for rank, line_id in enumerate(place)}
    for line in spec.lines.values():
        amount = line.amount
        if isinstance(amount, Ratio) and amount.vessel is not None and amount.vessel not in spec.vessels:
            faults.append(
                Refusal(
                    message("There is no vessel “{vessel}”", vessel=amount.vessel),
                    place[line.id][1],
                    remedy=message("Name one of the spec's vessels"),
                    code="unknown_reference",
                )
            )
        if not isinstance(amount, Ratio) or amount.line is None:
            continue
        where = place[line.id][1]
        if amount.line == line.id:
            faults.append(
                Refusal(
                    message("This amount is measured against itself"),
                    where,
                    remedy=message("Measure it against another line"),
                    code="circle",
                )
            )
        elif amount.line not in place:
            faults.append(
                Refusal(
                    message("There is no line “{line}”", line=amount.line),
                    where,
                    remedy=message("Measure it against a line of this spec"),
                    code="unknown_reference",
                )
            )
        else:
            seen, current = [line.id], amount.line
            while current in spec.lines:
                if current in seen:
                    faults.append(
                        Refusal(
                            message("These amounts go round in a circle: {lines}", lines=" → ".join([*seen, current])),
                            where,
                            remedy=message("Give one of them grams"),
                            code="circle",
                        )
                    )
                    break
                seen.append(current)
                onward = spec.lines[current].amount
                current = onward.line if isinstance(onward, Ratio) and onward.line else ""
            else:
                if order[amount.line] > order[line.id] and place[amount.line][0] > place[line.id][0]:
                    faults.append(
                        Refusal(
                            message("This amount is measured against a line that comes later"),
                            where,
                            remedy=message("Move the step, or measure it against an earlier line"),
                            code="later",
                        )
                    )
    return faults


def stream_faults(spec: Spec) -> list[Refusal]:
    """Lines that draw on by-products nobody makes before them, or on vessels that are not there."""
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
