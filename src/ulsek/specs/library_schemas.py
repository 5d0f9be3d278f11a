"""What the library, versions, cards and other open forms send and take."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from ulsek.team.schema import Schema

from .evaluation_schemas import WorkbenchOut


class BriefOut(Schema):
    """What lists show of a version's result."""

    brix: float
    acid_g_100ml: float
    sugar_g_100ml: float
    volume_ml: float
    keeps_days: int
    cost_per_litre: str
    unpriced: list[str]


class SpecRow(Schema):
    id: UUID
    key: str
    name: str
    family: str
    state: str
    version: int | None
    why: str
    draft_saved_at: datetime
    draft_saved_by: str
    brief: BriefOut | None
    last_made: datetime | None
    batches: int
    on_shelf_ml: float
    base: str
    trial_of: str


class SpecPage(Schema):
    items: list[SpecRow]
    page: int
    pages: int
    total: int


class StartSpec(Schema):
    """A name and a family; then a school of it, or a body from a copy, a recipe, a file or a run, or the spec that it is a variant of."""

    name: str
    family: str = "cordial"
    school: str = ""
    body: dict[str, Any] | None = None
    variant_of: UUID | None = None


class SchoolOut(Schema):
    school: str
    question: str
    costs: str
    gains: str


class ReadIn(Schema):
    """A text that is an open file of some kind, a page with a recipe in it, or a pasted recipe."""

    text: str
    locale: str = "metric"


class DoubtOut(Schema):
    code: str
    line: int
    text: str
    question: str


class ReadOut(Schema):
    """What was understood, before anything is kept."""

    kind: str
    body: dict[str, Any]
    understood: list[str]
    not_understood: list[str]
    doubts: list[DoubtOut]


class TreeOut(Schema):
    id: UUID
    key: str
    name: str
    state: str
    family: str
    branches: list[TreeOut]


class TreesOut(Schema):
    draws_on: list[TreeOut]
    drawn_on_by: list[TreeOut]


class BroughtOut(Schema):
    """An allergen, and each way on which it comes in."""

    allergen: str
    through: list[list[str]]


class CarryOverOut(Schema):
    gear: str
    allergen: str
    source: str


class DrinkRow(Schema):
    id: UUID
    name: str


class AllergensOut(Schema):
    """What may be said of a spec: what is in it, what gear shares with it, of what nobody has said; and the drinks that it goes into."""

    name: str
    is_drink: bool
    contains: list[BroughtOut]
    shared: list[CarryOverOut]
    unknown: list[str]
    asks_lead: bool
    words: str
    drinks: list[DrinkRow]


class StepLineIn(Schema):
    """A step as typed, and the spec that it would go into."""

    text: str


class StepLineOut(Schema):
    """The typed step; `title` says it back in words."""

    step: dict[str, Any]
    title: str


class SpecSettings(Schema):
    asks_questions: bool


class ScoreIn(Schema):
    """From 1 to 10, with a decimal where one is wanted."""

    score: float
    taster: str = ""
    reference: str = ""
    note: str = ""


class ScoreOut(ScoreIn):
    at: datetime


class VersionOut(Schema):
    spec: UUID
    number: int
    why: str
    author: str
    at: datetime
    critical: bool = False
    corrected_at: datetime | None = None
    withdrawn: str = ""
    withdrawn_at: datetime | None = None
    successor: int | None = None
    scores: list[ScoreOut]
    copies: list[CopyOut]
    acknowledged: list[str]
    trials: list[str]


class CopyOut(Schema):
    to: str
    by: str
    at: datetime


class CopyIn(Schema):
    to: str


class WithdrawIn(Schema):
    why: str
    successor: int | None = None


class BranchIn(Schema):
    name: str


class SideOut(Schema):
    """One side of a comparison: what it is, its body, worked out."""

    name: str
    body: dict[str, Any]
    result: WorkbenchOut


class CompareLine(Schema):
    name: str
    left: str
    right: str


class CompareRow(Schema):
    left: str
    right: str
    left_words: str
    right_words: str
    amounts: list[CompareLine]
    same: bool


class CompareFigure(Schema):
    name: str
    left: float | None
    right: float | None


class CompareOut(Schema):
    left: SideOut
    right: SideOut
    rows: list[CompareRow]
    figures: list[CompareFigure]
    changed: list[str]
    did: list[str]


class QuestionOut(Schema):
    id: str
    text: str
    answers: list[str]


class ReadingState(Schema):
    """What the reader of a version has still to do."""

    critical: bool
    acknowledged: bool
    passed: bool
    questions: list[QuestionOut]


class AnswersIn(Schema):
    answers: dict[str, int]


class WrongOut(Schema):
    id: str
    text: str
    because: str


class AnsweredOut(Schema):
    passed: bool
    wrong: list[WrongOut]


class CardLine(Schema):
    id: str
    name: str
    amount: str
    beside: str
    how: str
    note: str


class CardStep(Schema):
    """One step; `place` is its vessel, where the spec has several and it is not the one at hand."""

    id: str
    number: int
    place: str
    title: str
    lines: list[CardLine]
    check: str
    note: str


class CardOut(Schema):
    language: str
    name: str
    family: str
    labels: dict[str, str]
    makes: str
    takes: str
    reads: list[str]
    gear: list[str]
    options: list[str]
    steps: list[CardStep]
    keeps: str
    keeps_because: str
    allergens: str
    free_from: str
    cautions: list[str]
    marks: bool
    number: int
    why: str
    author: str
    at: datetime
    newest: int
    withdrawn: str
    successor: int | None
    address: str
    volume_ml: float
    serves: float
    languages: list[str]
    choices: list[ChoiceGroup]


class ChoiceOut(Schema):
    id: str
    name: str
    note: str


class ChoiceGroup(Schema):
    id: str
    name: str
    chosen: str
    choices: list[ChoiceOut]


class StartOut(Schema):
    key: str
    name: str
    start_by: datetime
    ready_by: datetime
    needed_for: str
    too_late: bool


class AttachmentOut(Schema):
    id: int
    name: str
    media_type: str
    by: str
    at: datetime


class MaterialsRead(Schema):
    """Materials of a table: which were read and which rows not."""

    materials: dict[str, dict[str, Any]]
    not_understood: list[str]


class CsvIn(Schema):
    text: str
    keep: bool = False


for _schema in (TreeOut, TreesOut, VersionOut, CardOut):
    _schema.model_rebuild()
