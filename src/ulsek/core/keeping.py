"""Keeping: how long a product may stand, and why; safety told apart from quality.

Safety is the strongest barrier that has been *shown*; without one, the shortest date for the classes of what is in it. A predicted pH never lengthens
a date, nor does any figure that nobody has read. Quality is the earliest of its rules. Both count from a stated moment, and a component's own date
caps its product's. Classes, barriers and rules are dated, sourced data in ``data/keeping.json`` that a house may replace.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from functools import cache
from importlib.resources import files
from typing import Any

from . import say
from .contents import Contents
from .events import READINGS
from .materials import Material
from .properties.measure import PROPERTY, measure
from .properties.solubility import sucrose_saturation_g_g
from .properties.water import water_activity
from .ranges import Range
from .refusals import Refusal

_READ = {
    **{name: READINGS[name] for name in ("ph", "water_activity", "brix_reading")},
    "abv": (0.0, 97.0, "strength lies from 0 to 97 % vol"),
}
FOREVER = 3650
"""A safety date that a barrier lifts: quality and the house decide."""
COUNTS_FROM = "the cool-down"


@dataclass(frozen=True, slots=True)
class Reason:
    """One date and what stands behind it. `kind` is class, barrier, quality, component or house."""

    kind: str
    days: int
    words: str
    source: str
    sure: str

    def as_data(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in self.__slots__}


@dataclass(frozen=True, slots=True)
class Evidence:
    """What has been shown of a product: figures read, by name (a pH only from a meter checked in its buffers), strength by label, frozen at °C."""

    read: Mapping[str, float] = field(default_factory=dict)
    meter_checked: bool = False
    strength_by_label: bool = False
    frozen_c: float | None = None

    def checked(self) -> Evidence:
        """The same. Refuses a figure that says nothing of keeping, and one that no instrument shows, each at its place."""
        for name, value in self.read.items():
            low, high, words = _READ.get(name, (0.0, 0.0, ""))
            if not words:
                raise Refusal(
                    f"“{name}” says nothing of keeping", f"read/{name}", f"read one of {', '.join(_READ)}", code="unknown_reference"
                )
            if not low <= value <= high:
                raise Refusal(f"{value:g} cannot be read", f"read/{name}", words, "Read again, or check the unit", "reading_out_of_range")
        return self

    @property
    def bears_on_safety(self) -> bool:
        """Whether something was shown that an authority would look at: pH on a checked meter, water activity, strength, the freezer. °Bx alone is none."""
        return (
            "water_activity" in self.read
            or "abv" in self.read
            or ("ph" in self.read and self.meter_checked)
            or self.strength_by_label
            or self.frozen_c is not None
        )


NOTHING_SHOWN = Evidence()


def last_day(first: date, days: int) -> date:
    """The last of so many days: the first counts as one. 3 days from a Monday is Wednesday."""
    return first + timedelta(days=days - 1)


@dataclass(frozen=True, slots=True)
class Keeping:
    """Whole `days`, the day of making counted as the first, at `at_most_c` or colder, from the logged cool-down: the shorter of safety and quality."""

    days: int
    at_most_c: float
    keeping_class: str
    because: str
    source: str
    sure: str
    safety: Reason
    quality: Reason
    reasons: tuple[Reason, ...] = ()
    opened_days: int = 14

    def use_by(self, cooled_on: date) -> date:
        """The last day, as `last_day` counts from the cool-down."""
        return last_day(cooled_on, self.days)

    def use_by_opened(self, cooled_on: date, opened_on: date) -> date:
        """The last day of an opened bottle: counted anew from the opening, never past its first date."""
        return min(self.use_by(cooled_on), opened_on + timedelta(days=self.opened_days - 1))

    @property
    def reason(self) -> str:
        days = "1 day" if self.days == 1 else f"{self.days} days"
        return f"{days} at {self.at_most_c:g} °C or colder, counted from {COUNTS_FROM}: {self.because}."

    def as_data(self) -> dict[str, Any]:
        return {
            "days": self.days,
            "at_most_c": self.at_most_c,
            "class": self.keeping_class,
            "reason": self.reason,
            "source": self.source,
            "sure": self.sure,
            "counts_from": COUNTS_FROM,
            "safety": self.safety.as_data(),
            "quality": self.quality.as_data(),
            "reasons": [reason.as_data() for reason in self.reasons],
        }


@cache
def starting_rules() -> dict[str, Any]:
    """The rules that ship with Ulsek."""
    rules: dict[str, Any] = json.loads((files("ulsek.core") / "data" / "keeping.json").read_text(encoding="utf-8"))
    return rules


def _class_reason(materials: Iterable[Material], rules: Mapping[str, Any]) -> tuple[str, Reason]:
    """The shortest class among the materials, and which material brings it. Refuses a class that the rules don't hold."""
    classes = rules["classes"]
    found: tuple[str, str] = ("any", "")
    for material in materials:
        if material.keeping_class is None:
            continue
        if material.keeping_class not in classes:
            raise Refusal(
                f"No keeping rule for “{material.keeping_class}”", f"materials/{material.key}", f"the rules hold {', '.join(classes)}"
            )
        if classes[material.keeping_class]["days"] < classes[found[0]]["days"]:
            found = (material.keeping_class, material.name)
    rule = classes[found[0]]
    return found[0], Reason(
        "class", rule["days"], f"{rule['words']} ({found[1]})" if found[1] else rule["words"], rule["source"], rule["sure"]
    )


def _shown(barrier: str, evidence: Evidence, figures: Mapping[str, Range]) -> float | None:
    """The figure that shows a barrier, at its unfavourable end; None where nobody has read it."""
    read = evidence.read
    if barrier == "frozen":
        return evidence.frozen_c
    if barrier == "ph":
        return read.get("ph") if evidence.meter_checked else None
    if barrier == "water_activity":
        if "water_activity" in read:
            return read["water_activity"]
        # A refractometer reading narrows what the sum says; its high end counts.
        return figures["water_activity"].high if "brix_reading" in read and "water_activity" in figures else None
    if "abv" in read:
        return read["abv"]
    return figures["abv"].low if evidence.strength_by_label and "abv" in figures else None


def _barriers(evidence: Evidence, figures: Mapping[str, Range], rules: Mapping[str, Any]) -> list[tuple[str, Reason]]:
    """Every barrier that is shown, by name, the strongest first."""
    found: list[tuple[int, str, Reason]] = []
    for name, rule in rules["barriers"].items():
        value = _shown(name, evidence, figures)
        if value is None or not (value <= rule["most"] if "most" in rule else value >= rule["least"]):
            continue
        shown = f"{rule['words']}, shown: {say.figure(value, 3 if name == 'water_activity' else 1)}"
        found.append((rule["strength"], name, Reason("barrier", FOREVER, shown, rule["source"], rule["sure"])))
    return [(name, reason) for _, name, reason in sorted(found, key=lambda item: -item[0])]


def _within(value: float, bounds: Iterable[float | None]) -> bool:
    low, high = bounds
    return (low is None or value >= low) and (high is None or value < high)


def _quality(figures: Mapping[str, float], facts: Mapping[str, bool], rules: Mapping[str, Any]) -> list[Reason]:
    """Every quality rule that applies, the earliest first."""
    found = []
    for rule in rules["quality"]:
        holds = all(
            facts.get(name, False) is bounds if isinstance(bounds, bool) else name in figures and _within(figures[name], bounds)
            for name, bounds in rule["when"].items()
        )
        if holds:
            found.append(Reason("quality", rule["days"], rule["words"], rule["source"], rule["sure"]))
    return sorted(found, key=lambda reason: reason.days)


def _figures_for_quality(contents: Contents | None) -> dict[str, float]:
    if contents is None or contents.liquid.mass_g <= 0:
        return {}
    figures = measure(contents)
    if not figures.get("volume_ml"):
        return {}
    figures["acetic_g_100ml"] = 100.0 * contents.of("acetic_acid") / figures["volume_ml"]
    figures["carbonation_g_l"] = PROPERTY["carbonation_g_l"](contents)
    return figures


def keeping(
    materials: Iterable[Material],
    rules: Mapping[str, Any] | None = None,
    *,
    contents: Contents | None = None,
    figures: Mapping[str, Range] | None = None,
    evidence: Evidence = NOTHING_SHOWN,
    heated: bool = False,
) -> Keeping:
    """How long a product of these materials keeps, and every reason for it.

    `contents` decide quality, `figures` (water_activity, abv with their ranges) and `evidence` safety. A component with a date of its own caps both.
    Refuses a class that the rules don't hold. Source: the rules, dated and sourced.
    """
    used, chosen = list(materials), rules or starting_rules()
    keeping_class, by_class = _class_reason(used, chosen)
    barriers = _barriers(evidence, figures or {}, chosen)
    safety = barriers[0][1] if barriers else by_class
    citrus = any(material.keeping_class == "fresh_juice" and material.kind == "juice" and _is_citrus(material) for material in used)
    thin = _figures_for_quality(contents)
    facts = {
        "fresh_citrus": citrus and not heated and thin.get("brix", 99.0) < 20.0 and thin.get("abv", 0.0) < 5.0 and len(used) == 1,
        "frozen": evidence.frozen_c is not None,
    }
    dulls = _quality(thin, facts, chosen)
    quality = (
        dulls[0] if dulls else Reason("quality", FOREVER, "nothing known that dulls it sooner", "house experience, not a standard", "low")
    )
    caps = [
        Reason("component", material.keeps_days, f"{material.name} keeps no longer itself", "its own date", "fair")
        for material in used
        if material.keeps_days is not None
    ]
    first = min([safety, quality, *caps], key=lambda reason: reason.days)
    if evidence.frozen_c is not None and barriers:
        at_most = evidence.frozen_c
    else:
        # Acid holds germs back, not yeast and mould: only dry and strong things may stand at the shelf.
        at_most = (chosen["barriers"][barriers[0][0]] if barriers else {}).get("at_most_c", chosen["classes"][keeping_class]["at_most_c"])
    reasons = tuple(sorted([by_class, *(reason for _, reason in barriers), *dulls, *caps], key=lambda reason: reason.days))
    return Keeping(
        first.days,
        at_most,
        keeping_class,
        first.words,
        first.source,
        first.sure,
        safety,
        quality,
        reasons,
        chosen.get("opened", {}).get("days", 14),
    )


def _is_citrus(material: Material) -> bool:
    split = getattr(material.makeup, "acid_split", {})
    return split.get("citric_acid", 0.0) > 0.8 and getattr(material.makeup, "acid_g_100ml", Range.exact(0.0)).value > 0.4


@dataclass(frozen=True, slots=True)
class HouseDate:
    """What a house says of a date: `days` for safety or quality, in somebody's name, with a reason; longer safety needs evidence or its authority's word."""

    of: str
    days: int
    name: str
    reason: str
    authority: str = ""


def with_house_date(found: Keeping, said: HouseDate, evidence: Evidence = NOTHING_SHOWN) -> Keeping:
    """The keeping as the house has it. Anything may be shortened; quality is lengthened with a name and a reason; safety only with evidence shown or the
    authority's word attached. Refuses the rest and says what is missing.
    """
    if said.of not in ("safety", "quality") or said.days < 1:
        raise Refusal(
            "A house's date is for safety or quality, in whole days from 1",
            "of",
            remedy="Choose one, and count the making as the first day",
        )
    now = found.safety if said.of == "safety" else found.quality
    longer = said.days > now.days
    if longer and not (said.name.strip() and said.reason.strip()):
        raise Refusal(
            "A longer date needs a name and a reason", "reason", f"it stands at {now.days} days", "Say who decided it, and why", "missing"
        )
    if longer and said.of == "safety" and not (said.authority.strip() or evidence.bears_on_safety):
        raise Refusal(
            "A longer safety date needs evidence",
            "authority",
            f"nothing that bears on safety has been shown, and {now.days} days is the date for its class",
            "Read pH on a checked meter or water activity, or attach your authority's word",
            "no_evidence",
        )
    house = Reason(
        "house",
        said.days,
        f"{said.reason.strip() or 'the house says so'} ({said.name.strip() or 'the house'})",
        said.authority.strip() or "the house",
        "fair",
    )
    safety, quality = (house, found.quality) if said.of == "safety" else (found.safety, house)
    caps = [reason for reason in found.reasons if reason.kind == "component"]
    first = min([safety, quality, *caps], key=lambda reason: reason.days)
    return replace(
        found,
        days=first.days,
        because=first.words,
        source=first.source,
        sure=first.sure,
        safety=safety,
        quality=quality,
        reasons=(*found.reasons, house),
    )


@dataclass(frozen=True, slots=True)
class Way:
    """What would make it keep longer: what to add or do, and the condition that goes with it."""

    barrier: str
    material: str
    mass_g: float
    words: str
    condition: str

    def as_data(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in self.__slots__}


_MOST_TIMES, _CAP = 6.0, 80


def _grams_to(contents: Contents, unit: Contents, reached: Any) -> float | None:
    """Least grams of an addition for which `reached(contents)` holds, by bisection to 1e-9; None when six times the vessel do not do."""
    low, high = 0.0, _MOST_TIMES * contents.mass_g
    if not reached(contents + unit.scaled(high)):
        return None
    for _ in range(_CAP):
        middle = (low + high) / 2.0
        if reached(contents + unit.scaled(middle)):
            high = middle
        else:
            low = middle
    return high


def ways_to_keep_longer(contents: Contents, rules: Mapping[str, Any] | None = None, keep_c: float = 4.0) -> tuple[Way, ...]:
    """Each barrier solved for this vessel: sugar to a water activity, acid to a pH, spirit to a strength, the freezer; each with what must then be shown.

    Sugar that would not stay dissolved at `keep_c` [°C] is said, not offered. Source: `water_activity`, `ph`, mass balance; the rules' bounds.
    """
    barriers = (rules or starting_rules())["barriers"]
    found: list[Way] = []
    sugar = Contents({"sucrose": 1.0})
    limit = barriers["water_activity"]["most"]
    grams = _grams_to(contents, sugar, lambda vessel: water_activity(vessel) <= limit) if contents.of("water") else None
    if grams is not None and grams > 0:
        full = contents + sugar.scaled(grams)
        holds = sucrose_saturation_g_g(full, max(0.0, keep_c)) * full.of("water")
        stays = full.of("sucrose") <= holds
        words = f"{say.grams(grams)} of sugar bring the water activity to {limit:g}" + (
            "" if stays else f", but only {say.grams(holds)} stay dissolved at {keep_c:g} °C"
        )
        found.append(Way("water_activity", "white_sugar", grams, words, "Read °Bx or water activity on the batch; keep the neck clean."))
    acid, most = Contents({"citric_acid": 1.0}), barriers["ph"]["most"]
    if contents.of("water"):
        start = contents if contents.of("citric_acid") else contents + acid.scaled(1e-6 * contents.mass_g)
        grams = 0.0 if PROPERTY["ph"](start) <= most else _grams_to(start, acid, lambda vessel: PROPERTY["ph"](vessel) <= most)
        if grams is not None:
            words = (
                f"{say.grams(grams)} of citric acid bring the predicted pH to {most:g}"
                if grams
                else f"Its predicted pH is {say.figure(PROPERTY['ph'](start), 2)}"
            )
            found.append(
                Way(
                    "ph",
                    "citric_acid",
                    grams,
                    words,
                    "A predicted pH lengthens nothing: read it on a meter checked in its buffers, each batch. Preserving by acid may need an approved plan.",
                )
            )
    spirit, least = Contents({"water": 0.667, "ethanol": 0.333}), barriers["abv"]["least"]
    grams = _grams_to(contents, spirit, lambda vessel: PROPERTY["abv"](vessel) >= least)
    if grams is not None and grams > 0:
        found.append(
            Way(
                "abv",
                "neutral_spirit_40",
                grams,
                f"{say.grams(grams)} of spirit of 40 % vol bring it to {least:g} % vol",
                "By labelled strength and weight; the label then says alcohol.",
            )
        )
    found.append(
        Way("frozen", "", 0.0, "Freeze it in portions at −18 °C", "The class's days count again from the thaw; leave a tenth of head room.")
    )
    return tuple(found)
