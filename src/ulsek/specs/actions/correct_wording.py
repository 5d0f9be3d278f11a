"""Correct the wording of a published version: no number changes, so it is no new version."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.results.version_diff import same_numbers
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Correction, Draft, Spec, Version


@action
def correct_wording(member: Member, spec_id: UUID, at: datetime | None = None) -> Correction:
    """Makes the words of the draft those of the newest version. Raises Refusal if a number differs: that is a new version."""
    locked_or_404(Spec.objects.filter(pk=spec_id, house=member.house))
    draft = Draft.objects.get(spec=spec_id)
    latest = Version.objects.filter(spec=spec_id).order_by("-number").first()
    if latest is None:
        raise Refusal(message("This spec has never been published"), "spec", remedy=message("Check and publish it"), code="not_published")
    if not same_numbers(latest.body, draft.body):
        raise Refusal(
            message("More than words has changed"),
            "draft",
            message("against version {number}", number=latest.number),
            message("Publish it as the next version"),
            "not_wording",
        )
    correction = Correction.objects.create(version=latest, body=draft.body, by=member.person, at=at or timezone.now())
    member.wrote("correct_wording", str(latest), at=at)
    return correction
