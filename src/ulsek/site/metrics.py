"""Figures of the running site for a monitoring program, in the text form of Prometheus 0.0.4: requests with their times, and what stands in the database."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseNotFound
from django.utils import timezone
from django.utils.crypto import constant_time_compare
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, Counter, Histogram, generate_latest, multiprocess
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.registry import Collector

from ulsek.batches.models import Lot, Run
from ulsek.jobs.models import Job, JobState
from ulsek.sync.models import SignedAction, State
from ulsek.team.models import BackupMade, House, SignIn

_METHODS = frozenset({"GET", "HEAD", "POST", "PUT", "DELETE", "OPTIONS"})
Answerer = Callable[[HttpRequest], HttpResponse]
_ASKED = Counter("ulsek_requests_total", "Requests answered", ("method", "route", "status"))
_TOOK = Histogram(
    "ulsek_request_seconds", "Time of a request within the site", ("route",), buckets=(0.01, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10)
)


def counted(answer_to: Answerer) -> Answerer:
    """Middleware: counts each request and measures its time, by the pattern of its address, so that no id or name becomes a label."""

    def answer(request: HttpRequest) -> HttpResponse:
        began = time.perf_counter()
        found = answer_to(request)
        route = request.resolver_match.route if request.resolver_match else "none"
        _ASKED.labels(request.method if request.method in _METHODS else "other", route, str(found.status_code)).inc()
        _TOOK.labels(route).observe(time.perf_counter() - began)
        return found

    return answer


class _Standing(Collector):
    """What stands in the database now."""

    def collect(self) -> Iterator[GaugeMetricFamily]:
        """Yields one figure each; a backup is told by its moment [s since 1970], 0 if there is none."""
        last = BackupMade.objects.order_by("-at").values_list("at", flat=True).first()
        figures = {
            "ulsek_houses": ("Houses of this site", House.objects.count()),
            "ulsek_open_sessions": ("Sessions that are open", SignIn.objects.filter(ended_at=None).count()),
            "ulsek_open_batches": ("Batches under way", Run.objects.filter(finished_at=None, rehearsal=False).count()),
            "ulsek_bottles_past": ("Bottles past their last day that nobody has thrown away", self._past()),
            "ulsek_waiting_jobs": ("Jobs that wait or run", Job.objects.filter(state__in=(JobState.WAITING, JobState.RUNNING)).count()),
            "ulsek_held_actions": ("Signed actions that wait for a lead", SignedAction.objects.filter(state=State.HELD).count()),
            "ulsek_last_backup_timestamp_seconds": ("When the last good backup was made", last.timestamp() if last else 0),
        }
        for name, (about, value) in figures.items():
            yield GaugeMetricFamily(name, about, value=value)

    @staticmethod
    def _past() -> int:
        now = timezone.now()
        standing = Lot.objects.filter(gone_at=None)
        return sum(standing.filter(house=house, use_by__lt=house.day(now)).count() for house in House.objects.all())


def metrics(request: HttpRequest) -> HttpResponse:
    """The figures, for whoever sends the token of ULSEK_METRICS_TOKEN; for anybody else there is nothing here."""
    token = settings.METRICS_TOKEN
    if not token or not constant_time_compare(request.headers.get("Authorization", ""), f"Bearer {token}"):
        return HttpResponseNotFound(b"", content_type="text/plain")
    registry = CollectorRegistry()
    if settings.METRICS_OF_ALL_PROCESSES:
        multiprocess.MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
        asked = generate_latest(registry)
    else:
        asked = generate_latest(REGISTRY)
    standing = CollectorRegistry()
    standing.register(_Standing())
    return HttpResponse(asked + generate_latest(standing), content_type=CONTENT_TYPE_LATEST)
