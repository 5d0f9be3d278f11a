"""Every kind of event, and the reader that chooses among them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, get_args

from ...base.messages import listed, message
from ...base.refusals import Refusal
from .amounts import Counted, Dosed, Measured, Sampled, Spilled, Weighed
from .batch import Finished, HandedOver, Noted, Started, Undone
from .event import Event
from .readings import Read, Tasted
from .repairs import RepairPutOff, RepairRefused, RepairTaken
from .steps import StepAdded, StepBegun, StepChanged, StepDone, StepFirst, StepSkipped
from .supplies import TakenFrom, WentOn, WrongJar

AnyEvent = (
    Started
    | HandedOver
    | Noted
    | Undone
    | Finished
    | Weighed
    | Counted
    | Measured
    | Dosed
    | Spilled
    | Sampled
    | TakenFrom
    | WentOn
    | WrongJar
    | Read
    | Tasted
    | StepBegun
    | StepDone
    | StepChanged
    | StepSkipped
    | StepFirst
    | StepAdded
    | RepairPutOff
    | RepairRefused
    | RepairTaken
)
EVENTS: Mapping[str, type[Event]] = {found.kind: found for found in get_args(AnyEvent)}
"""The class of each kind of event, by its tag."""


def _read(data: Any, *, stored: bool) -> Event:
    if not isinstance(data, dict):
        raise Refusal(message("An event must be an object"), "event", code="unreadable")
    kind = data.get("kind")
    if not isinstance(kind, str) or kind not in EVENTS:
        raise Refusal(
            message("“{kind}” is no kind of event", kind=str(kind)),
            "kind",
            message("the kinds are {events}", events=listed(EVENTS, "comma")),
            code="unknown_kind",
        )
    return EVENTS[kind].read(data, stored=stored)


def read_event(data: Any) -> Event:
    """Returns an event from its open form, as somebody sends it.

    Raises Refusal for unknown kinds, missing parts and parts that cannot be, each at its place.
    """
    return _read(data, stored=False)


def read_stored_event(data: Any) -> Event:
    """Returns an event that was taken in before, by the rules of its day: optional parts that `read_event` would refuse today are left out."""
    return _read(data, stored=True)


def in_order(events: Iterable[Event]) -> list[Event]:
    """Returns each event once, in the order that counts, without those taken back by a later “undone” (which can itself be undone)."""
    once = {event.id: event for event in events}
    ordered = sorted(once.values(), key=lambda event: event.order)
    gone: set[str] = set()
    for event in reversed(ordered):
        if isinstance(event, Undone) and event.id not in gone:
            gone.add(event.of)
    return [event for event in ordered if event.id not in gone and not isinstance(event, Undone)]
