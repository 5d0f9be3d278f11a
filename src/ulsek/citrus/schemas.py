"""Requests and answers about citrus."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from typing import Literal
from uuid import UUID

from ninja import Field

from ulsek.core.advice.juice_treatment import FINE_SCALE_G, WARM_C, Method
from ulsek.core.base.messages import Message
from ulsek.core.base.ranges import Range
from ulsek.core.citrus.oleo_saccharum import USUAL_C, USUAL_HOURS, USUAL_RATIO, OilSugar, PeelJar
from ulsek.core.citrus.stretched_juice import USUAL_ML, USUAL_TIMES, Mixer, Stretched, StretchInputs
from ulsek.core.citrus.yields import Source
from ulsek.planners.trial import Verdict
from ulsek.team.listing import ListQuery
from ulsek.team.schema import Schema


@dataclass(frozen=True, slots=True, kw_only=True)
class VarietyOut:
    """A citrus: its point on the plate and the yields of one fruit, by the house's record or by the tables."""

    key: str
    name: str
    sugar_g_100ml: Range
    acid_g_100ml: Range
    piece_g: float
    juice_ml: Range
    zest_g: float
    peel_g: float
    zest_range: Range
    peel_range: Range
    ml_kg: float
    source: Source
    cases: int
    confidence: str
    packed_g_ml: float | None


class CaseQuery(ListQuery):
    """Which cases are listed: those with fruit left in them, or the others; `find` looks at fruit, supplier and size."""

    state: Literal["open", "gone"] = "open"


class CaseIn(Schema):
    fruit: str
    supplier: str
    size: str = ""
    count: int
    weight_g: float
    price: Decimal = Decimal(0)


class FruitSampleIn(Schema):
    """A measurement of some fruits; one figure is enough."""

    count: int
    weight_g: float | None = None
    juice_ml: float | None = None
    peel_g: float | None = None
    zest_g: float | None = None
    brix: float | None = None
    acid_g_100ml: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class FruitSampleOut:
    """A measurement of some fruits of a case, and why it does not count, if so."""

    id: int
    count: int
    juice_ml: float | None
    weight_g: float | None
    at: datetime
    by: str
    set_aside: str


class AsideIn(Schema):
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class EachOut:
    """The yields of one fruit of a case."""

    juice_ml: Range
    zest_g: float
    peel_g: float
    zest_range: Range
    peel_range: Range


@dataclass(frozen=True, slots=True, kw_only=True)
class CaseOut:
    """A case: what is left of it, the yields of one fruit, and their sources."""

    id: UUID
    fruit: str
    name: str
    supplier: str
    size: str
    came_at: datetime
    count: int
    left: int
    weight_g: float
    fruit_g: float
    price: Decimal
    each: EachOut
    share: Range
    source: Source
    from_count: int
    unlike: Message
    brix: float | None
    acid_g_100ml: float | None
    samples: tuple[FruitSampleOut, ...]


class StretchIn(Schema):
    fruit: str
    juice_ml: float = USUAL_ML
    times: float = USUAL_TIMES
    school: Literal["rest", "blend"] = "rest"
    target: float | None = None
    peel_g: float | None = None
    most_oil_mg_l: float | None = None
    case: UUID | None = None

    def inputs(self) -> StretchInputs:
        return StretchInputs(**self.dict(exclude={"fruit", "case"}))


class OilSugarIn(Schema):
    fruit: str
    peel_g: float
    measure: Literal["weight", "volume"] = "weight"
    ratio: float = USUAL_RATIO
    hours: float = USUAL_HOURS
    warm_c: float = USUAL_C
    pressed: bool = True

    def inputs(self) -> PeelJar:
        return PeelJar(**self.dict(exclude={"fruit"}))


class SpentIn(Schema):
    fruit: str
    peel_g: float
    spent_g: float
    hours: float
    warm_c: float = USUAL_C


@dataclass(frozen=True, slots=True, kw_only=True)
class StretchOut(Stretched):
    """A stretched juice with what it was computed from, how long it keeps, and sours of the house at equal doses."""

    from_what: str
    keeps: tuple[Message, ...]
    serve_ml: float
    equal_acid: tuple[Mixer, ...]
    equal_sugar: tuple[Mixer, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class OilSugarOut(OilSugar):
    """Peel in sugar, and how many jars of this house its draw is learned from."""

    jars: int


class TrialIn(Schema):
    fruit: str
    first: str
    second: str
    pairs: list[tuple[float, float]]


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialOut:
    """A paired trial of two ways to juice: the yield of each pair [mL/kg], and the result of the paired t-test."""

    id: int
    fruit: str
    name: str
    first: str
    second: str
    pairs: tuple[tuple[float, float], ...]
    at: datetime
    by: str
    verdict: Verdict


class PackedIn(Schema):
    fruit: str
    ml: float
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LedgerRow:
    """A week of a fruit: what was cut, and what came of it."""

    week: date
    fruit: str
    fruits: int
    kg: float
    litres: float
    skin_used_g: float
    skin_thrown_g: float
    money: float


class DeskIn(Schema):
    material: str
    mass_g: float
    warm_c: float = WARM_C
    missing: list[str] = Field(default_factory=list)
    want_brix: float | None = None
    scale_g: float = FINE_SCALE_G


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodSeen(Method):
    """A way to treat a juice, and when this house used it last."""

    last_time: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MissableOut:
    """A material that may be unavailable and has a substitute."""

    key: str
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DeskOut:
    """A juice, and the ways to treat it."""

    name: str
    missable: tuple[MissableOut, ...]
    without: tuple[Message, ...]
    brix: float
    sugar_g_100ml: float
    acid_g_100ml: float
    ways: tuple[MethodSeen, ...]
