"""Release check: whether a spec may be published, and what stands in the way."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations
from statistics import median

from ..base import number_format as say
from ..base.figures import with_half_range, with_unit
from ..base.remarks import Remark
from ..base.vocabulary import confused_with, materials_named
from ..evaluation.evaluate import Evaluation
from ..materials.supply import material_of_key
from ..safety.hazards import FOLLOW
from ..safety.shelf_life_rules import days_words
from ..spec import spec as s
from ..spec.sentences import listed, material_name, short_name
from .legal_names import legal_names
from .process_hazards import process_hazards

Doses = Mapping[str, Sequence[float]]
FAR_FROM_USUAL = 4.0
"""A dose four times the house's usual, or a quarter of it, is worth a question before it is worth a batch."""
ENOUGH_OTHERS = 2
_CLEARS = ("filter", "freeze_drip")
_BASE_KINDS = ("water", "juice", "fruit", "sweetener", "spirit", "puree", "dairy")
"""What a prep is made of; only what it is dosed with has a usual dose."""


def release_check(evaluation: Evaluation, beside: Doses | None = None, drinks: Sequence[Evaluation] = ()) -> tuple[Remark, ...]:
    """Every remark on a spec, those of severity "stop" first; publishing needs that there are none.

    `beside` holds the doses [g/L] of each material in the house's other specs; `drinks` are those of the house that it goes into, worked out with it.
    """
    found = [
        *_check(evaluation),
        *_in_its_drinks(evaluation, drinks),
        *_far_from_usual(evaluation, beside or {}),
        *evaluation.remarks,
    ]
    if evaluation.final is None:
        # Where nothing is made at all, an empty bottle says the same again.
        found = [remark for remark in found if remark.code != "pours_nothing"]
    rank = {"stop": 0, "check": 1, "note": 2}
    return tuple(sorted(found, key=lambda remark: rank[remark.severity]))


def _check(evaluation: Evaluation) -> Iterator[Remark]:
    spec = evaluation.inputs.spec
    for fault in (*spec.faults, *((evaluation.plain.refusal,) if evaluation.plain.refusal else ())):
        yield Remark(fault.code, "stop", fault.where, fault.text, fault.remedy)
    places = {line.id: f"steps/{step.id}/lines/{line.id}" for step in spec.steps for line in step.lines}
    for doubt in spec.doubts:
        where = places.get(doubt.at) or (f"steps/{doubt.at}" if any(step.id == doubt.at for step in spec.steps) else "doubts")
        yield Remark("open_doubt", "check", where, f"“{doubt.text}”: {doubt.question}", "Answer it, then tick it off")
    if not spec.name.strip():
        yield Remark("no_name", "stop", "name", "The spec has no name.", "Name it as it will stand on the label")
    if not spec.steps or evaluation.final is None:
        yield Remark("nothing_made", "stop", "steps", "Nothing is made yet.", "Add a step and put something in")
        return
    if spec.family != "drink" and not any(isinstance(step, s.Bottle) for step in spec.steps):
        yield Remark("no_bottle", "stop", "steps", "The spec never says how it is bottled and kept.", "End with a bottle step")
    if spec.driver is None:
        yield Remark(
            "no_driver",
            "check",
            "driver",
            "No line sets the batch, so it cannot be made from a weighed amount.",
            "Choose the line that is weighed first",
        )
    figures = evaluation.figures[evaluation.last] if evaluation.last is not None else {}
    for i, goal in enumerate(spec.goals):
        figure = figures.get(goal.property, 0.0)
        if abs(figure - goal.value) > goal.tolerance:
            text = (
                f"It lands at {with_unit(goal.property, figure)}; the goal is {with_half_range(goal.property, goal.value, goal.tolerance)}."
            )
            yield Remark("off_goal", "check", f"goals/{i}", text, "Drag the flag, or change the goal")
    yield from _of_dates(evaluation)
    yield from _restricted(evaluation)
    inputs = evaluation.inputs
    yield from process_hazards(spec, evaluation.plain, evaluation.figures, inputs.materials, evaluation.keeping.keeping_class)
    yield from legal_names(evaluation, rules=evaluation.rules.names)
    yield from _family_lacks(evaluation)
    yield from _twice(spec)
    yield from _easily_confused(evaluation)
    yield from _not_listed(evaluation)


_SWEET_FAMILIES = (
    "syrup",
    "sweetener_syrup",
    "infused_syrup",
    "fruit_syrup",
    "spirited_syrup",
    "soda_syrup",
    "clarified_syrup",
    "oil_sugar",
)
_CLEAR_FAMILIES = ("clarified_juice", "clarified_syrup")
_FIZZ = re.compile(r"\b(?:soda|fizz|fizzy|sparkling|carbonated|spritz)\b", re.IGNORECASE)
_SWEET_BRIX = 10.0


def _family_lacks(evaluation: Evaluation) -> Iterator[Remark]:
    """What every product of its family has and this one has not: a syrup's sweetener, a step that clears, gas."""
    spec = evaluation.inputs.spec
    final = evaluation.figures[evaluation.last] if evaluation.last is not None else {}
    sweetened = any(material.kind == "sweetener" for material in evaluation.used) or final.get("brix", 0.0) >= _SWEET_BRIX
    if spec.family in _SWEET_FAMILIES and not sweetened:
        yield Remark(
            "no_sweetener", "check", "family", "A syrup without anything that sweetens it.", "Add the sugar, or choose another family"
        )
    if spec.family in _CLEAR_FAMILIES and not any(step.family == "clarify" or step.verb in _CLEARS for step in spec.steps):
        yield Remark("no_clearing", "check", "family", "Nothing in it makes it clear.", "Add a step that clears, or choose another family")
    fizzy = spec.family == "drink" and _FIZZ.search(spec.name) is not None
    gas = evaluation.final is not None and evaluation.final.of("carbon_dioxide") > 0
    gas = gas or any(_FIZZ.search(material.name) for material in evaluation.used)
    if fizzy and not gas:
        yield Remark(
            "no_gas",
            "check",
            "family",
            "Its name promises gas, and no step or line brings any.",
            "Add the gas or what is topped up with, or change the name",
        )


ASKED_FROM_SHARE = 0.05
"""Share of a limit, judged in the worst-case drink, from which the check asks which drink it is; with less of it no drink could pass the limit."""


def _restricted(evaluation: Evaluation) -> Iterator[Remark]:
    """What is restricted in it, in the drink as poured; which drink that is, where nobody has said; and what is only named."""
    spec, restricted = evaluation.inputs.spec, evaluation.hazards.restricted
    yield from (item.remark for item in restricted)
    asked = [item for item in restricted if item.share >= ASKED_FROM_SHARE and not item.poured.said]
    if asked:
        text = f"It holds {listed([item.name for item in asked])}, judged as {asked[0].poured.words} until somebody says which drink it is for."
        yield Remark("drink_not_said", "check", "served_in", text, "Say its dose and the size of the drink, and whether that holds alcohol")
    known = evaluation.rules.limits["materials"]
    held = set(spec.material_keys) | {material_of_key(key) for key in spec.material_keys}
    places = [("name", "title", spec.name), ("note", "notes", spec.note)]
    places += [(f"steps/{step.id}", "method", f"{step.note} {step.check}") for step in spec.steps]
    told: set[str] = set()
    for where, place, words in places:
        for word, key in materials_named(words) if words.strip() else ():
            if key in known and key not in held and key not in told and not _is_output_word(word, evaluation):
                told.add(key)
                text = f"The {place} names {word}, which is restricted, and the list does not hold it."
                yield Remark("restricted_named", "check", where, text, "Is it in there? Then add its line; if not, change the words")


_FORMS = ("oil", "tincture", "extract", "bark", "root", "leaf", "fresh", "dried")


def _is_output_word(word: str, evaluation: Evaluation) -> bool:
    """Whether a word names a form of a plant that is in the list: an allspice tincture is made of allspice."""
    plants = [part for part in word.lower().split() if part not in _FORMS]
    return any(part in material.name.lower() for part in plants for material in evaluation.used)


def _in_its_drinks(evaluation: Evaluation, drinks: Sequence[Evaluation]) -> Iterator[Remark]:
    """What is restricted in this prep, judged in each of the house's drinks that it goes into, as they are."""
    mine = {item.substance for item in evaluation.hazards.restricted}
    for drink in drinks:
        for item in drink.hazards.restricted:
            if item.substance in mine and item.severity != "note":
                where, name = f"drinks/{drink.inputs.spec.id}", drink.inputs.spec.name
                yield Remark(
                    f"restricted_{item.substance}_in_drink", item.severity, where, f"In {name}: {item.remark.text}", item.remark.remedy
                )


def _of_dates(evaluation: Evaluation) -> Iterator[Remark]:
    """A product that is out of date before it is ready, and hours that it stands warm."""
    kept = evaluation.keeping
    ready = f"steps/{evaluation.plain.steps[evaluation.last].step.id}" if evaluation.last is not None else "steps"
    if kept.turns_before_ready and evaluation.inputs.spec.family != "drink":
        text = f"It is {say.figure(kept.stands_days, 1)} days old before it is ready, and keeps {days_words(kept.days)}: {kept.because}."
        remedy = "Rest it shorter, cook it after the rest, or make it so that a barrier is shown before: by weight, strength, or a house rule with your authority's word"
        yield Remark("turns_before_ready", "stop", ready, text, remedy)
    if kept.warm_h > evaluation.rules.keeping["warm"]["most_h"]:
        warm = evaluation.rules.keeping["warm"]
        shown = kept.safety.kind == "barrier"
        text = (
            f"It stands {say.amount(kept.warm_h, 'h', 0)} between {say.given(warm['above_c'])} and {say.given(warm['below_c'])} °C. Those hours count"
            + ("." if shown else ", and nothing that has been shown makes them safe.")
        )
        remedy = "Cold, or shorter" if shown else f"Do it cold, or shorter, or read a barrier before. {FOLLOW}"
        yield Remark("stood_warm", "note" if shown else "check", f"steps/{evaluation.history.warm_step}", text, remedy)


def _twice(spec: s.Spec) -> Iterator[Remark]:
    """One material twice in the same step is one line too many."""
    for step in spec.steps:
        seen: set[str] = set()
        for line in step.lines:
            if line.material in seen:
                yield Remark(
                    "stands_twice",
                    "check",
                    f"steps/{step.id}/lines/{line.id}",
                    "This material stands twice in one step.",
                    "Join the two lines",
                )
            seen.add(line.material)


def _easily_confused(evaluation: Evaluation) -> Iterator[Remark]:
    """Two materials of one spec whose jars are easily mistaken for each other."""
    materials = evaluation.inputs.materials
    lines = evaluation.inputs.spec.lines.values()
    mistaken = {key: tuple(confused_with(key)) for key in {line.material for line in lines}}
    for line, other in combinations(lines, 2):
        for confusion in mistaken[line.material]:
            if line.material != other.material and other.material in confusion.words and confusion.kind == "material":
                names = listed([short_name(material_name(key, materials)) for key in (line.material, other.material)])
                where = f"lines/{other.id}"
                yield Remark("easily_confused", "check", where, f"{names} both stand here. {confusion.why}", confusion.ask)


def _not_listed(evaluation: Evaluation) -> Iterator[Remark]:
    """A step's own words that name a material which no line of the spec holds."""
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    listed_keys = set(spec.material_keys)
    called = " ".join(material_name(key, materials).lower() for key in listed_keys)
    for step in spec.steps:
        for word, key in materials_named(f"{step.note} {step.check}") if step.note or step.check else ():
            if key != "water" and key not in listed_keys and word not in called:
                text = f"The words of this step name {word}, which is not in the list."
                yield Remark("not_in_list", "check", f"steps/{step.id}", text, "Add its line, or change the words")


def _far_from_usual(evaluation: Evaluation, beside: Doses) -> Iterator[Remark]:
    """A dose far from what the house's other specs hold of the same material."""
    for key, dose in evaluation.doses_g_l.items():
        others = beside.get(key, ())
        material = evaluation.inputs.materials[key]
        if material.kind in _BASE_KINDS or len(others) < ENOUGH_OTHERS:
            continue
        usual = median(others)
        if usual > 0 and dose > 0 and not 1.0 / FAR_FROM_USUAL < dose / usual < FAR_FROM_USUAL:
            line = next((line.id for line in evaluation.inputs.spec.lines.values() if line.material == key), "")
            times = f"{say.figure(dose / usual, 1)} times" if dose > usual else f"{say.figure(100.0 * dose / usual, 0)}{say.GAP}% of"
            text = f"{material.name}: {say.figure(dose)}{say.GAP}g a litre is {times} the house's usual {say.figure(usual)}{say.GAP}g."
            yield Remark("far_from_usual", "check", f"lines/{line}", text, "Weigh it once more in your head, or say why in a note")
