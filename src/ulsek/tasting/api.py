"""Panels over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Query, Router, Status
from ninja.errors import HttpError

from ulsek.core.tasting.beforehand import beforehand
from ulsek.core.tasting.design import LINES, PanelDesign, checked_design
from ulsek.core.tasting.methods import method_of, proposed
from ulsek.core.tasting.old_bottle import age_beforehand
from ulsek.core.tasting.serving import SampleContents, Serving, alcohol_ml, poured_words, pours
from ulsek.specs.schemas import SavedDraft
from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of

from .actions.answer_page import PaperSheet, type_sheet
from .actions.break_seal import break_seal
from .actions.decide import decide
from .actions.draft_next import draft_next
from .actions.open_panel import open_panel
from .actions.plan_panel import PanelPlan, drop_panel, plan_panel
from .actions.shorten_date import shorten_date
from .actions.take_seat import seat_again
from .ages import aged
from .models import Panel, PanelSample, PanelState
from .plans import WantedSample, found_samples
from .queries import about, panel_row, panel_view, panels_of, pouring, scored_row, scored_versions, tasted_specs
from .schemas import (
    AgainOut,
    BeforehandIn,
    BeforehandOut,
    BreakSealIn,
    DecisionIn,
    DesignIn,
    MethodOut,
    PanelIn,
    PanelOut,
    PanelQuery,
    PanelRow,
    PouringOut,
    SampleIn,
    ScoredVersion,
    ServingIn,
    SheetIn,
    ShorterDateIn,
    ShorterDateOut,
    TastedSpec,
)
from .sheets import sheets_pdf

router = Router(tags=["tasting"])
_ANY_SEED = "beforehand"


def _design(payload: DesignIn, samples: int, usual_line: float) -> PanelDesign:
    said = payload.dict(exclude={"line", "attributes"})
    line = usual_line if payload.line is None else payload.line
    return PanelDesign(**said, line=line, samples=samples, attributes=tuple(payload.attributes))


def _wanted(payload: SampleIn) -> WantedSample:
    return WantedSample(**payload.dict())


def _plan(payload: PanelIn) -> PanelPlan:
    aim = method_of(payload.design.method).aim
    design = _design(payload.design, len(payload.samples), LINES[aim].usual)
    return PanelPlan(payload.question, design, [_wanted(item) for item in payload.samples], _serving(payload.serving), payload.poured_by)


def _serving(payload: ServingIn) -> Serving:
    return Serving(**payload.dict())


def _view(member: Member, panel_id: UUID) -> PanelOut:
    return panel_view(get_object_or_404(panels_of(member.house), pk=panel_id), member, timezone.now())


@router.get("/panels", response=answers(Slice[PanelRow]))
def panels(request: HttpRequest, asked: Query[PanelQuery]) -> Slice[PanelRow]:
    """Returns panels, the newest first."""
    house = member_of(request).house
    found = about(panels_of(house).filter(holding(asked.find, "code", "question", "decision")), spec=asked.spec, lot=asked.lot)
    if asked.state:
        found = found.filter(state=asked.state)
    shown = slice_of(found.defer("results"), ("-made_at", "id"), asked)
    if asked.spec is None:
        return shown.each(panel_row)
    tasted = PanelSample.objects.filter(panel__in=[item.pk for item in shown.items], version__spec=asked.spec)
    numbers: dict[UUID, list[int]] = {}
    for panel, number in tasted.values_list("panel", "version__number"):
        numbers.setdefault(panel, []).append(number)
    return shown.each(lambda item: panel_row(item, sorted(set(numbers.get(item.pk, ())))))


@router.post("/panels", response={201: answers(PanelOut)})
def plan(request: HttpRequest, payload: PanelIn) -> Status[PanelOut]:
    """Plans a panel."""
    member = member_of(request)
    return Status(201, _view(member, plan_panel(member, _plan(payload)).pk))


@router.post("/panels/beforehand", response=answers(BeforehandOut))
def look_ahead(request: HttpRequest, payload: BeforehandIn) -> BeforehandOut:
    """What a panel can show, the methods that fit, and what is poured; nothing is stored."""
    from ulsek.planners.tasting.expectations import expected

    house, now = member_of(request).house, timezone.now()
    found = found_samples(house, [_wanted(item) for item in payload.samples], now)
    count = max(payload.count, len(found))
    methods = proposed(payload.aim, count)
    chosen = next((item for item in methods if item.key == payload.design.method), methods[0])
    usual = LINES[payload.aim]
    design = checked_design(_design(payload.design.model_copy(update={"method": chosen.key}), count, usual.usual))
    contents = [SampleContents(item.name, **item.contents) for item in found]
    serving = _serving(payload.serving)
    contents += [SampleContents("", abv=0.0)] * (count - len(contents))
    told = beforehand(design, expected(design))
    dosed = pours(contents, serving) if serving.drink and len(found) == count else None
    spirit = alcohol_ml(design, contents, serving if dosed else Serving(), _ANY_SEED)
    return BeforehandOut(
        sentences=tuple(filter(None, (*told.sentences, age_beforehand(aged(house, found, now))))),
        reaches_line=told.reaches_line,
        methods=tuple(MethodOut(key=item.key, name=item.name, why=item.why, glasses=item.glasses(count)) for item in methods),
        poured=poured_words(design, spirit),
        pours=dosed,
        line=usual,
    )


@router.get("/panels/newest", response=answers(tuple[TastedSpec, ...]))
def newest(request: HttpRequest) -> list[TastedSpec]:
    """Returns for each spec that was tasted the newest panel that is told."""
    return tasted_specs(member_of(request).house)


@router.get("/panels/openly", response=answers(Slice[ScoredVersion]))
def scored_openly(request: HttpRequest, asked: Query[ListQuery]) -> Slice[ScoredVersion]:
    """Returns the versions that tasters scored who knew what they drank, the newest score first; `find` looks at the spec's name."""
    found = scored_versions(member_of(request).house).filter(holding(asked.find, "spec__name"))
    return slice_of(found, ("-scored_at", "id"), asked).each(scored_row)


@router.get("/panels/{panel_id}", response=answers(PanelOut))
def panel(request: HttpRequest, panel_id: UUID) -> PanelOut:
    """Returns a panel: once its seal is broken with its verdict, before that without what is in which glass."""
    return _view(member_of(request), panel_id)


@router.put("/panels/{panel_id}", response=answers(PanelOut))
def change(request: HttpRequest, panel_id: UUID, payload: PanelIn) -> PanelOut:
    """Changes a panel that is planned only."""
    member = member_of(request)
    return _view(member, plan_panel(member, _plan(payload), panel_id).pk)


@router.delete("/panels/{panel_id}", response={204: None})
def drop(request: HttpRequest, panel_id: UUID) -> Status[None]:
    """Drops a panel that is planned only."""
    drop_panel(member_of(request), panel_id)
    return Status(204, None)


@router.post("/panels/{panel_id}/open", response=answers(PanelOut))
def put_seal_on(request: HttpRequest, panel_id: UUID) -> PanelOut:
    """Opens a panel: the seal is on until the last answer."""
    member = member_of(request)
    return _view(member, open_panel(member, panel_id).pk)


def _poured_by(member: Member, panel_id: UUID) -> Panel:
    """Returns an open panel that this member pours. Raises HttpError 403 for anybody else, also a lead, and whoever tastes."""
    found = get_object_or_404(panels_of(member.house), pk=panel_id)
    tastes = found.seats.filter(person=member.person).exists()
    if found.state != PanelState.OPEN or found.poured_by_id != member.person.pk or tastes:
        raise HttpError(403, "The key is for who pours, and for nobody who tastes. It is told to all when the seal is broken.")
    return found


@router.get("/panels/{panel_id}/pouring", response=answers(PouringOut))
def pouring_sheet(request: HttpRequest, panel_id: UUID) -> PouringOut:
    """The key, for who pours: which code stands on which glass, and what is in it."""
    return pouring(_poured_by(member_of(request), panel_id))


@router.get("/panels/{panel_id}/sheets.pdf")
def paper_sheets(request: HttpRequest, panel_id: UUID) -> HttpResponse:
    """Sheets of paper for tasters without a phone, one for each seat. They name codes only."""
    found = get_object_or_404(panels_of(member_of(request).house), pk=panel_id, state=PanelState.OPEN)
    answer = HttpResponse(sheets_pdf(found), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{found.code}.pdf"'
    return answer


@router.post("/panels/{panel_id}/sheets", response=answers(PanelOut))
def type_in(request: HttpRequest, panel_id: UUID, payload: SheetIn) -> PanelOut:
    """Stores the answers that a taster wrote on paper, and returns the panel. Refused at their place: a seat of somebody else, answers that do not fit."""
    member = member_of(request)
    return _view(
        member,
        type_sheet(
            member, panel_id, PaperSheet(payload.number, payload.name, {turn: answer.given() for turn, answer in payload.answers.items()})
        ).pk,
    )


@router.post("/panels/{panel_id}/seats/{number}/again", response=answers(AgainOut))
def another_phone(request: HttpRequest, panel_id: UUID, number: int) -> AgainOut:
    """Returns a code with which a taster goes on from another phone, once."""
    return AgainOut(code=seat_again(member_of(request), panel_id, number))


@router.post("/panels/{panel_id}/seal", response=answers(PanelOut))
def break_it(request: HttpRequest, panel_id: UUID, payload: BreakSealIn) -> PanelOut:
    """Breaks the seal before the last answer, with a reason."""
    member = member_of(request)
    return _view(member, break_seal(member, panel_id, payload.why).pk)


@router.put("/panels/{panel_id}/decision", response=answers(PanelOut))
def write_decision(request: HttpRequest, panel_id: UUID, payload: DecisionIn) -> PanelOut:
    """Writes down what was decided, and why."""
    member = member_of(request)
    return _view(member, decide(member, panel_id, payload.decision, payload.why).pk)


@router.post("/panels/{panel_id}/shorter-date", response=answers(ShorterDateOut))
def set_shorter_date(request: HttpRequest, panel_id: UUID, payload: ShorterDateIn) -> ShorterDateOut:
    """Shortens the quality date of the spec of an old bottle by what the panel showed; never a safety date, and never longer."""
    return ShorterDateOut(lots=tuple(shorten_date(member_of(request), panel_id, payload.days, payload.why)))


@router.post("/panels/{panel_id}/next-trial", response={201: answers(SavedDraft)})
def next_trial(request: HttpRequest, panel_id: UUID) -> Status[SavedDraft]:
    """Drafts the trial that the panel found worth making next."""
    return Status(201, SavedDraft(draft_next(member_of(request), panel_id).pk, 1))
