"""What Stores sends and takes."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from ninja import Field

from ulsek.team.schema import Schema


class Figure(Schema):
    """A value with its 5 and 95 % points."""

    value: float
    low: float
    high: float


class MaterialOut(Schema):
    key: str
    name: str
    kind: str
    figures: dict[str, Figure]
    brix_read: bool
    acid_read: bool
    readable: bool
    source: str
    bands: dict[str, float]
    price_per_kg: str | None
    allergens: list[str]
    cautions: list[str]
    note: str


class StockOut(Schema):
    id: UUID
    code: str
    material: str
    product: str
    supplier: str
    form: str
    colour: str
    received_at: datetime
    price: Decimal
    pack_g: Decimal
    remaining_g: Decimal
    gone_at: datetime | None
    recalled: str
    current: bool
    price_per_kg_solids: str | None
    view: MaterialOut


class Deed(Schema):
    """Something done to a thing that stands in the house: what kind of deed, and its own figures and words."""

    kind: str
    body: dict[str, Any] = Field(default_factory=dict)


class DeedOut(Schema):
    """A deed as it was kept."""

    kind: str
    body: dict[str, Any]
    by: str
    at: datetime


class StockPage(Schema):
    items: list[StockOut]
    page: int
    pages: int


class MaterialPage(Schema):
    items: list[MaterialOut]
    page: int
    pages: int


class ReadingsIn(Schema):
    brix_reading: float | None = None
    acid_g_100ml: float | None = None


class DeliveryIn(Schema):
    material: str
    product: str
    supplier: str = ""
    price: Decimal
    pack_g: Decimal
    packs: int = 1
    form: str = ""
    colour: str = ""
