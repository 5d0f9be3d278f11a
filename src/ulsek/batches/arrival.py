"""Events as they come in: read, credited, and given the time and the place in the order that they can really have."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any

from ulsek.core.base.refusals import Refusal
from ulsek.core.run.device_clocks import MOST_AHEAD, corrected_time, moment, offset_s
from ulsek.core.run.events.catalogue import read_event, read_stored_event
from ulsek.core.run.events.event import Event
from ulsek.team.access import Member

Came = tuple[Event, dict[str, Any]]
"""An event, and its open form as it is kept."""


def _read(data: Any, is_kept: Callable[[str], bool]) -> Event:
    """Returns the event. One that was kept before is read as it was taken in, so that sending it again changes nothing."""
    try:
        return read_event(data)
    except Refusal:
        if not isinstance(data, dict) or not isinstance(data.get("id"), str) or not is_kept(data["id"]):
            raise
        return read_stored_event(data)


def credited(member: Member, items: Iterable[Any], is_kept: Callable[[str], bool], proof: str = "") -> dict[str, Came]:
    """The events by id, credited to the member, with what proves it: the device's own word on who it was, and on what its clock was, is not taken.

    `is_kept` tells by its id whether an event of this run was kept before. Raises Refusal for what is no event, and for a time that is none.
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
    """New events with the times and counters that can be true, in their order. What the device said is kept beside (`said_at`, `said_lamport`), and what was
    done to its time is said (`clock`). Nothing is refused for what a clock shows.

    An event happened between the batch's start and its receipt. Where its clock says otherwise, it is taken to have happened when its device made the
    event before it: no earlier than that, and perhaps much later.
    """
    ahead = offset_s(moment(device_now, "now"), received) if device_now else 0.0
    last = {event.device: (event.sequence, moment(event.at)) for event in sorted(kept, key=lambda event: event.sequence)}
    counter = max((event.lamport for event in kept), default=0)
    most = counter + len(came) + MOST_AHEAD
    found = []
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
