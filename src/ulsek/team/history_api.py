"""What was done in a house, by whom and when: listed by filters, and as a table."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from pydantic import Field

from ulsek.core.base.tables import csv_text

from .access import Member, member_of
from .answer import answers
from .listing import ListQuery, Slice, holding, slice_of
from .models import HistoryRow
from .schema import Schema

router = Router(tags=["history"])
MOST_EXPORTED = 100_000
"""Most rows of the table [count]; the newest are taken."""


class Wanted(Schema):
    """Filters of the history: a person's id, a kind of act, and a first and last day on the house's calendar, both included. An empty filter selects everything."""

    person: int | None = None
    action: str = Field("", max_length=40)
    since: date | None = None
    until: date | None = None


class HistoryQuery(ListQuery, Wanted):
    """Filters of the history as a list. `find` searches the names of the things that were changed."""


class TableQuery(Wanted):
    """Filters of the history as a table. `find` searches the names of the things that were changed."""

    find: str = Field("", max_length=200)


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryItem:
    """One act: when, by whom, which, and to what."""

    id: int
    at: datetime
    by: str
    action: str
    subject: str


def _wanted(member: Member, asked: HistoryQuery | TableQuery) -> QuerySet[HistoryRow]:
    found = HistoryRow.objects.filter(holding(asked.find, "subject"), house=member.house).select_related("person")
    if asked.person is not None:
        found = found.filter(person=asked.person)
    if asked.action:
        found = found.filter(action=asked.action)
    if asked.since:
        found = found.filter(at__gte=member.house.day_ends(asked.since - timedelta(days=1)))
    if asked.until:
        found = found.filter(at__lt=member.house.day_ends(asked.until))
    return found


@router.get("/history", response=answers(Slice[HistoryItem]))
def history(request: HttpRequest, asked: Query[HistoryQuery]) -> Slice[HistoryItem]:
    """Returns what was done in the house, the newest first."""

    def item_of(row: HistoryRow) -> HistoryItem:
        return HistoryItem(id=row.pk, at=row.at, by=row.person.display_name, action=row.action, subject=row.subject)

    return slice_of(_wanted(member_of(request), asked), ("-at", "-pk"), asked).each(item_of)


@router.get("/history/kinds", response=answers(tuple[str, ...]))
def kinds(request: HttpRequest) -> list[str]:
    """Returns the kinds of act that stand in the history of the house, by name."""
    found = HistoryRow.objects.filter(house=member_of(request).house).order_by("action").values_list("action", flat=True)
    return list(found.distinct())


@router.get("/history.csv", response={200: None})
def as_table(request: HttpRequest, asked: Query[TableQuery]) -> HttpResponse:
    """The same as a table in CSV: moment on the house's clock, person, act, what it was done to."""
    member = member_of(request)
    found = _wanted(member, asked).order_by("-at")[:MOST_EXPORTED]

    def lines() -> Iterator[tuple[str, ...]]:
        yield ("at", "by", "act", "what")
        for row in found.iterator():
            yield (member.local(row.at).isoformat(timespec="seconds"), row.person.display_name, row.action, row.subject)

    answer = HttpResponse(csv_text(lines()), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="history.csv"'
    return answer
