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


def taken(draft):
    """Returns the steps of a draft as “verb: material figure, …”; the figure is in g, mL, pieces or g/g, or the name of a state."""
    lines = [", ".join(f"{line['material']} {_figure(line['amount'])}" for line in step.get("lines", ())) for step in draft["steps"]]
    return [f"{step['verb']}: {each}" for step, each in zip(draft["steps"], lines, strict=True)]


def _figure(amount):
    figure = next((amount[name] for name in ("mass_g", "volume_ml", "ratio", "count", "state") if name in amount), None)
    figure = figure["value"] if isinstance(figure, dict) else figure
    return figure if isinstance(figure, str) else f"{figure:g}"
