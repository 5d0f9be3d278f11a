"""Stocktake: the order in which stock is counted, and the differences between counted and recorded amounts, in amount and money."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from decimal import Decimal
from statistics import median

_CENT = Decimal("0.01")
_NEVER = datetime.max.replace(tzinfo=UTC)


@dataclass(frozen=True, slots=True)
class StocktakeItem:
    """An item of stock with its place (empty if unknown) and the time of its last count (None if it was never counted)."""

    key: str
    name: str
    place: str
    counted_at: datetime | None


def walk_order(items: Iterable[StocktakeItem]) -> tuple[str, ...]:
    """Returns the keys of the items in the order of the last stocktake: places by the median time of their counts, the items of a place by the time of each.

    Items that were never counted follow by name, places without counts follow those with, and items without a place come last. The median keeps a place where it is if a
    single item was counted at another time.
    """
    found = tuple(items)
    counts: dict[str, list[float]] = {}
    for item in found:
        if item.counted_at is not None:
            counts.setdefault(item.place, []).append(item.counted_at.timestamp())

    def place_in_walk(item: StocktakeItem) -> tuple[bool, bool, float, str, datetime, str, str]:
        at = counts.get(item.place)
        return (
            not item.place, at is None, median(at) if at else 0.0, item.place.casefold(), item.counted_at or _NEVER, item.name.casefold(), item.key,
        )  # fmt: skip

    return tuple(item.key for item in sorted(found, key=place_in_walk))


@dataclass(frozen=True, slots=True)
class Count:
    """A count: the recorded amount `before` it and the counted amount `left` [g or mL]."""

    before: float
    left: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Gap:
    """Counted minus recorded amount [g or mL], negative if some is missing, and its value [currency; None without a price]."""

    amount: float
    money: Decimal | None


def gap_of(counts: Iterable[Count], price: Decimal | None) -> Gap | None:
    """Returns the sum of the differences of all counts of one item, at a `price` [currency per g or mL]; None without a count.

    Each count is compared with the amount recorded just before it, so that use between two counts is no difference, and a corrected count replaces the one before.
    """
    found = tuple(counts)
    if not found:
        return None
    amount = sum(one.left - one.before for one in found)
    return Gap(amount=amount, money=None if price is None else (price * Decimal(repr(amount))).quantize(_CENT))


@dataclass(frozen=True, slots=True, kw_only=True)
class GapTotal:
    """Value of all missing and of all surplus stock [currency, both 0 or more], and the number of differences without a price [count]."""

    lacks: Decimal
    over: Decimal
    unpriced: int


def total_of(gaps: Mapping[str, Gap]) -> GapTotal:
    """Returns the totals of the differences. Missing stock is not netted against surplus stock."""
    known = [gap.money for gap in gaps.values() if gap.money is not None]
    return GapTotal(
        lacks=-sum((money for money in known if money < 0), Decimal(0)),
        over=sum((money for money in known if money > 0), Decimal(0)),
        unpriced=sum(gap.money is None and gap.amount != 0.0 for gap in gaps.values()),
    )
