"""Share one's own rehearsal with the house."""

from __future__ import annotations

from uuid import UUID

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Run


@action
def share_rehearsal(member: Member, run_id: UUID) -> None:
    """Makes the rehearsal visible to the whole house. Raises Refusal for a real batch, and for somebody else's rehearsal."""
    run = locked_or_404(Run.objects.filter(pk=run_id, house=member.house))
    if not run.rehearsal or run.started_by_id != member.person.pk:
        raise Refusal(message("Only one's own rehearsal can be shared"), "run", code="not_yours")
    run.shared = True
    run.save(update_fields=["shared"])
    member.wrote("share_rehearsal", str(run))
