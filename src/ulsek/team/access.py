"""Who sends a request, for which house, and whether they may."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.http import HttpRequest
from django.utils import timezone
from ninja.security import SessionAuth

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .csrf import check_csrf
from .models import HistoryRow, House, Membership, Person, Role, SignIn, TokenScope
from .permissions import NEEDED, operation_of, takes_a_person
from .tokens import SCOPE_ROLES, token_of

_REQUEST_ID = re.compile(r"[\w-]{8,64}", re.ASCII)
_RANK = {Role.READER: 0, Role.MAKER: 1, Role.LEAD: 2}


class NotAllowed(Exception):
    """Raised if a role does not suffice."""

    def __init__(self, role: str, needed: str) -> None:
        self.text = f"A {role} cannot do this; it takes a {needed}. Ask your lead."
        super().__init__(self.text)


class PasswordWanted(Exception):
    """Raised if a session that began with a PIN asks for what needs the person's password."""

    def __init__(self) -> None:
        self.text = "This takes your password: a PIN is enough for making, not for leading."
        super().__init__(self.text)


class NotForScripts(Exception):
    """Raised if a script asks for what its token does not reach."""

    def __init__(self, scope: str) -> None:
        self.text = f"A token to {scope} does not reach this. Take one with a wider scope; what is about people, devices, sessions and the house itself takes a person."
        super().__init__(self.text)


@dataclass(frozen=True)
class Member:
    """The person who asks, in the house they work in. `request_id` is the id that their client gave what it asks for, `request_digest` that request in
    short: the same id with another request is a fault of the client. `sign_in` is their session; None for a command and for a signed action.
    """

    person: Person
    house: House
    role: str
    request_id: str = ""
    request_digest: str = ""
    sign_in: UUID | None = None

    def must_be(self, needed: str) -> Member:
        """Returns the member. Raises NotAllowed if their role is below `needed`."""
        if _RANK[Role(self.role)] < _RANK[Role(needed)]:
            raise NotAllowed(self.role, needed)
        return self

    def asking(self, request_id: str, request_digest: str) -> Member:
        """Returns the member with the id of their request."""
        return replace(self, request_id=request_id, request_digest=request_digest)

    def wrote(self, action: str, subject: str, at: datetime | None = None, **detail: Any) -> None:
        """Adds the history row of a write, in its transaction."""
        HistoryRow.objects.create(
            house=self.house, person=self.person, at=at or timezone.now(), action=action, subject=subject, detail=detail
        )

    @property
    def zone(self) -> ZoneInfo:
        """The house's zone."""
        return self.house.clock

    def local(self, at: datetime) -> datetime:
        """Returns a time in the house's zone."""
        return at.astimezone(self.zone)

    def day(self, at: datetime) -> date:
        """Returns the house's day of a moment, which turns at the house's own hour."""
        return self.house.day(at)


def colleagues(member: Member) -> list[str]:
    """Returns the names of the others who make things in this house, to whom a batch can be handed over."""
    makers = Membership.objects.filter(house=member.house, role__in=(Role.MAKER, Role.LEAD)).exclude(person=member.person)
    return list(makers.order_by("person__display_name").values_list("person__display_name", flat=True))


def membership_of(person_id: Any, house_id: Any = None) -> Membership | None:
    """Returns a person's membership in the house given; else the first by the house's name. None if there is none."""
    found = Membership.objects.select_related("house", "person").filter(person=person_id)
    return (found if house_id is None else found.filter(house=house_id)).order_by("house__name").first()


def last_membership_of(person_id: Any) -> Membership | None:
    """Returns a person's membership in the house where they last signed in; else as `membership_of`."""
    last = SignIn.objects.filter(person=person_id).order_by("-started_at").values_list("house", flat=True).first()
    return (membership_of(person_id, last) if last is not None else None) or membership_of(person_id)


def _asked(request: HttpRequest) -> tuple[str, str]:
    """Returns the client's id of a writing request, and a digest of that request. Raises Refusal for what is not an id."""
    key = request.headers.get("Idempotency-Key", "")
    if not key:
        return "", ""
    if not _REQUEST_ID.fullmatch(key):
        raise Refusal(
            message("The id of the request cannot be read"),
            "Idempotency-Key",
            message("8 to 64 letters, digits, - or _"),
            code="unreadable",
        )
    digest = hashlib.sha256(f"{request.method} {request.get_full_path()}\n".encode())
    # A file that is sent up is not read here: it is told by its length.
    is_form = request.headers.get("Content-Type", "").startswith("multipart/")
    digest.update(request.headers.get("Content-Length", "").encode() if is_form else request.body)
    return key, digest.hexdigest()


def confirmed(request: HttpRequest, now: datetime) -> bool:
    """Returns True if the password of the session's person was typed in the last `CONFIRMED`."""
    until = request.session.get("confirmed_until")
    return until is not None and now < datetime.fromisoformat(until)


def _role_now(membership: Membership, request: HttpRequest) -> str:
    """Returns the role with which a session acts now: at most maker if it began with a PIN and the password was not confirmed in the last `CONFIRMED`."""
    if not request.session.get("by_pin") or confirmed(request, timezone.now()):
        return membership.role
    return min(membership.role, Role.MAKER, key=lambda role: _RANK[Role(role)])


def signed_in(request: HttpRequest) -> tuple[Member, Membership] | None:
    """Returns the member of this request's session with the role it acts with now, and their membership; None if nobody is signed in."""
    if not request.user.is_authenticated or not isinstance(request.user, Person):
        return None
    membership = membership_of(request.user.pk, request.session.get("house"))
    if membership is None:
        return None
    sign_in = request.session.get("sign_in")
    return Member(request.user, membership.house, _role_now(membership, request), sign_in=UUID(sign_in) if sign_in else None), membership


class MemberAuth(SessionAuth):
    """A signed-in person with a role in a house; found with the session's person in one query.

    Who asks and whether they may, by the table `NEEDED`, is settled before a body is read.
    """

    def __init__(self) -> None:
        super().__init__(csrf=False)

    def authenticate(self, request: HttpRequest, key: str | None) -> Member | None:
        del key
        # Only this scheme is ours: another one may be that of a proxy before the site, which asks for a password of its own.
        if request.headers.get("Authorization", "").lower().startswith("bearer"):
            return self._by_token(request)
        found = signed_in(request)
        if found is None:
            return None
        check_csrf(request)
        member, membership = found
        needed = NEEDED[operation_of(request)]
        if needed is None:
            raise RuntimeError("an operation for everybody must not ask who is signed in")
        if _RANK[Role(membership.role)] >= _RANK[needed] > _RANK[Role(member.role)]:
            raise PasswordWanted
        return member.must_be(needed).asking(*_asked(request))

    def _by_token(self, request: HttpRequest) -> Member | None:
        """Returns the member for whom a script asks by its token; None for a token that is none, revoked or past. Raises NotForScripts for what takes a person.

        A browser never sends this header by itself, so no page's token is asked for.
        """
        token = token_of(request.headers["Authorization"], timezone.now())
        membership = membership_of(token.person_id, token.house_id) if token else None
        if token is None or membership is None:
            return None
        operation = operation_of(request)
        needed = NEEDED[operation]
        if needed is None or takes_a_person(operation) or (token.scope == TokenScope.READ and request.method not in ("GET", "HEAD")):
            raise NotForScripts(token.scope)
        role = min(membership.role, SCOPE_ROLES[TokenScope(token.scope)], key=lambda role: _RANK[Role(role)])
        return Member(membership.person, membership.house, role).must_be(needed).asking(*_asked(request))


def member_of(request: HttpRequest) -> Member:
    """Returns the member who sent an API request; the permission table has been checked for them."""
    member: Member = request.auth  # type: ignore[attr-defined]
    return member
