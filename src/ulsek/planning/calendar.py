"""Days of the house and hours of its people as minutes from now, through a change of the clock."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, datetime, time, timedelta

from ulsek.core.planning.hours import Week, read_span
from ulsek.core.planning.house_experience import figure
from ulsek.core.planning.situation import PlanDay, Window
from ulsek.team.models import House

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
    """Returns the aware datetime of a clock time on a business day of the house. A time before the hour at which its day turns lies on the next date of the calendar."""
    return datetime.combine(day + timedelta(days=clock < house.day_turns), clock, house.clock)


def windows_of(house: House, week: Week, days: Iterable[PlanDay], now: datetime) -> tuple[Window, ...]:
    """Returns the working hours of a person on the given days [min from now]; hours that are over are omitted. Hours that end before they begin last into the next day."""
    found = []
    for day in days:
        span = read_span(week[day.day.weekday()], "week")
        if span is None:
            continue
        begins, ends = (minutes_from(now, moment_of(house, day.day, clock)) for clock in span)
        if ends <= begins:
            ends = minutes_from(now, moment_of(house, day.day + timedelta(days=1), span[1]))
        if ends > 0.0:
            found.append(Window(max(0.0, begins), ends))
    return tuple(found)
