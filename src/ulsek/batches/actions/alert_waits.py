"""Alert whoever is on duty when a wait of over an hour has ended."""

from __future__ import annotations

from datetime import datetime, timedelta

from ulsek.devices.alerts import alert

from ..folding import moment
from ..models import Run

LONG = timedelta(hours=1)
"""Somebody who waits for less than this stands beside it."""


def alert_waits(now: datetime) -> int:
    """Alerts for every long wait that is over at `now`, each once, and returns how many devices were reached."""
    reached = 0
    for run in Run.objects.filter(finished_at=None, rehearsal=False).select_related("house"):
        waiting = run.projection.get("waiting")
        if not waiting:
            continue
        since, until = moment(waiting["since"]), moment(waiting["until"])
        if until - since >= LONG and until <= now:
            reached += alert(run.house, f"{run.code}-{run.projection['number']}-{run.pk}", now)
    return reached
