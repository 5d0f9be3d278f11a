"""Take a seat at an open panel, or go on from another phone."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.spoken_codes import code_digest, spoken_code

from ..models import Seat
from ..panels import Taster, locked_panel, must_be_open, new_seat


@action(receipt=False)
def take_seat(host: Member, panel_id: UUID, taster: Taster, secret_digest: str, at: datetime | None = None) -> Seat:
    """Returns the next free seat of an open panel, taken by the phone whose secret has this digest. Raises Refusal as `new_seat` does, and for a closed panel."""
    panel = locked_panel(host, panel_id)
    must_be_open(panel)
    return new_seat(panel, taster, at or timezone.now(), digest=secret_digest)


@action
def seat_again(member: Member, panel_id: UUID, number: int) -> str:
    """Returns a code with which a taster goes on from another phone, once; the phone before answers no more. Raises Refusal for a seat that nobody has taken."""
    panel = locked_panel(member, panel_id)
    must_be_open(panel)
    seat = panel.seats.filter(number=number).first()
    if seat is None:
        raise Refusal(message("Nobody sits there"), "number", code="unknown_reference")
    code = spoken_code(2, 4)
    seat.again_digest, seat.digest = code_digest(code), ""
    seat.save(update_fields=["again_digest", "digest"])
    member.wrote("seat_again", str(panel), seat=number)
    return code


@action(receipt=False)
def go_on(host: Member, seat_id: UUID, code: str, secret_digest: str) -> Seat:
    """Returns a seat, handed to the phone that brought its code. Raises Refusal if another phone brought it first."""
    panel = locked_panel(host, Seat.objects.get(pk=seat_id).panel_id)
    must_be_open(panel)
    seat = Seat.objects.get(pk=seat_id)
    # As it is under the lock: of two phones with one code the second comes too late.
    if seat.again_digest != code_digest(code):
        raise Refusal(message("This code was used"), "code", remedy=message("Ask who leads it for another one"), code="used")
    seat.digest, seat.again_digest = secret_digest, ""
    seat.save(update_fields=["digest", "again_digest"])
    return seat
