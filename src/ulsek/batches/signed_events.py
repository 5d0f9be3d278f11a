"""Events of runs as signed actions, performed for their signer."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from ulsek.core.base.answer import encode
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.sync.kinds import KINDS, Arrival, Kind
from ulsek.team.access import Member

from .actions.record_events import record_events
from .api import run_view
from .folding import events_of, folded
from .models import RunEvent
from .queries import visible_runs

KIND = "run_event"


def _run_id(subject: str) -> UUID:
    try:
        return UUID(subject)
    except ValueError:
        raise Refusal(message("This names no batch"), "text/subject", message("the id of a batch"), code="unreadable") from None


def _do(signer: Member, subject: str, body: Mapping[str, Any], arrival: Arrival) -> None:
    """Records the event for its signer. Raises Refusal if another person's event has its id: it would be skipped as known, and lost."""
    record_events(signer, _run_id(subject), [dict(body)], device_now=arrival.device_now, received=arrival.received, proof=arrival.proof)
    # Read after the run is locked: what stands there now is what was just recorded, or what came first.
    if RunEvent.objects.filter(pk=body["id"]).exclude(person=signer.person).exists():
        raise Refusal(message("Somebody else's event has this id"), "text/body/id", remedy=message("Do it again"), code="twice")


def _view(carrier: Member, subject: str) -> Mapping[str, object] | None:
    """Returns the run for the member who sent the actions; None if they may not see it."""
    run = visible_runs(carrier).select_related("version__spec", "version__withdrawal", "started_by").filter(pk=_run_id(subject)).first()
    return encode(run_view(run, folded(run, events_of(run)))) if run is not None else None


KINDS[KIND] = Kind("POST /runs/{run_id}/events", _do, _view)
