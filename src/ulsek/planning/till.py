"""A till's table with the names that a house knows, and what was used by it of preps and of what goes straight into drinks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import cast
from uuid import UUID

from ulsek.computing import in_time
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.core.planning.pour_cost import Bill
from ulsek.core.planning.poured import Poured, weekday_means
from ulsek.core.planning.prep_facts import PrepFacts
from ulsek.core.planning.till import DateOrder, TillTable, read_till, till_columns, used_of
from ulsek.core.planning.used import WINDOW_DAYS
from ulsek.specs.models import Spec
from ulsek.team.models import House

from .bills import bills_of
from .models import DayChange, MenuDrink, Sale, TillFormat, TillName
from .till_schemas import TillDrink, TillNameOut, TillRead

MOST_BYTES = 16_000_000
"""Largest file of a till [B]."""
_SAID = ("columns", "order")
"""What may be said of a file before it is read."""


@dataclass(frozen=True, slots=True)
class TillFile:
    """A file of a till as text, and how it is said to be written."""

    text: str
    meanings: tuple[str, ...]
    order: DateOrder

    def table(self, house: House) -> TillTable:
        """Returns what was sold. Raises Refusal as `read_till` does."""
        return in_time(read_till, self.text, meanings=self.meanings, order=self.order, turns=house.day_turns)


def till_file(house: House, data: bytes, meanings: Sequence[str], order: DateOrder) -> TillFile:
    """Returns a file of a till. What is not said of it is taken as it was said of a file with the same heads before. Raises Refusal for a file that is too large or no text."""
    if len(data) > MOST_BYTES:
        raise Refusal(
            message("The file is too large"), "file", message("at most 16 MB"), message("Take it in parts, a month at a time"), "too_long"
        )
    text = _text(data)
    known = TillFormat.objects.filter(house=house).first()
    if known is not None and not meanings and [one.head for one in till_columns(text)] == known.heads:
        meanings, order = known.meanings, order or cast(DateOrder, known.order)
    return TillFile(text, tuple(meanings), order)


def _text(data: bytes) -> str:
    for encoding in ("utf-8-sig", "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise Refusal(message("The file is no text"), "file", remedy=message("Export it as CSV"), code="unreadable")


def drinks_of(house: House) -> dict[str, Spec]:
    """Returns the published drinks of a house by their plain names."""
    return {plain(spec.name): spec for spec in Spec.objects.filter(house=house, family="drink", newest__isnull=False).order_by("name")}


def meant(house: House, names: Sequence[str]) -> dict[str, UUID | None]:
    """Returns the drink of each name that the house knows: as it was said, or by a drink of the same name; a name of which nobody has said it is omitted."""
    said = {row.plain: row.spec_id for row in TillName.objects.filter(house=house)}
    drinks = drinks_of(house)
    found: dict[str, UUID | None] = {}
    for name in names:
        key = plain(name)
        if key in said:
            found[name] = said[key]
        elif key in drinks:
            found[name] = drinks[key].pk
    return found


def till_read(house: House, file: TillFile) -> TillRead:
    """Returns what is understood of a file, with what its names are taken for, or what has to be said first. Raises Refusal for one that cannot be read at all."""
    drinks = tuple(TillDrink(spec=spec.pk, name=spec.name) for spec in drinks_of(house).values())
    try:
        table = file.table(house)
    except Refusal as refusal:
        if refusal.where not in _SAID:
            raise
        columns = till_columns(file.text, file.meanings)
        return TillRead(
            columns=columns, order=file.order, needs=refusal.what, where=refusal.where, first=None, last=None, rows=0, unread=0, told=(),
            names=(), drinks=drinks,
        )  # fmt: skip
    counts: dict[str, float] = defaultdict(float)
    for one in table.sold:
        counts[one.product] += one.count
    known = meant(house, list(counts))
    names = [
        TillNameOut(name=name, count=count, spec=known.get(name), is_known=name in known)
        for name, count in sorted(counts.items(), key=lambda item: (item[0] in known, -item[1], item[0]))
    ]
    return TillRead(
        columns=table.columns,
        order=table.order,
        needs=None,
        where="",
        first=table.sold[0].day,
        last=table.sold[-1].day,
        rows=table.rows,
        unread=table.unread,
        told=table.told,
        names=tuple(names),
        drinks=drinks,
    )


@dataclass(frozen=True, slots=True)
class _Sold:
    """What was sold on the days that are over and of which the till has told [count, by day and drink], with the bill and the spill [%] of each drink."""

    by_day: Mapping[date, Mapping[str, float]]
    bills: Mapping[str, Bill]
    spill_percent: Mapping[str, float]
    names: Mapping[str, str]

    def used(self, per_serve: Mapping[str, float]) -> dict[date, float]:
        """Returns what was used of something on each day, in the unit of `per_serve`."""
        return used_of(self.by_day, per_serve, self.spill_percent)


def _sold(house: House, now: datetime) -> _Sold:
    today = house.day(now)
    by_day: dict[date, dict[str, float]] = defaultdict(dict)
    rows = Sale.objects.filter(house=house, day__gte=today - timedelta(days=WINDOW_DAYS), day__lt=today)
    for day, spec, count in rows.values_list("day", "spec", "count"):
        by_day[day][str(spec)] = count
    sold = {UUID(spec) for drinks in by_day.values() for spec in drinks}
    drinks = list(Spec.objects.filter(pk__in=sold, newest__isnull=False).select_related("newest"))
    spill = MenuDrink.objects.filter(house=house, spec__in=sold).values_list("spec", "spill_percent")
    return _Sold(
        by_day, bills_of(drinks), {str(spec): float(percent) for spec, percent in spill}, {str(one.pk): one.name for one in drinks}
    )


def used_by_till(house: House, preps: Mapping[UUID, PrepFacts], now: datetime) -> dict[UUID, dict[date, float]]:
    """Returns what was used of each prep on the days that are over and of which the till has told [mL], by the id of its spec; preps that go into no drink that was sold are omitted."""
    sold = _sold(house, now)
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
    """Returns how much of each material that is no prep goes straight into drinks on each of the `days` [g], by what the till told; an unusual day takes so many times as much."""
    sold = _sold(house, now)
    times = {row.day: row.times for row in DayChange.objects.filter(house=house, day__gte=days[0], day__lte=days[-1])}
    found = {}
    for key in sorted({key for bill in sold.bills.values() for key in bill.inputs_g} - set(preps)):
        per_serve = {drink: bill.inputs_g[key] / bill.serves for drink, bill in sold.bills.items() if key in bill.inputs_g}
        usual = weekday_means(sold.used(per_serve))
        names = tuple(sorted(sold.names[drink] for drink in per_serve))
        found[key] = Poured(tuple(usual[day.weekday()] * times.get(day, 1.0) for day in days), names)
    return found
