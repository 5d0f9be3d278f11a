"""The spec card: right numbers at any batch, in both languages; the lead's words as written."""

import re

import pytest

from tests.core.cordial import FORM
from tests.core.kitchen import known
from ulsek.core.base.messages import printed
from ulsek.core.base.number_format import grams
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.register import scale_of
from ulsek.core.base.weighing import Scales
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.evaluation.flow_values import AsMade
from ulsek.core.materials.material import read_material
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.results.spec_card import card, in_spoons, markdown, on_scale, second_measure
from ulsek.core.spec.json_form import read_spec


def made(language="en", factor=1.0, body=FORM, **how):
    spec = read_spec(body)
    evaluation = evaluate(spec, known(spec), AsMade(factor))
    return evaluation, card(evaluation, language, **how)


def amounts(found):
    return {line.id: line.amount for step in found.steps for line in step.lines}


@pytest.mark.parametrize(
    ("mass", "resolution", "shown"),
    [
        (618.27, 1.0, "618 g"),
        (3.962, 1.0, "3.96 g"),
        (3.962, 0.1, "3.96 g"),
        (12.34, 0.1, "12.3 g"),
        (0.004, 1.0, "0.01 g"),
        (1234.5, 5.0, "1 235 g"),
    ],
)
def test_weights_are_shown_as_the_scale_shows_them(mass, resolution, shown):
    assert printed(on_scale(mass, Scales(resolution))).replace("\u00a0", " ") == shown


def test_a_volume_beside_a_weight_has_a_decimal_below_twenty_millilitres():
    water = read_material("water", typical_materials()["water"])
    said = [printed(second_measure(water, ml * water.density_g_ml(), "metric", "volume")) for ml in (12.3, 20.0, 23.4)]
    assert [text.replace("\u00a0", " ") for text in said] == ["12.3 mL", "20 mL", "23 mL"]


@pytest.mark.parametrize(
    ("ml", "locale", "shown"),
    [
        (250, "metric", "1 cup"),
        (236.6, "us", "1 cup"),
        (150, "metric", "1/2 cup"),
        (22.5, "metric", "1 1/2 tbsp"),
        (5, "metric", "1 tsp"),
        (1, "metric", ""),
    ],
)
def test_cups_stand_beside_in_the_house_s_size(ml, locale, shown):
    assert in_spoons(ml, locale) == shown


def test_every_weight_is_the_evaluation_s_at_twice_the_batch():
    evaluation, found = made(factor=2.0)
    for key, shown in amounts(found).items():
        grams = float(re.sub(r"[^\d.]", "", shown))
        step = 1.0 if evaluation.flow.masses[key] >= 50 else 0.01
        assert grams == pytest.approx(evaluation.flow.masses[key], abs=step / 2 + 1e-9)
    assert amounts(made(factor=1.0)[1]) != amounts(found)


def test_spanish_says_the_same_numbers_with_a_comma_and_marks_what_is_written():
    english, spanish = made()[1], made("es")[1]
    for key, shown in amounts(english).items():
        assert amounts(spanish)[key] == shown.replace(".", ",")
    assert spanish.labels["allergens"] == "Alérgenos"
    assert spanish.steps[0].title != english.steps[0].title
    assert spanish.marks
    assert not english.marks
    notes = [step.note for step in english.steps]
    assert [step.note for step in spanish.steps] == notes, "what the lead wrote is never translated"
    assert not re.search(
        r"\b(Stir|Pour|until|days|serves|Bring)\b",
        " ".join(step.title + step.check for step in spanish.steps) + spanish.makes + spanish.keeps,
    )


def test_volumes_stand_beside_weights_where_wanted():
    lines = [line for step in made(beside="volume")[1].steps for line in step.lines]
    assert any(line.beside.endswith("mL") for line in lines)
    assert all(line.beside == "" for step in made()[1].steps for line in step.lines)


def test_a_card_is_readable_without_ulsek():
    text = markdown(made()[1])
    assert text.startswith("# Sea buckthorn cordial\n")
    for shown in amounts(made()[1]).values():
        assert shown in text
    assert "ask your authority" in text


@pytest.mark.parametrize(
    ("how", "where"), [({"language": "tlh"}, "language"), ({"at": scale_of(0)}, "resolution_g"), ({"beside": "parts"}, "beside")]
)
def test_what_a_card_cannot_be_is_refused(how, where):
    with pytest.raises(Refusal) as refused:
        made(**how)
    assert refused.value.where == where


def of_steps(*steps, vessels=("pot", "board"), language="en"):
    body = {
        "format": "ulsek.spec",
        "version": 1,
        "name": "x",
        "vessels": [{"id": vessel, "name": f"the {vessel}"[4:]} for vessel in vessels],
        "steps": [{"id": f"s{n}", "vessel": "pot", **step} for n, step in enumerate(steps)],
    }
    spec = read_spec(body)
    return card(evaluate(spec, known(spec)), language)


def line(material, key="l", **amount):
    return {"id": key, "material": material, "amount": {"kind": "fixed", **amount}}


@pytest.mark.parametrize(
    ("material", "count", "shown", "spanish"),
    [
        ("bergamot", 6, "6 bergamots, 840 g in all", "6 piezas, 840 g en total"),
        ("bergamot", 1, "1 bergamot, 140 g", "1 pieza, 140 g"),
        ("egg_white", 3, "3 egg whites, 99 g in all", "3 piezas, 99 g en total"),
        ("kumquat", 2.5, "2.5 kumquats, 32.50 g in all", "2,5 piezas, 32,50 g en total"),
    ],
)
def test_what_is_counted_says_how_many_and_how_much_in_all(material, count, shown, spanish):
    found = of_steps(
        {"verb": "combine", "lines": [line(material, count=count)]}, {"verb": "combine", "lines": [line("water", "w", mass_g=9)]}
    )
    assert amounts(found)["l"].replace("\u00a0", " ") == shown
    other = of_steps(
        {"verb": "combine", "lines": [line(material, count=count)]},
        {"verb": "combine", "lines": [line("water", "w", mass_g=9)]},
        language="es",
    )
    assert amounts(other)["l"].replace("\u00a0", " ") == spanish
    assert "×" not in amounts(found)["l"]


def test_lines_name_their_vessel_and_what_comes_out_of_it():
    found = of_steps(
        {"verb": "cut", "vessel": "board", "lines": [line("quince_fruit", "q", mass_g=500)]},
        {"verb": "combine", "lines": [line("water", "w", mass_g=500)]},
        {"verb": "combine", "lines": [{"id": "all", "material": "vessel:board", "amount": {"kind": "all"}}]},
        {"verb": "combine", "lines": [{"id": "acid", "material": "malic_acid", "amount": {"kind": "percent", "percent": 1}}]},
    )
    lines = {item.id: item for step in found.steps for item in step.lines}
    assert lines["all"].name == "Quince, from the board"
    assert found.steps[2].title == "Stir in quince from the board"
    assert printed(lines["acid"].how) == "1 % w/w of what the pot holds"
    assert [step.place for step in found.steps] == ["Board", "Pot", "", ""]
    assert "what is in" not in markdown(found)
    assert "2. Pot: Stir in water" in markdown(found)


def test_nothing_is_said_twice_and_nothing_is_weighed_that_is_nothing():
    found = of_steps(
        {"verb": "combine", "lines": [line("water", "w", mass_g=500)], "note": "Stir in the water"},
        {"verb": "simmer", "minutes": 10, "note": "stir now and then", "check": "stir now"},
        {
            "verb": "combine",
            "lines": [{"id": "c", "material": "citric_acid", "amount": {"kind": "target", "property": "acid_g_100ml", "value": 0}}],
        },
    )
    assert [step.note for step in found.steps] == ["", "stir now and then", ""]
    assert found.steps[1].check == ""
    assert amounts(found)["c"] == "none needed"
    assert grams(0.002) == "under\u00a00.01\u00a0g"
    assert grams(0.0) == "0.00\u00a0g"


def test_the_card_counts_its_days_from_where_they_count():
    cold = of_steps({"verb": "combine", "lines": [line("gooseberry_juice", mass_g=500)]})
    hot = of_steps({"verb": "combine", "lines": [line("gooseberry_juice", mass_g=500)]}, {"verb": "simmer"}, {"verb": "cool"})
    assert cold.keeps.endswith("counted from the mixing")
    assert hot.keeps.endswith("counted from the cool-down")
    assert of_steps({"verb": "combine", "lines": [line("gooseberry_juice", mass_g=500)]}, language="es").keeps.endswith("desde la mezcla")
