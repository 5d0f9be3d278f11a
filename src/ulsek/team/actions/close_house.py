"""Delete a house for good: asked for by a lead, done after a waiting time in which any lead may call it off."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member
from ..action import action
from ..house_rows import delete_house
from ..models import House
from ..passwords import must_know
from .membership import still_leads

WAITING = timedelta(days=14)
"""How long a house that is to be deleted goes on, so that another lead sees it and can call it off."""


@action(whole_house=True, receipt=False)
def close_house(member: Member, name: str, password: str, at: datetime | None = None) -> House:
    """Sets the moment at which the house is deleted, `WAITING` from now, and returns the house; one that was set before stays.

    Raises Refusal for another name than the house's, and for the demo, which is wiped at once; HttpError 403 for a wrong password.
    """
    still_leads(member)
    house = member.house
    if house.is_demo:
        raise Refusal(message("The demo needs no waiting time"), "name", remedy=message("Wipe it"), code="the_demo")
    if name.strip() != house.name:
        raise Refusal(
            message("This house has another name"),
            "name",
            remedy=message("Write “{name}” to close it", name=house.name),
            code="not_confirmed",
        )
    must_know(member.person, password)
    if house.closes_at is None:
        house.closes_at = (at or timezone.now()) + WAITING
        house.save(update_fields=["closes_at"])
        member.wrote("close_house", house.name, at=at, closes_at=house.closes_at.isoformat(timespec="minutes"))
    return house


@action(whole_house=True, receipt=False)
def keep_house(member: Member) -> House:
    """Calls off that the house is deleted, and returns the house."""
    still_leads(member)
    house = member.house
    if house.closes_at is not None:
        house.closes_at = None
        house.save(update_fields=["closes_at"])
        member.wrote("keep_house", house.name)
    return house


def delete_closed(now: datetime) -> int:
    """Deletes for good every house whose moment has come, each by itself, and returns how many there were [count]."""
    due = list(House.objects.filter(closes_at__lte=now))
    count = 0
    for house in due:
        with transaction.atomic():
            # Written first, the row is locked until it is gone: a lead who calls it off at this moment is either in time, or finds no house.
            if House.objects.filter(pk=house.pk, closes_at__lte=now).update(closes_at=now):
                delete_house(house)
                count += 1
    return count
