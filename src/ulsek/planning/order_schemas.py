"""Requests and answers about placed orders."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from uuid import UUID

from ninja import Field

from ulsek.core.base.messages import Message
from ulsek.team.schema import Schema


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedLineOut:
    """A line of an order: packs of `pack_g` [g] at `price` each, and what was received of it; `received_packs` is null for an open order."""

    id: int
    material: str
    product: str
    pack_g: float
    packs: int
    price: Decimal | None
    received_packs: int | None
    received_price: Decimal | None
    refused: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedOrderOut:
    """An order with its expected arrival and, once it was received, its discrepancies. `is_late` marks an open order whose expected arrival is over."""

    id: UUID
    supplier: str
    arrives: datetime | None
    placed_at: datetime
    by: str
    closed_at: datetime | None
    is_late: bool
    price: Decimal
    lines: tuple[PlacedLineOut, ...]
    discrepancies: tuple[Message, ...]


class OrderIn(Schema):
    """How many packs of each material are ordered of a supplier, by the material's key."""

    supplier: str
    packs: dict[str, int] = Field(max_length=200)


class ReceivedLineIn(Schema):
    """What was received of a line: packs, the price of one (null if unknown), and why the other packs were refused."""

    line: int
    packs: int
    price: Decimal | None = None
    refused: str = ""


class ReceiptIn(Schema):
    lines: list[ReceivedLineIn] = Field(max_length=200)
