"""The menu of a house with the pour cost of each drink, and its allergen sheet."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict
from datetime import date, datetime
from decimal import Decimal

from django.db.models import Q

from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.pour_cost import Bill, Priced, Prices, pour_cost
from ulsek.core.release.allergen_sheet import allergen_sheet
from ulsek.specs.allergens import answer_of
from ulsek.specs.models import Spec, SpecState
from ulsek.stores.models import HouseMaterial
from ulsek.stores.queries import prices_per_kg, resolved_bodies
from ulsek.team.access import Member
from ulsek.team.models import House

from .bills import bill_of_version
from .menu_schemas import AllergenSheetOut, DrinkToAdd, MenuOut, MenuRow
from .models import MenuDrink


def _cost(prices: Prices, bill: Bill | None) -> Priced | None:
    """Returns the cost of one serve [currency]; None without a bill, and for a drink of preps that are made of one another."""
    try:
        return prices.cost_per_serve(bill) if bill is not None else None
    except Refusal:
        return None


def _prices(house: House, bills: Iterable[Bill]) -> Prices:
    """Returns the prices of today of everything that goes into these bills, at any depth: as `prices_per_kg` finds them."""
    made: dict[str, Bill] = {}
    bought: set[str] = set()
    wave = {key for bill in bills for key in bill.inputs_g}
    while wave:
        maker = {
            key: str(made_by)
            for key, made_by in HouseMaterial.objects.filter(house=house, key__in=wave).values_list("key", "body__made_by")
            if made_by
        }
        newest = Spec.objects.filter(house=house, key__in=maker.values(), newest__isnull=False).values_list("key", "newest", "newest__at")
        found = {key: bill_of_version(version, at) for key, version, at in newest if version and at}
        below = {key: bill for key, spec in maker.items() if (bill := found.get(spec)) is not None}
        made |= below
        bought |= wave - set(below)
        wave = {key for bill in below.values() for key in bill.inputs_g} - set(made) - bought
    known = prices_per_kg(house, bought)
    return Prices({key: known.get(key) for key in bought}, made)


def menu(member: Member, day: date) -> MenuOut:
    """Returns the drinks that are on the menu on a day or later, with their pour cost at the prices of today, and the published drinks that are not on it."""
    house = member.house
    rows = list(
        MenuDrink.objects.filter(house=house)
        .filter(Q(last__gte=day) | Q(last=None))
        .select_related("spec__newest__withdrawal")
        .order_by("spec__name")
    )
    bills = {row.spec_id: bill_of_version(row.spec.newest.pk, row.spec.newest.at) for row in rows if row.spec.newest}
    prices = _prices(house, [bill for bill in bills.values() if bill is not None])
    names = {key: str(body["name"]) for key, body in resolved_bodies(house, prices.per_kg)[0].items()}
    found = []
    for row in rows:
        serve, entry = _cost(prices, bills.get(row.spec_id)), row.entry
        found.append(
            MenuRow(
                spec=row.spec_id,
                name=row.spec.name,
                **asdict(entry),
                is_on=entry.covers(day),
                withdrawn=row.spec.state == SpecState.WITHDRAWN,
                cost=pour_cost(serve.amount, entry) if serve else None,
                unpriced=tuple(names.get(key, key) for key in serve.unpriced) if serve else (),
            )
        )
    drinks = Spec.objects.filter(house=house, family="drink", state=SpecState.PUBLISHED).exclude(pk__in=[row.spec_id for row in rows])
    last = MenuDrink.objects.filter(house=house).order_by("-first", "spec__name").first()
    return MenuOut(
        day=day,
        rows=tuple(found),
        without_price=sum(row.price is None for row in found if row.is_on),
        addable=tuple(DrinkToAdd(spec=spec.pk, name=spec.name) for spec in drinks.order_by("name")),
        usual_tax_percent=last.tax_percent if last else Decimal(0),
        usual_spill_percent=last.spill_percent if last else Decimal(0),
    )


def menu_sheet(member: Member, day: date, now: datetime) -> AllergenSheetOut:
    """Returns the allergen sheet of the drinks that are on the menu on a day, by the versions and equipment of now."""
    house = member.house
    rows = MenuDrink.objects.filter(house=house, first__lte=day).filter(Q(last__gte=day) | Q(last=None))
    drinks = Spec.objects.filter(pk__in=rows.values("spec"), newest__isnull=False).select_related("newest__spec__house", "house")
    answers, failed = [], []
    for spec in drinks.order_by("name"):
        try:
            answers.append(answer_of(spec))
        except Refusal:
            failed.append(spec.name)
    return AllergenSheetOut(day=day, at=member.local(now), sheet=allergen_sheet(answers), failed=tuple(failed))
