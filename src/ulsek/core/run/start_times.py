"""Start times: when to start a prep so that it is ready in time, back through rests and through the preps that it needs."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..base.messages import NOTHING, Day, Message, message
from ..base.refusals import Refusal
from ..evaluation.evaluate import Evaluation

_DEEPEST = 8


@dataclass(frozen=True, slots=True)
class PrepTimes:
    """One prep: its key as a material, its name, its minutes from start to bottle, the keys of the preps that it needs, and whether it is out of date before it
    is ready.
    """

    key: str
    name: str
    takes_min: float
    draws_on: tuple[str, ...] = ()
    expires_before_ready: bool = False


@dataclass(frozen=True, slots=True)
class StartTime:
    """When to start one prep, when it is ready, for what, and whether that is past."""

    key: str
    name: str
    start_by: datetime
    ready_by: datetime
    needed_for: str
    too_late: bool


def takes_min(evaluation: Evaluation) -> float:
    """Returns the minutes [min] from the first action to the last: every vessel on its own clock, the latest counts. Source: the spec's own times."""
    return max((done.ends_min for done in evaluation.flow.steps), default=0.0)


def expiry_before_ready(evaluation: Evaluation, start: datetime) -> Message:
    """Returns the text for a batch started at `start` whose last day is over before it is ready, by the calendar of `start`; empty if it is in date.

    A rest of ten days in a class of seven: “Ready on 12 Mar, to be used by 08 Mar: …”. Source: the spec's own times, `keeping`.
    """
    history, danger_c = evaluation.history, evaluation.rules.keeping["warm"]["below_c"]
    # By whole days of the calendar, as the label will say.
    counts = (start + timedelta(minutes=history.counted_from_min(danger_c))).date()
    use_by, why = evaluation.keeping.dated(counts)
    ready = (start + timedelta(minutes=history.ends_min)).date()
    if ready <= use_by:
        return NOTHING
    return message("Ready on {ready}, to be used by {use_by}: {why}", ready=Day(ready.isoformat()), use_by=Day(use_by.isoformat()), why=why)


def start_by(wanted: str, at: datetime, now: datetime, made: Mapping[str, PrepTimes], on_shelf: Iterable[str] = ()) -> list[StartTime]:
    """Returns when to start `wanted` and everything that it needs so that it is ready `at`, the first to start first.

    What is `on_shelf` need not be made. A prep that two others need is needed by the earlier. Raises Refusal for unknown preps, for circles, and for what is
    out of date before it is ready.
    """
    have = set(on_shelf)
    ready: dict[str, tuple[datetime, str]] = {}

    def need(key: str, by: datetime, whose: str, depth: int) -> None:
        if depth > _DEEPEST:
            raise Refusal(
                message("“{key}” draws on itself", key=key),
                "spec",
                message("it goes round in a circle"),
                message("Break the circle"),
                "circle",
            )
        item = made.get(key)
        if item is None:
            raise Refusal(
                message("Nothing is known of “{key}”", key=key), "spec", remedy=message("Publish its spec first"), code="unknown_reference"
            )
        if item.expires_before_ready:
            raise Refusal(
                message("{name} is out of date before it is ready", name=item.name),
                "spec",
                remedy=message("Rest it shorter, or show a barrier; its check says which"),
                code="turns_before_ready",
            )
        # The earlier of two needs decides: one batch serves both.
        if key not in ready or by < ready[key][0]:
            ready[key] = (by, whose)
        begins = ready[key][0] - timedelta(minutes=item.takes_min)
        for inner in item.draws_on:
            # What is on the shelf, and what is bought, need not be started.
            if inner in made and inner not in have:
                need(inner, begins, item.name, depth + 1)

    need(wanted, at, "", 0)
    found = [
        StartTime(
            key, made[key].name, by - timedelta(minutes=made[key].takes_min), by, whose, by - timedelta(minutes=made[key].takes_min) < now
        )
        for key, (by, whose) in ready.items()
    ]
    return sorted(found, key=lambda item: (item.start_by, item.key))
