"""Requests and answers about panels and seats."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Field

from ulsek.core.base.answer import OpenForm, StoredAs
from ulsek.core.base.messages import Message
from ulsek.core.tasting.design import USUAL_GLASS_ML, USUAL_ROUNDS, USUAL_TASTERS, LineBounds, PanelDesign
from ulsek.core.tasting.methods import Aim, MethodKey, PageKind
from ulsek.core.tasting.open_scores import OpenResult
from ulsek.core.tasting.serving import Equal, SampleDose, Serving
from ulsek.core.tasting.verdict import PanelVerdict
from ulsek.planners.tasting.telling import PanelResults
from ulsek.team.listing import ListQuery
from ulsek.team.schema import Schema

from .plans import SampleKind

PanelStateName = Literal["planned", "open", "told"]


class SampleIn(Schema):
    """A sample: a lot by its code, a version or the draft of a spec, a standard, or a bottle from elsewhere by its label and readings. Allergens are null if nobody has looked."""

    kind: SampleKind
    lot: str = ""
    spec: UUID | None = None
    version: int | None = None
    standard: UUID | None = None
    name: str = ""
    sugar_g_100ml: float | None = None
    acid_g_100ml: float | None = None
    abv: float | None = None
    allergens: list[str] | None = Field(None, max_length=20)


class ServingIn(Schema):
    """How samples are served: as they are (no `drink`), or each in one drink with so much of the rest [mL, % v/v], dosed for equal volume, sugar or acid by the first one's dose [mL]."""

    drink: str = ""
    equal: Equal = "volume"
    pour_ml: float = Field(default=20, gt=0, le=250)
    drink_ml: float = Field(default=0, ge=0, le=1000)
    drink_abv: float = Field(default=0, ge=0, le=97)


class DesignIn(Schema):
    """How a panel is tasted. `line` is what difference matters, as a share [0 to 1] or in points; by default the usual one."""

    method: str
    tasters: int = USUAL_TASTERS
    rounds: int = USUAL_ROUNDS
    line: float | None = None
    glass_ml: float = USUAL_GLASS_ML
    dark_glasses: bool = False
    attributes: list[str] = Field(default_factory=list, max_length=8)
    is_sequential: bool = False


class PanelIn(Schema):
    """A panel as a lead plans it; `poured_by` is a person of the house."""

    question: str
    design: DesignIn
    samples: list[SampleIn] = Field(max_length=20)
    serving: ServingIn = ServingIn()
    poured_by: int | None = None


class BeforehandIn(Schema):
    """A design whose power is asked for before anybody tastes; `count` is the number of samples [count] while fewer are chosen."""

    aim: Aim
    design: DesignIn
    samples: list[SampleIn] = Field(default_factory=list, max_length=20)
    serving: ServingIn = ServingIn()
    count: int = Field(2, ge=1, le=20, description="Samples, as long as they are not chosen.")


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodOut:
    """A method that answers the question, and what speaks for it."""

    key: str
    name: Message
    why: Message
    glasses: int


@dataclass(frozen=True, slots=True, kw_only=True)
class BeforehandOut:
    """What a panel can show, the methods that fit, the proposed one first, what a taster is poured, and the dose of each sample (null if served as they are)."""

    sentences: tuple[Message, ...]
    reaches_line: bool
    methods: tuple[MethodOut, ...]
    poured: Message
    pours: tuple[SampleDose, ...] | None
    line: LineBounds


@dataclass(frozen=True, slots=True, kw_only=True)
class SeatRow:
    """A seat that is taken: whose, how many of how many pages are answered, whether they stepped out, and whether they made one of the samples."""

    number: int
    name: str
    answered: int
    of: int
    is_out: bool
    is_maker: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class SampleOut:
    """A sample with where it comes from and what is in it [g/100 mL, % v/v]; numbers are null where nobody knows. `short` tells it from the others of its panel."""

    kind: SampleKind
    name: str
    short: str
    lot: str
    spec: UUID | None
    version: int | None
    standard: UUID | None
    sugar_g_100ml: float | None
    acid_g_100ml: float | None
    abv: float | None
    allergens: tuple[str, ...]
    allergens_known: bool


class PanelQuery(ListQuery):
    """Which panels are listed: all, or those of a state, a spec or a lot (once their seal is broken); `find` looks at code, question and decision."""

    state: Literal["", "planned", "open", "told"] = ""
    spec: UUID | None = None
    lot: str = Field("", max_length=16)


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelRow:
    """A panel as lists show it. `headline` is empty before the seal is broken, `answered` of `of` pages are answered."""

    id: UUID
    code: str
    question: str
    method: MethodKey
    method_name: Message
    aim: Aim
    state: PanelStateName
    tasters: int
    rounds: int
    answered: int
    of: int
    made_at: datetime
    made_by: str
    opened_at: datetime | None
    told_at: datetime | None
    headline: Message
    is_shown: bool
    decision: str
    decided_by: str
    versions: tuple[int, ...]
    """Numbers of the versions of the spec that was asked for; empty before the seal is broken."""


@dataclass(frozen=True, slots=True, kw_only=True)
class AgeOut:
    """What older bottles showed beside younger ones. `days` is the shorter quality date that follows, at most; null if none does, or if what stands is shorter. `stands` says what stands, `caution` what
    else may be behind it.
    """

    words: Message
    days: int | None
    stands: Message
    caution: Message


@dataclass(frozen=True, slots=True, kw_only=True)
class PanelOut(PanelRow):
    """A panel. Of an open one nobody is told its samples. `link`, `letters` and `qr` (rows of 0 and 1) lead to a seat while it is open; makers see them."""

    line: Message
    design: PanelDesign
    serving: Serving
    poured_by: int | None
    pourer: str
    i_pour: bool
    i_taste: bool
    stop: Message
    beforehand: tuple[Message, ...]
    poured: Message
    seats: tuple[SeatRow, ...]
    samples: tuple[SampleOut, ...]
    link: str
    letters: str
    qr: tuple[str, ...]
    unsealed_by: str
    unsealed_why: str
    verdict: Annotated[OpenForm, StoredAs(PanelVerdict)] | None
    results: Annotated[OpenForm, StoredAs(PanelResults)] | None
    next_how: Message
    """What makes the next trial from what is in hand; empty if that is not known."""
    age: AgeOut | None
    """Null if no older bottle was tasted beside a younger one of its version."""
    decision_why: str
    decided_at: datetime | None
    late: int
    """Answers that came after the seal was broken."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ScoredVersion:
    """A version that was scored openly, and what came out."""

    spec: UUID
    name: str
    version: int
    result: OpenResult


@dataclass(frozen=True, slots=True, kw_only=True)
class TastedSpec:
    """The newest panel that tasted a spec and is told, with the number of its newest version that was tasted (null: its draft). Where no panel did, what was scored
    openly: then `panel` is null and `code` empty.
    """

    spec: UUID
    version: int | None
    panel: UUID | None
    code: str
    headline: Message
    is_shown: bool
    decision: str
    told_at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class PouredGlass:
    """A glass: the code on it, and what goes into it."""

    code: str
    sample: int
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PouredSet:
    """The glasses of one set, in the order in which they stand."""

    seat: int
    taster: str
    round: int
    glasses: tuple[PouredGlass, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PouringOut:
    """The key of a panel, for who pours: every set, the dose of each sample (null as they are), how much of each is needed [mL], and what is thawed before."""

    code: str
    question: str
    glass_ml: float
    dark_glasses: bool
    pours: tuple[SampleDose, ...] | None
    needed_ml: tuple[float, ...]
    thaw: tuple[Message, ...]
    names: tuple[str, ...]
    sets: tuple[PouredSet, ...]


class BreakSealIn(Schema):
    """Why nobody waits for the rest."""

    why: str


class DecisionIn(Schema):
    """What was decided, and why."""

    decision: str
    why: str


class ShorterDateIn(Schema):
    """For how many days the product is good, at most what the panel showed, and why."""

    days: int
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ShorterDateOut:
    """The codes of the lots whose last day came forward: their labels say the old one."""

    lots: tuple[str, ...]


class TasterAnswer(Schema):
    """One answer to one page of a taster's sheet; the kind of the page says which member it has, the others are null.

    The `code` of the glass that was chosen, whether two are the `same`, the `order` of all codes (the best first), a `score` [points, 1 to 10], or a mark [1 to 5] for each
    attribute; and the taster's own `word` if there is one.
    """

    code: str | None = Field(None, max_length=20)
    same: bool | None = None
    order: list[str] | None = Field(None, max_length=20)
    score: float | None = None
    marks: dict[str, int] | None = Field(None, max_length=20)
    word: str | None = None

    def given(self) -> Mapping[str, object]:
        """Returns the members that are not null, by name."""
        return self.model_dump(exclude_none=True)


class SheetIn(Schema):
    """A paper sheet: the number of its seat, the taster's name, and the answers by page."""

    number: int = Field(ge=0, le=1000)
    name: str
    answers: dict[int, TasterAnswer] = Field(max_length=200)


@dataclass(frozen=True, slots=True, kw_only=True)
class AgainOut:
    """A code with which a taster goes on from another phone, once."""

    code: str


class SeatIn(Schema):
    """The link's code or the letters of a panel, or the code for another phone; and the taster's name."""

    code: str = Field(max_length=60)
    name: str = Field("", max_length=200)


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetPageOut:
    """One page of a taster's sheet without its key: the codes on the glasses in the order served, and the kind of answer that it asks for."""

    turn: int
    round: int
    asks: PageKind
    codes: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class AskedAttribute:
    """An attribute that may be too little, just right or too much."""

    key: str
    name: Message
    little: Message
    much: Message


@dataclass(frozen=True, slots=True, kw_only=True)
class SeatOut:
    """A taster's seat: what to read before the first glass, what is asked, the pages, and those that are answered. It names no sample.

    `secret` is told once, to the device that took the seat. `stop` says why nobody may taste on; empty if they may.
    """

    panel: str
    house: str
    number: int
    name: str
    state: Literal["open", "told", "out"]
    stop: Message
    first: Message
    task: Message
    hint: Message
    glass_ml: float
    dark_glasses: bool
    rounds: int
    attributes: tuple[AskedAttribute, ...]
    pages: tuple[SheetPageOut, ...]
    answered: tuple[int, ...]
    secret: str


class PageAnswerIn(Schema):
    """An answer to the page `turn`, with an id made by the device and the moment of the answer there [ISO 8601]."""

    id: str = Field(min_length=8, max_length=64)
    turn: int = Field(ge=1, le=1000)
    answer: TasterAnswer
    at: datetime | None = None
