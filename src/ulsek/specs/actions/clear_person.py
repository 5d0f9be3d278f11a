"""Clear a person to make a spec alone, and take it back."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Membership, Role

from ..models import Clearance, Spec


@action
def clear_person(member: Member, spec_id: UUID, person_id: int, *, cleared: bool, at: datetime | None = None) -> Clearance | None:
    """Records that a person of the house may make a spec alone, or takes that back, and returns the row; None if there was nothing to take back.

    Raises Refusal for somebody who makes nothing here, Http404 for a spec or a person of another house.
    """
    spec = get_object_or_404(Spec, pk=spec_id, house=member.house)
    theirs = get_object_or_404(Membership.objects.select_related("person"), house=member.house, person=person_id)
    if theirs.role == Role.READER:
        raise Refusal(
            message("{person} only reads here", person=theirs.person.display_name),
            "person",
            remedy=message("Make them a maker first"),
            code="not_a_maker",
        )
    now = at or timezone.now()
    found = Clearance.objects.filter(spec=spec, person=theirs.person).first()
    if cleared:
        if found is None or found.ended_at is not None:
            found, _ = Clearance.objects.update_or_create(
                spec=spec, person=theirs.person, defaults={"by": member.person, "at": now, "ended_at": None}
            )
            member.wrote("clear_person", f"{theirs.person.display_name}: {spec.name}", at=at)
    elif found is not None and found.ended_at is None:
        found.ended_at = now
        found.save(update_fields=["ended_at"])
        member.wrote("end_clearance", f"{theirs.person.display_name}: {spec.name}", at=at)
    return found


def lacks_clearance(member: Member, spec: Spec) -> bool:
    """Returns True if the house has given any clearance, and this person is neither a lead nor cleared for this spec."""
    if member.role == Role.LEAD:
        return False
    standing = Clearance.objects.filter(spec__house=member.house, ended_at=None)
    return standing.exists() and not standing.filter(spec=spec, person=member.person).exists()
