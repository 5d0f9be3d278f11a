"""Other open forms: a recipe out and in again, materials as a table, and hostile files."""

import csv
import io
import json

import pytest

from tests.core.cordial import FORM
from tests.core.kitchen import known, line, pour, worked
from ulsek.core.base.answer import encode
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import keys
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.recipe_text.open_forms import as_recipe, loaded, materials_csv, materials_from_csv, recipe_text, recipes_in
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.recipe_text.templates import file_id, from_template, schools_of
from ulsek.core.release.release_check import release_check
from ulsek.core.results.quiz import questions, wrong_answers
from ulsek.core.spec.json_form import read_spec


def cordial():
    spec = read_spec(FORM)
    return evaluate(spec, known(spec))


def test_a_recipe_goes_out_and_comes_in_with_its_weights():
    evaluation = cordial()
    recipe = as_recipe(evaluation)
    assert (recipe["@type"], recipe["name"]) == ("Recipe", FORM["name"])
    text, missed = recipe_text(
        recipes_in(f"<html><script type='application/ld+json'>{json.dumps({'@graph': [recipe]})}</script></html>")[0]
    )
    assert missed == ["inLanguage", "recipeCategory", "recipeYield", "totalTime"]
    read = parse_recipe(text)
    grams = {line["material"]: line["amount"]["mass_g"] for step in read.draft["steps"] for line in step.get("lines", [])}
    wanted = {line.material: evaluation.flow.masses[line.id] for line in read_spec(FORM).lines.values()}
    assert set(grams) == set(wanted)
    for key, mass in wanted.items():
        assert grams[key] == pytest.approx(mass, abs=0.5 if mass >= 50 else 0.005)


def test_tags_in_a_recipe_never_arrive():
    text, _ = recipe_text({"@type": "Recipe", "name": "<script>alert(1)</script>Mix", "recipeIngredient": ["1 kg <b>honey</b>"]})
    assert "<" not in text
    assert "1 kg  honey" in text


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("[" * 5000 + "]" * 5000, "levels deep"),
        ('{"a": ' * 60 + "1" + "}" * 60, "levels deep"),
        ('{"format": "ulsek.spec", "na', "cut off"),
        ("x" * 1_000_001, "too long"),
        ('{"a": 1}', "no recipe in this"),
        ("<html>hello</html>", "no recipe in this"),
    ],
)
def test_hostile_files_are_refused_in_words(text, words):
    with pytest.raises(Refusal, match=words):
        recipes_in(text)


def test_a_file_of_ours_that_nests_too_deep_is_refused_whole():
    deep = 1
    for _ in range(45):
        deep = [deep]
    with pytest.raises(Refusal, match="levels deep"):
        loaded(json.dumps({"a": deep}))


def test_materials_go_out_and_in_as_a_table():
    described = typical_materials()
    some = {key: read_material(key, described[key]) for key in ("bergamot_juice", "white_sugar", "honey", "hazelnuts")}
    found, trouble = materials_from_csv(materials_csv(some))
    assert trouble == []
    assert found["hazelnuts"]["allergens"] == ["nuts"]
    for key, material in some.items():
        ours, theirs = material.per_gram().bands(), read_material(key, found[key]).per_gram().bands()
        assert theirs["water"] == pytest.approx(ours["water"], abs=2e-3)
        assert theirs["sugar"] == pytest.approx(ours["sugar"], abs=2e-3)


def test_a_bad_row_is_named_and_the_rest_is_kept():
    found, trouble = materials_from_csv("key,name,kind,sugar_g\na,Good,sweetener,20\nb,Bad,sweetener,much\nc,Worse,sweetener,900\n")
    assert list(found) == ["a"]
    assert printed(trouble[0]) == "row 3: a number cannot be read"
    assert printed(trouble[1]).startswith("row 4: ")
    with pytest.raises(Refusal, match="These are no materials"):
        materials_from_csv("hello")


@pytest.mark.parametrize("family", keys("families"))
def test_every_family_has_a_frame_that_works_out_and_may_be_published(family):
    described = typical_materials()
    for school in schools_of(family):
        body = from_template("Trial", family, school.school)
        spec = read_spec(body)
        done = evaluate(spec, {key: read_material(key, described[key]) for key in spec.material_keys})
        stops = [remark.code for remark in release_check(done) if remark.severity == "stop"]
        assert stops == (["nothing_made"] if family == "other" else [])
        assert school.gains


def test_where_makers_disagree_both_schools_stand():
    for family in (
        "syrup",
        "infused_syrup",
        "cordial",
        "shrub",
        "solution",
        "stretched_citrus",
        "clarified_juice",
        "bitter_base",
        "fruit_syrup",
        "nut_puree",
    ):
        found = schools_of(family)
        assert len(found) >= 2
        assert all(school.costs for school in found)
    with pytest.raises(Refusal):
        from_template("x", "cordial", "by moonlight")
    assert file_id("Bergamot–Kumquat mix é") == "bergamot-kumquat-mix-e"


def test_three_questions_come_out_of_the_spec_and_are_judged():
    evaluation = cordial()
    asked = questions(evaluation)
    assert len(asked) == 3
    assert wrong_answers(evaluation, {item.id: item.right for item in asked}) == ()
    wrong = wrong_answers(evaluation, {asked[0].id: (asked[0].right + 1) % 2, asked[1].id: asked[1].right})
    assert {item.id for item in wrong} == {asked[0].id, asked[2].id}
    assert all("right" not in encode(item) for item in asked)
    driver = evaluation.inputs.spec.lines[evaluation.inputs.spec.driver].material
    assert printed(asked[0].answers[asked[0].right]) == evaluation.inputs.materials[driver].name


def test_no_question_has_two_answers_that_read_alike():
    """A trace of 1 mg a litre and a tenth of it are both "under 0.01 g"."""
    asked = {item.id: item for item in questions(worked(pour(line("water", 1000.0), line("citric_acid", 0.001))))}
    answers = [printed(item) for item in asked["dose"].answers]
    assert len(answers) == len(set(answers)) == 2
    assert printed(asked["dose"].answers[asked["dose"].right]) == answers[asked["dose"].right] == "under\u00a00.01\u00a0g\u00a0a\u00a0litre"


@pytest.mark.parametrize("name", ["=1+1", "+49", "-cmd", "@sum", "\tx", "'quoted'", "plain"])
def test_no_cell_of_a_table_is_a_formula_and_what_goes_out_comes_in_the_same(name):
    key, described = "house_made", typical_materials()["honey"]
    out = materials_csv({key: read_material(key, {**described, "name": name, "allergens": ["=nuts"]})})
    cells = next(csv.reader(io.StringIO(out.splitlines()[1] if "\r" not in out else out)))
    assert not any(text.startswith(("=", "+", "-", "@", "\t", "\r")) for text in cells)
    back, trouble = materials_from_csv(out)
    assert (back[key]["name"], trouble) == (name.strip(), [])
