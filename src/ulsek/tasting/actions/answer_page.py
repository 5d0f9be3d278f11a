"""Answer a page of a taster's sheet, on a phone or from paper."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.core.tasting.answers import checked_answer
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Person

from ..models import Panel, PanelAnswer, PanelState, Seat
from ..panels import Taster, locked_panel, must_be_open, new_seat
from .break_seal import end_if_complete


@dataclass(frozen=True)
class GivenAnswer:
    """An answer to the page `turn` (from 1), with an id that its device made, and the moment at which it was given there (None: now)."""

    id: str
    turn: int
    answer: Mapping[str, Any]
    at: datetime | None = None


@action(receipt=False)
def answer_page(host: Member, seat_id: UUID, given: GivenAnswer, now: datetime | None = None) -> PanelAnswer:
    """Stores an answer. The same one sent again changes nothing; one that arrives after the seal was broken is kept and not counted.

    Raises Refusal for a page that is not there or answered already, and for an answer that does not fit it.
    """
    panel = locked_panel(host, Seat.objects.get(pk=seat_id).panel_id)
    return _kept(panel, Seat.objects.get(pk=seat_id), given, now or timezone.now(), None)


def _kept(panel: Panel, seat: Seat, given: GivenAnswer, now: datetime, typed_by: Person | None) -> PanelAnswer:
    key = free_text(given.id, "id", 64, message("An answer needs an id"))
    known = PanelAnswer.objects.filter(pk=key).first()
    if known is not None:
        if (known.seat_id, known.turn) != (seat.pk, given.turn):
            raise Refusal(
                message("This id was used for something else"), "id", remedy=message("Send it with an id of its own"), code="id_used"
            )
        return known
    page = next((item for item in panel.pages if (item.seat, item.turn) == (seat.number, given.turn)), None)
    if page is None:
        raise Refusal(message("There is no page {turn}", turn=given.turn), "turn", code="unknown_reference")
    answer = checked_answer(page.asks, page.codes, panel.planned.attributes, given.answer)
    if seat.answers.filter(turn=given.turn).exists():
        raise Refusal(message("These glasses are answered already"), "turn", remedy=message("The first answer counts"), code="twice")
    stored = PanelAnswer.objects.create(
        id=key,
        seat=seat,
        turn=given.turn,
        answer=answer,
        # A phone's clock may be wrong; nobody answers after the answer is here.
        at=min(given.at, now) if given.at else now,
        received_at=now,
        late=panel.state != PanelState.OPEN,
        typed_by=typed_by,
    )
    end_if_complete(panel, now)
    return stored


@dataclass(frozen=True)
class PaperSheet:
    """The sheet of one seat (from 1), as it was filled in on paper: the taster's name, and answers by page."""

    number: int
    name: str
    answers: Mapping[int, Mapping[str, Any]]


@action
def type_sheet(member: Member, panel_id: UUID, sheet: PaperSheet, at: datetime | None = None) -> Panel:
    """Returns the panel with the answers of a paper sheet stored. Raises Refusal, at its place, for a seat of somebody else, as `new_seat` does for a new one, and for answers
    that do not fit.
    """
    panel = locked_panel(member, panel_id)
    must_be_open(panel)
    now = at or timezone.now()
    if not 1 <= sheet.number <= panel.planned.tasters:
        raise Refusal(message("There is no seat {n}", n=sheet.number), "number", message("1 to {most}", most=panel.planned.tasters))
    seat = panel.seats.filter(number=sheet.number).first()
    if seat is None:
        seat = new_seat(panel, Taster(sheet.name), now, number=sheet.number)
    elif plain(seat.name) != plain(sheet.name):
        raise Refusal(
            message("Seat {n} is {name}'s", n=seat.number, name=seat.name),
            "number",
            remedy=message("Look at the number on the sheet"),
            code="twice",
        )
    for turn, answer in sorted(sheet.answers.items()):
        try:
            _kept(panel, seat, GivenAnswer(f"paper-{seat.pk}-{turn}", turn, answer), now, member.person)
        except Refusal as refused:
            raise Refusal(refused.what, f"answers/{turn}/{refused.where}", refused.bound, refused.remedy, refused.code) from None
    member.wrote("type_sheet", str(panel), at=at, seat=seat.number)
    return panel
