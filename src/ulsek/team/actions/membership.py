"""Who is in a house and as what: change a role, let go, take back, leave, hand over."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member, NotAllowed
from ..action import action
from ..models import GroupLead, House, Invitation, Membership, Person, Role, SignIn
from ..sessions import end


def _membership(house: House, person_id: int) -> Membership:
    return get_object_or_404(Membership.objects.select_related("person", "house"), house=house, person=person_id)


def still_leads(member: Member) -> None:
    """Raises NotAllowed if the member was let go or changed while they waited for the house: of two leads who let each other go, the second comes too late."""
    now = Membership.objects.filter(house=member.house, person=member.person).first()
    if now is None or now.role != Role.LEAD:
        raise NotAllowed(now.role if now else "guest", Role.LEAD)


def checked_role(role: str) -> str:
    """Returns a role. Raises Refusal for one that does not exist."""
    if role not in Role.values:
        raise Refusal(
            message("There is no role “{role}”", role=role[:20]), "role", message("reader, maker or lead"), code="unknown_reference"
        )
    return role


def _not_the_last(house: House, person: Person) -> None:
    """Raises Refusal if the person is the only lead of the house."""
    leads = Membership.objects.filter(house=house, role=Role.LEAD)
    if leads.filter(person=person).exists() and leads.count() == 1:
        raise Refusal(
            message("{person} is the last lead of {house}", person=person.display_name, house=house.name),
            "person",
            remedy=message("Make somebody else a lead first, or hand the house over"),
            code="last_lead",
        )


def _not_by_group(found: Membership) -> None:
    """Raises Refusal for somebody who leads the house's group: as long as they do, they are a lead in each of its houses, whoever made them one."""
    if found.by_group or GroupLead.objects.filter(group=found.house.group_id, person=found.person).exists():
        raise Refusal(
            message("{person} leads {house} with its group", person=found.person.display_name, house=found.house.name),
            "person",
            remedy=message("Take the lead of the group from them first, or take the house out of the group"),
            code="by_group",
        )


def _leads_no_more(house: House, person: Person) -> None:
    """Revokes the open invitations that a person made: nobody comes in, or comes back, by the word of somebody who does not lead any more."""
    Invitation.objects.filter(house=house, by=person, used_at=None, revoked_at=None).update(revoked_at=timezone.now())


def _sign_out(membership: Membership) -> None:
    """Ends every session of a person in the house. What their keys signed and arrives later is held for a lead."""
    end(SignIn.objects.filter(house=membership.house, person=membership.person), SignIn.Ended.ELSEWHERE)


@action(whole_house=True)
def change_role(member: Member, person_id: int, role: str) -> Membership:
    """Gives a person of the house another role and returns their membership. Raises Refusal if the house would have no lead, and for an unknown role."""
    still_leads(member)
    found = _membership(member.house, person_id)
    checked_role(role)
    _not_by_group(found)
    if role != Role.LEAD:
        _not_the_last(member.house, found.person)
    if found.role != role:
        before, found.role = found.role, role
        found.save(update_fields=["role"])
        if before == Role.LEAD:
            _leads_no_more(member.house, found.person)
        member.wrote("change_role", found.person.display_name, before=before, role=role)
    return found


@action(whole_house=True)
def let_go(member: Member, person_id: int) -> Membership:
    """Ends a person's membership and their sessions in the house, and returns it. What they did stays under their name. Raises Refusal for the last lead."""
    still_leads(member)
    found = _membership(member.house, person_id)
    _not_by_group(found)
    _not_the_last(member.house, found.person)
    return _ended(member, found, "let_go")


@action(whole_house=True)
def leave(member: Member) -> Membership:
    """Ends the member's own membership and their sessions in the house, and returns it. Raises Refusal for the last lead."""
    found = _membership(member.house, member.person.pk)
    _not_by_group(found)
    _not_the_last(member.house, member.person)
    return _ended(member, found, "leave")


def _ended(member: Member, found: Membership, how: str) -> Membership:
    found.left_at = timezone.now()
    found.save(update_fields=["left_at"])
    _leads_no_more(member.house, found.person)
    _sign_out(found)
    member.wrote(how, found.person.display_name)
    return found


@action(whole_house=True)
def take_back(member: Member, person_id: int, role: str) -> Membership:
    """Lets a person who left in again, as `role`, and returns their membership. They sign in as before. Raises Http404 for anybody else."""
    still_leads(member)
    checked_role(role)
    found = get_object_or_404(Membership.ever.select_related("person"), house=member.house, person=person_id, left_at__isnull=False)
    found.left_at, found.role = None, role
    found.save(update_fields=["left_at", "role"])
    member.wrote("take_back", found.person.display_name, role=role)
    return found


@action(whole_house=True)
def hand_over(member: Member, person_id: int) -> Membership:
    """Makes a person of the house a lead and the member a maker, and returns the new lead's membership. Raises Refusal for oneself."""
    still_leads(member)
    if person_id == member.person.pk:
        raise Refusal(message("The house is yours already"), "person", remedy=message("Choose who takes it over"), code="oneself")
    heir = _membership(member.house, person_id)
    _not_by_group(_membership(member.house, member.person.pk))
    heir.role = Role.LEAD
    heir.save(update_fields=["role"])
    Membership.objects.filter(house=member.house, person=member.person).update(role=Role.MAKER)
    _leads_no_more(member.house, member.person)
    member.wrote("hand_over", heir.person.display_name)
    return heir
