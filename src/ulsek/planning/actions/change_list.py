"""Decide about one prep of today's list: who makes it, how many bottles, put it on, or leave it for another day."""

from __future__ import annotations

from typing import TypedDict
from uuid import UUID

from django.utils import timezone

from ulsek.team.access import Member
from ulsek.team.action import action

from ..facts import preps_of
from ..models import ListWish
from .keep_hours import maker_of
from .keep_par import prep_of


class Decision(TypedDict, total=False):
    """What is decided about a prep today: the person who makes it (None: whoever is free), bottles (None: as computed; 0: not today), and whether it is made in any case."""

    person: int | None
    bottles: int | None
    extra: bool | None


@action
def change_list(member: Member, spec_id: UUID, decided: Decision) -> ListWish:
    """Stores today's decision about a prep and returns the row; members that `decided` does not hold keep their stored value.

    Raises Http404 if the house has no such prep or maker, and Refusal, at `bottles`, for more bottles than one batch can make.
    """
    spec, now = prep_of(member, spec_id), timezone.now()
    said: dict[str, object] = {"by": member.person, "at": now}
    if "person" in decided:
        said["person"] = None if decided["person"] is None else maker_of(member, decided["person"])
    if "bottles" in decided:
        facts = preps_of(member.house).get(spec)
        if facts is not None and decided["bottles"] is not None:
            facts.check_bottles(decided["bottles"])
        said["bottles"] = decided["bottles"]
    if "extra" in decided:
        said["extra"] = bool(decided["extra"])
    wish, _ = ListWish.objects.update_or_create(house=member.house, day=member.day(now), spec=spec, defaults=said)
    member.wrote("change_list", spec.name, person=wish.person.display_name if wish.person else "", bottles=wish.bottles)
    return wish


@action
def as_worked_out(member: Member, spec_id: UUID) -> None:
    """Deletes what was decided about a prep today, if anything was. Raises Http404 if the house has no such prep."""
    spec = prep_of(member, spec_id)
    if ListWish.objects.filter(house=member.house, day=member.day(timezone.now()), spec=spec).delete()[0]:
        member.wrote("list_as_worked_out", spec.name)
