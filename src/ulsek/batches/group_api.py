"""The houses of a group side by side, for those who lead it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from django.db.models import Max
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from ulsek.core.safety.on_the_shelf import expires_soon_until
from ulsek.specs.models import Origin, Spec, SpecState
from ulsek.specs.origins import newest_there
from ulsek.team.access import NotAllowed, member_of
from ulsek.team.actions.group import group_of, leads_group
from ulsek.team.answer import answers
from ulsek.team.models import House

from .models import Lot, Run

router = Router(tags=["group"])


@dataclass(frozen=True, slots=True, kw_only=True)
class GroupHouseOut:
    """A house of the group: published specs, batches under way, bottles past their last day and those that expire soon, copies behind the spec that
    they follow, and when a batch was last started.
    """

    id: int
    name: str
    published: int
    under_way: int
    past: int
    soon: int
    behind: int
    last_started: datetime | None


def _row(house: House, now: datetime) -> GroupHouseOut:
    real = Run.objects.filter(house=house, rehearsal=False)
    today = house.day(now)
    standing = Lot.objects.filter(house=house, gone_at=None)
    last_soon = expires_soon_until(today)
    follows = Origin.objects.filter(spec__house=house, followed=True)
    taken = dict(follows.values_list("source", "number"))
    newest = newest_there(taken, house.pk)
    return GroupHouseOut(
        id=house.pk,
        name=house.name,
        published=Spec.objects.filter(house=house, state=SpecState.PUBLISHED).count(),
        under_way=real.filter(finished_at=None).count(),
        past=standing.filter(use_by__lt=today).count(),
        soon=standing.filter(use_by__gte=today, use_by__lte=last_soon).count(),
        behind=sum(newest.get(source, 0) > number for source, number in taken.items()),
        last_started=real.aggregate(last=Max("started_at"))["last"],
    )


@router.get("/group/houses", response=answers(tuple[GroupHouseOut, ...]))
def houses(request: HttpRequest) -> list[GroupHouseOut]:
    """Every house of the group with what stands there, for those who lead the group."""
    member = member_of(request)
    group, now = group_of(member), timezone.now()
    if not leads_group(member.person, group):
        raise NotAllowed(member.role, "lead of the group")
    return [_row(house, now) for house in House.objects.filter(group=group).order_by("name")]
