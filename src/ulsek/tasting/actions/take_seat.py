"""Take a seat at an open panel, or go on from another phone."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Person
from ulsek.team.spoken_codes import code_digest, spoken_code

from ..models import Seat
from ..panels import MOST_NAME, locked_panel, must_be_open


@action(receipt=False)
def take_seat(host: Member, panel_id: UUID, name: str, person: Person | None, secret_digest: str, at: datetime | None = None) -> Seat:
    """Takes the next free seat. Raises Refusal for no name, a name that sits there already, a full table, and whoever pours."""
    panel = locked_panel(host, panel_id)
    must_be_open(panel)
    named = free_text(name, "name", MOST_NAME, message("Who are you?"), message("Write the name that you go by here"))
    seats = list(panel.seats.all())
    if panel.poured_by is not None and (person == panel.poured_by or plain(named) == plain(panel.poured_by.display_name)):
        raise Refusal(
            message("Who pours does not taste: they have seen the key"), "name", remedy=message("Let somebody else taste"), code="pours"
        )
    if any(plain(seat.name) == plain(named) or (person is not None and seat.person_id == person.pk) for seat in seats):
        raise Refusal(
            message("{name} has a seat already", name=named),
            "name",
            remedy=message("On another phone? Ask who leads it for your own code. Two of one name? Add a letter"),
            code="twice",
        )
    taken = {seat.number for seat in seats}
    free = next((number for number in range(1, panel.planned.tasters + 1) if number not in taken), None)
    if free is None:
        raise Refusal(message("All {n} seats are taken", n=panel.planned.tasters), "code", remedy=message("Ask who leads it"), code="full")
    makers = {plain(maker) for sample in panel.samples.all() for maker in sample.makers}
    return Seat.objects.create(
        panel=panel,
        number=free,
        name=named,
        person=person,
        digest=secret_digest,
        is_maker=plain(named) in makers or (person is not None and plain(person.display_name) in makers),
        taken_at=at or timezone.now(),
    )


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
def go_on(host: Member, seat_id: UUID, secret_digest: str) -> Seat:
    """Hands a seat to the phone that brought its code."""
    panel = locked_panel(host, Seat.objects.get(pk=seat_id).panel_id)
    must_be_open(panel)
    seat = Seat.objects.get(pk=seat_id)
    seat.digest, seat.again_digest = secret_digest, ""
    seat.save(update_fields=["digest", "again_digest"])
    return seat
