"""Solve, scale and design: the fewest additions, the right batch, the flag written into the draft."""

import random
import re

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.cordial import FORM, evaluated, materials_of
from tests.core.kitchen import known, line, pour, spec_of
from tests.reference import rows
from ulsek.core.advice.aims import Aim, read_aim
from ulsek.core.advice.batch_scaling import (
    driver_mass_g,
    factor_for_serves,
    factor_for_stock,
    factor_for_vessel,
    factor_for_volume,
    rounded,
)
from ulsek.core.advice.corrections import before_bottling, take_addition, to_the_flag
from ulsek.core.advice.solver import alternatives, solve
from ulsek.core.base.messages import printed
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.flow_values import AsMade
from ulsek.core.materials.composition import BySubstance
from ulsek.core.materials.material import Material, read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.properties.density import volume_ml
from ulsek.core.properties.measure import measure
from ulsek.core.properties.ph import ph
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.spec import Goal


def pure(key: str, name: str, kind: str) -> Material:
    return Material(key, name, kind, BySubstance({key: Range.exact(100.0)} if key != "water" else {}, "test"))


SUGAR, ACID, WATER = pure("sucrose", "Sugar", "sweetener"), pure("citric_acid", "Citric acid", "acid"), pure("water", "Water", "water")
OFFERED = [SUGAR, ACID, WATER]
MIXES = {row["id"]: row["outputs"] for row in rows("mixes")}


def told(mix: str, name: str) -> float:
    return float(re.search(rf"{re.escape(name)}=(-?[\d.]+)", MIXES[mix])[1])


def juice(brix: float, acid: float, litres: float = 1.0) -> Contents:
    """A litre or so of a plain juice of true `brix` with `acid` g/100 mL, found by a few rounds on its volume."""
    grams = {"water": 900.0, "sucrose": 0.0, "citric_acid": 0.0}
    for _ in range(60):
        total = sum(grams.values())
        volume = measure(Contents(grams))["volume_ml"]
        grams = {key: mass * 1000 * litres / volume for key, mass in grams.items()}
        total *= 1000 * litres / volume
        grams["citric_acid"] = acid * 10 * litres
        grams["sucrose"] = total * brix / 100 - grams["citric_acid"]
        grams["water"] = total * (1 - brix / 100)
    return Contents(grams)


def test_dilution_of_a_rich_syrup():
    found = solve(Contents({"sucrose": 666.667, "water": 333.333}), [Goal("brix", 50.0, 0.0)], OFFERED)
    assert [(item.material, item.mass_g) for item in found.additions] == [("water", pytest.approx(told("M18", "water_to_add"), abs=0.1))]


def test_acid_to_a_target_in_the_final_volume():
    found = solve(juice(11.0, 0.85), [Goal("acid_g_100ml", 6.0, 0.0)], [ACID])
    assert found.additions[0].mass_g == pytest.approx(told("M33", "citric_to_add"), abs=0.3)
    assert measure(found.contents)["volume_ml"] == pytest.approx(told("M33", "final_volume"), abs=1.5)


def test_sugar_and_acid_together():
    found = solve(juice(10.0, 0.80), [Goal("brix", 50.0, 0.0), Goal("acid_g_100ml", 3.0, 0.0)], OFFERED)
    grams = {item.material: item.mass_g for item in found.additions}
    assert grams["sucrose"] == pytest.approx(told("M36", "sucrose_to_add"), abs=4)
    assert grams["citric_acid"] == pytest.approx(told("M36", "citric_to_add"), abs=0.5)
    assert set(grams) == {"sucrose", "citric_acid"}


@settings(max_examples=120)
@given(sugar=st.floats(0, 900), acid=st.floats(0, 40), water=st.floats(0, 900))
def test_whatever_was_added_can_be_found_again_with_no_more_mass(sugar, acid, water):
    start = juice(12.0, 1.0)
    mixed = start + Contents({"sucrose": sugar, "citric_acid": acid, "water": water})
    figures = measure(mixed)
    found = solve(start, [Goal("brix", figures["brix"], 1e-9), Goal("acid_g_100ml", figures["acid_g_100ml"], 1e-9)], OFFERED)
    reached = measure(found.contents)
    assert reached["brix"] == pytest.approx(figures["brix"], abs=1e-5)
    assert reached["acid_g_100ml"] == pytest.approx(figures["acid_g_100ml"], abs=1e-5)
    assert len(found.additions) <= 2
    assert sum(item.mass_g for item in found.additions) <= sugar + acid + water + 0.01


@settings(max_examples=60)
@given(st.floats(12.5, 80), st.floats(0.05, 0.9))
def test_water_alone_never_raises_anything_and_the_refusal_says_what_is_closest(brix, acid):
    with pytest.raises(Refusal, match="cannot be reached by adding water: closest is"):
        solve(juice(12.0, 1.0), [Goal("brix", brix, 0.0), Goal("acid_g_100ml", acid, 0.0)], [WATER])


def test_nothing_is_added_when_the_goals_hold():
    assert solve(juice(12.0, 1.0), [Goal("brix", 12.2, 0.5)], OFFERED).additions == ()


def test_the_impossible_is_refused_whole():
    with pytest.raises(Refusal) as caught:
        solve(Contents({"sucrose": 400.0, "water": 600.0}), [Goal("brix", 55.0, 0.0)], [WATER])
    text = caught.value.text.replace("\u00a0", " ")
    assert (
        text
        == "55.0 °Bx cannot be reached by adding water: closest is 40.0 °Bx with nothing to add. Move the goal or offer something else."
    )


@given(st.floats(200, 20000))
@settings(max_examples=20)
def test_scaling_to_a_yield_gives_that_yield(wanted):
    spec = read_spec(FORM)
    materials = materials_of(spec)
    done = evaluate(spec, materials, AsMade(factor_for_volume(spec, materials, wanted)))
    assert done.figures[done.last]["volume_ml"] == pytest.approx(wanted, rel=1e-8)


def test_scaling_needs_a_driver_and_a_yield_that_can_be():
    spec = read_spec({**FORM, "driver": None})
    with pytest.raises(Refusal, match="This spec does not say which line sets the batch"):
        driver_mass_g(spec, materials_of(spec))
    with pytest.raises(Refusal, match="A yield of 0 mL cannot be made"):
        factor_for_volume(spec, materials_of(spec), 0)


CORDIAL = read_spec(FORM)


def test_scaling_by_serves_by_what_is_there_and_by_the_vessel():
    materials = materials_of(CORDIAL)
    fifty = evaluate(CORDIAL, materials, AsMade(factor_for_serves(CORDIAL, materials, 50)))
    assert fifty.figures[fifty.last]["volume_ml"] == pytest.approx(1500.0, rel=1e-8)
    limit = factor_for_stock(CORDIAL, materials, {"sea_buckthorn_juice": 1340.0, "white_sugar": 519.0})
    assert (limit.material, limit.factor) == ("white_sugar", pytest.approx(1.0))
    assert limit.left_g["sea_buckthorn_juice"] == pytest.approx(340.0, abs=1e-5)
    assert printed(limit.words) == "White sugar runs out first: 1.00 times the spec."
    full = evaluate(CORDIAL, materials, AsMade(factor_for_vessel(CORDIAL, materials, "pot", 5000.0, 10.0)))
    assert max(measure(step.before.liquid)["volume_ml"] for step in full.flow.steps) == pytest.approx(4500.0, rel=1e-8)
    fruit = spec_of(pour(line("gooseberries", 500.0), line("water", 500.0)))
    state = evaluate(fruit, known(fruit)).flow.steps[0].before
    factor = factor_for_vessel(fruit, known(fruit), "pot", 2000.0, 0.0)
    assert factor * (volume_ml(state.liquid) + state.pieces_ml) == pytest.approx(2000.0, rel=1e-8), "fruit takes room beside the liquid"


@pytest.mark.parametrize(
    ("asked", "place", "text"),
    [
        (lambda m: factor_for_stock(CORDIAL, m, {"moonlight": 5.0}), "have_g/moonlight", "The spec does not use moonlight"),
        (lambda m: factor_for_stock(CORDIAL, m, {"white_sugar": -5.0}), "have_g/white_sugar", "are not an amount to start from"),
        (lambda m: factor_for_stock(CORDIAL, m, {}), "have_g", "Nothing is said of what is there"),
        (lambda m: factor_for_vessel(CORDIAL, m, "bath", 100.0), "vessel", "There is no vessel “bath”: there are pot"),
        (lambda m: factor_for_vessel(CORDIAL, m, "pot", 0.0), "capacity_ml", "A vessel holds from 1 mL"),
        (lambda m: factor_for_vessel(CORDIAL, m, "pot", 5000.0, 90.0), "capacity_ml", "with less than 90 % head room"),
        (lambda m: factor_for_serves(CORDIAL, m, -1), "serves", "\u22121 serves cannot be made"),
        (lambda m: rounded(evaluate(CORDIAL, m), 0.0), "resolution_g", "A scale does not read to 0 g"),
    ],
)
def test_scaling_to_what_cannot_be_is_refused(asked, place, text):
    with pytest.raises(Refusal) as refused:
        asked(materials_of(CORDIAL))
    assert refused.value.where == place
    assert text in refused.value.text


def test_what_pours_goes_to_the_jigger_and_what_does_not_to_the_scale():
    done = evaluated()
    juice = done.inputs.materials["sea_buckthorn_juice"]
    found = rounded(done, 1.0, 7.5)
    steps = found.masses_g["juice"] / juice.density_g_ml() / 7.5
    assert steps == pytest.approx(round(steps)), "whole jiggers of juice"
    assert abs(found.masses_g["juice"] - done.flow.masses["juice"]) <= 3.75 * juice.density_g_ml()
    assert found.masses_g["sugar"] == round(done.flow.masses["sugar"])
    assert "1 g and 7.5 mL" in printed(found.words)
    with pytest.raises(Refusal, match="A jigger does not measure to 0 mL"):
        rounded(done, 1.0, 0.0)


def test_rounding_to_a_scale_says_what_it_does():
    done = evaluate(CORDIAL, materials_of(CORDIAL))
    fine = rounded(done, 0.1)
    assert printed(fine.words) == "Rounding to 0.1 g changes nothing that anybody could read."
    assert all(mass * 10 == pytest.approx(round(mass * 10)) for mass in fine.masses_g.values())
    coarse = rounded(done, 50.0)
    assert coarse.masses_g["sugar"] == 500.0
    assert "1.0 °Bx more" in printed(coarse.words).replace("\u00a0", " "), "fifty grams of malic acid are far too much"
    assert any(item.startswith("Malic acid:") and "thin it ten-fold" in item for item in map(printed, coarse.too_coarse))


def test_the_flag_writes_a_ratio_a_target_and_a_new_line():
    done = evaluated()
    more = take_addition(FORM, done, "white_sugar", 51.9)
    assert more["steps"][1]["lines"][0]["amount"]["ratio"] == pytest.approx(0.519 + 0.0519, abs=1e-4)
    sharper = take_addition(FORM, done, "malic_acid", 5.0)
    assert sharper["steps"][2]["lines"][0]["amount"]["value"] > 2.3
    thinner = take_addition(FORM, done, "water", 80.0)
    assert thinner["steps"][3] == {
        "id": "adjust1",
        "verb": "combine",
        "vessel": "pot",
        "lines": [{"id": "adjust1.water", "material": "water", "amount": {"kind": "fixed", "mass_g": 80.0}}],
    }
    assert FORM["steps"][3]["id"] == "s4", "the draft that was given is left alone"
    assert evaluated(thinner).figures[-1]["brix"] < done.figures[-1]["brix"]


def test_a_flag_is_met_within_half_a_percent_and_no_closer():
    done = evaluated()
    has = done.figures[before_bottling(done)]
    sugar, acid = has["sugar_g_100ml"], has["acid_g_100ml"]
    assert to_the_flag(done, sugar * 1.004, acid).additions == ()
    assert to_the_flag(done, sugar, acid * 0.996).additions == ()
    assert to_the_flag(done, sugar * 1.006, acid).additions != ()
    assert to_the_flag(done, sugar * 1.02, acid).sugar_g_100ml == pytest.approx(1.02 * sugar, rel=0.005)


KNOWN = typical_materials()
SHELF = [read_material(key, KNOWN[key]) for key in ("water", "white_sugar", "malic_acid", "neutral_spirit_40", "bergamot_juice", "honey")]
GOOSEBERRY = read_material("gooseberry_juice", KNOWN["gooseberry_juice"]).per_gram().scaled(1000.0)


def _random_aims(chance: random.Random) -> tuple[int, float, list[Aim]]:
    """(additions, grams, aims) that those additions meet."""
    chosen = chance.sample(SHELF, chance.randint(1, 4))
    grams = [chance.uniform(5, 400) for _ in chosen]
    mixed = GOOSEBERRY
    for material, mass in zip(chosen, grams, strict=True):
        mixed = mixed + material.per_gram().scaled(mass)
    figures = measure(mixed)
    names = ("brix", "acid_g_100ml", "abv", "volume_ml")
    return len(chosen), sum(grams), [Aim(name, figures[name], 1e-6 * max(1.0, figures[name])) for name in names]


def test_five_hundred_feasible_problems_are_met_with_no_more_additions():
    chance = random.Random(5)
    for _ in range(500):
        count, grams, aims = _random_aims(chance)
        found = solve(GOOSEBERRY, aims, SHELF)
        figures = measure(found.contents)
        assert len(found.additions) <= count
        assert len(found.additions) < count or found.mass_g <= grams + 0.01
        assert all(figures[aim.property] == pytest.approx(aim.value, rel=1e-5, abs=1e-5) for aim in aims)


def test_five_hundred_infeasible_problems_say_what_is_closest():
    chance = random.Random(6)
    for _ in range(500):
        less = Aim("volume_ml", chance.uniform(200, 900))
        with pytest.raises(Refusal, match=r"cannot be reached by adding .*: closest is"):
            solve(GOOSEBERRY, [less, Aim("brix", chance.uniform(5, 60)), Aim("acid_g_100ml", chance.uniform(0.2, 6))], SHELF)


def test_bounds_are_kept_without_being_met():
    enough = solve(GOOSEBERRY, [Aim("brix", 40.0), Aim("acid_g_100ml", 1.0, bound="least")], SHELF)
    assert [item.material for item in enough.additions] == ["white_sugar"], "it is sharp enough as it stands"
    both = [Aim("brix", 40.0), Aim("acid_g_100ml", 3.0, bound="least"), Aim("acid_g_100ml", 3.5, bound="most")]
    short = solve(GOOSEBERRY, both, SHELF)
    assert 3.0 - 1e-6 <= measure(short.contents)["acid_g_100ml"] <= 3.5 + 1e-6
    assert len(short.additions) == 2
    small = solve(GOOSEBERRY, [Aim("acid_g_100ml", 3.0), Aim("volume_ml", 1000.0, bound="most")], SHELF)
    assert measure(small.contents)["volume_ml"] <= 1000.0


def test_ph_is_reached_through_acid_only():
    start = ph(GOOSEBERRY)
    found = solve(GOOSEBERRY, [Aim("ph", start - 0.2)], SHELF)
    assert ph(found.contents) == pytest.approx(start - 0.2, abs=1e-6)
    assert found.additions[0].material in ("malic_acid", "bergamot_juice")
    with pytest.raises(Refusal, match=r"pH 2\.00 cannot be reached by adding water and white sugar"):
        solve(GOOSEBERRY, [Aim("ph", 2.0)], SHELF[:2])


def test_cost_is_an_aim_and_alternatives_are_ranked():
    priced = [
        read_material(key, {**KNOWN[key], "price_per_kg": price})
        for key, price in (("malic_acid", "16"), ("bergamot_juice", "11.4"), ("citric_acid", "11"))
    ]
    ways = alternatives(GOOSEBERRY, [Aim("acid_g_100ml", 2.6)], priced, 3)
    assert [way.additions[0].material for way in ways] == ["citric_acid", "malic_acid", "bergamot_juice"], "dry acid is lighter than juice"
    cheap = alternatives(GOOSEBERRY, [Aim("acid_g_100ml", 2.6), Aim("cost", 8.2, bound="most")], priced, 3, cost=8.0)
    price = {"malic_acid": 0.016, "bergamot_juice": 0.0114, "citric_acid": 0.011}
    assert all(8.0 + sum(item.mass_g * price[item.material] for item in way.additions) <= 8.2 + 1e-6 for way in cheap)
    assert [item.material for item in cheap[-1].additions] != ["bergamot_juice"], "juice alone costs more"


@pytest.mark.parametrize(
    ("data", "place", "text"),
    [
        ({"property": "charm", "value": 1}, "aims/property", "This is nothing to aim at"),
        ({"property": "brix", "value": float("nan")}, "aims/value", "A number is missing"),
        ({"property": "brix", "value": 120}, "aims/value", "120 is out of bounds: from 0 to 90 °Bx"),
        ({"property": "brix", "value": 12, "tolerance": -1}, "aims/value", "is out of bounds"),
        ({"property": "brix", "value": 12, "bound": "nearly"}, "aims/bound", "“nearly” is not known here"),
    ],
)
def test_bad_aims_are_refused_at_their_place(data, place, text):
    with pytest.raises(Refusal) as refused:
        read_aim(data)
    assert refused.value.where == place
    assert text in refused.value.text
