"""What the actions on a panel share: the panel locked and open, a new seat, and in whose name tasters act."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.team.access import Member
from ulsek.team.locks import locked_or_404
from ulsek.team.models import Person

from .models import Panel, PanelState, Seat

MOST_NAME = 60
"""The longest name of a taster [letters]."""


def as_host(panel: Panel) -> Member:
    """Returns who is answerable for what tasters do at a panel: a taster may be nobody of the house. They write no history in that name."""
    return Member(panel.poured_by or panel.made_by, panel.house, "reader")


def locked_panel(member: Member, panel_id: UUID) -> Panel:
    """Returns a panel of the member's house, locked alone."""
    return locked_or_404(Panel.objects.filter(pk=panel_id, house=member.house))


@dataclass(frozen=True)
class Taster:
    """Who sits down: the name that they go by, and the person if somebody signed in is known (None: a guest)."""

    name: str
    person: Person | None = None


def new_seat(panel: Panel, taster: Taster, at: datetime, *, number: int | None = None, digest: str = "") -> Seat:
    """Stores the seat `number` (None: the next free one) for a taster whose phone holds the secret with this `digest` (empty: on paper).

    Raises Refusal for no name, a name that sits there already, a full table, and whoever pours.
    """
    named = free_text(taster.name, "name", MOST_NAME, message("Who are you?"), message("Write the name that you go by here"))
    person, pourer = taster.person, panel.poured_by
    if pourer is not None and (person == pourer or plain(named) == plain(pourer.display_name)):
        raise Refusal(
            message("Who pours does not taste: they have seen the key"), "name", remedy=message("Let somebody else taste"), code="pours"
        )
    seats = list(panel.seats.all())
    if any(plain(seat.name) == plain(named) or (person is not None and seat.person_id == person.pk) for seat in seats):
        raise Refusal(
            message("{name} has a seat already", name=named),
            "name",
            remedy=message("On another phone? Ask who leads it for your own code. Two of one name? Add a letter"),
            code="twice",
        )
    taken = {seat.number for seat in seats}
    free = next((n for n in range(1, panel.planned.tasters + 1) if n not in taken), None) if number is None else number
    if free is None:
        raise Refusal(message("All {n} seats are taken", n=panel.planned.tasters), "code", remedy=message("Ask who leads it"), code="full")
    makers = {plain(maker) for sample in panel.samples.all() for maker in sample.makers}
    names = {plain(named), *([plain(person.display_name)] if person is not None else [])}
    return Seat.objects.create(
        panel=panel, number=free, name=named, person=person, digest=digest, is_maker=bool(names & makers), taken_at=at
    )


def must_be_open(panel: Panel) -> None:
    """Raises Refusal for a panel that is not open."""
    if panel.state != PanelState.OPEN:
        raise Refusal(message("This panel is closed"), "code", remedy=message("Ask who leads it"), code="closed")
