"""Measure fruits of a case, or set a measurement aside."""

from __future__ import annotations

from datetime import datetime

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.yields import FruitMeasurement
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Case, FruitSample


@action
def measure_fruit(member: Member, case: Case, seen: FruitMeasurement, at: datetime | None = None) -> FruitSample:
    """Stores a measurement; one figure is enough. Raises Refusal for values that cannot be."""
    seen.checked(variety(case.fruit)).of_case(case.count)
    locked(Case.objects.filter(pk=case.pk), shared=True)
    figures = {name: getattr(seen, name) for name in seen.__slots__}
    sample = FruitSample.objects.create(case=case, at=at or timezone.now(), by=member.person, **figures)
    member.wrote("measure_fruit", str(sample), at=sample.at)
    return sample


@action
def set_sample_aside(member: Member, sample: FruitSample, why: str) -> FruitSample:
    """Marks a measurement as an error: it is kept and does not count. Raises Refusal without a reason."""
    reason = free_text(why, "why", 120, message("A reason is missing"), message("Say what went wrong, in a few words"))
    locked(Case.objects.filter(pk=sample.case_id), shared=True)
    sample = FruitSample.objects.select_for_update().get(pk=sample.pk)
    sample.set_aside = reason
    sample.save(update_fields=["set_aside"])
    member.wrote("set_sample_aside", str(sample), why=reason)
    return sample
