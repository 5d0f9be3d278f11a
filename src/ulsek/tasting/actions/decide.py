"""Write down what the house decided after a panel."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Panel, PanelState
from ..panels import locked_panel

MOST_DECISION, MOST_WHY = 160, 300


@action
def decide(member: Member, panel_id: UUID, decision: str, why: str, at: datetime | None = None) -> Panel:
    """Stores a decision with its reason, in the member's name. A later one takes its place; the history has both. Raises Refusal before the seal is broken."""
    panel = locked_panel(member, panel_id)
    if panel.state != PanelState.TOLD:
        raise Refusal(message("The seal is still on"), "decision", remedy=message("Wait for the last answer"), code="sealed")
    panel.decision = free_text(decision, "decision", MOST_DECISION, message("What is decided?"), message("Say it in one sentence"))
    panel.decision_why = free_text(why, "why", MOST_WHY, message("Why so?"), message("Say what weighed"))
    panel.decided_by, panel.decided_at = member.person, at or timezone.now()
    panel.save(update_fields=["decision", "decision_why", "decided_by", "decided_at"])
    member.wrote("decide_panel", str(panel), at=at, decision=panel.decision, why=panel.decision_why)
    return panel
