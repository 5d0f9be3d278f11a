"""The flow through several vessels: by-products, transfers, states to reach, the clock, browning, colour, nests; and that no order of steps loses mass."""

from copy import deepcopy
from decimal import Decimal
from pathlib import Path

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.core.kitchen import KNOWN, balance_g, line, pour, worked
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.browning import minutes_before_browning
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.group_key import GroupKey
from ulsek.core.operations.catalogue import VERBS
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.results.working import working
from ulsek.core.spec.json_form import read_spec

ROOT = Path(__file__).parents[2]
ALL = {"kind": "all"}


def test_a_by_product_is_used_later_and_what_is_left_of_it_is_said():
    done = worked(
        pour(line("bergamot", 1000.0)),
        {"verb": "zest", "by_product": "zest"},
        {
            "verb": "combine",
            "vessel": "jug",
            "lines": [line("white_sugar", 100.0), {"id": "z", "material": "by_product:zest", "amount": {"kind": "all", "share": 0.8}}],
        },
    )
    data = evaluation_result(done)
    assert done.flow.masses["z"] == pytest.approx(0.8 * 52.5)
    assert data.by_products[0].left_g == pytest.approx(0.2 * 52.5)
    assert data.final.mass_g.value == pytest.approx(142.0)


def test_a_batch_costs_what_goes_in_and_the_hands_and_its_by_product_pays_a_part():
    """1 kg of bergamot and 1 kg of sugar, half of the zest used: by hand 3.60 of materials, and an hour at 18.00."""
    known = deepcopy(KNOWN)
    known["bergamot"]["price_per_kg"], known["white_sugar"]["price_per_kg"] = "2.40", "1.20"
    data = {
        "format": "ulsek.spec",
        "version": 1,
        "name": "x",
        "vessels": [{"id": "pot", "name": "pot"}, {"id": "jug", "name": "jug"}],
        "steps": [
            {"id": "a", "verb": "combine", "vessel": "pot", "hands_on_min": 10, "lines": [line("bergamot", 1000.0)]},
            {"id": "b", "verb": "zest", "vessel": "pot", "by_product": "zest", "hands_on_min": 20, "people": 2},
            {
                "id": "c",
                "verb": "combine",
                "vessel": "jug",
                "hands_on_min": 10,
                "lines": [
                    line("white_sugar", 1000.0),
                    {"id": "z", "material": "by_product:zest", "amount": {"kind": "all", "share": 0.5}},
                ],
            },
        ],
    }
    spec = read_spec(data)
    done = evaluate(spec, read_materials(known, spec.material_keys))
    credit = done.full_cost(Decimal(18), {"zest": Decimal(40)})
    assert (credit.materials, credit.labour, credit.hands_min) == (Decimal("3.6"), Decimal(18), 60)
    # Half of 52.5 g of zest is left: at 40.00 a kilogram it is worth 1.05.
    # The zested fruit stands in the pot at the end, with its 2.40.
    assert credit.outputs == {"product": Decimal("18.15"), "zest": Decimal("1.05"), "left over": Decimal("2.40")}
    by_mass = done.full_cost(Decimal(18), way="mass").outputs
    assert sum(by_mass.values()) == pytest.approx(Decimal("21.6"), abs=Decimal("0.0002"))
    assert float(by_mass["zest"]) == pytest.approx((21.6 - 2.4) * 26.25 / (26.25 + 1026.25), rel=1e-3)
    for prices, words in (({"pulp": Decimal(1)}, "No by-product “pulp” is kept"), ({"zest": Decimal(2000)}, "worth more than the batch")):
        with pytest.raises(Refusal, match=words):
            done.full_cost(Decimal(18), prices)
    with pytest.raises(Refusal, match="-1 is no price"):
        done.full_cost(Decimal(-1))


@settings(max_examples=80)
@given(st.integers(0, 9000), st.integers(0, 6000), st.sampled_from(["credit", "mass"]))
def test_no_money_is_lost_between_the_outputs(labour, worth, way):
    done = worked(pour(line("bergamot", 1000.0)), {"verb": "zest", "by_product": "zest"}, {"verb": "juice", "by_product": "hulls"})
    prices = {"zest": Decimal(worth) / 100} if way == "credit" else {}
    try:
        found = done.full_cost(Decimal(labour) / 100, prices, way)
    except Refusal as refusal:
        assert refusal.text.startswith("The by-products would be worth more")
        return
    assert abs(sum(found.outputs.values()) - found.materials - found.labour) < Decimal("0.0005")
    assert min(found.outputs.values()) >= 0


def test_one_vessel_pours_into_another_that_holds_something():
    done = worked(
        {"verb": "combine", "vessel": "jug", "lines": [line("ascorbic_acid", 1.0)]},
        pour(line("bergamot", 1000.0)),
        {"verb": "juice", "into": "jug"},
        {"verb": "combine", "lines": [line("water", 500.0), {"id": "j", "material": "vessel:jug", "amount": ALL}]},
    )
    assert done.flow.vessels["jug"].mass_g == 0.0
    assert done.flow.vessels["pot"].liquid.of("ascorbic_acid") == pytest.approx(0.995, abs=1e-6)


@pytest.mark.parametrize(
    ("steps", "text"),
    [
        (
            [{"verb": "combine", "lines": [{"id": "x", "material": "by_product:zest", "amount": ALL}]}],
            "No earlier step leaves a by-product “zest”",
        ),
        ([{"verb": "combine", "lines": [{"id": "x", "material": "vessel:bath", "amount": ALL}]}], "There is no vessel “bath”"),
        ([{"verb": "combine", "lines": [{"id": "x", "material": "vessel:pot", "amount": ALL}]}], "A vessel cannot be poured into itself"),
        (
            [{"verb": "combine", "lines": [{"id": "x", "material": "water", "amount": ALL}]}],
            "“All” is measured of a by-product or a vessel",
        ),
        ([{"verb": "juice", "into": "bath", "lines": [line("bergamot", 500.0)]}], "There is no vessel “bath”"),
        ([{"verb": "cool", "to_c": 400}], "400 is out of bounds: from 0 to 95 °C"),
        ([{"verb": "juice", "method": "teeth"}], "“teeth” is not known here: choose one of reamer, press, machine, extractor, blender"),
        ([{"verb": "cool", "lines": [line("water", 5.0)]}], "Nothing goes in while you cool"),
        ([{"verb": "cool", "celcius": 4}], "“celcius” is nothing that a step says"),
        ([{"verb": "cool", "minutes": float("nan")}], "This number is not finite"),
        (
            [
                pour(line("water", 100.0)),
                {
                    "verb": "combine",
                    "vessel": "jug",
                    "lines": [{"id": "x", "material": "vessel:pot", "amount": {"kind": "fixed", "mass_g": 300}}],
                },
            ],
            "300 g of pot cannot be taken: there are 100 g",
        ),
        (
            [{"verb": "combine", "lines": [{"id": "x", "material": "water", "amount": {"kind": "state", "state": "cover"}}]}],
            "There is nothing to cover",
        ),
        (
            [{"verb": "combine", "lines": [{"id": "x", "material": "water", "amount": {"kind": "state", "state": "top_up"}}]}],
            "Nobody has said where the vessel's line is",
        ),
    ],
)
def test_bad_flows_are_refused_in_words(steps, text):
    with pytest.raises(Refusal) as refused:
        worked(*steps)
    assert text in refused.value.text
    assert refused.value.where.startswith("steps/s"), refused.value.where


def test_cover_and_top_up_are_states_to_reach():
    cover = {"id": "w", "material": "water", "amount": {"kind": "state", "state": "cover"}}
    done = worked(pour(line("gooseberries", 1000.0)), {"verb": "combine", "lines": [cover]})
    volume = done.flow.masses["w"] / 0.9982
    assert 500 < volume < 900, "gaps between berries, and a finger more"
    assert done.line_range(1, 0).half_width > 50, "how densely they lie is not known"
    top = {"id": "w", "material": "water", "amount": {"kind": "state", "state": "top_up"}}
    full = worked(pour(line("citric_acid", 100.0)), {"verb": "combine", "lines": [top]}, capacity=1000)
    assert full.figures[1]["volume_ml"] == pytest.approx(1000, rel=0.002)
    with pytest.raises(Refusal, match="stand above the line already"):
        worked(pour(line("water", 1200.0)), {"verb": "combine", "lines": [{**top, "amount": {**top["amount"], "line_ml": 1000}}]})


def test_an_amount_with_a_range_is_a_doubt_of_its_own_and_counts_average_out():
    about = {
        "id": "a",
        "material": "white_sugar",
        "amount": {"kind": "fixed", "mass_g": {"value": 100, "low": 80, "high": 130}, "to_taste": True},
    }
    done = worked(pour(line("water", 100.0)), {"verb": "combine", "lines": [about]})
    assert done.line_range(1, 0).low == pytest.approx(80.0)
    assert done.line_range(1, 0).high == pytest.approx(130.0)
    assert done.range(1, "brix").half_width > 3
    assert "how much one is" in printed(done.group_name(GroupKey("line", "a")))
    one, many = (
        worked(pour({"id": "e", "material": "egg_white", "amount": {"kind": "fixed", "count": n}})).line_range(0, 0) for n in (1, 9)
    )
    assert many.half_width / 9 == pytest.approx(one.half_width / 3, rel=1e-6)


def test_each_vessel_runs_on_its_own_clock():
    done = worked(
        {"verb": "combine", "vessel": "jug", "lines": [line("water", 100.0)]},
        {"verb": "steep", "vessel": "jug", "minutes": 600},
        pour(line("white_sugar", 100.0)),
        {"verb": "combine", "lines": [{"id": "j", "material": "vessel:jug", "amount": ALL}]},
    )
    steps = done.flow.steps
    assert steps[2].begins_min == 0.0, "another vessel does not wait"
    assert steps[3].begins_min == steps[1].ends_min, "until it needs what the first one holds"


def test_juice_browns_unless_it_runs_onto_ascorbic_acid():
    def remark(*first, minutes=90, **more):
        done = worked(
            {"verb": "combine", "vessel": "jug", "lines": [line("water", 10.0), *first]},
            pour(line("quince", 1000.0)),
            {"verb": "juice", "into": "jug"},
            {"verb": "rest", "vessel": "jug", "minutes": minutes, "temperature_c": 20},
            **more,
        )
        return [item.text for item in done.remarks if item.code == "browns"]

    assert remark()
    assert remark(minutes=5) == []
    assert remark(line("ascorbic_acid", 0.5)) == []
    assert remark(line("citric_acid", 5.0)), "other acids are no antioxidant of that kind"
    spirit = [
        {"verb": "combine", "lines": [line("quince", 100.0)]},
        {"verb": "crush"},
        {"verb": "rest", "minutes": 300, "temperature_c": 20},
    ]
    weak, strong = (worked(pour(line("neutral_spirit_40", grams), line("water", 400.0)), *spirit) for grams in (100.0, 600.0))
    assert any(item.code == "browns" for item in weak.remarks)
    assert not any(item.code == "browns" for item in strong.remarks), "strong alcohol stops the enzyme"
    assert minutes_before_browning(20.0, 0.5, 20.0) == pytest.approx(140.0)
    assert minutes_before_browning(20.0, 0.5, 10.0) == pytest.approx(280.0)


def test_the_working_says_whether_the_model_or_the_fruit_is_unsure():
    """pH of a juice of known makeup is the model's doubt; °Bx of fruit that nobody has read is the fruit's."""
    plain = worked(pour(line("water", 900.0), line("citric_acid", 12.0)))
    assert printed(working(plain, "s0", "ph").doubt) == "Most of the doubt is the model's own."
    fruit = worked(pour(line("bergamot_juice", 500.0), line("white_sugar", 200.0)))
    assert "Bergamot juice" in printed(working(fruit, "s0", "acid_g_100g").doubt)


def test_fresh_juice_in_a_boiled_vessel_browns_again():
    boiled = (pour(line("water", 200.0), line("white_sugar", 100.0)), {"verb": "simmer", "minutes": 5}, {"verb": "cool", "minutes": 30})
    browns = next(key for key, item in KNOWN.items() if item["kind"] == "juice" and item.get("browns_min"))
    fresh = worked(*boiled, {"verb": "combine", "lines": [line(browns, 500.0)]}, {"verb": "rest", "minutes": 600})
    assert "browns" in {remark.code for remark in fresh.remarks}
    heated = worked(
        *boiled, {"verb": "combine", "lines": [line(browns, 500.0)]}, {"verb": "simmer", "minutes": 5}, {"verb": "rest", "minutes": 600}
    )
    assert "browns" not in {remark.code for remark in heated.remarks}


def test_colour_follows_ph():
    steeped = (
        {"verb": "steep", "minutes": 30, "temperature_c": 80, "lines": [line("water", 500.0), line("mallow_flowers", 5.0)]},
        {"verb": "strain"},
    )
    sharp = worked(*steeped, {"verb": "combine", "lines": [line("citric_acid", 10.0)]})
    assert worked(*steeped).colour.word == "blue"
    assert sharp.colour.word == "rose"
    assert sharp.colour.colour == "#d0406f"
    assert worked(pour(line("water", 10.0))).colour is None
    one_flower = {"verb": "steep", "minutes": 30, "temperature_c": 80, "lines": [line("water", 500.0), line("mallow_flowers", 0.01)]}
    assert worked(one_flower).colour.word == "blue", "how little it is changes no hue"


@pytest.mark.parametrize(
    ("name", "words"), [("ph", "mmol/L"), ("water_activity", "g/100 g"), ("freezing_c", "g/100 g"), ("sweetness_g_100ml", "g/100 g")]
)
def test_deeper_figures_show_their_working(name, words):
    done = worked(pour(line("bergamot_juice", 500.0), line("white_sugar", 200.0)))
    sheet = working(done, "s0", name)
    assert sheet.formula
    assert sheet.source
    assert sheet.doubt
    assert all(item.unit == words for item in sheet.inputs)
    assert " to " in printed(sheet.spread)


MOVES = st.lists(
    st.sampled_from(
        [
            pour(line("bergamot_juice", 300.0)),
            pour(line("white_sugar", 120.0)),
            pour(line("water", 200.0)),
            pour(line("neutral_spirit_40", 100.0)),
            pour(line("gooseberries", 150.0)),
            pour(line("white_wine_vinegar", 60.0)),
            pour(line("medlar_puree", 90.0)),
            *({"verb": verb} for verb in VERBS if verb not in ("reduce", "split", "separate")),
            {"verb": "reduce", "to_fraction": 0.8},
            {"verb": "split", "share": 0.3, "by_product": "a part"},
            {"verb": "strain", "into": "jug", "by_product": "solids"},
            {"verb": "combine", "lines": [{"id": "back", "material": "vessel:jug", "amount": ALL}]},
        ]
    ),
    min_size=3,
    max_size=14,
)


@example([pour(line("white_sugar", 120.0)), {"verb": "thaw"}, pour(line("bergamot_juice", 300.0))])
@settings(max_examples=300)
@given(MOVES)
def test_no_order_of_steps_loses_mass_or_goes_below_nothing(moves):
    steps = []
    for n, move in enumerate(moves):
        lines = [{**item, "id": f"{item['id']}{n}"} for item in move.get("lines", [])]
        steps.append({"vessel": "pot", **move, "id": f"s{n}", **({"lines": lines} if lines else {})})
    spec = read_spec({"format": "ulsek.spec", "version": 1, "name": "any", "vessels": [{"id": "pot"}, {"id": "jug"}], "steps": steps})
    done = evaluate(spec, read_materials(KNOWN, spec.material_keys))
    whole = list(done.flow.steps)
    if done.flow.refusal:
        assert done.flow.refusal.where.startswith("steps/s")
        spec = read_spec(
            {"format": "ulsek.spec", "version": 1, "name": "any", "vessels": [{"id": "pot"}, {"id": "jug"}], "steps": steps[: len(whole)]}
        )
        done = evaluate(spec, read_materials(KNOWN, spec.material_keys))
    went_in, came_out = balance_g(done.flow)
    assert came_out == pytest.approx(went_in, rel=1e-9, abs=1e-9)
    for step in done.flow.steps:
        assert all(grams >= -1e-9 for grams in step.contents.grams.values()), step.step.verb
    assert evaluation_result(done).steps is not None
