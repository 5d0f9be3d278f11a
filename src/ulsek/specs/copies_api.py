"""Specs between houses: copied, followed, gone their own way."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Status

from ulsek.core.base.messages import Message
from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.models import House, Membership, Role
from ulsek.team.schema import Schema

from .actions.copy_between import copy_spec, fork, take_newer
from .library import rows, with_newest
from .library_schemas import SpecRow, VersionOut
from .models import Origin, Spec, Version
from .origins import newest_of
from .queries import version_row

router = Router(tags=["copies"])


class CopyToIn(Schema):
    """The house that a version goes to, and whether the copy takes newer versions in."""

    house: int
    followed: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class CopiedOut:
    """The copy: its house, its name there, the preps that came with it, and why it stands there as a draft only."""

    house: str
    name: str
    also: tuple[str, ...]
    published: bool
    held_up: Message | None


@dataclass(frozen=True, slots=True, kw_only=True)
class FollowerOut:
    """A copy in another house that the sender leads: the version that it has."""

    house: str
    house_id: int
    spec: UUID
    number: int


@dataclass(frozen=True, slots=True, kw_only=True)
class OriginOut:
    """Where a spec came from: empty if it is the house's own. `newest` is the number of the version that stands there, 0 if that cannot be seen any more."""

    house: str = ""
    name: str = ""
    number: int = 0
    newest: int = 0
    why: str = ""
    followed: bool = False


def _there(member: Member, house_id: int) -> Member:
    """Returns the same person as a member of another house in which they are a lead. Raises Http404 if they are not a lead there."""
    found = get_object_or_404(Membership.objects.select_related("house"), person=member.person, house=house_id, role=Role.LEAD)
    return Member(member.person, found.house, found.role, sign_in=member.sign_in)


@router.post("/specs/{spec_id}/versions/{number}/copy", response={201: answers(CopiedOut)})
def copy(request: HttpRequest, spec_id: UUID, number: int, payload: CopyToIn) -> Status[CopiedOut]:
    """Copies a version into another house that the sender leads, with the preps and materials that are not there."""
    member = member_of(request)
    version = get_object_or_404(Version.objects.select_related("spec__house"), spec=spec_id, spec__house=member.house, number=number)
    there = _there(member, payload.house).asking(member.request_id, member.request_digest)
    done = copy_spec(there, version, followed=payload.followed)
    return Status(
        201,
        CopiedOut(
            house=there.house.name, name=done.spec.name, also=done.also, published=done.spec.newest_id is not None, held_up=done.held_up
        ),
    )


def _followers(member: Member, spec_id: UUID) -> list[FollowerOut]:
    spec = get_object_or_404(Spec, pk=spec_id, house=member.house)
    led = House.objects.filter(members__person=member.person, members__role=Role.LEAD, members__left_at=None)
    found = Origin.objects.filter(source=spec.pk, followed=True, spec__house__in=led).select_related("spec__house")
    return [
        FollowerOut(house=row.spec.house.name, house_id=row.spec.house_id, spec=row.spec_id, number=row.number)
        for row in found.order_by("spec__house__name", "spec__name")
    ]


@router.get("/specs/{spec_id}/followers", response=answers(tuple[FollowerOut, ...]))
def followers(request: HttpRequest, spec_id: UUID) -> list[FollowerOut]:
    """The copies that follow a spec, in the other houses that the sender leads."""
    return _followers(member_of(request), spec_id)


@router.post("/specs/{spec_id}/followers/{copy_id}/take", response=answers(tuple[FollowerOut, ...]))
def bring(request: HttpRequest, spec_id: UUID, copy_id: UUID) -> list[FollowerOut]:
    """Publishes the newest version of a spec in a house that follows it."""
    member = member_of(request)
    source = get_object_or_404(Spec, pk=spec_id, house=member.house)
    row = get_object_or_404(Origin.objects.select_related("spec"), spec=copy_id, source=source.pk)
    take_newer(_there(member, row.spec.house_id), copy_id)
    return _followers(member, spec_id)


def _origin(member: Member, spec_id: UUID) -> OriginOut:
    spec = get_object_or_404(Spec, pk=spec_id, house=member.house)
    row = Origin.objects.filter(spec=spec).first()
    if row is None:
        return OriginOut()
    newest = newest_of(row, member)
    return OriginOut(
        house=row.house_name,
        name=row.spec_name,
        number=row.number,
        newest=newest.number if newest else 0,
        why=newest.why if newest else "",
        followed=row.followed,
    )


@router.get("/specs/{spec_id}/origin", response=answers(OriginOut))
def origin(request: HttpRequest, spec_id: UUID) -> OriginOut:
    """Which spec of another house this one was copied from, and what stands there now."""
    return _origin(member_of(request), spec_id)


@router.post("/specs/{spec_id}/follow", response=answers(VersionOut))
def follow(request: HttpRequest, spec_id: UUID) -> VersionOut:
    """Publishes the newest version of the spec that this copy follows."""
    made = take_newer(member_of(request), spec_id)
    return version_row(Version.objects.select_related("author").get(pk=made.pk))


@router.post("/specs/{spec_id}/fork", response=answers(SpecRow))
def go_own_way(request: HttpRequest, spec_id: UUID) -> SpecRow:
    """Lets a copy go its own way."""
    spec = fork(member_of(request), spec_id)
    return rows(with_newest(Spec.objects.filter(pk=spec.pk)))[0]
