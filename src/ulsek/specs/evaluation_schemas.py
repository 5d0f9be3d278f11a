"""What the core works out of a spec, as the workbench and a batch are told it."""

from __future__ import annotations

from ninja import Field

from ulsek.stores.schemas import Figure
from ulsek.team.schema import Schema


class Bands(Schema):
    """Grams by what they are."""

    sugar: float
    acid: float
    solids: float
    spirit: float
    water: float


class AddedOut(Schema):
    line: str
    material: str
    mass_g: Figure
    bands: Bands


class LeavingOut(Schema):
    name: str
    kind: str
    kept: bool
    mass_g: float
    bands: Bands


class ByProductOut(LeavingOut):
    """A stream that is kept; `left_g` is what no later step took."""

    left_g: float


class UsualOut(Schema):
    """What a parameter begins with; low and high are those of a prior."""

    value: float | str | bool | None
    low: float | None = None
    high: float | None = None


class ParamOut(Schema):
    """One parameter of a verb: kind is number, range, choice, flag or text."""

    name: str
    label: str
    kind: str
    unit: str
    words: str
    allowed: list[str]
    usual: UsualOut


class VerbOut(Schema):
    verb: str
    family: str
    family_word: str
    word: str
    about: str
    takes_lines: bool
    check: str
    gear: list[str]
    params: list[ParamOut]


class FamilyOut(Schema):
    key: str
    word: str


class WordsOut(Schema):
    """The words that screens offer: families and verbs."""

    families: list[FamilyOut]
    verbs: list[VerbOut]


class ColourOut(Schema):
    colour: str
    word: str
    material: str


class StepOut(Schema):
    id: str
    vessel: str
    begins_min: float
    ends_min: float
    hands_on_min: float
    waiting_min: float
    people: int
    gear: list[str]
    check: str
    continues: bool
    stood: Bands
    temperature_c: float
    bands: Bands
    added: list[AddedOut]
    leaving: list[LeavingOut]
    mass_g: Figure
    volume_ml: Figure
    density_g_ml: Figure | None = None
    brix: Figure | None = None
    brix_reading: Figure | None = None
    sugar_g_100ml: Figure | None = None
    acid_g_100ml: Figure | None = None
    abv: Figure | None = None


class KeepReason(Schema):
    """One date of the keeping: from its class, a barrier shown, quality, a component or the house."""

    kind: str
    days: int
    words: str
    source: str
    sure: str
    until: str = ""


class KeepingOut(Schema):
    """How long a product keeps. Results frozen by an earlier core lack what came later."""

    days: int
    at_most_c: float
    reason: str
    source: str
    sure: str
    counts_from: str = ""
    not_shown: list[str] = Field(default_factory=list)
    stands_days: float = 0.0
    warm_h: float = 0.0
    safety: KeepReason | None = None
    quality: KeepReason | None = None
    reasons: list[KeepReason] | None = None


class ShareOut(Schema):
    name: str
    share: float


class NarrowingOut(Schema):
    property: str
    material: str
    name: str
    reading: str
    share: float
    half_now: float
    half_then: float


class AtMostOut(Schema):
    """How much of one material it holds, and how much it may for the limit."""

    material: str
    name: str
    now_g: float
    most_g: float


class RestrictedOut(Schema):
    """A restricted substance in the product, per serve and per litre of the drink that it is judged in, against its limit."""

    name: str
    materials: list[str]
    per_serve_mg: Figure
    per_litre_mg: Figure
    limit: str
    share: float
    severity: str
    words: str
    source: str
    told: str = ""
    at_most: list[AtMostOut] = Field(default_factory=list)
    dose_ml: float | None = None
    drink_ml: float | None = None
    drink_said: bool = True


class FinalOut(Schema):
    mass_g: Figure
    volume_ml: Figure
    density_g_ml: Figure
    brix: Figure
    brix_reading: Figure
    sugar_g_100ml: Figure
    acid_g_100ml: Figure
    abv: Figure
    ph: Figure | None = None
    water_activity: Figure | None = None
    freezing_c: Figure | None = None
    colour: ColourOut | None = None
    bands: Bands
    serves: float
    takes_min: float = 0.0
    doses_g_l: dict[str, float]
    keeps_days: int
    keeping: KeepingOut
    cost: str
    cost_per_litre: str
    cost_left: str = "0"
    unpriced: list[str]
    allergens: list[str]
    cautions: list[str]
    free_from: list[str]
    allergens_unknown: list[str] = Field(default_factory=list)
    allergens_words: str = ""
    restricted: list[RestrictedOut] | None = None
    shares: dict[str, list[ShareOut]]
    narrowing: list[NarrowingOut]


class RemarkOut(Schema):
    code: str
    severity: str
    where: str
    text: str
    remedy: str


class RefusalOut(Schema):
    code: str
    where: str
    text: str
    remedy: str


class Words(Schema):
    steps: dict[str, str]
    lines: dict[str, str]
    beside: dict[str, str]
    names: dict[str, str]


class LeftoverOut(Schema):
    """One thing that is left: `stands` in a vessel, as a by_product, or in the bin; what it costs, how long it keeps, what can be made of it."""

    key: str
    name: str
    stands: str
    mass_g: float
    volume_ml: float
    cost: str
    cost_if_kept: str
    days: int
    at_most_c: float
    how: str
    offer: str
    hands_min: float
    expected_g: Figure


class EvaluationOut(Schema):
    """Everything that was worked out. Results frozen by an earlier core lack what came later."""

    steps: list[StepOut]
    final: FinalOut | None
    by_products: list[ByProductOut]
    leftovers: list[LeftoverOut] = Field(default_factory=list)
    losses: list[LeavingOut]
    remarks: list[RemarkOut]
    refusals: list[RefusalOut]


class WorkbenchOut(EvaluationOut):
    words: Words
    read: dict[str, bool]
    targets: list[str]
