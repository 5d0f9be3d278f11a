"""A panel inside an action: locked, open, and in whose name its tasters act."""

from __future__ import annotations

from uuid import UUID

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.locks import locked_or_404

from .models import Panel, PanelState

MOST_NAME = 60
"""The longest name of a taster [letters]."""


def as_host(panel: Panel) -> Member:
    """Returns who is answerable for what tasters do at a panel: a taster may be nobody of the house. They write no history in that name."""
    return Member(panel.poured_by or panel.made_by, panel.house, "reader")


def locked_panel(member: Member, panel_id: UUID) -> Panel:
    """Returns a panel of the member's house, locked alone."""
    return locked_or_404(Panel.objects.filter(pk=panel_id, house=member.house))


def must_be_open(panel: Panel) -> None:
    """Raises Refusal for a panel that is not open."""
    if panel.state != PanelState.OPEN:
        raise Refusal(message("This panel is closed"), "code", remedy=message("Ask who leads it"), code="closed")
