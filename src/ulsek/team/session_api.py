"""Signing in by password, by PIN or by a lead's code, changing the person, signing out, and who is here."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.contrib.auth import authenticate, logout
from django.db.models import F, QuerySet
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from django.utils import timezone
from ninja import Router
from ninja.errors import HttpError

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .access import colleagues, last_membership_of, member_of, membership_of, signed_in
from .actions.own_credentials import use_code
from .answer import answers
from .authenticators import check_second, has_authenticator
from .csrf import check_csrf
from .enrolled import NotEnrolled, device_of
from .hashers import a_turn
from .known_devices import remember
from .mail import goes_out
from .models import Device, House, Membership, Person, SignIn
from .opening import may_open
from .pins import WrongPin, check_pin, forgive
from .schema import Schema
from .sealed import opened, sealing_key
from .sessions import CONFIRMED, begin, end, keep_key, seen
from .signatures import certificate, read_public, thumbprint

router = Router(tags=["sessions"])


class SignInIn(Schema):
    """A name and a password; `code` is what the authenticator shows, for those who have one."""

    name: str
    password: str
    code: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class PersonRow:
    """Somebody of the house; `left_at` is None while they are in it. `by_group`: a lead who came with the house's group, and goes with it."""

    id: int
    name: str
    role: str
    has_pin: bool
    left_at: datetime | None = None
    by_group: bool = False


def memberships_of(house_id: int) -> QuerySet[Membership]:
    """Returns the memberships of a house, each with its person and, as `person_name`, their name."""
    return Membership.objects.filter(house=house_id).select_related("person").annotate(person_name=F("person__display_name"))


def person_row(item: Membership) -> PersonRow:
    """Returns a person as lists show them."""
    return PersonRow(
        id=item.person_id,
        name=item.person.display_name,
        role=item.role,
        has_pin=bool(item.person.pin),
        left_at=item.left_at,
        by_group=item.by_group,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class EnrolledOut:
    """The enrolled device that asks: its people, and the key for which it seals what only the site may read."""

    id: UUID
    name: str
    sealing_key: str
    people: tuple[PersonRow, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseRow:
    """A house that the person is in, and as what."""

    id: int
    name: str
    role: str
    is_demo: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Session:
    """Who is signed in here. `by_pin`: a maker's rights at most, until the password is confirmed. `device` where this one is enrolled for a house."""

    signed_in: bool
    id: str = ""
    person: int = 0
    name: str = ""
    role: str = ""
    house: str = ""
    house_id: int = 0
    zone: str = "UTC"
    currency: str = "EUR"
    locale: str = "metric"
    beside: str = "nothing"
    language: str = "en"
    """That of the house's cards."""
    day_turns: str = "00:00"
    """The hour at which the house's day turns."""
    is_demo: bool = False
    """Whether this is the made-up house that ships; if nobody is signed in and a first house may be opened, whether that one is here."""
    sends_mail: bool = False
    """Whether invitations may be mailed from this site."""
    closes_at: datetime | None = None
    """When the house is deleted for good, if a lead has asked for it."""
    houses: tuple[HouseRow, ...] = ()
    """Every house that the person is in."""
    may_open: Literal["", "freely", "by code"] = ""
    """Whether a first house may be opened from this browser, if nobody is signed in."""
    altitude_m: float | None = None
    """The house's height above the sea; none until somebody has said it."""
    others: tuple[str, ...] = ()
    """Who else makes things in this house."""
    by_pin: bool = False
    has_pin: bool = False
    has_authenticator: bool = False
    device: EnrolledOut | None = None


def _enrolled(device: Device | None) -> EnrolledOut | None:
    if device is None:
        return None
    return EnrolledOut(
        id=device.pk,
        name=device.name,
        sealing_key=sealing_key(),
        people=tuple(map(person_row, memberships_of(device.house_id).order_by("person__display_name"))),
    )


def houses_of(person: Person) -> tuple[HouseRow, ...]:
    """Returns the houses that a person is in, by name."""
    found = Membership.objects.filter(person=person).select_related("house").order_by("house__name")
    return tuple(HouseRow(id=row.house.pk, name=row.house.name, role=row.role, is_demo=row.house.is_demo) for row in found)


def session_out(request: HttpRequest) -> Session:
    """Returns the session of the browser that sent the request. `role` is the person's role, also after a PIN: operations above maker then ask for the password."""
    device = _enrolled(device_of(request))
    found = signed_in(request)
    if found is None:
        opening = may_open()
        return Session(
            signed_in=False, device=device, may_open=opening, is_demo=bool(opening) and House.objects.filter(is_demo=True).exists()
        )
    member, membership = found
    house = member.house
    return Session(
        signed_in=True,
        id=str(member.sign_in or ""),
        person=member.person.pk,
        name=member.person.display_name,
        role=membership.role,
        house=house.name,
        house_id=house.pk,
        zone=house.zone,
        currency=house.currency,
        locale=house.locale,
        beside=house.beside,
        language=house.language,
        day_turns=f"{house.day_turns:%H:%M}",
        is_demo=house.is_demo,
        closes_at=house.closes_at,
        sends_mail=goes_out(),
        houses=houses_of(member.person),
        altitude_m=(house.rules or {}).get("altitude_m"),
        others=tuple(colleagues(member)),
        by_pin=bool(request.session.get("by_pin")),
        has_pin=bool(member.person.pin),
        has_authenticator=has_authenticator(member.person),
        device=device,
    )


@router.get("/session", auth=None, response=answers(Session))
def session(request: HttpRequest) -> Session:
    """The session of this browser; also sets the CSRF cookie."""
    get_token(request)
    seen(request)
    return session_out(request)


def known(request: HttpRequest, name: str, password: str, code: str) -> Person:
    """Returns the person with this sign-in name and password. Raises HttpError 401 if they do not match, CodeWanted if the person has an authenticator and `code` is
    not its current one, and TooMany.
    """
    request.tried_name = name  # type: ignore[attr-defined]
    with a_turn():
        person = authenticate(request, username=name, password=password)
    if not isinstance(person, Person):
        raise HttpError(401, "Name and password do not match. Check both and try again.")
    check_second(person, code)
    return person


def begin_for(request: HttpRequest, person: Person, *, by_pin: bool = False) -> SignIn:
    """Signs a person in, into the house of the enrolled device if they are in it, else their first. Raises HttpError 403 if they are in no house."""
    device = device_of(request)
    membership = (membership_of(person.pk, device.house_id) if device else None) or last_membership_of(person.pk)
    if membership is None:
        raise HttpError(403, "You are in no house yet. Ask your lead to add you.")
    if device is not None and not by_pin:
        forgive(person, device)
    return begin(request, person, membership.house, device, by_pin=by_pin)


@router.post("/session", auth=None, response=answers(Session))
def sign_in(request: HttpRequest, response: HttpResponse, payload: SignInIn) -> Session | HttpResponse:
    """Signs in by name and password. The sixth wrong try in a row locks the name at this address for a quarter of an hour, but not on devices where
    this person has signed in before.
    """
    check_csrf(request)
    name = payload.name.strip()
    begin_for(request, known(request, name, payload.password, payload.code))
    remember(request, response, name)
    return session_out(request)


@router.post("/session/end", auth=None, response=answers(Session))
def sign_out(request: HttpRequest) -> Session:
    """Signs out; no error if nobody is signed in."""
    check_csrf(request)
    if "sign_in" in request.session:
        end(SignIn.objects.filter(pk=request.session["sign_in"]), SignIn.Ended.OUT)
    logout(request)
    return session_out(request)


class SwitchIn(Schema):
    """Who takes over on an enrolled device, by their PIN."""

    person: int
    pin: str


def _of_house(device: Device, person_id: int) -> Person:
    """Returns a person of the device's house. Raises WrongPin for any other, so that it does not tell who works where."""
    found = Membership.objects.select_related("person").filter(house=device.house_id, person=person_id).first()
    if found is None:
        raise WrongPin(0)
    return found.person


def _enrolled_or_403(request: HttpRequest) -> Device:
    device = device_of(request)
    if device is None:
        raise NotEnrolled
    return device


@router.post("/session/switch", auth=None, response=answers(Session))
def switch(request: HttpRequest, payload: SwitchIn) -> Session:
    """Another person takes over on an enrolled device. The person before is signed out. After five wrong PINs the password is wanted."""
    check_csrf(request)
    device = _enrolled_or_403(request)
    person = _of_house(device, payload.person)
    check_pin(person, device, payload.pin)
    begin_for(request, person, by_pin=True)
    return session_out(request)


class ConfirmIn(Schema):
    password: str
    code: str = ""


@router.post("/session/confirm", response=answers(Session))
def confirm(request: HttpRequest, payload: ConfirmIn) -> Session:
    """Confirms the password after a PIN: for ten minutes the session has the person's full role."""
    person = member_of(request).person
    if known(request, person.username, payload.password, payload.code) != person:
        raise HttpError(401, "That is not your password.")
    request.session["confirmed_until"] = (timezone.now() + CONFIRMED).isoformat()
    return session_out(request)


class CodeIn(Schema):
    """A lead's one-time code, and the new password."""

    name: str
    code: str
    password: str
    authenticator: str = ""


@router.post("/session/code", auth=None, response=answers(Session))
def sign_in_by_code(request: HttpRequest, response: HttpResponse, payload: CodeIn) -> Session:
    """Sets a new password with a lead's code and signs in. All other sessions of the person end."""
    check_csrf(request)
    name = payload.name.strip()
    with a_turn():
        person = use_code(name, payload.code, payload.password)
    # The new password stands: with it the authenticator is asked for.
    check_second(person, payload.authenticator)
    begin_for(request, person)
    remember(request, response, name)
    return session_out(request)


class KeyIn(Schema):
    """A public key (P-256), as base64url of its uncompressed point."""

    public: str


@dataclass(frozen=True, slots=True, kw_only=True)
class KeyOut:
    """The id of a key, and the certificate that the site issued for it."""

    id: str
    certificate: str


@router.post("/session/key", response=answers(KeyOut))
def register_key(request: HttpRequest, payload: KeyIn) -> KeyOut:
    """Stores the public key of this session: actions that it signs are credited to the session's person."""
    sign_in = member_of(request).sign_in
    row = SignIn.objects.filter(pk=sign_in, ended_at=None).first() if sign_in else None
    if row is None:
        raise HttpError(409, "This session is from before. Sign out and in again.")
    key = keep_key(row, payload.public)
    if key.sign_in_id != row.pk:
        raise Refusal(message("This key belongs to another session"), "public", remedy=message("Make a new one"), code="twice")
    return KeyOut(id=key.pk, certificate=certificate(key))


class ClaimIn(Schema):
    """A change of person on this enrolled device while the site was away. `sealed` holds the person, their PIN and the id of the key that signs since;
    `stays` is true while that person is still at the device."""

    sealed: str
    public: str
    stays: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ClaimOut(KeyOut):
    """A key that is credited to the person whose PIN was typed, and the session as it stands now."""

    session: Session


@router.post("/session/claims", auth=None, response=answers(ClaimOut))
def confirm_claim(request: HttpRequest, payload: ClaimIn) -> ClaimOut:
    """Checks a PIN that was typed while the site was away. If it is right, its key is credited to that person; if it is wrong, it counts as a try."""
    check_csrf(request)
    device = _enrolled_or_403(request)
    said = opened(payload.sealed)
    named = thumbprint(read_public(payload.public))
    if said.device != str(device.pk) or said.key != named:
        raise Refusal(message("This was sealed for something else"), "sealed", remedy=message("Type the PIN again"), code="unreadable")
    person = _of_house(device, said.person)
    check_pin(person, device, said.pin)
    if payload.stays:
        row = begin_for(request, person, by_pin=True)
    else:
        now = timezone.now()
        row = SignIn.objects.create(
            house=device.house,
            person=person,
            device=device,
            started_at=now,
            seen_at=now,
            by_pin=True,
            ended_at=now,
            ended=SignIn.Ended.SWITCHED,
        )
    key = keep_key(row, payload.public)
    return ClaimOut(id=key.pk, certificate=certificate(key), session=session_out(request))
