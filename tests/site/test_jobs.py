"""Jobs: asked for once, done by a worker, with progress; stopped, taken up again where a worker died, and nobody else's."""

import io
import zipfile
from datetime import timedelta

import pytest
from django.core.management import call_command
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.jobs.actions.ask_for_job import stop_job
from ulsek.jobs.models import Job
from ulsek.jobs.work import KINDS, LEASE, MOST_TRIES, File, Kind, work_on
from ulsek.site.management.commands.tidy import RECEIPTS
from ulsek.team.models import Receipt

pytestmark = pytest.mark.django_db(transaction=True)


def work():
    """A worker that does everything that waits, and ends."""
    call_command("worker", batch=True, startup_delay=False, verbosity=0)


def ask(place, role="lead", kind="library"):
    answer = place.apis[role].post("/jobs", {"kind": kind})
    assert answer.status_code == 202, answer.content
    return answer.data


def stands(place, job, role="lead"):
    return place.apis[role].get(f"/jobs/{job['id']}").data


@pytest.fixture
def kinds():
    """Kinds of jobs for a test alone."""
    before = dict(KINDS)
    yield KINDS
    KINDS.clear()
    KINDS.update(before)


def test_a_library_is_asked_for_worked_out_beside_and_fetched(place):
    place.spec()
    job = ask(place)
    assert (job["state"], job["done"], job["of"]) == ("waiting", 0, 0)
    assert ask(place)["id"] == job["id"], "asked twice it is the same one"
    assert place.apis["lead"].get(f"/jobs/{job['id']}/file").data["code"] == "not_ready"
    work()
    found = stands(place, job)
    assert (found["state"], found["done"], found["of"], found["file_name"]) == ("done", 1, 1, "library.zip")
    archive = zipfile.ZipFile(io.BytesIO(place.apis["lead"].client.get(f"/api/jobs/{job['id']}/file").content))
    assert {"materials.csv", "README.txt", "specs/cordial.json", "cards/cordial.md"} <= set(archive.namelist())
    for role in ("maker", "stranger"):
        for path in (f"/jobs/{job['id']}", f"/jobs/{job['id']}/file"):
            assert place.apis[role].client.get(f"/api{path}").status_code == 404, "a job is its person's alone"
    assert place.apis["nobody"].post("/jobs", {"kind": "library"}).status_code == 401
    assert place.apis["lead"].post("/jobs", {"kind": "dance"}).data["code"] == "unknown_kind"


def test_progress_is_seen_and_a_job_is_stopped_at_its_next_part(place, kinds):
    parts = []

    def counts(_member, progress):
        for n in range(50):
            progress._told = 0.0  # every part is told, however fast they are
            progress.at(n, 50)
            parts.append(stands(place, job)["done"])
            if n == 7:
                assert place.apis["lead"].post(f"/jobs/{job['id']}/stop").status_code == 200
        raise AssertionError("it went on")

    kinds["counts"] = Kind(counts)
    job = ask(place, kind="counts")
    work()
    assert parts == list(range(8))
    assert stands(place, job)["state"] == "stopped"
    waits = ask(place, kind="counts")
    assert place.apis["lead"].post(f"/jobs/{waits['id']}/stop").data["state"] == "stopped"
    work()
    assert len(parts) == 8, "one that was stopped before it began is not begun"


def test_a_stop_that_comes_as_the_job_ends_takes_nothing_back(place, kinds, monkeypatch):
    kinds["works"] = Kind(lambda _member, _progress: File("a.txt", "text/plain", b"a"))
    job = ask(place, kind="works")
    found = []

    def ends_meanwhile(*args):
        # Between the request's arrival and its action the worker begins and ends the job.
        found.append(work())
        return stop_job(*args)

    monkeypatch.setattr("ulsek.jobs.api.stop_job", ends_meanwhile)
    assert place.apis["lead"].post(f"/jobs/{job['id']}/stop").data["state"] == "done"
    assert place.apis["lead"].client.get(f"/api/jobs/{job['id']}/file").content == b"a"


def test_a_job_that_fails_says_why_and_the_next_is_done(place, kinds):
    def refuses(_member, _progress):
        raise Refusal(message("There is nothing to save"), "library", remedy=message("Start a spec first"), code="empty")

    def breaks(_member, _progress):
        return 1 / 0

    def works(_member, _progress):
        return File("a.txt", "text/plain", b"a")

    kinds.update(refuses=Kind(refuses), breaks=Kind(breaks), works=Kind(works))
    jobs = [ask(place, kind=kind) for kind in ("refuses", "breaks", "works")]
    assert place.apis["lead"].post("/jobs", {"kind": "library"}).data["code"] == "too_many"
    work()
    told = [(stands(place, job)["state"], stands(place, job)["problem"][:30]) for job in jobs]
    assert told == [("failed", "There is nothing to save. Star"), ("failed", "Something went wrong on our si"), ("done", "")]


def test_a_job_whose_worker_died_is_taken_up_again_and_given_up_after_three(place, kinds):
    kinds["works"] = Kind(lambda _member, _progress: File("a.txt", "text/plain", b"a"))
    job = ask(place, kind="works")

    def dies():
        """As if a worker had begun it and was killed."""
        row = Job.objects.get(pk=job["id"])
        Job.objects.filter(pk=row.pk).update(state="running", tries=row.tries + 1, seen_at=timezone.now() - LEASE - timedelta(seconds=5))

    dies()
    Job.objects.filter(pk=job["id"]).update(seen_at=timezone.now())
    work()
    assert stands(place, job)["state"] == "running", "its worker was heard of a moment ago: nobody else begins it"
    dies()
    assert stands(place, job)["state"] == "running", "whoever looks at it puts it in the queue again"
    work()
    assert (stands(place, job)["state"], Job.objects.get(pk=job["id"]).tries) == ("done", MOST_TRIES)
    job = ask(place, kind="works")
    for _ in range(MOST_TRIES):
        dies()
    assert stands(place, job)["state"] == "failed"


def test_a_worker_that_was_only_slow_changes_nothing_of_the_next_one_s(place, kinds):
    def slow(_member, progress):
        Job.objects.filter(pk=job["id"]).update(tries=2)  # another worker has begun it since
        progress._told = 0.0
        progress.at(1, 2)
        raise AssertionError("it went on")

    kinds["slow"] = Kind(slow)
    job = ask(place, kind="slow")
    work_on.call(job["id"])
    assert stands(place, job)["state"] == "running"


def test_what_nobody_asks_for_any_more_is_deleted_and_the_rest_stays(place):
    place.delivery(), place.delivery()
    old, new = Receipt.objects.order_by("at")[:2]
    Receipt.objects.filter(pk=old.pk).update(at=timezone.now() - RECEIPTS - timedelta(minutes=1))
    Receipt.objects.filter(pk=new.pk).update(at=timezone.now() - RECEIPTS + timedelta(minutes=1))
    work()
    call_command("tidy", once=True)
    left = set(Receipt.objects.values_list("pk", flat=True))
    assert (old.pk in left, new.pk in left) == (False, True)
