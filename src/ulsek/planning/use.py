"""What was used of each prep, by what was noted of its bottles, and the pars that follow from it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from datetime import date, datetime, timedelta
from uuid import UUID

from ulsek.batches.models import LotEvent
from ulsek.core.planning.prep_facts import PrepFacts
from ulsek.core.planning.used import WINDOW_DAYS, ParFromUse, UsedBetween, noted_use, par_from_use
from ulsek.team.models import House

_EVEN = (1.0,) * 7


def _noted(house: House, specs: Mapping[UUID, PrepFacts], now: datetime) -> dict[UUID, list[UsedBetween]]:
    """Returns what was noted as used of each spec within the days that count: pours on their day, and what a count found lacking since the count before it.

    What went into other batches is no use: a schedule adds it by itself. A count that found more than was thought is omitted.
    """
    earliest = house.day(now) - timedelta(days=WINDOW_DAYS)
    rows = LotEvent.objects.filter(
        lot__house=house,
        lot__what="",
        lot__run__version__spec__in=list(specs),
        kind__in=("used", "counted"),
        at__gte=house.day_ends(earliest),
    )
    found: dict[UUID, list[UsedBetween]] = defaultdict(list)
    since: dict[int, date] = {}
    values = rows.order_by("at").values_list("lot", "lot__made_at", "lot__run__version__spec", "kind", "body", "at")
    for lot, made_at, spec, kind, body, at in values:
        day = house.day(at)
        if kind == "used":
            found[spec].append(UsedBetween(day, day, float(body["amount"])))
            continue
        first = since.get(lot, max(earliest, house.day(made_at)))
        since[lot] = day
        lacking = float(body["before"]) - float(body["amount"]) if "before" in body else 0.0
        if lacking > 0.0:
            found[spec].append(UsedBetween(min(first, day), day, lacking))
    return found


def pars_by_use(
    house: House, preps: Mapping[UUID, PrepFacts], pars: Mapping[UUID, tuple[float, ...]], now: datetime
) -> dict[UUID, ParFromUse]:
    """Returns the par by use of each prep, by the id of its spec, of whose use enough was noted."""
    today = house.day(now)
    found = {}
    for spec, noted in _noted(house, preps, now).items():
        usual = pars.get(spec, _EVEN)
        by_use = par_from_use(noted_use(noted, usual, today), usual, preps[spec].lasts_days)
        if by_use is not None:
            found[spec] = by_use
    return found
