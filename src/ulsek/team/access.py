"""Who asks, for which house, and whether they may."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from django.http import HttpRequest
from django.utils import timezone
from ninja.security import SessionAuth

from .models import HistoryRow, House, Membership, Person, Role

_RANK = {Role.READER: 0, Role.MAKER: 1, Role.LEAD: 2}


class NotAllowed(Exception):
    """A role that does not reach."""

    def __init__(self, role: str, needed: str) -> None:
        self.text = f"A {role} cannot do this; it takes a {needed}. Ask your lead."
        super().__init__(self.text)


@dataclass(frozen=True)
class Member:
    """The person who asks, in the house they work in."""

    person: Person
    house: House
    role: str

    def must_be(self, needed: str) -> Member:
        """This member, or a refusal when their role does not reach `needed`."""
        if _RANK[Role(self.role)] < _RANK[Role(needed)]:
            raise NotAllowed(self.role, needed)
        return self

    def wrote(self, action: str, subject: str, at: datetime | None = None, **detail: Any) -> None:
        """The history row of a write, in the same transaction as the write."""
        HistoryRow.objects.create(
            house=self.house, person=self.person, at=at or timezone.now(), action=action, subject=subject, detail=detail
        )

    def local(self, at: datetime) -> datetime:
        """A time in the house's zone."""
        return at.astimezone(ZoneInfo(self.house.zone))


def colleagues(member: Member) -> list[str]:
    """The names of the others who make things in this house: who a batch can be handed to."""
    makers = Membership.objects.filter(house=member.house, role__in=(Role.MAKER, Role.LEAD)).exclude(person=member.person)
    return list(makers.order_by("person__display_name").values_list("person__display_name", flat=True))


class MemberAuth(SessionAuth):
    """A signed-in person with a role in a house; found with the session's person in one query."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Member | None:
        del key
        person_id = request.session.get("_auth_user_id") if request.user.is_authenticated else None
        if person_id is None:
            return None
        membership = Membership.objects.select_related("house").filter(person=request.user.pk).order_by("pk").first()
        if membership is None or not isinstance(request.user, Person):
            return None
        return Member(request.user, membership.house, membership.role)


def member_of(request: HttpRequest, needed: str = Role.READER) -> Member:
    """The member behind a request to the API, who must hold at least the role `needed`."""
    member: Member = request.auth  # type: ignore[attr-defined]
    return member.must_be(needed)
