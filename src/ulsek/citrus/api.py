"""Citrus over HTTP."""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

from django.db.models import Q
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Query, Router, Status

from ulsek.core.base.answer import OpenForm, fields_of, stored_json
from ulsek.core.base.vocabulary import plain
from ulsek.core.citrus.fruit import varieties, variety
from ulsek.core.citrus.oleo_saccharum import draw_plateau, learned_plateau, oil_sugar
from ulsek.core.citrus.plan_answer import bins_of
from ulsek.core.citrus.plan_form import PlanAnswer
from ulsek.core.citrus.storage import StorageForm, keeps
from ulsek.core.citrus.yields import RECORD, FruitMeasurement
from ulsek.core.safety.house_rules import read_rules
from ulsek.planners.trial import paired
from ulsek.specs.schemas import SavedDraft
from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of

from .actions.keep_trial import SpentJar, keep_trial, weigh_packed_peel, weigh_spent_peel
from .actions.measure_fruit import measure_fruit, set_sample_aside
from .actions.plan_cuts import Gave, carry_out, save_plan
from .actions.receive_case import NewCase, receive_case
from .desks import desk
from .models import Case, CutPlan, FruitSample, PeelMeasure, SpentPeel, YieldTrial
from .plan_schemas import CutIn, PlanIn, PlanOut, PlanQuery
from .planning import planned
from .queries import RecordPoint, case_view, ledger, records, variety_rows, with_samples
from .schemas import (
    AsideIn,
    CaseIn,
    CaseOut,
    CaseQuery,
    DeskIn,
    DeskOut,
    FruitSampleIn,
    LedgerRow,
    OilSugarIn,
    OilSugarOut,
    PackedIn,
    SpentIn,
    StretchIn,
    StretchOut,
    TrialIn,
    TrialOut,
    VarietyOut,
)
from .stretching import start_stretched, stretched

router = Router(tags=["citrus"])
_JARS = 12


def _case(member: Member, case_id: UUID) -> Case:
    return get_object_or_404(with_samples(member.house), pk=case_id)


def _view(member: Member, case_id: UUID) -> CaseOut:
    case = _case(member, case_id)
    return case_view(case, records(member.house, [case.fruit]))


@router.get("/citrus/varieties", response=answers(tuple[VarietyOut, ...]))
def all_varieties(request: HttpRequest) -> list[VarietyOut]:
    """Every citrus, the house's own first: its point on the plate, and the yields of one fruit."""
    return variety_rows(member_of(request).house)


def _named(find: str, *fields: str) -> Q:
    """Returns the condition that a search names the fruit of a row, or stands in the named columns."""
    if not (wanted := plain(find)):
        return Q()
    return holding(find, *fields) | Q(fruit__in=[key for key, of in varieties().items() if wanted in plain(of.name)])


@router.get("/citrus/cases", response=answers(Slice[CaseOut]))
def cases(request: HttpRequest, asked: Query[CaseQuery]) -> Slice[CaseOut]:
    """Returns cases of citrus, newest first."""
    house = member_of(request).house
    some_left = Q(gone_at=None, left__gt=0)
    matching = _named(asked.find, "supplier", "size") & (some_left if asked.state == "open" else ~some_left)
    shown = slice_of(with_samples(house).filter(matching), ("-came_at", "supplier", "size", "pk"), asked)
    record = records(house, {case.fruit for case in shown.items})
    return shown.each(lambda case: case_view(case, record))


@router.post("/citrus/cases", response={201: answers(CaseOut)})
def receive(request: HttpRequest, payload: CaseIn) -> Status[CaseOut]:
    """Receives a case, counted and weighed."""
    member = member_of(request)
    return Status(201, _view(member, receive_case(member, payload.fruit, NewCase(**payload.dict(exclude={"fruit"}))).pk))


@router.post("/citrus/cases/{case_id}/samples", response={201: answers(CaseOut)})
def measure(request: HttpRequest, case_id: UUID, payload: FruitSampleIn) -> Status[CaseOut]:
    """Some of its fruits were measured."""
    member = member_of(request)
    measure_fruit(member, _case(member, case_id), FruitMeasurement(**payload.dict()))
    return Status(201, _view(member, case_id))


@router.post("/citrus/cases/{case_id}/samples/{sample_id}/aside", response=answers(CaseOut))
def aside(request: HttpRequest, case_id: UUID, sample_id: int, payload: AsideIn) -> CaseOut:
    """Marks a measurement as an error: it is kept and does not count."""
    member = member_of(request)
    set_sample_aside(member, get_object_or_404(FruitSample, pk=sample_id, case=_case(member, case_id)), payload.why)
    return _view(member, case_id)


@router.get("/citrus/record/{fruit}", response=answers(tuple[RecordPoint, ...]))
def own_record(request: HttpRequest, fruit: str) -> Sequence[RecordPoint]:
    """The yields of this house's last cases of a fruit."""
    return records(member_of(request).house, [fruit])[fruit][:RECORD]


@router.post("/citrus/plan", response=answers(PlanAnswer))
def try_plan(request: HttpRequest, payload: PlanIn) -> PlanAnswer:
    """A cut plan that is not stored; `order` counts what must be ordered."""
    asked = payload.dict()
    return planned(member_of(request), asked["cases"], asked["wants"], timezone.now(), order=payload.order)


def _answer_of(plan: CutPlan) -> OpenForm:
    """Returns the stored answer; of one from before waste was stored, as it was shown then."""
    answer: OpenForm = plan.answer
    if "bins" in answer:
        return answer
    sources = ((item["case"], item["grams"]) for item in plan.answer["sources"])
    used = ((item["case"], item["grams"]) for item in (*plan.answer["shares"], *plan.answer["over"]))
    return {**answer, "bins": stored_json(bins_of(sources, used))}


def _plan_view(plan: CutPlan) -> PlanOut:
    return PlanOut(
        id=plan.pk,
        name=plan.name,
        cases=tuple(plan.cases),
        wants=tuple(plan.wants),
        answer=_answer_of(plan),
        made_at=plan.made_at,
        made_by=str(plan.made_by),
        done_at=plan.done_at,
        done_rows=tuple(plan.cuts.values_list("row", flat=True)),
    )


@router.get("/citrus/plans", response=answers(Slice[PlanOut]))
def plans(request: HttpRequest, asked: Query[PlanQuery]) -> Slice[PlanOut]:
    """Returns cut plans: the open ones, then those carried out, newest first."""
    found = CutPlan.objects.filter(holding(asked.find, "name"), house=member_of(request).house).select_related("made_by")
    if asked.state:
        found = found.filter(done_at__isnull=asked.state == "open")
    carried_out = found.annotate(is_done=Q(done_at__isnull=False))
    return slice_of(carried_out, ("is_done", "-done_at", "-made_at", "pk"), asked).each(_plan_view)


@router.post("/citrus/plans", response={201: answers(PlanOut)})
def keep_plan(request: HttpRequest, payload: PlanIn) -> Status[PlanOut]:
    """Computes and stores a cut plan."""
    asked = payload.model_dump(mode="json")
    return Status(201, _plan_view(save_plan(member_of(request), payload.name, asked["cases"], asked["wants"])))


@router.put("/citrus/plans/{plan_id}", response=answers(PlanOut))
def replan(request: HttpRequest, plan_id: UUID, payload: PlanIn) -> PlanOut:
    """Computes a plan again after a change, around what is cut already."""
    member, asked = member_of(request), payload.model_dump(mode="json")
    plan = get_object_or_404(CutPlan, pk=plan_id, house=member.house)
    return _plan_view(save_plan(member, payload.name, asked["cases"], asked["wants"], plan=plan))


@router.post("/citrus/plans/{plan_id}/cuts", response=answers(PlanOut))
def cut(request: HttpRequest, plan_id: UUID, payload: CutIn) -> PlanOut:
    """Records that a row of a plan is done."""
    member = member_of(request)
    gave = Gave(**payload.dict(exclude={"row"}))
    carry_out(member, get_object_or_404(CutPlan, pk=plan_id, house=member.house), payload.row, gave)
    return _plan_view(get_object_or_404(CutPlan, pk=plan_id, house=member.house))


@router.post("/citrus/stretch", response=answers(StretchOut))
def stretch_it(request: HttpRequest, payload: StretchIn) -> StretchOut:
    """A juice at several times its volume, compared with fresh juice."""
    return stretched(member_of(request), payload.fruit, payload.inputs(), payload.case)


@router.post("/citrus/stretch/spec", response={201: answers(SavedDraft)})
def stretch_as_spec(request: HttpRequest, payload: StretchIn) -> Status[SavedDraft]:
    """Starts a spec of a stretched juice, for staff to make."""
    spec = start_stretched(member_of(request), payload.fruit, payload.inputs(), payload.case)
    return Status(201, SavedDraft(spec.pk, 1))


@router.post("/citrus/oil-sugar", response=answers(OilSugarOut))
def skins(request: HttpRequest, payload: OilSugarIn) -> OilSugarOut:
    """Sugar on peel, by mass or by packed volume."""
    member, of = member_of(request), variety(payload.fruit)
    packed = PeelMeasure.objects.filter(house=member.house, fruit=of.key).order_by("-at").first()
    jars = SpentPeel.objects.filter(house=member.house, fruit=of.key).order_by("-at")[:_JARS]
    seen = [draw_plateau(jar.peel_g, jar.spent_g, jar.hours, jar.warm_c) for jar in jars]
    made = oil_sugar(of, payload.inputs(), packed.grams / packed.ml if packed else None, learned_plateau(seen))
    return OilSugarOut(**fields_of(made), jars=len(seen))


@router.post("/citrus/spent-peel", response={201: None})
def spent_peel(request: HttpRequest, payload: SpentIn) -> Status[None]:
    """Stores the mass of a jar's peel after the sugar."""
    weigh_spent_peel(member_of(request), payload.fruit, SpentJar(**payload.dict(exclude={"fruit"})))
    return Status(201, None)


@router.post("/citrus/packed-peel", response={201: None})
def packed_peel(request: HttpRequest, payload: PackedIn) -> Status[None]:
    """Stores the mass of a measure packed with peel."""
    weigh_packed_peel(member_of(request), **payload.dict())
    return Status(201, None)


@router.get("/citrus/keeps", response=answers(tuple[StorageForm, ...]))
def how_long(request: HttpRequest) -> list[StorageForm]:
    """How long a juice keeps in each form: quality apart from safety."""
    return list(keeps(read_rules(member_of(request).house.rules).keeping))


def _trial_view(trial: YieldTrial) -> TrialOut:
    first, second = ([float(pair[n]) for pair in trial.pairs] for n in (0, 1))
    return TrialOut(
        id=trial.pk,
        fruit=trial.fruit,
        name=varieties()[trial.fruit].name,
        first=trial.first,
        second=trial.second,
        pairs=tuple(zip(first, second, strict=True)),
        at=trial.at,
        by=str(trial.by),
        verdict=paired(first, second, (trial.first, trial.second), "mL/kg"),
    )


@router.get("/citrus/trials", response=answers(Slice[TrialOut]))
def trials(request: HttpRequest, asked: Query[ListQuery]) -> Slice[TrialOut]:
    """Returns yield trials, newest first, each with its verdict."""
    found = YieldTrial.objects.filter(_named(asked.find, "first", "second"), house=member_of(request).house).select_related("by")
    return slice_of(found, ("-at", "first", "pk"), asked).each(_trial_view)


@router.post("/citrus/trials", response={201: answers(TrialOut)})
def new_trial(request: HttpRequest, payload: TrialIn) -> Status[TrialOut]:
    """Stores a trial of two ways."""
    return Status(201, _trial_view(keep_trial(member_of(request), **payload.dict())))


@router.get("/citrus/ledger", response=answers(tuple[LedgerRow, ...]))
def the_ledger(request: HttpRequest) -> list[LedgerRow]:
    """Litres from kilograms, skin used and thrown away, money: by week and fruit."""
    return ledger(member_of(request), timezone.now())


@router.post("/desk", response=answers(DeskOut))
def a_desk(request: HttpRequest, payload: DeskIn) -> DeskOut:
    """Ways to clear a juice, or to concentrate it, ranked."""
    return desk(member_of(request).house, payload)
