"""Set when somebody has time for preps, and when they are away."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.planning.hours import checked_absence, checked_hours
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Membership, Person, Role

from ..models import Away, Hours


def maker_of(member: Member, person_id: int) -> Person:
    """Returns a present maker or lead of the member's house. Raises Http404 for any other person."""
    rows = Membership.objects.filter(house=member.house, role__in=(Role.MAKER, Role.LEAD)).select_related("person")
    return get_object_or_404(rows, person=person_id).person


@action
def keep_hours(member: Member, person_id: int, week: Sequence[Sequence[str] | None]) -> Hours | None:
    """Stores a person's hours of a usual week and returns the row. Seven days off mean that they are never in; an empty list deletes the row and returns None.

    Raises Refusal, at the weekday, for hours that cannot be read, and Http404 for somebody who makes nothing here.
    """
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
    """Stores an absence, by default of today, and returns the row; no reason is stored. Raises Refusal as `checked_absence` does, and Http404 for somebody who makes nothing here."""
    person = maker_of(member, person_id)
    begins, ends = checked_absence(first, last, member.day(timezone.now()))
    # Twice the same: somebody pressed it twice, or two people did.
    found, is_new = Away.objects.get_or_create(house=member.house, person=person, first=begins, last=ends)
    if is_new:
        member.wrote("go_away", person.display_name, first=begins.isoformat(), last=ends.isoformat())
    return found


@action
def come_back(member: Member, away_id: int) -> None:
    """Ends an absence today: days before today stay, an absence that begins today or later is deleted. Raises Http404 if the house has no such absence."""
    found = get_object_or_404(Away.objects.select_related("person"), pk=away_id, house=member.house)
    today = member.day(timezone.now())
    if found.first < today <= found.last:
        found.last = today - timedelta(days=1)
        found.save(update_fields=["last"])
    else:
        found.delete()
    member.wrote("come_back", found.person.display_name)
