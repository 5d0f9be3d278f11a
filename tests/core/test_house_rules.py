"""A house's own rules: stricter always, looser only with what it takes, and they move the judgements."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest

from tests.core.kitchen import line, pour, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.safety.house_rules import read_rules, shipped, tables

SAID = {"source": "house, after a warm summer", "dated": "2026-11-25"}


def rules(**given):
    return {"format": "ulsek.rules", "version": 1, **given}


def of(table, key, **entry):
    return rules(**{table: {key: {**SAID, **entry}}})


def juice(own):
    done = worked(pour(line("bergamot_juice", 500.0)))
    return evaluate(done.inputs.spec, done.inputs.materials, rules=read_rules(own))


def test_a_house_without_rules_goes_by_those_that_ship():
    assert read_rules({}) is shipped()
    assert juice({}).keeping.safety.days == 3


def test_a_stricter_class_shortens_and_says_whose_rule_it_is():
    found = juice(of("classes", "fresh_juice", days=2)).keeping
    assert (found.safety.days, found.safety.source) == (2, SAID["source"])


def test_a_longer_class_takes_the_authority_s_word():
    with pytest.raises(Refusal) as refused:
        read_rules(of("classes", "fresh_juice", days=6))
    assert refused.value.where == "classes/fresh_juice/authority"
    assert "It stands at 3; to loosen it takes your authority's word attached" in refused.value.text
    assert juice(of("classes", "fresh_juice", days=6, authority="letter of 2 October")).keeping.safety.days == 6


def test_a_lower_limit_turns_a_note_into_a_stop():
    done = worked(pour(line("water", 1000.0), line("cinchona_bark", 1.0)))
    before = done.hazards.restricted[0]
    after = evaluate(done.inputs.spec, done.inputs.materials, rules=read_rules(of("limits", "quinine", per_litre_mg=5))).hazards.restricted[
        0
    ]
    assert (before.severity, after.severity) == ("note", "stop")
    assert after.share == pytest.approx(after.per_litre_mg.high / 5)


def test_a_class_that_a_house_tightened_holds_for_what_is_made_of_it_until_the_house_says_so_of_that_too():
    cordial = worked(pour(line("gooseberry_juice", 500.0), line("white_sugar", 400.0)))

    def days(rules_):
        return evaluate(cordial.inputs.spec, cordial.inputs.materials, rules=read_rules(rules_)).keeping.days

    stricter = of("classes", "fresh_juice", days=2)
    assert (cordial.keeping.days, days(stricter)) == (5, 2)
    entry = {"days": 4, "source": "house", "dated": "2026-11-25"}
    assert days({**stricter, "made_classes": {"sugared": entry}}) == 4


def test_a_limit_of_before_drinks_with_and_without_alcohol_holds_for_both():
    held = tables(read_rules(of("limits", "thujone", per_litre_mg=5)))["limits"]["thujone"]
    assert (held["alcoholic_per_litre_mg"], held["alcohol_free_per_litre_mg"]) == (5, 0.5), "the stricter bound stays"
    letter = tables(read_rules(of("limits", "thujone", per_litre_mg=12, authority="letter")))["limits"]["thujone"]
    assert (letter["alcoholic_per_litre_mg"], letter["alcohol_free_per_litre_mg"]) == (12, 12)


@pytest.mark.parametrize(
    ("table", "key", "looser", "takes"),
    [
        ("limits", "quinine", {"per_serve_mg": 60}, {"authority": "letter"}),
        ("barriers", "abv", {"least": 15}, {"authority": "letter"}),
        ("barriers", "ph", {"ph_below": 4.6}, {"authority": "letter"}),
        ("quality", "rich syrup keeps while clean", {"days": 365}, {"by": "Ilse", "why": "tasted at ten months"}),
        ("names", "alcohol-free in UK", {"most": 0.5}, {"authority": "letter"}),
    ],
)
def test_loosening_takes_what_it_takes(table, key, looser, takes):
    with pytest.raises(Refusal) as refused:
        read_rules(of(table, key, **looser))
    assert refused.value.where == f"{table}/{key}/{next(iter(takes))}"
    name, value = next(iter(looser.items()))
    assert tables(read_rules(of(table, key, **looser, **takes)))[table][key][name] == value
    assert tables(shipped())[table][key][name] != value, "what ships is untouched"


@pytest.mark.parametrize(
    ("data", "where"),
    [
        ({"format": "else"}, "format"),
        (rules(colours={}), "colours"),
        (rules(classes=[1]), "classes"),
        (rules(classes={"fresh_juice": {"days": 2, "dated": "2026-11-25"}}), "classes/fresh_juice/source"),
        (rules(classes={"fresh_juice": {"days": 2, "source": "x", "dated": "last May"}}), "classes/fresh_juice/dated"),
        (of("classes", "fresh_jam", days=2), "classes/fresh_jam"),
        (of("classes", "fresh_juice", months=2), "classes/fresh_juice/months"),
        (of("limits", "caffeine", per_litre_mg=2), "limits/caffeine/per_litre_mg"),
        (of("classes", "fresh_juice", days="two"), "classes/fresh_juice/days"),
        (of("classes", "fresh_juice", days=float("nan")), "classes/fresh_juice/days"),
        (rules(words={"handful": {"unit": "cups"}}), "words/handful/unit"),
        (rules(words={"handful": {"unit": "g", "value": 50, "low": 60, "high": 70}}), "words/handful"),
    ],
)
def test_what_a_house_may_not_set_is_refused_at_its_place(data, where):
    with pytest.raises(Refusal) as refused:
        read_rules(data)
    assert refused.value.where == where


def test_the_house_s_handful_is_the_one_that_a_recipe_is_read_with():
    own = read_rules(rules(words={"handful": {"unit": "g", "value": 9, "low": 8, "high": 11}}))
    read = parse_recipe("Birch\n\na handful of birch tips\n500 g water", words=own.words["words"])
    assert read.draft["steps"][0]["lines"][0]["amount"]["mass_g"] == {"value": 9, "low": 8, "high": 11}


def test_large_and_small_are_read_by_what_one_weighs():
    read = parse_recipe("Kumquat\n\n2 large kumquats\n500 g water")
    mass = read.draft["steps"][0]["lines"][0]["amount"]["mass_g"]
    assert (mass["value"], mass["low"], mass["high"]) == pytest.approx((2 * 13 * 1.3, 2 * 13 * 1.1, 2 * 13 * 1.6))
    assert [doubt.code for doubt in read.doubts] == []


def test_things_boil_by_the_house_s_height():
    steps = (
        pour(line("water", 1000.0), line("white_sugar", 1000.0)),
        {"verb": "simmer", "minutes": 10},
        {"verb": "bring_to", "temperature_c": 100},
    )
    low = worked(*steps)

    def at(height):
        rules_ = read_rules({"format": "ulsek.rules", "version": 1, "altitude_m": height})
        return evaluate(low.inputs.spec, low.inputs.materials, rules=rules_)

    high = at(1600)
    for step in (1, 2):
        assert low.flow.steps[step].temperature_c - high.flow.steps[step].temperature_c == pytest.approx(5.3, abs=0.3)
    assert high.deep(1, ["boiling_c"])["boiling_c"].value == pytest.approx(high.flow.steps[1].temperature_c, abs=0.15), (
        "the steam has left since"
    )
    assert at(0).flow.steps[1].temperature_c == low.flow.steps[1].temperature_c
    for height in (-900, 9500, "high"):
        with pytest.raises(Refusal):
            at(height)


def test_the_example_in_the_documentation_is_read():
    page = (Path(__file__).parents[2] / "docs" / "formats" / "rules.md").read_text(encoding="utf-8")
    example = json.loads(page.split("```json")[1].split("```")[0])
    rules = read_rules(example)
    assert rules.keeping["procedures"]["hot cordial"]["fill_c"] == 88
    assert set(tables(rules)) | {"spec_quality", "leftovers", "altitude_m", "shelf", "place"} == set(
        re.findall(r"^\| `(\w+)`", page, re.MULTILINE)
    )


def test_names_are_judged_by_the_law_of_the_house_s_place_or_by_every_one():
    assert read_rules({"format": "ulsek.rules", "version": 1}).place == ""
    assert read_rules({"format": "ulsek.rules", "version": 1, "place": "UK"}).place == "UK"
    for wrong in ("Moon", 7, ["EU"]):
        with pytest.raises(Refusal, match="ship with Ulsek") as refused:
            read_rules({"format": "ulsek.rules", "version": 1, "place": wrong})
        assert refused.value.where == "place"
