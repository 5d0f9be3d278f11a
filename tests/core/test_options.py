"""Option groups: choosing leaves a plain spec, and every alternative has its own amount, step and effect."""

from copy import deepcopy

import pytest

from tests.core.cordial import FORM
from tests.core.kitchen import known
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.spec.json_form import canonical, read_spec
from ulsek.core.spec.options import settled


def with_spice():
    """Whole spice simmered early, or its tincture at the end."""
    body = deepcopy(FORM)
    body["options"] = [
        {"id": "spice", "name": "The spice", "choices": [{"id": "early", "name": "whole, early"}, {"id": "late", "name": "tincture, late"}]}
    ]
    body["steps"].insert(
        2,
        {
            "id": "spiced",
            "verb": "steep",
            "vessel": "pot",
            "minutes": 20,
            "only": "spice/early",
            "lines": [{"id": "whole", "material": "allspice", "amount": {"kind": "percent", "percent": 1, "basis": "w/w"}}],
        },
    )
    body["steps"].insert(
        len(body["steps"]) - 1,
        {
            "id": "dosed",
            "verb": "combine",
            "vessel": "pot",
            "only": "spice/late",
            "lines": [{"id": "drops", "material": "neutral_spirit_40", "amount": {"kind": "percent", "percent": 2, "basis": "w/w"}}],
        },
    )
    return body


def product(chosen=None):
    spec = read_spec(with_spice(), chosen=chosen)
    return spec, evaluate(spec, known(spec))


def test_the_first_alternative_counts_until_another_is_chosen():
    spec, early = product()
    assert [step.id for step in spec.steps if step.id in ("spiced", "dosed")] == ["spiced"]
    assert spec.options[0].chosen == "early"
    late, with_tincture = product({"spice": "late"})
    assert [step.id for step in late.steps if step.id in ("spiced", "dosed")] == ["dosed"]
    assert early.figures[early.last]["abv"] == 0.0
    assert with_tincture.figures[with_tincture.last]["abv"] > 0.5


def test_a_settled_file_stays_as_it_is():
    once = settled(with_spice(), {"spice": "late"})[0]
    assert settled(once)[0] == once
    assert read_spec(once).steps == read_spec(with_spice(), chosen={"spice": "late"}).steps


def test_a_line_may_belong_to_an_alternative_too():
    body = with_spice()
    body["steps"][0]["lines"].append({"id": "extra", "material": "water", "amount": {"kind": "fixed", "mass_g": 9}, "only": "spice/late"})
    assert "extra" not in read_spec(body).lines
    assert "extra" in read_spec(body, chosen={"spice": "late"}).lines


@pytest.mark.parametrize(
    ("change", "where"),
    [
        (lambda body: body["options"][0]["choices"].pop(), "options/1/choices"),
        (lambda body: body["options"][0].update(chosen="never"), "options/1/chosen"),
        (lambda body: body["options"].append(body["options"][0]), "options"),
        (lambda body: body["options"][0]["choices"].append({"id": "early"}), "options/1/choices"),
        (lambda body: body["options"][0]["choices"].append({"id": "a/b"}), "options/1/choices/3/id"),
        (lambda body: body.update(options="early"), "options"),
        (lambda body: body["steps"][2].update(only="spice/never"), "steps/spiced/only"),
    ],
)
def test_options_that_cannot_be_read_are_said_at_their_place(change, where):
    body = with_spice()
    change(body)
    with pytest.raises(Refusal) as refused:
        read_spec(body)
    assert refused.value.where == where
    assert where in [fault.where for fault in read_spec(body, strict=False).faults]


def test_what_is_not_there_cannot_be_chosen():
    with pytest.raises(Refusal, match="There is no option “salt”"):
        read_spec(with_spice(), chosen={"salt": "fine"})


def test_options_stand_in_the_same_bytes():
    body = with_spice()
    assert canonical(body) == canonical(deepcopy(body))
    assert (
        canonical({"b": {"a": [2.0, 1e300]}, "a": 0.5}) == '{\n  "a": 0.5,\n  "b": {\n    "a": [\n      2,\n      1e+300\n    ]\n  }\n}\n'
    )
