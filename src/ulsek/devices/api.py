"""Instruments over HTTP. Their readings come from the hub."""

from __future__ import annotations

from uuid import UUID

import serial
from django.conf import settings
from django.db.models import Q
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Status

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .actions.connect_instrument import connect_instrument, take_away
from .actions.go_on_duty import go_on_duty
from .addresses import is_allowed
from .lines import MOST_IN_LINE
from .models import AlertAddress, Instrument
from .push import Subscription, public_key
from .schemas import DutyIn, DutyOut, HandIn, HandOut, InstrumentIn, InstrumentOut, InstrumentsOut
from .tickets import ticket

router = Router(tags=["instruments"])


def _instrument(item: Instrument) -> InstrumentOut:
    return InstrumentOut(id=item.pk, name=item.name, kind=item.kind, address=item.address)


@router.get("/instruments", response=answers(InstrumentsOut))
def instruments(request: HttpRequest) -> InstrumentsOut:
    """The instruments of this house."""
    member = member_of(request)
    found = Instrument.objects.filter(house=member.house).order_by("name")
    return InstrumentsOut(
        stream=settings.INSTRUMENTS_ADDRESS, ticket=ticket(member), hands=member.house.is_demo, items=tuple(map(_instrument, found))
    )


@router.post("/instruments", response={201: answers(InstrumentOut)})
def connect(request: HttpRequest, payload: InstrumentIn) -> Status[InstrumentOut]:
    """Connects an instrument."""
    return Status(201, _instrument(connect_instrument(member_of(request), payload.name, payload.kind, payload.address)))


@router.delete("/instruments/{instrument}", response={204: None})
def disconnect(request: HttpRequest, instrument: UUID) -> Status[None]:
    """Takes an instrument away."""
    take_away(member_of(request), instrument)
    return Status(204, None)


@router.post("/instruments/{instrument}/hand", response=answers(HandOut))
def hand(request: HttpRequest, instrument: UUID, payload: HandIn) -> HandOut:
    """Operates a simulated instrument, in the demo house only."""
    member = member_of(request)
    found = get_object_or_404(Instrument, pk=instrument, house=member.house)
    words = payload.words.strip()
    if not member.house.is_demo or not found.address.startswith("socket://127.0.0.1:") or not is_allowed(found.address):
        raise Refusal(message("Only a simulated instrument can be moved from here"), "instrument", code="not_simulated")
    if not 0 < len(words) <= 60 or not words.isascii() or not words.isprintable():
        raise Refusal(message("The hand does not know that"), "words", message("a few plain words"), code="unreadable")
    try:
        with serial.serial_for_url(found.address, timeout=1) as port:
            port.write(f"!{words}\n".encode())
            # The instrument goes on showing; its answer is the first line that is none of those.
            for _ in range(20):
                answer = port.read_until(b"\n", MOST_IN_LINE).decode("ascii", "replace").strip()
                if (answer and answer.split(" ")[0] in ("done", "no", "cannot")) or " / " in answer or answer == "nothing":
                    return HandOut(answer=answer)
    except OSError:
        pass
    raise Refusal(
        message("{found} does not answer", found=found.name),
        "instrument",
        remedy=message("Is it running? bin/start starts it"),
        code="lost",
    )


def _duty(request: HttpRequest) -> DutyOut:
    mine = AlertAddress.objects.filter(
        Q(sign_in=None) | Q(sign_in__ended_at=None), person=member_of(request).person, on_duty=True
    ).values_list("endpoint", flat=True)
    return DutyOut(key=public_key(), endpoints=tuple(mine))


@router.get("/duty", response=answers(DutyOut))
def duty(request: HttpRequest) -> DutyOut:
    """The devices of mine that get alerts."""
    return _duty(request)


@router.put("/duty", response=answers(DutyOut))
def set_duty(request: HttpRequest, payload: DutyIn) -> DutyOut:
    """Goes on or off duty with a device."""
    device = Subscription(payload.endpoint, payload.keys.p256dh, payload.keys.auth)
    go_on_duty(member_of(request), device, on_duty=payload.on_duty)
    return _duty(request)
