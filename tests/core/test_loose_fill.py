"""Cups, spoons and counts of what is no liquid: a cup of fruit is a cup of pieces."""

import pytest

from tests.core.kitchen import KNOWN, line, pour, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.fruit import varieties
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import loose_fill
from ulsek.core.recipe_text.parser import parse_recipe

CUP_ML, TSP_ML = 236.588, 4.929


def grams_of(material, **amount):
    done = worked(pour({"id": "x", "material": material, "amount": {"kind": "fixed", **amount}}, line("water", 500.0)))
    return done.flow.masses["x"], done


@pytest.mark.parametrize(
    ("material", "volume_ml", "least", "most"),
    [
        ("blueberry", CUP_ML, 140, 156),
        ("raspberry", CUP_ML, 115, 131),
        ("strawberry", CUP_ML, 136, 154),
        ("rhubarb", CUP_ML, 115, 130),
        ("almonds", CUP_ML, 135, 150),
        ("raisins", CUP_ML, 145, 165),
        ("mint", CUP_ML, 12, 45),
        ("oats", CUP_ML, 78, 92),
        ("cream_of_tartar", TSP_ML, 2.8, 3.4),
        ("citric_acid_monohydrate", TSP_ML, 3.8, 4.8),
        ("melon", CUP_ML, 155, 178),
    ],
)
def test_a_cup_of_pieces_weighs_what_a_cup_of_pieces_weighs(material, volume_ml, least, most):
    assert least < grams_of(material, volume_ml=volume_ml)[0] < most


def test_no_solid_takes_the_density_of_its_own_juice():
    for key, body in KNOWN.items():
        material = read_material(key, body)
        made_of = material.per_gram()
        if material.pieces or made_of.of("insolubles") > 0.05 or made_of.of("water") + made_of.of("ethanol") < 0.14:
            try:
                loose = material.poured_g_ml
            except Refusal as refusal:
                assert refusal.code == "no_bulk_density" and material.kind == "egg"
                continue
            assert loose.low < loose.value < loose.high, key
            assert material.pieces is False or loose.value < 1.01, key


def test_a_cup_keeps_its_doubt_and_a_weight_has_none():
    cup, weighed = grams_of("blueberry", volume_ml=CUP_ML)[1], grams_of("blueberry", mass_g=148.0)[1]
    assert cup.range(cup.last, "mass_g").half_width == pytest.approx(14.5, abs=1.0)
    assert weighed.range(weighed.last, "mass_g").half_width == 0.0


@pytest.mark.parametrize("grams", [0, 0.001, -1, 6])
def test_a_bulk_density_outside_what_lies_in_a_cup_is_refused(grams):
    with pytest.raises(Refusal, match=r"is out of bounds: 0\.003 to 5 is possible"):
        read_material("fluff", {"bulk_density_g_ml": grams, "makeup": {"by": "substance", "g_per_100g": {}}})


def test_a_houses_own_solid_goes_by_its_kind_and_one_of_no_kind_is_refused():
    body = {"makeup": {"by": "substance", "g_per_100g": {"insolubles": 40}}}
    assert read_material("own", {**body, "kind": "nut"}).density_g_ml() == loose_fill()["kind:nut"]["bulk_density_g_ml"]["value"]
    with pytest.raises(Refusal, match=r"Own has no bulk density\. Weigh it, or give its bulk density once\."):
        read_material("own", body).density_g_ml()


def test_zest_and_peel_are_counted_by_the_fruit():
    for key, fruit in varieties().items():
        zest, peel = fruit.skin_g(fruit.piece_g.value)
        for what, grams in (("zest", zest), ("peel", peel)):
            each = read_material(f"{key}_{what}", KNOWN[f"{key}_{what}"]).piece_g
            assert each.value == pytest.approx(grams) and each.high > 2.0 * each.low, "twofold apart by hand and fruit"
    assert grams_of("lemon_zest", count=3)[0] == pytest.approx(3 * 110 * 0.07)
    draft = parse_recipe("zest of 2 lemons\n500 g water\n\nCombine all.", "us").draft
    taken = draft["steps"][0]["lines"][0]["amount"]
    assert taken["assumed"]
    assert taken["mass_g"]["low"] < 0.5 * 2 * 110 * 0.07 == pytest.approx(taken["mass_g"]["value"]), "a grater takes half of the zest"
