"""A draft may hold anything while somebody writes it: it is worked out as far as it goes, and what is wrong is said at its place."""

import math
from dataclasses import replace

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.core.kitchen import KNOWN, balance_g, known, line, pour
from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.base.answer import encode
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate, evaluate_edit
from ulsek.core.operations.catalogue import VERBS
from ulsek.core.release.release_check import release_check
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.results.working import working
from ulsek.core.spec.json_form import read_spec

IDS, VESSELS = ("a", "b", "c", "d", "nowhere"), ("pot", "jug", "cup")
MATERIALS = (
    "water",
    "white_sugar",
    "lime_persian_juice",
    "neutral_spirit_60",
    "gooseberries",
    "mint",
    "egg",
    "by_product:peel",
    "vessel:pot",
)
NUMBERS = st.one_of(st.floats(0.001, 2000.0), st.sampled_from((0, -1, 1e9, "many", None)))
AMOUNTS = st.one_of(
    st.fixed_dictionaries({"kind": st.just("fixed"), "mass_g": NUMBERS}),
    st.fixed_dictionaries({"kind": st.just("fixed"), "count": NUMBERS}),
    st.fixed_dictionaries({"kind": st.just("ratio"), "ratio": NUMBERS, "to": st.dictionaries(st.just("line"), st.sampled_from(IDS))}),
    st.fixed_dictionaries({"kind": st.just("ratio"), "ratio": NUMBERS, "to": st.dictionaries(st.just("vessel"), st.sampled_from(VESSELS))}),
    st.fixed_dictionaries({"kind": st.just("percent"), "percent": NUMBERS, "basis": st.sampled_from(("w/w", "w/v", "v/v"))}),
    st.fixed_dictionaries({"kind": st.just("target"), "property": st.sampled_from(("brix", "abv", "volume_ml")), "value": NUMBERS}),
    st.fixed_dictionaries({"kind": st.just("state"), "state": st.sampled_from(("cover", "top_up"))}),
    st.just({"kind": "all"}),
)
LINES = st.fixed_dictionaries({"id": st.sampled_from(IDS[:-1]), "material": st.sampled_from(MATERIALS), "amount": AMOUNTS})
STEPS = st.fixed_dictionaries(
    {"verb": st.sampled_from((*VERBS, "fly")), "vessel": st.sampled_from(VESSELS), "lines": st.lists(LINES, max_size=3)},
    optional={
        "into": st.sampled_from(VESSELS),
        "by_product": st.just("peel"),
        **dict.fromkeys(("minutes", "to_brix", "to_volume_ml", "share", "kept", "bottle_ml", "pot_cm", "steam_g"), NUMBERS),
        **{name: st.floats(-25.0, 120.0) for name in ("temperature_c", "to_c", "keep_c", "fill_c", "block_c")},
    },
)


def draft(*steps):
    vessels = [{"id": "pot", "capacity_ml": 900}, {"id": "jug"}]
    numbered = [{"vessel": "pot", "id": f"s{n}", **step} for n, step in enumerate(steps)]
    return {"format": "ulsek.spec", "version": 1, "name": "Draft", "vessels": vessels, "steps": numbered}


def worked_out(*steps):
    spec = read_spec(draft(*steps), strict=False)
    return evaluate(spec, known(spec))


@given(st.lists(STEPS, min_size=1, max_size=5))
@settings(max_examples=150, derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_any_draft_is_answered_and_loses_no_mass(steps):
    made = worked_out(*steps)
    encode(evaluation_result(made, deep=True))
    assert all(remark.text.text() for remark in release_check(made))
    # What stopped it stopped it before its step was done; the vessels may hold lines of that step already.
    if made.flow.refusal is None:
        went_in, came_out = balance_g(made.flow)
        assert math.isclose(came_out, went_in, rel_tol=1e-9, abs_tol=1e-9), steps


@given(st.lists(STEPS, min_size=2, max_size=5), st.lists(st.tuples(st.integers(0, 4), STEPS), min_size=1, max_size=3))
@settings(max_examples=150, derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_an_evaluation_that_begins_at_the_edit_gives_every_figure_of_one_from_the_start(steps, edits):
    # One object a material: an edit that changes none of it must find it the same.
    base, materials = None, read_materials(KNOWN, MATERIALS[:-2])
    for place, edited in ((0, steps[0]), *edits):
        steps = [*steps[:place], edited, *steps[place + 1 :]]
        spec = read_spec(draft(*steps), strict=False)
        resumed = evaluate_edit(spec, materials, base)
        assert encode(evaluation_result(resumed)) == encode(evaluation_result(evaluate(spec, materials)))
        # Nothing but its name changes: every figure and remark is taken over.
        base = evaluate_edit(replace(spec, name="Another"), materials, resumed)
        assert encode(evaluation_result(base)) == encode(evaluation_result(resumed))


def test_an_edit_leaves_the_steps_before_it_as_they_were():
    steps = [pour(line("lime_persian_juice", 400.0), line("white_sugar", 300.0)), {"verb": "strain"}, pour(line("water", 100.0))]
    materials = known(read_spec(draft(*steps)))
    before = evaluate_edit(read_spec(draft(*steps)), materials)
    first = evaluation_result(before)
    after = evaluate_edit(read_spec(draft(*steps[:2], pour(line("water", 120.0)))), materials, before)
    assert (after.unchanged, after.kept_steps, after.flow.steps[1]) == (2, 2, before.flow.steps[1])
    assert evaluation_result(after).final.mass_g.value == pytest.approx(first.final.mass_g.value + 20.0)
    assert before.base is None, "an evaluation keeps no more than the one before it"


@pytest.mark.parametrize(
    ("steps", "where", "said"),
    [
        ([pour(line("water", kind="ratio", ratio=2, to={"line": "honey"}), line("honey", kind="ratio", ratio=3, to={"line": "water"}))],
         "steps/s0/lines/water/amount", "These amounts go round in a circle: honey → water → honey"),
        ([pour(line("water", kind="ratio", ratio=2, to={"vessel": "cup"}))], "steps/s0/lines/water/amount", "There is no vessel “cup”"),
        ([pour(line("vessel:cup", 20))], "steps/s0/lines/vessel-cup/amount", "There is no vessel “cup”"),
    ],
)  # fmt: skip
def test_what_refers_to_itself_or_to_nothing_is_refused_at_its_line(steps, where, said):
    refusal = worked_out(*steps).flow.refusal
    assert (refusal.where, refusal.what.text()) == (where, said)


def test_what_comes_in_without_a_line_has_no_working():
    made = worked_out(pour(line("water", 500.0)), {"verb": "carbonate"})
    assert [added.line for added in made.flow.steps[1].added] == ["s1.gas"]
    with pytest.raises(Refusal, match=r"There is no line “s1\.gas” in this step"):
        working(made, "s1", "line:s1.gas")
