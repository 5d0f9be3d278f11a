"""Tracing: the bottles that hold a delivery, and the content of a bottle, through every prep between."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from typing import Any

from django.db.models import Q
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.number_format import figure
from ulsek.core.base.refusals import Refusal
from ulsek.specs.models import Version
from ulsek.specs.outputs import output_key
from ulsek.stores.models import StockItem
from ulsek.team.models import House

from .models import Drawn, Lot, Run, RunStock
from .schemas import TraceNode

_DEEPEST = 12


def lots_of(house: House, keys: Iterable[str]) -> list[tuple[str, Lot]]:
    """Returns the lots on the shelf of what the house makes, by-products included, each with its material; the first to expire first. Some may still rest."""
    wanted = {key.removeprefix("house_"): key for key in keys}
    prefixes = {key.replace("_", "-") for key in wanted}
    # The key of a by-product begins with that of its spec, so every prefix of a wanted key may be a spec.
    specs = {"-".join(words[:n]) for words in (key.split("-") for key in prefixes) for n in range(1, len(words) + 1)}
    rows = Lot.objects.filter(house=house, gone_at=None, left__gt=0, recalled="", run__version__spec__key__in=specs)
    found = (
        (output_key(lot.batch.version.spec.key, lot.what), lot)
        for lot in rows.select_related("run__version__spec", "run__version__withdrawal").order_by("use_by", "code")
    )
    return [(wanted[key], lot) for key, lot in found if key in wanted]


def lots_for(house: House, keys: Iterable[str], at: datetime | None = None) -> dict[str, Lot]:
    """Returns for each material that the house makes the lot to be taken first at a moment: the first to expire that may be poured."""
    now, found = at or timezone.now(), dict[str, Lot]()
    for key, lot in lots_of(house, keys):
        if lot.standing(house, now).state == "good":
            found.setdefault(key, lot)
    return found


def _lot_node(lot: Lot, branches: tuple[TraceNode, ...]) -> TraceNode:
    left = f"{figure(lot.left, 0)} of {figure(lot.amount, 0)} {lot.unit} left, use by {lot.use_by}"
    return TraceNode(kind="lot", code=lot.code, name=lot.name, about=lot.recalled or left, gone=lot.gone_at is not None, branches=branches)


def _after_runs(runs: Iterable[Run], depth: int) -> tuple[TraceNode, ...]:
    """Returns what came of these runs: their lots with what those went into; a run without any as itself."""
    if depth > _DEEPEST:
        raise Refusal(
            message("The trace goes too deep"),
            "code",
            message("at most {deepest} preps below one another", deepest=_DEEPEST),
            code="circle",
        )
    nodes: list[TraceNode] = []
    for run in runs:
        lots = list(run.lots.order_by("code"))
        nodes += [_lot_node(lot, _into(lot, depth + 1)) for lot in lots]
        if not lots:
            gone = run.finished_at is not None
            nodes.append(TraceNode(kind="run", code=run.code, name=run.version.spec.name, about="on the bench", gone=gone))
    return tuple(nodes)


def _runs(ids: Iterable[Any]) -> list[Run]:
    return list(Run.objects.filter(pk__in=list(ids)).select_related("version__spec").order_by("started_at"))


def _into(lot: Lot, depth: int) -> tuple[TraceNode, ...]:
    parts = tuple(_lot_node(part, _into(part, depth + 1)) for part in lot.parts.order_by("code"))
    mixtures = Lot.objects.filter(topped_up_with__lot=lot).distinct().order_by("code")
    parts += tuple(_lot_node(mixture, _into(mixture, depth + 1)) for mixture in mixtures)
    return parts + _after_runs(_runs(Drawn.objects.filter(lot=lot).values_list("run", flat=True)), depth)


def _out_of(lot: Lot, depth: int) -> tuple[TraceNode, ...]:
    if depth > _DEEPEST:
        raise Refusal(
            message("The trace goes too deep"),
            "code",
            message("at most {deepest} preps below one another", deepest=_DEEPEST),
            code="circle",
        )
    others = tuple(
        _lot_node(item.lot, _out_of(item.lot, depth + 1)) for item in lot.topped_up_with.select_related("lot__run", "lot__split_of")
    )
    if lot.split_of is not None:
        return (_lot_node(lot.split_of, _out_of(lot.split_of, depth + 1)), *others)
    if lot.run is None:
        return others
    made_of = [
        _lot_node(item.lot, _out_of(item.lot, depth + 1))
        for item in Drawn.objects.filter(run=lot.run).select_related("lot__run", "lot__split_of").order_by("material")
    ]
    deliveries = [
        TraceNode(
            kind="delivery",
            code=str(item.stock_id),
            name=item.stock.product,
            about=f"{item.stock.supplier}, {item.stock.received_at:%d %b}",
            gone=item.stock.gone_at is not None,
        )
        for item in RunStock.objects.filter(run=lot.run).select_related("stock").order_by("stock__product")
    ]
    return (*made_of, *deliveries, *others)


def trace_lot(lot: Lot) -> tuple[tuple[TraceNode, ...], tuple[TraceNode, ...]]:
    """Returns (what went into a lot, down to the deliveries; what it went into)."""
    return _out_of(lot, 0), _into(lot, 0)


def trace_delivery(item: StockItem) -> tuple[TraceNode, ...]:
    """Returns every lot and open batch that holds something of a delivery."""
    return _after_runs(_runs(RunStock.objects.filter(stock=item).values_list("run", flat=True)), 0)


def reached(*, stock: StockItem | None = None, version: Version | None = None, lot: Lot | None = None) -> list[Lot]:
    """Returns every lot that holds something of a delivery, of a version, or of another lot, gone or not."""
    if lot is not None:
        wave = [lot.pk]
    else:
        runs = (
            list(RunStock.objects.filter(stock=stock).values_list("run", flat=True))
            if stock is not None
            else list(Run.objects.filter(version=version).values_list("pk", flat=True))
        )
        wave = list(Lot.objects.filter(run__in=runs).values_list("pk", flat=True))
    seen: set[int] = set()
    while wave:
        seen |= set(wave)
        onward = Lot.objects.filter(run__in=Drawn.objects.filter(lot__in=wave).values("run")).values_list("pk", flat=True)
        parts = Lot.objects.filter(split_of__in=wave).values_list("pk", flat=True)
        mixtures = Lot.objects.filter(topped_up_with__lot__in=wave).values_list("pk", flat=True)
        wave = [key for key in {*onward, *parts, *mixtures} if key not in seen]
    return list(Lot.objects.filter(pk__in=seen).order_by("code"))


def open_runs_with(lots: Iterable[Lot], *, stock: StockItem | None = None, version: Version | None = None) -> list[Run]:
    """Returns the open batches that take from a delivery or from one of these lots, or are of a version."""
    takes = Q(drawn__lot__in=list(lots))
    if stock is not None:
        takes |= Q(took__stock=stock)
    if version is not None:
        takes |= Q(version=version)
    return list(Run.objects.filter(takes, finished_at=None, rehearsal=False).distinct().order_by("code"))
