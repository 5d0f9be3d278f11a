"""Versions over HTTP: their history, two side by side, and what staff do with them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Query, Router, Status

from ulsek.core.base.answer import fields_of
from ulsek.core.evaluation.evaluate import Evaluation
from ulsek.core.results.quiz import questions
from ulsek.core.results.version_diff import compared
from ulsek.team.access import Member, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import Slice, holding, slice_of

from .actions.branch_spec import branch_trial, promote_trial
from .actions.clear_person import lacks_clearance
from .actions.correct_wording import correct_wording
from .actions.read_version import Verdict, acknowledge, answer_questions, hand_out, score_version
from .actions.withdraw_version import withdraw_version
from .library import rows, with_newest
from .library_schemas import (
    AnsweredOut,
    AnswersIn,
    BranchIn,
    CompareOut,
    CopyIn,
    ReadingState,
    ScoreIn,
    SideOut,
    SpecRow,
    VersionOut,
    VersionQuery,
    WithdrawIn,
)
from .models import Acknowledgement, Draft, Spec, Version
from .queries import evaluated, version_body, version_evaluated, version_row, versions_of, workbench_view
from .schemas import SavedDraft

router = Router(tags=["versions"])


def _version(request: HttpRequest, spec_id: UUID, number: int) -> tuple[Member, Version]:
    member = member_of(request)
    found = Version.objects.select_related("spec__house", "author")
    return member, get_object_or_404(found, spec=spec_id, spec__house=member.house, number=number)


@router.get("/specs/{spec_id}/versions", response=answers(Slice[VersionOut]))
def versions(request: HttpRequest, spec_id: UUID, asked: Query[VersionQuery]) -> Slice[VersionOut]:
    """Returns the versions of a spec, newest first, with scores, copies and what was withdrawn."""
    spec = get_object_or_404(Spec, pk=spec_id, house=member_of(request).house)
    found = versions_of(spec).filter(holding(asked.find, "why", "author__display_name"))
    if asked.state:
        found = found.filter(withdrawal__isnull=asked.state == "standing")
    return slice_of(found, ("-number",), asked).each(version_row)


def _side(member: Member, spec_id: UUID, which: str) -> tuple[str, Mapping[str, Any], Evaluation]:
    """Returns a side of a comparison: a version by its number, or the draft."""
    spec = get_object_or_404(Spec, pk=spec_id, house=member.house)
    if which == "draft":
        draft = get_object_or_404(Draft, spec=spec)
        return f"{spec.name}, draft", draft.body, evaluated(member.house, draft.body, own=spec)[0]
    version = get_object_or_404(Version.objects.select_related("spec__house"), spec=spec, number=int(which) if which.isdigit() else 0)
    return f"{spec.name}, version {version.number}", version_body(version), version_evaluated(version)


@router.get("/compare", response=answers(CompareOut))
def compare(request: HttpRequest, left: UUID, right: UUID, left_version: str = "draft", right_version: str = "draft") -> CompareOut:
    """Any two versions or drafts side by side: what changed, and what it did."""
    member = member_of(request)
    sides = [_side(member, left, left_version), _side(member, right, right_version)]
    told = compared(sides[0][2], sides[1][2])
    left_side, right_side = (SideOut(name=name, body=body, result=workbench_view(done, member.house)) for name, body, done in sides)
    return CompareOut(**fields_of(told), left=left_side, right=right_side)


@router.post("/specs/{spec_id}/versions/{number}/scores", response={201: answers(VersionOut)})
def score(request: HttpRequest, spec_id: UUID, number: int, payload: ScoreIn) -> Status[VersionOut]:
    """A taster's score."""
    member, version = _version(request, spec_id, number)
    score_version(member, version, Verdict(**payload.dict()))
    return Status(201, version_row(version))


@router.post("/specs/{spec_id}/versions/{number}/withdraw", response=answers(VersionOut))
def withdraw(request: HttpRequest, spec_id: UUID, number: int, payload: WithdrawIn) -> VersionOut:
    """Withdraws a version with its reason."""
    member, version = _version(request, spec_id, number)
    withdraw_version(member, version, payload.why, payload.successor)
    return version_row(Version.objects.select_related("author", "withdrawal__successor").get(pk=version.pk))


@router.post("/specs/{spec_id}/versions/{number}/branch", response={201: answers(SpecRow)})
def branch(request: HttpRequest, spec_id: UUID, number: int, payload: BranchIn) -> Status[SpecRow]:
    """Branches a trial from a version."""
    member, version = _version(request, spec_id, number)
    trial = branch_trial(member, version, payload.name)
    return Status(201, rows(with_newest(Spec.objects.filter(pk=trial.pk)))[0])


@router.post("/specs/{spec_id}/promote", response=answers(SavedDraft))
def promote(request: HttpRequest, spec_id: UUID) -> SavedDraft:
    """The trial's newest version becomes the draft of the spec that it branched from."""
    member = member_of(request)
    trial = get_object_or_404(Spec.objects.select_related("newest", "trial_of"), pk=spec_id, house=member.house)
    draft = promote_trial(member, trial)
    return SavedDraft(draft.spec_id, draft.revision)


@router.post("/specs/{spec_id}/correct", response=answers(VersionOut))
def correct(request: HttpRequest, spec_id: UUID) -> VersionOut:
    """The draft's words become those of the newest version; no number may differ."""
    return version_row(correct_wording(member_of(request), spec_id).version)


@router.post("/specs/{spec_id}/versions/{number}/acknowledge", response=answers(ReadingState))
def read_it(request: HttpRequest, spec_id: UUID, number: int) -> ReadingState:
    """Records that this person has read it."""
    member, version = _version(request, spec_id, number)
    acknowledge(member, version)
    return _reading(member, version)


def _reading(member: Member, version: Version) -> ReadingState:
    known = Acknowledgement.objects.filter(version=version, person=member.person).first()
    passed = bool(known and known.passed_at) or not version.spec.asks_questions
    return ReadingState(
        critical=version.critical,
        # Whoever wrote it has read it.
        acknowledged=bool(known and known.read_at) or version.author_id == member.person.pk,
        passed=passed,
        questions=() if passed else questions(version_evaluated(version)),
        lacks_clearance=lacks_clearance(member, version.spec),
    )


@router.get("/specs/{spec_id}/versions/{number}/reading", response=answers(ReadingState))
def reading(request: HttpRequest, spec_id: UUID, number: int) -> ReadingState:
    """Returns what the signed-in person still has to do before making a version: acknowledge it, answer its questions."""
    return _reading(*_version(request, spec_id, number))


@router.post("/specs/{spec_id}/versions/{number}/answers", response=answers(AnsweredOut))
def answer(request: HttpRequest, spec_id: UUID, number: int, payload: AnswersIn) -> AnsweredOut:
    """Answers to the questions before the first make; each wrong one with its reason."""
    member, version = _version(request, spec_id, number)
    wrong = answer_questions(member, version, payload.answers)
    return AnsweredOut(passed=not wrong, wrong=tuple(wrong))


@router.post("/specs/{spec_id}/versions/{number}/copies", response={201: answers(VersionOut)})
def copies(request: HttpRequest, spec_id: UUID, number: int, payload: CopyIn) -> Status[VersionOut]:
    """Records that a copy of the card went to somebody."""
    member, version = _version(request, spec_id, number)
    hand_out(member, version, payload.to)
    return Status(201, version_row(version))
