"""Learned: what a batch's readings taught of a house's pots, sieves and hands, shown before and after, and begun from the next time.

Fruit differs with every delivery and is not carried on; how a step goes in this house is.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..base.messages import Computed, Message, message
from ..evaluation.estimate import Belief
from ..evaluation.evaluate import Evaluation

Taught = Mapping[str, tuple[float, float]]
"""Where a group stands, and its variance, in half-ranges of its prior."""
KEPT_VARIANCE = 0.12
"""However often it was read, so much of a step's own doubt stays: no two days are alike. House experience, not a standard."""
TOLD_SHARE = 0.93
"""What became surer by less than a fourteenth is not worth telling."""


@dataclass(frozen=True, slots=True)
class Lesson:
    """One doubt before and after this batch, as factors and half-ranges of the same unit; `kept` when the next batch begins from it."""

    group: str
    what: Message
    before: tuple[float, float, float]
    after: tuple[float, float, float]
    kept: bool
    text: Message


def _plain(value: float) -> Computed:
    return Computed(value, decimals=2 if abs(value) < 10 else 1 if abs(value) < 100 else 0)


def lessons(evaluation: Evaluation, began: Taught) -> tuple[Lesson, ...]:
    """What this batch taught, the most telling first. A group of many small things is not told. Source: `Belief.taught`."""
    belief = evaluation.belief
    found: list[tuple[float, Lesson]] = []
    for i, group in enumerate(belief.groups):
        ranges = evaluation.ranges.get(group, ())
        z, variance = belief.mean[i], belief.covariance[i][i]
        z0, variance0 = began.get(group, (0.0, 1.0))
        spread, spread0 = math.sqrt(max(0.0, variance)), math.sqrt(variance0)
        if len(ranges) != 1 or spread > TOLD_SHARE * spread0:
            continue
        before, after = ((ranges[0].at(at - by), ranges[0].at(at), ranges[0].at(at + by)) for at, by in ((z0, spread0), (z, spread)))
        what = evaluation.group_name(group)
        text = message(
            "{what:capital}: {was} ({was_low} to {was_high}) before, {now} ({low} to {high}) now.",
            what=what,
            was=_plain(before[1]),
            was_low=_plain(before[0]),
            was_high=_plain(before[2]),
            now=_plain(after[1]),
            low=_plain(after[0]),
            high=_plain(after[2]),
        )
        found.append((spread / spread0, Lesson(group, what, before, after, group.startswith("step:"), text)))
    return tuple(lesson for _, lesson in sorted(found, key=lambda item: item[0]))


def carried(belief: Belief) -> dict[str, tuple[float, float]]:
    """What the next batch of this spec begins from: its steps, each no surer than `KEPT_VARIANCE`."""
    return {
        group: (belief.mean[i], max(KEPT_VARIANCE, belief.covariance[i][i]))
        for i, group in enumerate(belief.groups)
        if group.startswith("step:") and (belief.mean[i] or belief.covariance[i][i] < 1.0)
    }
