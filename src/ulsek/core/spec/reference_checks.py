"""Faults of a spec as a whole: amounts that go round in a circle or look ahead, streams that nobody makes, vessels that are not there."""

from __future__ import annotations

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
                    f"There is no vessel “{amount.vessel}”",
                    place[line.id][1],
                    remedy="Name one of the spec's vessels",
                    code="unknown_reference",
                )
            )
        if not isinstance(amount, Ratio) or amount.line is None:
            continue
        where = place[line.id][1]
        if amount.line == line.id:
            faults.append(Refusal("This amount is measured against itself", where, remedy="Measure it against another line", code="circle"))
        elif amount.line not in place:
            faults.append(
                Refusal(
                    f"There is no line “{amount.line}”", where, remedy="Measure it against a line of this spec", code="unknown_reference"
                )
            )
        else:
            seen, current = [line.id], amount.line
            while current in spec.lines:
                if current in seen:
                    faults.append(
                        Refusal(
                            f"These amounts go round in a circle: {' → '.join([*seen, current])}",
                            where,
                            remedy="Give one of them grams",
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
                            "This amount is measured against a line that comes later",
                            where,
                            remedy="Move the step, or measure it against an earlier line",
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
                    Refusal(f"There is no vessel “{name}”", where, remedy="Name one of the spec's vessels", code="unknown_reference")
                )
            elif line.material.startswith(VESSEL) and name == step.vessel:
                faults.append(Refusal("A vessel cannot be poured into itself", where, remedy="Pour it into another", code="circle"))
            elif kind == "by_product" and name not in made:
                faults.append(
                    Refusal(
                        f"No earlier step leaves a by-product “{name}”",
                        where,
                        f"there are {', '.join(sorted(made))}" if made else "",
                        "Name the by-product at the step that makes it",
                        "unknown_reference",
                    )
                )
        if step.by_product:
            made.add(step.by_product)
    return faults
