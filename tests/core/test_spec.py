"""The open spec file: reading, faults with their places, one text for one spec."""

import json
from copy import deepcopy
from pathlib import Path

import jsonschema
import pytest

from tests.core.cordial import FORM, form
from tests.core.kitchen import balance_g
from ulsek.core.advice.sub_recipes import read_materials, specs_embedded
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.release.release_check import release_check
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.spec.json_form import canonical, read_spec

ROOT = Path(__file__).parents[2]
SCHEMA = json.loads((ROOT / "docs" / "formats" / "spec.schema.json").read_text(encoding="utf-8"))
FILES = [ROOT / "docs" / "formats" / "example.spec.json", *sorted((ROOT / "demo" / "specs").glob("*.json"))]


@pytest.mark.parametrize("path", FILES, ids=lambda path: path.stem)
def test_shipped_files_are_valid_canonical_and_work_out_without_a_stop(path):
    text = path.read_text(encoding="utf-8")
    data = json.loads(text)
    jsonschema.validate(data, SCHEMA)
    assert canonical(data) == text
    spec = read_spec(data)
    own = specs_embedded(data.get("materials", {}), lambda name: json.loads(path.with_name(f"{name}.json").read_text(encoding="utf-8")))
    done = evaluate(spec, read_materials(typical_materials() | own, spec.material_keys))
    went_in, came_out = balance_g(done.flow)
    assert came_out == pytest.approx(went_in, rel=1e-9)
    assert [remark.text for remark in release_check(done) if remark.severity == "stop"] == []
    final = evaluation_result(done).final
    assert all(found.low <= found.value <= found.high for found in (final.mass_g, final.volume_ml, final.brix, final.acid_g_100ml))
    assert final.brix.low < final.brix.high, "no fruit, sugar or pot is quite the same twice"


def test_the_example_has_seven_steps_and_holds_its_own_materials():
    data = json.loads(FILES[0].read_text(encoding="utf-8"))
    assert len(data["steps"]) == 7
    assert set(data["materials"]) == set(read_spec(data).material_keys)


def test_the_schema_refuses_what_the_reader_refuses():
    wrong = deepcopy(FORM)
    wrong["steps"][0]["verb"] = "transmute"
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(wrong, SCHEMA)
    with pytest.raises(Refusal, match="“transmute” is not known here"):
        read_spec(wrong)


def _amount(amount):
    line = {"id": "sugar", "material": "white_sugar", "amount": amount}
    return form(s2={"id": "s2", "verb": "combine", "lines": [line]})


@pytest.mark.parametrize(
    ("amount", "place", "text"),
    [
        ({"kind": "fixed", "mass_g": -3}, "amount/mass_g", "\u22123 is not an amount to add"),
        ({"kind": "fixed", "mass_g": 0}, "amount/mass_g", "0 is not an amount to add"),
        ({"kind": "fixed", "mass_g": float("nan")}, "amount/mass_g", "This number is not finite"),
        ({"kind": "fixed", "mass_g": 5e9}, "amount/mass_g", "5\u00a0000\u00a0000\u00a0000 is not an amount to add"),
        ({"kind": "fixed"}, "amount", "The amount is empty"),
        ({"kind": "fixed", "mass_g": 3, "written": "3 g"}, "amount", "The amount is given twice"),
        ({"kind": "fixed", "written": "3 dollops"}, "amount/written", "“dollops” is a unit that Ulsek does not know"),
        ({"kind": "ratio", "to": {"line": "juice"}, "ratio": ""}, "amount/ratio", "A number is missing"),
        ({"kind": "ratio", "to": {"line": "juice"}, "ratio": "much"}, "amount/ratio", "“much” is no number"),
        ({"kind": "ratio", "to": {"line": "sugar"}, "ratio": 1}, "amount/to", "This amount is measured against itself"),
        ({"kind": "ratio", "to": {"line": "gin"}, "ratio": 1}, "amount/to", "There is no line “gin”"),
        ({"kind": "ratio", "to": {"line": "malic"}, "ratio": 1}, "amount/to", "This amount is measured against a line that comes later"),
        ({"kind": "target", "property": "brix", "value": 120}, "amount/value", "120 is out of bounds"),
        ({"kind": "guess"}, "amount/kind", "“guess” is no kind of amount"),
        (None, "amount", "This must be an object"),
    ],
)
def test_a_wrong_amount_is_named_at_its_place(amount, place, text):
    data = _amount(amount)
    with pytest.raises(Refusal) as caught:
        read_spec(data)
    assert caught.value.where == f"steps/s2/lines/sugar/{place}"
    assert caught.value.text.startswith(text)
    assert read_spec(data, strict=False).faults, "a draft keeps the fault instead of stopping"


def test_a_circle_of_ratios_is_refused():
    ring = [
        {"id": "a", "material": "white_sugar", "amount": {"kind": "ratio", "to": {"line": "b"}, "ratio": 1}},
        {"id": "b", "material": "water", "amount": {"kind": "ratio", "to": {"line": "a"}, "ratio": 1}},
    ]
    with pytest.raises(Refusal, match="These amounts go round in a circle: a → b → a"):
        read_spec(form(s2={"id": "s2", "verb": "combine", "lines": ring}))


@pytest.mark.parametrize(
    ("data", "text"),
    [
        ({}, "This is no Ulsek spec file"),
        ([], "This is no Ulsek spec file"),
        ({"format": "ulsek.spec", "version": 2}, "Version 2 of the spec file is not known here"),
        ({"format": "ulsek.spec", "version": "1"}, "Version 1 of the spec file is not known here"),
    ],
)
def test_other_files_are_refused(data, text):
    with pytest.raises(Refusal) as caught:
        read_spec(data)
    assert caught.value.text.startswith(text)


def test_a_faulty_draft_still_shows_the_steps_before_the_fault():
    spec = read_spec(_amount({"kind": "fixed", "written": "much"}), strict=False)
    done = evaluate(spec, read_materials(typical_materials(), spec.material_keys))
    assert done.figures[0]["mass_g"] == pytest.approx(1000.0)
    assert evaluation_result(done).refusals[0].where == "steps/s2/lines/sugar/amount/written"
