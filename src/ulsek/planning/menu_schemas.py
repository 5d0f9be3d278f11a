"""Requests and answers about the menu and its allergen sheet."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from uuid import UUID

from ulsek.core.planning.pour_cost import PourCost
from ulsek.core.release.allergen_sheet import AllergenSheet
from ulsek.team.schema import Schema


@dataclass(frozen=True, slots=True, kw_only=True)
class MenuRow:
    """A drink of the menu and its pour cost (null: its newest version cannot be evaluated). `unpriced` names materials without a price, which count as free."""

    spec: UUID
    name: str
    first: date
    last: date | None
    price: Decimal | None
    tax_percent: Decimal
    garnish: str
    garnish_cost: Decimal
    spill_percent: Decimal
    is_on: bool
    withdrawn: bool
    cost: PourCost | None
    unpriced: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrinkToAdd:
    """A published drink that is not on the menu."""

    spec: UUID
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MenuOut:
    """The menu as of a day: the drinks of that day and later ones, how many of that day have no price, and tax and spill of the drink that came on it last."""

    day: date
    rows: tuple[MenuRow, ...]
    without_price: int
    addable: tuple[DrinkToAdd, ...]
    usual_tax_percent: Decimal
    usual_spill_percent: Decimal


class MenuIn(Schema):
    """From when to when a drink is on the menu, its price with the tax in it (null: not known), and what its garnish costs and is spilled."""

    first: date
    last: date | None = None
    price: Decimal | None = None
    tax_percent: Decimal = Decimal(0)
    garnish: str = ""
    garnish_cost: Decimal = Decimal(0)
    spill_percent: Decimal = Decimal(0)


@dataclass(frozen=True, slots=True, kw_only=True)
class AllergenSheetOut:
    """The allergen sheet of a day as of a moment. `failed` names drinks of the menu whose newest version cannot be evaluated: ask for each of these."""

    day: date
    at: datetime
    sheet: AllergenSheet
    failed: tuple[str, ...]
