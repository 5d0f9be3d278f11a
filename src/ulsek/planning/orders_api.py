"""Orders over HTTP: placed, exported, cancelled, received."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Status

from ulsek.core.planning.order_receipt import ReceivedLine
from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .actions.place_order import cancel_order, place_order, receive_order
from .order_schemas import OrderIn, PlacedOrderOut, ReceiptIn
from .orders import one_order, order_csv, order_html, order_text, placed_orders

router = Router(tags=["planning"])


@router.get("/plan/orders", response=answers(tuple[PlacedOrderOut, ...]))
def orders(request: HttpRequest) -> list[PlacedOrderOut]:
    """The open orders, and those that were received in the last 14 days."""
    return placed_orders(member_of(request), timezone.now())


@router.post("/plan/orders", response={201: answers(PlacedOrderOut)})
def place(request: HttpRequest, payload: OrderIn) -> Status[PlacedOrderOut]:
    """Stores an order that was placed with a supplier."""
    member, now = member_of(request), timezone.now()
    return Status(201, one_order(member, place_order(member, payload.supplier, payload.packs).pk, now))


@router.delete("/plan/orders/{order_id}", response={204: None})
def cancel(request: HttpRequest, order_id: UUID) -> Status[None]:
    """Cancels an open order."""
    cancel_order(member_of(request), order_id)
    return Status(204, None)


@router.post("/plan/orders/{order_id}/receipt", response=answers(PlacedOrderOut))
def receive(request: HttpRequest, order_id: UUID, payload: ReceiptIn) -> PlacedOrderOut:
    """Receives an order and closes it; missing packs are not expected any more."""
    member, now = member_of(request), timezone.now()
    receive_order(member, order_id, [(one.line, ReceivedLine(one.packs, one.price, one.refused)) for one in payload.lines])
    return one_order(member, order_id, now)


@router.get("/plan/orders/{order_id}/order.pdf", response={200: None})
def order_pdf(request: HttpRequest, order_id: UUID) -> HttpResponse:
    """An order as a page of paper."""
    from weasyprint import HTML

    member = member_of(request)
    page = order_html(member, one_order(member, order_id, timezone.now()))
    answer = HttpResponse(HTML(string=page).write_pdf(), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="order.pdf"'
    return answer


@router.get("/plan/orders/{order_id}/order.csv", response={200: None})
def order_table(request: HttpRequest, order_id: UUID) -> HttpResponse:
    """An order as a table in CSV."""
    answer = HttpResponse(order_csv(one_order(member_of(request), order_id, timezone.now())), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="order.csv"'
    return answer


@router.get("/plan/orders/{order_id}/order.txt", response={200: None})
def order_as_text(request: HttpRequest, order_id: UUID) -> HttpResponse:
    """An order as plain text, to be sent."""
    member = member_of(request)
    return HttpResponse(order_text(member, one_order(member, order_id, timezone.now())), content_type="text/plain; charset=utf-8")
