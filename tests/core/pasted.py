"""Drafts of pasted recipes in tests: worked out with the materials that ship, and their lines in order."""

from ulsek.core.advice.sub_recipes import read_materials
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.spec.json_form import read_spec

KNOWN = typical_materials()


def worked(draft):
    spec = read_spec(draft, strict=False)
    return evaluate(spec, read_materials(KNOWN, [key for key in spec.mentioned if key in KNOWN]))


def lines_of(draft):
    return [line for step in draft["steps"] for line in step.get("lines", ())]
