"""Tickets for the hub: permission to listen to a house's instruments for an hour, and to send to them."""

from __future__ import annotations

import time
from collections.abc import Collection
from dataclasses import dataclass
from uuid import UUID

from django.core import signing

from ulsek.team.access import Member
from ulsek.team.models import Role, SignIn

SALT = "ulsek.instruments"
AGE_S = 3600
_PARTS = {"house", "person", "role", "sign_in"}


@dataclass(frozen=True)
class Ticket:
    """A ticket: the house, person, role and session that it was issued for, and `until` when it is valid [s since 1970]."""

    house: int
    person: int
    role: str
    sign_in: str
    until: float

    @property
    def may_speak(self) -> bool:
        """Returns True if its holder may tare a scale and run a titrator."""
        return self.role in (Role.MAKER, Role.LEAD)

    @property
    def is_over(self) -> bool:
        """Returns True if it has expired."""
        return time.time() >= self.until


def ticket(member: Member) -> str:
    """Returns a signed ticket for the member, valid for `AGE_S` [s]."""
    said = {"house": member.house.pk, "person": member.person.pk, "role": str(member.role), "sign_in": str(member.sign_in or "")}
    return signing.dumps(said, salt=SALT)


def read_ticket(text: str) -> Ticket:
    """Returns the content of a ticket. Raises BadSignature if this site did not issue it, or if it has expired."""
    said = signing.loads(text, salt=SALT, max_age=AGE_S)
    if not isinstance(said, dict) or set(said) != _PARTS:
        raise signing.BadSignature
    return Ticket(**said, until=signing.b62_decode(text.rsplit(":", 2)[1]) + AGE_S)


def ended(sign_ins: Collection[str]) -> set[str]:
    """Returns the ids of those sessions that have ended. Raises django.db.Error if the database is away."""
    wanted = [UUID(key) for key in sign_ins if key]
    return (
        {str(key) for key in SignIn.objects.filter(pk__in=wanted).exclude(ended_at=None).values_list("pk", flat=True)} if wanted else set()
    )
