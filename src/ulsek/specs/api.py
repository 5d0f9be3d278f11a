"""Specs and the workbench over HTTP."""

from __future__ import annotations

import logging
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Header, Router, Status

from ulsek.computing.core_digest import core_digest
from ulsek.core.advice.corrections import ToFlag
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.browser.bundle import HouseBundle
from ulsek.core.results.working import Working
from ulsek.core.spec.verb_sheet import WordSheet, word_sheet
from ulsek.core.workbench.answer import PlainFlow, Workbench
from ulsek.core.workbench.doubts import OpenQuestion, ReadDraft, draft_answered, draft_questions, read_draft
from ulsek.core.workbench.questions import SpecForm, StepLine, draft_to_flag, draft_with_addition, draft_working, read_step_line
from ulsek.stores.house import StoredHouse, bundle_tag, house_bundle
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.models import House

from .actions.publish_spec import publish_spec
from .actions.save_draft import save_draft
from .actions.swap_draft import swap_draft
from .drafts import draft_answer
from .library_schemas import AnswerIn, StepLineIn, VersionOut
from .models import Draft, SideDraft, Version
from .queries import house_pins, makers_above, side_drafts, version_row
from .schemas import (
    Basis,
    DraftOut,
    EvaluateIn,
    FlagIn,
    Publish,
    SavedDraft,
    SavedOut,
    SaveIn,
    TakeIn,
    WorkingIn,
)

router = Router(tags=["specs"])
log = logging.getLogger("ulsek.core")
# No endpoint answers with it: the browser's own core does, and takes its type from here.
answers(PlainFlow)
IF_MATCH: Any = Header(..., alias="If-Match")  # type: ignore[type-arg]
IF_NONE_MATCH: Any = Header("", alias="If-None-Match")  # type: ignore[type-arg]


@router.get("/specs/{spec_id}/draft", response=answers(DraftOut))
def draft(request: HttpRequest, spec_id: UUID) -> DraftOut:
    """The draft with its evaluation, and the other specs' points on the plate."""
    member = member_of(request)
    found = get_object_or_404(
        Draft.objects.select_related("spec__base", "spec__trial_of__spec", "saved_by"), spec=spec_id, spec__house=member.house
    )
    spec = found.spec
    newest = Version.objects.filter(spec=found.spec).order_by("-number").values_list("number", flat=True).first()
    result, read = draft_answer(member.house, found.body, spec)
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
        result=result,
        basis=_basis(member.house),
        made_with_it=tuple(makers_above(spec)),
        pins=house_pins(member.house, read),
    )


def _basis(house: House) -> Basis:
    return Basis(core_digest(), bundle_tag(house))


@router.get("/house-bundle", response={200: answers(HouseBundle), 304: None})
def bundle(request: HttpRequest, response: HttpResponse, if_none_match: str = IF_NONE_MATCH) -> HouseBundle | Status[None]:
    """What a browser needs to evaluate the house's drafts by itself. Its tag is the `bundle` of a draft's basis."""
    house = member_of(request).house
    tag = f'"{bundle_tag(house)}"'
    response["ETag"] = tag
    return Status(304, None) if if_none_match == tag else house_bundle(house)


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
    if payload.differed:
        # Quoted: what a browser sends must not begin a line of the log.
        log.warning("spec %s: the browser's core differs: %r", spec_id, payload.differed)
    saved = save_draft(member, spec_id, payload.spec, _revision(if_match), payload.writer)
    response["ETag"] = f'"{saved.revision}"'
    return SavedOut(
        revision=saved.revision,
        beside=side_drafts(saved.spec),
        saved_at=saved.saved_at,
        result=draft_answer(member.house, saved.body, saved.spec)[0],
        basis=_basis(member.house),
        made_with_it=tuple(makers_above(saved.spec)),
    )


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
    return draft_answer(member.house, payload.spec)[0]


@router.post("/solve", response=answers(ToFlag))
def flag(request: HttpRequest, payload: FlagIn) -> ToFlag:
    """The fewest additions that bring the product to a point on the plate: water, and the sugars and acids of the spec."""
    return draft_to_flag(StoredHouse(member_of(request).house), payload.spec, payload.sugar_g_100ml, payload.acid_g_100ml)


@router.post("/take", response=answers(SpecForm))
def take(request: HttpRequest, payload: TakeIn) -> SpecForm:
    """The draft with one addition written into it; nothing is stored until it is saved."""
    return draft_with_addition(StoredHouse(member_of(request).house), payload.spec, payload.material, payload.mass_g)


@router.post("/working", response=answers(Working))
def show_working(request: HttpRequest, payload: WorkingIn) -> Working:
    """The working of one number."""
    return draft_working(StoredHouse(member_of(request).house), payload.spec, payload.step, payload.name)


@router.post("/questions", response=answers(tuple[OpenQuestion, ...]))
def open_questions(request: HttpRequest, payload: EvaluateIn) -> list[OpenQuestion]:
    """The open questions of a draft, with the product as each answer would make it. Nothing is stored."""
    return list(draft_questions(StoredHouse(member_of(request).house), payload.spec))


@router.post("/read-draft", response=answers(ReadDraft))
def show_read_draft(request: HttpRequest, payload: EvaluateIn) -> ReadDraft:
    """A draft that was read from a text, worked out, with its open questions and its claims. Nothing is stored."""
    return read_draft(StoredHouse(member_of(request).house), payload.spec)


@router.post("/answered", response=answers(SpecForm))
def answered(request: HttpRequest, payload: AnswerIn) -> SpecForm:
    """A draft with one of its questions answered. Nothing is stored."""
    member_of(request)
    return draft_answered(payload.spec, payload.position, payload.answer)


@router.post("/step-line", response=answers(StepLine))
def step_line(request: HttpRequest, payload: StepLineIn) -> StepLine:
    """A step as typed, read with this house's materials: "steep birch tips 9 g 25 min 72 C". Nothing is stored."""
    return read_step_line(StoredHouse(member_of(request).house), payload.text)
