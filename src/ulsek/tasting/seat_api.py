"""A taster's seat over HTTP: taken with a panel's code, and answered by whoever holds its secret. Nobody has to be of the house."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Status
from ninja.errors import HttpError

from ulsek.team.access import signed_in
from ulsek.team.answer import answers
from ulsek.team.csrf import check_csrf

from .actions.answer_page import GivenAnswer, answer_page
from .actions.step_out import step_out
from .actions.take_seat import go_on, take_seat
from .codes import address_of, check_tries, digests, link_digest, new_secret
from .models import Panel, Seat, WrongCode
from .panels import Taster, as_host
from .queries import seat_view
from .schemas import PageAnswerIn, SeatIn, SeatOut

router = Router(tags=["tasting"])
HEADER = "X-Ulsek-Seat"


def _seat(request: HttpRequest) -> Seat:
    """Returns the seat whose secret a request carries. Raises HttpError 401 without one."""
    secret = request.headers.get(HEADER, "")
    found = _found(digest=link_digest(secret)) if secret else None
    if found is None:
        raise HttpError(401, "This phone has no seat, or another one has taken it over. Ask who leads the panel.")
    return found


def _found(**wanted: str) -> Seat | None:
    return Seat.objects.select_related("panel__house", "panel__poured_by", "panel__made_by").filter(**wanted).first()


@router.post("/seat", auth=None, response={201: answers(SeatOut)})
def take(request: HttpRequest, payload: SeatIn) -> Status[SeatOut]:
    """Takes a seat with the code of a panel, or goes on with that of a seat. After eight wrong codes in a quarter of an hour no other is looked at."""
    check_csrf(request)
    now, address = timezone.now(), address_of(request)
    check_tries(address, now)
    as_link, as_letters = digests(payload.code)
    secret, digest = new_secret()
    if (again := _found(again_digest=as_letters)) is not None:
        return Status(201, _after(go_on(as_host(again.panel), again.pk, payload.code, digest), now, secret))
    opened = Panel.objects.select_related("house", "poured_by", "made_by")
    panel = opened.filter(link_digest=as_link).first() or opened.filter(letters_digest=as_letters).first()
    if panel is None:
        WrongCode.objects.create(address=address, at=now)
        raise HttpError(404, "No open panel has this code. Look at the letters again, or ask for the link.")
    here = signed_in(request)
    person = here[0].person if here and here[0].house == panel.house else None
    name = payload.name or (person.display_name if person else "")
    return Status(201, _after(take_seat(as_host(panel), panel.pk, Taster(name, person), digest), now, secret))


def _after(seat: Seat, now: datetime, secret: str = "") -> SeatOut:
    found = _found(digest=seat.digest)
    if found is None:
        raise HttpError(401, "Another phone has taken this seat over.")
    return seat_view(found, now, secret)


@router.get("/seat", auth=None, response=answers(SeatOut))
def mine(request: HttpRequest) -> SeatOut:
    """Returns the seat of this device."""
    return seat_view(_seat(request), timezone.now())


@router.post("/seat/answers", auth=None, response=answers(SeatOut))
def answer(request: HttpRequest, payload: PageAnswerIn) -> SeatOut:
    """Stores an answer of this seat; the same one sent again changes nothing."""
    seat, now = _seat(request), timezone.now()
    answer_page(as_host(seat.panel), seat.pk, GivenAnswer(payload.id, payload.turn, payload.answer.given(), payload.at), now)
    return _after(seat, now)


@router.post("/seat/out", auth=None, response=answers(SeatOut))
def out(request: HttpRequest) -> SeatOut:
    """Steps out. Why is not asked."""
    seat = _seat(request)
    step_out(as_host(seat.panel), seat.pk)
    return _after(seat, timezone.now())
