"""Stores over HTTP."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from django.db.models import CharField, Exists, OuterRef, Q, QuerySet, Value
from django.db.models.functions import Cast, Concat, Substr
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Field, Query, Router, Status

from ulsek.computing import in_time
from ulsek.core.materials.delivery import price_per_kg_solids
from ulsek.core.materials.material import read_material
from ulsek.core.materials.shipped import usual_shelf
from ulsek.core.recipe_text.stock_table import MOST_ROWS, StockTable, read_stock_table
from ulsek.core.safety.on_the_shelf import expires_soon_until
from ulsek.devices.label import pdf_answer
from ulsek.devices.schemas import PrintIn, PrintOut
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of
from ulsek.team.schema import Schema

from .actions.change_stock import change_stock
from .actions.print_label import print_label
from .actions.read_delivery import read_delivery
from .actions.receive_delivery import Delivery, receive_delivery
from .actions.receive_many import receive_many
from .label import delivery_label
from .models import StockItem
from .queries import body_of, described, had_by, material_view, stock_action_row
from .schemas import (
    DeliveryIn,
    PackDeliveryIn,
    ReadingsIn,
    StockActionIn,
    StockActionOut,
    StockOut,
    StockQuery,
    UsualGroup,
    UsualItem,
)

router = Router(tags=["stores"])


def _stock_view(item: StockItem, bodies: dict[str, Mapping[str, Any]], current: bool) -> StockOut:
    body = body_of(bodies[item.material], item)
    material = read_material(item.material, body)
    use_by = date.fromisoformat(body["use_by"]) if body.get("use_by") else None
    return StockOut(
        id=item.pk,
        code=item.code,
        material=item.material,
        product=item.product,
        supplier=item.supplier,
        form=item.form,
        colour=item.colour,
        received_at=item.received_at,
        price=item.price,
        pack_g=item.pack_g,
        remaining_g=item.remaining_g,
        gone_at=item.gone_at,
        recalled=item.recalled,
        place=item.place,
        use_by=use_by,
        expires_soon=use_by is not None and use_by <= expires_soon_until(item.house.day(timezone.now())),
        current=current,
        price_per_kg=item.price_per_kg,
        price_per_kg_solids=price_per_kg_solids(material, item.price_per_kg),
        view=material_view(item.material, body, material),
    )


_LABEL = Concat(Value("D"), Substr(Cast("pk", CharField()), 1, 6))
"""The code of a delivery (`StockItem.code`), as the database writes it."""


def _newer() -> QuerySet[StockItem]:
    """Returns the open deliveries of the same material that come before one in the list: the first of all is the current one."""
    same_time = Q(received_at=OuterRef("received_at"))
    before = Q(product__lt=OuterRef("product")) | Q(product=OuterRef("product"), supplier__lt=OuterRef("supplier"))
    later = Q(received_at__gt=OuterRef("received_at")) | (same_time & before)
    return StockItem.objects.filter(later, house=OuterRef("house"), material=OuterRef("material"), gone_at=None)


@router.get("/stock", response=answers(Slice[StockOut]))
def stock(request: HttpRequest, asked: Query[StockQuery]) -> Slice[StockOut]:
    """Returns deliveries, newest first. `current` is True for the open delivery of a material that specs and new runs take."""
    member = member_of(request)
    bodies = described(member.house)
    gone = asked.state == "gone"
    known = StockItem.objects.select_related("house").annotate(label=_LABEL)
    found = known.filter(
        holding(asked.find, "product", "supplier", "place", "label"), house=member.house, gone_at__isnull=not gone, material__in=bodies
    )
    if asked.material:
        found = found.filter(material=asked.material)
    shown = slice_of(found.annotate(is_older=Exists(_newer())), ("-received_at", "product", "supplier", "pk"), asked)
    return shown.each(lambda item: _stock_view(item, bodies, not gone and not item.is_older))  # type: ignore[attr-defined]


@router.post("/stock", response={201: answers(StockOut)})
def receive(request: HttpRequest, payload: DeliveryIn) -> Status[StockOut]:
    """Receives a delivery."""
    member = member_of(request)
    item = receive_delivery(member, payload.material, Delivery(**payload.model_dump(exclude={"material"})))
    return Status(201, _stock_view(item, described(member.house), current=True))


class StockTableIn(Schema):
    """A table of what the house buys, and what each of its columns is; empty to find that out by their heads."""

    text: str
    columns: list[str] = Field(default_factory=list, max_length=100)


@router.post("/stock/read-table", response=answers(StockTable))
def read_table(request: HttpRequest, payload: StockTableIn) -> StockTable:
    """Reads a table of products, packs and prices, and stores nothing: which column is which, and which material each row is."""
    return in_time(read_stock_table, payload.text, described(member_of(request).house), tuple(payload.columns))


class DeliveriesIn(Schema):
    """Deliveries that are taken in together."""

    items: list[PackDeliveryIn] = Field(max_length=MOST_ROWS)


@dataclass(frozen=True, slots=True, kw_only=True)
class Received:
    """How many deliveries were taken in."""

    count: int


@router.post("/stock/many", response={201: answers(Received)})
def receive_all(request: HttpRequest, payload: DeliveriesIn) -> Status[Received]:
    """Receives many deliveries, all or none; a refusal names its row."""
    rows = [item.model_dump() for item in payload.items]
    return Status(201, Received(count=receive_many(member_of(request), rows)))


@router.get("/stock/usual", response=answers(tuple[UsualGroup, ...]))
def usual(request: HttpRequest) -> list[UsualGroup]:
    """Returns what most bars have on their shelf, by group, with its usual pack and whether this house has had it."""
    house = member_of(request).house
    bodies, had = described(house), had_by(house)
    return [
        UsualGroup(
            name=name,
            items=tuple(
                UsualItem(material=key, name=str(bodies[key]["name"]), pack=pack, had=key in had)
                for key, pack in packs.items()
                if key in bodies
            ),
        )
        for name, packs in usual_shelf().items()
    ]


@router.post("/stock/{stock_id}/readings", response=answers(StockOut))
def read(request: HttpRequest, stock_id: UUID, payload: ReadingsIn) -> StockOut:
    """Reads a delivery: °Bx, acid, or both."""
    member = member_of(request)
    readings = {name: value for name, value in payload.model_dump().items() if value is not None}
    item = read_delivery(member, stock_id, readings)
    return _stock_view(item, described(member.house), current=True)


@router.post("/stock/{stock_id}/events", response=answers(StockOut))
def change(request: HttpRequest, stock_id: UUID, payload: StockActionIn) -> StockOut:
    """Counts a delivery (`left_g`), tosses it (`reason`), or says where it stands (`place`)."""
    member = member_of(request)
    item = change_stock(member, stock_id, payload.kind, payload.body)
    return _stock_view(item, described(member.house), current=False)


@router.get("/stock/{stock_id}/events", response=answers(Slice[StockActionOut]))
def changes(request: HttpRequest, stock_id: UUID, asked: Query[ListQuery]) -> Slice[StockActionOut]:
    """Returns the counts and tosses of a delivery, the newest first."""
    item = get_object_or_404(StockItem, pk=stock_id, house=member_of(request).house)
    found = item.events.filter(holding(asked.find, "kind", "by__display_name")).select_related("by")
    return slice_of(found, ("-at", "kind", "pk"), asked).each(stock_action_row)


@router.get("/stock/{stock_id}/label.pdf", response={200: None})
def label(request: HttpRequest, stock_id: UUID, size: str = "60x40") -> HttpResponse:
    """The label of a delivery as PDF."""
    member = member_of(request)
    item = get_object_or_404(StockItem, pk=stock_id, house=member.house)
    return pdf_answer([delivery_label(member, item)], size, item.code)


@router.post("/stock/{stock_id}/print", response=answers(PrintOut))
def print_one(request: HttpRequest, stock_id: UUID, payload: PrintIn) -> PrintOut:
    """Labels of a delivery on a label printer."""
    return PrintOut(printed=print_label(member_of(request), stock_id, payload.printer, payload.size, payload.each))
