"""A variant keeps what it changes and follows its base in the rest."""

from copy import deepcopy

from hypothesis import given
from hypothesis import strategies as st

from tests.core.cordial import FORM
from ulsek.core.results.version_diff import same_numbers
from ulsek.core.spec.variants import changes_of, inherited

OWN = {"id": "sharper", "name": "Sharper cordial", "base": "cordial"}


def variant():
    body = {**deepcopy(FORM), **OWN}
    body["serve_ml"] = 25
    body["steps"][0]["lines"][0]["amount"] = {"kind": "fixed", "mass_g": 900}
    body["steps"].insert(1, {"id": "salted", "verb": "combine", "vessel": "pot", "lines": []})
    del body["steps"][-2]
    return body


def test_changes_laid_over_the_same_base_give_the_variant_back():
    assert inherited(FORM, changes_of(FORM, variant()), OWN) == variant()
    assert changes_of(FORM, {**FORM, **OWN}) == {}


def test_a_variant_follows_its_base_and_keeps_its_own():
    newer = deepcopy(FORM)
    newer["steps"][0]["note"] = "through the fine sieve first"
    newer["steps"].insert(0, {"id": "washed", "verb": "wash", "vessel": "pot"})
    moved = inherited(newer, changes_of(FORM, variant()), OWN)
    assert moved["name"] == "Sharper cordial"
    assert moved["steps"][0]["id"] == "washed"
    first = next(step for step in moved["steps"] if step["id"] == FORM["steps"][0]["id"])
    assert first["note"] == "through the fine sieve first"
    assert first["lines"][0]["amount"] == {"kind": "fixed", "mass_g": 900}
    assert "salted" in [step["id"] for step in moved["steps"]]
    assert FORM["steps"][-2]["id"] not in [step["id"] for step in moved["steps"]]


def test_nothing_of_a_variant_is_lost_when_its_base_drops_the_place():
    newer = deepcopy(FORM)
    del newer["steps"][0]
    moved = inherited(newer, changes_of(FORM, variant()), OWN)
    assert moved["steps"][-1]["id"] == "salted"


ids = st.lists(st.sampled_from("abcdef"), unique=True, max_size=6)
things = ids.flatmap(
    lambda keys: st.tuples(*(st.fixed_dictionaries({"id": st.just(key), "x": st.integers(0, 2)}) for key in keys)).map(list)
)


@given(before=things, after=things)
def test_any_change_can_be_laid_over_again(before, after):
    base, changed = {"steps": before}, {"steps": after}
    result = inherited(base, changes_of(base, changed), {})
    assert {item["id"]: item for item in result["steps"]} == {item["id"]: item for item in after}


def test_wording_changes_no_number():
    worded = deepcopy(FORM)
    worded["steps"][0]["note"] = "slowly"
    worded["name"] = "Another name"
    assert same_numbers(FORM, worded)
    worded["steps"][1]["minutes"] = 99
    assert not same_numbers(FORM, worded)
