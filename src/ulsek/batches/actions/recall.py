"""Recall: a delivery, a version or a lot is bad; every bottle that holds something of it says so."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction
from django.utils import timezone

from ulsek.core.refusals import Refusal
from ulsek.specs.models import Version
from ulsek.stores.models import StockItem
from ulsek.team.access import Member
from ulsek.team.models import Role

from ..models import Lot, LotEvent
from ..tracing import reached


@transaction.atomic
def recall(
    member: Member,
    why: str,
    *,
    stock: StockItem | None = None,
    version: Version | None = None,
    lot: Lot | None = None,
    at: datetime | None = None,
) -> list[Lot]:
    """Every lot that is reached, marked with the reason; a recalled delivery is taken off the shelf. Refuses an empty reason."""
    member.must_be(Role.LEAD)
    if not why.strip():
        raise Refusal("A recall needs its reason", "why", remedy="Say what is wrong: it stands on every bottle", code="missing")
    reason, when = why.strip()[:300], at or timezone.now()
    lots = reached(stock=stock, version=version, lot=lot)
    for item in lots:
        item.recalled = reason
        item.save(update_fields=["recalled"])
        LotEvent.objects.create(lot=item, kind="recalled", body={"why": reason}, by=member.person, at=when)
    if stock is not None:
        stock.gone_at = stock.gone_at or when
        stock.save(update_fields=["gone_at"])
    member.wrote("recall", str(stock or version or lot), at=at, why=reason, lots=[item.code for item in lots])
    return lots
