"""Requests and answers about the library, versions, cards and other open forms."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from ulsek.core.base.answer import OpenForm, StoredAs
from ulsek.core.base.messages import Message
from ulsek.core.recipe_text.several import MOST_RECIPES
from ulsek.core.release.allergens import AllergenAnswer
from ulsek.core.results.quiz import Question, WrongAnswer
from ulsek.core.results.spec_card import Card
from ulsek.core.results.version_diff import Comparison
from ulsek.core.tasting.open_scores import OpenResult
from ulsek.core.workbench.answer import Workbench
from ulsek.team.listing import ListQuery
from ulsek.team.schema import Schema

from .schemas import SpecBody


@dataclass(frozen=True, slots=True, kw_only=True)
class Brief:
    """What lists show of a version's result."""

    brix: float
    acid_g_100ml: float
    sugar_g_100ml: float
    volume_ml: float
    keeps_days: int
    cost_per_litre: Decimal
    unpriced: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SpecRow:
    """A spec as lists show it, with the figures of its newest version. `follows` is the house whose spec it follows, `newer` a newer version there (0: none)."""

    id: UUID
    key: str
    name: str
    family: str
    state: str
    version: int | None
    why: str
    draft_saved_at: datetime
    draft_saved_by: str
    brief: Annotated[OpenForm, StoredAs(Brief)] | None
    last_made: datetime | None
    batches: int
    on_shelf_ml: float
    base: str
    trial_of: str
    follows: str = ""
    newer: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class LibrarySlice:
    """Specs of the library, the cursor of those after them (null if there are none), and the count of all that match."""

    items: tuple[SpecRow, ...]
    next: str | None
    total: int


class SpecQuery(ListQuery):
    """Which specs of a house are listed. Empty: all of them. `find` looks at every text of a spec, and knows its family by every name."""

    family: str = ""
    material: str = ""
    state: Literal["", "draft", "published", "trial", "withdrawn"] = ""
    on_shelf: bool = False
    order: Literal["family", "made"] = Field("family", description="By family and name, or the last made first.")


class StartSpec(Schema):
    """A name and a family; then a school of it, or a body from a copy, a recipe, a file or a run, or the spec that it is a variant of."""

    name: str
    family: str = "cordial"
    school: str = ""
    body: SpecBody | None = None
    variant_of: UUID | None = None


class ReadIn(Schema):
    """A text that is an open file of some kind, a page with a recipe in it, or a pasted recipe."""

    text: str
    locale: str = "metric"


@dataclass(frozen=True, slots=True, kw_only=True)
class TreeOut:
    """A spec in a tree of what draws on what."""

    id: UUID
    key: str
    name: str
    state: str
    family: str
    branches: tuple[TreeOut, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TreesOut:
    """What a spec draws on, and what draws on it."""

    draws_on: tuple[TreeOut, ...]
    drawn_on_by: tuple[TreeOut, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DrinkRow:
    """A drink of the house."""

    id: UUID
    name: str


class StepLineIn(Schema):
    """A step as typed, and the spec that it would go into."""

    text: str


class AnswerIn(Schema):
    """A draft, and an answer to one of its open questions, both by position."""

    spec: SpecBody
    position: int
    answer: int


class DraftsIn(Schema):
    """Several drafts that were read from one text."""

    specs: list[SpecBody] = Field(max_length=MOST_RECIPES)


class GiveIn(Schema):
    """Request to assign a phrase to a step: a draft, the phrase as the letters from `start` (from 0) up to but not including `end` of its text, and the id of the step."""

    spec: SpecBody
    start: int
    end: int
    step: str


class SharedAnswerIn(DraftsIn):
    """Several drafts, and the answer to one of their shared questions by position; None leaves it as it was read."""

    key: str
    answer: int | None


class SpecSettings(Schema):
    asks_questions: bool


@dataclass(frozen=True, slots=True)
class SpecSettingsOut:
    """Whether staff answer three questions before their first make of a spec."""

    asks_questions: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class AllergensOut(AllergenAnswer):
    """What may be said of a spec, and the drinks that it goes into."""

    drinks: tuple[DrinkRow, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class CompareOut(Comparison):
    """Two versions or drafts side by side, each whole."""

    left: SideOut
    right: SideOut


@dataclass(frozen=True, slots=True, kw_only=True)
class CardOut(Card):
    """The card of a version at a batch size, with its state today. `driver` names what is weighed first; empty for a spec that no line sets."""

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
    languages: tuple[str, ...]
    choices: tuple[ChoiceGroup, ...]
    driver: str


class ScoreIn(Schema):
    """A score from 1 to 10, with decimals."""

    score: float
    taster: str = ""
    reference: str = ""
    note: str = ""


class VersionQuery(ListQuery):
    """Which versions of a spec are listed: all of them, those that stand, or those that were withdrawn; `find` looks at reason and author."""

    state: Literal["", "standing", "withdrawn"] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionOut:
    """A version: its author and reason, what tasters thought of it openly (null: nobody scored it), its copies and withdrawal."""

    spec: UUID
    number: int
    why: str
    author: str
    at: datetime
    critical: bool
    corrected_at: datetime | None
    withdrawn: str
    withdrawn_at: datetime | None
    successor: int | None
    scored: OpenResult | None
    copies: tuple[CopyOut, ...]
    acknowledged: tuple[str, ...]
    trials: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class CopyOut:
    """A copy of a card: to whom and by whom."""

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


@dataclass(frozen=True, slots=True, kw_only=True)
class SideOut:
    """One side of a comparison: its name, body and evaluation."""

    name: str
    body: OpenForm
    result: Workbench


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingState:
    """What a reader of a version still has to do."""

    critical: bool
    acknowledged: bool
    passed: bool
    questions: tuple[Question, ...]
    lacks_clearance: bool = False
    """Whether the house has given clearances and this person has none for it. They may make it all the same, which is recorded."""


class AnswersIn(Schema):
    answers: dict[str, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class AnsweredOut:
    """Whether the questions of a version are passed, and which were answered wrong."""

    passed: bool
    wrong: tuple[Annotated[OpenForm, StoredAs(WrongAnswer)], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ChoiceOut:
    """One way of a group of alternatives."""

    id: str
    name: str
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ChoiceGroup:
    """Alternatives of a spec, and which of them is chosen."""

    id: str
    name: str
    chosen: str
    choices: tuple[ChoiceOut, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class AttachmentOut:
    """A file that belongs to a spec."""

    id: int
    name: str
    media_type: str
    by: str
    at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class MaterialsRead:
    """Materials of a table: which were read and which rows not."""

    materials: Mapping[str, OpenForm]
    not_understood: tuple[Message, ...]


class MaterialsIn(Schema):
    """Materials in their open form, by key."""

    materials: dict[str, dict[str, Any]]


class CsvIn(Schema):
    text: str
    keep: bool = False
