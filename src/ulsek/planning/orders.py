"""Placed orders as lists and papers show them."""

from __future__ import annotations

from datetime import datetime, timedelta
from decimal import Decimal
from html import escape
from uuid import UUID

from django.db.models import Q
from django.shortcuts import get_object_or_404

from ulsek.core.base.messages import Computed
from ulsek.core.base.tables import csv_text
from ulsek.core.planning.order_receipt import ReceivedLine, discrepancies
from ulsek.team.access import Member

from .models import PlacedLine, PlacedOrder
from .order_schemas import PlacedLineOut, PlacedOrderOut
from .papers import STYLE

_SHOWN = timedelta(days=14)
"""How long a received order is listed."""


def _line(line: PlacedLine) -> PlacedLineOut:
    return PlacedLineOut(
        id=line.pk,
        material=line.material,
        product=line.product,
        pack_g=float(line.pack_g),
        packs=line.packs,
        price=line.price,
        received_packs=line.received_packs,
        received_price=line.received_price,
        refused=line.refused,
    )


def order_row(order: PlacedOrder, now: datetime) -> PlacedOrderOut:
    """Returns an order as lists show it."""
    lines = sorted(order.lines.all(), key=lambda line: (line.product, line.material))
    found = [
        said
        for line in lines
        if line.received_packs is not None
        for said in discrepancies(line.ordered, ReceivedLine(line.received_packs, line.received_price, line.refused))
    ]
    return PlacedOrderOut(
        id=order.pk,
        supplier=order.supplier,
        arrives=order.arrives,
        placed_at=order.placed_at,
        by=order.placed_by.display_name,
        closed_at=order.closed_at,
        is_late=order.closed_at is None and order.arrives is not None and order.arrives < now,
        price=sum((line.price * line.packs for line in lines if line.price is not None), Decimal(0)),
        lines=tuple(map(_line, lines)),
        discrepancies=tuple(found),
    )


def placed_orders(member: Member, now: datetime) -> list[PlacedOrderOut]:
    """Returns the open orders by expected arrival, those without one last, then the orders that were received in the last 14 days by time of receipt."""
    rows = PlacedOrder.objects.filter(house=member.house).filter(Q(closed_at=None) | Q(closed_at__gte=now - _SHOWN))
    found = rows.select_related("placed_by").prefetch_related("lines").order_by("placed_at")
    return [order_row(one, now) for one in sorted(found, key=_listed_at)]


def _listed_at(order: PlacedOrder) -> tuple[bool, bool, datetime]:
    at = order.closed_at or order.arrives
    return order.closed_at is not None, at is None, at or order.placed_at


def one_order(member: Member, order_id: UUID, now: datetime) -> PlacedOrderOut:
    """Returns an order of the member's house. Raises Http404 if it has no such order."""
    rows = PlacedOrder.objects.filter(house=member.house).select_related("placed_by").prefetch_related("lines")
    return order_row(get_object_or_404(rows, pk=order_id), now)


def _pack(line: PlacedLineOut) -> str:
    return str(Computed(line.pack_g / 1000.0, "kg", 2))


def order_text(member: Member, order: PlacedOrderOut) -> str:
    """Returns an order as plain text, short enough for a message."""
    lines = [f"{member.house.name}, order for {order.supplier}, {member.local(order.placed_at):%A %d %B}:"]
    lines += [f"{line.packs} × {_pack(line)} {line.product}" for line in order.lines]
    if order.arrives:
        lines.append(f"for {member.local(order.arrives):%A %d %B, %H:%M}")
    return "\n".join(lines) + "\n"


def order_csv(order: PlacedOrderOut) -> str:
    """Returns an order as CSV: supplier, product, packs [count], size of a pack [g], price of a pack, packs that came [count]."""

    def said(value: object) -> str:
        return "" if value is None else str(value)

    head = ("supplier", "product", "packs", "pack_g", "price", "received_packs", "received_price", "refused")
    rows = [
        (
            order.supplier,
            line.product,
            str(line.packs),
            f"{line.pack_g:g}",
            said(line.price),
            said(line.received_packs),
            said(line.received_price),
            line.refused,
        )
        for line in order.lines
    ]
    return csv_text([head, *rows])


def order_html(member: Member, order: PlacedOrderOut) -> str:
    """Returns an order as a page of HTML, to be made a PDF, with room to tick what came."""
    rows = "".join(
        f"<tr><td style='width:9mm'><i></i></td><td><b>{line.packs} × {_pack(line)}</b></td><td>{escape(line.product)}</td>"
        f"<td>{'' if line.price is None else f'{line.price} {escape(member.house.currency)} a pack'}</td></tr>"
        for line in order.lines
    )
    due = f" · for {member.local(order.arrives):%A %d %B, %H:%M}" if order.arrives else ""
    return (
        f"<html lang='en'><head><title>Order for {escape(order.supplier)}</title><style>{STYLE}</style></head><body>"
        f"<h1>{escape(order.supplier)}</h1><p class='quiet'>{escape(member.house.name)} · ordered {member.local(order.placed_at):%A %d %B %Y, %H:%M} "
        f"by {escape(order.by)}{due}</p><table>{rows}</table>"
        f"<p>{order.price} {escape(member.house.currency)} by the prices of the last deliveries.</p></body></html>"
    )
