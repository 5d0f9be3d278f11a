"""Citrus over HTTP."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import F
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router, Status

from ulsek.core.citrus.fruit import varieties, variety
from ulsek.core.citrus.oleo_saccharum import learned_draw, oil_sugar, taught_draw
from ulsek.core.citrus.storage import keeps
from ulsek.core.citrus.yields import Seen
from ulsek.core.safety.house_rules import read_rules
from ulsek.planners.trial import paired
from ulsek.specs.schemas import SavedDraft
from ulsek.team.access import Member, member_of

from .actions.keep_trial import keep_trial, weigh_packed_peel, weigh_spent_peel
from .actions.measure_fruit import measure_fruit, set_sample_aside
from .actions.plan_cuts import carry_out, save_plan
from .actions.receive_case import receive_case
from .desks import desk
from .models import Case, CutPlan, FruitSample, PeelMeasure, SpentPeel, YieldTrial
from .planning import planned
from .queries import RECORD, case_view, ledger, records, variety_rows, with_samples
from .schemas import (
    AsideIn,
    CaseIn,
    CaseOut,
    CutIn,
    DeskIn,
    DeskOut,
    FruitSampleIn,
    KeepsOut,
    LedgerRow,
    OilSugarIn,
    OilSugarOut,
    PackedIn,
    PlanAnswer,
    PlanIn,
    PlanOut,
    RecordPoint,
    SpentIn,
    StretchIn,
    StretchOut,
    TrialIn,
    TrialOut,
    VarietyOut,
)
from .stretching import Asked as Stretch
from .stretching import start_stretched, stretched

router = Router(tags=["citrus"])
_SHOWN = 60
_JARS = 12


def _case(member: Member, case_id: UUID) -> Case:
    return get_object_or_404(with_samples(member.house), pk=case_id)


def _view(member: Member, case_id: UUID) -> dict[str, Any]:
    case = _case(member, case_id)
    return case_view(case, records(member.house, [case.fruit]))


@router.get("/citrus/varieties", response=list[VarietyOut])
def all_varieties(request: HttpRequest) -> list[dict[str, Any]]:
    """Every citrus, the house's own first: where it stands on the plate, what one fruit gives."""
    return variety_rows(member_of(request).house)


@router.get("/citrus/cases", response=list[CaseOut])
def cases(request: HttpRequest) -> list[dict[str, Any]]:
    """The cases with fruit left in them, newest first."""
    house = member_of(request).house
    found = with_samples(house).filter(gone_at=None, left__gt=0)[:_SHOWN]
    record = records(house, {case.fruit for case in found})
    return [case_view(case, record) for case in found]


@router.post("/citrus/cases", response={201: CaseOut})
def receive(request: HttpRequest, payload: CaseIn) -> Status[dict[str, Any]]:
    """A case comes in: counted and weighed."""
    member = member_of(request)
    return Status(201, _view(member, receive_case(member, **payload.dict()).pk))


@router.post("/citrus/cases/{case_id}/samples", response={201: CaseOut})
def measure(request: HttpRequest, case_id: UUID, payload: FruitSampleIn) -> Status[dict[str, Any]]:
    """Some of its fruits were measured."""
    member = member_of(request)
    measure_fruit(member, _case(member, case_id), Seen(**payload.dict()))
    return Status(201, _view(member, case_id))


@router.post("/citrus/cases/{case_id}/samples/{sample_id}/aside", response=CaseOut)
def aside(request: HttpRequest, case_id: UUID, sample_id: int, payload: AsideIn) -> dict[str, Any]:
    """A measurement was a slip: it is kept and counts no more."""
    member = member_of(request)
    set_sample_aside(member, get_object_or_404(FruitSample, pk=sample_id, case=_case(member, case_id)), payload.why)
    return _view(member, case_id)


@router.get("/citrus/record/{fruit}", response=list[RecordPoint])
def own_record(request: HttpRequest, fruit: str) -> Any:
    """What this house's last cases of a fruit gave."""
    return records(member_of(request).house, [fruit])[fruit][:RECORD]


@router.post("/citrus/plan", response=PlanAnswer)
def try_plan(request: HttpRequest, payload: PlanIn) -> dict[str, Any]:
    """A cut plan worked out and not kept; `order` counts what must come in besides."""
    asked = payload.dict()
    return planned(member_of(request), asked["cases"], asked["wants"], timezone.now(), order=payload.order)


def _plan_view(plan: CutPlan) -> dict[str, Any]:
    fields = ("id", "name", "cases", "wants", "answer", "made_at", "done_at")
    done = list(plan.cuts.values_list("row", flat=True))
    return {**{name: getattr(plan, name) for name in fields}, "made_by": str(plan.made_by), "done_rows": done}


@router.get("/citrus/plans", response=list[PlanOut])
def plans(request: HttpRequest) -> list[dict[str, Any]]:
    """Open plans, then those carried out, newest first."""
    found = (
        CutPlan.objects.filter(house=member_of(request).house)
        .select_related("made_by")
        .order_by(F("done_at").desc(nulls_first=True), "-made_at")
    )
    return [_plan_view(plan) for plan in found[:20]]


@router.post("/citrus/plans", response={201: PlanOut})
def keep_plan(request: HttpRequest, payload: PlanIn) -> Status[dict[str, Any]]:
    """A cut plan worked out and kept."""
    asked = payload.model_dump(mode="json")
    return Status(201, _plan_view(save_plan(member_of(request), payload.name, asked["cases"], asked["wants"])))


@router.put("/citrus/plans/{plan_id}", response=PlanOut)
def replan(request: HttpRequest, plan_id: UUID, payload: PlanIn) -> dict[str, Any]:
    """The same plan with something edited: worked out anew around what is cut already."""
    member, asked = member_of(request), payload.model_dump(mode="json")
    plan = get_object_or_404(CutPlan, pk=plan_id, house=member.house)
    return _plan_view(save_plan(member, payload.name, asked["cases"], asked["wants"], plan=plan))


@router.post("/citrus/plans/{plan_id}/cuts", response=PlanOut)
def cut(request: HttpRequest, plan_id: UUID, payload: CutIn) -> dict[str, Any]:
    """A row of the plan is done."""
    member = member_of(request)
    carry_out(member, get_object_or_404(CutPlan, pk=plan_id, house=member.house), **payload.dict())
    return _plan_view(get_object_or_404(CutPlan, pk=plan_id, house=member.house))


@router.post("/citrus/stretch", response=StretchOut)
def stretch_it(request: HttpRequest, payload: StretchIn) -> dict[str, Any]:
    """A citrus to so many times its juice, beside fresh."""
    return stretched(member_of(request), Stretch(**payload.dict()))


@router.post("/citrus/stretch/spec", response={201: SavedDraft})
def stretch_as_spec(request: HttpRequest, payload: StretchIn) -> Status[dict[str, Any]]:
    """The stretch as the draft of a spec, for staff to make."""
    spec = start_stretched(member_of(request), Stretch(**payload.dict()))
    return Status(201, {"spec": spec.pk, "revision": 1})


@router.post("/citrus/oil-sugar", response=OilSugarOut)
def skins(request: HttpRequest, payload: OilSugarIn) -> dict[str, Any]:
    """Sugar on weighed peel: by weight, or by the measure that this house weighed once."""
    member, asked = member_of(request), payload.dict()
    of = variety(asked.pop("fruit"))
    packed = PeelMeasure.objects.filter(house=member.house, fruit=of.key).order_by("-at").first()
    jars = SpentPeel.objects.filter(house=member.house, fruit=of.key).order_by("-at")[:_JARS]
    seen = [taught_draw(jar.peel_g, jar.spent_g, jar.hours, jar.warm_c) for jar in jars]
    made = oil_sugar(of, **asked, peel_g_ml=packed.grams / packed.ml if packed else None, learned_g_g=learned_draw(seen))
    return {**made.as_data(), "jars": len(seen)}


@router.post("/citrus/spent-peel", response={201: None})
def spent_peel(request: HttpRequest, payload: SpentIn) -> Status[None]:
    """A jar's peel was weighed when it came out of the sugar."""
    weigh_spent_peel(member_of(request), **payload.dict())
    return Status(201, None)


@router.post("/citrus/packed-peel", response={201: None})
def packed_peel(request: HttpRequest, payload: PackedIn) -> Status[None]:
    """This house weighed a measure packed with peel."""
    weigh_packed_peel(member_of(request), **payload.dict())
    return Status(201, None)


@router.get("/citrus/keeps", response=list[KeepsOut])
def how_long(request: HttpRequest) -> list[dict[str, Any]]:
    """How long a juice keeps in each form: quality apart from safety."""
    return [item.as_data() for item in keeps(read_rules(member_of(request).house.rules).keeping)]


def _trial_view(trial: YieldTrial) -> dict[str, Any]:
    first, second = ([float(pair[n]) for pair in trial.pairs] for n in (0, 1))
    fields = ("id", "fruit", "first", "second", "pairs", "at")
    return {
        **{name: getattr(trial, name) for name in fields},
        "name": varieties()[trial.fruit].name,
        "by": str(trial.by),
        "verdict": paired(first, second, (trial.first, trial.second), "mL/kg").as_data(),
    }


@router.get("/citrus/trials", response=list[TrialOut])
def trials(request: HttpRequest) -> list[dict[str, Any]]:
    """Yield trials, newest first, each with what it can honestly say."""
    found = YieldTrial.objects.filter(house=member_of(request).house).select_related("by").order_by("-at", "first")
    return [_trial_view(trial) for trial in found[:_SHOWN]]


@router.post("/citrus/trials", response={201: TrialOut})
def new_trial(request: HttpRequest, payload: TrialIn) -> Status[dict[str, Any]]:
    """Two ways worked side by side."""
    return Status(201, _trial_view(keep_trial(member_of(request), **payload.dict())))


@router.get("/citrus/ledger", response=list[LedgerRow])
def the_ledger(request: HttpRequest) -> list[dict[str, Any]]:
    """Litres from kilograms, skin used and thrown, money: by week and fruit."""
    return ledger(member_of(request), timezone.now())


@router.post("/desk", response=DeskOut)
def a_desk(request: HttpRequest, payload: DeskIn) -> dict[str, Any]:
    """Ways to clear a juice in hand, or to make it stronger, ranked."""
    return desk(member_of(request).house, **payload.dict())
