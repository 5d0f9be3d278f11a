"""Stocktake of a house: its open deliveries and lots in counting order, and the differences that the counts of a day found."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from decimal import Decimal
from typing import Any, Literal

from django.db.models import Max, Q

from ulsek.core.materials.stocktake import Count, Gap, GapTotal, StocktakeItem, gap_of, total_of, walk_order
from ulsek.specs.projection import material_key_of
from ulsek.stores.models import StockEvent, StockItem
from ulsek.stores.queries import prices_per_kg
from ulsek.team.access import Member
from ulsek.team.models import House

from .models import Lot, LotEvent


@dataclass(frozen=True, slots=True, kw_only=True)
class StocktakeRow:
    """A delivery or a lot with its place and its recorded amount `left` [`unit`]. `id` is the id of a delivery, and the code of a lot.

    `counted_at` is the time of its last count, `gap` the difference found by the counts of the day (None if there was none). `about` is the supplier, or who made it.
    """

    kind: Literal["delivery", "lot"]
    id: str
    code: str
    name: str
    about: str
    place: str
    unit: str
    left: float
    counted_at: datetime | None
    gap: Gap | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StocktakeOut:
    """All items to count on a day in counting order, the number of those that were counted, and the total of their differences."""

    day: date
    rows: tuple[StocktakeRow, ...]
    counted: int
    total: GapTotal


@dataclass(frozen=True, slots=True)
class _Counted:
    """The counts of one item on a day [g or mL], the time of its last count before that day, and of its last count (None if there is none)."""

    counts: tuple[Count, ...] = ()
    before_at: datetime | None = None
    last_at: datetime | None = None


_NEVER = _Counted()
_Key = tuple[Literal["delivery", "lot"], Any]


def _counted(house: House, since: datetime) -> dict[_Key, _Counted]:
    """Returns the counts of each delivery and lot of the house, by its kind and key. The counts of the day are those from `since` on; items without a count are omitted."""
    before: dict[_Key, datetime] = {}
    today: dict[_Key, list[Count]] = defaultdict(list)
    last: dict[_Key, datetime] = {}
    of_stock = StockEvent.objects.filter(stock__house=house, kind="counted")
    of_lots = LotEvent.objects.filter(lot__house=house, kind="counted")
    earlier_stock = of_stock.filter(at__lt=since, stock__gone_at=None).values_list("stock").annotate(last=Max("at")).order_by("stock")
    earlier_lots = of_lots.filter(at__lt=since, lot__gone_at=None).values_list("lot").annotate(last=Max("at")).order_by("lot")
    before |= {("delivery", key): at for key, at in earlier_stock} | {("lot", key): at for key, at in earlier_lots}
    for stock, body, at in of_stock.filter(at__gte=since).order_by("at").values_list("stock", "body", "at"):
        today["delivery", stock].append(Count(float(body["before_g"]), float(body["left_g"])))
        last["delivery", stock] = at
    for lot, body, at in of_lots.filter(at__gte=since).order_by("at").values_list("lot", "body", "at"):
        # Older counts were stored without the amount before: their difference is unknown and counts as 0.
        today["lot", lot].append(Count(float(body.get("before", body["amount"])), float(body["amount"])))
        last["lot", lot] = at
    return {key: _Counted(tuple(today.get(key, ())), before.get(key), last.get(key, before.get(key))) for key in {*before, *today}}


def stocktake(member: Member, now: datetime) -> StocktakeOut:
    """Returns the stocktake of the current day of the house: open deliveries and lots, and those counted today, in the order of the counts before today."""
    house, day = member.house, member.day(now)
    counted = _counted(house, house.day_ends(day - timedelta(days=1)))
    today = {key for key, one in counted.items() if one.counts}
    rows: dict[str, StocktakeRow] = {}
    order: list[StocktakeItem] = []
    gaps: dict[str, Gap] = {}
    for row, counted_as, price in (*_deliveries(house, today), *_lots(house, today)):
        of = counted.get(counted_as, _NEVER)
        gap = gap_of(of.counts, price)
        rows[row.id] = replace(row, counted_at=of.last_at, gap=gap)
        order.append(StocktakeItem(row.id, row.name, row.place, of.before_at))
        if gap is not None:
            gaps[row.id] = gap
    return StocktakeOut(day=day, rows=tuple(rows[key] for key in walk_order(order)), counted=len(gaps), total=total_of(gaps))


def _deliveries(house: House, today: set[_Key]) -> Iterator[tuple[StocktakeRow, _Key, Decimal | None]]:
    """Yields the deliveries of the stocktake with their keys and their price [currency/g; None if unknown]."""
    here = Q(gone_at=None) | Q(pk__in=[key for kind, key in today if kind == "delivery"])
    items = list(StockItem.objects.filter(here, house=house, recalled="").order_by("product", "-received_at"))
    prices = prices_per_kg(house, {item.material for item in items})
    for item in items:
        row = StocktakeRow(
            kind="delivery", id=str(item.pk), code=item.code, name=item.product, about=item.supplier, place=item.place, unit="g",
            left=float(item.remaining_g), counted_at=None, gap=None,
        )  # fmt: skip
        price = item.price_per_kg if item.price_per_kg is not None else prices.get(item.material)
        yield row, ("delivery", item.pk), None if price is None else price / 1000


def _lots(house: House, today: set[_Key]) -> Iterator[tuple[StocktakeRow, _Key, Decimal | None]]:
    """Yields the lots of the stocktake with their keys and their price [currency per unit]: the material cost of their version when it was published; None for a by-product."""
    here = Q(gone_at=None) | Q(pk__in=[key for kind, key in today if kind == "lot"])
    # Without the bodies and snapshots of their batches, which are large.
    rows = Lot.objects.filter(here, house=house, recalled="").select_related("run__version__spec").order_by("use_by", "code")
    lots = list(rows.only("code", "name", "what", "unit", "left", "place", "made_by", "final", "run__version__spec__key"))
    made_of = {lot.pk: material_key_of(lot.run.version.spec.key) for lot in lots if lot.run and not lot.what}
    prices = prices_per_kg(house, made_of.values())
    for lot in lots:
        row = StocktakeRow(
            kind="lot", id=lot.code, code=lot.code, name=lot.name, about=lot.made_by, place=lot.place, unit=lot.unit, left=lot.left,
            counted_at=None, gap=None,
        )  # fmt: skip
        price = prices.get(made_of.get(lot.pk, ""))
        yield row, ("lot", lot.pk), None if price is None else price * Decimal(repr(lot.unit_g)) / 1000
