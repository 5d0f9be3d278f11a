"""A case of fruit comes in."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.yields import Seen
from ulsek.stores.actions.receive_delivery import receive_delivery
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Case


@action
def receive_case(
    member: Member, fruit: str, *, supplier: str, count: int, weight_g: float, price: Decimal, size: str = "", at: datetime | None = None
) -> Case:
    """Counts and weighs a case in; the fruit stands in Stores as well, so that specs draw on it. Refuses counts and weights that cannot be."""
    of = variety(fruit)
    Seen(count, weight_g=weight_g).checked(of)
    if not supplier.strip():
        raise Refusal(message("The case has no supplier"), "supplier", remedy=message("Write who brought it"), code="missing")
    came = at or timezone.now()
    stock = receive_delivery(
        member,
        fruit,
        product=f"{of.name}, {count} in the case",
        supplier=supplier,
        price=price,
        pack_g=Decimal(str(round(weight_g, 1))),
        form=size,
        at=came,
    )
    case = Case.objects.create(
        house=member.house,
        stock=stock,
        fruit=fruit,
        supplier=stock.supplier,
        size=free_text(size, "size", 40),
        came_at=came,
        count=count,
        left=count,
        weight_g=weight_g,
        price=price,
    )
    member.wrote("receive_case", str(case), at=came, count=count)
    return case
