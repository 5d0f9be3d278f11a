"""Pour cost of a drink on the menu: its materials at the prices of a day, spill and garnish, and its share of the price without tax."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from ..base.answer import in_answer
from ..base.messages import Given, message
from ..base.refusals import Refusal
from ..evaluation.cost import CENT
from ..evaluation.evaluate import Evaluation

MOST_PRICE = Decimal(100_000)
"""Largest price of a drink and cost of its garnish [currency]; house judgement."""
MOST_TAX, MOST_SPILL = Decimal(100), Decimal(50)
"""Largest tax on a price, and largest part of what is poured that is spilled [%]; house judgement."""
_HUNDRED = Decimal(100)
_DEEPEST = 8
_LEAST_SERVES = 0.001


@dataclass(frozen=True, slots=True)
class Bill:
    """Bill of materials of one batch: mass of every input by material key [g], mass of product and by-products [g], and serves [count]."""

    inputs_g: Mapping[str, float]
    output_g: float
    serves: float


def bill_of(evaluation: Evaluation) -> Bill:
    """Returns the bill of materials of a spec; what a step takes from the spec's own vessels and by-products is no input. Raises Refusal for a spec that makes nothing."""
    if evaluation.flow.refusal:
        raise evaluation.flow.refusal
    if evaluation.last is None:
        raise Refusal(message("This spec makes nothing"), "steps", remedy=message("Put something in"))
    went_in: dict[str, float] = {}
    for step in evaluation.flow.steps:
        for added in step.added:
            if not added.own:
                went_in[added.material] = went_in.get(added.material, 0.0) + added.mass_g
    out = [evaluation.flow.steps[evaluation.last].state.mass_g, *(stream.mass_g for stream in evaluation.flow.streams.values())]
    serves = evaluation.figures[evaluation.last]["volume_ml"] / evaluation.inputs.spec.serve_ml
    return Bill(went_in, math.fsum(out), serves)


@dataclass(frozen=True, slots=True)
class Priced:
    """A sum of money [currency], and the keys of the materials in it that have no price and count as free."""

    amount: Decimal
    unpriced: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Prices:
    """Prices of a day: per kilogram of each bought material (None: nobody knows it), and the bill of each material that a spec of the house makes."""

    per_kg: Mapping[str, Decimal | None]
    made: Mapping[str, Bill]

    def cost_of(self, bill: Bill, depth: int = 0) -> Priced:
        """Returns the cost of all inputs of a batch [currency]. A house-made input costs the inputs of its own batch, shared over product and by-products by mass.

        Raises Refusal for preps nested deeper than eight, which can only be a circle. Source: definition.
        """
        if depth > _DEEPEST:
            raise Refusal(message("A prep is made of itself"), "materials", remedy=message("Break the circle"), code="circle")
        total, unpriced = Decimal(0), dict[str, None]()
        for key, mass in bill.inputs_g.items():
            kilograms = Decimal(repr(mass)) / 1000
            inner = self.made.get(key)
            if inner is not None and inner.output_g > 0:
                below = self.cost_of(inner, depth + 1)
                total += below.amount * kilograms / (Decimal(repr(inner.output_g)) / 1000)
                unpriced |= dict.fromkeys(below.unpriced)
            elif (price := self.per_kg.get(key)) is not None:
                total += price * kilograms
            else:
                unpriced[key] = None
        return Priced(total, tuple(unpriced))

    def cost_per_serve(self, bill: Bill) -> Priced:
        """Returns the cost of the inputs of one serve [currency]. Raises Refusal as `cost_of` does. Source: definition."""
        batch = self.cost_of(bill)
        return Priced(batch.amount / Decimal(repr(max(bill.serves, _LEAST_SERVES))), batch.unpriced)


@dataclass(frozen=True, slots=True)
class MenuEntry:
    """A drink on the menu from `first` to `last`, inclusive (None: until further notice), at `price` [currency; None: nobody has said] with `tax_percent` in it.

    `garnish_cost` is that of the garnish of one drink [currency], `spill_percent` the part of what is taken from the bottles that is spilled.
    """

    first: date
    last: date | None = None
    price: Decimal | None = None
    tax_percent: Decimal = Decimal(0)
    garnish: str = ""
    garnish_cost: Decimal = Decimal(0)
    spill_percent: Decimal = Decimal(0)

    def covers(self, day: date) -> bool:
        """Returns True for a day on which the drink is on the menu."""
        return self.first <= day and (self.last is None or day <= self.last)


def checked_entry(entry: MenuEntry) -> MenuEntry:
    """Returns the entry.

    Raises Refusal, at its place, for a last day before the first, a price of 0 or less or over 100 000, a garnish below 0 or over that, a tax outside 0 to
    100 % and a spill outside 0 to 50 %.
    """
    if entry.last is not None and entry.last < entry.first:
        raise Refusal(
            message("It ends before it begins"), "last", remedy=message("Choose the first day or a later one"), code="out_of_bounds"
        )
    if entry.price is not None and not (entry.price.is_finite() and entry.price > 0):
        raise _out("price", entry.price, Decimal(0), MOST_PRICE, above=True)
    for where, value, most in (
        ("price", entry.price, MOST_PRICE),
        ("tax_percent", entry.tax_percent, MOST_TAX),
        ("garnish_cost", entry.garnish_cost, MOST_PRICE),
        ("spill_percent", entry.spill_percent, MOST_SPILL),
    ):
        if value is not None and not (value.is_finite() and 0 <= value <= most):
            raise _out(where, value, Decimal(0), most)
    return entry


def _out(where: str, value: Decimal, low: Decimal, high: Decimal, *, above: bool = False) -> Refusal:
    bound = (
        message("above {low}, up to {high}", low=Given(float(low)), high=Given(float(high)))
        if above
        else message("from {low} to {high}", low=Given(float(low)), high=Given(float(high)))
    )
    return Refusal(message("{value} cannot be", value=Given(float(value))), where, bound, message("Write another number"), "out_of_bounds")


@dataclass(frozen=True, slots=True)
class PourCost:
    """Cost of one drink [currency]: its materials, what is spilled of them, and its garnish. `net_price` is its price without tax (None: it has no price)."""

    materials: Decimal
    spill: Decimal
    garnish: Decimal
    net_price: Decimal | None = None

    @property
    @in_answer()
    def total(self) -> Decimal:
        """Returns the total cost of one drink [currency]: materials, spill and garnish."""
        return self.materials + self.spill + self.garnish

    @property
    @in_answer()
    def share_percent(self) -> Decimal | None:
        """Returns total cost / price without tax [%], rounded to 0.1; None without a price. Source: definition."""
        if self.net_price is None or self.net_price <= 0:
            return None
        return (_HUNDRED * self.total / self.net_price).quantize(Decimal("0.1"))

    @property
    @in_answer()
    def margin(self) -> Decimal | None:
        """Returns the price without tax minus the total cost [currency]; None without a price. Source: definition."""
        return None if self.net_price is None else self.net_price - self.total


def pour_cost(serve: Decimal, entry: MenuEntry) -> PourCost:
    """Returns the pour cost of one drink whose materials cost `serve` [currency]; `spill_percent` of what is poured is lost: materials / (1 - spill).

    2.00 with 5 % spill and a garnish of 0.15 at 12.10 with
    21 % tax: 2.1053 + 0.15 of 10.00, 22.6 %. Source: definition.
    """
    materials = serve.quantize(CENT)
    taken = (materials / (1 - entry.spill_percent / _HUNDRED)).quantize(CENT)
    net = None if entry.price is None else (entry.price / (1 + entry.tax_percent / _HUNDRED)).quantize(CENT)
    return PourCost(materials, taken - materials, entry.garnish_cost.quantize(CENT), net)
