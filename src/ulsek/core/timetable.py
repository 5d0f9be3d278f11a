"""Timetable: when to start so that it pours in time, back through rests and through the preps that it draws on."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from .evaluate import Evaluation
from .refusals import Refusal

_DEEPEST = 8


@dataclass(frozen=True, slots=True)
class Made:
    """One prep: its key as a material, its name, the minutes that it takes from start to bottle, and the keys of the preps that it draws on."""

    key: str
    name: str
    takes_min: float
    draws_on: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Start:
    """One thing to start: by when, when it is ready, for what, and whether that is past already."""

    key: str
    name: str
    start_by: datetime
    ready_by: datetime
    needed_for: str
    too_late: bool

    def as_data(self) -> dict[str, Any]:
        return {
            **{name: getattr(self, name) for name in self.__slots__},
            "start_by": self.start_by.isoformat(),
            "ready_by": self.ready_by.isoformat(),
        }


def takes_min(evaluation: Evaluation) -> float:
    """Minutes [min] from the first hand to the last: every vessel on its own clock, the latest counts. Source: the spec's own times."""
    return max((done.ends_min for done in evaluation.plain.steps), default=0.0)


def start_by(wanted: str, at: datetime, now: datetime, made: Mapping[str, Made], on_shelf: Iterable[str] = ()) -> list[Start]:
    """By when to start `wanted` and everything below it so that it pours `at`, the first to start first.

    What is `on_shelf` need not be made. A prep that two others need is needed by the earlier. Refuses what is not known, and circles.
    """
    have = set(on_shelf)
    ready: dict[str, tuple[datetime, str]] = {}

    def need(key: str, by: datetime, whose: str, depth: int) -> None:
        if depth > _DEEPEST:
            raise Refusal(f"“{key}” draws on itself", "spec", "it goes round in a circle", "Break the circle", "circle")
        item = made.get(key)
        if item is None:
            raise Refusal(f"Nothing is known of “{key}”", "spec", remedy="Publish its spec first", code="unknown_reference")
        if key not in ready or by < ready[key][0]:
            ready[key] = (by, whose)
        begins = ready[key][0] - timedelta(minutes=item.takes_min)
        for inner in item.draws_on:
            if inner in made and inner not in have:
                need(inner, begins, item.name, depth + 1)

    need(wanted, at, "", 0)
    found = [
        Start(
            key, made[key].name, by - timedelta(minutes=made[key].takes_min), by, whose, by - timedelta(minutes=made[key].takes_min) < now
        )
        for key, (by, whose) in ready.items()
    ]
    return sorted(found, key=lambda item: (item.start_by, item.key))
