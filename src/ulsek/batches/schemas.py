"""What Make, the bottle and Shift send and take."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any, Literal
from uuid import UUID

from ninja import Field
from pydantic import GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue

from ulsek.core.run.events.schema import event_schema
from ulsek.specs.evaluation_schemas import EvaluationOut, FinalOut
from ulsek.stores.schemas import DeedOut, Figure
from ulsek.team.schema import Schema


class WaitingOut(Schema):
    """A wait by the clock."""

    since: datetime
    until: datetime
    kind: str
    family: str = ""
    doing: str = ""


class RunRow(Schema):
    id: UUID
    code: str
    name: str
    version: int
    started_by: str
    started_at: datetime
    finished_at: datetime | None
    step: str | None
    number: int | None
    of: int | None
    waiting: WaitingOut | None
    last: str | None
    withdrawn: str = ""
    rehearsal: bool = False


class RunDraft(Schema):
    spec: dict[str, Any]


class RunPage(Schema):
    items: list[RunRow]
    page: int
    pages: int


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


class EventOut(EventIn):
    """An event of a run, with who did it and what was found of its time."""

    by: str
    said_at: str = ""
    clock: Literal["", "corrected", "estimated"] = ""
    proof: Literal["", "key", "lead"] = ""

    @classmethod
    def __get_pydantic_json_schema__(cls, _core: Any, _handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return {"description": cls.__doc__, **event_schema(received=True)}


class EventsIn(Schema):
    """Events of one device, and what its clock shows as it sends them: times are corrected by that."""

    events: list[EventIn]
    now: str = ""


class PouredOut(Schema):
    """What is in of a line out of one supply [g], by the key under which it stands in the run."""

    material: str
    mass_g: float


class RunLine(Schema):
    """A line; `parts` only where a supply ran empty in mid-pour and another went on."""

    id: str
    material: str
    supply: str | None
    name: str
    planned_g: Figure | None
    actual_g: float | None
    parts: list[PouredOut]
    so_far_g: float
    dose: str = ""
    ahead: bool


class SampleOut(Schema):
    """Whether a sample is wanted after a step, and how much was set aside."""

    wanted: bool
    mass_g: float | None


class RunStep(Schema):
    id: str
    verb: str
    title: str
    note: str
    check: str
    vessel: str
    state: str
    begun_at: str | None
    done_at: str | None
    minutes: float | None
    watched: bool
    wants_label: bool
    extra: bool
    sample: SampleOut
    lines: list[RunLine]


class Current(Schema):
    step: str | None
    line: str | None


class DeviationOut(Schema):
    line: str
    planned_g: float
    actual_g: float
    text: str
    quiet: bool


class ReadingOut(Schema):
    event: str
    property: str
    value: float
    predicted: Figure
    agrees: bool
    text: str
    step: str


class RepairAddition(Schema):
    line: str
    material: str
    name: str
    mass_g: float


class RepairOut(Schema):
    id: str
    state: str
    additions: list[RepairAddition]
    text: str
    effect: str


class VesselOut(Schema):
    id: str
    name: str
    capacity_ml: float | None


class WatchPoint(Schema):
    minutes: float
    value: float


class WatchOut(Schema):
    """A step under watch: what was read of it, when it is expected there (minutes since it began), what that means and what to do."""

    kind: str
    reads: list[str]
    unit: str
    start: float
    target: float
    points: list[WatchPoint]
    expected_min: list[float] | None
    moments_min: list[float]
    state: str
    text: str
    advice: str
    warns: bool
    changes: dict[str, float | None] | None


class TasteOut(Schema):
    step: str
    sense: str
    verdict: str
    share: float
    text: str
    advice: str


class LessonOut(Schema):
    """What a batch taught: least, best, most before and after."""

    group: str
    what: str
    before: list[float]
    after: list[float]
    kept: bool
    text: str


class SettledOut(Schema):
    """An amount that was settled by taste, in the spec's own measure."""

    line: str
    step: str
    material: str
    mass_g: float
    text: str


class RehearsalScore(Schema):
    points: int
    told: list[str]


class PhotoOut(Schema):
    id: int
    step: str
    at: datetime


class StateOut(Schema):
    status: str
    factor: float
    current: Current
    steps: list[RunStep]
    place: int | None
    evaluation: EvaluationOut
    deviations: list[DeviationOut]
    readings: list[ReadingOut]
    repairs: list[RepairOut]
    notes: list[str]
    watch: WatchOut | None
    hands: list[str]
    tastes: list[TasteOut]
    lessons: list[LessonOut]
    off_spec: str
    expected_ml: Figure | None = None
    conflicts: list[str]
    settled: list[SettledOut]


class RunOut(Schema):
    """A run as the bench shows it."""

    id: UUID
    code: str
    name: str
    version: int
    started_by: str
    started_at: datetime
    finished_at: datetime | None
    vessels: list[VesselOut]
    goals: dict[str, float]
    lamport: int
    events: list[EventOut]
    state: StateOut
    rules: str
    withdrawn: str
    recalled: str
    supplies: dict[str, str]
    lots: list[str]
    rehearsal: bool
    shared: bool
    score: RehearsalScore | None
    late: int
    photos: list[PhotoOut]


class LotOut(Schema):
    code: str
    name: str
    run: UUID
    run_code: str
    spec: UUID
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
    ready_why: str
    off_spec: str
    bottle_ml: float
    place: str
    made_at: datetime
    made_by: str
    cooled_at: datetime
    use_by: date
    use_by_reason: str
    keep_c: float
    allergens: list[str]
    allergens_words: str
    cautions: list[str]
    final: FinalOut | None


class LotPage(Schema):
    items: list[LotOut]
    page: int
    pages: int


class ShiftOut(Schema):
    now: datetime
    zone: str
    service_from: str
    service_until: str
    hands: UUID | None
    runs: list[RunRow]
    turns: list[LotOut]
    shelf: list[LotOut]


class TraceNode(Schema):
    kind: str
    code: str
    name: str
    about: str
    gone: bool
    branches: list[TraceNode]


class TraceOut(Schema):
    made_of: list[TraceNode]
    went_into: list[TraceNode]
    events: list[DeedOut]


class RecallIn(Schema):
    why: str


class RecallOut(Schema):
    """Codes of the lots that were reached, and of the batches that are still on the bench."""

    lots: list[str]
    runs: list[str]


class SupplyOut(Schema):
    """One delivery or lot that a line can be taken from. `left_g` is what stands there now: what open batches have weighed of it is gone already."""

    supply: str
    material: str
    code: str
    name: str
    about: str
    left_g: float
    makes_ml: float | None
    warning: str


class ScannedOut(Schema):
    supply: str


class OfflineOut(Schema):
    """What a browser needs to fold a run by itself: everything that was pinned at its start."""

    core: str
    spec: dict[str, Any]
    materials: dict[str, Any]
    rules: dict[str, Any]
    learned: dict[str, list[float]]


class PourOut(Schema):
    rate_g_s: float
    runs_on_g: float
    jar_g: float


class RehearsalOut(Schema):
    """What the simulated instruments of a rehearsal show now."""

    line: str | None
    pour: PourOut | None
    probes: dict[str, float]


class PhotoIn(Schema):
    step: str
    media_type: str
    data: str


class TakenOut(Schema):
    spec: UUID
    taken: int


class ContainerIn(Schema):
    name: str
    tare_g: float
    capacity_ml: float | None = None


class ContainerOut(Schema):
    id: int
    name: str
    tare_g: float
    capacity_ml: float | None
    holds: str | None
    last_contents: str
    last_allergens: list[str]
    cleaned_at: datetime | None
    cleaned_by: str | None


TraceNode.model_rebuild()
TraceOut.model_rebuild()
