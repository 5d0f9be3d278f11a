"""Delete one of the house's own materials."""

from __future__ import annotations

from collections.abc import Sequence

from django.shortcuts import get_object_or_404

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import HouseMaterial, StockItem
from ..queries import is_typical


@action(whole_house=True)
def drop_own_material(member: Member, key: str, used_by: Sequence[str]) -> None:
    """Deletes the material; typical figures under its key, if there are any, count again. Raises Refusal for one without such figures that specs use (`used_by`
    names them) or that is in stock.
    """
    material = get_object_or_404(HouseMaterial, house=member.house, key=key)
    name = str(material.body.get("name") or key)
    if used_by and not is_typical(key):
        shown = ", ".join(used_by[:5]) + (f" and {len(used_by) - 5} more" if len(used_by) > 5 else "")
        raise Refusal(
            message("{name} is used by {shown}", name=name, shown=shown), "key", remedy=message("Take it out of them first"), code="in_use"
        )
    if not is_typical(key) and StockItem.objects.filter(house=member.house, material=key, gone_at=None).exists():
        raise Refusal(
            message("{name} still stands in Stores", name=name), "key", remedy=message("Use it up or toss it first"), code="in_use"
        )
    material.delete()
    member.wrote("drop_material", name, key=key)
