"""Record events of a run: append-only, idempotent, folded in the same transaction."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.supply import material_of_key
from ulsek.core.run.device_clocks import moment
from ulsek.core.run.events.batch import Finished
from ulsek.core.run.events.event import Event
from ulsek.core.run.events.supplies import TakenFrom, WentOn
from ulsek.core.run.state import RunState
from ulsek.specs.models import Spec
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked, locked_or_404

from ..arrival import credited, in_their_time
from ..folding import events_of, folded, projection
from ..models import Run, RunEvent
from ..supplies import pin, pin_supply
from .draw_on import draw_on, lock_supplies
from .keep_lot import keep_lot

MOST_AT_ONCE = 200


def _pin_what_came(member: Member, run: Run, events: Sequence[Event]) -> None:
    """Pins and traces materials that went in besides those of the spec, as Stores describes them now."""
    keys = {key for event in events for key in event.brings()} - set(run.snapshot["materials"])
    if not keys:
        return
    found = pin(member.house, keys)
    run.snapshot["materials"].update(found.bodies)
    run.snapshot["stock"].update(found.stock)
    run.snapshot["lots"].update(found.lots)


def _pin_supplies(member: Member, run: Run, events: Sequence[Event], kept: Sequence[Event]) -> None:
    """Pins each supply that was named, with its own composition, for the line at that moment."""
    named = [event for event in events if isinstance(event, TakenFrom | WentOn)]
    if not named:
        return
    lines = folded(run, [*kept, *events]).spec.lines
    for event in named:
        line = lines.get(event.line)
        if line is not None:
            pin_supply(member, run, material_of_key(line.material), event.supply, moment(event.at))


def _keep(run: Run, new: Sequence[tuple[Event, Mapping[str, Any]]], member: Member, at: datetime, *, late: bool = False) -> None:
    RunEvent.objects.bulk_create(
        RunEvent(id=event.id, run=run, data=data, person=member.person, received_at=at, late=late) for event, data in new
    )


def _versions_of_runs(member: Member) -> QuerySet[Run]:
    """Returns the house's runs with their versions and specs, without large columns."""
    return Run.objects.filter(house=member.house).select_related("version__spec").defer("snapshot", "projection", "result")


@action(receipt=False)
def record_events(
    member: Member, run_id: UUID, items: Sequence[Any], *, device_now: str = "", received: datetime | None = None, proof: str = ""
) -> tuple[Run, RunState]:
    """Stores those of `items` that are new, and folds the run. One invalid event refuses all of them.

    `device_now` is the clock of the device as it sends, by which times are corrected. `proof` says what shows that it was this member. The id of an event is
    its receipt: an event that is sent again is skipped. One that arrives after the finish, from a tablet that was offline, is stored as late and does not
    count: the result stays as it was stored.
    """
    if len(items) > MOST_AT_ONCE:
        raise Refusal(
            message("{n} events at once are too many", n=len(items)),
            "events",
            message("at most {most}", most=MOST_AT_ONCE),
            message("Send them in parts"),
        )
    mine = RunEvent.objects.filter(run_id=run_id, run__house=member.house)
    came_in = credited(member, items, lambda event_id: mine.filter(pk=event_id).exists(), proof)
    version = get_object_or_404(_versions_of_runs(member), pk=run_id).version
    if any(isinstance(event, Finished) for event, _ in came_in.values()):
        locked(Spec.objects.filter(pk=version.spec_id), shared=True)  # what the batch taught is kept with its spec
    # Every writer of a run locks its row, so events of two tablets fold one after the other.
    run = locked_or_404(Run.objects.filter(pk=run_id, house=member.house))
    run.version = version
    kept = {event.id: event for event in events_of(run)}
    late = set(run.events.filter(late=True).values_list("pk", flat=True)) if run.finished_at else set()
    new = [pair for event_id, pair in came_in.items() if event_id not in kept and event_id not in late]
    if RunEvent.objects.filter(pk__in=[event.id for event, _ in new]).exists():
        raise Refusal(message("An event of another run has this id"), "events/id", remedy=message("Reload the page"), code="twice")
    if run.rehearsal and run.started_by_id != member.person.pk:
        raise Refusal(message("This rehearsal is somebody else's"), "run", remedy=message("Start one of your own"), code="not_yours")
    now = received or timezone.now()
    new = in_their_time(new, list(kept.values()), run.started_at, device_now, now)
    if run.finished_at:
        _keep(run, new, member, now, late=True)
        return run, folded(run, list(kept.values()))
    came = [event for event, _ in new]
    _pin_what_came(member, run, came)
    _pin_supplies(member, run, came, list(kept.values()))
    state = folded(run, [*kept.values(), *came])
    if new:
        _keep(run, new, member, now)
        run.projection = projection(state, run.snapshot)
        if state.status == "finished" or any(event.moves_supplies for event in came):
            if not run.rehearsal:
                lock_supplies(member.house, run.snapshot, state.taken_keys, shared=state.status != "finished")
            draw_on(run, state.taken_keys)
        if state.status == "finished":
            keep_lot(member, run, state, next(event for event in came if isinstance(event, Finished)))
        run.save()
    return run, state
