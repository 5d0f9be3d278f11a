"""Requests and answers about cut plans."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Field

from ulsek.core.base.answer import OpenForm, StoredAs, json_member
from ulsek.core.citrus.plan_form import PlanAnswer
from ulsek.core.citrus.wanted import What
from ulsek.team.listing import ListQuery
from ulsek.team.schema import Schema


class PlanQuery(ListQuery):
    """Which plans are listed: all of them, the open ones, or those carried out; `find` looks at names."""

    state: Literal["", "open", "done"] = ""


class PlanCase(Schema):
    case: str
    count: int | None = None


class PlanWant(Schema):
    """A demand at a time: a kind, a made thing, or a batch of a published spec."""

    what: What
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

    what: What
    fruits: tuple[str, ...] = field(metadata=json_member(stored=()))
    amount: float = field(metadata=json_member(stored=0.0))
    times: float | None = field(metadata=json_member(stored=None))
    spec: str | None = field(metadata=json_member(stored=None))
    by: datetime
    name: str = field(metadata=json_member(stored=""))
    day_old: bool = field(metadata=json_member(stored=False))


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanOut:
    """A stored plan, and which of its rows are done."""

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
