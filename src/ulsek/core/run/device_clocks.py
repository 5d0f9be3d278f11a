"""Clocks of devices: when something happened, from the time that a device recorded: corrected by the offset of its clock, estimated if it cannot be true."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..base.messages import Message, counted, message
from ..base.refusals import Refusal
from .events.event import Event

OFF_S = 2.0
"""A clock this far off [s] counts as right: answers take a moment to come."""
SLACK = timedelta(seconds=60)
"""How far outside what can be true a time may lie before it is taken for wrong."""
MOST_AHEAD = 1000
"""How many events [count] a device may have made that never came, before its counter is taken for wrong."""


@dataclass(frozen=True, slots=True)
class CorrectedTime:
    """A time `at`, and how it was found: "" as recorded, "corrected" by the clock's offset, or "estimated"."""

    at: datetime
    clock: str = ""


def moment(text: str, where: str = "at") -> datetime:
    """Returns the time of an ISO 8601 text with its offset. Raises Refusal for other texts."""
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        raise Refusal(message("“{text}” is no time", text=text), where, message("ISO 8601 with its offset")) from None
    if found.tzinfo is None:
        raise Refusal(message("The time has no offset"), where, message("ISO 8601 with its offset"))
    return found


def clock_notes(events: Iterable[Event]) -> list[Message]:
    """Returns notes on clocks that were wrong in a batch; none if all were right."""
    by_clock = Counter(event.clock for event in events)
    notes = []
    if n := by_clock["corrected"]:
        notes.append(
            counted(
                "A tablet's clock was off: one time was corrected by it.",
                "A tablet's clock was off: {n} times were corrected by it.",
                n,
            )
        )
    if n := by_clock["estimated"]:
        notes.append(
            counted(
                "A tablet's clock cannot have been right: one time was set to the earliest that can be, so that no date comes too late.",
                "A tablet's clock cannot have been right: {n} times were set to the earliest that can be, so that no date comes too late.",
                n,
            )
        )
    return notes


def offset_s(device_now: datetime, received: datetime) -> float:
    """Returns how far a device's clock is ahead [s] when it sends; negative if it is behind. Error: the delay of the request, under a second. Source:
    definition.
    """
    return (device_now - received).total_seconds()


def corrected_time(said: datetime, ahead_s: float, possible: tuple[datetime, datetime], earliest: datetime) -> CorrectedTime:
    """Returns when it happened: `said` less what the clock is `ahead_s` [s], if that is `possible` (from, to); else the `earliest` that it can have been.

    The earliest, because keeping is counted from it. Error: `OFF_S`, or the whole span if it is estimated. A clock a year ahead that says 12:05 next year,
    sending at 12:10, means 12:05 today. Source: definition.
    """
    # An answer takes a moment to come; less than that is no fault of the clock.
    is_off = abs(ahead_s) > OFF_S
    try:
        at = said - timedelta(seconds=ahead_s) if is_off else said
        is_possible = possible[0] - SLACK <= at <= possible[1] + SLACK
    # A clock that stands in the year 1 or 9999 cannot even be corrected.
    except OverflowError:
        return CorrectedTime(earliest, "estimated")
    if not is_possible:
        return CorrectedTime(earliest, "estimated")
    return CorrectedTime(at, "corrected" if is_off else "")
