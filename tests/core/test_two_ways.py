"""One number worked out two ways: what a sum, a desk or the Citrus place says against the same steps evaluated as a spec."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.kitchen import KNOWN, answered, line, pour, worked
from ulsek.core.advice.aims import Aim
from ulsek.core.advice.juice_treatment import clear_ways, stronger_ways
from ulsek.core.advice.solver import solve
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.oleo_saccharum import PeelJar, oil_sugar
from ulsek.core.citrus.stretched_juice import StretchInputs, stretch
from ulsek.core.materials.material import read_material
from ulsek.core.operations.clarify import enzyme_done, enzyme_minutes
from ulsek.core.operations.concentrate import dripped, kept_for, kept_range
from ulsek.core.properties import sugar
from ulsek.core.properties.acidity import acid_g_100ml, acids_in_split, titratable_g
from ulsek.core.sums.catalogue import work_out


def stands(done, name):
    """A figure of the vessel after the last step."""
    return done.figures[done.last][name]


def syrup(brix):
    return {
        "name": "Syrup",
        "kind": "syrup",
        "makeup": {"by": "substance", "g_per_100g": {"water": 100 - brix, "sucrose": brix}, "source": "here"},
    }


def test_a_dose_of_dry_acid_sent_to_a_spec_lands_where_the_solution_says():
    """500 mL of a 6 g/100 mL stock by the sum, and the same grams made up to the line by the spec's own verb."""
    sent = work_out("acid_solution", {"strength": 6, "volume": 500, "citric": 1, "malic": 1}).step
    done = worked(sent, {"verb": "make_up", "lines": [line("water", kind="target", property="volume_ml", value=500)]})
    assert stands(done, "volume_ml") == pytest.approx(500, abs=0.01)
    answer = work_out("acid_solution", {"strength": 6, "volume": 500, "citric": 1, "malic": 1})
    assert stands(done, "acid_g_100ml") == pytest.approx(answer.of("acid_g_100ml"), rel=5e-3)  # what is bought is 99.5 % acid


@pytest.mark.parametrize(("verb", "ice"), [("build", "built"), ("stir_ice", "stirred"), ("shake", "shaken"), ("blend_ice", "blended")])
def test_a_drink_by_the_sum_is_the_drink_by_the_spec(verb, ice):
    drink = work_out("drink", {"spirit": 50, "strength": 40, "syrup": 25, "brix": 50, "juice": 25, "of": "lemon_juice", "ice": ice})
    spirit = read_material("neutral_spirit_40", KNOWN["neutral_spirit_40"])
    juice = read_material("lemon_juice", KNOWN["lemon_juice"])
    grams = {
        "neutral_spirit_40": 50 * spirit.density_g_ml(),
        "house_syrup": 25 * read_material("house_syrup", syrup(50)).density_g_ml(),
        "lemon_juice": 25 * juice.density_g_ml(),
    }
    done = worked(pour(*(line(key, mass) for key, mass in grams.items())), {"verb": verb}, house_syrup=syrup(50))
    for figure, name in (("volume", "volume_ml"), ("alcohol", "abv"), ("sugar", "sugar_g_100ml"), ("acid", "acid_g_100ml")):
        assert stands(done, name) == pytest.approx(answered(drink, figure), rel=2e-3), name


def test_a_drip_by_the_sum_is_the_drip_of_the_verb():
    sent = work_out("drip", {"mass": 1000, "have": 15, "want": 30}).step
    done = worked(pour(line("weak", 1000)), {**sent, "kept": sent["kept"]}, weak=syrup(15))
    assert stands(done, "brix") == pytest.approx(30, abs=0.05)


@settings(max_examples=40)
@given(have=st.floats(4, 20), more=st.floats(1.3, 3), k=st.floats(2.5, 5))
def test_what_is_kept_of_a_drip_reads_as_wanted_or_is_refused(have, more, k):
    juice = Contents({"water": 1000 - 10 * have, "sucrose": 10 * have})
    want = have * more
    try:
        kept = kept_for(juice, want, k, -18.0)
    except Refusal as refusal:
        assert refusal.where == "want"
        return
    assert sugar.brix(dripped(juice, kept, k, -18.0)[0]) == pytest.approx(want, rel=1e-6)
    around = kept_range(juice, want, k, -18.0)
    assert around.low <= around.value == kept <= around.high


@given(t=st.floats(1, 55), ph=st.floats(2, 4.5), dose=st.floats(0.3, 3), cut=st.floats(0.1, 0.99))
def test_the_enzymes_minutes_cut_what_they_promise(t, ph, dose, cut):
    assert enzyme_done(enzyme_minutes(t, ph, dose, cut).value, t, ph, dose) == pytest.approx(cut, rel=1e-9)


@pytest.mark.parametrize("wrong", ["too sweet", "too sharp"])
def test_putting_it_right_is_what_the_solver_does_too(wrong):
    """1 L of 50 and 2.5 g/100 mL, off by a quarter: the sum's grams, and the solver's for the same two figures with the same two additions."""
    answer = work_out("balance", {"volume": 1000, "sugar": 50, "acid": 2.5, "by": 25, "wrong": wrong})
    start = Contents({"sucrose": 500, "citric_acid": 25})
    water = next(part.amount for part in answer.parts if printed(part.name) == "what is there") - 525
    start = start + Contents({"water": water})
    add = {"water": "water", **({"citric_acid": "citric acid"} if wrong == "too sweet" else {"white_sugar": "white sugar"})}
    materials = {key: read_material(key, KNOWN[key]) for key in add}
    aims = [Aim("sugar_g_100ml", 40.0 if wrong == "too sweet" else 50.0), Aim("acid_g_100ml", 2.5 if wrong == "too sweet" else 2.0)]
    found = solve(start, aims, list(materials.values()))
    grams = {addition.material: addition.mass_g for addition in found.additions}
    for key, name in add.items():
        assert grams[key] == pytest.approx(answered(answer, name), rel=3e-3), key


@pytest.mark.parametrize("hours", [3, 18, 40])
def test_oil_sugar_draws_what_the_verb_draws(hours):
    made = oil_sugar(variety("bergamot"), PeelJar(100, ratio=1.5, hours=hours))
    done = worked(
        pour(line("bergamot_peel", 100), line("white_sugar", 150)),
        {"verb": "macerate", "minutes": 60 * hours, "temperature_c": 20},
    )
    liquid = done.flow.steps[-1].state.liquid
    assert liquid.mass_g - 150 == pytest.approx(made.drawn_g.value, rel=1e-3)


@pytest.mark.parametrize("key", ["bergamot", "lemon", "yuzu"])
def test_a_stretched_citrus_stands_there_as_a_spec_too(key):
    made = stretch(variety(key), StretchInputs(1000, 4))
    grams = 1000 * variety(key).density
    done = worked(
        {"verb": "dry_mix", "lines": [line(acid, mass) for acid, mass in made.acids_g.items()]},
        pour(line("water", made.water_g)),
        pour(line(f"{key}_juice", grams)),
    )
    assert stands(done, "volume_ml") == pytest.approx(4000, rel=1e-3)
    assert stands(done, "acid_g_100ml") == pytest.approx(made.acid_g_100ml, rel=2e-3)
    assert stands(done, "sugar_g_100ml") == pytest.approx(made.sugar_g_100ml, rel=5e-3)


@given(
    st.dictionaries(st.sampled_from(("citric_acid", "malic_acid", "tartaric_acid", "lactic_acid")), st.floats(0.01, 1), min_size=1),
    st.floats(0.1, 500),
)
def test_acids_in_a_split_hold_the_acid_that_was_asked_for(split, titratable):
    grams = acids_in_split(split, titratable)
    assert titratable_g(Contents(grams)) == pytest.approx(titratable, rel=2e-3)
    first = next(iter(grams))
    for key, mass in grams.items():
        assert mass / grams[first] == pytest.approx(split[key] / split[first])


@pytest.mark.parametrize("key", ["apple_dessert_mixed_juice", "pear_juice", "bergamot_juice"])
def test_a_desk_takes_the_juice_where_its_verbs_take_it(key):
    """Clearing by agar on the desk, and as two steps of a spec."""
    way = next(way for way in clear_ways(read_material(key, KNOWN[key]), 1000) if way.verb == "agar")
    done = worked(pour(line(key, 1000)), {"verb": "agar", "lines": [line("agar", way.dose_g)]})
    assert stands(done, "mass_g") == pytest.approx(way.left_g.value, rel=1e-3)
    assert stands(done, "acid_g_100ml") == pytest.approx(way.acid_g_100ml, rel=1e-3)


def test_a_pot_on_the_desk_boils_to_where_the_verb_stops():
    material = read_material("pear_juice", KNOWN["pear_juice"])
    way = next(way for way in stronger_ways(material, 1000, 30) if way.verb == "reduce")
    done = worked(pour(line("pear_juice", 1000)), {"verb": "reduce", "to_mass_g": way.left_g.value})
    assert stands(done, "brix") == pytest.approx(30, abs=0.3)
    juice = material.per_gram().solution
    assert acid_g_100ml(juice) < way.acid_g_100ml
