"""Performs or holds the signed actions of one request, and returns an answer for each."""

from __future__ import annotations

import logging
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db import Error
from django.http import Http404, HttpRequest
from ninja.errors import AuthenticationError

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member, NotAllowed, signed_in
from ulsek.team.csrf import check_csrf
from ulsek.team.enrolled import device_of
from ulsek.team.models import Device, House, Person, Role

from .actions.take_in import Sender, hold, take_in
from .envelope import Altered, Proved, SignedText, proved
from .kinds import KINDS, Arrival
from .models import SignedAction, State

_LOG = logging.getLogger(__name__)
DONE, HELD, REFUSED = "done", "held", "refused"


@dataclass(frozen=True)
class Carrier:
    """The sender of signed actions: a member's session, an enrolled device, or both. The actions are credited to their signers, never to the sender."""

    member: Member | None
    device: Device | None
    leads: bool = False
    """Whether the session's person has the role of lead, even if the session began with a PIN and has a maker's rights."""

    @property
    def house(self) -> House | None:
        """The house of the sender; None if neither a session nor a device is known."""
        return self.member.house if self.member else self.device.house if self.device else None


@dataclass(frozen=True)
class Answer:
    """What became of one action: done, held for a lead, or refused with the status that a request of its own would have had."""

    id: str
    outcome: str
    status: int = 200
    code: str = ""
    detail: str = ""
    where: str = ""


def carrier_of(request: HttpRequest) -> Carrier:
    """Returns the sender of a request. Raises AuthenticationError if nobody is signed in and the device is not enrolled."""
    check_csrf(request)
    found = signed_in(request)
    carrier = Carrier(found[0] if found else None, device_of(request), leads=found is not None and found[1].role == Role.LEAD)
    if carrier.member is None and carrier.device is None:
        raise AuthenticationError(401, "Nobody is signed in here, and this device is not enrolled.")
    return carrier


def take_all(carrier: Carrier, items: Sequence[SignedText], device_now: str, received: datetime) -> list[Answer]:
    """Takes in the actions in the order given and returns one answer for each. Each has its own transaction, so a refusal or a fault affects no other.

    Raises django.db.Error if the database is away: the device then sends all of them again.
    """
    return [_answered(carrier, item, device_now, received) for item in items]


def _answered(carrier: Carrier, item: SignedText, device_now: str, received: datetime) -> Answer:
    try:
        return _answer(carrier, item, device_now, received)
    except Error:
        raise
    except Exception:  # noqa: BLE001 # whatever it is, a device must not send the same for ever and keep the rest
        _LOG.exception("a signed action met a fault")
        return Answer("", REFUSED, 500, "fault", "Something went wrong on our side with this one, and it is written down. Tell your lead.")


def seen_after(carrier: Carrier, kind: str, subject: str) -> Mapping[str, object] | None:
    """Returns the subject as the sender may see it after the actions; None if they may not, or if it cannot be shown. Raises django.db.Error only."""
    if carrier.member is None or kind not in KINDS:
        return None
    try:
        return KINDS[kind].view(carrier.member, subject)
    except Error:
        raise
    except Refusal:
        return None
    except Exception:  # noqa: BLE001 # a screen asks again; a device would send again for ever
        _LOG.exception("what was taken in cannot be shown")
        return None


def _answer(carrier: Carrier, item: SignedText, device_now: str, received: datetime) -> Answer:
    member = carrier.member
    try:
        found = proved(item, member.person.pk if member else None, member.house.pk if member else None, received)
    except Altered as altered:
        return Answer("", REFUSED, 422, "altered", altered.text)
    except Refusal as refusal:
        return Answer("", REFUSED, 403 if refusal.code == "not_yours" else 422, refusal.code, refusal.text, refusal.where)
    try:
        row = _taken(carrier, found, Arrival(received, device_now, "key" if found.key else ""))
    except NotAllowed as refused:
        return Answer(found.id, REFUSED, 403, "not_allowed", refused.text)
    except Http404:
        return Answer(found.id, REFUSED, 404, "not_here", "This house has nothing any more that this belongs to.")
    except Refusal as refusal:
        return Answer(found.id, REFUSED, 422, refusal.code, refusal.text, refusal.where)
    return Answer(found.id, HELD, detail=row.why) if row.state == State.HELD else Answer(found.id, DONE)


def _taken(carrier: Carrier, found: Proved, arrival: Arrival) -> SignedAction:
    by = carrier.member.person if carrier.member else None
    if not found.doubt and found.membership is not None:
        signer = Member(found.membership.person, found.membership.house, found.membership.role)
        return take_in(signer, found, arrival, Sender(by, carrier.device))
    house = House.objects.filter(pk=found.house).first()
    if house is None:
        raise Http404
    if found.person is None and (carrier.house is None or carrier.house.pk != house.pk):
        # An action without a proven person is held in the sender's own house, so that nobody can fill another house's list.
        raise Refusal(message("This belongs to another house"), "text/house", remedy=message("Sign in there"), code="not_yours")
    why = found.doubt or "Who signed this works in this house no more."
    return hold(Member(_holder(carrier, found), house, Role.READER), found, arrival, Sender(by, carrier.device), why)


def _holder(carrier: Carrier, found: Proved) -> Person:
    """Returns the person under whose name an action is held: the sender's; without a session the signer's, else whoever enrolled the device."""
    if carrier.member is not None:
        return carrier.member.person
    if found.key is not None:
        return found.key.sign_in.person
    if carrier.device is None:
        raise RuntimeError("nobody carries this")
    return carrier.device.enrolled_by
