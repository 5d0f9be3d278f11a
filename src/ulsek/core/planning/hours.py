"""Working hours of a usual week, absences, and for which preps somebody counts as cleared."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, time, timedelta

from ..base.messages import WEEKDAYS, message
from ..base.refusals import Refusal

Week = list[list[str] | None]
"""Seven days, Monday first: the clock from and until, such as ["10:00", "18:00"]; None for a day off."""
MOST_AWAY_DAYS = 366
"""Most days of one absence [d]; a longer one ends a membership. House judgement."""


def read_span(given: Sequence[str] | None, where: str) -> tuple[time, time] | None:
    """Returns (start, end) of one day's hours; None for a day off. Raises Refusal, at `where`, for a value that is no time of day, and for hours of no length."""
    if given is None:
        return None
    such = message("such as 10:00 to 18:00")
    try:
        begins, ends = (time.fromisoformat(one) for one in given)
    except ValueError:
        raise Refusal(message("These are no hours"), where, such, message("Write both"), "unreadable") from None
    if begins == ends:
        raise Refusal(
            message("These hours end when they begin"), where, such, message("Leave the day empty if they are not in"), "out_of_bounds"
        )
    return begins, ends


def checked_hours(week: Sequence[Sequence[str] | None]) -> Week:
    """Returns a week of hours with every time written as HH:MM. Raises Refusal as `read_span` does, at the weekday, and at `week` unless there are seven days."""
    if len(week) != len(WEEKDAYS):
        raise Refusal(message("A week has seven days"), "week", message("{n} were given", n=len(week)))
    spans = [read_span(given, f"week/{WEEKDAYS[n].text().lower()}") for n, given in enumerate(week)]
    return [None if span is None else [f"{span[0]:%H:%M}", f"{span[1]:%H:%M}"] for span in spans]


def checked_absence(first: date | None, last: date | None, today: date) -> tuple[date, date]:
    """Returns (first, last day) of an absence; it begins today and lasts one day where nothing is given. Raises Refusal, at `last`, for one that is over, ends before it
    begins, or is longer than 366 days.
    """
    begins = first or today
    ends = last or begins
    if ends < today:
        raise Refusal(message("These days are over"), "last", remedy=message("Choose today or later"), code="out_of_bounds")
    if ends < begins or ends - begins > timedelta(days=MOST_AWAY_DAYS):
        raise Refusal(
            message("This is no absence"),
            "last",
            message("from its first day to its last, at most {most} days", most=MOST_AWAY_DAYS),
            message("Choose both again"),
            "out_of_bounds",
        )
    return begins, ends


def cleared_preps(given: Iterable[tuple[int, str]], preps: Iterable[str], people: Iterable[int]) -> Mapping[int, frozenset[str]]:
    """Returns for each person the preps that they are cleared for, from the clearances given as (person, prep). A prep for which nobody was cleared is open to everybody."""
    of: dict[int, set[str]] = {person: set() for person in people}
    closed: set[str] = set()
    for person, prep in given:
        closed.add(prep)
        if person in of:
            of[person].add(prep)
    everybody = set(preps) - closed
    return {person: frozenset(own | everybody) for person, own in of.items()}
