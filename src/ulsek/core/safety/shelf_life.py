"""Shelf life: how long a product keeps, and why; safety apart from quality.

Safety is the strongest barrier with evidence (see `barriers`); without one, the shortest date for the classes of its materials, as it was made. Quality is the
earliest of its rules. Both count from a stated moment. The date of a component caps that of the product if it went in unheated and no barrier makes a new class
of it. Classes, barriers and rules are dated, sourced data in ``data/keeping.json`` that a house may tighten.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any

from ..base.answer import HIDDEN, in_answer, json_member
from ..base.messages import Day, Given, Message, days, listed, message, term
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import SUGARS
from ..materials.material import Material
from ..properties.bounds import is_solution
from ..properties.measure import PROPERTY, measure
from ..properties.water import water_activity
from .barriers import NOTHING_SHOWN, Evidence, Predicted, barriers_shown
from .process_history import ProcessHistory
from .shelf_life_rules import FOREVER, Reason, last_day, starting_rules

COOL_DOWN, MIXING, LAST_HEAT = "the cool-down", "the mixing", "the end of the heat"
"""From when keeping counts. What was never heated counts from its mixing."""
_MINUTES_A_DAY = 1440.0
_FERMENTS_G_100ML = 1.0
"""Sugar from which a thin liquid ferments [g/100 mL]; house experience."""


OPENED_DAYS = 14
"""Days that an opened bottle keeps where the rules say nothing of it. House experience."""
_THIN_BRIX, _THIN_ABV = 20.0, 5.0
"""°Bx and % vol below which a juice is thin: sugar and alcohol slow what makes it dull. House experience."""
_CITRUS_CITRIC, _CITRUS_ACID_G_100ML = 0.8, 0.4
"""Share of citric acid, and titratable acid [g/100 mL], above which a juice counts as citrus. House experience."""


def is_expired_when_ready(stands_days: float, keeps_days: float) -> bool:
    """Returns True if a product that is `stands_days` [days] old when it is ready has no day of its `keeps_days` [days] left."""
    return stands_days >= keeps_days


@dataclass(frozen=True, slots=True)
class Keeping:
    """Whole `days`, the first being the day that it counts from, at `at_most_c` [°C] or colder, from `counts_from`: the shorter of safety and quality.

    `not_shown` has the reason for each reading that was no evidence; `stands_days` is its age when it is ready, `warm_h` its hours in the danger zone.
    """

    days: int
    at_most_c: float
    keeping_class: str = field(metadata=json_member(name="class", stored=""))
    because: Message = field(metadata=HIDDEN)
    source: str
    sure: str
    safety: Reason = field(metadata=json_member(stored=None))
    quality: Reason = field(metadata=json_member(stored=None))
    reasons: tuple[Reason, ...] = field(default=(), metadata=json_member(stored=None))
    opened_days: int = field(default=OPENED_DAYS, metadata=HIDDEN)
    counts_from: str = field(default=COOL_DOWN, metadata=json_member(stored=""))
    not_shown: tuple[Message, ...] = field(default=(), metadata=json_member(stored=()))
    stands_days: float = field(default=0.0, metadata=json_member(stored=0.0))
    warm_h: float = field(default=0.0, metadata=json_member(stored=0.0))

    def dated(self, from_day: date) -> tuple[date, Message]:
        """Returns (last day, its reason) counted from `from_day` as `last_day` does, and never past the last day of a component that caps it."""
        # A component's own label is a fixed day; the other reasons count from the making.
        by_days = last_day(from_day, self.days)
        caps = [(date.fromisoformat(reason.until), message("{reason}.", reason=reason.words)) for reason in self.reasons if reason.until]
        return min([(by_days, self.reason), *caps], key=lambda item: item[0])

    def use_by(self, from_day: date) -> date:
        """Returns the last day, counted from `from_day`; see `dated`."""
        return self.dated(from_day)[0]

    @property
    def expires_before_ready(self) -> bool:
        """True if its last day is over before the last step is."""
        return is_expired_when_ready(self.stands_days, self.days)

    @property
    @in_answer()
    def reason(self) -> Message:
        """Text of the date: days, temperature, from when, and why."""
        return message(
            "{days} at {c} °C or colder, counted from {start}: {because}.",
            days=days(self.days),
            c=Given(self.at_most_c),
            start=term(self.counts_from),
            because=self.because,
        )


def _within(value: float, bounds: Iterable[float | None]) -> bool:
    low, high = bounds
    # Low included, high not: neighbouring rows share a bound without overlapping.
    return (low is None or value >= low) and (high is None or value < high)


def _holds(when: Mapping[str, Any], figures: Mapping[str, float], facts: Mapping[str, bool]) -> bool:
    """Returns True if the conditions of a rule are met: facts by yes or no, figures by their bounds (low included, high not)."""
    return all(
        # A figure that is not known meets no condition: a rule never applies by default.
        facts.get(name, False) is bounds if isinstance(bounds, bool) else name in figures and _within(figures[name], bounds)
        for name, bounds in when.items()
    )


def class_rules(rules: Mapping[str, Any]) -> Mapping[str, Any]:
    """Returns every class of perishable things by name: raw ones, and those made of them."""
    return {**rules["classes"], **rules.get("made_classes", {})}


def _class_of(
    material: Material, heated_c: float, figures: Mapping[str, float], rules: Mapping[str, Any]
) -> tuple[str, Mapping[str, Any]] | None:
    """Returns the class by which a material keeps in this product: its own, or the longest of a made thing that replaces it. None if it has no class.

    Raises Refusal for a class that the rules do not hold.
    """
    key = material.keeping_class
    if key is None:
        return None
    known = class_rules(rules)
    if key not in known:
        raise Refusal(
            message("No keeping rule for “{key}”", key=key),
            f"materials/{material.key}",
            message("the rules hold {known}", known=listed(known, "comma")),
        )
    facts = {"heated": heated_c >= rules["heated_through"]["least_c"]}
    ways = [
        (name, rule)
        for name, rule in rules.get("made_classes", {}).items()
        # A made class replaces the raw one only if it keeps longer and its process is proved.
        if key in rule["replaces"] and rule["days"] > known[key]["days"] and _holds(rule["when"], figures, facts)
    ]
    return max(ways, key=lambda way: way[1]["days"], default=(key, known[key]))


def _class_reason(
    materials: Iterable[Material], history: ProcessHistory, figures: Mapping[str, float], rules: Mapping[str, Any]
) -> tuple[str, Reason]:
    """Returns the shortest class of the materials, and the material that has it."""
    shortest: tuple[str, Mapping[str, Any], str] = ("any", rules["classes"]["any"], "")
    for material in materials:
        found = _class_of(material, history.heated_c.get(material.key, 0.0), figures, rules)
        # Of two classes of equal length the more specific one is the reason.
        if found is not None and (found[1]["days"], bool(shortest[2])) < (shortest[1]["days"], True):
            shortest = (*found, material.name)
    name, rule, brings = shortest
    words = message("{reason} ({material})", reason=term(rule["words"]), material=brings) if brings else term(rule["words"])
    left = rule["days"]
    # Whole days only: a part of a day is within the error of the class.
    warm_days = int(history.warm_min // _MINUTES_A_DAY) if history.was_heated(rules["warm"]["below_c"]) else 0
    if warm_days:
        # An unheated product counts from its mixing, so these days are counted already.
        left = max(1, left - warm_days)
        words = message("{reason}; {days} of it stood warm before", reason=words, days=days(warm_days))
    return name, Reason("class", left, words, rule["source"], rule["sure"])


def _quality(figures: Mapping[str, float], facts: Mapping[str, bool], rules: Mapping[str, Any]) -> list[tuple[Reason, float | None]]:
    """Returns every quality rule that applies, the earliest first, with the warmest temperature [°C] that it allows, if any."""
    found = [
        (Reason("quality", rule["days"], term(rule["words"]), rule["source"], rule["sure"]), rule.get("at_most_c"))
        for rule in rules["quality"]
        if _holds(rule["when"], figures, facts)
    ]
    return sorted(found, key=lambda item: item[0].days)


def _figures_of(contents: Contents | None) -> dict[str, float]:
    """Returns the figures that rules use, by name; empty for a product without liquid."""
    # Rules look at the liquid; a jar of dry mix has no figures to look at.
    if contents is None or contents.solution.mass_g <= 0:
        return {}
    figures = measure(contents)
    if not figures.get("volume_ml"):
        return {}
    per_100ml = 100.0 / figures["volume_ml"]
    figures["acetic_g_100ml"] = contents.of("acetic_acid") * per_100ml
    figures["salt_g_100ml"] = contents.of("sodium_chloride") * per_100ml
    figures["carbonation_g_l"] = PROPERTY["carbonation_g_l"](contents)
    if is_solution(contents):
        figures["water_activity"] = water_activity(contents)
    return figures


@dataclass(frozen=True, slots=True)
class Product:
    """What keeping uses of a product: its `contents`, its prediction (`predicted`), and its process (`history`)."""

    contents: Contents | None = None
    predicted: Predicted = field(default_factory=Predicted)
    history: ProcessHistory = field(default_factory=ProcessHistory)


def _caps(materials: Iterable[Material], history: ProcessHistory, rules: Mapping[str, Any], *, shown: bool) -> list[Reason]:
    """Returns the dates of components that cap the product: their last day if it is known, else their days. A barrier, and heat after they went in, makes a new
    class of them.
    """
    found: list[Reason] = []
    for material in () if shown else materials:
        # Heated through after it went in, it is no longer the component that its date speaks of.
        if history.heated_c.get(material.key, 0.0) >= rules["heated_through"]["least_c"]:
            continue
        if material.use_by:
            words = message("{material} is to be used by {day}", material=material.name, day=Day(material.use_by))
            found.append(Reason("component", FOREVER, words, "its own label", "fair", material.use_by))
        elif material.keeps_days is not None:
            words = message("{material} keeps no longer itself", material=material.name)
            found.append(Reason("component", material.keeps_days, words, "its own date", "fair"))
    return found


def _counts_from(history: ProcessHistory, rules: Mapping[str, Any]) -> str:
    # The clock starts at the last moment at which germs were killed, or at mixing if there was none.
    if not history.was_heated(rules["warm"]["below_c"]):
        return MIXING
    return COOL_DOWN if history.cooled_at_min is not None and history.cooled_at_min >= history.heat_ends_min else LAST_HEAT


_HEATED_C = 70.0
"""From this temperature on [°C] juice is no fresh juice any more. House experience."""


def _facts(used: Sequence[Material], made: Product, figures: Mapping[str, float], evidence: Evidence) -> dict[str, bool]:
    """Returns what quality rules ask of a product by yes or no."""
    citrus = any(material.keeping_class == "fresh_juice" and material.kind == "juice" and _is_citrus(material) for material in used)
    heated = made.history.hottest_c >= _HEATED_C
    volume = figures.get("volume_ml", 0.0)
    sugars = 100.0 * made.contents.total(SUGARS) / volume if made.contents is not None and volume > 0 else 0.0
    # Sugar or alcohol slows what makes fresh juice dull, so only thin juice follows its rule.
    thin = figures.get("brix", math.inf) < _THIN_BRIX and figures.get("abv", 0.0) < _THIN_ABV
    return {
        "fresh_citrus": citrus and not heated and thin and len(used) == 1,
        "frozen": evidence.frozen_c is not None,
        "fermentable": volume > 0 and sugars >= _FERMENTS_G_100ML,
        "plain": bool(used) and all(material.defined for material in used),
    }


def keeping(
    materials: Iterable[Material],
    rules: Mapping[str, Any] | None = None,
    product: Product | None = None,
    evidence: Evidence = NOTHING_SHOWN,
) -> Keeping:
    """Returns how long a product of these materials keeps, with every reason for it.

    `product` decides class and quality, `evidence` with what was weighed decides safety; components cap both. Fruit syrup, simmered, nothing read: 7 days.
    Raises Refusal for a class that the rules do not hold. Source: the rules, dated and sourced.
    """
    used, chosen, made = list(materials), rules or starting_rules(), product or Product()
    figures, history = _figures_of(made.contents), made.history
    keeping_class, by_class = _class_reason(used, history, figures, chosen)
    barriers = barriers_shown(evidence, made.predicted, chosen)
    # Evidence replaces the class; without any, the class of the most perishable material decides.
    safety = barriers[0][1] if barriers else by_class
    dulls = _quality(figures, _facts(used, made, figures, evidence), chosen)
    nothing_known = message("nothing known that dulls it sooner")
    quality = dulls[0][0] if dulls else Reason("quality", FOREVER, nothing_known, "house experience, not a standard", "low")
    caps = _caps(used, history, chosen, shown=bool(barriers))
    # The earliest of all: each of them is a reason of its own to throw it away.
    first = min([safety, quality, *caps], key=lambda reason: reason.days)
    if evidence.frozen_c is not None and barriers:
        at_most = evidence.frozen_c
    else:
        # Acid stops bacteria, not yeast and mould: only products that are dry or strong, or acid without sugar to ferment, may stand at room temperature.
        of_class = class_rules(chosen)[keeping_class]["at_most_c"]
        of_quality = dulls[0][1] if dulls and barriers else None
        at_most = (chosen["barriers"][barriers[0][0]] if barriers else {}).get("at_most_c", of_quality or of_class)
    reasons = sorted(
        [by_class, *(reason for _, reason in barriers), *(reason for reason, _ in dulls), *caps], key=lambda reason: reason.days
    )
    return Keeping(
        first.days,
        at_most,
        keeping_class,
        first.words,
        first.source,
        first.sure,
        safety,
        quality,
        tuple(reasons),
        chosen.get("opened", {}).get("days", OPENED_DAYS),
        _counts_from(history, chosen),
        tuple(evidence.disagreeing.values()),
        history.stands_min(chosen["warm"]["below_c"]) / _MINUTES_A_DAY,
        history.warm_min / 60.0,
    )


def _is_citrus(material: Material) -> bool:
    split = getattr(material.composition, "acid_split", {})
    # By composition, not by name: a house may call its lemons anything.
    acid = getattr(material.composition, "acid_g_100ml", Range.exact(0.0)).value
    return split.get("citric_acid", 0.0) > _CITRUS_CITRIC and acid > _CITRUS_ACID_G_100ML


@dataclass(frozen=True, slots=True)
class HouseDate:
    """A date that a house sets: `days` for safety or quality, in somebody's name, with a reason; longer safety needs evidence or its authority's word."""

    of: str
    days: int
    name: str
    reason: str
    authority: str = ""


def with_house_date(found: Keeping, said: HouseDate, evidence: Evidence = NOTHING_SHOWN) -> Keeping:
    """Returns the keeping with the house's date. Anything may be shortened; quality is lengthened with a name and a reason; safety only with evidence or the
    authority's word. Raises Refusal, with what is missing, for the rest.
    """
    if said.of not in ("safety", "quality") or said.days < 1:
        raise Refusal(
            message("A house's date is for safety or quality, in whole days from 1"),
            "of",
            remedy=message("Choose one, and count the making as the first day"),
        )
    # Shortening never needs evidence; lengthening needs at least somebody who answers for it.
    now = found.safety if said.of == "safety" else found.quality
    longer = said.days > now.days
    if longer and not (said.name.strip() and said.reason.strip()):
        raise Refusal(
            message("A longer date needs a name and a reason"),
            "reason",
            message("it stands at {days} days", days=now.days),
            message("Say who decided it, and why"),
            "missing",
        )
    if longer and said.of == "safety" and not (said.authority.strip() or evidence.bears_on_safety):
        raise Refusal(
            message("A longer safety date needs evidence"),
            "authority",
            message("nothing that bears on safety has been shown, and {days} days is the date for its class", days=now.days),
            message("Read pH on a checked meter or water activity, or attach your authority's word"),
            "no_evidence",
        )
    house = Reason(
        "house",
        said.days,
        message(
            "{reason} ({name})", reason=said.reason.strip() or message("the house says so"), name=said.name.strip() or message("the house")
        ),
        said.authority.strip() or "the house",
        "fair",
    )
    safety, quality = (house, found.quality) if said.of == "safety" else (found.safety, house)
    # A house's date does not lift the dates on the labels of what went in.
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
