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
    """A line of an order: packs of `pack_g` [g] at `price` each, and what came of it; `came_packs` is null until it was taken in."""

    id: int
    material: str
    product: str
    pack_g: float
    packs: int
    price: Decimal | None
    came_packs: int | None
    came_price: Decimal | None
    refused: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedOrderOut:
    """An order, when it is expected, and, once it was taken in, what was not as it was ordered. `is_late` marks one that should be here and was not taken in."""

    id: UUID
    supplier: str
    arrives: datetime | None
    placed_at: datetime
    by: str
    closed_at: datetime | None
    is_late: bool
    price: Decimal
    lines: tuple[PlacedLineOut, ...]
    differences: tuple[Message, ...]


class OrderIn(Schema):
    """How many packs of each material are ordered of a supplier, by the material's key."""

    supplier: str
    packs: dict[str, int] = Field(max_length=200)


class CameIn(Schema):
    """What came of a line: packs, the price of one (null: nobody knows it), and why the rest was refused."""

    line: int
    packs: int
    price: Decimal | None = None
    refused: str = ""


class TakenInIn(Schema):
    lines: list[CameIn] = Field(max_length=200)
