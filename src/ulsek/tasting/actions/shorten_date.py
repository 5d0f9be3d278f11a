"""Shorten the quality date of a spec by what a panel found of an old bottle."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.shortcuts import get_object_or_404

from ulsek.batches.actions.shorten_quality import Tasted, shorten_quality
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import days as whole_days
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.spec_quality import check_shorter
from ulsek.team.access import Member
from ulsek.team.action import action

from ..ages import age_view, aged_version
from ..models import Panel
from .decide import MOST_WHY, decide

_NAMED = 120
"""Letters of a spec's name in the decision."""


@action(whole_house=True)
def shorten_date(member: Member, panel_id: UUID, days: int, why: str, at: datetime | None = None) -> list[str]:
    """Returns the codes of the lots whose last day is earlier now: stores a shorter quality date [days] for the spec of a panel's old bottle, and as the panel's decision.

    Raises Refusal for a panel that showed nothing of age, or nothing shorter than what stands, for more days than it showed, and without a reason.
    """
    panel = get_object_or_404(Panel.objects.select_related("house"), pk=panel_id, house=member.house)
    found = age_view(panel)
    version = aged_version(list(panel.samples.select_related("lot", "version__spec")))
    if found is None or found.days is None or version is None:
        raise Refusal(
            message("This panel shortens no date"),
            "panel",
            remedy=message("Taste an old bottle against a young one of the same version"),
            code="missing",
        )
    check_shorter(days, found.days)
    reason = free_text(why, "why", MOST_WHY, message("Why so?"), message("Say what was tasted"))
    lots = shorten_quality(member, version.spec, Tasted(days, reason, f"panel {panel.code}"), at=at)
    said = message("{name} is good for {days}", name=version.spec.name[:_NAMED], days=whole_days(days))
    decide(member, panel_id, said.text(), reason, at=at)
    return lots
