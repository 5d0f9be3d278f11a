"""What today leaves over: skins of juiced fruit, naked fruit, by-products, the bottle that turns; who could take it, and a list that counts on it once."""

from dataclasses import replace
from decimal import Decimal

import pytest

from tests.core.drawn_weeks import days_from
from tests.core.kitchen import known, line, pour
from tests.core.test_planning import WEDNESDAY, in_from, plain
from ulsek.core.base.messages import message
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.planning.left_over import TurningDelivery, keeps_leftovers, left_over, with_left_over
from ulsek.core.planning.ordering import to_order
from ulsek.core.planning.poured import Poured
from ulsek.core.planning.prep_facts import HandsOn, PrepFacts
from ulsek.core.planning.prep_leftovers import PrepLeftover, prep_leftovers
from ulsek.core.planning.schedule import schedule
from ulsek.core.planning.schedule_validator import faults
from ulsek.core.planning.situation import MaterialSupply, Situation, Supply, Wish, Worker
from ulsek.core.spec.json_form import read_spec

SAY = message("Take it off")
ZEST = PrepLeftover("bergamot_zest", message("Bergamot zest"), "skin:bergamot", 0.15, 2, 12.0, SAY, from_fruit=True)
PEEL = PrepLeftover("bergamot_peel", message("Bergamot peel"), "skin:bergamot", 0.64, 2, 10.0, SAY, from_fruit=True)
JUICE = PrepFacts(
    "juice",
    "Bergamot juice",
    (HandsOn(0.0, 30.0),),
    0.0,
    0.0,
    3,
    500.0,
    475.0,
    2000.0,
    1.04,
    {"bergamot": 2.9},
    "jug",
    leftovers=(ZEST, PEEL),
)
OIL = PrepFacts(
    "oil",
    "Oil-sugar",
    (HandsOn(0.0, 15.0), HandsOn(240.0, 10.0)),
    0.0,
    0.0,
    5,
    250.0,
    240.0,
    960.0,
    1.2,
    {"bergamot_peel": 0.7, "sugar": 0.7},
    "bowl",
)
STOCKED = {
    "bergamot": MaterialSupply("bergamot", "Bergamot", 9000.0, "Yard", 360.0, 1440.0, 5000.0, "28.00"),
    "bergamot_peel": MaterialSupply("bergamot_peel", "Bergamot peel", 0.0, "Yard", 360.0, 1440.0, 500.0, "7.50"),
}
PER_KG = {"bergamot_peel": Decimal(15), "oil": Decimal(4)}


def situation(**changed):
    """Bergamots are juiced today for tonight; of the oil-sugar nothing is needed."""
    days = days_from(WEDNESDAY)
    must = {"juice": tuple(900.0 if n == 0 else 0.0 for n in range(len(days)))}
    use = {"juice": must["juice"]}
    workers = (Worker("jonas", "Jonas", in_from(days, 480.0, -300.0)),)
    said = {"preps": {"juice": JUICE}, "must": must, "use": use, "workers": workers, "materials": STOCKED}
    return Situation(WEDNESDAY, days, **{**said, **changed})


def put_on(asked, bottles=2):
    """The same with the oil-sugar put on the list."""
    return replace(asked, preps={"juice": JUICE, "oil": OIL}, wishes={"oil": Wish("oil", "", bottles, extra=True)})


EVERY = {"juice": JUICE, "oil": OIL}


def test_the_skin_of_what_is_juiced_has_its_taker_with_minutes_beside_what_it_saves():
    asked = situation()
    made = schedule(asked)
    (peel,) = left_over(asked, made, EVERY, PER_KG)
    juiced = sum(batch.makes_ml for batch in made.batches)
    assert plain(peel.name) == "Bergamot peel", "its zest has no taker, and is another part of the same skin"
    assert (peel.source, peel.mass_g, peel.last_day) == ("Bergamot juice", pytest.approx(0.64 * juiced), asked.days[1].day)
    (taker,) = peel.takers
    # 608 g of peel are three bottles at 168 g each, and a rest.
    assert (taker.name, taker.bottles, taker.takes_g) == ("Oil-sugar", 3, pytest.approx(504.0))
    assert (taker.minutes, taker.saves, taker.is_listed) == (35.0, Decimal("7.56"), False)
    (nobody,) = left_over(asked, made, {"juice": JUICE}, PER_KG)
    assert (plain(nobody.name), nobody.takers) == ("Bergamot zest", ()), "without a taker it is said once, with what to do"
    assert left_over(asked, made, EVERY, {})[0].takers[0].saves is None


def test_what_was_put_on_the_list_is_made_of_what_is_left_over_and_not_ordered():
    asked = put_on(situation())
    alone = schedule(asked)
    assert any(line.material == "bergamot_peel" for order in to_order(asked, alone) for line in order.lines) or alone.fruit.late
    counted = with_left_over(asked, alone)
    made = schedule(counted)
    assert faults(counted, made) == () and keeps_leftovers(asked, alone, made)
    start = {one.key: one for one in made.batches}
    assert start["oil"].start_min >= start["juice"].hands[0].until_min, "not before the fruit was peeled"
    assert start["oil"].start_min < asked.days[0].ends_min
    assert to_order(counted, made) == ()
    (peel,) = [one for one in left_over(counted, made, EVERY, PER_KG) if one.key == "bergamot_peel"]
    assert peel.takers[0].is_listed


def test_a_skin_is_counted_on_once_and_only_where_the_fruit_is_still_juiced():
    both = replace(OIL, needs={"bergamot_peel": 0.7, "bergamot_zest": 0.1})
    asked = replace(put_on(situation()), preps={"juice": JUICE, "oil": both})
    asked = replace(asked, materials={**STOCKED, "bergamot_zest": replace(STOCKED["bergamot_peel"], key="bergamot_zest")})
    made = schedule(asked)
    coming = [one for supply in with_left_over(asked, made).materials.values() for one in supply.coming]
    assert len(coming) == sum(batch.key == "juice" for batch in made.batches), "of one skin either the zest or the peel"
    without = replace(made, batches=tuple(one for one in made.batches if one.key != "juice"))
    assert not keeps_leftovers(asked, made, without)
    nothing = situation()
    assert with_left_over(nothing, schedule(nothing)) is nothing


def test_a_bottle_that_turns_is_told_less_what_will_be_used_of_it():
    days = days_from(WEDNESDAY)
    turning = Supply("juice", "L0007", 1500.0, 0.0, days[0].ends_min)
    later = Supply("juice", "L0008", 1500.0, 0.0, days[4].ends_min)
    taker = replace(OIL, key="mix", name="Sour mix", needs={"juice": 1.0})
    asked = situation(supplies=(turning, later))
    (found,) = left_over(asked, schedule(asked), {"juice": JUICE, "mix": taker}, {})
    # 900 mL are used tonight; what turns only on Sunday is not told.
    assert (found.source, found.volume_ml, found.last_day) == ("L0007", pytest.approx(600.0), days[0].day)
    assert [(one.name, one.bottles) for one in found.takers] == [("Sour mix", 2)]
    assert plain(found.said).startswith("from L0007, until")


def leaves(*steps):
    data = {"format": "ulsek.spec", "version": 1, "name": "Juice", "vessels": [{"id": "pot"}], "steps": [{"id": f"s{n}", "vessel": "pot", **step} for n, step in enumerate(steps)]}  # fmt: skip
    spec = read_spec(data, strict=False)
    done = evaluate(spec, known(spec))
    return {one.key: one for one in prep_leftovers(done, "pressed", 1000.0)}, done


def test_a_spec_leaves_the_skin_that_it_does_not_take_and_the_pulp_that_it_keeps():
    fruit, juice = pour(line("bergamot", 1000.0)), {"verb": "juice", "by_product": "pressed bergamot"}
    found, done = leaves(fruit, juice)
    assert {"bergamot_zest", "bergamot_peel", "pressed_pressed_bergamot"} == set(found)
    piece = done.flow.streams["pressed bergamot"].pieces[0]
    assert found["bergamot_zest"].g_per_ml == pytest.approx(0.75 * piece.parts["zest"].mass_g / 1000.0)
    zested, _ = leaves(fruit, {"verb": "zest", "by_product": "zest"}, juice)
    assert "bergamot_zest" not in zested and "bergamot_peel" not in zested, "it was taken already"
    assert "pressed_zest" in zested, "kept as a by-product, under its own name"


def test_zested_fruit_that_nobody_juices_leaves_its_juice_and_fruit_in_its_skin_does_not():
    fruit, zest = pour(line("bergamot", 1000.0)), {"verb": "zest", "by_product": "rest"}
    found, done = leaves(fruit, zest)
    juice = sum(
        piece.parts["juice"].mass_g
        for state in (*done.flow.vessels.values(), *done.flow.streams.values())
        for piece in state.pieces
        if "juice" in piece.parts
    )
    assert juice > 200.0
    assert found["bergamot_juice"].g_per_ml == pytest.approx(0.8 * juice / 1000.0) and found["bergamot_juice"].keeps_days == 1
    assert "bergamot_juice" not in leaves(fruit)[0]


PULP = PrepLeftover("juice_pulp", message("Pressed bergamot"), "by_product:pulp", 0.5, 3, 5.0, SAY)
CORDIAL = replace(OIL, key="second", name="Second syrup", needs={"juice_pulp": 1.0}, hands=(HandsOn(0.0, 20.0),))


def test_a_by_product_that_nobody_sells_is_not_used_before_it_is_there():
    pressed = replace(JUICE, leftovers=(PULP,))
    asked = situation(preps={"juice": pressed})
    made = schedule(asked)
    (pulp,) = left_over(asked, made, {"juice": pressed, "second": CORDIAL}, {})
    (taker,) = pulp.takers
    # 475 g of pulp are one bottle at 240 g, and a rest.
    assert (pulp.mass_g, taker.bottles, taker.takes_g) == (pytest.approx(475.0), 1, pytest.approx(240.0))
    hungry = replace(CORDIAL, needs={"juice_pulp": 5.0})
    assert left_over(asked, made, {"juice": pressed, "second": hungry}, {})[0].takers == (), (
        "not even a bottle, and the rest cannot be bought"
    )

    def listed(bottles):
        wished = replace(asked, preps={"juice": pressed, "second": CORDIAL}, wishes={"second": Wish("second", "", bottles, extra=True)})
        counted = with_left_over(wished, schedule(wished))
        return wished, counted, {one.key: one for one in schedule(counted).batches}

    wished, counted, start = listed(1)
    assert start["second"].start_min >= start["juice"].hands[-1].until_min and faults(counted, schedule(counted)) == ()
    wished, counted, _ = listed(4)
    assert counted is wished, "more is wanted than is left over: the rest is at hand, or somebody would have to say so"


def test_a_delivery_that_expires_is_told_less_what_the_list_and_the_bar_will_use():
    asked = situation()
    made = schedule(asked)
    ends = [day.ends_min for day in asked.days]
    used = sum(claim.mass_g for claim in made.fruit.claims)
    crates = [
        TurningDelivery("bergamot", "Bergamot, first", "D1", used - 100.0, ends[0]),
        TurningDelivery("bergamot", "Bergamot, second", "D2", 1000.0, ends[1]),
        TurningDelivery("bergamot", "Bergamot, later", "D3", 1000.0, ends[4]),
        TurningDelivery("bergamot", "Bergamot, past", "D4", 1000.0, -1.0),
    ]
    found = [one for one in left_over(asked, made, EVERY, {}, crates) if one.key == "bergamot"]
    assert [(one.source, one.last_day) for one in found] == [("D2", asked.days[1].day)], "the first to expire is used first"
    assert found[0].mass_g == pytest.approx(900.0) and found[0].takers[0].name == "Bergamot juice"
    poured = replace(asked, poured={"bergamot": Poured(tuple(500.0 for _ in asked.days), ("Tall",))})
    assert not [one for one in left_over(poured, made, EVERY, {}, crates) if one.key == "bergamot"]
