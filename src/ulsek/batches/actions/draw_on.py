"""Take from the pinned deliveries and lots. Part of the actions that start a batch or record its events."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any
from uuid import UUID

from ulsek.stores.models import StockItem
from ulsek.team.locks import locked
from ulsek.team.models import House

from ..models import Drawn, Lot, Run, RunStock


def _pinned(snapshot: Mapping[str, Any], keys: Iterable[str]) -> tuple[set[UUID], dict[str, str]]:
    """Returns the deliveries, and the codes of lots by material, that a run pinned for these materials."""
    wanted = set(keys)
    stock = {UUID(item) for key, item in snapshot["stock"].items() if key in wanted}
    return stock, {key: code for key, code in snapshot["lots"].items() if key in wanted}


def lock_supplies(house: House, snapshot: Mapping[str, Any], keys: Iterable[str], *, shared: bool) -> None:
    """Locks the deliveries, then the lots, that a run pinned for the materials `keys`: `shared` if it only refers to them, alone if it takes from them."""
    stock, lots = _pinned(snapshot, keys)
    locked(StockItem.objects.filter(pk__in=stock, house=house), shared=shared)
    locked(Lot.objects.filter(house=house, code__in=lots.values()), shared=shared)


def draw_on(run: Run, keys: Iterable[str]) -> None:
    """Stores which deliveries and lots a run draws on: those that it pinned for the materials `keys`, and no others. Does nothing for a rehearsal.

    Marks the run as recalled if one of them is. The caller has locked them (`lock_supplies`).
    """
    if run.rehearsal:
        return
    stock, lots = _pinned(run.snapshot, keys)
    RunStock.objects.filter(run=run).exclude(stock__in=stock).delete()
    for stock_id in sorted(stock):
        RunStock.objects.get_or_create(run=run, stock_id=stock_id)
    Drawn.objects.filter(run=run).exclude(material__in=lots).delete()
    known = {lot.code: lot for lot in Lot.objects.filter(house=run.house, code__in=lots.values())}
    for key, code in sorted(lots.items()):
        Drawn.objects.update_or_create(run=run, material=key, defaults={"lot": known[code]})
    bad = [lot.recalled for lot in known.values()]
    bad += StockItem.objects.filter(pk__in=stock).exclude(recalled="").values_list("recalled", flat=True)
    run.recalled = run.recalled or next((why for why in bad if why), "")
