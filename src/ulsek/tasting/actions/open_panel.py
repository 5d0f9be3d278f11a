"""Open a panel: the seal goes on, and the codes that lead to its seats are made."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.tasting.design import SEED_LETTERS
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404
from ulsek.team.spoken_codes import code_digest

from ..codes import letters, link_digest, link_token
from ..models import Panel, PanelSample, PanelState, Standard
from ..needed import portions_held, portions_needed
from ..plans import found_samples, stored_sample
from .plan_panel import must_be_planned


@action
def open_panel(member: Member, panel_id: UUID, at: datetime | None = None, seed: str = "") -> Panel:
    """Returns a planned panel opened: the contents and allergens of its samples are read anew, and the secret seed of its codes and orders is drawn (or is `seed`, for tests and the
    demo).

    Raises Refusal if the panel is not planned, if nobody pours, and for a sample that nobody may taste any more.
    """
    panel = locked_or_404(Panel.objects.filter(pk=panel_id, house=member.house))
    must_be_planned(panel)
    if panel.poured_by is None:
        raise Refusal(message("Nobody pours yet"), "poured_by", remedy=message("Choose who pours: they alone see the key"), code="missing")
    when = at or timezone.now()
    samples = list(panel.samples.all())
    for sample, found in zip(samples, found_samples(member.house, [stored_sample(item) for item in samples], when), strict=True):
        for name, value in vars(found).items():
            setattr(sample, name, value)
        sample.save()
    panel.seed = seed or secrets.token_hex(SEED_LETTERS // 2)
    panel.link_digest, panel.letters_digest = link_digest(link_token(panel.seed)), code_digest(letters(panel.seed))
    panel.state, panel.opened_at = PanelState.OPEN, when
    panel.save()
    _check_portions(panel, samples)
    member.wrote("open_panel", str(panel), at=at)
    return panel


def _check_portions(panel: Panel, samples: Sequence[PanelSample]) -> None:
    """Checks that enough portions of every frozen standard are left [count], those not counted that other open panels thaw. Raises Refusal, at the sample, if not."""
    for place, wanted in portions_needed(panel, samples).items():
        standard = locked_or_404(Standard.objects.filter(samples=samples[place]))
        left = (standard.portions or 0) - portions_held(standard, panel)
        if wanted > left:
            raise Refusal(
                message("{n} portions of {name} are needed, and {left} are left", n=wanted, name=standard.name, left=left),
                f"samples/{place}",
                remedy=message("Ask fewer people, or freeze a new one"),
                code="gone",
            )
