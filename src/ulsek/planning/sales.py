"""Use of preps and materials computed from the sales of drinks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from uuid import UUID

from ulsek.core.planning.pour_cost import Bill
from ulsek.core.planning.poured import Poured, weekday_means
from ulsek.core.planning.prep_facts import PrepFacts
from ulsek.core.planning.till import used_of
from ulsek.core.planning.used import WINDOW_DAYS
from ulsek.specs.models import Spec
from ulsek.team.models import House

from .bills import bills_of
from .models import DayChange, MenuDrink, Sale


@dataclass(frozen=True, slots=True)
class _Sales:
    """Sales of past days [count] by day and drink; bill of materials, spill [%] and name of each drink."""

    by_day: Mapping[date, Mapping[str, float]]
    bills: Mapping[str, Bill]
    spill_percent: Mapping[str, float]
    names: Mapping[str, str]

    def used(self, per_serve: Mapping[str, float]) -> dict[date, float]:
        """Returns the use of a material on each day, in the unit of `per_serve`."""
        return used_of(self.by_day, per_serve, self.spill_percent)


def _sales(house: House, now: datetime) -> _Sales:
    """Returns the sales of the last 56 days before today."""
    today = house.day(now)
    by_day: dict[date, dict[str, float]] = defaultdict(dict)
    rows = Sale.objects.filter(house=house, day__gte=today - timedelta(days=WINDOW_DAYS), day__lt=today)
    for day, spec, count in rows.values_list("day", "spec", "count"):
        by_day[day][str(spec)] = count
    sold = {UUID(spec) for drinks in by_day.values() for spec in drinks}
    drinks = list(Spec.objects.filter(pk__in=sold, newest__isnull=False).select_related("newest"))
    spill = MenuDrink.objects.filter(house=house, spec__in=sold).values_list("spec", "spill_percent")
    return _Sales(
        by_day, bills_of(drinks), {str(spec): float(percent) for spec, percent in spill}, {str(one.pk): one.name for one in drinks}
    )


def used_by_till(house: House, preps: Mapping[UUID, PrepFacts], now: datetime) -> dict[UUID, dict[date, float]]:
    """Returns the use of each prep [mL] by day, by the id of its spec, computed from sales. Only past days with sales are included; preps that are in no drink sold are omitted."""
    sold = _sales(house, now)
    found = {}
    for spec, facts in preps.items():
        per_serve = {
            drink: bill.inputs_g[facts.key] / facts.density_g_ml / bill.serves
            for drink, bill in sold.bills.items()
            if facts.key in bill.inputs_g
        }
        if per_serve:
            found[spec] = sold.used(per_serve)
    return found


def poured_of(house: House, preps: Collection[str], days: Sequence[date], now: datetime) -> dict[str, Poured]:
    """Returns the expected direct use in drinks of each material other than `preps` on each of the `days` [g]: the mean of its weekday by sales, times the factor of an unusual day."""
    sold = _sales(house, now)
    times = {row.day: row.times for row in DayChange.objects.filter(house=house, day__gte=days[0], day__lte=days[-1])}
    found = {}
    for key in sorted({key for bill in sold.bills.values() for key in bill.inputs_g} - set(preps)):
        per_serve = {drink: bill.inputs_g[key] / bill.serves for drink, bill in sold.bills.items() if key in bill.inputs_g}
        usual = weekday_means(sold.used(per_serve))
        names = tuple(sorted(sold.names[drink] for drink in per_serve))
        found[key] = Poured(tuple(usual[day.weekday()] * times.get(day, 1.0) for day in days), names)
    return found
