"""Decide about one prep of today's list: who makes it, how many bottles, put it on, or leave it for another day."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.utils import timezone

from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import ListWish
from .keep_hours import maker_of
from .keep_par import prep_of


@action
def change_list(member: Member, spec_id: UUID, decided: Mapping[str, Any]) -> ListWish:
    """Returns what is decided about a prep today: `person`, `bottles` and `extra` as far as they are in `decided`, the rest as it was decided before.

    Raises Http404 for a prep or a person that the house does not have.
    """
    spec, now = prep_of(member, spec_id), timezone.now()
    said: dict[str, Any] = {**decided}
    if said.get("person") is not None:
        said["person"] = maker_of(member, said["person"])
    said |= {"extra": bool(said["extra"])} if "extra" in said else {}
    said |= {"by": member.person, "at": now}
    wish, _ = ListWish.objects.update_or_create(house=member.house, day=member.day(now), spec=spec, defaults=said)
    member.wrote("change_list", spec.name, person=wish.person.display_name if wish.person else "", bottles=wish.bottles)
    return wish


@action
def as_worked_out(member: Member, spec_id: UUID) -> None:
    """Takes back what was decided about a prep today."""
    spec = prep_of(member, spec_id)
    if ListWish.objects.filter(house=member.house, day=member.day(timezone.now()), spec=spec).delete()[0]:
        member.wrote("list_as_worked_out", spec.name)
