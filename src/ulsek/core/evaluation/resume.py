"""How much of an earlier evaluation of a spec an edit leaves as it was: the steps before the first one that the edit touched."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import takewhile

from ..spec import spec as s
from .flow_values import Inputs


def unchanged_steps(before: Inputs, now: Inputs) -> int:
    """Returns how many steps [count, from the first] give the same flow with both inputs: the same steps, vessels and materials.

    A step whose amount is measured against a line of a later step is counted as changed, because that line may be edited.
    """
    if before.spec.vessels != now.spec.vessels:
        return 0
    places = {line.id: place for place, step in enumerate(now.spec.steps) for line in step.lines}
    pairs = enumerate(zip(before.spec.steps, now.spec.steps, strict=False))
    same = takewhile(lambda pair: pair[1][0] == pair[1][1] and _has_same_sources(pair[1][1], pair[0], places, before, now), pairs)
    return sum(1 for _ in same)


def _has_same_sources(step: s.Step, place: int, places: Mapping[str, int], before: Inputs, now: Inputs) -> bool:
    """Returns True if the lines of a step draw from the same materials, and are measured against no line of a later step."""
    # By identity: whoever evaluates a draft again reads each material once.
    return all(
        before.materials.get(line.material) is now.materials.get(line.material)
        and not (isinstance(line.amount, s.Ratio) and line.amount.line is not None and places.get(line.amount.line, place + 1) > place)
        for line in step.lines
    )
