"""What a person does with their own sessions, password and PIN."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from django.contrib.auth import update_session_auth_hash
from django.http import HttpRequest
from ninja import Query, Router, Status

from .access import member_of
from .actions.end_session import end_session
from .actions.own_authenticator import begin_authenticator, drop_authenticator, renew_recovery_codes, set_authenticator
from .actions.own_credentials import change_password, set_pin
from .answer import answers
from .authenticators import shown_right
from .listing import ListQuery, Slice, holding, slice_of
from .models import SignIn
from .passwords import must_know
from .schema import Schema
from .session_api import Session, session_out

router = Router(tags=["own"])


@dataclass(frozen=True, slots=True, kw_only=True)
class SessionRow:
    """An open session of the person who asks: since when, where, when it was last used; `here` marks the one that asks."""

    id: UUID
    started_at: datetime
    seen_at: datetime
    browser: str
    device: str
    by_pin: bool
    here: bool


@router.get("/own/sessions", response=answers(Slice[SessionRow]))
def own_sessions(request: HttpRequest, asked: Query[ListQuery]) -> Slice[SessionRow]:
    """Returns the open sessions of the person who asks, the newest first."""
    member = member_of(request)

    def row_of(row: SignIn) -> SessionRow:
        return SessionRow(
            id=row.pk,
            started_at=row.started_at,
            seen_at=row.seen_at,
            browser=row.browser,
            device=row.device.name if row.device else "",
            by_pin=row.by_pin,
            here=row.pk == member.sign_in,
        )

    matching = holding(asked.find, "browser", "device__name")
    found = SignIn.objects.filter(matching, person=member.person, ended_at=None).select_related("device")
    return slice_of(found, ("-started_at", "pk"), asked).each(row_of)


@router.post("/own/sessions/{sign_in_id}/end", response={204: None})
def end_own_session(request: HttpRequest, sign_in_id: UUID) -> Status[None]:
    """Ends one of my sessions. Actions signed in it that arrive later are held for a lead."""
    end_session(member_of(request), sign_in_id)
    return Status(204, None)


class PasswordIn(Schema):
    old: str
    new: str


@router.put("/own/password", response=answers(Session))
def own_password(request: HttpRequest, payload: PasswordIn) -> Session:
    """A new password; all my other sessions end."""
    member = member_of(request)
    person = change_password(member, payload.old, payload.new)
    update_session_auth_hash(request, person)
    if member.sign_in:
        SignIn.objects.filter(pk=member.sign_in).update(session_key=request.session.session_key or "")
    return session_out(request)


class PinIn(Schema):
    """A PIN of six digits for enrolled devices, or an empty one to take it away; with the password."""

    password: str
    pin: str


@router.put("/own/pin", response=answers(Session))
def own_pin(request: HttpRequest, payload: PinIn) -> Session:
    """Sets my PIN."""
    request.user = set_pin(member_of(request), payload.password, payload.pin)
    return session_out(request)


class OwnPasswordIn(Schema):
    password: str


@dataclass(frozen=True, slots=True, kw_only=True)
class AuthenticatorOut:
    """A new authenticator: its secret in base32, and a picture of it (SVG) for the device that shows its digits. It counts once they were typed."""

    secret: str
    picture: str


@router.post("/own/authenticator", response={201: answers(AuthenticatorOut)})
def set_up_authenticator(request: HttpRequest, payload: OwnPasswordIn) -> Status[AuthenticatorOut]:
    """Creates an unconfirmed authenticator of the sender."""
    member = member_of(request)
    must_know(member.person, payload.password)
    secret, picture = begin_authenticator(member)
    return Status(201, AuthenticatorOut(secret=secret, picture=picture))


class DigitsIn(Schema):
    code: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RecoveryOut:
    """Recovery codes, which are shown once; each signs in once in place of the authenticator."""

    codes: tuple[str, ...]


@router.post("/own/authenticator/confirm", response=answers(RecoveryOut))
def digits_of_authenticator(request: HttpRequest, payload: DigitsIn) -> RecoveryOut:
    """Confirms the sender's authenticator by its digits. From then on signing in asks for it."""
    member = member_of(request)
    # Outside the action: what is wrong is counted, and not rolled back with it.
    return RecoveryOut(codes=tuple(set_authenticator(member, shown_right(member.person, payload.code))))


@router.post("/own/authenticator/recovery", response=answers(RecoveryOut))
def fresh_recovery_codes(request: HttpRequest, payload: OwnPasswordIn) -> RecoveryOut:
    """Replaces the sender's recovery codes."""
    member = member_of(request)
    must_know(member.person, payload.password)
    return RecoveryOut(codes=tuple(renew_recovery_codes(member)))


@router.post("/own/authenticator/drop", response={204: None})
def take_authenticator_away(request: HttpRequest, payload: OwnPasswordIn) -> Status[None]:
    """Removes the sender's authenticator and recovery codes."""
    member = member_of(request)
    must_know(member.person, payload.password)
    drop_authenticator(member)
    return Status(204, None)
