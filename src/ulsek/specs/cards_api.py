"""Cards over HTTP, a booklet of several, and start times."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Query, Router

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.results.spec_card import SecondMeasure
from ulsek.core.run.start_times import StartTime, start_by
from ulsek.team.access import member_of
from ulsek.team.answer import answers
from ulsek.team.models import House
from ulsek.team.schema import Schema

from .allergens import allergens_of
from .card_pdf import cards_pdf
from .cards import CardAsked, card_of
from .library import made_of, on_shelf
from .library_schemas import AllergensOut, CardOut
from .models import Spec, Version
from .projection import material_key_of

router = Router(tags=["cards"])
MOST_CARDS = 40


class CardQuery(Schema):
    language: str | None = None
    volume_ml: float | None = None
    serves: float | None = None
    have_g: float | None = None
    times: float | None = None
    resolution_g: float | None = None
    beside: SecondMeasure = "nothing"
    chosen: str = ""

    def asked(self) -> CardAsked:
        return CardAsked(**self.dict())


def _versions() -> Any:
    return Version.objects.select_related("spec__house", "spec__newest", "author", "withdrawal__successor")


def _newest(house: House, spec_id: UUID, number: int | None) -> Version:
    spec = get_object_or_404(Spec, pk=spec_id, house=house)
    wanted = _versions().filter(spec=spec)
    found: Version | None = wanted.filter(number=number).first() if number else wanted.filter(pk=spec.newest_id).first()
    if found is None:
        raise Refusal(
            message("This spec has no such version") if number else message("This spec has never been published"),
            "number",
            remedy=message("Check and publish it"),
            code="not_published",
        )
    return found


@router.get("/specs/{spec_id}/card", response=answers(CardOut))
def show_card(request: HttpRequest, spec_id: UUID, asked: Query[CardQuery], number: int | None = None) -> CardOut:
    """The card of the newest version, or of one by number."""
    return card_of(_newest(member_of(request).house, spec_id, number), asked.asked())


def _pdf(cards: list[CardOut], name: str) -> HttpResponse:
    answer = HttpResponse(cards_pdf(cards, name), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return answer


@router.get("/specs/{spec_id}/card.pdf", response={200: None})
def card_file(request: HttpRequest, spec_id: UUID, asked: Query[CardQuery], number: int | None = None) -> HttpResponse:
    """The card as PDF."""
    version = _newest(member_of(request).house, spec_id, number)
    return _pdf([card_of(version, asked.asked())], version.spec.key)


@router.get("/booklet.pdf", response={200: None})
def booklet(request: HttpRequest, asked: Query[CardQuery], specs: str = "") -> HttpResponse:
    """Cards of several specs (ids separated by commas), or of every published one, as one PDF."""
    house = member_of(request).house
    try:
        ids = [UUID(item) for item in specs.split(",") if item]
    except ValueError:
        raise Refusal(message("A spec's id cannot be read"), "specs", remedy=message("Choose the specs again"), code="unreadable") from None
    if len(ids) > MOST_CARDS:
        raise Refusal(
            message("That is too many for one booklet"),
            "specs",
            message("at most {most}", most=MOST_CARDS),
            message("Make two"),
            "out_of_bounds",
        )
    wanted = Spec.objects.filter(house=house, state="published")
    chosen = wanted.filter(pk__in=ids) if ids else wanted
    newest = list(_versions().filter(pk__in=chosen.values("newest")).order_by("spec__family", "spec__name")[:MOST_CARDS])
    if not newest:
        raise Refusal(message("There is nothing to print"), "specs", remedy=message("Publish a spec first"), code="empty")
    return _pdf([card_of(version, asked.asked()) for version in newest], "booklet")


def _starts(house: House, spec_id: UUID, at: str) -> list[StartTime]:
    spec = get_object_or_404(Spec, pk=spec_id, house=house)
    try:
        moment = datetime.fromisoformat(at)
    except ValueError:
        raise Refusal(
            message("“{at}” is no moment", at=at), "at", remedy=message("Write it as 2026-11-27T18:00+01:00"), code="unreadable"
        ) from None
    if moment.tzinfo is None:
        moment = moment.replace(tzinfo=house.clock)
    return start_by(material_key_of(spec.key), moment, timezone.now(), made_of(house), on_shelf(house))


@router.get("/specs/{spec_id}/start-by", response=answers(tuple[StartTime, ...]))
def when_to_start(request: HttpRequest, spec_id: UUID, at: str) -> list[StartTime]:
    """When to start a spec, and every prep below it that is not on the shelf, so that it is ready `at`."""
    return _starts(member_of(request).house, spec_id, at)


@router.get("/specs/{spec_id}/start-by.ics", response={200: None})
def calendar(request: HttpRequest, spec_id: UUID, at: str) -> HttpResponse:
    """The start times as iCalendar, an entry for each start."""
    from icalendar import Calendar, Event

    house = member_of(request).house
    out = Calendar()
    out.add("prodid", "-//Ulsek//start by//EN")
    out.add("version", "2.0")
    for item in _starts(house, spec_id, at):
        entry = Event()
        entry.add("uid", f"{spec_id}-{item.key}-{item.ready_by:%Y%m%dT%H%M}@ulsek")
        entry.add("dtstamp", timezone.now())
        entry.add("dtstart", item.start_by)
        entry.add("dtend", item.ready_by)
        entry.add("summary", f"Start {item.name}" + (f" (for {item.needed_for})" if item.needed_for else ""))
        entry.add("description", "It is too late for this one." if item.too_late else f"Ready by {item.ready_by:%H:%M}.")
        out.add_component(entry)
    answer = HttpResponse(out.to_ical(), content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="start-by.ics"'
    return answer


@router.get("/specs/{spec_id}/allergens", response=answers(AllergensOut))
def allergens(request: HttpRequest, spec_id: UUID) -> AllergensOut:
    """The allergens of a drink; for a prep, the drinks that contain it."""
    house = member_of(request).house
    return allergens_of(get_object_or_404(Spec.objects.select_related("newest__spec__house", "house"), pk=spec_id, house=house))
