"""Materials from an open file: what they must say, each fault at its place, and a delivery's own readings in place of typical ones."""

from copy import deepcopy

import pytest

from ulsek.core.base.figures import half_range
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.composition import with_readings
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials

JUICE = typical_materials()["sea_buckthorn_juice"]
PLAIN = {"name": "Brew", "makeup": {"by": "substance", "g_per_100g": {"sucrose": 20, "water": 80}}}
WHOLE = {
    "name": "Fruit",
    "makeup": {
        "by": "parts",
        "parts": {
            "peel": {"share": 0.2, "makeup": {"by": "substance", "g_per_100g": {"water": 75, "insolubles": 25}}},
            "juice": {"share": 0.5, "makeup": JUICE["makeup"]},
            "flesh": {"makeup": {"by": "substance", "g_per_100g": {"water": 85, "insolubles": 15}}},
        },
    },
}


def bent(body, *path, to):
    """A copy with one place changed; None takes it away."""
    copy = deepcopy(body)
    place = copy
    for part in path[:-1]:
        place = place[part]
    if to is None:
        place.pop(path[-1], None)
    else:
        place[path[-1]] = to
    return copy


def refusal_of(body):
    with pytest.raises(Refusal) as caught:
        read_material("it", body, "materials/it").per_gram()
    return caught.value


@pytest.mark.parametrize(
    ("body", "where", "what"),
    [
        (bent(PLAIN, "makeup", to=None), "makeup", "A material needs a makeup"),
        (bent(PLAIN, "makeup", "by", to="magic"), "makeup/by", "A makeup is “by label”, “by reading”, “by substance” or “by parts”"),
        (bent(PLAIN, "makeup", "g_per_100g", to=[1]), "makeup", "A makeup by substance needs g_per_100g"),
        (bent(PLAIN, "makeup", "g_per_100g", "moon", to=1), "makeup/g_per_100g", "“moon” is no substance that Ulsek knows"),
        (bent(PLAIN, "makeup", "g_per_100g", "sucrose", to=140), "makeup/g_per_100g/sucrose", "140 to 140 is out of bounds"),
        (bent(PLAIN, "makeup", "g_per_100g", "sucrose", to="much"), "makeup/g_per_100g/sucrose", "“much” is no number"),
        (bent(PLAIN, "makeup", "g_per_100g", "sucrose", to={"value": 20}), "makeup/g_per_100g/sucrose", "A range needs value, low and high as numbers"),
        (bent(PLAIN, "makeup", "g_per_100g", "sucrose", to={"value": 20, "low": 30, "high": 40}), "makeup/g_per_100g/sucrose", "The range 30 to 40 does not hold its value 20"),
        (bent(PLAIN, "makeup", "g_per_100g", "sucrose", to={"value": float("nan"), "low": 1, "high": 2}), "makeup/g_per_100g/sucrose", "A range must be of finite numbers"),
        (bent(JUICE, "makeup", "acid_split", to={}), "makeup/acid_split", "A split needs shares by substance"),
        (bent(JUICE, "makeup", "acid_split", to={"sucrose": 1}), "makeup/acid_split", "“sucrose” does not belong in this split"),
        (bent(JUICE, "makeup", "acid_split", to={"citric_acid": 0.4}), "makeup/acid_split", "The shares add up to 0.40"),
        (bent(JUICE, "makeup", "brix_reading", to=95), "makeup/brix_reading", "95 to 95 is out of bounds"),
        (bent(WHOLE, "makeup", "parts", to={}), "makeup", "A makeup by parts needs its parts"),
        (bent(WHOLE, "makeup", "parts", "peel", to=3), "makeup/parts/peel", "A part needs its share and makeup"),
        (bent(WHOLE, "makeup", "parts", "peel", "makeup", to=WHOLE["makeup"]), "makeup/parts/peel", "A part has no parts of its own"),
        (bent(WHOLE, "makeup", "parts", "juice", "share", to=0.9), "makeup/parts", "The parts add up to 1.100"),
        (bent(WHOLE, "makeup", "parts", "flesh", to=None), "makeup/parts", "The parts add up to 0.700"),
        ({**PLAIN, "price_per_kg": "dear"}, "price_per_kg", "“dear” is no price"),
        ({**PLAIN, "price_per_kg": -2}, "price_per_kg", "A price of -2 cannot be"),
        ({**PLAIN, "hue": {"points": []}}, "hue", "A hue needs its points"),
        ({**PLAIN, "hue": {"points": [{"ph": 3, "colour": "red"}]}}, "hue", "is no point of a hue"),
    ],
)  # fmt: skip
def test_a_material_that_cannot_be_is_refused_at_its_place(body, where, what):
    found = refusal_of(body)
    assert what in printed(found.what)
    assert found.where.endswith(where)


def test_what_is_left_of_a_whole_fruit_is_its_flesh():
    shares = read_material("it", WHOLE, "").composition.shares
    assert shares == {"peel": 0.2, "juice": 0.5, "flesh": pytest.approx(0.3)}
    gram = read_material("it", WHOLE, "").per_gram()
    assert gram.mass_g == pytest.approx(1.0)
    assert gram.of("insolubles") > 0.2 * 0.25 + 0.3 * 0.15 - 1e-9


@pytest.mark.parametrize(
    ("readings", "where"),
    [
        ({"brix_reading": -1}, "brix_reading"),
        ({"brix_reading": float("inf")}, "brix_reading"),
        ({"acid_g_100ml": 40}, "acid_g_100ml"),
        ({"ph": 0.2}, "ph"),
        ({"ph": float("nan")}, "ph"),
    ],
)
def test_a_delivery_s_reading_that_cannot_be_is_refused(readings, where):
    with pytest.raises(Refusal) as caught:
        with_readings(JUICE["makeup"], readings, "read")
    assert caught.value.where == where


def test_a_reading_takes_the_typical_value_s_place_with_the_instrument_s_own_doubt():
    read = with_readings(JUICE["makeup"], {"brix_reading": 9.1, "ph": 2.9}, "read on Monday")
    assert read["brix_reading"] == {
        "value": 9.1,
        "low": pytest.approx(9.1 - half_range("brix_reading")),
        "high": pytest.approx(9.1 + half_range("brix_reading")),
    }
    assert (read["brix_read"], read.get("acid_read", False), read["ph"], read["source"]) == (True, False, 2.9, "read on Monday")
    assert JUICE["makeup"].get("brix_read") is None, "the typical one stays as it is"
    made = read_material("it", {**JUICE, "makeup": read}, "")
    assert made.measured()["brix_reading"] == pytest.approx(9.1, abs=1e-6)
    with pytest.raises(Refusal, match="This material is not known by readings"):
        with_readings(PLAIN["makeup"], {"brix_reading": 20}, "read")


def test_a_powder_without_a_bulk_density_is_weighed():
    with pytest.raises(Refusal, match="Fruit has no bulk density"):
        read_material("it", WHOLE, "").density_g_ml()
    assert read_material("it", PLAIN, "").pours
    assert read_material("it", PLAIN, "").density_g_ml() == pytest.approx(1.081, abs=0.001)  # ICUMSA: 20 % sucrose at 20 °C, 1080.97 kg/m³
    assert not read_material("it", {**PLAIN, "pieces": True}, "").pours


@pytest.mark.parametrize("key", sorted(typical_materials()))
def test_every_material_that_ships_has_figures_with_their_ranges(key):
    found = read_material(key, typical_materials()[key]).measured_ranges()
    assert all(figure.low <= figure.value <= figure.high for figure in found.values())
