"""Take what a batch settled by taste into the draft of its spec, for the next version."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.run.state import RunState
from ulsek.core.run.taste import SettledAmount
from ulsek.specs.actions.save_draft import save_draft
from ulsek.specs.models import Draft, Spec
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Run


def _grams(value: float) -> str:
    return f"{value:.3g} g" if value < 100 else f"{value:.0f} g"


def _with(body: dict[str, Any], settled: SettledAmount, made: RunState) -> None:
    """One settled amount put into a spec's open form. Refuses a line that the draft does not have any more."""
    amount = {"kind": "fixed", "written": _grams(settled.mass_g)}
    for step in body["steps"]:
        for line in step.get("lines", []):
            if settled.line and line["id"] == settled.line:
                line["amount"] = {**line["amount"], **amount}
                return
    if settled.line:
        raise Refusal(
            message("The draft does not have this line any more"), f"steps/{settled.line}", remedy=message("Change it by hand"), code="gone"
        )
    step = next(item for item in made.spec.steps if item.id == settled.step)
    if any(item["id"] == step.id for item in body["steps"]):
        raise Refusal(message("The draft has this step already"), f"steps/{step.id}", code="twice")
    before = [item.id for item in made.spec.steps[: made.spec.steps.index(step)]]
    at = max((i + 1 for i, item in enumerate(body["steps"]) if item["id"] in before), default=0)
    line = {"id": f"{step.id}.{settled.material}", "material": settled.material, "amount": amount}
    body["steps"].insert(at, {"id": step.id, "verb": step.verb, "vessel": step.vessel, "lines": [line], "note": "by taste"})


@action
def take_into_draft(member: Member, run: Run, state: RunState) -> int:
    """Puts every settled amount into the draft and returns how many. Refuses when nothing was settled; a draft that changed is not written over."""
    settled = state.settled
    if not settled:
        raise Refusal(message("Nothing was settled by taste in this batch"), "run", code="nothing")
    locked(Spec.objects.filter(pk=run.version.spec_id))
    # Read anew, not by way of the run: done again after a lost race, it must see the draft as it is by then.
    draft = Draft.objects.get(spec=run.version.spec_id)
    body = deepcopy(draft.body)
    for item in settled:
        _with(body, item, state)
    save_draft(member, run.version.spec_id, body, draft.revision)
    member.wrote("take_into_draft", str(run), count=len(settled))
    return len(settled)
