"""Stores over HTTP."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.core.paginator import Paginator
from django.db.models import Exists, OuterRef, Q, QuerySet
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Status

from ulsek.core.materials.delivery import price_per_kg_solids
from ulsek.core.materials.material import read_material
from ulsek.devices.label import pdf_answer
from ulsek.devices.schemas import PrintIn, PrintOut
from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .actions.change_stock import change_stock
from .actions.print_label import print_label
from .actions.read_delivery import read_delivery
from .actions.receive_delivery import Delivery, receive_delivery
from .label import delivery_label
from .models import StockItem
from .queries import body_of, called, described, material_view, stock_action_row
from .schemas import DeliveryIn, MaterialPage, ReadingsIn, StockActionIn, StockActionOut, StockOut, StockPage

router = Router(tags=["stores"])
PAGE = 100


def _stock_view(item: StockItem, bodies: dict[str, dict[str, Any]], current: bool) -> StockOut:
    body = body_of(bodies[item.material], item)
    material = read_material(item.material, body)
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
        current=current,
        price_per_kg=item.price_per_kg,
        price_per_kg_solids=price_per_kg_solids(material, item.price_per_kg),
        view=material_view(item.material, body, material),
    )


def _newer() -> QuerySet[StockItem]:
    """Returns the open deliveries of the same material that come before one in the list: the first of all is the current one."""
    same_time = Q(received_at=OuterRef("received_at"))
    before = Q(product__lt=OuterRef("product")) | Q(product=OuterRef("product"), supplier__lt=OuterRef("supplier"))
    later = Q(received_at__gt=OuterRef("received_at")) | (same_time & before)
    return StockItem.objects.filter(later, house=OuterRef("house"), material=OuterRef("material"), gone_at=None)


@router.get("/stock", response=answers(StockPage))
def stock(request: HttpRequest, page: int = 1, gone: bool = False, find: str = "") -> StockPage:
    """Open deliveries, newest first; `current` marks the one of each material that specs and new runs take. `gone` lists those that are gone, `find` those
    whose product or supplier holds it.
    """
    member = member_of(request)
    bodies = described(member.house)
    named = Q(product__icontains=find) | Q(supplier__icontains=find)
    pages = Paginator(
        StockItem.objects.select_related("house")
        .filter(named, house=member.house, gone_at__isnull=not gone, material__in=bodies)
        .annotate(is_older=Exists(_newer()))
        .order_by("-received_at", "product", "supplier"),
        PAGE,
    )
    items = [_stock_view(item, bodies, not gone and not item.is_older) for item in pages.get_page(page)]  # type: ignore[attr-defined]
    return StockPage(items=tuple(items), page=page, pages=pages.num_pages)


@router.get("/materials", response=answers(MaterialPage))
def materials(request: HttpRequest, find: str = "", page: int = 1) -> MaterialPage:
    """Every material that the house may use, typical ones included: those that it has had first, then by name. `find` knows aliases."""
    member = member_of(request)
    bodies = described(member.house)
    pages = Paginator(called(member.house, bodies, find), PAGE)
    items = [material_view(key, bodies[key], read_material(key, bodies[key])) for key in pages.get_page(page)]
    return MaterialPage(items=tuple(items), page=page, pages=pages.num_pages)


@router.post("/stock", response={201: answers(StockOut)})
def receive(request: HttpRequest, payload: DeliveryIn) -> Status[StockOut]:
    """Receives a delivery."""
    member = member_of(request)
    item = receive_delivery(member, payload.material, Delivery(**payload.model_dump(exclude={"material"})))
    return Status(201, _stock_view(item, described(member.house), current=True))


@router.post("/stock/{stock_id}/readings", response=answers(StockOut))
def read(request: HttpRequest, stock_id: UUID, payload: ReadingsIn) -> StockOut:
    """Reads a delivery: °Bx, acid, or both."""
    member = member_of(request)
    readings = {name: value for name, value in payload.model_dump().items() if value is not None}
    item = read_delivery(member, stock_id, readings)
    return _stock_view(item, described(member.house), current=True)


@router.post("/stock/{stock_id}/events", response=answers(StockOut))
def change(request: HttpRequest, stock_id: UUID, payload: StockActionIn) -> StockOut:
    """Counts a delivery (`left_g`), or tosses it (`reason`)."""
    member = member_of(request)
    item = change_stock(member, stock_id, payload.kind, payload.body)
    return _stock_view(item, described(member.house), current=False)


@router.get("/stock/{stock_id}/events", response=answers(tuple[StockActionOut, ...]))
def changes(request: HttpRequest, stock_id: UUID) -> list[StockActionOut]:
    """Counts and tosses of a delivery, the newest first."""
    item = get_object_or_404(StockItem, pk=stock_id, house=member_of(request).house)
    found = item.events.select_related("by").order_by("-at", "kind")[:PAGE]
    return list(map(stock_action_row, found))


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
