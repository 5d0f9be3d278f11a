"""A count of everything on the shelf: the order in which it is walked, and what a count finds lacking or over, in amount and money."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from decimal import Decimal
from statistics import median

_CENT = Decimal("0.01")
_NEVER = datetime.max.replace(tzinfo=UTC)


@dataclass(frozen=True, slots=True)
class Shelved:
    """Something that stands in a place (empty: nobody has said where), and when it was last counted (None: never)."""

    key: str
    name: str
    place: str
    counted_at: datetime | None


def walk_order(items: Iterable[Shelved]) -> tuple[str, ...]:
    """Returns the keys in the order in which the shelf was last walked: places by the median time of their last counts, in a place by the time of each.

    What was never counted follows by name, a place without counts after those with, and what stands in no known place comes last. A single thing that was counted at
    another time does not move its place.
    """
    found = tuple(items)
    counts: dict[str, list[float]] = {}
    for item in found:
        if item.counted_at is not None:
            counts.setdefault(item.place, []).append(item.counted_at.timestamp())

    def place_in_walk(item: Shelved) -> tuple[bool, bool, float, str, datetime, str, str]:
        at = counts.get(item.place)
        return (
            not item.place, at is None, median(at) if at else 0.0, item.place.casefold(), item.counted_at or _NEVER, item.name.casefold(), item.key,
        )  # fmt: skip

    return tuple(item.key for item in sorted(found, key=place_in_walk))


@dataclass(frozen=True, slots=True)
class Count:
    """A count: what the books said `before` and what is `left` [g or mL]."""

    before: float
    left: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Gap:
    """What counts found over (positive) or lacking (negative) [g or mL], and its value [currency; None without a price]."""

    amount: float
    money: Decimal | None


def gap_of(counts: Iterable[Count], price: Decimal | None) -> Gap | None:
    """Returns the gap of the counts of one thing, at a `price` [currency per g or mL]; None without a count.

    Each count is compared with the books just before it: what was used between two counts is no gap, and a count that is corrected leaves the gap of the last one.
    """
    found = tuple(counts)
    if not found:
        return None
    amount = sum(one.left - one.before for one in found)
    return Gap(amount=amount, money=None if price is None else (price * Decimal(repr(amount))).quantize(_CENT))


@dataclass(frozen=True, slots=True, kw_only=True)
class GapTotal:
    """The gaps of a walk: what lacks and what is over [currency, both 0 or more], and how many gaps have no price [count]."""

    lacks: Decimal
    over: Decimal
    unpriced: int


def total_of(gaps: Mapping[str, Gap]) -> GapTotal:
    """Returns the sum of gaps by key. What lacks is not set off against what is over: a bottle in the wrong place is found on both sides."""
    known = [gap.money for gap in gaps.values() if gap.money is not None]
    return GapTotal(
        lacks=-sum((money for money in known if money < 0), Decimal(0)),
        over=sum((money for money in known if money > 0), Decimal(0)),
        unpriced=sum(gap.money is None and gap.amount != 0.0 for gap in gaps.values()),
    )
