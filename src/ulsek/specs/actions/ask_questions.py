"""Set whether staff answer questions before their first make of a spec."""

from __future__ import annotations

from uuid import UUID

from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Spec


@action
def ask_questions(member: Member, spec_id: UUID, *, on: bool) -> Spec:
    """Sets whether a person's first batch of a spec asks three questions, and returns the spec."""
    spec = locked_or_404(Spec.objects.filter(pk=spec_id, house=member.house))
    spec.asks_questions = on
    spec.save(update_fields=["asks_questions"])
    member.wrote("set_questions", spec.name, on=on)
    return spec
