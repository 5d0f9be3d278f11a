"""Coming in: opening a first house, accepting an invitation, and changing to another house that one is in."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router, Status

from .access import PasswordWanted, confirmed, member_of
from .actions.invite import accept, invitation_of
from .actions.open_house import NewPerson, open_first_house
from .actions.set_house import HouseFacts
from .answer import answers
from .csrf import check_csrf
from .enrolled import device_of
from .hashers import a_turn
from .known_devices import remember
from .models import House, Membership, Person
from .schema import Schema
from .session_api import Session, known, session_out
from .sessions import begin

router = Router(tags=["sessions"])


class HouseIn(Schema):
    """What a house is: `docs/handbook/lead.md` says what each of these changes."""

    name: str
    zone: str
    currency: str
    place: str = ""
    altitude_m: float | None = None
    service_from: str = "18:00"
    service_until: str = "02:00"
    day_turns: str = "05:00"

    def facts(self) -> HouseFacts:
        """Returns the same as the action takes it."""
        return HouseFacts(**self.model_dump())


class PersonIn(Schema):
    """A new person: the name to sign in by, the name on labels, the password."""

    sign_in: str
    name: str = ""
    password: str

    def new(self) -> NewPerson:
        """Returns the same as the action takes it."""
        return NewPerson(**self.model_dump())


class OpeningIn(Schema):
    """A first house, its lead, its cups, and the site's code if this is not its own machine."""

    house: HouseIn
    lead: PersonIn
    locale: str = "metric"
    opening_code: str = ""


def _into(request: HttpRequest, response: HttpResponse, person: Person, house: House) -> Session:
    """Signs a person in at a house on the browser that sent the request, and returns the new session."""
    begin(request, person, house, device_of(request))
    remember(request, response, person.username)
    return session_out(request)


@router.post("/session/opening", auth=None, response={201: answers(Session)})
def first_house(request: HttpRequest, response: HttpResponse, payload: OpeningIn) -> Status[Session]:
    """Opens the first house of this site that is not the demo, and signs its lead in."""
    check_csrf(request)
    with a_turn():
        lead = open_first_house(payload.house.facts(), payload.lead.new(), payload.opening_code, locale=payload.locale)
    return Status(201, _into(request, response, lead.person, lead.house))


class CodeOfInvitation(Schema):
    code: str


@dataclass(frozen=True, slots=True, kw_only=True)
class InvitedOut:
    """An open invitation: the names of its house, of its role, of the invited person and of the lead who made it."""

    house: str
    role: str
    name: str
    by: str


@router.post("/session/invitation", auth=None, response=answers(InvitedOut))
def invitation(request: HttpRequest, payload: CodeOfInvitation) -> InvitedOut:
    """Says what an open invitation is for. Refused, each in its words: no invitation, used, taken back, too late."""
    check_csrf(request)
    row = invitation_of(payload.code)
    return InvitedOut(house=row.house.name, role=row.role, name=row.name, by=row.by.display_name)


class JoiningIn(Schema):
    """The code of an invitation, and who accepts it: somebody new, or (`is_known`) somebody who signs in here already, by their password."""

    code: str
    is_known: bool = False
    person: PersonIn
    authenticator: str = ""


@router.post("/session/join", auth=None, response={201: answers(Session)})
def join(request: HttpRequest, response: HttpResponse, payload: JoiningIn) -> Status[Session]:
    """Accepts an invitation, once, and signs in at its house."""
    check_csrf(request)
    invitation_of(payload.code)
    said = payload.person.new()
    who = known(request, said.sign_in.strip(), said.password, payload.authenticator) if payload.is_known else said
    with a_turn():
        joined = accept(payload.code, who)
    return Status(201, _into(request, response, joined.person, joined.house))


class OtherHouseIn(Schema):
    house: int


@router.post("/session/house", response=answers(Session))
def change_house(request: HttpRequest, payload: OtherHouseIn) -> Session:
    """Changes the session to another house of the sender, with their role there. A session that began with a PIN needs the password first."""
    member = member_of(request)
    found = get_object_or_404(Membership.objects.select_related("house"), person=member.person, house=payload.house)
    if request.session.get("by_pin") and not confirmed(request, timezone.now()):
        raise PasswordWanted
    begin(request, member.person, found.house, device_of(request))
    return session_out(request)
