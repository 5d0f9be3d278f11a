"""Leftovers: each has a name, a weight, its share of the cost, a date and an offer; and the money adds up."""

from decimal import Decimal

import pytest

from tests.core.kitchen import KNOWN, line, pour, worked
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.safety.house_rules import read_rules

PRICED = {
    "gooseberry_juice": {**KNOWN["gooseberry_juice"], "price_per_kg": "10"},
    "white_sugar": {**KNOWN["white_sugar"], "price_per_kg": "1"},
    "quince_fruit": {**KNOWN["quince_fruit"], "price_per_kg": "4"},
}


def of(done, stands):
    return [item for item in done.leftovers if item.stands == stands]


def test_juice_left_in_its_vessel_costs_its_share_and_the_product_carries_the_rest():
    done = worked(
        pour(line("gooseberry_juice", 1000.0), vessel="jug"),
        pour({"id": "some", "material": "vessel:jug", "amount": {"kind": "all", "share": 0.6}}, line("white_sugar", 400.0)),
        {"verb": "bottle"},
        **PRICED,
    )
    (left,) = done.leftovers
    assert (left.key, printed(left.name), left.stands) == ("vessel:jug", "gooseberry juice, in the jug", "vessel")
    assert left.mass_g == pytest.approx(400.0)
    assert left.cost == left.cost_if_kept == Decimal("4.0000")
    assert (left.days, printed(left.offer)) == (3, "Freeze it in portions, or pour it into today's sour mix")
    assert done.cost.batch == Decimal("10.4000")
    assert done.cost.left == left.cost
    litres = done.figures[done.last]["volume_ml"] / 1000
    assert float(done.cost.per_litre) == pytest.approx(6.4 / litres, rel=1e-4), "six tenths of the juice and the sugar"
    assert done.full_cost().outputs["product"] == Decimal("6.4000")


def test_egg_yolks_are_named_dated_and_to_be_cooked():
    done = worked(
        {"verb": "separate", "part": "white", "by_product": "white", "vessel": "jug", "lines": [line("egg", count=4, kind="fixed")]},
        pour(line("gooseberry_juice", 500.0), {"id": "w", "material": "by_product:white", "amount": {"kind": "all"}}),
        {"verb": "bottle"},
    )
    (yolks,) = of(done, "vessel")
    assert (printed(yolks.name), printed(yolks.how), yolks.days) == ("egg yolks", "covered, cold, two days, to be cooked", 2)
    assert (printed(yolks.offer), yolks.hands_min) == ("Cook them into a curd, past 75 °C", 15.0)
    assert yolks.mass_g == pytest.approx(4 * 58 * 0.4, rel=0.02), "yolk and shell"


COOKED = (
    pour(line("quince_fruit", 1000.0), line("water", 800.0), line("white_sugar", 600.0)),
    {"verb": "simmer", "minutes": 20},
    {"verb": "strain", "by_product": "quince pulp"},
    {"verb": "bottle"},
)


def test_what_is_binned_takes_no_cost_unless_the_house_says_so_and_a_rest_is_named():
    done = worked(*COOKED, **PRICED)
    (pulp,) = of(done, "by_product")
    assert (printed(pulp.name), pulp.cost) == ("quince pulp", 0)
    in_the_pot = done.flow.steps[2].before.mass_g
    assert float(pulp.cost_if_kept) == pytest.approx(float(done.cost.batch) * pulp.mass_g / in_the_pot, abs=1e-4), "its share by weight"
    assert printed(pulp.offer).startswith("Simmer it with water and sugar for a second syrup")
    assert done.cost.left == 0
    rules = read_rules({"format": "ulsek.rules", "version": 1, "leftovers": {"binned_takes_share": True}})
    house = evaluate(done.inputs.spec, done.inputs.materials, rules=rules)
    assert [item.cost for item in of(house, "by_product")] == [pulp.cost_if_kept]
    assert house.cost.left == pulp.cost_if_kept
    with pytest.raises(Refusal, match="A house says whether what is binned takes its share"):
        read_rules({"format": "ulsek.rules", "version": 1, "leftovers": {"binned_takes_share": 1}})
    taken = (
        *COOKED[:3],
        pour({"id": "p", "material": "by_product:quince pulp", "amount": {"kind": "all", "share": 0.25}}, vessel="jug"),
        COOKED[3],
    )
    partly = worked(*taken, **PRICED)
    assert [item.mass_g for item in of(partly, "by_product")] == [pytest.approx(0.75 * pulp.mass_g)], "the rest of a part that was taken"
    nameless = worked(*COOKED[:2], {"verb": "strain"}, COOKED[3], **PRICED)
    (binned,) = of(nameless, "bin")
    assert printed(binned.name) == "quince, in the sieve"
    assert binned.mass_g == pytest.approx(pulp.mass_g)
    assert binned.cost == 0


def test_a_part_that_was_drawn_off_carries_its_own_cost():
    done = worked(
        pour(line("gooseberry_juice", 1000.0)), {"verb": "split", "share": 0.3, "by_product": "for the bar"}, {"verb": "bottle"}, **PRICED
    )
    (drawn,) = of(done, "by_product")
    assert drawn.cost == Decimal("3.0000")
    assert done.full_cost().outputs["product"] == Decimal("7.0000")
    moved = worked(pour(line("gooseberry_juice", 1000.0)), {"verb": "split", "share": 0.3, "into": "jug"}, {"verb": "bottle"}, **PRICED)
    assert [(item.key, item.cost) for item in of(moved, "vessel")] == [("vessel:jug", Decimal("3.0000"))]


@pytest.mark.parametrize("share", [0.2, 0.5, 0.9])
def test_the_money_adds_up_whatever_is_taken(share):
    done = worked(
        pour(line("gooseberry_juice", 1000.0), line("white_sugar", 300.0), vessel="jug"),
        pour({"id": "some", "material": "vessel:jug", "amount": {"kind": "all", "share": share}}, line("water", 100.0)),
        {"verb": "split", "share": 0.25, "by_product": "a quarter"},
        {"verb": "simmer", "minutes": 10},
        {"verb": "bottle"},
        **PRICED,
    )
    carried = done.full_cost().outputs["product"] + sum(item.cost for item in done.leftovers)
    assert float(carried) == pytest.approx(float(done.cost.batch), abs=1e-3)


def test_a_batch_that_uses_all_of_it_leaves_nothing():
    assert worked(pour(line("water", 500.0), line("white_sugar", 500.0)), {"verb": "bottle"}).leftovers == ()
