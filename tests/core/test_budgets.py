"""Budgets: what one computation takes on, refused in words one past the count; and stated where people read."""

import re
from pathlib import Path

import pytest

from tests.core.kitchen import KNOWN, spec_of
from ulsek.core.base import budgets
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.estimate import MOST_GROUPS
from ulsek.core.materials.material import read_material
from ulsek.core.recipe_text.capture import captured
from ulsek.core.recipe_text.parser import MOST_LETTERS, MOST_LINES, parse_recipe
from ulsek.core.spec.json_form import read_spec

ROOT = Path(__file__).resolve().parents[2]


def spec(**more):
    return {"format": "ulsek.spec", "version": 1, "name": "large", "vessels": [{"id": "pot"}], "steps": [], **more}


def stirred(count):
    return [{"id": f"s{n}", "verb": "combine", "vessel": "pot"} for n in range(count)]


@pytest.mark.parametrize(
    ("fits", "breaks", "words"),
    [
        ({"steps": stirred(budgets.STEPS)}, {"steps": stirred(budgets.STEPS + 1)}, "201 steps are too many to work out: at most 200"),
        (
            {"vessels": [{"id": f"v{n}"} for n in range(budgets.VESSELS)]},
            {"vessels": [{"id": f"v{n}"} for n in range(budgets.VESSELS + 1)]},
            "41 vessels are too many",
        ),
        ({}, {"doubts": [{"text": "?"}] * (budgets.DOUBTS + 1)}, "1001 open questions are too many"),
    ],
)
def test_a_spec_past_its_budget_is_refused_in_words(fits, breaks, words):
    read_spec(spec(**fits))
    for strict in (True, False):
        with pytest.raises(Refusal, match=words):
            read_spec(spec(**breaks), strict=strict)


def test_lines_weighings_and_parts_have_budgets():
    water = {"material": "water", "amount": {"kind": "fixed", "mass_g": 1}}
    many = [
        {"id": f"s{n}", "verb": "combine", "vessel": "pot", "lines": [{**water, "id": f"l{n}.{k}"} for k in range(3)]} for n in range(140)
    ]
    with pytest.raises(Refusal, match="420 lines are too many to work out: at most 400"):
        read_spec(spec(steps=many))
    with pytest.raises(Refusal, match="2001 weighings are too many"):
        captured("long", [{}] * (budgets.WEIGHINGS + 1))
    with pytest.raises(Refusal, match="substances are too many"):
        read_material("crowd", {"makeup": {"by": "substance", "g_per_100g": {f"s{n}": 0 for n in range(budgets.PARTS + 1)}}})
    with pytest.raises(Refusal, match=f"at most {MOST_LETTERS} letters in {MOST_LINES} lines"):
        parse_recipe("1 g salt\n" * (MOST_LINES + 1))


def test_the_documentation_states_every_budget():
    text = (ROOT / "docs" / "how-it-works.md").read_text(encoding="utf-8")
    stated = {int(found.replace(" ", "")) for found in re.findall(r"\b\d[\d ]*\b", text.partition("## Budgets")[2].partition("\n## ")[0])}
    for count in (
        budgets.STEPS,
        budgets.LINES,
        budgets.VESSELS,
        budgets.GOALS,
        budgets.EVENTS,
        budgets.WEIGHINGS,
        budgets.PARTS,
        budgets.DOUBTS,
    ):
        assert count in stated, count
    assert {MOST_LETTERS, MOST_LINES, MOST_GROUPS} <= stated


def test_a_large_spec_within_its_budget_is_worked_out():
    salts = [{"id": f"l{n}", "material": "salt", "amount": {"kind": "fixed", "mass_g": 1}} for n in range(100)]
    steps = [{"verb": "combine", "lines": [{"id": "w", "material": "water", "amount": {"kind": "fixed", "mass_g": 9000}}]}]
    large = spec_of(*steps, *({"verb": "combine", "lines": [item]} for item in salts))
    assert len(large.steps) == 101 and KNOWN["salt"]
