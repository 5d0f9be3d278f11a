"""Pour costs: materials at the prices of a day through nested preps, spill, garnish and tax; what cannot be is refused at its place."""

from dataclasses import replace
from datetime import date
from decimal import Decimal

import pytest

from tests.core.kitchen import known, line, pour
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.planning.pour_cost import Bill, MenuEntry, Prices, bill_of, checked_entry, pour_cost
from ulsek.core.spec.json_form import read_spec

DAY = date(2026, 12, 2)
ENTRY = MenuEntry(DAY, price=Decimal("12.10"), tax_percent=Decimal(21), garnish_cost=Decimal("0.15"), spill_percent=Decimal(5))
SYRUP = Bill({"white_sugar": 500.0, "water": 500.0}, 1000.0, 40.0)
DRINK = Bill({"syrup": 40.0, "spirit": 60.0}, 100.0, 1.0)
PRICES = Prices({"white_sugar": Decimal("1.20"), "water": Decimal(0), "spirit": Decimal(30)}, {"syrup": SYRUP})


def test_a_drink_costs_its_materials_through_its_preps_its_spill_and_its_garnish():
    serve = PRICES.cost_per_serve(DRINK)
    # 60 g of spirit at 30.00, and 40 g of a syrup that is half sugar at 1.20.
    assert (serve.amount, serve.unpriced) == (Decimal("1.80") + Decimal("0.024"), ())
    cost = pour_cost(serve.amount, ENTRY)
    assert (cost.materials, cost.spill, cost.garnish, cost.net_price) == tuple(map(Decimal, ("1.8240", "0.0960", "0.1500", "10.0000")))
    assert (cost.total, cost.share_percent, cost.margin) == (Decimal("2.0700"), Decimal("20.7"), Decimal("7.9300"))
    assert pour_cost(Decimal(2), ENTRY).share_percent == Decimal("22.6"), "as its description says"


def test_a_price_of_today_counts_at_every_depth_and_what_has_none_is_named():
    dearer = Prices({**PRICES.per_kg, "white_sugar": Decimal("12.00")}, PRICES.made)
    assert dearer.cost_per_serve(DRINK).amount - PRICES.cost_per_serve(DRINK).amount == Decimal("0.216")
    nobody_knows = Prices({"water": Decimal(0), "white_sugar": None}, PRICES.made)
    assert nobody_knows.cost_per_serve(DRINK).unpriced == ("white_sugar", "spirit")
    free = pour_cost(Decimal(2), replace(ENTRY, price=None))
    assert (free.net_price, free.share_percent, free.margin) == (None, None, None)
    assert free.total == Decimal("2.2553")


def test_a_prep_that_is_made_of_itself_is_refused():
    circle = Prices({}, {"a": Bill({"b": 1.0}, 1.0, 1.0), "b": Bill({"a": 1.0}, 1.0, 1.0)})
    with pytest.raises(Refusal, match="made of itself"):
        circle.cost_per_serve(circle.made["a"])


def test_the_bill_of_a_spec_counts_each_line_where_it_went_in():
    steps = [
        {"id": "s1", "vessel": "pot", **pour(line("lemon_juice", 400.0), line("white_sugar", 300.0), line("water", 300.0))},
        {"id": "s2", "vessel": "pot", "verb": "strain", "by_product": "pulp"},
    ]
    spec = read_spec(
        {"format": "ulsek.spec", "version": 1, "name": "Cordial", "serve_ml": 25, "vessels": [{"id": "pot"}], "steps": steps}, strict=False
    )
    done = evaluate(spec, known(spec))
    bill = bill_of(done)
    assert bill.inputs_g == {"lemon_juice": 400.0, "white_sugar": 300.0, "water": 300.0}
    product = done.flow.steps[-1].state.mass_g
    assert bill.output_g == pytest.approx(product + sum(stream.mass_g for stream in done.flow.streams.values()))
    assert bill.serves == pytest.approx(done.figures[-1]["volume_ml"] / 25.0)


@pytest.mark.parametrize(
    ("where", "wrong"),
    [
        ("last", {"last": date(2026, 12, 1)}),
        ("price", {"price": Decimal(0)}),
        ("price", {"price": Decimal("NaN")}),
        ("price", {"price": Decimal(100_001)}),
        ("tax_percent", {"tax_percent": Decimal(-1)}),
        ("garnish_cost", {"garnish_cost": Decimal("-0.01")}),
        ("spill_percent", {"spill_percent": Decimal(51)}),
    ],
)
def test_what_cannot_stand_on_a_menu_is_refused_at_its_place(where, wrong):
    with pytest.raises(Refusal) as refused:
        checked_entry(replace(ENTRY, **wrong))
    assert refused.value.where == where


def test_a_drink_is_on_the_menu_from_its_first_day_to_its_last():
    entry = replace(ENTRY, last=DAY)
    assert [entry.covers(date(2026, 12, day)) for day in (1, 2, 3)] == [False, True, False]
    assert replace(entry, last=None).covers(date(2030, 1, 1))
    assert checked_entry(entry) == entry
