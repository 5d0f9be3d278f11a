"""The form of the answer to a cut plan, as it is stored and shown: its rows, allocations, waste, shortages and surplus."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated

from ..base.answer import OpenForm, StoredAs, json_member
from ..base.messages import Message


@dataclass(frozen=True, slots=True)
class Interval:
    """Least and most of a quantity."""

    low: float
    high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanCut:
    """One row of a plan: the count of fruits of a case that are cut one way, and the expected yield by kind [mL, g or pieces]."""

    row: str
    case: str
    fruit: str
    way: str
    count: int
    at: datetime
    then: datetime
    gives: Mapping[str, float]
    gives_range: Mapping[str, Interval] = field(metadata=json_member(stored={}))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanShare:
    """The amount of a case that goes to a demand."""

    case: str
    kind: str
    want: str
    amount: float
    unit: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanOver:
    """The surplus of a case, and the specs that could use it."""

    case: str
    fruit: str
    kind: str
    amount: float
    unit: str
    grams: float
    offers: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanShort:
    """The shortage of a demand, and what would cover it."""

    want: str
    name: str
    kind: str
    amount: float
    unit: str
    by: datetime
    text: Message


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanSource:
    """The mass of a case that a plan uses [g]."""

    case: str
    name: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanBin:
    """The mass of a case that is thrown away [g]."""

    case: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanWantName:
    """The name of a demand, by its key."""

    key: str
    name: str
    by: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanNaive:
    """The fruit that each demand on its own would take."""

    bin_g: float
    cost: float
    fruits: int
    short: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanPacks:
    """Packs to order."""

    fruit: str
    packs: int
    each: int
    price: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanAnswer:
    """A computed plan, and what each demand on its own would take."""

    cuts: tuple[Annotated[PlanCut | OpenForm, StoredAs(PlanCut)], ...]
    sources: tuple[PlanSource, ...]
    wants: tuple[PlanWantName, ...]
    shares: tuple[PlanShare, ...]
    over: tuple[PlanOver, ...]
    bins: tuple[PlanBin, ...] = field(metadata=json_member(stored=()))
    could: tuple[Message, ...]
    notes: tuple[Message, ...] = field(metadata=json_member(stored=()))
    bin_g: float
    cost: float
    fruits: int
    naive: PlanNaive
    short: tuple[PlanShort, ...]
    packs: tuple[PlanPacks, ...]
    proved: bool
    text: Message
