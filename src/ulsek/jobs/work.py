"""Work on a job: by one worker, with its progress stored, and again by another if the worker died."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

from django.db import Error, connection
from django.db.models import F, Q
from django.utils import timezone
from django_tasks import task

from ulsek.core.base.messages import message, verbatim
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member, NotAllowed, membership_of
from ulsek.team.models import Role

from .models import Job, JobState

LEASE = timedelta(seconds=30)
"""A worker that has not been heard of for so long is taken for dead."""
MOST_TRIES = 3
MOST_BYTES = 12_000_000
"""Size of the largest file that a job may end with [bytes]: MariaDB takes 16 MB at once by default, and dumps no more than 24."""
_EVERY_S = 0.5
_LOG = logging.getLogger(__name__)


@dataclass(frozen=True)
class File:
    """The file that a job ends with."""

    name: str
    media_type: str
    data: bytes


class Stopped(Exception):
    """Raised if somebody has stopped the job."""


class Progress:
    """Reports the progress of a job, and reads from the same row whether it was stopped."""

    def __init__(self, job: Job) -> None:
        self._job, self._told = job, 0.0

    def at(self, done: int, of: int) -> None:
        """Stores that `done` [count] of `of` [count] parts are finished. Raises Stopped if somebody has stopped the job, or another worker has begun it."""
        if done < of and time.monotonic() - self._told < _EVERY_S:
            return
        self._told = time.monotonic()
        mine = Job.objects.filter(pk=self._job.pk, tries=self._job.tries)
        if not mine.update(done=done, of=of, seen_at=timezone.now()) or mine.filter(stop=True).exists():
            raise Stopped

    def beside(self, done: int, of: int) -> None:
        """Does what `at` does over a connection of its own: inside a long transaction nobody would see the progress before its end."""

        def told() -> None:
            try:
                self.at(done, of)
            finally:
                connection.close()

        with ThreadPoolExecutor(1) as thread:
            thread.submit(told).result()


Make = Callable[[Member, Progress], File]


@dataclass(frozen=True)
class Kind:
    """A kind of job: what makes its file, the lowest role that may ask for it, and whether a session that began with a PIN needs the password for it."""

    make: Make
    needs: Role = Role.READER
    takes_password: bool = False


KINDS: dict[str, Kind] = {}
"""What can be asked for, by name; each app adds its own."""


def kind(name: str, *, needs: Role = Role.READER, takes_password: bool = False) -> Callable[[Make], Make]:
    """Adds a kind of job under a name, as `Kind` has it."""

    def add(function: Make) -> Make:
        KINDS[name] = Kind(function, needs, takes_password)
        return function

    return add


@task()
def work_on(job_id: str) -> None:
    """Runs a job that waits, or whose worker died, and stores its file or its problem in its row. Does nothing if another worker has it. Raises what the
    database raises if it is away.
    """
    job = _claimed(UUID(job_id))
    if job is None:
        return
    membership = membership_of(job.person_id, job.house_id)
    if membership is None:
        _end(job, state=JobState.FAILED, problem=message("Who asked for it is in no house any more."))
        return
    member = Member(job.person, job.house, membership.role)
    try:
        asked = KINDS[job.kind]
        made = _of_bearable_size(asked.make(member.must_be(asked.needs), Progress(job)))
    except Stopped:
        _end(job, state=JobState.STOPPED)
    except Refusal as refusal:
        _end(job, state=JobState.FAILED, problem=refusal.message)
    except NotAllowed as refused:
        _end(job, state=JobState.FAILED, problem=verbatim(refused.text))
    except Error:
        raise  # the database is away: the job is taken up again when its lease is over
    except Exception:  # noqa: BLE001 # whatever it is, the job says that it failed
        _LOG.exception("job %s failed", job.pk)
        _end(
            job,
            state=JobState.FAILED,
            problem=message("Something went wrong on our side, and it is written down. Try again, or tell your lead."),
        )
    else:
        _end(job, state=JobState.DONE, done=F("of"), file_name=made.name, media_type=made.media_type, data=made.data)


def _of_bearable_size(made: File) -> File:
    """Returns the file. Raises Refusal for one of more than `MOST_BYTES`."""
    if len(made.data) > MOST_BYTES:
        raise Refusal(
            message("The file is too large to be fetched by a browser"),
            "file",
            remedy=message("Ask whoever runs the site: bin/house export writes the archive of a house"),
            code="too_long",
        )
    return made


def _claimed(job_id: UUID) -> Job | None:
    """Returns the job if it is this worker's to do; None otherwise."""
    now = timezone.now()
    free = Q(state=JobState.WAITING) | Q(state=JobState.RUNNING, seen_at__lt=now - LEASE)
    won = Job.objects.filter(free, pk=job_id, tries__lt=MOST_TRIES).update(state=JobState.RUNNING, seen_at=now, tries=F("tries") + 1)
    return Job.objects.select_related("house", "person").defer("data").get(pk=job_id) if won else None


def _end(job: Job, **changes: object) -> None:
    # By its number of tries: a worker that was taken for dead and was only slow changes nothing of the next one's.
    Job.objects.filter(pk=job.pk, tries=job.tries).update(**changes)


def looked_after(job: Job) -> Job:
    """Returns the job as it is; one whose worker died is queued again, and fails if that has happened too often."""
    if job.state == JobState.RUNNING and job.seen_at is not None and job.seen_at < timezone.now() - LEASE:
        if job.tries >= MOST_TRIES:
            _end(job, state=JobState.FAILED, problem=message("It was begun three times, and no worker came to its end. Tell your lead."))
        elif Job.objects.filter(pk=job.pk, seen_at=job.seen_at).update(seen_at=timezone.now() - LEASE - timedelta(seconds=1)):
            work_on.enqueue(str(job.pk))
        job.refresh_from_db(fields=["state", "seen_at", "problem"])
    return job
