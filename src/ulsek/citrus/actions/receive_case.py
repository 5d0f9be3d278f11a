"""Receive a case of fruit."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.yields import FruitMeasurement
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Case


@dataclass(frozen=True, slots=True, kw_only=True)
class NewCase:
    """A case of `count` fruits that weigh `weight_g` [g], of a supplier, at `price` for all of it; `size` in the supplier's words."""

    supplier: str
    count: int
    weight_g: float
    price: Decimal
    size: str = ""


@action
def receive_case(member: Member, fruit: str, case: NewCase, at: datetime | None = None) -> Case:
    """Adds a case of fruit; it is a delivery in Stores too, so that specs draw on it. Raises Refusal for counts and masses that no case has."""
    of = variety(fruit)
    FruitMeasurement(case.count, weight_g=case.weight_g).checked(of)
    if not case.supplier.strip():
        raise Refusal(message("The case has no supplier"), "supplier", remedy=message("Write who brought it"), code="missing")
    came = at or timezone.now()
    delivery = Delivery(
        product=f"{of.name}, {case.count} in the case",
        supplier=case.supplier,
        price=case.price,
        pack_g=Decimal(str(round(case.weight_g, 1))),
        form=case.size,
    )
    stock = receive_delivery(member, fruit, delivery, at=came)
    row = Case.objects.create(
        house=member.house,
        stock=stock,
        fruit=fruit,
        supplier=stock.supplier,
        size=free_text(case.size, "size", 40),
        came_at=came,
        count=case.count,
        left=case.count,
        weight_g=case.weight_g,
        price=case.price,
    )
    member.wrote("receive_case", str(row), at=came, count=case.count)
    return row
