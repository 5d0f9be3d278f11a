"""Lots over HTTP: changes, tracing and recalls."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router

from ulsek.specs.models import Version
from ulsek.stores.models import StockItem
from ulsek.stores.queries import stock_action_row
from ulsek.stores.schemas import StockActionIn
from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .actions.change_lot import change_lot
from .actions.recall import recall
from .models import Lot
from .queries import lot_row
from .schemas import LotOut, RecallIn, RecallOut, TraceNode, TraceOut
from .tracing import trace_delivery, trace_lot

router = Router(tags=["lots"])


def _lots() -> Any:
    return Lot.objects.select_related("run__version__withdrawal", "run__version__spec", "split_of__run")


@router.post("/lots/{code}/events", response=answers(LotOut))
def change(request: HttpRequest, code: str, payload: StockActionIn) -> LotOut:
    """Changes a lot."""
    member = member_of(request)
    change_lot(member, code, payload.kind, payload.body)
    return lot_row(member, _lots().get(code=code, house=member.house), timezone.now())


@router.get("/lots/{code}/trace", response=answers(TraceOut))
def trace(request: HttpRequest, code: str) -> TraceOut:
    """What went into a lot, what it went into, and its changes."""
    lot = get_object_or_404(_lots(), code=code, house=member_of(request).house)
    made_of, went_into = trace_lot(lot)
    events = tuple(map(stock_action_row, lot.events.select_related("by").order_by("-at", "kind")[:50]))
    return TraceOut(made_of=made_of, went_into=went_into, events=events)


def _reached(marked: Mapping[str, list[str]]) -> RecallOut:
    return RecallOut(lots=tuple(marked["lots"]), runs=tuple(marked["runs"]))


@router.post("/lots/{code}/recall", response=answers(RecallOut))
def recall_lot(request: HttpRequest, code: str, payload: RecallIn) -> RecallOut:
    """Recalls a lot, and everything that was made with it."""
    member = member_of(request)
    lot = get_object_or_404(Lot, code=code, house=member.house)
    return _reached(recall(member, payload.why, lot=lot))


@router.get("/stock/{stock_id}/trace", response=answers(tuple[TraceNode, ...]))
def trace_crate(request: HttpRequest, stock_id: UUID) -> list[TraceNode]:
    """The bottles and batches that hold something of a delivery."""
    return list(trace_delivery(get_object_or_404(StockItem, pk=stock_id, house=member_of(request).house)))


@router.post("/stock/{stock_id}/recall", response=answers(RecallOut))
def recall_crate(request: HttpRequest, stock_id: UUID, payload: RecallIn) -> RecallOut:
    """Recalls a delivery, and every bottle that holds something of it."""
    member = member_of(request)
    item = get_object_or_404(StockItem, pk=stock_id, house=member.house)
    return _reached(recall(member, payload.why, stock=item))


@router.post("/specs/{spec_id}/versions/{number}/recall", response=answers(RecallOut))
def recall_version(request: HttpRequest, spec_id: UUID, number: int, payload: RecallIn) -> RecallOut:
    """Recalls every bottle of a version, and what was made with them."""
    member = member_of(request)
    version = get_object_or_404(Version, spec=spec_id, spec__house=member.house, number=number)
    return _reached(recall(member, payload.why, version=version))
