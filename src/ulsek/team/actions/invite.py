"""Invite somebody into a house, take an invitation back, and accept one."""

from __future__ import annotations

from datetime import timedelta
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member
from ..action import action
from ..models import Invitation, Membership, Person, Role
from ..spoken_codes import code_digest, spoken_code
from .membership import checked_role, still_leads
from .open_house import MOST_NAME, NewPerson, made_person

INVITATION_AGE = timedelta(days=7)
MOST_OPEN = 100
"""Most open invitations of a house [count]."""
_GROUPS, _GROUP = 4, 4


@action(receipt=False)
def invite(member: Member, name: str, role: str) -> tuple[Invitation, str]:
    """Returns a new invitation of the house for somebody called `name`, and its code of sixteen letters, which is not stored. It holds for `INVITATION_AGE`.

    Raises Refusal without a name, for an unknown role, and with `MOST_OPEN` open ones.
    """
    still_leads(member)
    named = free_text(name, "name", MOST_NAME, message("Nobody is named"), message("Write who is invited"))
    checked_role(role)
    now = timezone.now()
    if Invitation.objects.filter(house=member.house, used_at=None, revoked_at=None, expires_at__gt=now).count() >= MOST_OPEN:
        raise Refusal(
            message("There are too many open invitations"),
            "name",
            message("at most {most}", most=MOST_OPEN),
            message("Take back those that nobody needs"),
            "out_of_bounds",
        )
    code = spoken_code(_GROUPS, _GROUP)
    row = Invitation.objects.create(
        house=member.house,
        digest=code_digest(code),
        role=role,
        name=named,
        by=member.person,
        made_at=now,
        expires_at=now + INVITATION_AGE,
    )
    member.wrote("invite", named, role=role)
    return row, code


@action(receipt=False)
def revoke_invitation(member: Member, invitation_id: UUID) -> Invitation:
    """Takes an invitation back, and returns it. Nothing changes if it was used before."""
    row = get_object_or_404(Invitation, pk=invitation_id, house=member.house)
    if row.used_at is None and row.revoked_at is None:
        row.revoked_at = timezone.now()
        row.save(update_fields=["revoked_at"])
        member.wrote("revoke_invitation", row.name)
    return row


def _used() -> Refusal:
    return Refusal(message("This invitation has been used"), "code", remedy=message("Sign in, or ask your lead for another"), code="used")


def invitation_of(code: str) -> Invitation:
    """Returns the open invitation of a code. Raises Refusal for a code that is none, used, taken back or too late, each in its own words."""
    row = Invitation.objects.select_related("house", "by").filter(digest=code_digest(code)).first()
    again = message("Ask your lead for another")
    if row is None:
        raise Refusal(message("This is no invitation"), "code", remedy=message("Check it letter by letter"), code="unknown_reference")
    if row.used_at is not None:
        raise _used()
    if row.revoked_at is not None:
        raise Refusal(message("This invitation was taken back"), "code", remedy=again, code="revoked")
    if row.expires_at <= timezone.now():
        raise Refusal(message("This invitation is older than a week"), "code", remedy=again, code="too_late")
    return row


def accept(code: str, who: Person | NewPerson) -> Member:
    """Makes a person a member of the house that an invitation is for, and returns them as such; a new person is stored. An invitation is accepted once.

    Raises Refusal for an invitation that is not open, for somebody who is in the house already, and for what a new person cannot be.
    """
    row = invitation_of(code)
    return _accepted(Member(row.by, row.house, Role.LEAD), row, who)


@action(receipt=False)
def _accepted(member: Member, row: Invitation, who: Person | NewPerson) -> Member:
    person = made_person(who) if isinstance(who, NewPerson) else who
    # Taken by one update: of two who press at once, the second finds it used.
    if not Invitation.objects.filter(pk=row.pk, used_at=None, revoked_at=None).update(used_at=timezone.now(), used_by=person):
        raise _used()
    found = Membership.ever.filter(house=member.house, person=person).first()
    if found is not None and found.left_at is None:
        raise Refusal(
            message("{person} is in {house} already", person=person.display_name, house=member.house.name),
            "sign_in",
            remedy=message("Sign in"),
            code="twice",
        )
    if found is None:
        Membership.objects.create(house=member.house, person=person, role=row.role)
    else:
        found.left_at, found.role = None, row.role
        found.save(update_fields=["left_at", "role"])
    joined = Member(person, member.house, row.role)
    joined.wrote("join", person.display_name, role=row.role, invited_by=row.by.display_name)
    return joined
