"""Pasted recipes: every planted slip is found, what is right raises nothing, the draft works out, nonsense is refused."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.recipes import CLEAN, FAIR, PLANTED
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.recipe_text.typed_step import parse_step
from ulsek.core.release.release_check import release_check
from ulsek.core.spec.json_form import read_spec

KNOWN = typical_materials()


def codes(text):
    return [doubt.code for doubt in parse_recipe(text).doubts]


def planted(recipe, line, slip):
    assert line in CLEAN[recipe], "the line that is replaced must be there"
    return CLEAN[recipe].replace(line, slip, 1)


@pytest.mark.parametrize("name", CLEAN)
def test_a_clean_recipe_raises_no_doubt_and_works_out(name):
    parsed = parse_recipe(CLEAN[name])
    assert parsed.doubts == ()
    assert parsed.draft["name"] == CLEAN[name].splitlines()[0]
    spec = read_spec(parsed.draft)
    done = evaluate(spec, read_materials(KNOWN, spec.material_keys))
    assert done.flow.refusal is None
    assert done.final.mass_g > 300


@pytest.mark.parametrize(
    ("recipe", "line", "slip", "code"), PLANTED, ids=lambda value: value if isinstance(value, str) and len(value) < 24 else ""
)
def test_every_planted_slip_is_found_at_its_line(recipe, line, slip, code):
    text = planted(recipe, line, slip)
    found = [doubt for doubt in parse_recipe(text).doubts if doubt.code == code]
    assert found, codes(text)
    at = text.splitlines().index(slip) + 1
    assert any(doubt.line == at for doubt in found) or code in ("never_used", "percent_of_what")
    assert all(doubt.question for doubt in found)


def test_the_corpus_is_large_and_its_false_alarms_are_counted_and_few():
    assert len(PLANTED) + len(CLEAN) >= 45
    # A planted line may take another with it: sugar that is gone is no longer used. What is left over is a false alarm.
    follows = {"never_used", "not_in_list", "unknown_material", "no_piece_weight", "percent_of_what", "missing_amount", "stands_twice"}
    extra = [
        (slip, other)
        for recipe, line, slip, code in PLANTED
        for other in codes(planted(recipe, line, slip))
        if other != code and other not in follows
    ]
    assert len(extra) <= 5, extra


@pytest.mark.parametrize(("recipe", "line", "fair"), FAIR, ids=lambda value: value if isinstance(value, str) and len(value) < 24 else "")
def test_what_is_right_raises_no_doubt(recipe, line, fair):
    assert codes(planted(recipe, line, fair)) == []


def test_a_line_of_several_steps_is_taken_apart():
    draft = parse_recipe(planted("quince", "Cool to 4 °C.", "Fine strain, bring to 180F and bottle.")).draft
    assert [step["verb"] for step in draft["steps"]][-4:] == ["strain", "bring_to", "bottle", "bottle"]
    assert draft["steps"][-3]["temperature_c"] == pytest.approx(82.2)
    pressed = parse_recipe(CLEAN["cordial"]).draft["steps"]
    assert [step.get("pressed") for step in pressed if step["verb"] == "strain"] == [True]
    apart = parse_recipe(planted("stock", "720 g water", "720 g water and 2 g salt")).draft["steps"][0]["lines"]
    assert [line["amount"].get("mass_g") for line in apart] == [180, 100, 720, 2]


@pytest.mark.parametrize(
    ("words", "stops"),
    [
        ("Reduce to 65 °Bx", {"to_brix": 65.0}),
        ("Reduce to 1.2 kg", {"to_mass_g": 1200.0}),
        ("Reduce to 750 ml", {"to_volume_ml": 750.0}),
        ("Reduce by a third", {"to_fraction": pytest.approx(2 / 3)}),
        ("Reduce to a quarter", {"to_fraction": 0.25}),
    ],
)
def test_a_reduction_stops_where_it_says(words, stops):
    step = parse_step(words)
    assert {key: value for key, value in step.items() if key.startswith("to_")} == stops


def test_so_much_per_kilogram_is_a_ratio_to_that_line():
    draft = parse_recipe(planted("quince", "900 g white sugar", "750 g white sugar per kg of quince")).draft
    lines = {line["material"]: line for step in draft["steps"] for line in step.get("lines", ())}
    assert lines["white_sugar"]["amount"] == {"kind": "ratio", "to": {"line": lines["quince"]["id"]}, "basis": "weight", "ratio": 0.75}


def test_parts_and_percent_stand_in_the_draft_as_they_were_meant():
    draft = parse_recipe(planted("honey", "330 g water", "2 parts honey to 1 part water\n1.5 % w/v salt")).draft
    amounts = [line["amount"] for step in draft["steps"] for line in step.get("lines", ())]
    assert {"kind": "percent", "percent": 1.5, "basis": "w/v"} in amounts
    assert {"kind": "fixed", "mass_g": 1000.0} in amounts
    assert any(amount["kind"] == "ratio" and amount["ratio"] == 0.5 for amount in amounts)
    told = parse_recipe(planted("quince", "12 g allspice", "12 g (5 %) allspice")).doubts
    assert "12.0 g is 1.0 % of 1 200 g, not 5 %" in next(doubt.question for doubt in told if doubt.code == "percent_disagrees").replace(
        "\u00a0", " "
    )


def test_each_ingredient_goes_into_the_step_that_names_it():
    steps = parse_recipe(CLEAN["quince"]).draft["steps"]
    corrected_time = {step["verb"]: [line["material"] for line in step.get("lines", ())] for step in steps}
    assert corrected_time["cut"] == ["quince"] or corrected_time["simmer"][0] == "quince"
    assert set(corrected_time["simmer"]) >= {"white_sugar", "water"}
    assert corrected_time["steep"] == ["allspice"]
    assert corrected_time["strain"] == []


def test_what_stands_beside_a_doubt_is_not_lost():
    parsed = parse_recipe(planted("shrub", "Rest 4 days.", "Rest 4 days. Makes a few bottles."))
    assert [step.get("minutes") for step in parsed.draft["steps"] if step["verb"] == "rest"] == [5760.0]


def test_a_typed_line_becomes_a_typed_step():
    assert parse_step("steep birch tips 9 g 25 min 72 C") == {
        "verb": "steep",
        "note": "steep birch tips 9 g 25 min 72 C",
        "minutes": 25.0,
        "temperature_c": 72.0,
        "lines": [{"id": "birch_tips", "material": "birch_tips", "amount": {"kind": "fixed", "written": "9 g"}}],
    }
    assert parse_step("Simmer 1-2 h")["minutes"] == 90.0
    assert parse_step("Rest 2 weeks")["minutes"] == 20160.0
    assert parse_step("bring to 180 °F")["temperature_c"] == pytest.approx(82.2)
    with pytest.raises(Refusal, match="does not begin with a verb"):
        parse_step("birch tips 9 g")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "There is nothing to read"),
        ("   \n\n", "There is nothing to read"),
        ("x" * 30000, "The text is too long for one recipe"),
        ("lorem ipsum\ndolor sit amet", "No ingredient and no step can be read"),
    ],
)
def test_nonsense_is_refused_in_words(text, words):
    with pytest.raises(Refusal, match=words):
        parse_recipe(text)


@settings(max_examples=150)
@given(st.text(max_size=400))
def test_no_text_breaks_the_reader(text):
    try:
        draft = parse_recipe(text).draft
    except Refusal as refusal:
        assert refusal.text
    else:
        read_spec(draft, strict=False)


def test_a_doubt_stays_with_its_line_until_it_is_ticked_off():
    parsed = parse_recipe(
        "Birch thing\n\n500 g honey\na handful of birch tips\n200 g water\n\nSteep the birch tips in the honey and water overnight."
    )
    spec = read_spec(parsed.draft)
    done = evaluate(spec, read_materials(KNOWN, spec.material_keys))
    open_ones = [remark for remark in release_check(done) if remark.code == "open_doubt"]
    places = {remark.where for remark in open_ones}
    assert "steps/s1/lines/l2" in places
    assert any(
        "“a handful of birch tips”: 25 g is usual here, 10 to 45" in printed(remark.text).replace("\u00a0", " ") for remark in open_ones
    )
    ticked = read_spec({**parsed.draft, "doubts": []})
    again = release_check(evaluate(ticked, read_materials(KNOWN, ticked.material_keys)))
    assert "open_doubt" not in [remark.code for remark in again]


def test_a_typed_step_puts_one_thing_in_and_says_so():
    """Of two amounts the second used to be dropped without a word."""
    with pytest.raises(Refusal, match="more than one amount") as caught:
        parse_step("steep birch tips 9 g and fennel 4 g 25 min")
    assert caught.value.where == "text"
    assert parse_step("steep birch tips 9 g 1 h 70 C")["lines"][0]["amount"]["written"] == "9 g", "a time is no amount"
    assert parse_step("strain through 2 cups of cloth, 30 g left")["verb"] == "strain", "nothing goes in while one strains"
