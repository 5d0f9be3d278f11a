"""Recall: a delivery, a version or a lot is bad; every bottle that holds something of it says so."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db import transaction
from django.utils import timezone

from ulsek.core.refusals import Refusal
from ulsek.specs.models import Version
from ulsek.stores.models import StockItem
from ulsek.team.access import Member
from ulsek.team.models import Role

from ..models import Lot, LotEvent, Run
from ..tracing import open_runs_with, reached


@dataclass(frozen=True)
class Recalled:
    """What a recall reached: lots, and batches that are still on the bench."""

    lots: Sequence[Lot]
    runs: Sequence[Run]

    def as_data(self) -> dict[str, list[str]]:
        return {"lots": [lot.code for lot in self.lots], "runs": [run.code for run in self.runs]}


@transaction.atomic
def recall(
    member: Member,
    why: str,
    *,
    stock: StockItem | None = None,
    version: Version | None = None,
    lot: Lot | None = None,
    at: datetime | None = None,
) -> Recalled:
    """Every lot that is reached, and every open batch, marked with the reason; a recalled delivery is taken off the shelf, and what comes of a marked
    batch is recalled when it is bottled. Refuses an empty reason.
    """
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
        stock.gone_at, stock.recalled = stock.gone_at or when, reason
        stock.save(update_fields=["gone_at", "recalled"])
    runs = open_runs_with(lots, stock=stock, version=version)
    for run in runs:
        run.recalled = reason
        run.save(update_fields=["recalled"])
    member.wrote(
        "recall", str(stock or version or lot), at=at, why=reason, lots=[item.code for item in lots], runs=[run.code for run in runs]
    )
    return Recalled(lots, runs)
