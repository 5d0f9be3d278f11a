"""Alert the people on duty when a wait of more than an hour is over."""

from __future__ import annotations

import logging
from datetime import datetime

from django.db import Error

from ulsek.core.base.messages import read_stored
from ulsek.core.run.device_clocks import moment
from ulsek.core.run.waiting import needs_attention
from ulsek.devices.alerts import alert
from ulsek.devices.push import Alert

from ..models import Run

_LOG = logging.getLogger(__name__)


def _said(run: Run) -> Alert:
    step = read_stored(run.projection["step"]).text() if "step" in run.projection else ""
    return Alert(run.version.spec.name, f"Its wait is over. Next: {step}" if step else "Its wait is over.", f"/make/{run.pk}")


def alert_waits(now: datetime) -> int:
    """Alerts for every long wait that is over at `now`. Returns how many devices were reached [count]."""
    reached = 0
    for run in Run.objects.filter(finished_at=None, rehearsal=False).select_related("house", "version__spec").defer("snapshot"):
        try:
            waiting = run.projection.get("waiting")
            if not waiting:
                continue
            since, until = moment(waiting["since"]), moment(waiting["until"])
            if needs_attention(since, until, now):
                reached += alert(run.house, f"{run.code}-{run.projection['number']}-{run.pk}", now, _said(run))
        except Error:
            raise  # the database is away: for all of them
        except Exception:  # noqa: BLE001 # whatever it is, it is one batch's
            # One batch's bad row must not silence the other houses.
            _LOG.exception("the wait of batch %s could not be looked at", run.pk)
    return reached
