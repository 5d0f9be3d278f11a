"""Requests and answers about the plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, time
from uuid import UUID

from ninja import Field

from ulsek.core.base.messages import Message
from ulsek.core.planning.day_list import DayList
from ulsek.core.planning.left_over import LeftOver
from ulsek.core.planning.ordering import ToOrder
from ulsek.team.schema import Schema


@dataclass(frozen=True, slots=True, kw_only=True)
class BegunToday:
    """A batch that was begun today: `makes_ml` is what it is expected to give; `finished_at` is null while it is under way."""

    run: UUID
    code: str
    spec: UUID
    name: str
    makes_ml: float
    by: str
    started_at: datetime
    finished_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkerOut:
    """Somebody who makes preps, and whether they are away today."""

    person: int
    name: str
    is_away: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PrepRef:
    """The spec of a prep, and what was decided about it today: who, how many bottles, made in any case (all empty: nothing)."""

    spec: UUID
    name: str
    family: str
    person: int | None
    bottles: int | None
    extra: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class TodayOut:
    """Today's list, with the spec of each prep by its key, what was begun today already, who could make things, what to order for it, and what it leaves over.

    `pars` is the count of preps that have a par: without any there is no list.
    """

    list: DayList
    preps: Mapping[str, PrepRef]
    begun: tuple[BegunToday, ...]
    workers: tuple[WorkerOut, ...]
    orders: tuple[ToOrder, ...]
    left_over: tuple[LeftOver, ...]
    pars: int
    opens_at: datetime
    changed: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ByUse:
    """The par that follows from what was used [mL], Monday first, and what it rests on."""

    must_ml: tuple[float, ...]
    days: int
    said: Message


@dataclass(frozen=True, slots=True, kw_only=True)
class ParOut:
    """A prep and its par [mL], Monday first; null for one without. `bottle_ml` is the size of its bottle; `by_use` is null where too little was noted."""

    spec: UUID
    key: str
    name: str
    family: str
    must_ml: tuple[float, ...] | None
    bottle_ml: float
    keeps_days: int
    takes_min: float
    by_use: ByUse | None


class ParIn(Schema):
    must_ml: list[float] = Field(min_length=0, max_length=14)


@dataclass(frozen=True, slots=True, kw_only=True)
class DayChangeOut:
    """A day that is not usual; `must_ml` [mL] by the key of a prep."""

    day: date
    name: str
    times: float
    must_ml: Mapping[str, float]


class DayChangeIn(Schema):
    """A day that is not usual: its name, how many times a usual day it is, and for some preps how much must stand there [mL]."""

    name: str = ""
    times: float = 1.0
    must_ml: dict[str, float] = Field(default_factory=dict, max_length=400)


@dataclass(frozen=True, slots=True, kw_only=True)
class AwayOut:
    """From when to when somebody is away, both days counted."""

    id: int
    first: date
    last: date


@dataclass(frozen=True, slots=True, kw_only=True)
class HoursOut:
    """A maker's hours of a usual week and their absences from today on. `week` is null if no hours are recorded; else seven days, Monday first, each the clock from and until, or
    null for a day off.
    """

    person: int
    name: str
    week: tuple[tuple[str, str] | None, ...] | None
    away: tuple[AwayOut, ...]


class HoursIn(Schema):
    week: list[list[str] | None] = Field(max_length=14)


class AwayIn(Schema):
    """From when to when somebody is away; without days: today."""

    first: date | None = None
    last: date | None = None


class ListWishIn(Schema):
    """What is decided about one prep of today's list: who makes it (null: whoever is free), how many bottles (null: as worked out; 0: not today), and whether it is made in any
    case. What is left out stays as it was.
    """

    person: int | None = None
    bottles: int | None = Field(default=None, ge=0, le=1000)
    extra: bool | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TermsOut:
    """When a supplier of the register delivers; `is_usual` marks one of whom nobody has said, for whom the usual terms count."""

    entry: UUID
    supplier: str
    weekdays: tuple[int, ...]
    cut_off: str
    lead_days: int
    arrives: str
    is_usual: bool


class TermsIn(Schema):
    """When a supplier delivers: days of the week (0 is Monday), by when to order and so many days before, and when it comes."""

    weekdays: list[int] = Field(max_length=7)
    cut_off: time
    lead_days: int
    arrives: time
