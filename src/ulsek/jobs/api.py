"""Jobs over HTTP."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router, Status

from ulsek.core.base.messages import Message, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import PasswordWanted, confirmed, member_of
from ulsek.team.answer import answers
from ulsek.team.schema import Schema

from .actions.ask_for_job import ask_for_job, stop_job
from .models import Job
from .work import KINDS, looked_after

router = Router(tags=["jobs"])


class JobIn(Schema):
    kind: str


@dataclass(frozen=True, slots=True, kw_only=True)
class JobOut:
    """A job: `done` of `of` parts; with a file once it is done, with its `problem` if it failed."""

    id: UUID
    kind: str
    state: Literal["waiting", "running", "done", "stopped", "failed"]
    done: int
    of: int
    problem: Message
    asked_at: datetime
    file_name: str


def _out(job: Job) -> JobOut:
    return JobOut(
        id=job.pk,
        kind=job.kind,
        state=job.state,  # type: ignore[arg-type]
        done=job.done,
        of=job.of,
        problem=job.problem,
        asked_at=job.asked_at,
        file_name=job.file_name,
    )


def _job(request: HttpRequest, job_id: UUID) -> Job:
    member = member_of(request)
    return looked_after(get_object_or_404(Job.objects.defer("data"), pk=job_id, house=member.house, person=member.person))


@router.post("/jobs", response={202: answers(JobOut)})
def ask(request: HttpRequest, payload: JobIn) -> Status[JobOut]:
    """Asks for a job: `library` is the whole library as one archive, `house` everything of the house, `mine` what is stored about the sender.

    A session that began with a PIN needs the password first, but for the library.
    """
    member = member_of(request)
    asked = KINDS.get(payload.kind)
    if asked is not None and asked.takes_password and request.session.get("by_pin") and not confirmed(request, timezone.now()):
        raise PasswordWanted
    return Status(202, _out(ask_for_job(member, payload.kind)))


@router.get("/jobs/{job_id}", response=answers(JobOut))
def one(request: HttpRequest, job_id: UUID) -> JobOut:
    """The progress of a job of one's own."""
    return _out(_job(request, job_id))


@router.post("/jobs/{job_id}/stop", response=answers(JobOut))
def stop(request: HttpRequest, job_id: UUID) -> JobOut:
    """Ends a job of one's own at its next part."""
    return _out(stop_job(member_of(request), job_id))


@router.get("/jobs/{job_id}/file", response={200: None})
def file(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The file of a job."""
    job = _job(request, job_id)
    if job.data is None:
        raise Refusal(message("This job has no file yet"), "job", remedy=message("Wait for its end"), code="not_ready")
    answer = HttpResponse(bytes(job.data), content_type=job.media_type)
    answer["Content-Disposition"] = f'attachment; filename="{job.file_name}"'
    return answer
