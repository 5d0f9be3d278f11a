"""Specs and the workbench over HTTP."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Header, Router, Status

from ulsek.core.advice.corrections import REPAIR_MATERIALS, ToFlag, take_addition, to_the_flag
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.steps import parse_step
from ulsek.core.results.working import Working, working
from ulsek.core.spec.json_form import FORMAT, FORMAT_VERSION
from ulsek.core.spec.sentences import step_title
from ulsek.core.spec.verb_sheet import WordSheet, word_sheet
from ulsek.stores.queries import described
from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .actions.publish_spec import publish_spec
from .actions.save_draft import save_draft
from .actions.swap_draft import swap_draft
from .library_schemas import StepLineIn, StepLineOut, VersionOut
from .models import Draft, SideDraft, Version
from .queries import evaluated, house_pins, side_drafts, version_row, workbench_view
from .schemas import (
    DraftOut,
    EvaluateIn,
    FlagIn,
    Publish,
    SavedDraft,
    SavedOut,
    SaveIn,
    SpecForm,
    TakeIn,
    Workbench,
    WorkingIn,
)

router = Router(tags=["specs"])
IF_MATCH: Any = Header(..., alias="If-Match")  # type: ignore[type-arg]


@router.get("/specs/{spec_id}/draft", response=answers(DraftOut))
def draft(request: HttpRequest, spec_id: UUID) -> DraftOut:
    """The draft with its evaluation, and the other specs' points on the plate."""
    member = member_of(request)
    found = get_object_or_404(
        Draft.objects.select_related("spec__base", "spec__trial_of__spec", "saved_by"), spec=spec_id, spec__house=member.house
    )
    spec = found.spec
    newest = Version.objects.filter(spec=found.spec).order_by("-number").values_list("number", flat=True).first()
    evaluation, _ = evaluated(member.house, found.body, own=found.spec)
    return DraftOut(
        spec=found.spec_id,
        revision=found.revision,
        saved_at=found.saved_at,
        saved_by=found.saved_by.display_name,
        version=newest,
        state=spec.state,
        asks_questions=spec.asks_questions,
        trial_of=f"{spec.trial_of.spec.name}, version {spec.trial_of.number}" if spec.trial_of else "",
        base=spec.base.name if spec.base else "",
        body=found.body,
        beside=side_drafts(spec),
        result=workbench_view(evaluation, member.house, spec),
        pins=house_pins(member.house, evaluation.inputs.spec),
    )


def _revision(if_match: str) -> int:
    try:
        return int(if_match.strip('"'))
    except ValueError:
        raise Refusal(
            message("The save does not say which revision it was written from"),
            "If-Match",
            remedy=message("Reload the draft"),
            code="missing",
        ) from None


@router.put("/specs/{spec_id}/draft", response=answers(SavedOut))
def save(request: HttpRequest, response: HttpResponse, spec_id: UUID, payload: SaveIn, if_match: str = IF_MATCH) -> SavedOut:
    """Saves the draft as typed and answers with its evaluation. If-Match carries the revision that it was written from."""
    member = member_of(request)
    saved = save_draft(member, spec_id, payload.spec, _revision(if_match), payload.writer)
    evaluation, _ = evaluated(member.house, saved.body, own=saved.spec)
    response["ETag"] = f'"{saved.revision}"'
    return SavedOut(saved.revision, side_drafts(saved.spec), saved.saved_at, workbench_view(evaluation, member.house, saved.spec))


@router.delete("/side-drafts/{side_id}", response={204: None})
def settle_side_draft(request: HttpRequest, side_id: int) -> Status[None]:
    """Deletes a side draft."""
    member = member_of(request)
    side = get_object_or_404(SideDraft.objects.select_related("spec"), pk=side_id, spec__house=member.house)
    member.wrote("drop_side_draft", side.name, spec=side.spec.name)
    side.delete()
    return Status(204, None)


@router.post("/side-drafts/{side_id}/take", response=answers(SavedDraft))
def take_side_draft(request: HttpRequest, side_id: int, if_match: str = IF_MATCH) -> SavedDraft:
    """Makes a side draft the draft; the draft becomes a side draft."""
    draft = swap_draft(member_of(request), side_id, _revision(if_match))
    return SavedDraft(draft.spec_id, draft.revision)


@router.post("/specs/{spec_id}/publish", response={201: answers(VersionOut)})
def publish(request: HttpRequest, spec_id: UUID, payload: Publish) -> Status[VersionOut]:
    """Makes the next version from the draft."""
    version = publish_spec(member_of(request), spec_id, payload.revision, payload.why, critical=payload.critical)
    return Status(201, version_row(version))


@router.get("/words", response=answers(WordSheet))
def words(request: HttpRequest) -> WordSheet:
    """Families of ingredients, and the verbs of a step with their parameters, bounds and usual figures."""
    member_of(request)
    return word_sheet()


@router.post("/evaluate", response=answers(Workbench))
def evaluate_spec(request: HttpRequest, payload: EvaluateIn) -> Workbench:
    """A spec file evaluated with this house's materials; nothing is stored."""
    member = member_of(request)
    return workbench_view(evaluated(member.house, payload.spec)[0], member.house)


@router.post("/solve", response=answers(ToFlag))
def flag(request: HttpRequest, payload: FlagIn) -> ToFlag:
    """The fewest additions that bring the product to a point on the plate: water, and the sugars and acids of the spec."""
    member = member_of(request)
    evaluation, _ = evaluated(member.house, payload.spec, extra=REPAIR_MATERIALS)
    return to_the_flag(evaluation, payload.sugar_g_100ml, payload.acid_g_100ml)


@router.post("/take", response=answers(SpecForm))
def take(request: HttpRequest, payload: TakeIn) -> SpecForm:
    """The draft with one addition written into it; nothing is stored until it is saved."""
    member = member_of(request)
    evaluation, _ = evaluated(member.house, payload.spec, extra=(payload.material,))
    return SpecForm(take_addition(payload.spec, evaluation, payload.material, payload.mass_g))


@router.post("/working", response=answers(Working))
def show_working(request: HttpRequest, payload: WorkingIn) -> Working:
    """The working of one number."""
    member = member_of(request)
    evaluation, _ = evaluated(member.house, payload.spec)
    return working(evaluation, payload.step, payload.name)


@router.post("/step-line", response=answers(StepLineOut))
def step_line(request: HttpRequest, payload: StepLineIn) -> StepLineOut:
    """A step as typed, read with this house's materials: "steep birch tips 9 g 25 min 72 C". Nothing is stored."""
    house = member_of(request).house
    step = parse_step(payload.text, described(house))
    evaluation, _ = evaluated(house, {"format": FORMAT, "version": FORMAT_VERSION, "name": "", "steps": [{"id": "s", **step}]})
    return StepLineOut(step, step_title(evaluation.inputs.spec.steps[0], evaluation.inputs.materials))
