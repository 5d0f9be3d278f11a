"""What the Citrus place takes and answers."""

from __future__ import annotations

from datetime import date, datetime
from decimal import Decimal
from typing import Literal
from uuid import UUID

from ninja import Field

from ulsek.team.schema import Schema


class RangeOut(Schema):
    value: float
    low: float
    high: float


class VarietyOut(Schema):
    """A citrus: its place on the plate and what one fruit gives, by the house's record or by the tables."""

    key: str
    name: str
    sugar_g_100ml: RangeOut
    acid_g_100ml: RangeOut
    piece_g: float
    juice_ml: RangeOut
    zest_g: float
    peel_g: float
    zest_range: RangeOut
    peel_range: RangeOut
    ml_kg: float
    source: Literal["typical", "record"]
    cases: int
    confidence: str
    packed_g_ml: float | None


class CaseIn(Schema):
    fruit: str
    supplier: str
    size: str = ""
    count: int
    weight_g: float
    price: Decimal = Decimal(0)


class FruitSampleIn(Schema):
    """What was measured of some fruits: one figure is enough."""

    count: int
    weight_g: float | None = None
    juice_ml: float | None = None
    peel_g: float | None = None
    zest_g: float | None = None
    brix: float | None = None
    acid_g_100ml: float | None = None


class FruitSampleOut(Schema):
    id: int
    count: int
    juice_ml: float | None
    weight_g: float | None
    at: datetime
    by: str
    set_aside: str


class AsideIn(Schema):
    why: str


class EachOut(Schema):
    juice_ml: RangeOut
    zest_g: float
    peel_g: float
    zest_range: RangeOut
    peel_range: RangeOut


class CaseOut(Schema):
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
    share: RangeOut
    source: Literal["typical", "record", "sample"]
    from_count: int
    unlike: str
    brix: float | None
    acid_g_100ml: float | None
    samples: list[FruitSampleOut]


class RecordPoint(Schema):
    came_at: datetime
    supplier: str
    size: str
    share: float
    ml_kg: float


class PlanCase(Schema):
    case: str
    count: int | None = None


class PlanWant(Schema):
    """Something wanted by a time: a kind, a made thing, or a batch of a published spec."""

    what: Literal["juice", "zest", "peel", "wheels", "whole", "stretched", "oil_sugar", "spec"]
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


class PlanCut(Schema):
    row: str
    case: str
    fruit: str
    way: str
    count: int
    at: datetime
    then: datetime
    gives: dict[str, float]
    gives_range: dict[str, dict[str, float]] = Field(default_factory=dict)


class PlanShare(Schema):
    case: str
    kind: str
    want: str
    amount: float
    unit: str
    grams: float


class PlanOver(Schema):
    case: str
    fruit: str
    kind: str
    amount: float
    unit: str
    grams: float
    offers: list[str]


class PlanShort(Schema):
    want: str
    name: str
    kind: str
    amount: float
    unit: str
    by: datetime
    text: str


class PlanSource(Schema):
    case: str
    name: str
    grams: float


class PlanNamed(Schema):
    key: str
    name: str
    by: datetime


class NaiveOut(Schema):
    bin_g: float
    cost: float
    fruits: int
    short: bool


class PackOut(Schema):
    fruit: str
    packs: int
    each: int
    price: float | None


class PlanAnswer(Schema):
    """A plan worked out, beside what each want on its own would take."""

    cuts: list[PlanCut]
    sources: list[PlanSource]
    wants: list[PlanNamed]
    shares: list[PlanShare]
    over: list[PlanOver]
    could: list[str]
    notes: list[str] = Field(default_factory=list)
    bin_g: float
    cost: float
    fruits: int
    naive: NaiveOut
    short: list[PlanShort]
    packs: list[PackOut]
    proved: bool
    text: str


class PlanOut(Schema):
    id: UUID
    name: str
    cases: list[PlanCase]
    wants: list[PlanWant]
    answer: PlanAnswer
    made_at: datetime
    made_by: str
    done_at: datetime | None
    done_rows: list[str]


class CutIn(Schema):
    row: str
    count: int
    juice_ml: float = 0.0
    skin_g: float = 0.0
    skin_binned_g: float = 0.0


class StretchIn(Schema):
    fruit: str
    juice_ml: float = 1000.0
    times: float = 4.0
    school: Literal["rest", "blend"] = "rest"
    target: float | None = None
    peel_g: float | None = None
    most_oil_mg_l: float | None = None
    case: UUID | None = None


class MixerOut(Schema):
    name: str
    dose_ml: float
    sugar_g: float
    acid_g: float


class StretchOut(Schema):
    juice_ml: float
    acids_g: dict[str, float]
    peel_g: float
    water_g: float
    volume_ml: float
    sugar_g_100ml: float
    acid_g_100ml: float
    oil_mg_l: RangeOut
    fresh: dict[str, float]
    fruit_saved: float
    cost_litre: float | None
    fresh_litre: float | None
    hours: float
    remarks: list[str]
    from_what: str
    keeps: list[str]
    serve_ml: float
    equal_acid: list[MixerOut]
    equal_sugar: list[MixerOut]


class OilSugarIn(Schema):
    fruit: str
    peel_g: float
    measure: Literal["weight", "volume"] = "weight"
    ratio: float = 1.5
    hours: float = 18.0
    warm_c: float = 20.0
    pressed: bool = True


class SpentIn(Schema):
    fruit: str
    peel_g: float
    spent_g: float
    hours: float
    warm_c: float = 20.0


class OilSugarOut(Schema):
    jars: int
    sugar_g: float
    drawn_g: RangeOut
    dissolved_g: float
    dry_g: float
    pours_g: RangeOut
    oil_mg: RangeOut
    hours_to_most: float
    remarks: list[str]


class KeepsOut(Schema):
    form: str
    quality_h: RangeOut
    safe_days: float | None
    words: str
    how: str
    why_safe: str


class TrialIn(Schema):
    fruit: str
    first: str
    second: str
    pairs: list[tuple[float, float]]


class VerdictOut(Schema):
    """What the pairs can honestly say: second less first, with its 95 % interval."""

    pairs: int
    first: float
    second: float
    spread: float
    mean: float
    low: float | None
    high: float | None
    more_pairs: int | None
    text: str


class TrialOut(Schema):
    id: int
    fruit: str
    name: str
    first: str
    second: str
    pairs: list[tuple[float, float]]
    at: datetime
    by: str
    verdict: VerdictOut


class PackedIn(Schema):
    fruit: str
    ml: float
    grams: float


class LedgerRow(Schema):
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
    warm_c: float = 45.0
    missing: list[str] = Field(default_factory=list)
    want_brix: float | None = None
    scale_g: float = 0.1


class MethodOut(Schema):
    verb: str
    name: str
    dose: str
    dose_g: float
    minutes: RangeOut
    left_g: RangeOut
    haze_taken: float | None
    brix: float
    sugar_g_100ml: float
    acid_g_100ml: float
    flavour: str
    gear: str
    allergens: list[str]
    against: list[str]
    missing: bool
    last_time: str


class MissableOut(Schema):
    key: str
    name: str


class DeskOut(Schema):
    name: str
    missable: list[MissableOut]
    without: list[str]
    brix: float
    sugar_g_100ml: float
    acid_g_100ml: float
    ways: list[MethodOut]
