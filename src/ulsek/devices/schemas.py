"""Requests and answers about devices."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from pydantic import Field

from ulsek.team.schema import Schema


@dataclass(frozen=True, slots=True, kw_only=True)
class InstrumentOut:
    """An instrument of the house, and where it is reached."""

    id: UUID
    name: str
    kind: str
    address: str


@dataclass(frozen=True, slots=True, kw_only=True)
class InstrumentsOut:
    """The instruments of the house, the address of the hub, and a ticket for it; `hands` is True if they are simulated and can be operated."""

    stream: str
    ticket: str
    hands: bool
    items: tuple[InstrumentOut, ...]


class InstrumentIn(Schema):
    name: str
    kind: str
    address: str


class HandIn(Schema):
    """An operation on a simulated instrument, in the words of `simulators/README.md`."""

    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class HandOut:
    """The answer of a simulated instrument."""

    answer: str


class DeviceKeysIn(Schema):
    """The keys of a push subscription, as the browser gives them."""

    p256dh: str = Field(max_length=90)
    auth: str = Field(max_length=24)


class DutyIn(Schema):
    """A device of mine by its push subscription, and whether I am on duty."""

    endpoint: str
    keys: DeviceKeysIn
    on_duty: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DutyOut:
    """The public key that a device subscribes with, and my devices that are on duty."""

    key: str
    endpoints: tuple[str, ...]


class PrintIn(Schema):
    """Labels for a printer: `each` of every lot, else one for every bottle."""

    printer: UUID
    size: str = "100x70"
    each: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PrintOut:
    """How many labels were printed."""

    printed: int
