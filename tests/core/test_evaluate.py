"""Evaluate: masses closed, targets met, ranges honest, remarks at their places."""

import dataclasses

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.cordial import FORM, JUICE, evaluated, form, materials_of
from ulsek.core.base.messages import printed
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.estimate import Estimate
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.flow import flow
from ulsek.core.evaluation.flow_values import AsMade, Inputs
from ulsek.core.evaluation.group_key import BUNDLE, GroupKey
from ulsek.core.evaluation.uncertainty_groups import rebundled
from ulsek.core.release.release_check import release_check
from ulsek.core.results.working import working
from ulsek.core.spec.json_form import read_spec

VERBS = st.sampled_from(["combine", "dissolve", "steep", "strain"])
MATERIALS = st.sampled_from([JUICE, "white_sugar", "water", "honey", "birch_tips", "allspice", "citric_acid", "hazelnuts", "damson_juice"])


@st.composite
def made_up_specs(draw):
    """Specs of up to eight steps in two vessels, with fixed, ratio and percent amounts."""
    steps = [
        {
            "id": "s0",
            "verb": "combine",
            "vessel": "pot",
            "lines": [{"id": "first", "material": JUICE, "amount": {"kind": "fixed", "mass_g": draw(st.floats(200, 3000))}}],
        }
    ]
    for n in range(1, draw(st.integers(1, 8))):
        verb = draw(VERBS)
        step = {"id": f"s{n}", "verb": verb, "vessel": "pot"}
        if verb != "strain":
            amounts = st.one_of(
                st.builds(lambda g: {"kind": "fixed", "mass_g": g}, st.floats(0.5, 900)),
                st.builds(lambda r: {"kind": "ratio", "to": {"line": "first"}, "ratio": r}, st.floats(0.001, 1.5)),
                st.builds(lambda p, b: {"kind": "percent", "percent": p, "basis": b}, st.floats(0.1, 30), st.sampled_from(["w/w", "w/v"])),
            )
            step["lines"] = [{"id": f"l{n}", "material": draw(MATERIALS), "amount": draw(amounts)}]
        else:
            step["pressed"] = draw(st.booleans())
        if verb == "dissolve":
            step |= {
                "temperature_c": draw(st.floats(30, 95)),
                "minutes": draw(st.floats(0, 20)),
                "lid": draw(st.sampled_from(["on", "half", "off"])),
            }
        steps.append(step)
    return {"format": "ulsek.spec", "version": 1, "name": "x", "vessels": [{"id": "pot"}, {"id": "jug"}], "steps": steps}


@settings(max_examples=150)
@given(made_up_specs(), st.floats(0.1, 5))
def test_mass_is_conserved(data, factor):
    spec = read_spec(data)
    found = flow(Inputs(spec, materials_of(spec), AsMade(factor)))
    went_in = sum(added.mass_g for step in found.steps for added in step.added)
    left = sum(stream.contents.mass_g for step in found.steps for stream in step.outgoing)
    if found.refusal is None:
        assert sum(vessel.mass_g for vessel in found.vessels.values()) + left == pytest.approx(went_in, rel=1e-9)
    assert all(mass >= 0 for step in found.steps for mass in step.contents.grams.values())


def test_the_cordial_by_hand():
    """1 kg juice at 8.2 °Bx read and 2.40 g/100 mL, 519 g sugar, malic to 2.10: solids by hand from the same balance."""
    done = evaluated()
    juice = done.inputs.materials[JUICE].per_gram()
    malic = done.flow.masses["malic"]
    solids = 1000 * (1 - juice.of("water")) + 519 * 0.9996 + malic * 0.995
    final = done.figures[done.last]
    assert final["brix"] == pytest.approx(100 * solids / (1000 + 519 + malic), abs=1e-9)
    assert final["acid_g_100ml"] == pytest.approx(2.1, abs=1e-9)
    assert 3.0 < malic < 5.0


def test_make_up_to_the_line_is_not_adding_that_much():
    line = {"id": "rest", "material": "water", "amount": {"kind": "target", "property": "volume_ml", "value": 1000}}
    acid = {"id": "acid", "material": "citric_acid", "amount": {"kind": "fixed", "mass_g": 60}}
    some = {"id": "some", "material": "water", "amount": {"kind": "fixed", "mass_g": 500}}
    steps = [{"id": "a", "verb": "combine", "lines": [some, acid]}, {"id": "b", "verb": "combine", "lines": [line]}]
    spec = read_spec({"format": "ulsek.spec", "version": 1, "name": "stock", "steps": steps})
    done = evaluate(spec, materials_of(spec))
    final = done.figures[done.last]
    assert final["volume_ml"] == pytest.approx(1000.0, abs=1e-6)
    assert final["acid_g_100ml"] == pytest.approx(6.0 * 0.998, abs=1e-3)
    assert done.flow.masses["some"] + done.flow.masses["rest"] == pytest.approx(963.0, abs=1.2), "6 % w/v takes 96.30 g water per 100 mL"


def test_two_targets_in_one_step_are_met_together():
    lines = [
        {"id": "sugar", "material": "white_sugar", "amount": {"kind": "target", "property": "brix", "value": 50}},
        {"id": "acid", "material": "citric_acid", "amount": {"kind": "target", "property": "acid_g_100ml", "value": 3}},
    ]
    done = evaluated(form(s2={"id": "s2", "verb": "combine", "lines": lines}, s3={"id": "s3", "verb": "combine", "lines": []}))
    final = done.figures[done.last]
    assert (final["brix"], final["acid_g_100ml"]) == (pytest.approx(50, abs=1e-8), pytest.approx(3, abs=1e-8))


def test_a_target_out_of_reach_says_why():
    water = [{"id": "sugar", "material": "water", "amount": {"kind": "target", "property": "brix", "value": 55}}]
    done = evaluated(form(s2={"id": "s2", "verb": "combine", "lines": water}))
    assert done.flow.refusal.text.replace("\u00a0", " ") == (
        "55.0 °Bx cannot be reached by adding water: the vessel stands at 8.7 °Bx, and water lowers it. Change the target, or add something else."
    )
    assert done.flow.refusal.where == "steps/s2/lines/sugar/amount"
    assert len(done.flow.steps) == 1


def test_ranges_narrow_when_the_delivery_is_read():
    typical, read = evaluated(read=False), evaluated()
    wide, narrow = (done.range(done.last, "brix") for done in (typical, read))
    assert wide.half_width > 4 * narrow.half_width
    assert narrow.low < read.figures[read.last]["brix"] < narrow.high
    promised = typical.narrowing("brix")
    assert promised.name == "Sea buckthorn juice"
    assert promised.half_then == pytest.approx(narrow.half_width, rel=0.5), "what the hint promises is about what a reading gives"
    assert read.narrowing("brix") is None


def test_the_range_holds_what_another_fruit_would_give():
    """Two ways to one number: the range against a plain evaluation with the juice at its 95 % point."""
    done = evaluated(read=False)
    index = done.last
    spec, materials = done.inputs.spec, dict(done.inputs.materials)
    composition = materials[JUICE].composition
    materials[JUICE] = dataclasses.replace(
        materials[JUICE], composition=dataclasses.replace(composition, brix_reading=Range.exact(composition.brix_reading.high)), _cache={}
    )
    held = {"malic": done.flow.masses["malic"]}
    sweeter = evaluate(spec, materials, AsMade(actual_g=held)).figures[index]["brix"] - done.figures[index]["brix"]
    slopes = done.slopes(index, "brix")
    assert slopes.up[done.estimate.groups.index(GroupKey("material", JUICE, "brix"))] == pytest.approx(sweeter, rel=1e-9)


def test_a_computed_addition_is_exact_and_one_dosed_by_reading_is_not():
    by_sum = evaluated(read=False)
    dosed = {
        "id": "malic",
        "material": "malic_acid",
        "amount": {"kind": "target", "property": "acid_g_100ml", "value": 2.9, "dosed": "reading"},
    }
    by_reading = evaluated(form(s3={"id": "s3", "verb": "combine", "lines": [dosed]}), read=False)
    assert by_sum.line_range(2, 0).half_width == 0
    assert by_sum.range(by_sum.last, "acid_g_100ml").half_width > 0.2
    assert by_reading.line_range(2, 0).half_width > 2
    assert by_reading.range(by_reading.last, "acid_g_100ml").half_width < 0.02


def test_more_sugar_than_dissolves_stops_publishing():
    rich = [{"id": "sugar", "material": "white_sugar", "amount": {"kind": "ratio", "to": {"line": "juice"}, "ratio": 2.5}}]
    done = evaluated(form(s2={"id": "s2", "verb": "combine", "lines": rich}))
    stop = release_check(done)[0]
    assert (stop.code, stop.severity, stop.where) == ("sugar_undissolved", "stop", "steps/s2")
    assert "of sugar stay undissolved at 20 °C" in printed(stop.text)
    assert all(remark.severity != "stop" for remark in release_check(evaluated()))


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"name": " "}, "no_name"),
        ({"steps": [], "driver": None}, "nothing_made"),
        ({"steps": FORM["steps"][:4]}, "no_bottle"),
        ({"driver": None}, "no_driver"),
        ({"goals": [{"property": "brix", "value": 55, "tolerance": 1}]}, "off_goal"),
        ({"vessels": [{"id": "pot", "capacity_ml": 800}]}, "vessel_too_small"),
    ],
)
def test_the_release_check_finds_each_fault(change, code):
    assert code not in {remark.code for remark in release_check(evaluated())}
    assert code in {remark.code for remark in release_check(evaluated({**FORM, **change}))}


def test_jars_that_are_easily_confused_and_things_that_are_not_listed_are_asked_about():
    both = [
        {"id": "malic", "material": "citric_acid", "amount": {"kind": "percent", "percent": 1}},
        {"id": "fresh", "material": "ascorbic_acid", "amount": {"kind": "percent", "percent": 0.1}},
    ]
    found = release_check(evaluated(form(s3={"id": "s3", "verb": "combine", "lines": both, "note": "Then the honey, and water to rinse."})))
    (confused,) = [remark for remark in found if remark.code == "easily_confused"]
    assert printed(confused.text).startswith("citric acid and ascorbic acid both stand here.")
    (unlisted,) = [remark for remark in found if remark.code == "not_in_list"]
    assert (unlisted.where, printed(unlisted.text)) == ("steps/s3", "The words of this step name honey, which is not in the list.")
    fine = {"id": "s3", "verb": "combine", "lines": both[:1], "note": "Stir the sea buckthorn juice and sugar until clear."}
    assert not {"easily_confused", "not_in_list"} & {remark.code for remark in release_check(evaluated(form(s3=fine)))}


@pytest.mark.parametrize(
    ("others", "asked"), [((3.0, 3.5, 5.0), True), ((90.0, 80.0), True), ((12.0, 20.0), False), ((4.0,), False), ((), False)]
)
def test_a_dose_far_from_the_house_s_usual_is_a_question(others, asked):
    done = evaluated()
    dose = done.doses_g_l["malic_acid"]
    assert dose == pytest.approx(done.flow.masses["malic"] / done.figures[done.last]["volume_ml"] * 1000)
    scale = dose / 16.0
    found = release_check(done, {"malic_acid": [scale * other for other in others], "white_sugar": [1.0, 1.0]})
    told = [printed(remark.text).replace("\u00a0", " ") for remark in found if remark.code == "far_from_usual"]
    assert bool(told) is asked
    if asked:
        assert ("4.6 times the house's usual" if others[0] < 10 else "19 % of the house's usual") in told[0]


def test_keeping_is_the_shortest_class_and_counts_the_day_of_making():
    from datetime import date

    kept = evaluated().keeping
    assert (kept.days, kept.keeping_class) == (5, "sharp")
    assert (
        printed(kept.reason)
        == "5 days at 5 °C or colder, counted from the mixing: a sharp cordial, not heated through, no barrier shown (Sea buckthorn juice)."
    )
    assert kept.use_by(date(2026, 3, 2)) == date(2026, 3, 6)


def test_allergens_and_claims_travel_up():
    nuts = [
        {"id": "nuts", "material": "hazelnuts", "amount": {"kind": "percent", "percent": 3}},
        {"id": "egg", "material": "egg_white", "amount": {"kind": "fixed", "count": 2}},
    ]
    done = evaluated(form(s2={"id": "s2", "verb": "steep", "lines": nuts}))
    assert done.hazards.allergens == ("nuts", "egg")
    assert done.hazards.free_from == ("alcohol", "milk")
    assert done.flow.masses["egg"] == pytest.approx(66.0), "two egg whites of 33 g"
    assert evaluated().hazards.free_from == ("alcohol", "animal products", "nuts", "milk", "egg")


def test_every_final_number_opens_its_working():
    done = evaluated()
    for name in ("mass_g", "volume_ml", "density_g_ml", "brix", "brix_reading", "sugar_g_100ml", "acid_g_100ml", "abv"):
        sheet = working(done, "s5", name)
        assert sheet.formula
        assert sheet.source
        assert sheet.inputs
    sheet = working(done, "s2", "line:sugar")
    assert (printed(sheet.formula), printed(sheet.value).replace("\u00a0", " ")) == ("0.519 per g of juice", "519 g")
    with pytest.raises(Refusal, match="There is no step “s9”"):
        working(done, "s9", "brix")


def test_the_working_of_an_amount_says_how_it_came_to_its_grams():
    """Twice the spec: 50 mL of spirit by its own density; malic acid by the goal; what was weighed by the scale."""
    spirit = {"id": "spirit", "material": "neutral_spirit_40", "amount": {"kind": "fixed", "written": "50 mL"}}
    data = form(s2={**FORM["steps"][1], "lines": [*FORM["steps"][1]["lines"], spirit]})
    spec = read_spec(data)
    known = materials_of(spec)
    done = evaluate(spec, known, AsMade(2.0, {"sugar": 1040.0}))
    measured = working(done, "s2", "line:spirit")
    density = known["neutral_spirit_40"].density_g_ml()
    assert printed(measured.value).replace("\u00a0", " ") == f"{100 * density:.1f} g"
    assert [(printed(item.name), item.unit) for item in measured.inputs] == [
        ("the spec's amount", "g"),
        ("times", ""),
        ("one mL weighs", "g"),
    ]
    assert [float(printed(item.value)) for item in measured.inputs] == pytest.approx([50 * density, 2.0, density], rel=2e-3)
    assert (printed(working(done, "s2", "line:sugar").formula), working(done, "s2", "line:sugar").source) == (
        "weighed",
        "the scale, in this run",
    )
    aimed = working(done, "s3", "line:malic")
    assert "grams of malic acid until the vessel stands there" in printed(aimed.formula)
    assert aimed.source == "mass balance"
    with pytest.raises(Refusal, match="There is no line “gin” in this step"):
        working(done, "s2", "line:gin")


def test_a_factor_that_cannot_be_is_refused():
    with pytest.raises(Refusal, match="A batch of \u22121 times the spec cannot be made"):
        evaluate(read_spec(FORM), {}, AsMade(-1))


def test_what_a_reading_would_teach_is_what_it_teaches():
    estimate = Estimate.before_readings(("a", "b", "c"), {("a", "b"): 0.6})
    target, slopes = (1.0, -2.0, 0.5), (0.3, 0.0, 2.0)
    assert estimate.spread_after(target, slopes, 0.2) == pytest.approx(estimate.updated(slopes, 0.0, 0.2).spread(target))
    assert estimate.spread_after(target, (0.0, 0.0, 0.0), 0.2) == estimate.spread(target)


def test_an_input_that_turns_up_later_joins_the_estimate_and_stands_in_one_group_only():
    formed = ("juice", "sieve")
    assert rebundled(formed, ("juice", "acid")) == {"juice": ("juice",), "sieve": ("sieve",), "acid": ("acid",)}
    many = tuple(f"small{n}" for n in range(20))
    bundled = rebundled((*many[:15], BUNDLE), many)
    assert bundled[BUNDLE] == many[15:]
    assert list(bundled) == [*many[:15], BUNDLE]
    assert rebundled((*formed, BUNDLE), formed)[BUNDLE] == (BUNDLE,), "a bundle that is certain by now moves nothing"
    overfull = rebundled(many[:16], many)
    assert sorted(key for keys in overfull.values() for key in keys) == sorted(many)
    estimate = Estimate.before_readings(formed, {formed: 0.8}).updated((1.0, 0.0), 0.5, 0.1).covering(("acid", "juice"))
    assert estimate.groups == ("juice", "sieve", "acid")
    assert estimate.covariance[2] == (0.0, 0.0, 1.0)
    assert estimate.mean[:2] == Estimate.before_readings(formed, {formed: 0.8}).updated((1.0, 0.0), 0.5, 0.1).mean
