"""Take the amounts that a batch decided by taste into the draft of its spec."""

from __future__ import annotations

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.run.into_spec import with_settled
from ulsek.core.run.state import RunState
from ulsek.specs.actions.save_draft import save_draft
from ulsek.specs.models import Draft, Spec
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Run


@action
def take_into_draft(member: Member, run: Run, state: RunState) -> int:
    """Puts every decided amount into the draft and returns how many [count]. Raises Refusal if there is none, and for a draft that was changed in between."""
    settled = state.settled
    if not settled:
        raise Refusal(message("Nothing was settled by taste in this batch"), "run", code="nothing")
    locked(Spec.objects.filter(pk=run.version.spec_id))
    # Read anew, not by way of the run: done again after a lost race, it must see the draft as it is by then.
    draft = Draft.objects.get(spec=run.version.spec_id)
    save_draft(member, run.version.spec_id, with_settled(draft.body, settled, state), draft.revision)
    member.wrote("take_into_draft", str(run), count=len(settled))
    return len(settled)
