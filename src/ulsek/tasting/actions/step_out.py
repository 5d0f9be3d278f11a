"""Step out of a panel."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Seat
from ..panels import locked_panel, must_be_open
from .break_seal import end_if_complete


@action(receipt=False)
def step_out(host: Member, seat_id: UUID, at: datetime | None = None) -> Seat:
    """Returns the seat of a taster who leaves the panel. No reason is stored; earlier answers count, and the panel ends without the rest. Raises Refusal for a closed panel."""
    panel = locked_panel(host, Seat.objects.get(pk=seat_id).panel_id)
    must_be_open(panel)
    seat = Seat.objects.get(pk=seat_id)
    seat.out_at = at or timezone.now()
    seat.save(update_fields=["out_at"])
    end_if_complete(panel, seat.out_at)
    return seat
