"""Orders: when a supplier delivers, by when it has to be ordered, and how many packs."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime, time, timedelta
from decimal import Decimal

from ..base.messages import message
from ..base.refusals import Refusal
from .house_experience import figure
from .poured import poured_before_g, runs_out_min
from .schedule import Schedule
from .situation import Situation

_LOOKED_AT_DAYS = 21
MOST_LEAD_DAYS = 14
"""Most days between an order and its delivery that a supplier's terms may say [d]; house judgement."""


@dataclass(frozen=True, slots=True)
class SupplierTerms:
    """When a supplier delivers: on which days of the week (0 is Monday), at what time, and by when on which day before it has to be ordered."""

    weekdays: tuple[int, ...]
    cut_off: time
    lead_days: int
    arrives: time


def _usual() -> SupplierTerms:
    def clock(name: str) -> time:
        hours = figure("usual_delivery", name)
        return time(int(hours), round(hours % 1 * 60))

    return SupplierTerms(tuple(range(6)), clock("cut_off_h"), int(figure("usual_delivery", "lead_days")), clock("arrives_h"))


USUAL_TERMS = _usual()
"""Of a supplier of whom nobody has written when they deliver: the day after, not on Sundays. House experience."""


def checked_terms(terms: SupplierTerms) -> SupplierTerms:
    """Returns the terms. Raises Refusal at `weekdays` unless they are distinct numbers from 0 to 6 and at least one, and at `lead_days` outside 0 to 14."""
    if not terms.weekdays or len(set(terms.weekdays)) != len(terms.weekdays) or not set(terms.weekdays) <= set(range(7)):
        raise Refusal(
            message("These are no days of a week"),
            "weekdays",
            message("each once, Monday is 0"),
            message("Choose the days on which they deliver"),
            "out_of_bounds",
        )
    if not 0 <= terms.lead_days <= MOST_LEAD_DAYS:
        raise Refusal(
            message("Nobody orders so far ahead"), "lead_days", message("from 0 to {most}", most=MOST_LEAD_DAYS), code="out_of_bounds"
        )
    return terms


def next_delivery(terms: SupplierTerms, now: datetime) -> tuple[datetime, datetime] | None:
    """Returns (by when to order, when it arrives) of the next delivery that can still be ordered; None if there is none within three weeks.

    `now` is a moment in the house's zone, whose clock the terms are told by. Ordered on Wednesday until 16:00 for Thursday 10:00: at 15:59 that one, at 16:01 Friday's.
    """
    for ahead in range(_LOOKED_AT_DAYS):
        day = now.date() + timedelta(days=ahead)
        if day.weekday() not in terms.weekdays:
            continue
        order_by = datetime.combine(day - timedelta(days=terms.lead_days), terms.cut_off, now.tzinfo)
        arrives = datetime.combine(day, terms.arrives, now.tzinfo)
        # Compared as moments: on the night when the clock changes, the hour on it is no order.
        if order_by.astimezone(UTC) >= now.astimezone(UTC) and arrives.astimezone(UTC) > now.astimezone(UTC):
            return order_by, arrives
    return None


_OVERDUE_MIN = figure("overdue_order_min")


def expected_arrival_min(arrives_min: float) -> float | None:
    """Returns the expected arrival of an open order [min from now]: `arrives_min`, or 0 for an order that is overdue by at most a day; None if it is overdue by more.

    Source: house experience.
    """
    return None if arrives_min < -_OVERDUE_MIN else max(0.0, arrives_min)


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderLine:
    """A material to order: what the list wants, what is here [g], and the packs that cover the difference; `price` of all of them, null if nobody knows it."""

    material: str
    name: str
    wanted_g: float
    here_g: float
    lacking_g: float
    packs: int
    pack_g: float
    price: Decimal | None
    needed_at: datetime
    needed_for: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ToOrder:
    """What to order of one supplier, by when, and when it comes. `is_today` marks one that has to be ordered today. `price` counts those that are known."""

    supplier: str
    order_by: datetime | None
    arrives: datetime | None
    is_today: bool
    price: Decimal
    lines: tuple[OrderLine, ...]


@dataclass(frozen=True, slots=True)
class _Wanted:
    """Need of a material: the mass wanted and the mass to order [g], the first time at which it is needed [min from now], and the names of the preps and drinks that need it."""

    wanted_g: float
    lacking_g: float
    needed_min: float
    needed_for: tuple[str, ...]


def _by_batches(situation: Situation, made: Schedule) -> dict[str, _Wanted]:
    """Returns the need of each material by the batches of a schedule, whether or not any has to be ordered."""
    found = {}
    for key in dict.fromkeys(claim.material for claim in made.fruit.claims):
        claims = [claim for claim in made.fruit.claims if claim.material == key]
        short = [claim for claim in claims if claim.ordered_g > 0.0]
        found[key] = _Wanted(
            math.fsum(claim.mass_g for claim in claims),
            math.fsum(claim.ordered_g for claim in claims),
            min((claim.at_min for claim in short), default=math.inf),
            tuple(dict.fromkeys(situation.preps[claim.batch[0]].name for claim in short)),
        )
    return found


_NOTHING = _Wanted(0.0, 0.0, math.inf, ())


def _with_poured(situation: Situation, key: str, batches: _Wanted) -> _Wanted:
    """Returns the need of a material by batches, increased by its direct use in drinks until the first delivery that can be ordered after the next one has arrived."""
    poured, supply = situation.poured.get(key), situation.materials[key]
    if poured is None:
        return batches
    opens = [day.opens_min for day in situation.days]
    until = next((at for at in (supply.following_min, supply.arrives_min) if at is not None), opens[-1])
    takes = poured_before_g(poured.per_day_g, opens, until)
    here = supply.here_g + math.fsum(one.mass_g for one in supply.coming if one.at_min < until) - batches.wanted_g
    lacking = max(batches.lacking_g, takes - here)
    if lacking <= batches.lacking_g:
        return replace(batches, wanted_g=batches.wanted_g + takes)
    out = runs_out_min(poured.per_day_g, opens, here)
    return _Wanted(
        batches.wanted_g + takes,
        lacking,
        min(batches.needed_min, math.inf if out is None else max(0.0, out)),
        (*batches.needed_for, *poured.drinks),
    )


def to_order(situation: Situation, made: Schedule) -> tuple[ToOrder, ...]:
    """Returns the orders that the batches of a schedule and what the bar pours itself need, one per supplier, by their cut-off. Packs are rounded up; amounts in g, prices in the
    currency of the house.
    """
    batches = _by_batches(situation, made)
    by_supplier: dict[str, list[OrderLine]] = {}
    for key in dict.fromkeys((*batches, *situation.poured)):
        supply = situation.materials.get(key)
        wanted = _with_poured(situation, key, batches.get(key, _NOTHING)) if supply else _NOTHING
        if supply is None or wanted.lacking_g <= 0.0:
            continue
        packs = max(1, math.ceil(wanted.lacking_g / supply.pack_g - 1e-9)) if supply.pack_g > 0.0 else 1
        by_supplier.setdefault(supply.supplier, []).append(
            OrderLine(
                material=key,
                name=supply.name,
                wanted_g=wanted.wanted_g,
                here_g=supply.here_g,
                lacking_g=wanted.lacking_g,
                packs=packs,
                pack_g=supply.pack_g,
                price=None if supply.price is None else packs * Decimal(supply.price),
                needed_at=situation.at(wanted.needed_min),
                needed_for=wanted.needed_for,
            )
        )
    return tuple(sorted((_order(situation, name, lines) for name, lines in by_supplier.items()), key=_first_cut_off))


def _order(situation: Situation, supplier: str, lines: Iterable[OrderLine]) -> ToOrder:
    ordered = tuple(sorted(lines, key=lambda one: one.name))
    of: Mapping[str, float | None] = {
        name: next((getattr(situation.materials[one.material], name) for one in ordered), None) for name in ("order_by_min", "arrives_min")
    }
    order_by, arrives = of["order_by_min"], of["arrives_min"]
    return ToOrder(
        supplier=supplier,
        order_by=None if order_by is None else situation.at(order_by),
        arrives=None if arrives is None else situation.at(arrives),
        is_today=order_by is not None and order_by < situation.days[0].ends_min,
        price=sum((one.price for one in ordered if one.price is not None), Decimal(0)),
        lines=ordered,
    )


def _first_cut_off(order: ToOrder) -> tuple[float, str]:
    return order.order_by.timestamp() if order.order_by else math.inf, order.supplier
