"""Decide about one prep of today's list: who makes it, how many bottles, put it on, or leave it for another day."""

from __future__ import annotations

from uuid import UUID

from django.utils import timezone

from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import ListWish
from .keep_hours import maker_of
from .keep_par import prep_of


@action
def change_list(
    member: Member, spec_id: UUID, person_id: int | None = None, bottles: int | None = None, *, extra: bool = False
) -> ListWish:
    """Returns what is decided about a prep today, in place of what was decided before. Raises Http404 for a prep or a person that the house does not have."""
    spec, now = prep_of(member, spec_id), timezone.now()
    person = maker_of(member, person_id) if person_id is not None else None
    said = {"person": person, "bottles": bottles, "extra": extra, "by": member.person, "at": now}
    wish, _ = ListWish.objects.update_or_create(house=member.house, day=member.day(now), spec=spec, defaults=said)
    member.wrote("change_list", spec.name, person=person.display_name if person else "", bottles=bottles)
    return wish


@action
def as_worked_out(member: Member, spec_id: UUID) -> None:
    """Takes back what was decided about a prep today."""
    spec = prep_of(member, spec_id)
    if ListWish.objects.filter(house=member.house, day=member.day(timezone.now()), spec=spec).delete()[0]:
        member.wrote("list_as_worked_out", spec.name)
