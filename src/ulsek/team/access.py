"""Who asks, for which house, and whether they may."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from django.http import HttpRequest
from django.utils import timezone
from ninja.security import SessionAuth

from ulsek.core.refusals import Refusal

from .csrf import check_csrf
from .models import HistoryRow, House, Membership, Person, Role

_REQUEST_ID = re.compile(r"[\w-]{8,64}", re.ASCII)
_RANK = {Role.READER: 0, Role.MAKER: 1, Role.LEAD: 2}


class NotAllowed(Exception):
    """A role that does not reach."""

    def __init__(self, role: str, needed: str) -> None:
        self.text = f"A {role} cannot do this; it takes a {needed}. Ask your lead."
        super().__init__(self.text)


@dataclass(frozen=True)
class Member:
    """The person who asks, in the house they work in. `request_id` is the id that their client gave what it asks for, `request_digest` that request in
    short: the same id with another request is a fault of the client.
    """

    person: Person
    house: House
    role: str
    request_id: str = ""
    request_digest: str = ""

    def must_be(self, needed: str) -> Member:
        """This member, or a refusal when their role does not reach `needed`."""
        if _RANK[Role(self.role)] < _RANK[Role(needed)]:
            raise NotAllowed(self.role, needed)
        return self

    def asking(self, request_id: str, request_digest: str) -> Member:
        """This member with the id of what they ask."""
        return replace(self, request_id=request_id, request_digest=request_digest)

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


def membership_of(person_id: Any) -> Membership | None:
    """The house in which a person works; of several the first by name."""
    return Membership.objects.select_related("house").filter(person=person_id).order_by("house__name").first()


def _asked(request: HttpRequest) -> tuple[str, str]:
    """The client's own id of a request that writes, and a digest of that request. Raises Refusal for an id that is none."""
    key = request.headers.get("Idempotency-Key", "")
    if not key:
        return "", ""
    if not _REQUEST_ID.fullmatch(key):
        raise Refusal("The id of the request cannot be read", "Idempotency-Key", "8 to 64 letters, digits, - or _", code="unreadable")
    digest = hashlib.sha256(f"{request.method} {request.get_full_path()}\n".encode())
    # A file that is sent up is not read here: it is told by its length.
    is_form = request.headers.get("Content-Type", "").startswith("multipart/")
    digest.update(request.headers.get("Content-Length", "").encode() if is_form else request.body)
    return key, digest.hexdigest()


class MemberAuth(SessionAuth):
    """A signed-in person with a role in a house; found with the session's person in one query.

    Who asks and whether they may (`needed`) is settled before a body is read.
    """

    def __init__(self, needed: str = Role.READER, *, csrf: bool = True) -> None:
        super().__init__(csrf=False)
        self._needed, self._writes_from_our_page = needed, csrf

    def authenticate(self, request: HttpRequest, key: str | None) -> Member | None:
        del key
        person_id = request.session.get("_auth_user_id") if request.user.is_authenticated else None
        if person_id is None:
            return None
        membership = membership_of(request.user.pk)
        if membership is None or not isinstance(request.user, Person):
            return None
        if self._writes_from_our_page:
            check_csrf(request)
        return Member(request.user, membership.house, membership.role).must_be(self._needed).asking(*_asked(request))


def member_of(request: HttpRequest, needed: str = Role.READER) -> Member:
    """The member behind a request to the API, who must hold at least the role `needed`."""
    member: Member = request.auth  # type: ignore[attr-defined]
    return member.must_be(needed)
