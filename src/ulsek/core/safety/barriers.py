"""Barriers: evidence on a product, by reading or by weighing, and the rows of the food code's tables that it satisfies.

A prediction from fruit, herb, dairy, egg or nut is no evidence until it is read. Rows and margins are dated, sourced data in ``data/keeping.json``.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from ..base.figures import FIGURES, quantity
from ..base.messages import Computed, Given, Items, Message, listed, message, term
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..properties.solubility import crystals
from ..properties.sugar import brix_reading
from .shelf_life_rules import FOREVER, Reason

_READ = ("ph", "water_activity", "brix_reading", "abv")
_SHOWN = ("water_activity", "ph", "abv")
_BOUNDS = (("aw_below", "water_activity"), ("aw_most", "water_activity"), ("ph_below", "ph"), ("ph_most", "ph"))


@dataclass(frozen=True, slots=True)
class HotFill:
    """A hot filling as it was done: the house's `procedure` by name, the temperature [°C] that was read, and how long it was held [min]."""

    procedure: str
    fill_c: float
    hold_min: float


@dataclass(frozen=True, slots=True)
class Evidence:
    """Evidence on a product: figures read, by name (a pH only from a meter checked in its buffers), strength by label, frozen at °C, filled hot.

    `disagreeing` holds a sentence for each reading that contradicts the spec; while there is one, weighing is no evidence either.
    """

    read: Mapping[str, float] = field(default_factory=dict)
    meter_checked: bool = False
    strength_by_label: bool = False
    frozen_c: float | None = None
    hot_fill: HotFill | None = None
    # A reading that contradicts the weighing shows that one of them is wrong; neither is relied on until that is cleared.
    disagreeing: Mapping[str, Message] = field(default_factory=dict)

    def checked(self) -> Evidence:
        """Returns the evidence. Raises Refusal, at its place, for a figure that keeping does not use, and for one that no instrument shows."""
        for name, value in self.read.items():
            if name not in _READ:
                raise Refusal(
                    message("“{name}” says nothing of keeping", name=name),
                    f"read/{name}",
                    message("read one of {read}", read=listed(_READ, "comma")),
                    code="unknown_reference",
                )
            low, high, words = FIGURES[name].readable
            if not low <= value <= high:
                raise Refusal(
                    message("{value} cannot be read", value=Given(value)),
                    f"read/{name}",
                    words,
                    message("Read again, or check the unit"),
                    "reading_out_of_range",
                )
        return self

    @property
    def bears_on_safety(self) -> bool:
        """True for evidence that an authority would accept: pH on a checked meter, water activity, strength, the freezer. °Bx alone is not."""
        return (
            "water_activity" in self.read
            or "abv" in self.read
            or ("ph" in self.read and self.meter_checked)
            or self.strength_by_label
            or self.frozen_c is not None
        )


NOTHING_SHOWN = Evidence()


@dataclass(frozen=True, slots=True)
class Predicted:
    """The prediction for a product: ranges of water_activity, ph and abv as far as they can be computed; `weighed` if they follow from weighed, defined
    substances; `read_water_activity` is the unfavourable end for the liquid that the refractometer read.
    """

    figures: Mapping[str, Range] = field(default_factory=dict)
    weighed: bool = False
    read_water_activity: float | None = None


@dataclass(frozen=True, slots=True)
class ShownFigure:
    """A figure at its unfavourable end, and its evidence."""

    value: float
    how: Message


SATURATED_AT_C = 20.0
_CRYSTALLISE = ("sucrose", "glucose")
_HALVINGS, _MOST_WATER = 60, 20.0


def thinned_to(contents: Contents, reading: float) -> Contents:
    """Returns the contents with as much water as makes a refractometer show `reading` [°Bx], by bisection to 1e-9; at most twenty times their water.

    1000 g of 50 °Bx thinned to 40: 1250 g. Source: mass balance, `properties.sugar.brix_reading`.
    """
    water = contents.of("water")
    low, high = 0.0, _MOST_WATER * water
    for _ in range(_HALVINGS):
        # The reading falls as water is added, so bisection always ends at the one answer.
        middle = (low + high) / 2.0
        if brix_reading(Contents({**contents.grams, "water": middle})) > reading:
            low = middle
        else:
            high = middle
    return Contents({**contents.grams, "water": high})


def saturated(contents: Contents) -> Contents:
    """Returns what stays dissolved at 20 °C: sucrose and glucose beyond saturation crystallise in time, and bind no water.

    80 °Bx of sucrose in water becomes 66.6. The water in glucose crystals stays in the liquid, which makes the water activity higher, never lower. Source:
    `properties.solubility.crystals`.
    """
    # Without either sugar nothing crystallises that binds water: the search is spared.
    if not contents.total(_CRYSTALLISE):
        return contents
    # Dissolved sugar counts, not sugar in the vessel: what has crystallised binds no water.
    over = {found.substance: found.mass_g for found in crystals(contents, SATURATED_AT_C)}
    return Contents({key: grams - (over.get(key, 0.0) if key in _CRYSTALLISE else 0.0) for key, grams in contents.grams.items()})


def _weighed_end(name: str, predicted: Predicted, rules: Mapping[str, Any]) -> float | None:
    """Returns the unfavourable end of a weighed figure with its margin; None if it is unknown."""
    found, margin = predicted.figures.get(name), float(rules["weighed"]["margins"][name])
    if found is None or not predicted.weighed:
        return None
    # Strength protects by being high, pH and water activity by being low: each is judged at its unsafe end.
    return found.low - margin if name == "abv" else found.high + margin


def shown_figures(evidence: Evidence, predicted: Predicted, rules: Mapping[str, Any]) -> dict[str, ShownFigure]:
    """Returns water activity [-], pH [-] and strength [% vol] with their evidence, at the unfavourable end: read before weighed, weighed before label."""
    found: dict[str, ShownFigure] = {}
    for name in _SHOWN:
        # A pH from a meter that was not checked in buffers is no evidence.
        if name in evidence.read and (name != "ph" or evidence.meter_checked):
            found[name] = ShownFigure(evidence.read[name], message("read"))
    if predicted.read_water_activity is not None:
        found.setdefault("water_activity", ShownFigure(predicted.read_water_activity, message("by the °Bx that was read, at most")))
    # Weighing is evidence only as long as no reading contradicts it.
    if evidence.disagreeing:
        return found
    for name in _SHOWN:
        end = _weighed_end(name, predicted, rules)
        if end is not None and name not in found:
            found[name] = ShownFigure(end, message("by weighing, at least") if name == "abv" else message("by weighing, at most"))
    if "abv" in predicted.figures and (evidence.strength_by_label):
        found.setdefault("abv", ShownFigure(predicted.figures["abv"].low, message("by label and weight, at least")))
    return found


def _satisfied(rule: Mapping[str, Any], shown: Mapping[str, ShownFigure]) -> Iterator[tuple[str, ShownFigure]] | None:
    """Yields the figures that satisfy each bound of a row of the tables; None for a bound that is not met."""
    used = []
    for bound, name in _BOUNDS:
        if bound not in rule:
            continue
        figure = shown.get(name)
        # The tables say “less than” for some rows and “at most” for others; the name of the bound says which.
        if figure is None or not (figure.value < rule[bound] if bound.endswith("below") else figure.value <= rule[bound]):
            return None
        used.append((name, figure))
    return iter(used)


def _shown_words(used: Iterable[tuple[str, ShownFigure]]) -> Items:
    return listed(
        message("{figure} {value}, {how}", figure=term(FIGURES[name].name), value=quantity(name, item.value), how=item.how)
        for name, item in used
    )


def _procedure_kept(evidence: Evidence, rules: Mapping[str, Any]) -> Mapping[str, Any] | None:
    """Returns the house's approved procedure of hot filling if there is evidence for everything that it asks; None otherwise."""
    filled = evidence.hot_fill
    if filled is None:
        return None
    procedure: Mapping[str, Any] | None = rules.get("procedures", {}).get(filled.procedure)
    # Too cool or too short is not hot filled at all: there is no partial credit.
    if procedure is None or filled.fill_c < procedure["fill_c"] or filled.hold_min < procedure["hold_min"]:
        return None
    read = evidence.read.get("ph")
    # Filling hot protects only what is acid as well, and shown to be.
    return procedure if evidence.meter_checked and read is not None and read <= procedure["most_ph"] else None


def barriers_shown(evidence: Evidence, predicted: Predicted, rules: Mapping[str, Any]) -> list[tuple[str, Reason]]:
    """Returns every barrier with evidence, by the name of its rule, the strongest first. A combined row of the tables needs evidence for both of its figures.

    Water activity 0.89 and pH 4.8, both read: “water_activity_at_5_0”. Source: FDA Food Code 2022, 1-201.10(B), Tables A and B, as data.
    """
    shown = shown_figures(evidence, predicted, rules)
    procedure = _procedure_kept(evidence, rules)
    found: list[tuple[int, str, Reason]] = []
    for name, rule in rules["barriers"].items():
        days, barrier = FOREVER, term(rule["words"])
        if name == "frozen":
            # The freezer is read, not computed: no composition makes it colder.
            if evidence.frozen_c is None or evidence.frozen_c > rule["most"]:
                continue
            words = message(
                "{barrier}, shown: {figures}", barrier=barrier, figures=message("{c} °C", c=Computed(evidence.frozen_c, decimals=1))
            )
        elif name == "abv":
            strength = shown.get("abv")
            if strength is None or strength.value < rule["least"]:
                continue
            words = message("{barrier}, shown: {figures}", barrier=barrier, figures=_shown_words([("abv", strength)]))
        else:
            used = _satisfied(rule, shown)
            if used is None or (rule.get("hot_filled") and procedure is None):
                continue
            words = message("{barrier}, shown: {figures}", barrier=barrier, figures=_shown_words(used))
            if rule.get("hot_filled") and procedure is not None and evidence.hot_fill is not None:
                days = procedure["days"]
                kept, authority = evidence.hot_fill.procedure, procedure["authority"]
                words = message("{barrier}; {procedure}, {authority}", barrier=words, procedure=kept, authority=authority)
        found.append((rule["strength"], name, Reason("barrier", days, words, rule["source"], rule["sure"])))
    # The longest first, and of equal lengths the barrier that the rules rank as stronger.
    return [(name, reason) for _, name, reason in sorted(found, key=lambda item: (-item[2].days, -item[0]))]
