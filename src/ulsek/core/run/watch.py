"""A step under watch: its readings as points over time, its expected end and its state.

Times are minutes [min] since the step began.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from ..base.answer import HIDDEN, in_answer
from ..base.messages import NOTHING, Message
from .pace import Points, State
from .reading import Reading


@dataclass(frozen=True, slots=True)
class WatchPoint:
    """One reading of a step under watch: its time [min since it began] and value."""

    minutes: float
    value: float


@dataclass(frozen=True, slots=True)
class Watch:
    """A step under watch: the readings to take (`reads`, in `unit`), from `start` to `target`; the `points` so far; when it is expected to end (least, best,
    most minutes; None if that is unknown); the moments to look; its state, what that means and what to do.
    """

    kind: str
    reads: tuple[str, ...]
    unit: str
    start: float
    target: float
    points: tuple[WatchPoint, ...]
    expected_min: tuple[float, float, float] | None
    moments_min: tuple[float, ...]
    state: State
    text: Message
    advice: Message = NOTHING
    warns: bool = False
    changes: Mapping[str, float | None] | None = None
    wait_min: float = field(default=0.0, metadata=HIDDEN)

    @property
    def followed(self) -> bool:
        """True if readings of it are drawn on its way to the target; those of an enzyme only tell how warm it is."""
        return bool(self.reads) and self.kind != "enzyme"

    @property
    @in_answer()
    def charted(self) -> bool:
        """True if a chart of its readings is shown. A step with a fixed waiting time shows a countdown until its first reading."""
        return self.followed and (bool(self.points) or not self.wait_min)

    @property
    @in_answer()
    def rings_at_min(self) -> float | None:
        """Time of the alarm [min since it began]: at once if the target is reached or passed, for a reduction when it is expected; None if that is unknown."""
        # It rings for what needs a hand: a pot burns on, a thaw does not.
        if self.state in ("there", "past"):
            return 0.0
        return self.expected_min[1] if self.kind == "reduction" and self.expected_min else None

    @property
    @in_answer()
    def over_at_min(self) -> float | None:
        """Returns the waiting time [min since it began] of a step that ends by time alone, while it goes on; None for steps that end by a reading."""
        return self.wait_min if self.state == "going" and not self.reads and self.wait_min else None

    @property
    @in_answer()
    def figure(self) -> float:
        """The one figure to show large, in `unit`: the last reading of a probe while it cools, else the difference to the target."""
        now = self.points[-1].value if self.points else self.start
        return now if self.kind == "cooling" else abs(self.target - now)


def minutes_between(begun: str, at: str) -> float:
    """Returns the minutes [min] from one moment to another (ISO 8601 with offset), at least 0, because clocks differ."""
    return max(0.0, (datetime.fromisoformat(at) - datetime.fromisoformat(begun)).total_seconds() / 60.0)


def points_of(begun: str, reads: Sequence[Reading], of: Mapping[str, Callable[[float], float]]) -> Points:
    """Returns the readings whose property is in `of`, converted by it, as (minutes since `begun`, value), in order of time."""
    # A conversion may have no finite answer, such as the mass at a reading of 0 °Bx.
    found = [(minutes_between(begun, reading.at), of[reading.property](reading.value)) for reading in reads if reading.property in of]
    return tuple(sorted((at, value) for at, value in found if math.isfinite(value)))


def shown(points: Points) -> tuple[WatchPoint, ...]:
    """Returns the points as the answer holds them."""
    return tuple(WatchPoint(at, value) for at, value in points)
