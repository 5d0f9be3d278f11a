"""Plan which fruit is cut for what, and carry plans out."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.utils import timezone

from ulsek.core.base.answer import stored_json
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.yields import check_cut
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Case, CutDone, CutPlan
from ..planning import planned

MOST_NAME = 80


@action
def save_plan(
    member: Member,
    name: str,
    cases: list[dict[str, Any]],
    wants: list[dict[str, Any]],
    *,
    plan: CutPlan | None = None,
    at: datetime | None = None,
) -> CutPlan:
    """Computes and stores a plan, in place of `plan` if given. Raises Refusal for what the planner refuses, and for a plan that was carried out."""
    if plan is not None:
        plan = locked_or_404(CutPlan.objects.filter(pk=plan.pk, house=member.house))
    if plan is not None and plan.done_at is not None:
        raise Refusal(message("That plan was carried out"), "plan", remedy=message("Make a new one"), code="finished")
    now = at or timezone.now()
    answer = planned(member, cases, wants, now, done=plan)
    saved = plan or CutPlan(house=member.house, made_by=member.person, made_at=now)
    saved.name = free_text(name, "name", MOST_NAME) or f"Cut plan of {member.local(now):%a %d %b}"
    saved.cases, saved.wants, saved.answer = cases, wants, stored_json(answer)
    saved.save()
    member.wrote("save_cut_plan", saved.name, at=now)
    return saved


@dataclass(frozen=True, slots=True)
class Gave:
    """Yields of `count` fruits that were cut: juice [mL], skin [g], and the part of the skin that was thrown away [g]."""

    count: int
    juice_ml: float = 0.0
    skin_g: float = 0.0
    skin_binned_g: float = 0.0


@action
def carry_out(
    member: Member,
    plan: CutPlan,
    row: str,
    gave: Gave,
    at: datetime | None = None,
) -> CutDone:
    """Records that a row of a plan is done, and takes its fruits off the case. The plan is done when all of its rows are.

    Raises Refusal for a row that the plan does not have, one that is done already, and yields that cannot be.
    """
    # Two tablets that tick one row: the lock makes the second one see the first one's.
    plan = locked_or_404(CutPlan.objects.filter(pk=plan.pk, house=member.house))
    rows = {item["row"]: item for item in plan.answer.get("cuts", [])}
    if row not in rows:
        raise Refusal(
            message("The plan has no such row"), "row", remedy=message("Look at the plan again: it was changed"), code="unknown_reference"
        )
    if plan.cuts.filter(row=row).exists():
        raise Refusal(message("That was carried out already"), "row", remedy=message("Nothing to do"), code="twice")
    case = locked_or_404(Case.objects.filter(pk=rows[row]["case"], house=member.house))
    check_cut(gave.count, gave.juice_ml, gave.skin_g, gave.skin_binned_g, case.fruit_g)
    done = CutDone.objects.create(
        case=case,
        plan=plan,
        row=row,
        way=rows[row]["way"],
        count=gave.count,
        juice_ml=gave.juice_ml,
        skin_g=gave.skin_g,
        skin_binned_g=gave.skin_binned_g,
        at=at or timezone.now(),
        by=member.person,
    )
    case.left -= gave.count
    case.save(update_fields=["left"])
    if plan.cuts.count() == len(rows):
        plan.done_at = done.at
        plan.save(update_fields=["done_at"])
    member.wrote("carry_out_cut", str(done), at=done.at, juice_ml=gave.juice_ml)
    return done
