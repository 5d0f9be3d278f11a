"""Draft the trial that a panel found worth making next."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.workbench.questions import draft_at_flag
from ulsek.specs.actions.branch_spec import branch_trial
from ulsek.specs.models import Spec
from ulsek.specs.queries import version_body
from ulsek.stores.house import StoredHouse
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Panel, PanelState
from ..trials import version_of


@action
def draft_next(member: Member, panel_id: UUID, at: datetime | None = None) -> Spec:
    """Branches a trial from the version that the next trial begins from, brought to its sugar and acid by the fewest additions.

    Raises Refusal for a panel that found none, for a sample that no version made, and for a spot that no additions reach.
    """
    panel = get_object_or_404(Panel, pk=panel_id, house=member.house)
    wanted = (panel.results or {}).get("next") if panel.state == PanelState.TOLD else None
    if wanted is None:
        raise Refusal(
            message("This panel found no trial worth making"),
            "panel",
            remedy=message("Taste what differs in sugar or acid"),
            code="missing",
        )
    sample = panel.samples.select_related("version__spec__house", "lot__run__version__spec__house").get(place=wanted["sample"])
    version = version_of(sample)
    if version is None:
        raise Refusal(
            message("{name} was made by no version", name=sample.name),
            "panel",
            remedy=message("Publish it first, or start a spec of it"),
            code="missing",
        )
    body = draft_at_flag(StoredHouse(member.house), version_body(version), wanted["sugar"], wanted["acid"]).spec
    trial = branch_trial(member, version, f"{version.spec.name}, after {panel.code}", at=at or timezone.now(), body=body)
    member.wrote("draft_next", str(panel), at=at, trial=trial.name)
    return trial
