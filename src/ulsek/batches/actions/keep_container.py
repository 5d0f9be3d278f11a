"""Describe, clean and empty containers that are used again."""

from __future__ import annotations

import math
from datetime import datetime

from django.utils import timezone

from ulsek.core.base.figures import TARE_G, VESSEL_ML
from ulsek.core.base.messages import Given, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Container


@action
def keep_container(member: Member, name: str, tare_g: float, capacity_ml: float | None = None, *, key: int | None = None) -> Container:
    """Returns a new container, or one that was weighed again. Raises Refusal for an empty or taken name, and for figures that cannot be."""
    name = name.strip()
    if not 0 < len(name) <= 60:
        raise Refusal(
            message("A container needs a name"), "name", message("at most 60 letters"), message("Write what stands on it"), "missing"
        )
    for value, where, bounds in ((tare_g, "tare_g", TARE_G), (capacity_ml, "capacity_ml", VESSEL_ML)):
        if value is not None and not (math.isfinite(value) and bounds.low <= value <= bounds.high):
            raise Refusal(
                message("{value} cannot be", value=Given(value)), where, bounds.words, message("Weigh it empty and dry"), "out_of_bounds"
            )
    taken = Container.objects.filter(house=member.house, name=name).first()
    if taken is not None and taken.pk != key:
        raise Refusal(message("“{name}” is there already", name=name), "name", remedy=message("Choose another name"), code="twice")
    kept = locked_or_404(Container.objects.filter(pk=key, house=member.house)) if key else Container(house=member.house)
    kept.name, kept.tare_g, kept.capacity_ml = name, tare_g, capacity_ml
    kept.save()
    member.wrote("keep_container", name, tare_g=tare_g)
    return kept


@action
def clean_container(member: Member, key: int, at: datetime | None = None) -> Container:
    """Marks a container as empty and clean, with the person and time."""
    found = locked_or_404(Container.objects.filter(pk=key, house=member.house))
    found.holds, found.cleaned_at, found.cleaned_by = None, at or timezone.now(), member.person
    found.save()
    member.wrote("clean_container", found.name, at=at, last=found.last_contents)
    return found
