"""Publish: the draft becomes the next version, which never changes, if the release check allows it; what depends on it follows."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db.models import Q
from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.answer import stored_json
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.release.release_check import release_check
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.results.version_diff import same_numbers
from ulsek.core.spec.variants import changes_of, inherited
from ulsek.stores.actions.keep_own_material import keep_own_material
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Draft, Spec, Version
from ..outputs import outputs_of
from ..projection import brief_of, project, settle_state
from ..queries import drinks_with, evaluated
from .save_draft import DraftConflict


@action
def publish_spec(member: Member, spec_id: UUID, revision: int, why: str, at: datetime | None = None, *, critical: bool = False) -> Version:
    """Returns the version made from the draft at `revision`, with the materials as they are now; `critical` asks staff to acknowledge it.

    Raises Refusal if the release check finds a stop, if the reason is empty, if only words changed (that is a correction), and if the draft has changed since
    it was checked.
    """
    # Locked, with the variants that follow: two tabs that publish at once must not both take the same number.
    locked(Spec.objects.filter(Q(pk=spec_id) | Q(base=spec_id), house=member.house))
    draft = get_object_or_404(Draft.objects.select_related("spec", "saved_by"), spec=spec_id, spec__house=member.house)
    if draft.revision != revision:
        raise DraftConflict(draft.body, {}, "nothing", draft.saved_by.display_name)
    reason = free_text(why, "why", 200, message("A version needs its why"), message("Say in one line what is new"))
    free_text(draft.body.get("name"), "name", 120)
    spec = draft.spec
    evaluation, resolved = evaluated(member.house, draft.body, own=spec)
    drinks = drinks_with(member.house, spec, evaluation)
    stops = [remark for remark in release_check(evaluation, drinks=drinks) if remark.severity == "stop"]
    if stops:
        raise Refusal(stops[0].text, stops[0].where, remedy=stops[0].remedy, code=stops[0].code)
    latest = Version.objects.filter(spec=spec).order_by("-number").first()
    if latest and not hasattr(latest, "withdrawal") and same_numbers(latest.body, draft.body):
        worded = latest.body != draft.body
        raise Refusal(
            message("Only words have changed since version {number}", number=latest.number)
            if worded
            else message("Nothing has changed since version {number}", number=latest.number),
            "draft",
            remedy=message("Correct its wording instead") if worded else message("Change something, or leave it"),
            code="wording_only" if worded else "unchanged",
        )
    final = stored_json(evaluation_result(evaluation).final)
    version = Version.objects.create(
        spec=spec,
        number=(latest.number if latest else 0) + 1,
        body=draft.body,
        materials=dict(resolved.bodies),
        why=reason,
        author=member.person,
        at=at or timezone.now(),
        final=final,
        brief=brief_of(final),
        outputs=outputs_of(evaluation, spec.key),
        critical=critical,
    )
    settle_state(spec)
    if spec.trial_of_id is None:
        keep_own_material(member.house, version.outputs)
        _variants_follow(member, spec, latest.body if latest else None, version)
    member.wrote("publish_spec", str(version), at=at, why=version.why)
    return version


def _variants_follow(member: Member, spec: Spec, before: Mapping[str, Any] | None, version: Version) -> None:
    """Puts every variant's changes on the new base. Its published versions stay as they are until somebody publishes."""
    for draft in Draft.objects.select_related("spec").filter(spec__base=spec):
        changes = changes_of(before, draft.body) if before is not None else {}
        draft.body = inherited(version.body, changes, draft.body)
        draft.revision += 1
        draft.saved_by, draft.saved_at, draft.writer = member.person, version.at, ""
        draft.save()
        project(draft.spec, draft.body)
