"""Two versions side by side: what changed, and what it did."""

from copy import deepcopy

from tests.core.cordial import FORM
from tests.core.kitchen import known
from ulsek.core.base.answer import encode
from ulsek.core.base.messages import NOTHING, printed, verbatim
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.results.version_diff import ComparedStep, compared
from ulsek.core.spec.json_form import read_spec


def worked(body):
    spec = read_spec(body)
    return evaluate(spec, known(spec))


def sharper():
    body = deepcopy(FORM)
    goal = (
        next(line for step in body["steps"] for line in step["lines"] if line["amount"]["kind"] == "target")
        if all("lines" in s for s in body["steps"])
        else None
    )
    for step in body["steps"]:
        for line in step.get("lines", []):
            if line["amount"]["kind"] == "target":
                goal = line
    goal["amount"]["value"] = goal["amount"]["value"] + 0.4
    body["steps"].insert(1, {"id": "rested", "verb": "rest", "vessel": "pot", "minutes": 60})
    return body


def test_equal_bodies_differ_in_nothing():
    found = compared(worked(FORM), worked(FORM))
    assert (found.changed, found.did) == ((), ())
    assert all(row.same for row in found.rows)
    assert [row.left for row in found.rows] == [step["id"] for step in FORM["steps"]]


def test_what_is_sharper_is_said_with_both_figures():
    left, right = worked(FORM), worked(sharper())
    found = compared(left, right)
    before, after = left.figures[left.last]["acid_g_100ml"], right.figures[right.last]["acid_g_100ml"]
    assert f"sharper: {before:.2f}\u00a0g/100\u00a0mL → {after:.2f}\u00a0g/100\u00a0mL" in [printed(item) for item in found.did]
    rested = next(row for row in found.rows if row.right == "rested")
    assert encode(rested) == encode(ComparedStep("", "rested", NOTHING, verbatim("Rest 1\u00a0h"), (), same=False))
    changed = [printed(line) for line in found.changed]
    assert any(line.startswith("new: Rest") for line in changed)
    assert any(line.startswith("malic acid: ") for line in changed)


def test_an_allergen_that_comes_in_is_named():
    body = deepcopy(FORM)
    body["steps"][0]["lines"].append({"id": "nut", "material": "hazelnuts", "amount": {"kind": "fixed", "mass_g": 20}})
    assert "new allergen: nuts" in [printed(item) for item in compared(worked(FORM), worked(body)).did]
    assert "allergen gone: nuts" in [printed(item) for item in compared(worked(body), worked(FORM)).did]


def test_what_reads_alike_on_both_sides_has_not_changed():
    """A dose by percent follows what else is in the vessel: by less than is printed, it is the same."""
    body = deepcopy(FORM)
    body["steps"][0]["lines"].append({"id": "speck", "material": "citric_acid", "amount": {"kind": "fixed", "mass_g": 0.001}})
    left, right = worked(FORM), worked(body)
    dosed = [line for line in left.flow.masses if left.flow.masses[line] != right.flow.masses[line]]
    found = compared(left, right)
    assert dosed, "a mass that follows"
    assert [row.right for row in found.rows if not row.same] == [FORM["steps"][0]["id"]]
