"""The group of a house: founded, joined by a code, left, and led."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Status

from .access import Member, member_of
from .actions.group import drop_group_lead, found_group, group_code, join_group, leads_group, leave_group, name_group_lead
from .answer import answers
from .models import GroupLead, House
from .schema import Schema

router = Router(tags=["group"])


@dataclass(frozen=True, slots=True, kw_only=True)
class GroupLeadOut:
    id: int
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class GroupOut:
    """The group of the sender's house: its name (empty: none), its houses, who leads it, whether the sender does, and whether a code is open."""

    name: str = ""
    houses: tuple[str, ...] = ()
    leads: tuple[GroupLeadOut, ...] = ()
    mine: bool = False
    code_open: bool = False


def _out(member: Member) -> GroupOut:
    house = House.objects.select_related("group").get(pk=member.house.pk)
    group = house.group
    if group is None:
        return GroupOut()
    leads = GroupLead.objects.filter(group=group).select_related("person").order_by("person__display_name")
    return GroupOut(
        name=group.name,
        houses=tuple(group.houses.order_by("name").values_list("name", flat=True)),
        leads=tuple(GroupLeadOut(id=row.person_id, name=row.person.display_name) for row in leads),
        mine=leads_group(member.person, group),
        code_open=group.join_until is not None and group.join_until > timezone.now(),
    )


class GroupIn(Schema):
    """What the houses are called together."""

    name: str


class GroupCodeIn(Schema):
    code: str


@dataclass(frozen=True, slots=True, kw_only=True)
class GroupCodeOut:
    """A code that is shown once, with which one house joins."""

    code: str


class GroupLeadIn(Schema):
    person: int


@router.get("/group", response=answers(GroupOut))
def group(request: HttpRequest) -> GroupOut:
    """The group that the house is in."""
    return _out(member_of(request))


@router.post("/group", response={201: answers(GroupOut)})
def found(request: HttpRequest, payload: GroupIn) -> Status[GroupOut]:
    """Founds a group with this house in it, led by the sender."""
    member = member_of(request)
    found_group(member, payload.name)
    return Status(201, _out(member))


@router.delete("/group", response=answers(GroupOut))
def leave(request: HttpRequest) -> GroupOut:
    """Takes the house out of its group."""
    member = member_of(request)
    leave_group(member)
    return _out(member)


@router.post("/group/code", response={201: answers(GroupCodeOut)})
def code(request: HttpRequest) -> Status[GroupCodeOut]:
    """A code with which one more house joins the group."""
    return Status(201, GroupCodeOut(code=group_code(member_of(request))))


@router.post("/group/join", response=answers(GroupOut))
def join(request: HttpRequest, payload: GroupCodeIn) -> GroupOut:
    """Puts the house into the group of a code; whoever leads the group is a lead here then."""
    member = member_of(request)
    join_group(member, payload.code)
    return _out(member)


@router.post("/group/leads", response=answers(GroupOut))
def name_lead(request: HttpRequest, payload: GroupLeadIn) -> GroupOut:
    """Makes a lead of this house a lead of the group."""
    member = member_of(request)
    name_group_lead(member, payload.person)
    return _out(member)


@router.delete("/group/leads/{person_id}", response=answers(GroupOut))
def drop_lead(request: HttpRequest, person_id: int) -> GroupOut:
    """Takes the lead of the group from somebody."""
    member = member_of(request)
    drop_group_lead(member, person_id)
    return _out(member)
