"""Requests and answers about Stores."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from typing import Any, Literal
from uuid import UUID

from ninja import Field

from ulsek.core.base.answer import OpenForm
from ulsek.core.base.ranges import Range
from ulsek.core.results.evaluation_result import Bands
from ulsek.team.listing import ListQuery
from ulsek.team.schema import Schema


@dataclass(frozen=True, slots=True, kw_only=True)
class MaterialOut:
    """A material as Stores shows it: its figures with their ranges, whether they were read, and its price per kilogram."""

    key: str
    name: str
    kind: str
    figures: Mapping[str, Range]
    brix_read: bool
    acid_read: bool
    readable: bool
    source: str
    bands: Bands
    price_per_kg: Decimal | None
    allergens: tuple[str, ...]
    cautions: tuple[str, ...]
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StockOut:
    """A delivery, what is left of it [g], where it stands, and the material as it is in this delivery; `current` marks the one that specs and new runs take.

    `use_by` is its last day (None: it keeps); `expires_soon` that this is today or one of the next two days, or over.
    """

    id: UUID
    code: str
    material: str
    product: str
    supplier: str
    form: str
    colour: str
    received_at: datetime
    price: Decimal | None
    pack_g: Decimal
    remaining_g: Decimal
    gone_at: datetime | None
    recalled: str
    place: str
    use_by: date | None
    expires_soon: bool
    current: bool
    price_per_kg: Decimal | None
    price_per_kg_solids: Decimal | None
    view: MaterialOut


class StockActionIn(Schema):
    """An action on a lot or a delivery: its kind, and its own figures and texts."""

    kind: str
    body: dict[str, Any] = Field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class StockActionOut:
    """A stored action."""

    kind: str
    body: OpenForm
    by: str
    at: datetime


class StockQuery(ListQuery):
    """Which deliveries are listed: the open ones or those that are gone, of one material or of all; `find` looks at product, supplier, place and code."""

    state: Literal["open", "gone"] = "open"
    material: str = ""


class ReadingsIn(Schema):
    brix_reading: float | None = None
    acid_g_100ml: float | None = None


class PackDeliveryIn(Schema):
    """A delivery whose pack is as it stands on it: “700 ml”, “2 kg”. Without a price nobody knows it."""

    material: str
    product: str
    supplier: str = ""
    pack: str = Field(max_length=60)
    packs: int = 1
    price: Decimal | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualItem:
    """A material that most bars have, its usual pack, and whether this house has had it."""

    material: str
    name: str
    pack: str
    had: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualGroup:
    """A part of a bar's usual shelf."""

    name: str
    items: tuple[UsualItem, ...]


class DeliveryIn(Schema):
    material: str
    product: str
    supplier: str = ""
    price: Decimal | None = None
    pack_g: Decimal
    packs: int = 1
    form: str = ""
    colour: str = ""
