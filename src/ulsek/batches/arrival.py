"""Events as they arrive: read, credited, and placed in time and order."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any

from ulsek.core.base.refusals import Refusal
from ulsek.core.run.device_clocks import MOST_AHEAD, corrected_time, moment, offset_s
from ulsek.core.run.events.catalogue import read_event, read_stored_event
from ulsek.core.run.events.event import Event
from ulsek.team.access import Member

Came = tuple[Event, Mapping[str, Any]]
"""An event, and its open form as it is kept."""


def _read(data: Any, is_kept: Callable[[str], bool]) -> Event:
    """Returns the event. One that was stored before is read as it was then, so that sending it again changes nothing."""
    try:
        return read_event(data)
    except Refusal:
        if not isinstance(data, dict) or not isinstance(data.get("id"), str) or not is_kept(data["id"]):
            raise
        return read_stored_event(data)


def credited(member: Member, items: Iterable[Any], is_kept: Callable[[str], bool], proof: str = "") -> dict[str, Came]:
    """Returns the events by id, credited to the member, with their proof. What the device says of the person and of its clock is not used.

    `is_kept` returns True for the id of an event of this run that was stored before. Raises Refusal for what is not an event, and for what is not a time.
    """
    found = {}
    for item in items:
        data = {**item, "by": member.person.display_name, "proof": proof} if isinstance(item, dict) else item
        if isinstance(data, dict):
            for name in ("said_at", "said_lamport", "clock"):
                data.pop(name, None)
        event = _read(data, is_kept)
        moment(event.at)
        found[event.id] = (event, data)
    return found


def in_their_time(came: Sequence[Came], kept: Sequence[Event], started: datetime, device_now: str, received: datetime) -> list[Came]:
    """Returns new events with times and counters that can be true, in their order. What the device said is kept (`said_at`, `said_lamport`), with the kind of
    correction (`clock`).

    An event happened between the start of the batch and its receipt. If its clock says otherwise, it is placed at the event that its device made before it, the
    earliest possible time.
    """
    ahead = offset_s(moment(device_now, "now"), received) if device_now else 0.0
    last = {event.device: (event.sequence, moment(event.at)) for event in sorted(kept, key=lambda event: event.sequence)}
    counter = max((event.lamport for event in kept), default=0)
    most = counter + len(came) + MOST_AHEAD
    found: list[Came] = []
    for event, data in sorted(came, key=lambda pair: pair[0].order):
        sequence, before = last.get(event.device, (0, started))
        earliest = max(started, before) if sequence < event.sequence else started
        when = corrected_time(moment(event.at), ahead, (started, received), earliest)
        made, new = event, dict(data)
        if when.clock:
            made = replace(made, at=when.at.isoformat(), said_at=event.at, clock=when.clock)
            new |= {"at": made.at, "said_at": made.said_at, "clock": made.clock}
        if event.lamport > most:
            made = replace(made, lamport=counter + 1)
            new |= {"lamport": made.lamport, "said_lamport": event.lamport}
        counter = max(counter, made.lamport)
        last[event.device] = (event.sequence, when.at)
        found.append((made, new))
    return found
