"""Days of the house and hours of its people as minutes from now, through a change of the clock."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date, datetime, time, timedelta
from typing import Any

from ulsek.core.base.messages import WEEKDAYS, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.house_experience import figure
from ulsek.core.planning.situation import PlanDay, Window
from ulsek.team.models import House

_WEEK = 7
_MINUTE = 60.0


def minutes_from(now: datetime, at: datetime) -> float:
    """Returns how far a moment is from now [min]; negative for one that is over."""
    return (at.timestamp() - now.timestamp()) / _MINUTE


def days_of(house: House, now: datetime) -> tuple[PlanDay, ...]:
    """Returns the days that a list looks at, today first, each with its opening and its end [min from now]."""
    first = house.day(now)
    days = [first + timedelta(days=n) for n in range(int(figure("horizon_days")))]
    return tuple(
        PlanDay(day, minutes_from(now, moment_of(house, day, house.service_from)), minutes_from(now, house.day_ends(day))) for day in days
    )


def moment_of(house: House, day: date, clock: time) -> datetime:
    """Returns the moment of a time on the clock within a day of the house: one before the day turns belongs to the night after."""
    return datetime.combine(day + timedelta(days=clock < house.day_turns), clock, house.clock)


def _span(given: Any, where: str) -> tuple[time, time] | None:
    if given is None:
        return None
    try:
        begins, ends = (time.fromisoformat(str(one)) for one in given)
    except (TypeError, ValueError):
        raise Refusal(
            message("These are no hours"), where, message("such as 10:00 to 18:00"), message("Write both"), "unreadable"
        ) from None
    if begins == ends:
        raise Refusal(
            message("These hours end when they begin"),
            where,
            message("such as 10:00 to 18:00"),
            message("Leave the day empty if they are not in"),
            "out_of_bounds",
        )
    return begins, ends


def checked_hours(week: Sequence[Any]) -> list[list[str] | None]:
    """Returns the hours of a week as they are stored, Monday first. Raises Refusal, at the day, for what is no time, and for other than seven days."""
    if len(week) != _WEEK:
        raise Refusal(message("A week has seven days"), "week", message("{n} were given", n=len(week)))
    spans = [_span(given, f"week/{WEEKDAYS[n].text().lower()}") for n, given in enumerate(week)]
    return [None if span is None else [f"{span[0]:%H:%M}", f"{span[1]:%H:%M}"] for span in spans]


def windows_of(house: House, week: Sequence[Any], days: Iterable[PlanDay], now: datetime) -> tuple[Window, ...]:
    """Returns when somebody is in on each of the days [min from now], what is over left out. Hours that end before they begin go on into the night."""
    found = []
    for day in days:
        span = _span(week[day.day.weekday()], "week")
        if span is None:
            continue
        begins, ends = (minutes_from(now, moment_of(house, day.day, clock)) for clock in span)
        if ends <= begins:
            ends = minutes_from(now, moment_of(house, day.day + timedelta(days=1), span[1]))
        if ends > 0.0:
            found.append(Window(max(0.0, begins), ends))
    return tuple(found)
