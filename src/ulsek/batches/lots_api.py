"""Lots over HTTP: those on the shelf and those that are gone, their labels, changes, tracing and recalls."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Query, Router, Status

from ulsek.core.safety.on_the_shelf import FOUND_ML
from ulsek.devices.label import pdf_answer
from ulsek.specs.models import Version
from ulsek.stores.models import StockItem
from ulsek.stores.queries import stock_action_row
from ulsek.stores.schemas import StockActionIn
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.listing import Slice, holding, slice_of
from ulsek.team.schema import Schema

from .actions.change_lot import change_lot
from .actions.label_found import FoundBottle, label_found
from .actions.recall import recall
from .label import lot_label
from .models import Lot
from .queries import lot_rows
from .schemas import LotOut, LotQuery, RecallIn, RecallOut, TraceNode, TraceOut
from .tracing import trace_delivery, trace_lot

router = Router(tags=["lots"])


def _lots() -> Any:
    return Lot.objects.select_related("run__version__withdrawal", "run__version__spec", "split_of__run")


@router.get("/lots", response=answers(Slice[LotOut]))
def lots(request: HttpRequest, asked: Query[LotQuery]) -> Slice[LotOut]:
    """Returns lots, the first to expire first."""
    member, now = member_of(request), timezone.now()
    found = Lot.objects.filter(holding(asked.find, "code", "name"), house=member.house, gone_at__isnull=asked.state == "open")
    shown = slice_of(found.select_related("run__version__withdrawal"), ("use_by", "code"), asked)
    return shown.each(lot_rows(member, now))


@router.get("/lots/{code}", response=answers(LotOut))
def lot(request: HttpRequest, code: str) -> LotOut:
    """One lot."""
    member = member_of(request)
    found = get_object_or_404(Lot.objects.select_related("run__version__withdrawal"), code=code, house=member.house)
    return lot_rows(member, timezone.now())(found)


@router.get("/lots/{code}/label.pdf", response={200: None})
def label(request: HttpRequest, code: str, size: str = "100x70") -> HttpResponse:
    """The lot's label as PDF."""
    member = member_of(request)
    found = get_object_or_404(Lot, code=code, house=member.house)
    return pdf_answer([lot_label(member, found)], size, found.code)


class FoundIn(Schema):
    """A bottle whose making was not recorded: of a spec, or only a name; made so many days ago, or nobody knows when."""

    spec: UUID | None = None
    name: str = ""
    days_ago: int | None = None
    amount_ml: float = FOUND_ML
    place: str = ""


@router.post("/lots", response={201: answers(LotOut)})
def label_bottle(request: HttpRequest, payload: FoundIn) -> Status[LotOut]:
    """Labels a bottle whose making was not recorded, with what is known of it."""
    member = member_of(request)
    found = label_found(member, FoundBottle(**payload.model_dump()))
    return Status(201, lot_rows(member, timezone.now())(found))


@router.post("/lots/{code}/events", response=answers(LotOut))
def change(request: HttpRequest, code: str, payload: StockActionIn) -> LotOut:
    """Changes a lot."""
    member = member_of(request)
    change_lot(member, code, payload.kind, payload.body)
    return lot_rows(member, timezone.now())(_lots().get(code=code, house=member.house))


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
