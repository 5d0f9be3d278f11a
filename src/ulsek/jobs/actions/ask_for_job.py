"""Ask for a job, or stop one."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Job, JobState
from ..work import KINDS, work_on

OPEN = (JobState.WAITING, JobState.RUNNING)
MOST_OPEN, KEPT = 3, 10


@action
def ask_for_job(member: Member, kind: str) -> Job:
    """Returns a new job of this kind in the queue, or the one of this person that is not done yet. Deletes all but their last `KEPT` jobs.

    Raises Refusal for an unknown kind, and for more than `MOST_OPEN` at once, and NotAllowed for a kind that takes another role.
    """
    if kind not in KINDS:
        raise Refusal(
            message("There is no job “{kind}”", kind=kind),
            "kind",
            message("there are {kinds}", kinds=listed(sorted(KINDS), "comma")),
            code="unknown_kind",
        )
    member.must_be(KINDS[kind].needs)
    mine = Job.objects.filter(house=member.house, person=member.person)
    under_way = mine.filter(kind=kind, state__in=OPEN).first()
    if under_way is not None:
        return under_way
    if mine.filter(state__in=OPEN).count() >= MOST_OPEN:
        raise Refusal(
            message("{most} jobs are under way already", most=MOST_OPEN),
            "kind",
            remedy=message("Wait for one, or stop it"),
            code="too_many",
        )
    old = mine.exclude(state__in=OPEN).order_by("-asked_at").values_list("pk", flat=True)[KEPT - 1 :]
    Job.objects.filter(pk__in=list(old)).delete()
    job = Job.objects.create(house=member.house, person=member.person, kind=kind, asked_at=timezone.now())
    work_on.enqueue(str(job.pk))  # a row of the same transaction: the worker sees both or neither
    member.wrote("ask_for_job", kind)
    return job


@action
def stop_job(member: Member, job_id: UUID) -> Job:
    """Returns the job, which ends at its next part; one that has ended stays as it is. Raises Http404 for a job of somebody else."""
    mine = Job.objects.filter(pk=job_id, house=member.house, person=member.person)
    # By conditions, not by what was read: its worker may begin or end it at this moment.
    mine.filter(state=JobState.WAITING).update(state=JobState.STOPPED)
    mine.update(stop=True)
    return get_object_or_404(mine.defer("data"))
