"""Signing in and out, and who is here."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Field, Router, Status
from ninja.errors import HttpError

from ulsek.core.house_rules import Rules, read_rules, tables

from .access import Member, MemberAuth, colleagues, member_of, membership_of
from .actions.set_altitude import set_altitude
from .actions.set_rules import set_rules
from .actions.set_units import set_units
from .csrf import check_csrf
from .hashers import TooMany, a_turn
from .known_devices import remember
from .models import Person, Role
from .schema import Schema

router = Router(tags=["team"])


class SignIn(Schema):
    name: str
    password: str


class Session(Schema):
    signed_in: bool
    name: str = ""
    role: str = ""
    house: str = ""
    zone: str = "UTC"
    currency: str = "EUR"
    locale: str = "metric"
    beside: str = "nothing"
    altitude_m: float | None = None
    """The house's height above the sea; none until somebody has said it."""
    others: list[str] = Field(default_factory=list)
    """Who else makes things in this house."""


class UnitsIn(Schema):
    """What stands beside weights, and the size of the cup."""

    beside: str
    locale: str


def _session(member: Member | None) -> Session:
    if member is None:
        return Session(signed_in=False)
    house = member.house
    return Session(
        signed_in=True,
        name=member.person.display_name,
        role=member.role,
        house=house.name,
        zone=house.zone,
        currency=house.currency,
        locale=house.locale,
        beside=house.beside,
        altitude_m=(house.rules or {}).get("altitude_m"),
        others=colleagues(member),
    )


@router.get("/session", auth=None, response=Session)
def session(request: HttpRequest) -> Session:
    """Who is signed in here; also hands out the CSRF cookie."""
    get_token(request)
    return _session(MemberAuth(csrf=False).authenticate(request, None))


@router.post("/session", auth=None, response=Session)
def sign_in(request: HttpRequest, response: HttpResponse, payload: SignIn) -> Session | HttpResponse:
    """Signs in by name and password. The sixth wrong try in a row locks the name at this address for a quarter of an hour, but not on devices where
    this person has signed in before.
    """
    check_csrf(request)
    request.tried_name = payload.name.strip()  # type: ignore[attr-defined]
    try:
        with a_turn():
            person = authenticate(request, username=payload.name.strip(), password=payload.password)
    except TooMany:
        raise HttpError(503, "Many are signing in just now. Try again in a moment.") from None
    if not isinstance(person, Person):
        raise HttpError(401, "Name and password do not match. Check both and try again.")
    membership = membership_of(person.pk)
    if membership is None:
        raise HttpError(403, "You are in no house yet. Ask your lead to add you.")
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    remember(request, response, payload.name.strip())
    return _session(Member(person, membership.house, membership.role))


@router.post("/session/end", auth=None, response=Session)
def sign_out(request: HttpRequest) -> Session:
    """Signs out; harmless when nobody is signed in."""
    check_csrf(request)
    logout(request)
    return _session(None)


@router.get("/may/{role}", response={204: None})
def may(request: HttpRequest, role: Role) -> Status[None]:
    """Whether who asks holds at least this role: what the proxy asks before it takes a file in."""
    member_of(request, role)
    return Status(204, None)


@router.put("/house/units", response=Session)
def change_units(request: HttpRequest, payload: UnitsIn) -> Session:
    """What stands beside weights on cards and at the workbench, and whose cups."""
    member = member_of(request, Role.LEAD)
    return _session(Member(member.person, set_units(member, payload.beside, payload.locale), member.role))


class AltitudeIn(Schema):
    """The house's height above the sea [m]."""

    altitude_m: float


@router.put("/house/altitude", response=Session)
def change_altitude(request: HttpRequest, payload: AltitudeIn) -> Session:
    """How high the house lies. Batches that are open keep what they started with."""
    member = member_of(request, Role.LEAD)
    return _session(Member(member.person, set_altitude(member, payload.altitude_m), member.role))


class RulesIn(Schema):
    """A house's rules file, as docs/formats/rules.md has it."""

    rules: dict[str, Any]


class RulesOut(Schema):
    """The house's own file, and every rule as it stands with it, by table and key."""

    rules: dict[str, Any]
    standing: dict[str, dict[str, Any]]


def _rules(own: dict[str, Any], rules: Rules) -> dict[str, Any]:
    return {"rules": own, "standing": tables(rules)}


@router.get("/rules", response=RulesOut)
def rules(request: HttpRequest) -> dict[str, Any]:
    """Limits, keeping rules, legal names and kitchen words of this house, each dated and sourced."""
    own = member_of(request).house.rules
    return _rules(own, read_rules(own))


@router.put("/rules", response=RulesOut)
def change_rules(request: HttpRequest, payload: RulesIn) -> dict[str, Any]:
    """Keeps the house's rules file. Stricter always; looser with what it takes."""
    set_rules(member_of(request, Role.LEAD), payload.rules)
    return _rules(payload.rules, read_rules(payload.rules))
