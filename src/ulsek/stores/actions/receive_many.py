"""Receive many deliveries at once: a table, or what is ticked of a usual shelf."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.delivery import pack_g
from ulsek.core.materials.material import read_material
from ulsek.team.access import Member
from ulsek.team.action import action

from ..queries import described
from .receive_delivery import Delivery, receive_delivery


@action
def receive_many(member: Member, rows: Sequence[Mapping[str, Any]]) -> int:
    """Adds deliveries to the stock, all of them or none, and returns how many [count]. Each row has material, product, supplier, `pack` as an amount, packs and
    price. Raises Refusal at `items/3/pack` and the like for the first that cannot be, and for no row at all.
    """
    if not rows:
        raise Refusal(message("Nothing is ticked"), "items", remedy=message("Tick what you have"), code="missing")
    known = described(member.house)
    for number, row in enumerate(rows):
        try:
            _receive(member, row, known)
        except Refusal as refusal:
            raise Refusal(refusal.what, f"items/{number}/{refusal.where}", refusal.bound, refusal.remedy, refusal.code) from None
    return len(rows)


def _receive(member: Member, row: Mapping[str, Any], known: Mapping[str, Mapping[str, Any]]) -> None:
    key = row["material"]
    if key not in known:
        raise Refusal(
            message("Nobody has said what “{product}” is", product=row["product"][:80]),
            "material",
            remedy=message("Choose a material, or leave the row out"),
            code="unknown_material",
        )
    grams = pack_g(row["pack"], read_material(key, known[key]))
    receive_delivery(
        member, key, Delivery(product=row["product"], supplier=row["supplier"], price=row["price"], pack_g=grams, packs=row["packs"])
    )
