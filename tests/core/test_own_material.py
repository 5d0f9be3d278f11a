"""Materials that a house describes itself: what a label says of the substances, and what nobody may take off a material that ships."""

import math

import pytest

from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.composition import read_composition
from ulsek.core.materials.material import read_material
from ulsek.core.materials.shipped import shipped_bodies
from ulsek.core.properties.alcohol import abv
from ulsek.core.properties.density import density_g_ml, volume_ml
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.own_material import checked_material, kept_form, material_choices, with_hazards

RULES = read_rules({})


def labelled(**declared):
    return read_composition({"by": "label", **declared}, "makeup")


def held(composition, key):
    return composition.g_per_100g[key].value


def test_a_syrup_that_declares_grams_in_100_ml_holds_fewer_in_100_g():
    # 65 g of sucrose in 100 mL: 52.3 °Bx weigh 1.2425 g/mL (ICUMSA), and 52.3 % of 124.25 g are 65 g.
    made = labelled(per="100 mL", sugars_g=65, sugar_split={"sucrose": 1})
    assert held(made, "sucrose") == pytest.approx(52.31, abs=0.01)
    contents = made.per_gram(0.0)
    assert contents.of("sucrose") * 100 * density_g_ml(contents) == pytest.approx(65, abs=1e-6)
    assert held(labelled(per="100 g", sugars_g=65, sugar_split={"sucrose": 1}), "sucrose") == 65


def test_what_is_denser_than_its_label_is_long_is_no_fault_of_the_label():
    # 117 g of sugars in 100 mL are honey, though 117 is more than a hundred.
    honey = labelled(per="100 mL", sugars_g=117)
    contents = honey.per_gram(0.0)
    assert math.fsum(contents.of(key) for key in ("sucrose", "glucose", "fructose")) * 100 * density_g_ml(contents) == pytest.approx(
        117, abs=1e-6
    )
    strong = labelled(per="100 g", sugars_g=84, abv=12).per_gram(0.0)
    assert abv(strong.of("ethanol"), volume_ml(strong)) == pytest.approx(12, abs=1e-6)


@pytest.mark.parametrize("per", ["100 g", "100 mL"])
def test_the_strength_of_a_liqueur_is_that_of_its_label(per):
    made = labelled(per=per, abv=18, sugars_g=25, acid_g=0.5).per_gram(0.0)
    assert abv(made.of("ethanol"), volume_ml(made)) == pytest.approx(18, abs=1e-6)
    assert math.fsum(made.grams.values()) == pytest.approx(1)


def test_what_a_label_declares_is_each_its_own_substance():
    made = labelled(carbohydrate_g=12, sugars_g=9, fat_g=4, protein_g=3, fibre_g=1, salt_g=0.5, acid_g=0.8)
    found = {key: amount.value for key, amount in made.g_per_100g.items()}
    sugars = {"sucrose": 9 * 0.34, "glucose": 9 * 0.33, "fructose": 9 * 0.33}
    rest = {"other_carbohydrate": 3, "fat": 4, "protein": 3, "other_solubles": 1, "sodium_chloride": 0.5, "citric_acid": 0.8}
    assert found == pytest.approx({**sugars, **rest})


@pytest.mark.parametrize(("grams", "off"), [(4, 1), (20, 2), (60, 4)])
def test_a_label_is_half_of_the_legal_tolerance_off(grams, off):
    made = labelled(sugars_g=grams, sugar_split={"sucrose": 1}).g_per_100g["sucrose"]
    assert (made.low, made.high) == pytest.approx((grams - off, grams + off))
    told = labelled(sugars_g={"value": grams, "low": grams - 0.1, "high": grams + 0.1}, sugar_split={"sucrose": 1})
    assert told.g_per_100g["sucrose"].half_width == pytest.approx(0.1), "what somebody knows better stays"
    known = labelled(carbohydrate_g={"value": 9, "low": 8.8, "high": 9.2}, sugars_g=5, abv={"value": 18, "low": 17.9, "high": 18.1})
    assert known.g_per_100g["other_carbohydrate"].half_width == pytest.approx(0.2)
    alcohol = known.g_per_100g["ethanol"]
    assert alcohol.half_width / alcohol.value == pytest.approx(0.1 / 18)


@pytest.mark.parametrize(
    ("declared", "where", "code"),
    [
        ({"per": "a glass"}, "makeup/per", "unreadable"),
        ({"sugars_g": 9, "carbohydrate_g": 8}, "makeup/sugars_g", "readings_disagree"),
        ({"sugars_g": 99, "abv": 18}, "makeup", "more_than_there_is"),
        ({"sugars_g": 130, "per": "100 g"}, "makeup", "more_than_there_is"),
        ({"abv": 101}, "makeup/abv", "out_of_bounds"),
        ({"sugars_g": -1}, "makeup/sugars_g", "refused"),
        ({"sugars_g": float("nan")}, "makeup/sugars_g", "refused"),
        ({"sugars_g": "much"}, "makeup/sugars_g", "refused"),
        ({"sugars_g": ""}, "makeup/sugars_g", "refused"),
        ({"sugars_g": False}, "makeup/sugars_g", "refused"),
        ({"per": "100 mL", "sugars_g": 170}, "makeup", "more_than_there_is"),
        ({"sugars_g": 9, "sugar_split": {"citric_acid": 1}}, "makeup/sugar_split", "refused"),
    ],
)
def test_a_label_that_cannot_be_is_refused_at_its_place(declared, where, code):
    with pytest.raises(Refusal) as refused:
        labelled(**declared)
    assert (refused.value.where, refused.value.code) == (where, code)


GOOD = {"name": "Pine honey", "kind": "sweetener", "makeup": {"by": "substance", "g_per_100g": {"fructose": 40, "glucose": 35}}}


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"name": " "}, "name"),
        ({"name": "x" * 81}, "name"),
        ({"kind": "stone"}, "kind"),
        ({"keeping_class": "for ever"}, "keeping_class"),
        ({"allergens": "nuts"}, "allergens"),
        ({"allergens": ["nuts", 3]}, "allergens"),
        ({"allergens": ["nuts", " "]}, "allergens"),
        ({"makeup": {"by": "substance", "g_per_100g": {"fructose": 101}}}, "makeup/g_per_100g/fructose"),
        ({"makeup": {"by": "label", "sugars_g": 101}}, "makeup"),
        ({"makeup": {"by": "reading", "brix_reading": 1, "acid_g_100ml": 9}}, "makeup"),
        ({"price_per_kg": "dear"}, "price_per_kg"),
        ({"bulk_density_g_ml": 9}, "bulk_density_g_ml"),
        ({"makeup": None}, "makeup"),
        ({"cautions": "hot"}, "cautions"),
        ({"cautions": 5}, "cautions"),
        ({"allergens_unknown": {"gum": True}}, "allergens_unknown"),
        ({"contains_mg_g": ["quinine"]}, "contains_mg_g"),
        ({"vegan": "no"}, "vegan"),
        ({"pieces": 1}, "pieces"),
    ],
)
def test_what_a_material_cannot_be_is_refused_at_its_place_in_the_form(change, where):
    assert checked_material("new", GOOD, RULES).name == "Pine honey"
    with pytest.raises(Refusal) as refused:
        checked_material("new", {**GOOD, **change}, RULES)
    assert refused.value.where == where


def test_every_material_that_ships_may_be_described_again_as_it_is():
    choices = material_choices(RULES)
    for key, body in shipped_bodies().items():
        checked_material(key, body, RULES)
        kept = kept_form(key, body)
        assert read_material(key, kept).defined == read_material(key, body).defined, key
        assert set(body.get("allergens") or ()) <= set(choices.allergens), key


def test_what_can_hurt_somebody_stays_with_a_material_that_ships():
    bark = next(key for key, body in shipped_bodies().items() if body.get("contains_mg_g") or "quinine" in str(body))
    milk = next(key for key, body in shipped_bodies().items() if "milk" in (body.get("allergens") or ()))
    for key, part, value in ((milk, "allergens", []), (milk, "allergens", None), (bark, "cautions", [])):
        with pytest.raises(Refusal) as refused:
            kept_form(key, {**shipped_bodies()[key], part: value})
        assert (refused.value.where, refused.value.code) == (part, "hazard")
    table = with_hazards(milk, {"name": "Milk of ours", "makeup": {}, "allergens": ["soya"]})
    assert table["allergens"] == [*shipped_bodies()[milk]["allergens"], "soya"]
    assert set(with_hazards(bark, {"name": "Bark"})["cautions"]) == set(shipped_bodies()[bark]["cautions"])
    assert with_hazards("own_gum", GOOD) == GOOD
    more = {**shipped_bodies()[milk], "allergens": [*shipped_bodies()[milk]["allergens"], "soya"]}
    assert kept_form(milk, more)["allergens"][-1] == "soya"


def test_only_what_ships_so_counts_as_shown_by_weighing():
    sugar = shipped_bodies()["white_sugar"]
    assert kept_form("white_sugar", {**sugar, "price_per_kg": "2"})["defined"]
    assert not kept_form("white_sugar", {**sugar, "makeup": {"by": "substance", "g_per_100g": {"sucrose": 90}}})["defined"]
    claimed = kept_form("own_gum", {**GOOD, "defined": True, "made_by": "other", "use_by": "2030-01-01", "delivery": "x"})
    assert not claimed["defined"]
    assert not {"made_by", "use_by", "delivery"} & set(claimed)
