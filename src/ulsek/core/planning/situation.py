"""The situation that a list is made for: days, what must stand there, what stands there, who is in, what can be delivered. Times are minutes from now."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta

from ..base.messages import WEEKDAYS, Day, Message, Moment, message
from .house_experience import figure
from .poured import Poured
from .prep_facts import PrepFacts

_NAMED_BY_WEEKDAY_MIN = 6 * 1440.0
"""A moment further ahead is written with its date, since its weekday could be two days [min]."""


@dataclass(frozen=True, slots=True)
class PlanDay:
    """A day of the house, from when it opens to when it ends [min from now]. The first of a situation is today."""

    day: date
    opens_min: float
    ends_min: float


@dataclass(frozen=True, slots=True)
class Supply:
    """Stock of a prep, in bottles or under way: `left_ml` [mL] that may be used from `ready_min` until `past_min` [min from now]."""

    key: str
    code: str
    left_ml: float
    ready_min: float
    past_min: float


def expected_ready_min(facts: PrepFacts, began_min: float, waits_until_min: float | None) -> float:
    """Returns when a batch under way is expected to be ready [min from now]: its start plus the time that it takes, not before its present wait ends. An overdue one is expected
    in a quarter of an hour. Source: the spec's own times; house experience.
    """
    return max(figure("overdue_ready_min"), began_min + facts.takes_min, waits_until_min or 0.0)


@dataclass(frozen=True, slots=True)
class Window:
    """A time during which somebody is in and has time for preps [min from now]."""

    from_min: float
    until_min: float


@dataclass(frozen=True, slots=True)
class Worker:
    """Somebody who makes preps: when they are in, for which preps they are cleared (None: nobody has given clearances), and whether they are away today."""

    key: str
    name: str
    windows: tuple[Window, ...]
    cleared: frozenset[str] | None = None
    is_away: bool = False

    def is_cleared(self, prep: str) -> bool:
        """Returns True for a prep that they are cleared for. A clearance is a preference here, no lock."""
        return self.cleared is None or prep in self.cleared


@dataclass(frozen=True, slots=True)
class Coming:
    """A quantity of a material that is ordered already: `mass_g` [g] at `at_min` [min from now]."""

    at_min: float
    mass_g: float


@dataclass(frozen=True, slots=True)
class MaterialSupply:
    """A bought material: what is here [g], and the next delivery of its supplier if it is ordered by `order_by_min` [min from now].

    `arrives_min` is None if nobody delivers it within the days of the situation; `following_min` is the first that can be ordered once that has come. `price` of a pack of `pack_g` [g] in the house's currency; None if nobody knows it.
    """

    key: str
    name: str
    here_g: float
    supplier: str = ""
    order_by_min: float | None = None
    arrives_min: float | None = None
    pack_g: float = 0.0
    price: str | None = None
    coming: tuple[Coming, ...] = ()
    following_min: float | None = None


@dataclass(frozen=True, slots=True)
class Wish:
    """What somebody decided about today's list for one prep: who makes it, how many bottles (None: as worked out; 0: not today); `extra` puts it on the list whether or
    not it is needed.
    """

    key: str
    worker: str = ""
    bottles: int | None = None
    extra: bool = False


@dataclass(frozen=True, slots=True)
class Situation:
    """Everything that a list follows from. `must` and `use` [mL]: for each prep and day (as `days`) what must stand there when it opens, and what is expected to be used.

    `poured` is what goes straight into drinks, by material. `now` is a moment in the house's zone. `by_the_clock` is True if the house has said of nobody when they are in: then a list has no names.
    """

    now: datetime
    days: tuple[PlanDay, ...]
    preps: Mapping[str, PrepFacts]
    must: Mapping[str, tuple[float, ...]]
    use: Mapping[str, tuple[float, ...]]
    supplies: tuple[Supply, ...] = ()
    workers: tuple[Worker, ...] = ()
    by_the_clock: bool = False
    materials: Mapping[str, MaterialSupply] = field(default_factory=dict)
    wishes: Mapping[str, Wish] = field(default_factory=dict)
    poured: Mapping[str, Poured] = field(default_factory=dict)

    @property
    def away(self) -> tuple[str, ...]:
        """Names of the people who are away today, in alphabetical order."""
        return tuple(sorted(worker.name for worker in self.workers if worker.is_away))

    def at(self, at_min: float) -> datetime:
        """Returns a moment, in the house's zone; through a change of its clock too."""
        return (self.now.astimezone(UTC) + timedelta(minutes=at_min)).astimezone(self.now.tzinfo)

    def when(self, at_min: float) -> Message:
        """Returns the words of a moment: "Friday 18:00", or "18 Dec, 18:00" if it is further ahead than a week."""
        at = self.at(at_min)
        if at_min < _NAMED_BY_WEEKDAY_MIN:
            return message("{moment}", moment=Moment(f"{at:%Y-%m-%dT%H:%M}"))
        return message("{day}, {clock}", day=Day(at.date().isoformat()), clock=f"{at:%H:%M}")

    def day_words(self, index: int) -> Message:
        """Returns the name of a day: "Friday", or "18 Dec" if it is a week ahead or more."""
        day = self.days[index].day
        return WEEKDAYS[day.weekday()] if index < len(WEEKDAYS) else message("{day}", day=Day(day.isoformat()))

    def day_index(self, at_min: float) -> int:
        """Returns the position of the day in which a moment lies; the last one for a moment after all of them."""
        return next((n for n, day in enumerate(self.days) if at_min < day.ends_min), len(self.days) - 1)

    def past_min(self, counted_min: float, keeps_days: int) -> float:
        """Returns the end [min from now] of the last day of something that keeps `keeps_days` days, counted from the day of `counted_min` [min from now, 0 or later], which
        is day 1. Infinity if that is after the last day of the situation.
        """
        last = self.day_index(counted_min) + keeps_days - 1
        return self.days[last].ends_min if last < len(self.days) else float("inf")
