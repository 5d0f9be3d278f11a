"""Recall a delivery, a version or a lot, and every bottle that holds something of it."""

from __future__ import annotations

from datetime import datetime

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.specs.models import Version
from ulsek.stores.models import StockItem
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Lot, LotEvent
from ..tracing import open_runs_with, reached


@action(whole_house=True)
def recall(
    member: Member,
    why: str,
    *,
    stock: StockItem | None = None,
    version: Version | None = None,
    lot: Lot | None = None,
    at: datetime | None = None,
) -> dict[str, list[str]]:
    """Marks every lot and every open batch that is reached with the reason, and returns their codes (`lots`, `runs`). A recalled delivery is taken off
    the shelf, and what comes of a marked batch is recalled when it is bottled. Raises Refusal for an empty reason.

    The house is locked alone: no batch is bottled, and no lot is split, while the reach is read.
    """
    reason = free_text(why, "why", 300, message("A recall needs its reason"), message("Say what is wrong: it stands on every bottle"))
    when = at or timezone.now()
    lots = reached(stock=stock, version=version, lot=lot)
    for reached_lot in lots:
        reached_lot.recalled = reason
        reached_lot.save(update_fields=["recalled"])
        LotEvent.objects.create(lot=reached_lot, kind="recalled", body={"why": reason}, by=member.person, at=when)
    if stock is not None:
        # As it stands now: what the caller read may be older than this transaction.
        item = StockItem.objects.get(pk=stock.pk)
        item.gone_at, item.recalled = item.gone_at or when, reason
        item.save(update_fields=["gone_at", "recalled"])
    runs = open_runs_with(lots, stock=stock, version=version)
    for run in runs:
        run.recalled = reason
        run.save(update_fields=["recalled"])
    marked = {"lots": [lot.code for lot in lots], "runs": [run.code for run in runs]}
    member.wrote("recall", str(stock or version or lot), at=at, why=reason, **marked)
    return marked
