"""What cut plans take and answer."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Field

from ulsek.core.base.answer import OpenForm, StoredAs, json_member
from ulsek.team.schema import Schema

Wanted = Literal["juice", "zest", "peel", "wheels", "whole", "stretched", "oil_sugar", "spec"]


class PlanCase(Schema):
    case: str
    count: int | None = None


class PlanWant(Schema):
    """Something wanted by a time: a kind, a made thing, or a batch of a published spec."""

    what: Wanted
    fruits: list[str] = Field(default_factory=list)
    amount: float = 0.0
    times: float | None = None
    spec: str | None = None
    by: datetime
    name: str = ""
    day_old: bool = False


class PlanIn(Schema):
    name: str = ""
    cases: list[PlanCase]
    wants: list[PlanWant]
    order: bool = False


@dataclass(frozen=True, slots=True)
class PlannedCase:
    """A case that a plan may use, and how many fruits of it; None for all."""

    case: str
    count: int | None = field(default=None, metadata=json_member(stored=None))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedWant:
    """A stored request of a plan: a kind of yield, a product or a batch of a spec, its amount, and when it is needed."""

    what: Wanted
    fruits: tuple[str, ...] = field(metadata=json_member(stored=()))
    amount: float = field(metadata=json_member(stored=0.0))
    times: float | None = field(metadata=json_member(stored=None))
    spec: str | None = field(metadata=json_member(stored=None))
    by: datetime
    name: str = field(metadata=json_member(stored=""))
    day_old: bool = field(metadata=json_member(stored=False))


@dataclass(frozen=True, slots=True)
class Span:
    """Least and most of something."""

    low: float
    high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanCut:
    """One row of a plan: how many fruits of a case are cut in one way, and the expected yield by kind [mL, g or pieces]."""

    row: str
    case: str
    fruit: str
    way: str
    count: int
    at: datetime
    then: datetime
    gives: Mapping[str, float]
    gives_range: Mapping[str, Span] = field(metadata=json_member(stored={}))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanShare:
    """How much of a case goes into a want."""

    case: str
    kind: str
    want: str
    amount: float
    unit: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanOver:
    """What stays over of a case, and which specs could take it."""

    case: str
    fruit: str
    kind: str
    amount: float
    unit: str
    grams: float
    offers: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanShort:
    """What a want is short of, and what would do it."""

    want: str
    name: str
    kind: str
    amount: float
    unit: str
    by: datetime
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanSource:
    """How much of a case a plan takes [g]."""

    case: str
    name: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanNamed:
    """A want of a plan, by its key."""

    key: str
    name: str
    by: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class NaiveOut:
    """What each want on its own would take."""

    bin_g: float
    cost: float
    fruits: int
    short: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PackOut:
    """Packs that must come in."""

    fruit: str
    packs: int
    each: int
    price: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanAnswer:
    """A plan worked out, beside what each want on its own would take."""

    cuts: tuple[Annotated[PlanCut | OpenForm, StoredAs(PlanCut)], ...]
    sources: tuple[PlanSource, ...]
    wants: tuple[PlanNamed, ...]
    shares: tuple[PlanShare, ...]
    over: tuple[PlanOver, ...]
    could: tuple[str, ...]
    notes: tuple[str, ...] = field(metadata=json_member(stored=()))
    bin_g: float
    cost: float
    fruits: int
    naive: NaiveOut
    short: tuple[PlanShort, ...]
    packs: tuple[PackOut, ...]
    proved: bool
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanOut:
    """A plan that was kept, and which of its rows are done."""

    id: UUID
    name: str
    cases: tuple[Annotated[OpenForm, StoredAs(PlannedCase)], ...]
    wants: tuple[Annotated[OpenForm, StoredAs(PlannedWant)], ...]
    answer: Annotated[OpenForm, StoredAs(PlanAnswer)]
    made_at: datetime
    made_by: str
    done_at: datetime | None
    done_rows: tuple[str, ...]


class CutIn(Schema):
    row: str
    count: int
    juice_ml: float = 0.0
    skin_g: float = 0.0
    skin_binned_g: float = 0.0
