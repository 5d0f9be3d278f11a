"""Requests and answers about runs, lots and the shift."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Field
from pydantic import GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue

from ulsek.core.base.answer import DescribedAs, OpenForm, StoredAs
from ulsek.core.base.messages import Message
from ulsek.core.results.evaluation_result import FinalResult
from ulsek.core.run.events.schema import event_schema
from ulsek.core.run.rehearsal import RehearsalScore
from ulsek.core.run.run_result import RunResult
from ulsek.core.run.waiting import Waiting
from ulsek.core.safety.on_the_shelf import ShelfState
from ulsek.core.sums.offers import SumOffer
from ulsek.stores.schemas import StockActionOut
from ulsek.team.listing import ListQuery
from ulsek.team.schema import Schema

StoredWaiting = Annotated[OpenForm, StoredAs(Waiting)]


@dataclass(frozen=True, slots=True, kw_only=True)
class RunRow:
    """A batch as lists show it: its step at hand and its wait."""

    id: UUID
    code: str
    name: str
    version: int
    started_by: str
    started_at: datetime
    finished_at: datetime | None
    step: Message | None
    number: int | None
    of: int | None
    waiting: StoredWaiting | None
    last: str | None
    withdrawn: str
    rehearsal: bool


class RunQuery(ListQuery):
    """Which batches are listed: all of them, those that are not finished, or those that are; `find` looks at code and spec."""

    state: Literal["", "open", "finished"] = ""


class StartRun(Schema):
    """A new batch: `id` made by the client; from a weight in g, or to a yield in mL, or as the spec says."""

    id: UUID
    spec: UUID
    version: int | None = None
    mass_g: float | None = None
    volume_ml: float | None = None
    factor: float | None = None
    chosen: dict[str, str] = Field(default_factory=dict)
    rehearsal: bool = False


class EventIn(Schema):
    """An event of a run. Its schema is the core's, which reads it and refuses it in words."""

    id: str
    kind: str
    at: str
    lamport: int
    device: str
    sequence: int
    body: dict[str, Any] = Field(default_factory=dict)

    @classmethod
    def __get_pydantic_json_schema__(cls, _core: Any, _handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return {"description": cls.__doc__, **event_schema()}


class EventsIn(Schema):
    """Events of one device, and what its clock shows as it sends them: times are corrected by that."""

    events: list[EventIn]
    now: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class VesselOut:
    """A vessel of a batch, and what it holds [mL]; None if nobody said."""

    id: str
    name: str
    capacity_ml: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PhotoOut:
    """A picture of a batch, and the step that it was taken at."""

    id: int
    step: str
    at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class RunOut:
    """A run with everything that follows from its events."""

    id: UUID
    code: str
    name: str
    version: int
    started_by: str
    started_at: datetime
    finished_at: datetime | None
    vessels: tuple[VesselOut, ...]
    goals: Mapping[str, float]
    lamport: int
    events: tuple[Annotated[OpenForm, DescribedAs("EventOut")], ...]
    state: Annotated[RunResult | OpenForm, StoredAs(RunResult)]
    rules: Message
    withdrawn: str
    recalled: str
    supplies: Mapping[str, str]
    lots: tuple[str, ...]
    rehearsal: bool
    shared: bool
    score: Annotated[OpenForm, StoredAs(RehearsalScore)] | None
    late: int
    photos: tuple[PhotoOut, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class LotOut:
    """A lot with its dates and their reasons, whether it may be poured, and its figures."""

    code: str
    name: str
    run: UUID | None
    """None for a bottle whose making was not recorded."""
    run_code: str
    spec: UUID | None
    withdrawn: str
    recalled: str
    opened_at: datetime | None
    gone_at: datetime | None
    version_number: int
    what: str
    unit: str
    amount: float
    left: float
    ready_at: datetime | None
    ready_why: Message
    standing: ShelfState
    off_spec: Message
    bottle_ml: float
    place: str
    too_warm: Message
    made_at: datetime
    made_by: str
    cooled_at: datetime
    use_by: date
    use_by_reason: Message
    keep_c: float
    allergens: tuple[str, ...]
    allergens_words: Message
    cautions: tuple[str, ...]
    final: Annotated[OpenForm, StoredAs(FinalResult)] | None
    sums: tuple[SumOffer, ...]


class LotQuery(ListQuery):
    """Which lots are listed: those on the shelf or those that are gone; `find` looks at code and name."""

    state: Literal["open", "gone"] = "open"


@dataclass(frozen=True, slots=True, kw_only=True)
class ShiftOut:
    """What needs attention now, what waits, what expires in two days, what is on the shelf, and how many lots more are there that expire later."""

    now: datetime
    zone: str
    service_from: str
    service_until: str
    hands: UUID | None
    runs: tuple[RunRow, ...]
    turns: tuple[LotOut, ...]
    shelf: tuple[LotOut, ...]
    shelf_more: int


@dataclass(frozen=True, slots=True, kw_only=True)
class TraceNode:
    """A lot, a batch or a delivery in a trace, and what follows from it or went into it."""

    kind: Literal["lot", "run", "delivery"]
    code: str
    name: str
    about: str
    gone: bool
    branches: tuple[TraceNode, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class TraceOut:
    """What went into a lot, what it went into, and what was done to it."""

    made_of: tuple[TraceNode, ...]
    went_into: tuple[TraceNode, ...]
    events: tuple[StockActionOut, ...]


class RecallIn(Schema):
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RecallOut:
    """Codes of the lots that were reached, and of the batches that are still on the bench."""

    lots: tuple[str, ...]
    runs: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SupplyOut:
    """One delivery or lot that a line can be taken from. `left_g` is what is left now: without what open batches have weighed of it."""

    supply: str
    material: str
    code: str
    name: str
    about: str
    left_g: float
    makes_ml: float | None
    warning: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ScannedOut:
    """The supply that a code names."""

    supply: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OfflineOut:
    """What a browser needs to fold a run by itself: everything that was pinned at its start."""

    core: str
    spec: OpenForm
    materials: OpenForm
    rules: OpenForm
    learned: Mapping[str, tuple[float, ...]]


class PhotoIn(Schema):
    step: str
    media_type: str
    data: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TakenOut:
    """How many settled amounts went into the draft of a spec."""

    spec: UUID
    taken: int


class ContainerIn(Schema):
    name: str
    tare_g: float
    capacity_ml: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class ContainerOut:
    """A container of the house: what it holds, what it held last, and when it was cleaned."""

    id: int
    name: str
    tare_g: float
    capacity_ml: float | None
    holds: str | None
    last_contents: str
    last_allergens: tuple[str, ...]
    cleaned_at: datetime | None
    cleaned_by: str | None
