"""Make a token for a script of the house, or revoke one."""

from __future__ import annotations

import secrets
from datetime import timedelta
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member
from ..action import action
from ..models import ApiToken, TokenScope
from ..tokens import BEGINS, token_digest
from .membership import still_leads

MOST_NAME, MOST_DAYS, MOST_OPEN = 60, 400, 50


@action(receipt=False)
def make_token(member: Member, name: str, scope: str, days: int) -> tuple[ApiToken, str]:
    """Returns a new token for a script called `name`, and its text, which is not stored. It asks for the member, and holds for so many days.

    Raises Refusal without a name, for an unknown scope, for days outside 1 to `MOST_DAYS`, and with `MOST_OPEN` open ones.
    """
    still_leads(member)
    named = free_text(name, "name", MOST_NAME, message("The token has no name"), message("Write which script it is for"))
    if scope not in TokenScope.values:
        raise Refusal(
            message("There is no scope “{scope}”", scope=scope[:20]), "scope", message("read, make or lead"), code="unknown_reference"
        )
    if not 1 <= days <= MOST_DAYS:
        raise Refusal(
            message("A token cannot hold for {days} days", days=days),
            "days",
            message("from 1 to {most}", most=MOST_DAYS),
            message("Make another one when it ends"),
            "out_of_bounds",
        )
    now = timezone.now()
    if ApiToken.objects.filter(house=member.house, revoked_at=None, expires_at__gt=now).count() >= MOST_OPEN:
        raise Refusal(
            message("There are too many tokens"),
            "name",
            message("at most {most}", most=MOST_OPEN),
            message("Revoke those that nobody needs"),
            "out_of_bounds",
        )
    token = BEGINS + secrets.token_urlsafe(32)
    row = ApiToken.objects.create(
        house=member.house,
        person=member.person,
        name=named,
        digest=token_digest(token),
        scope=scope,
        made_at=now,
        expires_at=now + timedelta(days=days),
    )
    member.wrote("make_token", named, scope=scope, days=days)
    return row, token


@action(receipt=False)
def revoke_token(member: Member, token_id: UUID) -> ApiToken:
    """Ends a token of the house at once, and returns it."""
    row = get_object_or_404(ApiToken, pk=token_id, house=member.house)
    if row.revoked_at is None:
        row.revoked_at = timezone.now()
        row.save(update_fields=["revoked_at"])
        member.wrote("revoke_token", row.name)
    return row
