"""Count, toss or move a delivery."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.delivery import checked_left_g
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import StockEvent, StockItem


def _counted(item: StockItem, body: Mapping[str, Any], at: datetime) -> None:
    item.remaining_g = Decimal(f"{checked_left_g(body.get('left_g')):.1f}")
    # A delivery with nothing left is gone; one that is counted again is back.
    item.gone_at = None if item.remaining_g else at


def _tossed(item: StockItem, body: Mapping[str, Any], at: datetime) -> None:
    free_text(body.get("reason"), "body/reason", 200, message("Why is it tossed?"))
    if item.gone_at is not None:
        raise Refusal(message("{item} is gone already", item=str(item)), "kind", code="gone")
    item.remaining_g, item.gone_at = Decimal(0), at


def _moved(item: StockItem, body: Mapping[str, Any], at: datetime) -> None:
    del at
    item.place = free_text(body.get("place"), "body/place", 60, message("Where does it stand now?"))


_ACTIONS: Mapping[str, Callable[[StockItem, Mapping[str, Any], datetime], None]] = {"counted": _counted, "tossed": _tossed, "moved": _moved}


@action
def change_stock(member: Member, stock_id: UUID, kind: str, body: Mapping[str, Any], at: datetime | None = None) -> StockItem:
    """Returns the delivery after it was counted (`left_g` [g]), tossed (`reason`) or moved (`place`), which is stored as an event with the amount before.

    Raises Refusal for an unknown change, figures that cannot be, and a count of a recalled delivery.
    """
    if kind not in _ACTIONS:
        raise Refusal(
            message("“{kind}” is nothing that is done to a delivery", kind=kind),
            "kind",
            message("there are {kinds}", kinds=listed(_ACTIONS, "comma")),
            code="unknown_kind",
        )
    # Locked: a batch that finishes meanwhile takes from the same row.
    item = locked_or_404(StockItem.objects.filter(pk=stock_id, house=member.house))
    if item.recalled:
        raise Refusal(
            message("{item} was recalled: {recalled}", item=str(item), recalled=item.recalled),
            "kind",
            remedy=message("Put it away, and take another in"),
            code="recalled",
        )
    before, when = float(item.remaining_g), at or timezone.now()
    _ACTIONS[kind](item, body, when)
    item.save(update_fields=["remaining_g", "gone_at", "place"])
    said = {name: value for name, value in body.items() if name in ("left_g", "reason", "place")}
    StockEvent.objects.create(stock=item, kind=kind, body={**said, "before_g": before}, by=member.person, at=when)
    member.wrote(f"stock_{kind}", str(item), at=at, before_g=before, **said)
    return item
