"""What nobody has said yet: amounts that are assumed, and materials that are taken as what their words seem to say."""

from __future__ import annotations

from collections.abc import Iterator

from ..base.messages import message, term
from ..base.remarks import Remark
from ..evaluation.evaluate import Evaluation
from ..evaluation.group_key import line_key
from ..spec import spec as s
from ..spec.sentences import inside_name

_FIGURES = ("brix", "acid_g_100ml", "volume_ml", "abv")
"""Figures of the product on which an assumed amount is judged."""
_MORE_THAN_THE_REST = 0.5
"""Share of a figure's variance [0 to 1] from which an assumed amount moves it further than all else does: past the product's own spread."""


def unsaid(evaluation: Evaluation) -> Iterator[Remark]:
    """Yields a stop for an assumed amount that moves the product past its own spread, a check for every other one that no open question is about, and a stop for a material that is only taken
    as something.
    """
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    asked = {doubt.at for doubt in spec.doubts}
    moved = _moved_past_their_spread(evaluation)
    for step in spec.steps:
        for line in step.lines:
            where, name = f"steps/{step.id}/lines/{line.id}", inside_name(line.material, materials, spec)
            body = spec.own_materials.get(line.material)
            if isinstance(body, dict) and body.get("taken_as") and line.material in materials:
                text = message("“{name}” is not in Stores: it is taken as {taken}.", name=name, taken=term(str(body["taken_as"])))
                yield Remark("taken_as", "stop", f"{where}/material", text, message("Choose a material of Stores, or add it there"))
            if not (isinstance(line.amount, s.Fixed) and line.amount.assumed):
                continue
            if line.id in moved:
                text = message("Nobody wrote how much {name}, and it moves the result more than everything else does.", name=name)
                yield Remark("assumed_amount", "stop", f"{where}/amount", text, message("Answer its question, or weigh it once"))
            elif line.id not in asked:
                text = message("Nobody wrote how much {name}: the usual amount is taken.", name=name)
                yield Remark("assumed_amount", "check", f"{where}/amount", text, message("Weigh it once, or take it as it stands"))


def _moved_past_their_spread(evaluation: Evaluation) -> set[str]:
    """Returns the assumed lines that move any of the product's figures further than all other inputs together."""
    assumed = [line.id for line in evaluation.inputs.spec.lines.values() if isinstance(line.amount, s.Fixed) and line.amount.assumed]
    if not assumed or evaluation.last is None or not evaluation.estimate.groups:
        return set()
    found: set[str] = set()
    for name in _FIGURES:
        if not evaluation.figures[evaluation.last].get(name):
            continue
        shares = evaluation.slopes(evaluation.last, name).shares(evaluation.estimate)
        found.update(line for line in assumed if shares.get(line_key(line), 0.0) > _MORE_THAN_THE_REST)
    return found
