"""Capture: a draft grown from what stood on the scale, and from what was poured over, drawn off, strained out and dropped in."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.cordial import Batch, materials_of
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.recipe_text.capture import captured
from ulsek.core.run.fold import fold
from ulsek.core.spec.json_form import read_spec


def test_a_spec_grows_from_weighings():
    """1 kg of juice, the untared scale at 1 620 and 1 626, 20 minutes at 60 °C: the same product as when it is written down."""
    draft = captured(
        "Grown cordial",
        [
            {"material": "sea_buckthorn_juice", "mass_g": 1000},
            {"material": "white_sugar", "shown_g": 1620, "verb": "dissolve", "temperature_c": 60},
            {"material": "malic_acid", "shown_g": 1626},
            {"verb": "bottle"},
        ],
    )
    assert [line["amount"].get("ratio") for step in draft["steps"] for line in step.get("lines", ())] == [None, 0.62, 0.006]
    spec = read_spec(draft)
    grown = fold(spec, materials_of(spec), Batch().events)
    assert grown.evaluation.flow.refusal is None
    assert grown.evaluation.flow.masses == pytest.approx({"l1": 1000, "l2": 620, "l3": 6})
    assert spec.steps[1].temperature_c == 60


def test_what_was_poured_over_drawn_off_and_thrown_away_is_followed():
    """Two vessels, drops, a part drawn off, pressed fruit out, an untared scale: each stands in the draft, and the liquid is where it was put."""
    draft = captured(
        "Followed",
        [
            {"material": "malic_acid", "drops": 20, "drop_ml": 0.04},
            {"material": "quince", "mass_g": 500},
            {"material": "water", "mass_g": 1000},
            {"verb": "simmer", "minutes": 20},
            {"verb": "strain", "by_product": "pressed quince", "out_g": 410},
            {"from": "pot", "vessel": "tall jug"},
            {"material": "white_sugar", "shown_g": 300},
            {"verb": "split", "mass_g": 200, "by_product": "for the tasting"},
            {"material": "water", "shown_g": 150},
            {"from": "tall jug", "vessel": "bottle", "mass_g": 50},
            {"verb": "bottle", "vessel": "tall jug"},
        ],
    )
    spec = read_spec(draft)
    assert [vessel.name for vessel in spec.vessels.values()] == ["pot", "tall jug", "bottle"]
    assert (spec.driver, [step.vessel for step in spec.steps]) == ("l2", ["pot"] * 3 + ["tall-jug"] * 3 + ["bottle", "tall-jug"])
    found = evaluate(spec, read_materials(typical_materials(), spec.material_keys)).flow
    assert found.refusal is None
    assert found.masses["l1"] == pytest.approx(20 * 0.04 * read_materials(typical_materials(), ["malic_acid"])["malic_acid"].density_g_ml())
    assert (found.masses["l5"], found.masses["l6"], found.masses["l7"]) == pytest.approx((300, 50, 50)), (
        "200 g left the scale before the water"
    )
    assert found.streams["for the tasting"].mass_g == pytest.approx(200)
    assert found.streams["pressed quince"].mass_g > 300
    assert found.vessels["pot"].mass_g == pytest.approx(0, abs=1e-6)
    assert found.vessels["bottle"].mass_g == pytest.approx(50)
    assert next(step.note for step in spec.steps if step.verb == "strain") == "410\u00a0g came out"


def steeped(out_g, **more):
    return [
        {"material": "water", "mass_g": 1000},
        {"material": "birch_tips", "mass_g": 80, "verb": "steep", "minutes": 20, "temperature_c": 60},
        {"verb": "strain", "out_g": out_g, **more},
        {"verb": "bottle"},
    ]


@pytest.mark.parametrize("more", [{}, {"pressed": True}, {"by_product": "spent tips"}])
def test_the_sieve_holds_what_the_solids_were_weighed_to_hold(more):
    """Wet leaf on the scale: the draft makes that much less, and the next batch expects it."""
    known = read_materials(typical_materials(), ("water", "birch_tips"))
    for out_g in (110.0, 160.0):
        spec = read_spec(captured("Birch water", steeped(out_g, **more), known))
        (strain,) = (step for step in evaluate(spec, known).flow.steps if step.step.verb == "strain")
        assert sum(stream.contents.mass_g for stream in strain.outgoing) == pytest.approx(out_g, rel=1e-3)
        assert strain.state.mass_g == pytest.approx(1080 - out_g, rel=1e-3)
        held = strain.step.hold_g_g
        assert (held.low, held.high) == pytest.approx((0.9 * held.value, 1.1 * held.value), rel=1e-3)


@pytest.mark.parametrize(
    ("rows", "materials"),
    [
        (steeped(3.0), ("water", "birch_tips")),
        (steeped(1200.0), ("water", "birch_tips")),
        (steeped(110.0), ("water",)),
        (steeped(110.0), None),
        ([{"material": "water", "mass_g": 1000}, {"verb": "strain", "out_g": 40}], ("water",)),
    ],
)
def test_a_weight_that_no_sieve_leads_to_stays_a_note(rows, materials):
    draft = captured("Birch water", rows, None if materials is None else read_materials(typical_materials(), materials))
    step = next(step for step in draft["steps"] if step["verb"] == "strain")
    assert "hold_g_g" not in step
    assert "came out" in step["note"]
    told = captured("x", steeped(110.0, hold_g_g=0.5), read_materials(typical_materials(), ("water", "birch_tips")))
    assert told["steps"][-2]["hold_g_g"] == 0.5, "what was said is not fitted over"


@pytest.mark.parametrize(
    ("done", "left"),
    [
        ({"verb": "split", "mass_g": 200}, 600),
        ({"verb": "split", "share": 0.25}, 600),
        ({"verb": "strain", "out_g": 90}, 710),
        # A figure of another verb is what it aims at, and nothing that left the scale.
        ({"verb": "reduce", "to_mass_g": 500}, 800),
    ],
)
def test_an_untared_scale_is_read_from_what_really_left_it(done, left):
    rows = [{"material": "water", "shown_g": 800}, done, {"material": "white_sugar", "shown_g": left + 100}]
    amount = captured("x", rows)["steps"][-1]["lines"][0]["amount"]
    assert amount["ratio"] * 800 == pytest.approx(100)


@settings(max_examples=150)
@given(st.lists(st.floats(0.5, 5000), min_size=1, max_size=8), st.booleans())
def test_what_was_weighed_is_what_the_draft_makes(grams, tared):
    """Tared or not, in any amounts: the draft's own weights are those that stood on the scale."""
    shown, weighings = 0.0, []
    for mass in grams:
        shown += mass
        weighings.append({"material": "water", **({"mass_g": mass} if tared else {"shown_g": shown})})
    spec = read_spec(captured("Any", weighings))
    made = fold(spec, materials_of(spec), Batch().events).evaluation.flow.masses
    assert [made[f"l{n}"] for n in range(1, len(grams) + 1)] == pytest.approx(grams, rel=1e-5, abs=0.003)


@pytest.mark.parametrize(
    ("name", "weighings", "words"),
    [
        (" ", [{"material": "honey", "mass_g": 1}], "What is made needs a name"),
        ("x", [], "Nothing was weighed"),
        ("x", [{"verb": "strain"}], "Nothing was weighed"),
        ("x", [{"material": "honey", "mass_g": "much"}], "A weighing needs its grams"),
        ("x", [{"material": "honey", "shown_g": 500}, {"material": "water", "shown_g": 480}], "The scale went from 500 to 480 g"),
        ("x", [{"material": "honey", "mass_g": 1, "verb": "bless"}], "“bless” is no verb"),
        ("x", [{"mass_g": 4}], "Neither a material nor a step"),
        ("x", ["honey"], "A weighing must be an object"),
        ("x", [{"material": "honey", "mass_g": 1, "drops": 3}], "How much went in is given twice"),
        ("x", [{"material": "honey", "drops": -3}], "Drops need their number"),
        ("x", [{"material": "honey", "mass_g": 1}, {"from": "jug", "vessel": "pot"}], "Nothing stands in “jug” to pour over"),
        ("x", [{"material": "honey", "mass_g": 1}, {"from": "pot"}], "Nothing stands in “pot” to pour over"),
        ("x", [{"material": "honey", "mass_g": 1}, {"from": "pot", "vessel": "jug", "out_g": 4}], "“out_g” is not known here"),
        ("x", [{"material": "honey", "mass_g": 1}, {"verb": "strain", "out_g": float("inf")}], "What came out needs its grams"),
        ("x", [{"material": "honey", "mass_g": 1, "vessel": " "}], "A vessel needs its name"),
    ],
)
def test_weighings_that_cannot_be_are_refused(name, weighings, words):
    with pytest.raises(Refusal, match=words):
        captured(name, weighings)
