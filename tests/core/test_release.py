"""The release check: what may not be published, beside what is like it and may."""

import pytest

from tests.core.kitchen import after, known, left, line, pour, worked
from ulsek.core.base.messages import printed
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.release.release_check import release_check
from ulsek.core.spec.json_form import read_spec
from ulsek.core.spec.sentences import step_title


def made(*steps, **fields):
    data = {"format": "ulsek.spec", "version": 1, "name": "Trial", "vessels": [{"id": "pot"}, {"id": "jug"}], **fields}
    spec = read_spec({**data, "steps": [{"vessel": "pot", "id": f"s{n}", **step} for n, step in enumerate(steps)]}, strict=False)
    return evaluate(spec, known(spec))


def found(evaluation, code):
    return [(remark.severity, remark.where) for remark in release_check(evaluation) if remark.code == code]


FRUIT = pour(line("gooseberries", 800.0), line("water", 400.0), line("white_sugar", 300.0))
COOKED = (FRUIT, {"verb": "simmer", "minutes": 10}, {"verb": "strain", "by_product": "pulp"})
BOTTLE = {"verb": "bottle"}


def test_a_step_that_throws_the_pot_away_is_not_published():
    thrown = made(*COOKED, {"verb": "discard"}, BOTTLE)
    assert found(thrown, "discards_vessel") == [("stop", "steps/s3")]
    assert thrown.flow.vessels["pot"].mass_g == 0
    assert found(made(*COOKED, {"verb": "discard", "confirmed": True}), "discards_vessel") == []
    pulp = made(*COOKED, {"verb": "discard", "of": "pulp"}, BOTTLE)
    assert found(pulp, "discards_vessel") == found(pulp, "discards_nothing") == []
    assert "pulp" not in pulp.flow.streams
    assert [(stream.name, stream.kept) for stream in left(pulp, 3)] == [("pulp", False)]
    assert after(pulp, 3).mass_g == after(made(*COOKED), 2).mass_g, "what was strained is still there"
    named = made(*COOKED, {"verb": "discard", "of": "the stones"}, BOTTLE)
    assert found(named, "discards_nothing") == [("note", "steps/s3")]
    assert printed(step_title(named.inputs.spec.steps[3], {})) == "Throw away the stones"
    assert worked(*COOKED, {"verb": "discard", "of": "pulp"}), "mass is kept"


@pytest.mark.parametrize("said", ["Discard the solids.", "Strain and discard.", "Throw away the peel."])
def test_a_recipe_that_throws_its_solids_away_keeps_its_syrup(said):
    draft = parse_recipe(f"Syrup\n500 g water\n500 g white sugar\nDissolve the sugar in the water.\nStrain.\n{said}\nBottle.").draft
    assert "discard" not in [step["verb"] for step in draft["steps"]], "after a strain nothing more is thrown away"
    spec = read_spec(draft, strict=False)
    done = evaluate(spec, known(spec))
    assert done.figures[-1]["mass_g"] > 900
    assert found(done, "discards_vessel") == []


def test_a_recipe_that_is_brought_to_the_boil_boils():
    draft = parse_recipe("Syrup\n500 g water\n500 g white sugar\nMix the water and sugar.\nBring to a boil.\nBottle.").draft
    spec = read_spec(draft, strict=False)
    done = evaluate(spec, known(spec))
    step = next(item for item in done.flow.steps if item.step.verb == "bring_to")
    assert 101 < step.temperature_c < 103
    assert printed(step_title(step.step, done.inputs.materials)) == "Bring to the boil"
    warm = made(pour(line("water", 500.0)), {"verb": "bring_to", "temperature_c": 85})
    assert printed(step_title(warm.inputs.spec.steps[1], {})) == "Bring to 85\u00a0°C"


def test_a_vessel_that_pours_nothing_stops_the_check():
    empty = made(FRUIT, {**BOTTLE, "vessel": "jug"})
    assert found(empty, "pours_nothing") == [("stop", "steps/s1")]
    assert found(made(*COOKED, BOTTLE), "pours_nothing") == []
    assert found(made(BOTTLE), "pours_nothing") == [], "where nothing is made, that is said instead"
    words = [printed(remark.text).replace("\u00a0", " ") for remark in worked(pour(line("water", 300.0)), BOTTLE).remarks]
    assert words == ["Fills one bottle of 500 mL to 301 mL."]


@pytest.mark.parametrize(
    ("vessel", "step", "stops"),
    [
        ({"capacity_ml": 1000}, {"verb": "carbonate"}, True),
        ({"capacity_ml": 1200}, {"verb": "carbonate"}, False),
        ({"capacity_ml": 1200, "fill_line_ml": 800}, {"verb": "carbonate"}, True),
        ({"capacity_ml": 1000}, {"verb": "freeze_drip"}, True),
        ({"capacity_ml": 1200}, {"verb": "freeze_drip"}, False),
        ({"capacity_ml": 1000}, {"verb": "rest"}, False),
        ({"fill_line_ml": 800}, {"verb": "rest"}, True),
    ],
)
def test_what_stands_above_the_line_of_its_vessel_stops(vessel, step, stops):
    done = made(pour(line("water", 870.0), line("white_sugar", 70.0)), step, vessels=[{"id": "pot", "name": "siphon", **vessel}])
    assert bool([item for item in found(done, "above_fill_line") if item == ("stop", "steps/s1")]) is stops


SWEET = pour(line("water", 500.0), line("white_sugar", 500.0))


@pytest.mark.parametrize(
    ("code", "family", "lacking", "has"),
    [
        ("no_sweetener", "syrup", [pour(line("water", 500.0), line("allspice", 5.0)), {"verb": "strain"}], [SWEET]),
        ("no_clearing", "clarified_juice", [pour(line("greengage_juice", 500.0)), {"verb": "strain"}], [pour(line("greengage_juice", 500.0)), {"verb": "filter"}]),
    ],
)  # fmt: skip
def test_what_its_family_promises_is_asked_for(code, family, lacking, has):
    assert found(made(*lacking, BOTTLE, family=family), code) == [("check", "family")]
    assert found(made(*lacking, BOTTLE, family="other"), code) == []
    assert found(made(*has, BOTTLE, family=family), code) == []


def test_a_drink_called_fizzy_has_gas():
    flat = made(SWEET, family="drink", name="Kumquat soda")
    assert found(flat, "no_gas") == [("check", "family")]
    assert found(made(SWEET, {"verb": "carbonate"}, family="drink", name="Kumquat soda"), "no_gas") == []
    assert found(made(SWEET, family="drink", name="Kumquat long"), "no_gas") == []
