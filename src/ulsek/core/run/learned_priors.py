"""Priors learned from a batch: what its readings tell of a house's pots and sieves, shown before and after, as the start of the next batch.

Only groups of steps are carried on: fruit differs with every delivery.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..base.messages import Computed, Message, message
from ..evaluation.estimate import Estimate, Priors
from ..evaluation.evaluate import Evaluation
from ..evaluation.group_key import step_group

KEPT_VARIANCE = 0.12
"""However often it was read, so much of a step's own doubt stays: no two days are alike. House experience, not a standard."""
TOLD_SHARE = 0.93
"""What became surer by less than a fourteenth is not worth telling."""


_TENS, _HUNDREDS = 10.0, 100.0
"""Three figures are shown: two decimals below ten, one below a hundred."""


@dataclass(frozen=True, slots=True)
class Lesson:
    """One uncertain input before and after this batch: (low, best, high) in its own unit; `kept` is True if the next batch begins from it."""

    group: str
    what: Message
    before: tuple[float, float, float]
    after: tuple[float, float, float]
    kept: bool
    text: Message


def _plain(value: float) -> Computed:
    return Computed(value, decimals=2 if abs(value) < _TENS else 1 if abs(value) < _HUNDREDS else 0)


def lessons(evaluation: Evaluation, began: Priors) -> tuple[Lesson, ...]:
    """Returns what this batch taught, the largest narrowing first. The bundle of small groups is omitted. Source: `Estimate.updated`."""
    estimate = evaluation.estimate
    found: list[tuple[float, Lesson]] = []
    for i, group in enumerate(estimate.groups):
        ranges = evaluation.ranges.get(group, ())
        z, variance = estimate.mean[i], estimate.covariance[i][i]
        z0, variance0 = began.get(group, (0.0, 1.0))
        spread, spread0 = math.sqrt(max(0.0, variance)), math.sqrt(variance0)
        # A group of several figures has no one unit to be told in.
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
        found.append((spread / spread0, Lesson(str(group), what, before, after, group.kind == "step", text)))
    return tuple(lesson for _, lesson in sorted(found, key=lambda item: item[0]))


def carried(estimate: Estimate) -> Priors:
    """Returns the priors of the next batch of this spec: its groups of steps, with a variance of at least `KEPT_VARIANCE`."""
    return {
        # Readings of one batch must not make a group surer than the differences between days allow.
        group: (estimate.mean[i], max(KEPT_VARIANCE, estimate.covariance[i][i]))
        for i, group in enumerate(estimate.groups)
        if group.kind == "step" and (estimate.mean[i] or estimate.covariance[i][i] < 1.0)
    }


def stored_priors(priors: Priors) -> dict[str, tuple[float, float]]:
    """Returns priors in the form in which they are stored: (mean, variance) by the text of the group, such as "step:s2"."""
    return {str(group): values for group, values in priors.items()}


def read_priors(stored: Mapping[str, Sequence[float]]) -> Priors:
    """Returns priors from their stored form. Raises ValueError for the key of any other group than that of a step."""
    return {step_group(text): (float(mean), float(variance)) for text, (mean, variance) in stored.items()}
