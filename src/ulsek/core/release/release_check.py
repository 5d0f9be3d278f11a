"""Release check: whether a spec may be published, and what prevents it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations
from statistics import median

from ..base.figures import quantity, with_half_range
from ..base.messages import Computed, Given, Value, days, listed, message, percent, sentences, term
from ..base.remarks import Remark
from ..base.vocabulary import confused_with, materials_named
from ..evaluation.evaluate import Evaluation
from ..materials.supply import material_of_key
from ..safety.hazards import FOLLOW
from ..spec import spec as s
from ..spec.sentences import inside_name, material_name
from .assumed_amounts import unsaid
from .legal_names import legal_names
from .process_hazards import process_hazards
from .published_doses import published_dose

Doses = Mapping[str, Sequence[float]]
FAR_FROM_USUAL = 4.0
"""A dose four times the house's usual, or a quarter of it, is worth a question before it is worth a batch."""
ENOUGH_OTHERS = 2
_CLEARS = ("filter", "freeze_drip")
_BASE_KINDS = ("water", "juice", "fruit", "sweetener", "spirit", "puree", "dairy")
"""What a prep is made of; only what it is dosed with has a usual dose."""


def release_check(evaluation: Evaluation, other_doses: Doses | None = None, drinks: Sequence[Evaluation] = ()) -> tuple[Remark, ...]:
    """Returns every remark on a spec, those of severity "stop" first; it may be published if there are none of these.

    `other_doses` holds the doses [g/L] of each material in the house's other specs; `drinks` are evaluations of the house's drinks that contain it.
    """
    found = [*_check(evaluation), *remarks_by_others(evaluation, other_doses or {}, drinks), *evaluation.remarks]
    if evaluation.final is None:
        # If nothing is made, a remark on the empty bottle would repeat that.
        found = [remark for remark in found if remark.code != "pours_nothing"]
    return tuple(sorted(found, key=lambda remark: _RANK[remark.severity]))


_RANK = {"stop": 0, "check": 1, "note": 2}


def remarks_by_others(evaluation: Evaluation, other_doses: Doses, drinks: Sequence[Evaluation]) -> tuple[Remark, ...]:
    """Returns those remarks of the release check that depend on the house's other specs: on the drinks that contain this one, and on its usual doses."""
    return (*_in_its_drinks(evaluation, drinks), *_far_from_usual(evaluation, other_doses))


def _check(evaluation: Evaluation) -> Iterator[Remark]:
    spec = evaluation.inputs.spec
    for fault in (*spec.faults, *((evaluation.flow.refusal,) if evaluation.flow.refusal else ())):
        yield Remark(fault.code, "stop", fault.where, fault.message, fault.remedy)
    places = {line.id: f"steps/{step.id}/lines/{line.id}" for step in spec.steps for line in step.lines}
    for doubt in spec.doubts:
        where = places.get(doubt.at) or (f"steps/{doubt.at}" if any(step.id == doubt.at for step in spec.steps) else "doubts")
        yield Remark(
            "open_doubt",
            "check",
            where,
            message("“{doubt}”: {question}", doubt=doubt.text, question=doubt.question),
            message("Answer it, then tick it off"),
            {"at": doubt.at, "text": doubt.text, "question": doubt.question},
        )
    if not spec.name.strip():
        yield Remark("no_name", "stop", "name", message("The spec has no name."), message("Name it as it will stand on the label"))
    if not spec.steps or evaluation.final is None:
        yield Remark("nothing_made", "stop", "steps", message("Nothing is made yet."), message("Add a step and put something in"))
        return
    if spec.family != "drink" and not any(isinstance(step, s.Bottle) for step in spec.steps):
        yield Remark(
            "no_bottle", "stop", "steps", message("The spec never says how it is bottled and kept."), message("End with a bottle step")
        )
    if spec.driver is None:
        yield Remark(
            "no_driver",
            "check",
            "driver",
            message("No line sets the batch, so it cannot be made from a weighed amount."),
            message("Choose the line that is weighed first"),
        )
    # Goals are about the product, so they are read after the last step that makes something.
    figures = evaluation.figures[evaluation.last] if evaluation.last is not None else {}
    for i, goal in enumerate(spec.goals):
        figure = figures.get(goal.property, 0.0)
        if abs(figure - goal.value) > goal.tolerance:
            text = message(
                "It lands at {figure}; the goal is {goal}.",
                figure=quantity(goal.property, figure),
                goal=with_half_range(goal.property, goal.value, goal.tolerance),
            )
            yield Remark("off_goal", "check", f"goals/{i}", text, message("Drag the flag, or change the goal"))
    yield from unsaid(evaluation)
    yield from _of_dates(evaluation)
    yield from _restricted(evaluation)
    inputs = evaluation.inputs
    yield from process_hazards(spec, evaluation.flow, evaluation.figures, inputs.materials, evaluation.keeping.keeping_class)
    yield from legal_names(evaluation, evaluation.rules.place, evaluation.rules.names)
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
    """Yields what every product of its family has and this one does not: the sweetener of a syrup, a step that clears, gas."""
    spec = evaluation.inputs.spec
    final = evaluation.figures[evaluation.last] if evaluation.last is not None else {}
    # Fruit may bring the sugar that nobody poured: what it reads decides as well.
    sweetened = any(material.kind == "sweetener" for material in evaluation.used) or final.get("brix", 0.0) >= _SWEET_BRIX
    if spec.family in _SWEET_FAMILIES and not sweetened:
        yield Remark(
            "no_sweetener",
            "check",
            "family",
            message("A syrup without anything that sweetens it."),
            message("Add the sugar, or choose another family"),
        )
    if spec.family in _CLEAR_FAMILIES and not any(step.family == "clarify" or step.verb in _CLEARS for step in spec.steps):
        yield Remark(
            "no_clearing",
            "check",
            "family",
            message("Nothing in it makes it clear."),
            message("Add a step that clears, or choose another family"),
        )
    fizzy = spec.family == "drink" and _FIZZ.search(spec.name) is not None
    # From a step that carbonates, or from a line that is sold with gas in it.
    gas = evaluation.final is not None and evaluation.final.of("carbon_dioxide") > 0
    gas = gas or any(_FIZZ.search(material.name) for material in evaluation.used)
    if fizzy and not gas:
        yield Remark(
            "no_gas",
            "check",
            "family",
            message("Its name promises gas, and no step or line brings any."),
            message("Add the gas or what is topped up with, or change the name"),
        )


ASKED_FROM_SHARE = 0.05
"""Share of a limit, judged in the worst-case drink, from which the check asks which drink it is; with less of it no drink could pass the limit."""


def _restricted(evaluation: Evaluation) -> Iterator[Remark]:
    """Yields what is restricted in it, in the drink as poured; a question which drink that is, if it is unknown; and materials that are only named."""
    spec, restricted = evaluation.inputs.spec, evaluation.hazards.restricted
    yield from (item.remark for item in restricted)
    # A trace cannot pass its limit in any drink that is poured, so nobody is asked about it.
    asked = [item for item in restricted if item.share >= ASKED_FROM_SHARE and not item.poured.said]
    if asked:
        text = message(
            "It holds {asked}, judged as {poured} until somebody says which drink it is for.",
            asked=listed(term(item.name) for item in asked),
            poured=asked[0].poured.words,
        )
        yield Remark(
            "drink_not_said", "check", "served_in", text, message("Say its dose and the size of the drink, and whether that holds alcohol")
        )
    known = evaluation.rules.limits["materials"]
    held = set(spec.material_keys) | {material_of_key(key) for key in spec.material_keys}
    # Words are read as well as lines: a bark in the method is in the drink, whatever the list says.
    places = [("name", message("title"), spec.name), ("note", message("notes"), spec.note)]
    places += [(f"steps/{step.id}", message("method"), f"{step.note} {step.check}") for step in spec.steps]
    told: set[str] = set()
    for where, place, words in places:
        for word, key in materials_named(words) if words.strip() else ():
            if key in known and key not in held and key not in told and not _is_output_word(word, evaluation):
                told.add(key)
                text = message("The {place} names {word}, which is restricted, and the list does not hold it.", place=place, word=word)
                yield Remark(
                    "restricted_named", "check", where, text, message("Is it in there? Then add its line; if not, change the words")
                )


_FORMS = ("oil", "tincture", "extract", "bark", "root", "leaf", "fresh", "dried")


def _is_output_word(word: str, evaluation: Evaluation) -> bool:
    """Returns True if a word names a form of a plant that is in the list: an allspice tincture is made of allspice."""
    plants = [part for part in word.lower().split() if part not in _FORMS]
    return any(part in material.name.lower() for part in plants for material in evaluation.used)


def _in_its_drinks(evaluation: Evaluation, drinks: Sequence[Evaluation]) -> Iterator[Remark]:
    """Yields what is restricted in this prep, in each of the house's drinks that contain it."""
    mine = {item.substance for item in evaluation.hazards.restricted}
    for drink in drinks:
        for item in drink.hazards.restricted:
            if item.substance in mine and item.severity != "note":
                where, name = f"drinks/{drink.inputs.spec.id}", drink.inputs.spec.name
                yield Remark(
                    f"restricted_{item.substance}_in_drink",
                    item.severity,
                    where,
                    message("In {name}: {remark}", name=name, remark=item.remark.text),
                    item.remark.remedy,
                )


def _of_dates(evaluation: Evaluation) -> Iterator[Remark]:
    """Yields remarks on a product that is out of date before it is ready, and on hours in the danger zone."""
    kept = evaluation.keeping
    ready = f"steps/{evaluation.flow.steps[evaluation.last].step.id}" if evaluation.last is not None else "steps"
    if kept.expires_before_ready and evaluation.inputs.spec.family != "drink":
        text = message(
            "It is {stands} days old before it is ready, and keeps {keeps}: {because}.",
            stands=Computed(kept.stands_days, decimals=1),
            keeps=days(kept.days),
            because=kept.because,
        )
        remedy = message(
            "Rest it shorter, cook it after the rest, or make it so that a barrier is shown before: by weight, strength, or a house rule with your authority's word"
        )
        yield Remark("turns_before_ready", "stop", ready, text, remedy)
    if kept.warm_h > evaluation.rules.keeping["warm"]["most_h"]:
        warm = evaluation.rules.keeping["warm"]
        # Where a barrier holds growth back the hours still count for quality, no longer for safety.
        shown = kept.safety.kind == "barrier"
        stands = message(
            "It stands {time} between {above} and {below} °C.",
            time=Computed(kept.warm_h, "h", 0),
            above=Given(warm["above_c"]),
            below=Given(warm["below_c"]),
        )
        unsafe = message("Those hours count, and nothing that has been shown makes them safe.")
        text = sentences(stands, message("Those hours count.") if shown else unsafe)
        dangerous = message("Do it cold, or shorter, or read a barrier before.")
        remedy = message("Cold, or shorter") if shown else sentences(dangerous, FOLLOW)
        yield Remark("stood_warm", "note" if shown else "check", f"steps/{evaluation.history.warm_step}", text, remedy)


def _twice(spec: s.Spec) -> Iterator[Remark]:
    """Yields a remark on a material that is in two lines of one step."""
    for step in spec.steps:
        seen: set[str] = set()
        for line in step.lines:
            if line.material in seen:
                yield Remark(
                    "stands_twice",
                    "check",
                    f"steps/{step.id}/lines/{line.id}",
                    message("This material stands twice in one step."),
                    message("Join the two lines"),
                )
            seen.add(line.material)


def _easily_confused(evaluation: Evaluation) -> Iterator[Remark]:
    """Yields a remark on two materials of one spec that are easily mistaken for each other."""
    materials = evaluation.inputs.materials
    lines = evaluation.inputs.spec.lines.values()
    mistaken = {key: tuple(confused_with(key)) for key in {line.material for line in lines}}
    for line, other in combinations(lines, 2):
        for confusion in mistaken[line.material]:
            if line.material != other.material and other.material in confusion.words and confusion.kind == "material":
                names = listed(inside_name(key, materials) for key in (line.material, other.material))
                where = f"lines/{other.id}"
                yield Remark(
                    "easily_confused",
                    "check",
                    where,
                    message("{names} both stand here. {why}", names=names, why=term(confusion.why)),
                    term(confusion.ask),
                )


def _not_listed(evaluation: Evaluation) -> Iterator[Remark]:
    """Yields a remark on the words of a step that name a material which no line holds."""
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    listed_keys = set(spec.material_keys)
    # “Lemon” in a note is listed if lemon juice is: the word is looked for in the names too.
    called = " ".join(material_name(key, materials).text().lower() for key in listed_keys)
    for step in spec.steps:
        for word, key in materials_named(f"{step.note} {step.check}") if step.note or step.check else ():
            if key != "water" and key not in listed_keys and word not in called:
                text = message("The words of this step name {word}, which is not in the list.", word=word)
                yield Remark("not_in_list", "check", f"steps/{step.id}", text, message("Add its line, or change the words"))


def _far_from_practice(evaluation: Evaluation, key: str, dose: float) -> Iterator[Remark]:
    """Yields a remark on a dose [g/L] outside published practice, where the house has no specs of its own to compare with."""
    material = evaluation.inputs.materials[key]
    usual = published_dose(evaluation.inputs.spec.family, key, material.kind)
    if usual is None or usual[0] <= dose <= usual[1] or dose <= 0:
        return
    line = next((line.id for line in evaluation.inputs.spec.lines.values() if line.material == key), "")
    text = message(
        "{material}: {dose}\u00a0g a litre, where {low} to {high}\u00a0g is usual in what is published.",
        material=material.name,
        dose=Computed(dose),
        low=Computed(usual[0]),
        high=Computed(usual[1]),
    )
    yield Remark(
        "far_from_practice", "check", f"lines/{line}", text, message("Look at its amount and unit once more, or say why in a note")
    )


def _far_from_usual(evaluation: Evaluation, other_doses: Doses) -> Iterator[Remark]:
    """Yields a remark on a dose far from that of the same material in the house's other specs."""
    for key, dose in evaluation.doses_g_l.items():
        others = other_doses.get(key, ())
        material = evaluation.inputs.materials[key]
        if material.kind in _BASE_KINDS:
            continue
        if len(others) < ENOUGH_OTHERS:
            yield from _far_from_practice(evaluation, key, dose)
            continue
        # The median, so that one odd spec of the house does not move what is usual.
        usual = median(others)
        if usual > 0 and dose > 0 and not 1.0 / FAR_FROM_USUAL < dose / usual < FAR_FROM_USUAL:
            line = next((line.id for line in evaluation.inputs.spec.lines.values() if line.material == key), "")
            doses: dict[str, Value] = {"material": material.name, "dose": Computed(dose), "usual": Computed(usual)}
            if dose > usual:
                times = Computed(dose / usual, decimals=1)
                text = message("{material}: {dose}\u00a0g a litre is {times} times the house's usual {usual}\u00a0g.", **doses, times=times)
            else:
                share = percent(dose / usual)
                text = message("{material}: {dose}\u00a0g a litre is {share} of the house's usual {usual}\u00a0g.", **doses, share=share)
            yield Remark("far_from_usual", "check", f"lines/{line}", text, message("Weigh it once more in your head, or say why in a note"))
