"""Set when somebody has time for preps, and when they are away."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Membership, Person, Role

from ..calendar import checked_hours
from ..models import Away, Hours

MOST_AWAY_DAYS = 366
"""Most days of one absence [d]; a longer one ends a membership. House judgement."""


def maker_of(member: Member, person_id: int) -> Person:
    """Returns somebody who makes things in the member's house. Raises Http404 for anybody else."""
    rows = Membership.objects.filter(house=member.house, role__in=(Role.MAKER, Role.LEAD)).select_related("person")
    return get_object_or_404(rows, person=person_id).person


@action
def keep_hours(member: Member, person_id: int, week: Sequence[Any]) -> Hours | None:
    """Returns somebody's hours; a week without any means that they are never in, an empty list that nobody has said. Raises Refusal, at its day, for what are no hours."""
    person = maker_of(member, person_id)
    rows = Hours.objects.filter(house=member.house, person=person)
    if not week:
        if rows.delete()[0]:
            member.wrote("drop_hours", person.display_name)
        return None
    hours, _ = Hours.objects.update_or_create(house=member.house, person=person, defaults={"week": checked_hours(week)})
    member.wrote("keep_hours", person.display_name)
    return hours


@action
def go_away(member: Member, person_id: int, first: date | None = None, last: date | None = None) -> Away:
    """Returns an absence, by default today's. Why is not asked. Raises Refusal, at its place, for one that is over, ends before it begins, or is longer than a year."""
    person, today = maker_of(member, person_id), member.day(timezone.now())
    begins = first or today
    ends = last or begins
    if ends < today:
        raise Refusal(message("These days are over"), "last", remedy=message("Choose today or later"), code="out_of_bounds")
    if ends < begins or ends - begins > timedelta(days=MOST_AWAY_DAYS):
        raise Refusal(
            message("This is no absence"),
            "last",
            message("from its first day to its last, at most a year"),
            message("Choose both again"),
            "out_of_bounds",
        )
    # Twice the same: somebody pressed it twice, or two people did.
    found, is_new = Away.objects.get_or_create(house=member.house, person=person, first=begins, last=ends)
    if is_new:
        member.wrote("go_away", person.display_name, first=begins.isoformat(), last=ends.isoformat())
    return found


@action
def come_back(member: Member, away_id: int) -> None:
    """Ends an absence: somebody is in after all. What is over stays as it was. Raises Http404 for one that the house does not have."""
    found = get_object_or_404(Away.objects.select_related("person"), pk=away_id, house=member.house)
    today = member.day(timezone.now())
    if found.first < today <= found.last:
        found.last = today - timedelta(days=1)
        found.save(update_fields=["last"])
    else:
        found.delete()
    member.wrote("come_back", found.person.display_name)
