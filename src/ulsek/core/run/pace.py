"""Rate of a step under watch by its readings, its expected end, and their text."""

from __future__ import annotations

import math
from typing import Literal

from ..base.messages import Computed, Message, message
from ..base.ranges import NORMAL_95

State = Literal["going", "near", "there", "past"]
Points = tuple[tuple[float, float], ...]
THERE, NEAR_MIN = 0.02, 5.0
"""Within 2 % of where it should stop it is there; with less than five minutes to go, near."""
ONE_POINT, _LEAST = 0.25, 0.08
"""How unsure a pace is that one reading shows, and at least, however many; house experience."""


_SLOWEST, _NOTHING = 0.2, 1e-9
"""Slowest share of its pace that a step is expected at, and a target that counts as nothing."""


def pace(start: float, points: Points) -> tuple[float, float]:
    """Returns the change per minute by least squares through the beginning and every point, and its relative half-range. 2000 g, after 10 min 1800: −20 g/min ±
    25 %.

    Error: the rate of a pot changes with its content, so the half-range is at least 8 %. Source: ordinary least squares.
    """
    # The beginning is a point like any other: it was weighed too.
    all_points = ((0.0, start), *points)
    middle_t = math.fsum(t for t, _ in all_points) / len(all_points)
    middle_y = math.fsum(y for _, y in all_points) / len(all_points)
    spread = math.fsum((t - middle_t) ** 2 for t, _ in all_points)
    # A reading at the very beginning tells no pace.
    if spread <= 0:
        return 0.0, ONE_POINT
    slope = math.fsum((t - middle_t) * (y - middle_y) for t, y in all_points) / spread
    if len(points) < 2 or slope == 0:
        return slope, ONE_POINT
    # What the line leaves of the readings, per degree of freedom, gives the error of its slope.
    left = math.fsum((y - middle_y - slope * (t - middle_t)) ** 2 for t, y in all_points)
    error = math.sqrt(left / max(1, len(all_points) - 2) / spread)
    return slope, max(_LEAST, NORMAL_95 * error / abs(slope))


def expected_at(start: float, target: float, points: Points, prior: tuple[float, float, float] | None) -> tuple[float, float, float] | None:
    """Returns when the target is reached [min since the step began]: least, best and most; those of the prior without readings, None if the rate leads away
    from it.
    """
    if not points:
        return prior
    # From the last reading on, at the pace of all of them: a single pour off the line does not move the end.
    slope, unsure = pace(start, points)
    at, value = points[-1]
    left = target - value
    # It moves away from the target, or not at all: then it never arrives, unless it is there.
    if slope == 0 or left / slope < 0:
        return (at, at, at) if abs(left) <= THERE * max(abs(target), 1.0) else None
    best = left / slope
    return at + best / (1 + unsure), at + best, at + best / max(_SLOWEST, 1 - unsure)


def state_of(target: float, points: Points, expected: tuple[float, float, float] | None, *, falls: bool) -> State:
    """Returns whether the last reading is on its way to the target, near it, there or past it; `falls` is True for a figure that decreases to it."""
    if not points:
        return "going"
    at, value = points[-1]
    # Relative to the target, with the sign that counts: positive is still to go.
    share = (value - target) / max(abs(target), _NOTHING) * (1 if falls else -1)
    if share < -THERE:
        return "past"
    if share <= THERE:
        return "there"
    return "near" if expected and expected[1] - at <= NEAR_MIN else "going"


def minutes_left(expected: tuple[float, float, float] | None, points: Points) -> Message:
    """Returns the text of the remaining time."""
    if not expected:
        return message("read it once, and the rest is told")
    # Counted from the last reading, which is when the person looked.
    since = points[-1][0] if points else 0.0
    low, best, high = (max(0.0, part - since) for part in expected)
    return message(
        "{best} more ({low} to {high})", best=Computed(best, "min", 0), low=Computed(low, decimals=0), high=Computed(high, decimals=0)
    )
