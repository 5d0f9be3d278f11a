"""Go on duty, so that alerts come to this device, or off duty."""

from __future__ import annotations

import re
from urllib.parse import urlsplit
from uuid import UUID

from django.conf import settings

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import SignIn

from ..models import AlertAddress

_PATH = re.compile(r"[!-~]{1,300}")
"""Visible letters of ASCII: what a request line can carry."""


def _is_trusted(endpoint: str) -> bool:
    """Returns True for an address that a request line can carry, at the house's push service."""
    try:
        where, trusted = urlsplit(endpoint), urlsplit(settings.PUSH_SERVICE)
    except ValueError:
        return False
    return (
        bool(_PATH.fullmatch(endpoint))
        and (where.scheme, where.netloc) == (trusted.scheme, trusted.netloc)
        and where.path.startswith("/push/")
    )


@action
def go_on_duty(member: Member, endpoint: str, *, on_duty: bool) -> AlertAddress:
    """Stores the push address of a device, and whether its person is on duty. Raises Refusal for an address outside the house's push service."""
    if not _is_trusted(endpoint):
        raise Refusal(
            message("This is no address of the house's push service"),
            "endpoint",
            message("it begins with {push_service}/push/", push_service=settings.PUSH_SERVICE),
            code="unreadable",
        )
    kept, _ = AlertAddress.objects.update_or_create(
        endpoint=endpoint, defaults={"house": member.house, "person": member.person, "sign_in_id": member.sign_in, "on_duty": on_duty}
    )
    member.wrote("go_on_duty" if on_duty else "go_off_duty", member.person.display_name)
    return kept


def stay_on_duty(sender: object, *, before: str, after: SignIn, **_more: object) -> None:
    """Keeps the alerts of a device of the house when another person takes over on it."""
    del sender
    AlertAddress.objects.filter(sign_in=UUID(before), house=after.house, on_duty=True).update(sign_in=after, person=after.person)
