"""Where copies of other houses' specs came from, and what stands there now."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from django.db.models import Q

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.models import House, Membership, Role

from .models import Origin, Spec, Version


def newest_of(origin: Origin, member: Member) -> Version | None:
    """Returns the newest version that stands of the spec that a copy is of; None if it is gone, or if the house has nothing to do with that one any more."""
    houses = Membership.objects.filter(person=member.person, role=Role.LEAD).values("house")
    in_reach = Q(house__in=houses) if member.house.group_id is None else Q(house__in=houses) | Q(house__group=member.house.group_id)
    source = Spec.objects.filter(in_reach, pk=origin.source).select_related("newest__spec__house").first()
    found = source.newest if source else None
    return None if found is None or hasattr(found, "withdrawal") else found


def newest_there(sources: Iterable[UUID], house_id: int) -> dict[UUID, int]:
    """Returns the numbers of the newest versions of specs of the house's group, by spec."""
    group = House.objects.filter(pk=house_id).values("group")
    found = Spec.objects.filter(pk__in=list(sources), house__group__in=group, newest__withdrawal=None)
    return {key: number for key, number in found.values_list("pk", "newest__number") if number}


def not_followed(spec: Spec) -> None:
    """Raises Refusal for a copy that follows another house's spec: what is typed into it would be lost at the next version."""
    origin = Origin.objects.filter(spec=spec, followed=True).first()
    if origin is not None:
        raise Refusal(
            message("{spec} follows {house}", spec=spec.name, house=origin.house_name),
            "draft",
            remedy=message("Let it go its own way first, under Versions"),
            code="followed",
        )
