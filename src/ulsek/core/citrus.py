"""Citrus: what a fruit holds, what a house's own fruit has taught, and what a juice becomes when it is stretched, kept or left on its peel.

Fruit varies by week, supplier and size: typical values are where a house begins, its own record is where it goes on, and what stands on the bench
now wins. Standard library only; which fruit is cut for what is planned in `ulsek.planners.cut_plan`.
"""

from __future__ import annotations

import csv
import json
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, Literal

from .contents import Contents
from .keeping import starting_rules
from .makeup import ByReading
from .materials import Material, read_material
from .operations.combine import Reach, amounts_to_reach
from .operations.extract import extent
from .properties.acidity import acid_g_100ml
from .properties.energy import learned as learned_range
from .properties.sugar import saturation_brix, sugar_g_100ml
from .ranges import Range
from .refusals import Refusal
from .substances import SUBSTANCES
from .typical import typical_materials

School = Literal["rest", "blend"]
_NINETY = 1.645
"""Half-width of a 5 to 95 % range in standard deviations."""
_ONE_FRUIT = 0.14
"""One fruit of a case against the case's mean, relative standard deviation; house experience, variety trials give 0.10 to 0.18."""
_ONE_CASE = 0.08
"""One case against the house's mean for that fruit, until its own cases say; house experience."""
_ZEST_OIL, _DRAWN, _DRAW_HOURS = Range(0.022, 0.012, 0.032), Range(0.3, 0.2, 0.4), Range(6.0, 3.0, 12.0)
"""Oil [g/g of zest], liquid drawn by sugar [g/g of peel] and its time constant [h at 20 °C]: the priors of the peel materials."""


@cache
def citrus_data() -> dict[str, Any]:
    """Keeping, oil and trial words: dated house experience that ships with Ulsek."""
    found: dict[str, Any] = json.loads((files("ulsek.core") / "data" / "citrus.json").read_text(encoding="utf-8"))
    return found


def _prior(name: str, *path: str) -> Range:
    found: Any = citrus_data()[name]
    for key in path:
        found = found[key]
    low, value, high = found
    return Range(value, low, high)


@dataclass(frozen=True, slots=True)
class Variety:
    """A citrus as the tables have it: weight of one [g], shares of its weight that are juice, zest and all rind, and its juice."""

    key: str
    name: str
    piece_g: Range
    juice_share: Range
    zest_share: float
    peel_share: float
    juice: Material
    confidence: str

    @property
    def density(self) -> float:
        """Of the juice [g/mL]."""
        return self.juice.measured()["density_g_ml"]

    def juice_ml(self, share: float | None = None) -> float:
        """mL from one fruit of the usual weight, at a share of juice or the typical one."""
        return self.piece_g.value * (self.juice_share.value if share is None else share) / self.density

    def plate(self) -> dict[str, Range]:
        """Sugar and acid of its juice [g/100 mL] with their ranges, for the plate before buying."""
        middle = self.juice.measured()
        corners = [self.juice.measured(z, w) for z in (-1.0, 1.0) for w in (-1.0, 1.0)]
        return {
            name: Range(middle[name], min(c[name] for c in corners), max(c[name] for c in corners))
            for name in ("sugar_g_100ml", "acid_g_100ml")
        }


@cache
def varieties() -> Mapping[str, Variety]:
    """Every citrus of the tables by its key. Source: `data/juices.csv`, compiled, with its confidence."""
    text = (files("ulsek.core") / "data" / "juices.csv").read_text(encoding="utf-8")
    described = typical_materials()
    found = {}
    for row in csv.DictReader(line for line in text.splitlines() if line and not line.startswith("#")):
        key = row["name"]
        if row["group"] != "citrus" or key not in described:
            continue
        weight = float(row["fruit_g"])
        found[key] = Variety(
            key,
            key.replace("_", " ").capitalize(),
            Range(weight, 0.75 * weight, 1.3 * weight),
            Range(float(row["yield_typ"]) / 100.0, float(row["yield_low"]) / 100.0, float(row["yield_high"]) / 100.0),
            float(row["zest_pct"]) / 100.0,
            float(row["peel_pct"]) / 100.0,
            read_material(f"{key}_juice", described[f"{key}_juice"]),
            row["confidence"],
        )
    return found


def variety(key: str, where: str = "fruit") -> Variety:
    """One citrus. Refuses a fruit without a record, and says which there are."""
    if key not in varieties():
        raise Refusal(
            f"Nothing is known about “{key}” as a citrus", where, f"there are {', '.join(varieties())}", "Choose one", "unknown_material"
        )
    return varieties()[key]


@dataclass(frozen=True, slots=True)
class Seen:
    """What was measured of `count` fruits: any of their weight [g], juice [mL], peel [g], zest [g], and the juice's reading [°Bx] and acid [g/100 mL]."""

    count: int
    weight_g: float | None = None
    juice_ml: float | None = None
    peel_g: float | None = None
    zest_g: float | None = None
    brix: float | None = None
    acid_g_100ml: float | None = None

    def checked(self, of: Variety) -> Seen:
        """This, or a refusal of what cannot be: at its figure, with the bound."""
        if not 1 <= self.count <= 10_000:
            raise Refusal(f"{self.count} fruits cannot be", "count", "from 1 to 10 000", "Count them again", "out_of_bounds")
        if self.juice_ml is None and self.weight_g is None:
            raise Refusal("Nothing was measured", "juice_ml", remedy="One figure is enough: mL of juice", code="missing")
        bounds = {
            "weight_g": (of.piece_g.low / 3.0 * self.count, of.piece_g.high * 3.0 * self.count, "g"),
            "juice_ml": (0.0, of.piece_g.high * 2.0 * self.count, "mL"),
            "peel_g": (0.0, of.piece_g.high * self.count, "g"),
            "zest_g": (0.0, 0.4 * of.piece_g.high * self.count, "g"),
            "brix": (2.0, 25.0, "°Bx"),
            "acid_g_100ml": (0.05, 12.0, "g/100 mL"),
        }
        for name, (low, high, unit) in bounds.items():
            value = getattr(self, name)
            if value is not None and not (math.isfinite(value) and low <= value <= high):
                raise Refusal(
                    f"{value:g} {unit} from {self.count} of {of.name.lower()} cannot be",
                    name,
                    f"from {low:.0f} to {high:.0f} {unit}",
                    "Check count and figure",
                    "out_of_bounds",
                )
        if self.weight_g is not None and self.juice_ml is not None and self.juice_ml * of.density > 0.85 * self.weight_g:
            raise Refusal(
                f"{self.juice_ml:g} mL do not come out of {self.weight_g:g} g",
                "juice_ml",
                f"at most {0.85 * self.weight_g / of.density:.0f} mL",
                "Check both",
                "more_than_there_is",
            )
        return self

    def share(self, of: Variety) -> float | None:
        """Juice as a share of the fruit's weight; without a weight, of the usual weight of so many."""
        if self.juice_ml is None:
            return None
        weight = self.weight_g if self.weight_g is not None else self.count * of.piece_g.value
        return self.juice_ml * of.density / weight


@dataclass(frozen=True, slots=True)
class Known:
    """What is held of a case: a figure with its range, from what (`typical`, `record`, `sample`), and from how many fruits or cases."""

    share: Range
    source: str
    count: int


def _update(mean: float, variance: float, seen: float, noise: float) -> tuple[float, float]:
    gain = variance / (variance + noise)
    return mean + gain * (seen - mean), (1.0 - gain) * variance


def expected_share(of: Variety, record: Sequence[float], samples: Sequence[Seen] = ()) -> Known:
    """Share of a case's weight that is juice: the typical range, moved by the house's earlier cases (`record`, shares), then by this case's own samples.

    Normal updates. A case scatters about the house's mean by its cases' own spread (8 % to begin with), a fruit about its case by 14 %.
    Ten fruits at 32 % where four cases of limes gave 42 %: 35 ± 2.5 %. Error: the fruits that were not cut. Source: Bayes' rule for normal errors; house experience.
    """
    mean, variance = of.juice_share.value, (of.juice_share.half_width / _NINETY) ** 2
    source, count = "typical", 0
    if record:
        around = _spread(record)
        for past in record:
            mean, variance = _update(mean, variance, past, around**2)
        variance += around**2
        source, count = "record", len(record)
    counted = [(sample, share) for sample in samples if (share := sample.share(of)) is not None]
    for sample, share in counted:
        weighed = sample.weight_g is not None
        # Without a weight the size of the fruit is in doubt as well.
        noise = (_ONE_FRUIT * mean) ** 2 / sample.count + (0.0 if weighed else (0.12 * mean) ** 2) + (0.01 * mean) ** 2
        mean, variance = _update(mean, variance, share, noise)
        source, count = "sample", sum(item.count for item, _ in counted)
    half = _NINETY * math.sqrt(variance)
    return Known(Range(mean, max(0.01, mean - half), min(0.8, mean + half)), source, count)


def _spread(values: Sequence[float]) -> float:
    """Case to case, standard deviation: this house's own, held by four cases' worth of the usual 8 % until it has many."""
    mean = math.fsum(values) / len(values)
    own = math.fsum((value - mean) ** 2 for value in values)
    return math.sqrt((own + 4.0 * (_ONE_CASE * mean) ** 2) / (len(values) + 3))


def against_record(of: Variety, record: Sequence[float], samples: Sequence[Seen]) -> str:
    """One sentence when this case's juice lies outside what the house's cases gave (mean ± 1.645 spreads): dry, or good. Else nothing. Needs three cases."""
    seen = [(sample.count, share) for sample in samples if (share := sample.share(of)) is not None]
    if len(record) < 3 or not seen:
        return ""
    share = math.fsum(count * value for count, value in seen) / sum(count for count, _ in seen)
    mean = math.fsum(record) / len(record)
    if abs(share - mean) <= _NINETY * _spread(record):
        return ""
    word = "dry" if share < mean else "juicy"
    return (
        f"These are {word}: {100 * share:.0f} % juice, where the last {len(record)} cases gave {100 * mean:.0f} %. "
        f"For a litre you need {1000 * of.density / share / 1000:.1f} kg instead of {1000 * of.density / mean / 1000:.1f} kg."
    )


@dataclass(frozen=True, slots=True)
class Stretched:
    """A citrus to N times its juice: what goes in [g, mL], where it stands beside fresh, what it costs and saves."""

    juice_ml: float
    acids_g: Mapping[str, float]
    peel_g: float
    water_g: float
    volume_ml: float
    sugar_g_100ml: float
    acid_g_100ml: float
    oil_mg_l: Range
    fresh: Mapping[str, float]
    fruit_saved: float
    cost_litre: float | None
    fresh_litre: float | None
    hours: float
    remarks: tuple[str, ...]

    def as_data(self) -> dict[str, Any]:
        data = {name: getattr(self, name) for name in self.__slots__}
        return {
            **data,
            "acids_g": dict(self.acids_g),
            "oil_mg_l": self.oil_mg_l.as_data(),
            "fresh": dict(self.fresh),
            "remarks": list(self.remarks),
        }


def _split_per_titratable(juice: Material) -> dict[str, float]:
    """Grams of each acid in one gram of titratable acid [as citric], in the juice's own proportions, those above half a percent."""
    assert isinstance(juice.makeup, ByReading)
    split = {key: share for key, share in juice.makeup.acid_split.items() if share >= 0.005}
    whole = math.fsum(split.values())
    per_gram = (
        math.fsum(share * SUBSTANCES["citric_acid"].equivalent_g / SUBSTANCES[key].equivalent_g for key, share in split.items()) / whole
    )
    return {key: share / whole / per_gram for key, share in split.items()}


def stretch(
    of: Variety,
    juice_ml: float,
    times: float,
    *,
    school: School = "rest",
    target: float | None = None,
    peel_g: float | None = None,
    most_oil_mg_l: float | None = None,
    own: Material | None = None,
    share: float | None = None,
    price_kg: float | None = None,
    acid_kg: float = 12.0,
) -> Stretched:
    """A citrus stretched to `times` its `juice_ml`: acids in its own split and water to the line, with its peel's oil.

    The juice goes back in; the acids bring it to `target` [g/100 mL, the juice's own without one] in the final volume. `peel_g` of zest lies with the acids (rest)
    or is blended in; its oil is bounded by `most_oil_mg_l`. `own`: the juice as read. `share`: juice of the fruit's weight; `price_kg` of the fruit, `acid_kg`
    of acid. 1 L of bergamot at 4.8 to four times: 144 g of acids, 2.91 L of water. Error: acid that of the reading, oil a factor of two.
    Source: mass balance; definition of titratable acid; house experience of oil.
    """
    if not 1.0 < times <= 12.0:
        raise Refusal(f"{times:g} times cannot be", "times", "above 1, at most 12", "Beyond it is flavoured acid water", "out_of_bounds")
    if not 1.0 <= juice_ml <= 1_000_000:
        raise Refusal(f"{juice_ml:g} mL of juice cannot be", "juice_ml", "from 1 mL to 1 000 L", code="out_of_bounds")
    juice = own or of.juice
    read = juice.measured()
    aim = read["acid_g_100ml"] if target is None else target
    start = juice.per_gram().liquid
    start = start.scaled(juice_ml * read["density_g_ml"] / start.mass_g)
    per_gram = _split_per_titratable(of.juice)
    blend = Contents(per_gram)
    volume = times * juice_ml
    if aim * times <= read["acid_g_100ml"]:
        raise Refusal(
            f"{aim:g} g/100 mL is on the wrong side",
            "target",
            f"the juice alone brings {read['acid_g_100ml'] / times:.2f} to {times:g} times",
            "Aim higher, or thin it with water alone",
            "unreachable",
        )
    found = amounts_to_reach(
        start,
        [
            Reach("acid_g_100ml", aim, "Acids", blend.scaled(1.0 / blend.mass_g)),
            Reach("volume_ml", volume, "Water", Contents({"water": 1.0})),
        ],
    )
    if found is None or min(found) < -1e-9:
        raise Refusal(f"{aim:g} g/100 mL does not fit", "target", f"into {volume:.0f} mL", "Aim lower", "unreachable")
    acid, water = found
    acids = {key: acid * grams / blend.mass_g for key, grams in per_gram.items()}
    made = start + Contents(acids) + Contents({"water": water})
    of_juice = of.juice_share.value if share is None else share
    fruit_g = juice_ml * read["density_g_ml"] / of_juice
    kept, limit = _prior("oil_kept", school), most_oil_mg_l or float(citrus_data()["oil_mg_l_most"])
    zest = of.zest_share * fruit_g if peel_g is None else peel_g
    remarks = []
    if peel_g is not None and peel_g > fruit_g * of.peel_share:
        remarks.append(
            f"{peel_g:.0f} g of peel are more than these fruits have, about {fruit_g * of.peel_share:.0f} g: it comes from others."
        )

    def oil(grams: float) -> Range:
        litres = volume / 1000.0
        return Range(*(1000.0 * grams * a * b / litres for a, b in zip(_points(_ZEST_OIL), _points(kept), strict=True)))

    if oil(zest).value > limit:
        zest *= limit / oil(zest).value
        remarks.append(f"Peel held to {zest:.0f} g, so that oil stays at {limit:.0f} mg/L; the rest makes an oil-sugar.")
    fresh_oil = _prior("oil_mg_l_fresh")
    remarks.append(
        "Skin and sun: gloves for bergamot peel." if of.key == "bergamot" else "Unwaxed or scrubbed fruit: the peel lies in the drink."
    )
    remarks.append("On a menu “juice” has a legal meaning that differs by place: call it stretched, and ask your authority.")
    if price_kg is not None:
        fresh_cost = price_kg * fruit_g / 1000.0 / (juice_ml / 1000.0)
        cost = (price_kg * fruit_g + acid_kg * acid) / 1000.0 / (volume / 1000.0)
    return Stretched(
        juice_ml,
        acids,
        zest,
        water,
        volume,
        sugar_g_100ml(made),
        acid_g_100ml(made),
        oil(zest),
        {"sugar_g_100ml": read["sugar_g_100ml"], "acid_g_100ml": read["acid_g_100ml"], "oil_mg_l": fresh_oil.value},
        1.0 - 1.0 / times,
        cost if price_kg is not None else None,
        fresh_cost if price_kg is not None else None,
        2.0 if school == "rest" else 0.1,
        tuple(remarks),
    )


def _points(of: Range) -> tuple[float, float, float]:
    return of.value, of.low, of.high


@dataclass(frozen=True, slots=True)
class Mixer:
    """One sour at its dose: mL, and what that dose brings [g]."""

    name: str
    dose_ml: float
    sugar_g: float
    acid_g: float


def at_equal(mixers: Sequence[tuple[str, float, float]], by: Literal["acid", "sugar"], grams: float) -> tuple[Mixer, ...]:
    """Doses of several mixers (name, sugar, acid [g/100 mL]) that bring the same `grams` of acid or of sugar; those without any are left out. Exact."""
    found = []
    for name, sugar, acid in mixers:
        holds = acid if by == "acid" else sugar
        if holds <= 1e-9:
            continue
        dose = 100.0 * grams / holds
        found.append(Mixer(name, dose, sugar * dose / 100.0, acid * dose / 100.0))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class OilSugar:
    """Peel packed in sugar: what goes in and what runs off it [g]; hours are at the given warmth."""

    sugar_g: float
    drawn_g: Range
    dissolved_g: float
    dry_g: float
    pressed_g: float
    pours_g: Range
    oil_mg: Range
    hours_to_most: float
    remarks: tuple[str, ...]

    def as_data(self) -> dict[str, Any]:
        data = {name: getattr(self, name) for name in self.__slots__}
        ranges = {name: getattr(self, name).as_data() for name in ("drawn_g", "pours_g", "oil_mg")}
        return {**data, **ranges, "remarks": list(self.remarks)}


def oil_sugar(
    peel_g: float,
    *,
    measure: Literal["weight", "volume"] = "weight",
    ratio: float = 1.5,
    hours: float = 18.0,
    warm_c: float = 20.0,
    pressed: bool = True,
    peel_g_ml: float | None = None,
    learned: Range | None = None,
) -> OilSugar:
    """Sugar on `peel_g` [g] of peel for `hours` at `warm_c` [0 to 45 °C]: `ratio` of the peel's weight, or of its packed volume.

    Drawn = peel × plateau × (1 − exp(−t/τ)); sugar dissolves in it to saturation, the rest stays dry. By volume the peel's packed weight counts,
    `peel_g_ml` as this house weighed it once, and sugar of 0.85 g/mL. `learned`: the house's own plateau [g/g]. Pressing gives back a quarter of what clings.
    100 g, 18 h at 20 °C: 28.5 g drawn. Error 40 % until learned. Source: house experience, mass balance.
    """
    for value, name, low, high, unit in (
        (peel_g, "peel_g", 0.1, 100_000.0, "g"),
        (ratio, "ratio", 0.1, 10.0, "times the peel"),
        (hours, "hours", 0.0, 240.0, "h"),
        (warm_c, "warm_c", 0.0, 45.0, "°C"),
    ):
        if not (math.isfinite(value) and low <= value <= high):
            raise Refusal(f"{value:g} {unit} cannot be", name, f"from {low:g} to {high:g} {unit}", code="out_of_bounds")
    packed = peel_g_ml or _prior("peel_g_per_ml").value
    sugar = peel_g * ratio if measure == "weight" else peel_g / packed * 0.85 * ratio
    plateau = learned or _DRAWN
    reached = extent(hours * 60.0, _DRAW_HOURS.value, warm_c)
    slow, fast = (extent(hours * 60.0, tau, warm_c) for tau in (_DRAW_HOURS.high, _DRAW_HOURS.low))
    drawn = Range(peel_g * plateau.value * reached, peel_g * plateau.low * slow, peel_g * plateau.high * fast)
    full = saturation_brix(warm_c) / 100.0
    water = 0.9 * drawn.value
    dissolved = min(sugar, water * full / (1.0 - full))
    clings = 0.35 * (peel_g - drawn.value) * (0.75 if pressed else 1.0)
    pours = max(0.0, drawn.value + dissolved - min(clings, 0.6 * (drawn.value + dissolved)))
    spread = drawn.half_width / drawn.value if drawn.value else 0.0
    oil = Range(*(1000.0 * peel_g * 0.36 * share * reached * 0.4 for share in _points(_ZEST_OIL)))
    remarks = ["Spent peel: cover it with the water of the next syrup, candy it, or lay it in spirit for a day."]
    if sugar - dissolved > 0.5:
        remarks.append(f"{sugar - dissolved:.0f} g of sugar stay dry: stir in juice or a little warm water, and rinse the peel with it.")
    if measure == "volume" and peel_g_ml is None:
        remarks.append("Packed peel weighs 0.30 to 0.48 g/mL until this house weighs its own cup of it once.")
    return OilSugar(
        sugar,
        drawn,
        dissolved,
        sugar - dissolved,
        pours if pressed else 0.0,
        Range.around(pours, spread * pours, 0.0),
        oil,
        3.0 * _DRAW_HOURS.value / math.pow(2.0, (warm_c - 20.0) / 10.0),
        tuple(remarks),
    )


def taught_draw(peel_g: float, spent_g: float, hours: float, warm_c: float = 20.0) -> float:
    """Plateau [g/g of peel] that one jar teaches: `peel_g` weighed `spent_g` after `hours` under sugar at `warm_c` [°C], rinsed and drained.

    (before − after) / before / (1 − exp(−t/τ)). 100 g that weigh 71.5 g after 18 h: 0.30. Refuses peel that grew, or lost more than its half.
    Error: the drops that cling. Source: mass balance, the draw's own time constant.
    """
    if not (math.isfinite(peel_g) and math.isfinite(spent_g) and peel_g > 0 and 0.4 * peel_g <= spent_g < peel_g):
        raise Refusal(
            f"{spent_g:g} g of spent peel cannot be",
            "spent_g",
            f"from {0.4 * peel_g:.0f} to {peel_g:.0f} g",
            "Rinse, drain, weigh again",
            "out_of_bounds",
        )
    if not 0.5 <= hours <= 240.0:
        raise Refusal(f"{hours:g} h teach nothing", "hours", "from 0.5 to 240 h", "Wait longer", "out_of_bounds")
    return (peel_g - spent_g) / peel_g / extent(hours * 60.0, _DRAW_HOURS.value, warm_c)


def learned_draw(seen: Sequence[float]) -> Range | None:
    """The house's own plateau [g/g] from what its jars have taught, the prior narrowed; None before the first. Source: `energy.learned`."""
    return learned_range(_DRAWN, list(seen)) if seen else None


@dataclass(frozen=True, slots=True)
class Keeps:
    """How long one form of a juice stays good, quality [h] told from safety [days, none while frozen], with the reasons."""

    form: str
    quality_h: Range
    safe_days: float | None
    words: str
    how: str
    why_safe: str

    def as_data(self) -> dict[str, Any]:
        return {**{name: getattr(self, name) for name in self.__slots__}, "quality_h": self.quality_h.as_data()}


def keeps(rules: Mapping[str, Any] | None = None) -> tuple[Keeps, ...]:
    """How long citrus keeps in each form: quality by house experience, safety by the keeping rules' class. A house's own `rules` win. No reading lengthens it here."""
    said = rules or starting_rules()
    found = []
    for form in citrus_data()["forms"]:
        group = said["classes"][form["class"]]
        low, value, high = form["quality_h"]
        frozen = form.get("frozen", False)
        why = f"{group['words']}: {group['days']} days at {group['at_most_c']} °C"
        found.append(
            Keeps(
                form["form"],
                Range(value, low, high),
                None if frozen else float(group["days"]),
                form["words"],
                form["how"],
                f"safe while frozen; from the thaw {why}" if frozen else f"{why}; a shown barrier may lengthen it on its own spec",
            )
        )
    return tuple(found)
