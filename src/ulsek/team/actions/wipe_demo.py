"""Wipe the made-up houses that ship, so that only one's own are left."""

from __future__ import annotations

from django.db import transaction

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member
from ..house_rows import delete_house
from ..models import House


def wipe_demo() -> int:
    """Deletes every made-up house with all that is in it, and returns how many there were [count]. A house of one's own is never touched."""
    with transaction.atomic():
        found = list(House.objects.filter(is_demo=True))
        for house in found:
            delete_house(house)
    return len(found)


def wipe_demo_from_inside(member: Member, name: str) -> int:
    """Wipes the demo for one of its leads, who names their house to confirm it. Raises Refusal in a house of one's own, and for another name."""
    if not member.house.is_demo:
        raise Refusal(message("{house} is no demo", house=member.house.name), "name", code="not_the_demo")
    if name.strip() != member.house.name:
        raise Refusal(
            message("This house has another name"),
            "name",
            remedy=message("Write “{name}” to wipe it", name=member.house.name),
            code="not_confirmed",
        )
    return wipe_demo()
