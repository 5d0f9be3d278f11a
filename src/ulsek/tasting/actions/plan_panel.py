"""Plan a panel, change its plan, or drop it before it is opened."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass, field, replace
from datetime import datetime
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.tasting.design import PanelDesign, checked_design
from ulsek.core.tasting.serving import SampleContents, Serving, pours
from ulsek.team.access import Member, membership_of
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404
from ulsek.team.models import Person, Role
from ulsek.team.numbers import locked_series, next_number

from ..models import Panel, PanelSample, PanelState
from ..plans import FoundSample, WantedSample, found_samples

SERIES, MOST_QUESTION = "P", 160


@dataclass(frozen=True)
class PanelPlan:
    """A panel as a lead asks for it: the question in one sentence, the design (its `samples` are counted here), how it is served, and who pours (None: not yet said)."""

    question: str
    design: PanelDesign
    samples: Sequence[WantedSample]
    serving: Serving = field(default_factory=Serving)
    poured_by: int | None = None


@action
def plan_panel(member: Member, plan: PanelPlan, panel_id: UUID | None = None, at: datetime | None = None) -> Panel:
    """Stores a panel that is planned, or changes one. Raises Refusal, at its place, for what cannot be tasted so, and for a panel that is open already."""
    when = at or timezone.now()
    panel = locked_or_404(Panel.objects.filter(pk=panel_id, house=member.house)) if panel_id else None
    if panel is not None:
        must_be_planned(panel)
    found = found_samples(member.house, plan.samples, when)
    design = checked_design(replace(plan.design, samples=len(found)))
    if plan.serving.drink:
        pours([_inside(item) for item in found], plan.serving)
    columns = {
        "question": free_text(
            plan.question, "question", MOST_QUESTION, message("A panel asks something"), message("Say it in one sentence")
        ),
        "design": asdict(design),
        "serving": asdict(replace(plan.serving, drink=free_text(plan.serving.drink, "serving/drink", 80))),
        "poured_by": pourer_of(member, plan.poured_by),
    }
    if panel is None:
        code = f"{SERIES}{next_number(locked_series(member.house, SERIES)):04d}"
        panel = Panel.objects.create(house=member.house, code=code, made_by=member.person, made_at=when, **columns)
    else:
        for name, value in columns.items():
            setattr(panel, name, value)
        panel.save(update_fields=list(columns))
        panel.samples.all().delete()
    PanelSample.objects.bulk_create(PanelSample(panel=panel, place=place, **vars(item)) for place, item in enumerate(found))
    member.wrote("plan_panel", str(panel), at=at)
    return panel


def _inside(found: FoundSample) -> SampleContents:
    return SampleContents(found.name, **found.contents)


def must_be_planned(panel: Panel) -> None:
    """Raises Refusal for a panel that is open or told."""
    if panel.state != PanelState.PLANNED:
        raise Refusal(
            message("This panel is open: what it is, is settled"),
            "panel",
            remedy=message("Break its seal with a reason, and plan another one"),
            code="sealed",
        )


def pourer_of(member: Member, person: int | None) -> Person | None:
    """Returns who pours. Raises Refusal for somebody who makes nothing in this house."""
    if person is None:
        return None
    found = membership_of(person, member.house.pk)
    if found is None or found.role == Role.READER:
        raise Refusal(
            message("Who pours is somebody of this house who makes things"),
            "poured_by",
            remedy=message("Choose one"),
            code="unknown_reference",
        )
    return found.person


@action
def drop_panel(member: Member, panel_id: UUID) -> None:
    """Deletes a panel that was planned only. Raises Refusal for one that is open or told."""
    panel = locked_or_404(Panel.objects.filter(pk=panel_id, house=member.house))
    must_be_planned(panel)
    member.wrote("drop_panel", str(panel))
    panel.delete()
