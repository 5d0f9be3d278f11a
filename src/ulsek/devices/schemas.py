"""What devices send and take."""

from __future__ import annotations

from uuid import UUID

from ulsek.team.schema import Schema


class InstrumentOut(Schema):
    id: UUID
    name: str
    kind: str
    address: str


class InstrumentsOut(Schema):
    """The instruments of the house, where they are listened to, and the ticket for it; `hands` when they are simulated and can be moved."""

    stream: str
    ticket: str
    hands: bool
    items: list[InstrumentOut]


class InstrumentIn(Schema):
    name: str
    kind: str
    address: str


class HandIn(Schema):
    """What the hand does to a simulated instrument, in the words of `simulators/README.md`."""

    words: str


class HandOut(Schema):
    answer: str


class DutyIn(Schema):
    """A device of mine, and whether I am on duty."""

    endpoint: str
    on_duty: bool


class DutyOut(Schema):
    """The push service of this house, and my devices that are on duty."""

    service: str
    endpoints: list[str]


class PrintIn(Schema):
    """Labels for a printer: `each` so many of every lot, else one for every bottle."""

    printer: UUID
    size: str = "100x70"
    each: int | None = None


class PrintOut(Schema):
    printed: int
