"""Bench over HTTP, besides events: offline folding, rehearsals, labels, pictures, decided amounts, containers, waits as a calendar."""

from __future__ import annotations

import base64
import binascii
from datetime import UTC
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from icalendar import Alarm, Calendar, Event
from ninja import Query, Router, Status

from ulsek.core import CORE_VERSION
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.run.device_clocks import moment
from ulsek.core.run.rehearsal import InstrumentsShown, shown
from ulsek.devices.label import pdf_answer
from ulsek.devices.schemas import PrintIn, PrintOut
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of

from .actions.keep_container import clean_container, keep_container
from .actions.keep_photo import keep_photo
from .actions.print_labels import labels_of, print_labels
from .actions.share_rehearsal import share_rehearsal
from .actions.take_into_draft import take_into_draft
from .api import run_of
from .folding import events_of, folded
from .models import Container
from .queries import due, open_runs
from .schemas import (
    ContainerIn,
    ContainerOut,
    OfflineOut,
    PhotoIn,
    PhotoOut,
    ScannedOut,
    SupplyOut,
    TakenOut,
)
from .supplies import pinned_supplies, supplies_of, supply_scanned

router = Router(tags=["bench"])


@router.get("/runs/{run_id}/offline", response=answers(OfflineOut))
def offline(request: HttpRequest, run_id: UUID) -> OfflineOut:
    """What this run pinned, and its possible supplies, for a browser that folds it without the network."""
    run = run_of(request, run_id)
    materials = {**pinned_supplies(member_of(request), run), **run.snapshot["materials"]}
    pinned = {name: run.snapshot.get(name) or {} for name in ("spec", "rules", "learned")}
    return OfflineOut(core=CORE_VERSION, materials=materials, **pinned)


@router.get("/runs/{run_id}/supplies", response=answers(tuple[SupplyOut, ...]))
def supplies(request: HttpRequest, run_id: UUID) -> list[SupplyOut]:
    """Every delivery and lot that a line of this run can be taken from, and how much each still makes."""
    return supplies_of(member_of(request), run_of(request, run_id))


@router.get("/runs/{run_id}/supplies/scanned", response=answers(ScannedOut))
def scanned(request: HttpRequest, run_id: UUID, line: str, code: str) -> ScannedOut:
    """The delivery or lot of a scanned or typed code, for one line."""
    run = run_of(request, run_id)
    return ScannedOut(supply=supply_scanned(member_of(request), run, folded(run, events_of(run)), line, code))


@router.get("/runs/{run_id}/rehearsal", response=answers(InstrumentsShown))
def rehearsal(request: HttpRequest, run_id: UUID) -> InstrumentsShown:
    """What the simulated instruments of a rehearsal show now."""
    run = run_of(request, run_id)
    if not run.rehearsal:
        raise Refusal(
            message("{run} is a real batch", run=run.code), "run", remedy=message("Read the real instruments"), code="not_a_rehearsal"
        )
    return shown(folded(run, events_of(run)), str(run.pk))


@router.post("/runs/{run_id}/share", response={204: None})
def share(request: HttpRequest, run_id: UUID) -> Status[None]:
    """Lets the house see one's own rehearsal."""
    share_rehearsal(member_of(request), run_of(request, run_id).pk)
    return Status(204, None)


@router.get("/runs/{run_id}/labels.pdf", response={200: None})
def labels(request: HttpRequest, run_id: UUID, size: str = "100x70", each: int | None = None) -> HttpResponse:
    """All labels of a batch as one PDF; while it waits, the one for its vessel."""
    run = run_of(request, run_id)
    return pdf_answer(labels_of(member_of(request), run, each), size, run.code)


@router.post("/runs/{run_id}/print", response=answers(PrintOut))
def print_all(request: HttpRequest, run_id: UUID, payload: PrintIn) -> PrintOut:
    """All labels of a batch on a label printer."""
    return PrintOut(printed=print_labels(member_of(request), run_of(request, run_id), payload.printer, payload.size, payload.each))


@router.post("/runs/{run_id}/photos", response={201: answers(PhotoOut)})
def photo(request: HttpRequest, run_id: UUID, payload: PhotoIn) -> Status[PhotoOut]:
    """Keeps a picture of a batch."""
    try:
        data = base64.b64decode(payload.data, validate=True)
    except (binascii.Error, ValueError):
        raise Refusal(message("The picture cannot be read"), "data", message("base64"), message("Take it again")) from None
    kept = keep_photo(member_of(request), run_of(request, run_id), payload.step, payload.media_type, data)
    return Status(201, PhotoOut(id=kept.pk, step=kept.step, at=kept.at))


@router.get("/runs/{run_id}/photos/{photo_id}", response={200: None})
def one_photo(request: HttpRequest, run_id: UUID, photo_id: int) -> HttpResponse:
    """One picture."""
    found = get_object_or_404(run_of(request, run_id).photos, pk=photo_id)
    answer = HttpResponse(bytes(found.data), content_type=found.media_type)
    answer["Cache-Control"] = "private, max-age=86400"
    return answer


@router.post("/runs/{run_id}/into-draft", response=answers(TakenOut))
def into_draft(request: HttpRequest, run_id: UUID) -> TakenOut:
    """Puts what was decided by taste into the draft of the spec."""
    run = run_of(request, run_id)
    taken = take_into_draft(member_of(request), run, folded(run, events_of(run)))
    return TakenOut(spec=run.version.spec_id, taken=taken)


@router.get("/waits.ics", response={200: None})
def waits(request: HttpRequest) -> HttpResponse:
    """Every wait of the house as a calendar, with an alarm at its end."""
    calendar = Calendar()
    calendar.add("prodid", "-//Ulsek//waits//EN")
    calendar.add("version", "2.0")
    for run in open_runs(member_of(request)):
        if not run.waiting or run.rehearsal:
            continue
        until = due(run).astimezone(UTC)
        event = Event()
        event.add("uid", f"{run.id}-{run.number}@ulsek")
        event.add("dtstamp", moment(str(run.waiting["since"])).astimezone(UTC))
        event.add("dtstart", until)
        event.add("dtend", until)
        event.add("summary", f"{run.name}: {run.step}")
        event.add("description", f"Batch {run.code}: hands now.")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", f"{run.name}: hands now")
        alarm.add("trigger", until)
        event.add_component(alarm)
        calendar.add_component(event)
    answer = HttpResponse(calendar.to_ical(), content_type="text/calendar")
    answer["Content-Disposition"] = 'attachment; filename="waits.ics"'
    return answer


def _container_row(item: Container) -> ContainerOut:
    return ContainerOut(
        id=item.pk,
        name=item.name,
        tare_g=item.tare_g,
        capacity_ml=item.capacity_ml,
        holds=item.holds.code if item.holds else None,
        last_contents=item.last_contents,
        last_allergens=tuple(item.last_allergens),
        cleaned_at=item.cleaned_at,
        cleaned_by=item.cleaned_by.display_name if item.cleaned_by else None,
    )


@router.get("/containers", response=answers(Slice[ContainerOut]))
def containers(request: HttpRequest, asked: Query[ListQuery]) -> Slice[ContainerOut]:
    """Returns the containers of the house, by name."""
    found = Container.objects.filter(holding(asked.find, "name"), house=member_of(request).house).select_related("holds", "cleaned_by")
    return slice_of(found, ("name", "pk"), asked).each(_container_row)


@router.post("/containers", response={201: answers(ContainerOut)})
def new_container(request: HttpRequest, payload: ContainerIn) -> Status[ContainerOut]:
    """A container, weighed empty."""
    return Status(201, _container_row(keep_container(member_of(request), payload.name, payload.tare_g, payload.capacity_ml)))


@router.put("/containers/{key}", response=answers(ContainerOut))
def change_container(request: HttpRequest, key: int, payload: ContainerIn) -> ContainerOut:
    """A container weighed again, or named anew."""
    return _container_row(keep_container(member_of(request), payload.name, payload.tare_g, payload.capacity_ml, key=key))


@router.post("/containers/{key}/cleaned", response=answers(ContainerOut))
def cleaned(request: HttpRequest, key: int) -> ContainerOut:
    """Marks a container as empty and clean."""
    return _container_row(clean_container(member_of(request), key))
