"""The plan over HTTP."""

from __future__ import annotations

from datetime import date
from typing import cast
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Status

from ulsek.core.planning.ordering import SupplierTerms
from ulsek.core.planning.pars import DayChange as ChangedDay
from ulsek.team.access import member_of
from ulsek.team.answer import answers

from .actions.change_list import Decision, as_worked_out, change_list
from .actions.keep_hours import come_back, go_away, keep_hours
from .actions.keep_par import change_day, keep_par, keep_par_by_use, usual_day
from .actions.keep_terms import keep_terms
from .papers import list_calendar, list_html, list_text
from .queries import change_row, day_changes, hours, pars, suppliers, terms_row, today
from .schemas import (
    AwayIn,
    AwayOut,
    DayChangeIn,
    DayChangeOut,
    HoursIn,
    HoursOut,
    ListWishIn,
    ParIn,
    ParOut,
    TermsIn,
    TermsOut,
    TodayOut,
)

router = Router(tags=["planning"])


@router.get("/plan/today", response=answers(TodayOut))
def todays_list(request: HttpRequest) -> TodayOut:
    """Today's list in order, what misses its day, what to order, and how long everything lasts."""
    return today(member_of(request), timezone.now())


@router.patch("/plan/today/{spec_id}", response={204: None})
def decide(request: HttpRequest, spec_id: UUID, payload: ListWishIn) -> Status[None]:
    """Says who makes a prep today, how many bottles, or that it is made in any case; what is left out stays as it was."""
    change_list(member_of(request), spec_id, cast(Decision, payload.dict(exclude_unset=True)))
    return Status(204, None)


@router.delete("/plan/today/{spec_id}", response={204: None})
def undecide(request: HttpRequest, spec_id: UUID) -> Status[None]:
    """Takes back what was said about a prep today."""
    as_worked_out(member_of(request), spec_id)
    return Status(204, None)


@router.get("/plan/list.pdf", response={200: None})
def list_pdf(request: HttpRequest) -> HttpResponse:
    """Today's list as a page of paper."""
    from weasyprint import HTML

    member = member_of(request)
    answer = HttpResponse(HTML(string=list_html(member, today(member, timezone.now()))).write_pdf(), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="to-make.pdf"'
    return answer


@router.get("/plan/list.txt", response={200: None})
def list_as_text(request: HttpRequest) -> HttpResponse:
    """Today's list as plain text, to be sent."""
    member = member_of(request)
    return HttpResponse(list_text(member, today(member, timezone.now())), content_type="text/plain; charset=utf-8")


@router.get("/plan/list.ics", response={200: None})
def list_as_calendar(request: HttpRequest) -> HttpResponse:
    """Today's list as iCalendar, an entry for each time that a batch needs hands."""
    member = member_of(request)
    answer = HttpResponse(list_calendar(member, today(member, timezone.now())), content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="to-make.ics"'
    return answer


@router.get("/plan/pars", response=answers(tuple[ParOut, ...]))
def par_table(request: HttpRequest) -> list[ParOut]:
    """Every prep with its par, those that have one first."""
    return pars(member_of(request))


@router.put("/plan/pars/{spec_id}", response={204: None})
def set_par(request: HttpRequest, spec_id: UUID, payload: ParIn) -> Status[None]:
    """Sets the par of a prep [mL], Monday first; an empty list ends it."""
    keep_par(member_of(request), spec_id, payload.must_ml)
    return Status(204, None)


@router.post("/plan/pars/{spec_id}/by-use", response={204: None})
def par_by_use(request: HttpRequest, spec_id: UUID) -> Status[None]:
    """Sets the par of a prep as it follows from what was used of it."""
    keep_par_by_use(member_of(request), spec_id)
    return Status(204, None)


@router.get("/plan/days", response=answers(tuple[DayChangeOut, ...]))
def days(request: HttpRequest) -> list[DayChangeOut]:
    """The days from today on that are not usual."""
    return day_changes(member_of(request))


@router.put("/plan/days/{day}", response=answers(DayChangeOut))
def set_day(request: HttpRequest, day: date, payload: DayChangeIn) -> DayChangeOut:
    """Makes a day unusual."""
    return change_row(change_day(member_of(request), ChangedDay(day, payload.name, payload.times, payload.must_ml)))


@router.delete("/plan/days/{day}", response={204: None})
def unset_day(request: HttpRequest, day: date) -> Status[None]:
    """Makes a day a usual one again."""
    usual_day(member_of(request), day)
    return Status(204, None)


@router.get("/plan/people", response=answers(tuple[HoursOut, ...]))
def rota(request: HttpRequest) -> list[HoursOut]:
    """Everybody who makes things, with their hours and absences."""
    return hours(member_of(request))


@router.put("/plan/people/{person_id}/hours", response={204: None})
def set_hours(request: HttpRequest, person_id: int, payload: HoursIn) -> Status[None]:
    """Sets somebody's hours, Monday first; an empty list says nothing of them."""
    keep_hours(member_of(request), person_id, payload.week)
    return Status(204, None)


@router.post("/plan/people/{person_id}/away", response={201: answers(AwayOut)})
def away(request: HttpRequest, person_id: int, payload: AwayIn) -> Status[AwayOut]:
    """Says that somebody is away, by default today. Why is not asked."""
    found = go_away(member_of(request), person_id, payload.first, payload.last)
    return Status(201, AwayOut(id=found.pk, first=found.first, last=found.last))


@router.delete("/plan/away/{away_id}", response={204: None})
def back(request: HttpRequest, away_id: int) -> Status[None]:
    """Says that somebody is in after all."""
    come_back(member_of(request), away_id)
    return Status(204, None)


@router.get("/plan/suppliers", response=answers(tuple[TermsOut, ...]))
def supplier_terms(request: HttpRequest) -> list[TermsOut]:
    """The suppliers of the register, and when they deliver."""
    return suppliers(member_of(request))


@router.put("/plan/suppliers/{entry_id}", response=answers(TermsOut))
def set_terms(request: HttpRequest, entry_id: UUID, payload: TermsIn) -> TermsOut:
    """Sets the delivery days, order cut-off and arrival time of a supplier."""
    found = keep_terms(
        member_of(request), entry_id, SupplierTerms(tuple(payload.weekdays), payload.cut_off, payload.lead_days, payload.arrives)
    )
    return terms_row(found.supplier, found.terms, is_usual=False)
