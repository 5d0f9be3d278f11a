"""Read a delivery: the reading replaces the typical value, for this delivery alone."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.composition import with_readings
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Reading, StockItem
from ..queries import described


@action
def read_delivery(member: Member, stock_id: UUID, readings: Mapping[str, float], at: datetime | None = None) -> StockItem:
    """Stores the readings (brix_reading [°Bx], acid_g_100ml [g/100 mL]) and sets the delivery's composition from them.

    Raises Refusal for readings out of range of the instruments, and for readings that cannot both be right; nothing is stored then.
    """
    if not readings:
        raise Refusal(message("Nothing was read"), "brix_reading", remedy=message("Type the °Bx, the acid, or both"), code="missing")
    # The row is locked because two people may read one crate at once; the later reading then builds on the earlier.
    item = locked_or_404(StockItem.objects.filter(pk=stock_id, house=member.house))
    body = described(member.house)[item.material]
    when = at or timezone.now()
    source = f"read by {member.person.display_name} on {member.local(when):%d %B %Y}"
    item.makeup = with_readings(item.makeup or body["makeup"], readings, source)
    item.save(update_fields=["makeup"])
    Reading.objects.bulk_create(
        Reading(stock=item, property=name, value=value, at=when, by=member.person) for name, value in readings.items()
    )
    member.wrote("read_delivery", str(item), at=when, readings=dict(readings))
    return item
