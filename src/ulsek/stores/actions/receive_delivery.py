"""Receive a delivery."""

from __future__ import annotations

from dataclasses import dataclass, replace
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Delivery:
    """`packs` packs of `pack_g` [g] of a product of a supplier, at `price` each (None: not known); its form and colour in the supplier's words."""

    product: str
    supplier: str
    price: Decimal | None
    pack_g: Decimal
    packs: int = 1
    form: str = ""
    colour: str = ""

    def checked(self) -> Delivery:
        """Returns it with its texts without blanks around them. Raises Refusal, at its field, for a text or figure that cannot be."""
        found = replace(
            self,
            product=free_text(self.product, "product", 80, message("The delivery has no name"), message("Write what stands on the box")),
            supplier=free_text(self.supplier, "supplier", 80),
            form=free_text(self.form, "form", 40),
            colour=free_text(self.colour, "colour", 80),
        )
        check_packs(self.pack_g, self.price, self.packs)
        return found


@action
def receive_delivery(member: Member, material: str, delivery: Delivery, at: datetime | None = None) -> StockItem:
    """Adds a delivery of a material to the stock, in the place of the one before. Raises Refusal for an unknown material and for a delivery that cannot be."""
    if material not in described(member.house):
        raise Refusal(
            message("Nothing is known about “{material}”", material=material),
            "material",
            remedy=message("Choose a material from Stores"),
            code="unknown_material",
        )
    came = delivery.checked()
    before = (
        StockItem.objects.filter(house=member.house, material=material).order_by("-received_at").values_list("place", flat=True).first()
    )
    item = StockItem.objects.create(
        house=member.house,
        material=material,
        product=came.product,
        supplier=came.supplier,
        form=came.form,
        colour=came.colour,
        received_at=at or timezone.now(),
        price=came.price,
        pack_g=came.pack_g,
        remaining_g=came.pack_g * came.packs,
        place=before or "",
    )
    member.wrote("receive_delivery", str(item), at=at, material=material)
    return item
