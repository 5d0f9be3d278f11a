"""Place an order with a supplier, cancel it, and receive it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.core.materials.delivery import check_count
from ulsek.core.planning.order_receipt import ReceivedLine
from ulsek.core.planning.ordering import USUAL_TERMS, next_delivery
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.stores.models import StockItem
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import PlacedLine, PlacedOrder
from ..supplier_terms import terms_of

MOST_LINES = 100
MOST_WHY = 120


@action
def place_order(member: Member, supplier: str, packs: Mapping[str, int], at: datetime | None = None) -> PlacedOrder:
    """Stores an order and returns it. `packs` [count] is the number of packs by material key; pack size and price are those of the last delivery of the material.

    Raises Refusal for an order of nothing or of more than a hundred materials, a count out of its bounds, and a material of which nobody has ever had a delivery.
    """
    house, now = member.house, at or timezone.now()
    name = free_text(supplier, "supplier", 80)
    if not 0 < len(packs) <= MOST_LINES:
        raise Refusal(
            message("Nothing is ordered") if not packs else message("That is too much for one order"),
            "packs",
            message("from 1 to {most} materials", most=MOST_LINES),
            message("Say how many packs"),
            "out_of_bounds",
        )
    lines = []
    for key, count in packs.items():
        item = StockItem.objects.filter(house=house, material=key).order_by("-received_at").first()
        if item is None:
            raise Refusal(
                message("Of “{material}” nothing was ever delivered", material=key),
                f"packs/{key}",
                remedy=message("Receive it in Stores first: its pack is not known"),
                code="unknown_material",
            )
        check_count(count, 1, f"packs/{key}")
        lines.append(PlacedLine(material=key, product=item.product, pack_g=item.pack_g, packs=count, price=item.price))
    delivery = next_delivery(terms_of(house).get(plain(name), USUAL_TERMS), now.astimezone(house.clock))
    arrives = None if delivery is None else delivery[1]
    order = PlacedOrder.objects.create(house=house, supplier=name, arrives=arrives, placed_at=now, placed_by=member.person)
    for line in lines:
        line.order = order
    PlacedLine.objects.bulk_create(lines)
    member.wrote("place_order", name, at=at, packs=dict(packs))
    return order


def _open_order(member: Member, order_id: UUID) -> PlacedOrder:
    """Returns an open order after locking it. Raises Http404 if the house has no such order, and Refusal if it was received."""
    rows = PlacedOrder.objects.filter(house=member.house, pk=order_id)
    locked(rows)
    order = get_object_or_404(rows)
    if order.closed_at is not None:
        raise Refusal(
            message("This order was taken in already"), "order", remedy=message("What came of it stands in Stores"), code="already_done"
        )
    return order


@action
def cancel_order(member: Member, order_id: UUID) -> None:
    """Deletes an open order. Raises Http404 if the house has no such order, and Refusal if it was received."""
    order = _open_order(member, order_id)
    member.wrote("cancel_order", order.supplier)
    order.delete()


@action
def receive_order(member: Member, order_id: UUID, came: Sequence[tuple[int, ReceivedLine]], at: datetime | None = None) -> PlacedOrder:
    """Stores what was received of each line of an order, by the id of the line, adds it to the stock as deliveries, closes the order, and returns it.

    Raises Http404 if the house has no such order, and Refusal, at its line, if the order was received before, for a line that is not in it or is missing, and for
    packs or a price out of their bounds.
    """
    order = _open_order(member, order_id)
    lines = {line.pk: line for line in order.lines.order_by("product", "material")}
    said = dict(came)
    if set(said) != set(lines) or len(said) != len(came):
        raise Refusal(
            message("Every line of the order is taken in or refused"),
            "lines",
            message("it has {n} lines", n=len(lines)),
            message("Say 0 packs for what did not come"),
            "missing",
        )
    now = at or timezone.now()
    for number, (key, one) in enumerate(came):
        line, where = lines[key], f"lines/{number}"
        one.check(where)
        line.received_packs, line.received_price = one.packs, one.price
        line.refused = free_text(one.refused, f"{where}/refused", MOST_WHY)
        line.save(update_fields=["received_packs", "received_price", "refused"])
        if one.packs:
            delivery = Delivery(product=line.product, supplier=order.supplier, price=one.price, pack_g=line.pack_g, packs=one.packs)
            receive_delivery(member, line.material, delivery, now)
    order.closed_at = now
    order.save(update_fields=["closed_at"])
    member.wrote("receive_order", order.supplier, at=at)
    return order
