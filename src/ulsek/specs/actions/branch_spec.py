"""Branch a trial from a version, promote it, or start a variant that follows its base."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Draft, Spec, Version
from ..projection import project
from .start_spec import NewSpec, start_spec


def branch_trial(member: Member, version: Version, name: str, at: datetime | None = None, body: Mapping[str, Any] | None = None) -> Spec:
    """Returns a trial of a version: a spec with its own draft and versions, which staff do not make until it is promoted. Its draft is the version's, or `body`."""
    return start_spec(member, NewSpec(name, version.spec.family), body or version.body, trial_of=version, at=at)


def start_variant(member: Member, base: Spec, name: str, at: datetime | None = None) -> Spec:
    """Returns a variant of a spec, which inherits its newest version and follows when that changes. Raises Refusal for a base without a version."""
    if base.newest is None:
        raise Refusal(
            message("{base} was never published", base=base.name),
            "base",
            remedy=message("Publish it first; a variant follows its versions"),
            code="not_published",
        )
    if base.base_id is not None or base.trial_of_id is not None:
        raise Refusal(
            message("{base} is a variant or a trial itself", base=base.name), "base", remedy=message("Take its own base"), code="circle"
        )
    return start_spec(member, NewSpec(name, base.family), {**base.newest.body, "base": base.key}, base=base, at=at)


@action
def promote_trial(member: Member, trial: Spec, at: datetime | None = None) -> Draft:
    """Makes the newest version of a trial the draft of the spec that it branched from; the trial stays as it is.

    Raises Refusal for a spec that is not a trial, and for one without a version.
    """
    if trial.trial_of is None:
        raise Refusal(
            message("{trial} is no trial", trial=trial.name), "spec", remedy=message("Branch one from a version"), code="not_a_trial"
        )
    if trial.newest is None:
        raise Refusal(message("The trial has no version yet"), "spec", remedy=message("Publish the trial first"), code="not_published")
    # Locked: an edit on the other screen between the read and the write would be lost.
    locked(Spec.objects.filter(pk=trial.trial_of.spec_id))
    draft = Draft.objects.select_related("spec").get(spec=trial.trial_of.spec_id)
    draft.body = {**trial.newest.body, "id": draft.spec.key, "name": draft.spec.name}
    draft.revision += 1
    draft.saved_by, draft.saved_at, draft.writer = member.person, at or timezone.now(), ""
    draft.save()
    project(draft.spec, draft.body)
    member.wrote("promote_trial", trial.name, at=at, into=draft.spec.name)
    return draft
