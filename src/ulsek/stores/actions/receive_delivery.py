"""A delivery comes in."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.delivery import check_packs
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import StockItem
from ..queries import described


@action
def receive_delivery(
    member: Member,
    material: str,
    *,
    product: str,
    supplier: str,
    price: Decimal,
    pack_g: Decimal,
    packs: int = 1,
    form: str = "",
    colour: str = "",
    at: datetime | None = None,
) -> StockItem:
    """Puts `packs` packs of `pack_g` [g] at `price` each on the shelf. Refuses unknown materials and packs of nothing."""
    if material not in described(member.house):
        raise Refusal(
            message("Nothing is known about “{material}”", material=material),
            "material",
            remedy=message("Choose a material from Stores"),
            code="unknown_material",
        )
    named = {
        "product": free_text(product, "product", 80, message("The delivery has no name"), message("Write what stands on the box")),
        "supplier": free_text(supplier, "supplier", 80),
        "form": free_text(form, "form", 40),
        "colour": free_text(colour, "colour", 80),
    }
    check_packs(pack_g, price, packs)
    item = StockItem.objects.create(
        house=member.house,
        material=material,
        **named,
        received_at=at or timezone.now(),
        price=price,
        pack_g=pack_g,
        remaining_g=pack_g * packs,
    )
    member.wrote("receive_delivery", str(item), at=at, material=material)
    return item
