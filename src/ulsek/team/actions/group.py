"""Groups of houses: found one, let a house in by a code, leave, and say who leads it. A group's lead is a lead in each of its houses."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member, NotAllowed
from ..action import action
from ..locks import locked
from ..models import GroupLead, House, HouseGroup, Membership, Person, Role, SignIn
from ..sessions import end
from ..spoken_codes import code_digest, spoken_code
from .membership import still_leads

MOST_NAME, MOST_HOUSES, MOST_LEADS = 80, 100, 20
CODE_AGE = timedelta(days=7)
_GROUPS, _GROUP = 4, 4


def group_of(member: Member) -> HouseGroup:
    """Returns the group of the member's house. Raises Refusal if it is in none."""
    found = HouseGroup.objects.filter(houses=member.house).first()
    if found is None:
        raise Refusal(
            message("{house} is in no group", house=member.house.name), "group", remedy=message("Found one, or join one"), code="no_group"
        )
    return found


def leads_group(person: Person, group: HouseGroup | None) -> bool:
    """Returns True if the person leads the group."""
    return group is not None and GroupLead.objects.filter(group=group, person=person).exists()


def _led(member: Member) -> HouseGroup:
    """Returns the group of the house, which the member leads. Raises NotAllowed for others."""
    group = group_of(member)
    if not leads_group(member.person, group):
        raise NotAllowed(member.role, "lead of the group")
    return group


@action(whole_house=True)
def found_group(member: Member, name: str) -> HouseGroup:
    """Returns a new group of the member's house, led by the member. Raises Refusal for a house that is in one, and for a name that another has."""
    still_leads(member)
    named = free_text(name, "name", MOST_NAME, message("The group has no name"), message("Write what its houses are called together"))
    _in_none(member.house)
    if HouseGroup.objects.filter(name=named).exists():
        raise Refusal(
            message("There is a group called “{name}” already", name=named), "name", remedy=message("Take another name"), code="twice"
        )
    group = HouseGroup.objects.create(name=named, made_at=timezone.now())
    GroupLead.objects.create(group=group, person=member.person)
    member.house.group = group
    member.house.save(update_fields=["group"])
    member.wrote("found_group", named)
    return group


def _in_none(house: House) -> None:
    if house.group is not None:
        raise Refusal(
            message("{house} is in the group {group}", house=house.name, group=house.group.name),
            "group",
            remedy=message("Leave that one first"),
            code="twice",
        )


@action(receipt=False)
def group_code(member: Member) -> str:
    """Returns a code of sixteen letters with which one house joins the group, once, within `CODE_AGE`. It is not stored; an earlier one ends."""
    still_leads(member)
    group, code = _led(member), spoken_code(_GROUPS, _GROUP)
    group.join_digest, group.join_until = code_digest(code), timezone.now() + CODE_AGE
    group.save(update_fields=["join_digest", "join_until"])
    member.wrote("group_code", group.name)
    return code


@action(whole_house=True, receipt=False)
def _joined(member: Member, code: str) -> HouseGroup:
    still_leads(member)
    _in_none(member.house)
    now = timezone.now()
    # Locked, and only then looked at: of two houses with one code the second finds it used.
    digest = code_digest(code)
    found = locked(HouseGroup.objects.filter(join_digest=digest))
    group = next((row for row in found if row.join_digest == digest and row.join_until and row.join_until > now), None)
    if group is None:
        raise Refusal(
            message("This code opens no group"),
            "code",
            remedy=message("Check it letter by letter, or ask the group's lead for another: it works once, within a week"),
            code="wrong_code",
        )
    if group.houses.count() >= MOST_HOUSES:
        raise Refusal(message("The group is full"), "code", message("at most {most} houses", most=MOST_HOUSES), code="out_of_bounds")
    group.join_digest, group.join_until = "", None
    group.save(update_fields=["join_digest", "join_until"])
    member.house.group = group
    member.house.save(update_fields=["group"])
    member.wrote("join_group", group.name)
    return group


def join_group(member: Member, code: str) -> HouseGroup:
    """Puts the member's house into the group of a code and returns the group, whose leads become leads here. Raises Refusal for a code that opens none."""
    group = _joined(member, code)
    settle_group(group)
    return group


@action(whole_house=True)
def leave_group(member: Member) -> House:
    """Takes the member's house out of its group and returns it; who leads it for the group alone leads it no more. A group without a house is deleted.

    Raises Refusal if the house would have no lead.
    """
    still_leads(member)
    group, house = group_of(member), member.house
    if not Membership.objects.filter(house=house, role=Role.LEAD, by_group=False).exists():
        raise Refusal(
            message("{house} has no lead but those of the group", house=house.name),
            "group",
            remedy=message("Make somebody of the house a lead first"),
            code="last_lead",
        )
    house.group = None
    house.save(update_fields=["group"])
    member.wrote("leave_group", group.name)
    _end(list(Membership.objects.filter(house=house, by_group=True)))
    if not group.houses.exists():
        group.delete()
    return house


@action(receipt=False)
def _named_lead(member: Member, person_id: int) -> HouseGroup:
    still_leads(member)
    group = _led(member)
    theirs = get_object_or_404(Membership.objects.select_related("person"), house=member.house, person=person_id)
    if theirs.role != Role.LEAD:
        raise Refusal(
            message("{person} does not lead {house}", person=theirs.person.display_name, house=member.house.name),
            "person",
            remedy=message("Make them a lead of the house first"),
            code="out_of_bounds",
        )
    if group.leads.count() >= MOST_LEADS:
        raise Refusal(message("The group has many leads"), "person", message("at most {most}", most=MOST_LEADS), code="out_of_bounds")
    GroupLead.objects.get_or_create(group=group, person=theirs.person)
    member.wrote("name_group_lead", theirs.person.display_name)
    return group


def name_group_lead(member: Member, person_id: int) -> HouseGroup:
    """Makes a lead of the member's house a lead of its group, and so of each of its houses; returns the group. Only who leads the group may."""
    group = _named_lead(member, person_id)
    settle_group(group)
    return group


@action(receipt=False)
def _dropped_lead(member: Member, person_id: int) -> HouseGroup:
    group = _led(member)
    row = get_object_or_404(GroupLead.objects.select_related("person"), group=group, person=person_id)
    # The group is locked: of two leads who drop each other, the second finds itself the last, or dropped.
    locked(HouseGroup.objects.filter(pk=group.pk))
    if not leads_group(member.person, group):
        raise NotAllowed(member.role, "lead of the group")
    if group.leads.count() == 1:
        raise Refusal(
            message("{person} is the last lead of {group}", person=row.person.display_name, group=group.name),
            "person",
            remedy=message("Name another one first, or take the houses out of the group"),
            code="last_lead",
        )
    row.delete()
    member.wrote("drop_group_lead", row.person.display_name)
    return group


def drop_group_lead(member: Member, person_id: int) -> HouseGroup:
    """Takes the lead of the group from somebody, who then leads only the houses that are their own; returns the group. Raises Refusal for the last one."""
    group = _dropped_lead(member, person_id)
    settle_group(group)
    return group


def settle_group(group: HouseGroup) -> None:
    """Makes the leads of a group leads in each of its houses, and ends what is left of those who lead it no more. House by house, so that none waits for another;
    done again it changes nothing, so what a crash left undone is done the next time.
    """
    leads = list(Person.objects.filter(pk__in=GroupLead.objects.filter(group=group).values("person")).order_by("username"))
    for house in House.objects.filter(group=group).order_by("name"):
        if leads:
            _settle(Member(leads[0], house, Role.LEAD), [person.pk for person in leads])


@action(whole_house=True, receipt=False)
def _settle(member: Member, leads: list[int]) -> None:
    if member.house.group_id is None:
        return
    here = Membership.ever.filter(house=member.house)
    standing = set(here.filter(left_at=None).values_list("person", flat=True))
    for person in leads:
        if person in standing:
            continue
        row, _new = here.get_or_create(person_id=person, defaults={"house": member.house, "role": Role.LEAD, "by_group": True})
        row.role, row.left_at, row.by_group = Role.LEAD, None, True
        row.save(update_fields=["role", "left_at", "by_group"])
        member.wrote("lead_by_group", row.person.display_name)
    over = list(here.filter(left_at=None, by_group=True).exclude(person__in=leads))
    if over and not here.filter(left_at=None, role=Role.LEAD).exclude(pk__in=[row.pk for row in over]).exists():
        # Nobody else leads it: they stay, as its own.
        Membership.ever.filter(pk=over.pop().pk).update(by_group=False)
    _end(over)


def _end(rows: list[Membership]) -> None:
    with transaction.atomic():
        for row in rows:
            row.left_at, row.by_group = timezone.now(), False
            row.save(update_fields=["left_at", "by_group"])
            end(SignIn.objects.filter(house=row.house_id, person=row.person_id), SignIn.Ended.ELSEWHERE)
