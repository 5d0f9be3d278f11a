"""Store a sum that a person used."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.utils import timezone

from ulsek.core.base.number_format import amount
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import RecentSum
from ..queries import answer_of

KEPT = 20


@action
def keep_sum(member: Member, name: str, figures: Mapping[str, Any]) -> RecentSum:
    """Stores a sum among the person's last `KEPT`; the same figures again only move to the front. Raises Refusal as the sum does. It writes no history row,
    because it changes nothing of the house.
    """
    first = answer_of(member.house, name, figures).figures[0]
    mine = RecentSum.objects.filter(house=member.house, person=member.person)
    given = {key: value for key, value in figures.items() if value not in (None, "")}
    mine.filter(name=name, figures=given).delete()
    kept = RecentSum.objects.create(
        house=member.house,
        person=member.person,
        name=name,
        figures=given,
        said=f"{first.name} {amount(first.value, first.unit, 2)}".strip(),
        at=timezone.now(),
    )
    mine.exclude(pk__in=list(mine.order_by("-at", "name").values_list("pk", flat=True)[:KEPT])).delete()
    return kept
