"""The people of a house: their roles, who left, invitations, and one-time codes for those who forgot their password."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.conf import settings
from django.db.models import F
from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router, Status

from .access import Member, member_of
from .actions.invite import invite, revoke_invitation
from .actions.membership import change_role, hand_over, leave, let_go, take_back
from .actions.own_credentials import issue_code
from .answer import answers
from .listing import ListQuery, Slice, holding, slice_of
from .mail import checked_address, send
from .models import Invitation, Membership
from .schema import Schema
from .session_api import PersonRow, person_row

router = Router(tags=["people"])


class PeopleQuery(ListQuery):
    """Whose names are listed: those who are in the house, or those who have left it; `find` looks at names."""

    state: Literal["", "left"] = ""


@router.get("/people", response=answers(Slice[PersonRow]))
def people(request: HttpRequest, asked: Query[PeopleQuery]) -> Slice[PersonRow]:
    """Returns the people of the house, by name."""
    found = Membership.ever.filter(
        holding(asked.find, "person__display_name"), house=member_of(request).house, left_at__isnull=asked.state != "left"
    )
    named = found.select_related("person").annotate(person_name=F("person__display_name"))
    return slice_of(named, ("person_name", "pk"), asked).each(person_row)


@dataclass(frozen=True, slots=True, kw_only=True)
class OneTimeCodeOut:
    """A code that is shown once, to be told to its person."""

    code: str


@router.post("/people/{person_id}/code", response={201: answers(OneTimeCodeOut)})
def one_time_code(request: HttpRequest, person_id: int) -> Status[OneTimeCodeOut]:
    """A code for somebody who forgot their password; it works once, within a day."""
    return Status(201, OneTimeCodeOut(code=issue_code(member_of(request), person_id)))


class RoleIn(Schema):
    role: str


@router.put("/people/{person_id}/role", response=answers(PersonRow))
def set_role(request: HttpRequest, person_id: int, payload: RoleIn) -> PersonRow:
    """Gives a person of the house another role. A house keeps one lead at least."""
    return person_row(change_role(member_of(request), person_id, payload.role))


@router.post("/people/{person_id}/let-go", response=answers(PersonRow))
def end_membership(request: HttpRequest, person_id: int) -> PersonRow:
    """Ends a person's membership and sessions in the house. What they did stays under their name."""
    return person_row(let_go(member_of(request), person_id))


@router.post("/people/{person_id}/take-back", response=answers(PersonRow))
def begin_again(request: HttpRequest, person_id: int, payload: RoleIn) -> PersonRow:
    """Restores the membership of a person who left; their password is unchanged."""
    return person_row(take_back(member_of(request), person_id, payload.role))


@router.post("/people/{person_id}/hand-over", response=answers(PersonRow))
def hand_house_over(request: HttpRequest, person_id: int) -> PersonRow:
    """Makes a person of the house its lead, and the sender a maker."""
    return person_row(hand_over(member_of(request), person_id))


@router.post("/own/leave", response={204: None})
def leave_house(request: HttpRequest) -> Status[None]:
    """Ends the sender's own membership in this house, and their sessions in it."""
    leave(member_of(request))
    return Status(204, None)


@dataclass(frozen=True, slots=True, kw_only=True)
class InvitationRow:
    """An invitation of the house. `state` is open, used, revoked or past."""

    id: UUID
    name: str
    role: str
    by: str
    made_at: datetime
    expires_at: datetime
    state: Literal["open", "used", "revoked", "past"]


@dataclass(frozen=True, slots=True, kw_only=True)
class InvitationOut(InvitationRow):
    """A new invitation with its code, which is shown once; `mailed` tells whether a mail server took it, None if nobody asked for that."""

    code: str
    mailed: bool | None


class InvitationIn(Schema):
    """Who is invited, as what, and the address to which the link is mailed; empty for none."""

    name: str
    role: str
    mail: str = ""


class InvitationQuery(ListQuery):
    """Which invitations are listed: all, or those that are open; `find` looks at names."""

    state: Literal["", "open"] = ""


def _row(row: Invitation) -> InvitationRow:
    if row.used_at is not None:
        state: Literal["open", "used", "revoked", "past"] = "used"
    elif row.revoked_at is not None:
        state = "revoked"
    else:
        state = "past" if row.expires_at <= timezone.now() else "open"
    return InvitationRow(
        id=row.pk,
        name=row.name,
        role=row.role,
        by=row.by.display_name,
        made_at=row.made_at,
        expires_at=row.expires_at,
        state=state,
    )


@router.get("/invitations", response=answers(Slice[InvitationRow]))
def invitations(request: HttpRequest, asked: Query[InvitationQuery]) -> Slice[InvitationRow]:
    """Returns the invitations of the house, the newest first. Their codes are not stored."""
    found = Invitation.objects.filter(holding(asked.find, "name"), house=member_of(request).house).select_related("by")
    if asked.state == "open":
        found = found.filter(used_at=None, revoked_at=None, expires_at__gt=timezone.now())
    return slice_of(found, ("-made_at", "pk"), asked).each(_row)


@router.post("/invitations", response={201: answers(InvitationOut)})
def invite_somebody(request: HttpRequest, payload: InvitationIn) -> Status[InvitationOut]:
    """Invites somebody into the house. The code in the answer is shown once; it holds for a week."""
    member, to = member_of(request), checked_address(payload.mail)
    row, code = invite(member, payload.name, payload.role)
    made = _row(row)
    return Status(
        201,
        InvitationOut(
            id=made.id,
            name=made.name,
            role=made.role,
            by=made.by,
            made_at=made.made_at,
            expires_at=made.expires_at,
            state=made.state,
            code=code,
            mailed=_mailed(member, to, code) if to else None,
        ),
    )


def _mailed(member: Member, to: str, code: str) -> bool:
    """Sends a mail with the link of a new invitation; returns True if the mail server accepted it. The address is not stored."""
    text = (
        f"{member.person.display_name} asks you in to {member.house.name}.\n\n"
        f"Open this link within a week; it works once:\n{settings.BASE_ADDRESS}/join#{code}\n\n"
        f"Or open {settings.BASE_ADDRESS}/join and type: {code}\n"
    )
    return send(to, f"Come in to {member.house.name}", text)


@router.post("/invitations/{invitation_id}/revoke", response=answers(InvitationRow))
def take_invitation_back(request: HttpRequest, invitation_id: UUID) -> InvitationRow:
    """Takes an invitation back that nobody has used."""
    return _row(revoke_invitation(member_of(request), invitation_id))
