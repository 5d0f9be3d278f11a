"""Cut plans of a house: its cases and demands through the planner, and back with ids of rows and the specs that could use a surplus."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.cut_plan import Fruit, Want, checked_count, naive_plan, pack_of
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.plan_answer import PlanProblem, cut_already, plan_answer, spread_of
from ulsek.core.citrus.plan_form import PlanAnswer
from ulsek.core.citrus.wanted import CitrusDemand, checked_amount, demand_of_spec, hours_until, taken
from ulsek.planners.cut_plan import cut_plan
from ulsek.specs.library import usage
from ulsek.specs.models import Version
from ulsek.specs.queries import version_evaluated
from ulsek.team.access import Member

from .models import CutPlan
from .queries import case_view, records, with_samples

_MOST_OFFERS = 4


def fruits_of(member: Member, chosen: Sequence[Mapping[str, Any]], done: CutPlan | None = None) -> list[Fruit]:
    """Returns the fruit that may be used, each with its yields by the estimate of its case; what `done` has cut comes first, as it is. Raises Refusal for a
    case that does not exist.
    """
    cases = {str(case.pk): case for case in with_samples(member.house).filter(gone_at=None)}
    found = list(_cut_already(done)) if done is not None else []
    record = records(member.house, {case.fruit for case in cases.values()})
    for n, item in enumerate(chosen):
        case = cases.get(str(item["case"]))
        if case is None:
            raise Refusal(message("That case is not here"), f"cases/{n}", remedy=message("Count it in first"), code="unknown_reference")
        view = case_view(case, record)
        found.append(
            Fruit(
                str(case.pk),
                f"{view.name}, {case.supplier}",
                case.fruit,
                checked_count(item.get("count"), case.left, f"cases/{n}/count"),
                case.fruit_g,
                view.each.juice_ml.value,
                view.each.zest_g,
                view.each.peel_g,
                density=variety(case.fruit).density,
                price=case.fruit_price,
                spread=spread_of({"juice": view.each.juice_ml, "zest": view.each.zest_range, "peel": view.each.peel_range}),
            )
        )
    return found


def _cut_already(plan: CutPlan) -> Iterable[Fruit]:
    for cut in plan.cuts.select_related("case"):
        yield from cut_already(str(cut.pk), variety(cut.case.fruit), cut.way, cut.juice_ml, cut.skin_g - cut.skin_binned_g)


def packs_of(member: Member, wants: Sequence[Want]) -> list[Fruit]:
    """Returns a pack to order of each fruit that is wanted: like the house's last case of it, else of the usual size without a price."""
    found = []
    wanted = list(dict.fromkeys(fruit for want in wants for fruit in want.fruits))
    record = records(member.house, wanted)
    for key in wanted:
        last = with_samples(member.house).filter(fruit=key).first()
        if last is None:
            found.append(pack_of(variety(key)))
            continue
        each = case_view(last, record).each
        found.append(
            Fruit(
                f"order {key}",
                f"{variety(key).name}, {last.supplier}",
                key,
                0,
                last.fruit_g,
                each.juice_ml.value,
                each.zest_g,
                each.peel_g,
                density=variety(key).density,
                price=last.fruit_price,
                pack=last.count,
            )
        )
    return found


def wants_of(member: Member, asked: Sequence[Mapping[str, Any]], now: datetime) -> list[Want]:
    """Returns the demands as kinds and amounts. Raises Refusal, at its place, for what is unknown or already too late."""
    found = []
    for n, item in enumerate(asked):
        where = f"wants/{n}"
        by = datetime.fromisoformat(str(item["by"]))
        if by.tzinfo is None:
            # As it stands on the house's own clock.
            by = by.replace(tzinfo=member.zone)
        hours = hours_until((by - now) / timedelta(hours=1), f"{where}/by")
        fruits = [str(key) for key in item.get("fruits") or ()]
        for key in fruits:
            variety(key, f"{where}/fruits")
        name = free_text(item.get("name"), f"{where}/name", 60)
        takes = _taken(member, item, fruits, where)
        found.append(Want(f"{n}", name or takes.called, takes.takes, takes.fruits, hours, bool(item.get("day_old"))))
    return found


def _taken(member: Member, item: Mapping[str, Any], fruits: list[str], where: str) -> CitrusDemand:
    amount = checked_amount(float(item.get("amount") or 0.0), f"{where}/amount")
    if item["what"] != "spec":
        times = item.get("times")
        return taken(str(item["what"]), fruits, amount, None if times is None else float(times), where)
    spec = str(item.get("spec"))
    version = Version.objects.filter(spec__house=member.house, spec_id=spec).order_by("-number").first() if _is_id(spec) else None
    if version is None:
        raise Refusal(
            message("That spec is not published here"),
            f"{where}/spec",
            remedy=message("Publish it first, or ask for its juice"),
            code="unknown_reference",
        )
    return demand_of_spec(version_evaluated(version).flow, version.spec.name, amount, f"{where}/spec")


def _is_id(text: str) -> bool:
    try:
        UUID(text)
    except ValueError:
        return False
    return True


def planned(
    member: Member,
    cases: Sequence[Mapping[str, Any]],
    wants: Sequence[Mapping[str, Any]],
    now: datetime,
    *,
    done: CutPlan | None = None,
    order: bool = False,
) -> PlanAnswer:
    """Returns a plan in the form that is shown and stored; `order` counts the packs to order."""
    wanted = wants_of(member, wants, now)
    fruits = fruits_of(member, cases, done)
    if order:
        fruits += packs_of(member, wanted)
    kept = [] if done is None else [row for row in done.answer.get("cuts", []) if done.cuts.filter(row=row["row"]).exists()]
    asked = PlanProblem(cut_plan(fruits, wanted), naive_plan(fruits, wanted), wanted, fruits, now)
    return plan_answer(
        asked, kept=kept, row_id=lambda: uuid4().hex[:12], offers=lambda material: usage(member.house, material)[:_MOST_OFFERS]
    )
