"""Amounts in every kind and basis, by hand: what a line weighs, what the factor does to it, what is refused at its place."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.kitchen import KNOWN, line, pour, worked
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.group_key import BUNDLE, GroupKey
from ulsek.core.materials.material import read_material
from ulsek.core.spec.json_form import read_spec

DENSITY = {key: read_material(key, KNOWN[key]).density_g_ml() for key in ("water", "honey", "white_sugar", "neutral_spirit_40")}
BASE = pour(line("water", 1000.0))


def grams(amount, material="white_sugar", base=BASE, factor=1.0, **vessel):
    """What a line of this amount weighs in a litre or so of water."""
    step = {"verb": "combine", "lines": [{"id": "x", "material": material, "amount": amount}]}
    return worked(base, step, factor=factor, **vessel).flow.masses["x"]


@pytest.mark.parametrize(
    ("material", "amount", "weighs"),
    [
        ("white_sugar", {"kind": "fixed", "mass_g": 250}, 250.0),
        ("white_sugar", {"kind": "fixed", "written": "1/2 lb"}, 226.796),
        ("white_sugar", {"kind": "fixed", "volume_ml": 100}, 100 * DENSITY["white_sugar"]),
        ("honey", {"kind": "fixed", "written": "1 cup"}, 250 * DENSITY["honey"]),
        ("neutral_spirit_40", {"kind": "fixed", "written": "50 ml"}, 50 * DENSITY["neutral_spirit_40"]),
        ("lemon", {"kind": "fixed", "count": 4}, 440.0),
        ("white_sugar", {"kind": "ratio", "to": {"line": "water"}, "ratio": 0.5}, 500.0),
        # By volume: half a litre's measure of sugar to a litre of water.
        (
            "white_sugar",
            {"kind": "ratio", "to": {"line": "water"}, "basis": "volume", "ratio": 0.5},
            1000 / DENSITY["water"] * 0.5 * DENSITY["white_sugar"],
        ),
        ("white_sugar", {"kind": "ratio", "to": {"vessel": "pot"}, "ratio": 0.25}, 250.0),
        ("honey", {"kind": "ratio", "to": {"vessel": "pot"}, "basis": "volume", "ratio": 0.1}, 100 / DENSITY["water"] * DENSITY["honey"]),
        ("white_sugar", {"kind": "percent", "percent": 3}, 30.0),
        ("white_sugar", {"kind": "percent", "percent": 3, "basis": "w/v"}, 30 / DENSITY["water"]),
        (
            "neutral_spirit_40",
            {"kind": "percent", "percent": 5, "basis": "v/v"},
            50 / DENSITY["water"] * DENSITY["neutral_spirit_40"],
        ),
        ("white_sugar", {"kind": "target", "property": "mass_g", "value": 1400}, 400.0),
        # 1000 g of water at 20 °Bx hold a quarter of their weight in solids; white sugar is 99.96 % solids.
        ("white_sugar", {"kind": "target", "property": "brix", "value": 20}, 1000 * 20 / (99.96 - 20)),
    ],
)
def test_amounts_by_hand(material, amount, weighs):
    assert grams(amount, material) == pytest.approx(weighs, rel=2e-4)


@pytest.mark.parametrize(
    ("amount", "grows"),
    [
        ({"kind": "fixed", "mass_g": 250}, True),
        ({"kind": "fixed", "mass_g": 250, "scales": False}, False),
        ({"kind": "fixed", "written": "1 cup"}, True),
        ({"kind": "ratio", "to": {"line": "water"}, "ratio": 0.5}, True),
        ({"kind": "percent", "percent": 3}, True),
        ({"kind": "target", "property": "brix", "value": 20}, True),
        ({"kind": "target", "property": "mass_g", "value": 1400}, True),
    ],
)
def test_a_batch_of_three_holds_three_times_as_much_where_it_should(amount, grows):
    assert grams(amount, factor=3.0) == pytest.approx(grams(amount) * (3.0 if grows else 1.0), rel=1e-6)


def test_states_fill_to_a_line_and_all_is_all_of_it():
    top = {"kind": "state", "state": "top_up", "line_ml": 1500}
    syrup = pour(line("honey", 600.0))
    sweet = pour(line("white_sugar", 500.0), line("water", 500.0))
    for base, material in ((syrup, "water"), (sweet, "honey")):
        full = worked(base, {"verb": "combine", "lines": [{"id": "x", "material": material, "amount": top}]})
        assert full.figures[1]["volume_ml"] == pytest.approx(1500, rel=1e-9), "at the line once it is mixed, which takes less room"
    assert grams({"kind": "state", "state": "top_up"}, "honey", capacity=1500, base=sweet) == pytest.approx(full.flow.masses["x"])
    done = worked(
        pour(line("honey", 300.0), vessel="jug"),
        BASE,
        {"verb": "combine", "lines": [{"id": "x", "material": "vessel:jug", "amount": {"kind": "all", "share": 0.4}}]},
    )
    assert done.flow.masses["x"] == pytest.approx(120.0)
    assert done.flow.vessels["jug"].mass_g == pytest.approx(180.0)


@pytest.mark.parametrize(
    ("material", "amount", "words"),
    [
        ("fennel_seed", {"kind": "fixed", "count": 9}, "Nobody has said what one fennel seed weighs"),
        ("egg", {"kind": "fixed", "written": "1 tbsp"}, "has no bulk density"),
        ("water", {"kind": "state", "state": "top_up", "line_ml": 500}, "stand above the line already"),
        ("water", {"kind": "state", "state": "top_up"}, "Nobody has said where the vessel's line is"),
        ("white_sugar", {"kind": "ratio", "to": {"line": "ghost"}, "ratio": 1}, "There is no line “ghost”"),
        ("white_sugar", {"kind": "target", "property": "abv", "value": 20}, "white sugar does not change it"),
        ("white_sugar", {"kind": "target", "property": "mass_g", "value": 400}, "white sugar raises it"),
    ],
)
def test_amounts_that_cannot_be_are_refused_at_their_place(material, amount, words):
    with pytest.raises(Refusal, match=words) as caught:
        grams(amount, material)
    assert caught.value.where.startswith(("steps/s1/lines/x", f"materials/{material}"))


@settings(max_examples=80)
@given(st.floats(0.01, 3.0), st.floats(0.1, 20.0), st.floats(0.2, 8.0))
def test_the_whole_grows_with_the_batch_and_its_figures_stay(ratio, percent, factor):
    """Whatever the ratios: concentrations do not know how much is made."""
    steps = (
        pour(line("bergamot_juice", 700.0)),
        {
            "verb": "combine",
            "lines": [
                {"id": "sugar", "material": "white_sugar", "amount": {"kind": "ratio", "to": {"line": "bergamot_juice"}, "ratio": ratio}},
                {"id": "honey", "material": "honey", "amount": {"kind": "percent", "percent": percent}},
            ],
        },
    )
    one, many = worked(*steps), worked(*steps, factor=factor)
    for name in ("brix", "acid_g_100ml", "sugar_g_100ml", "density_g_ml"):
        assert many.figures[1][name] == pytest.approx(one.figures[1][name], rel=1e-9)
    assert many.figures[1]["mass_g"] == pytest.approx(factor * one.figures[1]["mass_g"], rel=1e-9)


def _many_juices(count):
    """(materials, evaluation) of so many juices that nobody has read, the later the more of it."""
    fruit = [key for key, body in KNOWN.items() if body["kind"] == "juice" and body["makeup"]["by"] == "reading"][:count]
    lines = [{"id": key, "material": key, "amount": {"kind": "fixed", "mass_g": 100.0 * (n + 1)}} for n, key in enumerate(fruit)]
    spec = read_spec({"format": "ulsek.spec", "version": 1, "name": "x", "steps": [{"id": "a", "verb": "combine", "lines": lines}]})
    return fruit, evaluate(spec, read_materials(KNOWN, spec.material_keys))


def test_sixteen_doubts_stand_each_by_itself():
    fruit, done = _many_juices(8)
    assert len(done.estimate.groups) == 2 * len(fruit) == 16
    assert BUNDLE not in done.members


def test_more_than_sixteen_doubts_are_sixteen_with_the_small_ones_together():
    fruit, done = _many_juices(14)
    assert len(done.estimate.groups) == 16
    counted = [key for members in done.members.values() for key in members]
    assert len(counted) == len(set(counted)) == 2 * len(fruit), "each doubt once: °Bx and acid of every juice"
    assert len(done.members[BUNDLE]) == 2 * len(fruit) - 15
    heaviest, lightest = GroupKey("material", fruit[-1], "brix"), GroupKey("material", fruit[0], "brix")
    assert heaviest in done.members
    assert lightest in done.members[BUNDLE]
