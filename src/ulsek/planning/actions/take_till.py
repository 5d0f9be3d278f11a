"""Store the sales of a till."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from datetime import date
from uuid import UUID

from ulsek.core.base.messages import counted, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.core.planning.till import MOST_NAME, MOST_PRODUCTS, TillTable
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import House

from ..models import Sale, TillFormat, TillName
from ..till import drinks_of, meant
from ..till_schemas import TillTaken


@action(receipt=False)
def take_till(member: Member, table: TillTable, names: Mapping[str, UUID | None]) -> TillTaken:
    """Stores the sales of a till's table in place of those of the same days, its format, and the drink that each of `names` stands for (None: no drink of the house).

    Names without a drink are omitted from the sales and returned. Storing the same table again changes nothing. Raises Refusal at `names` for more than 2,000 names, and at a name
    for one that is too long and for a spec that is no published drink of the house.
    """
    house = member.house
    if len(names) > MOST_PRODUCTS:
        raise Refusal(message("That is too many names"), "names", message("at most {most}", most=MOST_PRODUCTS), code="out_of_bounds")
    _assign(house, names)
    columns = table.columns
    said = {"heads": [one.head for one in columns], "meanings": [one.meaning for one in columns], "order": table.order}
    TillFormat.objects.update_or_create(house=house, defaults=said)
    known = meant(house, sorted({one.product for one in table.sold}))
    sold: dict[date, dict[UUID, float]] = defaultdict(dict)
    for one in table.sold:
        spec = known.get(one.product)
        day = sold[one.day]
        if spec is not None:
            day[spec] = day.get(spec, 0.0) + one.count
    new = _kept(member, sold)
    left_out = tuple(sorted({one.product for one in table.sold if known.get(one.product) is None}))
    total = sum(count for day in sold.values() for count in day.values())
    if new:
        member.wrote("take_till", f"{min(sold)} to {max(sold)}", days=len(sold), new_days=new)
    words = (
        counted("{n} day was taken in.", "{n} days were taken in.", new)
        if new
        else message("All of it was there already: nothing changed.")
    )
    return TillTaken(days=len(sold), new_days=new, sold=total, left_out=left_out, said=words)


def _assign(house: House, names: Mapping[str, UUID | None]) -> None:
    """Stores the drink that each name stands for. Raises Refusal at the name for one that is too long, and for a spec that is no published drink of the house."""
    drinks = {spec.pk for spec in drinks_of(house).values()}
    assigned: dict[str, UUID | None] = {}
    for name, spec in names.items():
        if len(plain(name)) > MOST_NAME:
            raise Refusal(
                message("The name is too long"),
                f"names/{name[:MOST_NAME]}",
                message("at most {most} letters", most=MOST_NAME),
                code="too_long",
            )
        if spec is not None and spec not in drinks:
            raise Refusal(
                message("There is no such drink"), f"names/{name}", remedy=message("Choose it from the list"), code="unknown_reference"
            )
        assigned[plain(name)] = spec
    rows = [TillName(house=house, plain=name, spec_id=spec) for name, spec in sorted(assigned.items())]
    TillName.objects.bulk_create(rows, update_conflicts=True, update_fields=["spec"], batch_size=500)


def _kept(member: Member, sold: Mapping[date, Mapping[UUID, float]]) -> int:
    """Stores the sales of each day that differ from the stored ones, and returns the number of those days [count]."""
    rows = Sale.objects.filter(house=member.house, day__in=list(sold))
    before: dict[date, dict[UUID, float]] = defaultdict(dict)
    for day, spec, count in rows.values_list("day", "spec", "count"):
        before[day][spec] = count
    changed = [day for day, drinks in sold.items() if dict(drinks) != before[day]]
    rows.filter(day__in=changed).delete()
    Sale.objects.bulk_create(
        [Sale(house=member.house, day=day, spec_id=spec, count=count) for day in changed for spec, count in sold[day].items()],
        batch_size=2000,
    )
    return len(changed)
