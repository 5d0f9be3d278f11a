"""Make, lots and Shift over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Query, Router, Status

from ulsek.core.base.messages import read_stored
from ulsek.core.run.into_spec import as_draft
from ulsek.core.run.run_result import run_result
from ulsek.core.run.state import RunState
from ulsek.core.safety.rules_edition import edition_words
from ulsek.core.spec.json_form import read_spec
from ulsek.core.workbench.questions import SpecForm
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.listing import Slice, holding, slice_of, slice_of_values

from .actions.record_events import record_events
from .actions.start_run import BatchOrder, start_run
from .folding import events_of, folded, supplies_pinned
from .models import Run
from .queries import due_order, open_runs, run_row, shift, visible_runs, with_spec
from .schemas import EventsIn, PhotoOut, RunOut, RunQuery, RunRow, ShiftOut, StartRun, VesselOut

router = Router(tags=["batches"])


def run_view(run: Run, state: RunState) -> RunOut:
    """Returns a run with everything that follows from its events; a finished one with the result that was stored then."""
    spec = read_spec(run.snapshot["spec"])
    return RunOut(
        id=run.pk,
        code=run.code,
        name=spec.name,
        version=run.version.number,
        started_by=run.started_by.display_name,
        started_at=run.started_at,
        finished_at=run.finished_at,
        vessels=tuple(VesselOut(id=item.id, name=item.name, capacity_ml=item.capacity_ml) for item in spec.vessels.values()),
        goals={goal.property: goal.value for goal in spec.goals},
        lamport=max((event.lamport for event in state.events), default=0),
        events=tuple(event.as_data() for event in state.events),
        state=run.result if run.finished_at and run.result else run_result(state),
        rules=read_stored(run.result.get("rules", ""))
        if run.result
        else edition_words(run.snapshot.get("edition"), run.snapshot.get("rules")),
        withdrawn=run.version.withdrawal.why if hasattr(run.version, "withdrawal") else "",
        recalled=run.recalled,
        supplies=supplies_pinned(run.snapshot),
        lots=tuple(run.lots.values_list("code", flat=True)),
        rehearsal=run.rehearsal,
        shared=run.shared,
        score=run.result.get("score") if run.result else None,
        late=run.events.filter(late=True).count() if run.finished_at else 0,
        photos=tuple(PhotoOut(id=item.pk, step=item.step, at=item.at) for item in run.photos.defer("data").order_by("at", "step")),
    )


def run_of(request: HttpRequest, run_id: UUID) -> Run:
    """Returns a run that the person may see. Raises Http404 for any other."""
    found = visible_runs(member_of(request)).select_related("version__spec", "version__withdrawal", "started_by")
    return get_object_or_404(found, pk=run_id)


@router.get("/runs", response=answers(Slice[RunRow]))
def runs(request: HttpRequest, asked: Query[RunQuery]) -> Slice[RunRow]:
    """Returns runs, newest first; if only the open ones are asked for, the most urgent first."""
    member = member_of(request)
    matching = holding(asked.find, "code", "version__spec__name")
    if asked.state == "open":
        # When a batch is due follows from its events, which no column holds; few are open at a time.
        return slice_of_values(open_runs(member, matching), due_order, asked, "open runs")
    found = with_spec(visible_runs(member).filter(matching))
    if asked.state == "finished":
        found = found.exclude(finished_at=None)
    return slice_of(found, ("-started_at", "code"), asked).each(run_row)


@router.post("/runs", response={201: answers(RunOut)})
def start(request: HttpRequest, payload: StartRun) -> Status[RunOut]:
    """Starts a batch; sending it again answers with the same batch."""
    member = member_of(request)
    run = start_run(
        member,
        payload.id,
        BatchOrder(payload.spec, payload.version, payload.chosen, payload.mass_g, payload.volume_ml, payload.factor, payload.rehearsal),
    )
    return Status(201, run_view(run, folded(run, events_of(run))))


@router.get("/runs/{run_id}", response=answers(RunOut))
def run(request: HttpRequest, run_id: UUID) -> RunOut:
    """A run with everything that follows from its events."""
    found = run_of(request, run_id)
    return run_view(found, folded(found, events_of(found)))


@router.get("/runs/{run_id}/draft", response=answers(SpecForm))
def run_as_draft(request: HttpRequest, run_id: UUID, name: str) -> SpecForm:
    """A draft of a spec grown from what was really weighed in a run; nothing is kept until it is started."""
    found = run_of(request, run_id)
    return SpecForm(as_draft(folded(found, events_of(found)), name))


@router.post("/runs/{run_id}/events", response=answers(RunOut))
def record(request: HttpRequest, run_id: UUID, payload: EventsIn) -> RunOut:
    """Stores events and answers with the state of the run. Events that were stored before are skipped."""
    member = member_of(request)
    found, state = record_events(member, run_id, [event.model_dump() for event in payload.events], device_now=payload.now)
    return run_view(found, state)


@router.get("/shift", response=answers(ShiftOut))
def this_shift(request: HttpRequest) -> ShiftOut:
    """What needs attention now, what waits, what expires soon."""
    return shift(member_of(request), timezone.now())
