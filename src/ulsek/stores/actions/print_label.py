"""Print the labels of a delivery."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.devices.label import MOST_LABELS
from ulsek.devices.printing import print_on
from ulsek.team.access import Member

from ..label import delivery_label
from ..models import StockItem


def print_label(member: Member, stock_id: UUID, printer: UUID, size: str, each: int | None = None) -> int:
    """Prints `each` labels of a delivery (one by default) and returns how many [count]. Raises Refusal for 0 and for too many, and for a printer that stopped."""
    item = get_object_or_404(StockItem, pk=stock_id, house=member.house)
    count = 1 if each is None else each
    if not 0 < count <= MOST_LABELS:
        raise Refusal(
            message("{count} labels cannot be printed at once", count=count),
            "each",
            message("from 1 to {most}", most=MOST_LABELS),
            message("Print fewer"),
            "out_of_bounds",
        )
    return print_on(member, printer, [delivery_label(member, item)] * count, size, what=str(item))
