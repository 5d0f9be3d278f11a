"""The spec card: one page from which a new person can make a batch, to the resolution of the scale, in the reader's language.

Every sentence is generated from the typed steps; texts that people wrote stay as they are and are marked in another language.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..base.catalogue import SOURCE_LANGUAGE, languages
from ..base.figures import FIGURES, quantity
from ..base.messages import NOTHING, Computed, Given, Message, capital, counted, days, listed, message, minutes, short_name, term, verbatim
from ..base.refusals import Refusal
from ..base.register import USUAL_EQUIPMENT, Equipment
from ..base.units import KITCHEN_ML, Locale
from ..base.vocabulary import plain, word
from ..base.weighing import UNSURE_SHARE, Scales
from ..evaluation.evaluate import Evaluation
from ..evaluation.flow_values import StepFlow
from ..materials.material import Material
from ..safety.shelf_life import Keeping
from ..spec import spec as s
from ..spec.sentences import amount_words, material_name, step_title, vessel_name

SecondMeasure = Literal["nothing", "volume", "cups"]
SECOND_MEASURES: tuple[SecondMeasure, ...] = ("nothing", "volume", "cups")
LEAST_G = 0.005
"""What rounds to nothing on a fine scale is not weighed."""
_MOST_JIGGERS = 8
"""More measures of a jigger than this are miscounted. House judgement."""
_PARTS, _WHOLE_FROM_ML = 4, 20.0
"""Parts of a spoon or cup that are told apart, and the volume [mL] from which whole millilitres are. House judgement."""
_READS = ("brix", "acid_g_100ml", "abv")
_SPOON_STEPS = (("cup", 0.25), ("tbsp", 0.5), ("tsp", 0.25))


def on_scale(mass_g: float, scales: Scales) -> Computed:
    """Returns a mass [g] as the scale it is weighed on shows it. On scales of 1 g and 0.01 g, 618.27 g: "618 g"; 3.962 g: "3.96 g"."""
    step = scales.step_g(mass_g)
    # The decimals of the step itself: a scale of 0.1 g shows no hundredths.
    places = max(0, -math.floor(math.log10(step) + 1e-9))
    return Computed(max(step, round(mass_g / step) * step), "g", places)


def in_spoons(volume_ml: float, locale: Locale) -> str:
    """Returns a volume [mL] in the largest kitchen measure of which it fills a quarter: "2 1/4 cup". 250 mL metric: "1 cup"."""
    sizes = KITCHEN_ML[locale]
    # The largest measure first, as long as a quarter of it is filled.
    for unit, least in _SPOON_STEPS:
        if volume_ml >= least * sizes[unit]:
            quarters = max(1, round(_PARTS * volume_ml / sizes[unit]))
            whole, rest = divmod(quarters, _PARTS)
            part = {0: "", 1: "1/4", 2: "1/2", 3: "3/4"}[rest]
            return " ".join(item for item in (str(whole) if whole else "", part, unit) if item)
    return ""


def second_measure(
    material: Material | None, mass_g: float, locale: Locale, beside: SecondMeasure, jiggers_ml: Sequence[float] = ()
) -> Message:
    """Returns what is printed after a mass [g]: mL, or cups in the `locale`'s size; nothing if the density is unknown.

    Beside mL stands how many measures of one of the jiggers [mL] a liquid is, if a few of them make it to 2 %. 50 g of water, a jigger of 25 mL: "50 mL (2 × 25 mL)".
    """
    if material is None or beside == "nothing":
        return NOTHING
    try:
        volume = mass_g / material.density_g_ml()
    except Refusal:
        # The density is unknown: the mass is printed alone.
        return NOTHING
    if beside == "cups":
        return verbatim(in_spoons(volume, locale))
    millilitres = Computed(volume, "mL", 0 if volume >= _WHOLE_FROM_ML else 1)
    for jigger in sorted(jiggers_ml, reverse=True) if material.pours else ():
        times = round(volume / jigger)
        if 1 <= times <= _MOST_JIGGERS and abs(times * jigger - volume) <= UNSURE_SHARE * volume:
            return message("{volume} ({n} × {jigger})", volume=millilitres, n=Given(times), jigger=Given(jigger, "mL"))
    return verbatim(millilitres)


_PLURALS = (
    (re.compile(r"(?<=[^aeiou])y$"), "ies"),
    (re.compile(r"(?:leaf)$"), "leaves"),
    (re.compile(r"(?<=ch|sh|.x|.z)$"), "es"),
    (re.compile(r"(?<=[^s])$"), "s"),
)
_SAME_IN_PLURAL = ("anise", "cinnamon")


def _pieces(name: str, count: float) -> str:
    """Returns a count in English: “1 bergamot”, “6 bergamots”, “40 cloves”; the name as it is if it has no plural."""
    short = short_name(name)
    if count == 1:
        return short
    if short.endswith(_SAME_IN_PLURAL):
        return f"{short} pieces"
    for pattern, ending in _PLURALS:
        if pattern.search(short):
            return pattern.sub(ending, short)
    return short


def _amount(line: s.Line, mass_g: float, name: str, factor: float, scales: Scales) -> Message:
    """Returns the amount of a line: its mass on the scale, and the count of what is counted: “6 bergamots, 900 g in all”."""
    if mass_g < LEAST_G:
        return message("none needed")
    weight = on_scale(mass_g, scales)
    amount = line.amount
    if not isinstance(amount, s.Fixed) or amount.dimension != "count":
        return verbatim(weight)
    count = amount.quantity * (factor if amount.scales else 1.0)
    n = Computed(count, decimals=0 if float(count).is_integer() else 1)
    return counted("{n} {pieces}, {weight}", "{n} {pieces}, {weight} in all", n, pieces=_pieces(name, count), weight=weight)


def _says_again(text: str, said: str) -> bool:
    """Returns True if a text adds nothing to another: the sentence of a pasted recipe and the one generated from it."""
    words = {word for word in re.findall(r"[a-zà-ÿ]{3,}", plain(text)) if word not in _SMALL}
    have = set(re.findall(r"[a-zà-ÿ]{3,}", plain(said)))
    return bool(words) and all(word in have or word.rstrip("s") in have or f"{word}s" in have for word in words)


_SMALL = frozenset(
    {"the", "and", "for", "with", "into", "then", "min", "minutes", "hours", "days", "stir", "pour", "add", "mix", "combine", "put"}
)


@dataclass(frozen=True, slots=True)
class CardLine:
    """A line of a card: name, amount as the scale shows it, second measure, how it is measured, note."""

    id: str
    name: str
    amount: str
    beside: str
    how: str
    note: str


@dataclass(frozen=True, slots=True)
class CardStep:
    """A step of a card; `place` is its vessel, if the spec has several and it is not the one of the step before."""

    id: str
    number: int
    place: str
    title: str
    lines: tuple[CardLine, ...]
    check: str
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """Everything on a card, as text in its language. `marks` is True if texts that people wrote are marked as in another language."""

    language: str
    name: str
    family: str
    labels: Mapping[str, str]
    makes: str
    takes: str
    reads: tuple[str, ...]
    gear: tuple[str, ...]
    options: tuple[str, ...]
    steps: tuple[CardStep, ...]
    keeps: str
    keeps_because: str
    allergens: str
    free_from: str
    cautions: tuple[str, ...]
    marks: bool


def _lines(evaluation: Evaluation, done: StepFlow, language: str, at: Equipment, beside: SecondMeasure) -> Iterator[CardLine]:
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    for added in done.added:
        line = spec.lines.get(added.line)
        if line is None:
            continue
        name = material_name(line.material, materials, spec).text(language)
        yield CardLine(
            line.id,
            capital(name) if line.own else name,
            _amount(line, added.mass_g, name, evaluation.inputs.made.factor, at.scales).text(language),
            second_measure(materials.get(line.material), added.mass_g, spec.locale, beside, at.jiggers_ml).text(language),
            amount_words(line, spec, materials).text(language),
            line.note,
        )


def _gear(evaluation: Evaluation, scales: Scales) -> tuple[Message, ...]:
    spec = evaluation.inputs.spec
    # A scale is named only if it is used, and one that is finer than the house's own as that.
    steps_g = {scales.step_g(mass) for mass in evaluation.flow.masses.values() if mass > 0}
    named = [message("scale")] * (scales.bench_g in steps_g)
    named += [message("fine scale")] * (scales.fine_g < scales.bench_g and scales.fine_g in steps_g)
    named += [
        message("a scale that reads to {resolution} g, finer than the house's", resolution=Given(step))
        for step in sorted(steps_g)
        if step < min(scales.bench_g, scales.fine_g)
    ]
    used = [vessel_name(spec, step.vessel) for step in spec.steps]
    steps = [term(item) for step in spec.steps for item in (step.gear or step.usual_gear)]
    return tuple(dict.fromkeys((*named, *used, *steps)))


def _reads(name: str, value: float) -> Message:
    """Returns a figure that an instrument shows, with its name if the unit does not tell it: "41.8 °Bx", "acid 2.60 g/100 mL"."""
    figure = quantity(name, value)
    return message("acid {figure}", figure=figure) if name == "acid_g_100ml" else verbatim(figure)


def _check(step: s.Step, language: str) -> Message:
    """Returns when a step is done, and whether a sample is set aside. Texts that people wrote are marked on a card in another language."""
    said = verbatim(step.check) if step.check else term(step.usual_check)
    if not said or _says_again(said.text(language), step.note):
        until = NOTHING
    elif step.check and language != SOURCE_LANGUAGE:
        until = message("until: {check} (as written by the lead)", check=said)
    else:
        until = message("until: {check}", check=said)
    sample = message("set a sample aside") if step.keep_sample else NOTHING
    return verbatim(listed((part for part in (until, sample) if part), "dot"))


def _keeps(kept: Keeping) -> Message:
    return message(
        "{days} at {c} °C or colder, counted from {start}", days=days(kept.days), c=Given(kept.at_most_c), start=term(kept.counts_from)
    )


def _place(spec: s.Spec, n: int, language: str) -> str:
    """Returns the vessel of a step, if the spec has several and it is not the one of the step before: “Tall jug”."""
    step, before = spec.steps[n], spec.steps[n - 1] if n else None
    # Where the hands are already: the vessel of the step before, or the one that it was poured into.
    at_hand = (before.into or before.vessel) if before is not None else ""
    if len(spec.vessels) < 2 or step.vessel == at_hand:
        return ""
    return capital(vessel_name(spec, step.vessel).text(language))


def _allergens(evaluation: Evaluation) -> Message:
    """Returns the allergens and the materials of which they are unknown; never that it is free of all."""
    hazards = evaluation.hazards
    none = message("none of those listed goes in; answer for the drink, ask the lead")
    held = verbatim(listed(map(term, hazards.allergens))) if hazards.allergens else none
    if not hazards.unknown:
        return held
    return verbatim(listed((held, message("nobody has said what {names} holds: ask the lead", names=listed(hazards.unknown))), "semicolon"))


LABELS: Mapping[str, Message] = {
    "gear": message("Gear"),
    "makes": message("Makes"),
    "serves": message("serves of"),
    "reads": message("Should read"),
    "keeps": message("Keeps"),
    "allergens": message("Allergens"),
    "cautions": message("Cautions"),
    "free_from": message("Made without"),
    "takes": message("Takes"),
    "version": message("version"),
    "as_written": message("as written by the lead"),
    "options": message("Made with"),
    "signed": message("Made by"),
    "date": message("Date"),
    "lot": message("Lot"),
    "follow": message("Follow your local food code; ask your authority."),
    "withdrawn": message("Withdrawn: do not make it."),
}
"""The headings of a card, by name."""


def _check_asked(evaluation: Evaluation, language: str, scales: Scales, beside: SecondMeasure) -> None:
    """Raises Refusal for a language without a catalogue, a resolution or a measure that a card cannot have, and a spec that cannot be made to its end."""
    if language not in languages():
        raise Refusal(
            message("There are no cards in “{language}”", language=language),
            "language",
            message("there are {languages}", languages=listed(languages(), "comma")),
            message("Choose one of them"),
        )
    if not 0.0 < scales.bench_g <= 100.0:
        raise Refusal(
            message("A scale does not read to {resolution} g", resolution=Given(scales.bench_g)),
            "resolution_g",
            message("above 0 and at most 100 g"),
        )
    if beside not in SECOND_MEASURES:
        raise Refusal(
            message("“{beside}” does not stand beside weights", beside=beside),
            "beside",
            message("there are {beside}", beside=listed(SECOND_MEASURES, "comma")),
            message("Choose one of them"),
        )
    if evaluation.flow.refusal:
        raise evaluation.flow.refusal
    if evaluation.last is None:
        raise Refusal(message("Nothing is made yet"), "steps", remedy=message("Add a step and put something in"), code="nothing_made")


def _steps(evaluation: Evaluation, language: str, at: Equipment, beside: SecondMeasure) -> Iterator[CardStep]:
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    for n, done in enumerate(evaluation.flow.steps):
        title = step_title(done.step, materials, first=n == 0, spec=spec).text(language)
        yield CardStep(
            done.step.id,
            n + 1,
            _place(spec, n, language),
            title,
            tuple(_lines(evaluation, done, language, at, beside)),
            _check(done.step, language).text(language),
            "" if _says_again(done.step.note, title) else done.step.note,
        )


def card(
    evaluation: Evaluation, language: str = SOURCE_LANGUAGE, *, at: Equipment = USUAL_EQUIPMENT, beside: SecondMeasure = "nothing"
) -> Card:
    """Returns what stands on the card of a spec, as text in `language`: weights as the scales of `at` read, with volumes or cups as `beside` says.

    Raises Refusal for a language without a catalogue, a resolution of 0 or above 100 g, another measure, and a spec that cannot be made to its end.
    """
    _check_asked(evaluation, language, at.scales, beside)
    spec, final = evaluation.inputs.spec, evaluation.product_figures
    volume = final["volume_ml"]
    hands = math.fsum(step.labour_min * step.people for step in spec.steps)
    everything = max(done.ends_min for done in evaluation.flow.steps)
    spans = message("{hands} of hands in {all}", hands=minutes(hands), all=minutes(everything))
    makes = message(
        "{volume} · {n} serves of {serve}",
        volume=Computed(volume / 1000.0, "L", 2),
        n=Computed(volume / spec.serve_ml, decimals=0),
        serve=Computed(spec.serve_ml, "mL", 0),
    )
    return Card(
        language=language,
        name=spec.name,
        family=word("families", spec.family, language) if spec.family != "other" else "",
        labels={name: label.text(language) for name, label in LABELS.items()},
        makes=makes.text(language),
        takes=spans.text(language),
        reads=tuple(_reads(name, final[name]).text(language) for name in _READS if final.get(name, 0.0) > FIGURES[name].shown_from),
        gear=tuple(item.text(language) for item in _gear(evaluation, at.scales)),
        options=tuple(f"{group.name}: {next(c.name for c in group.choices if c.id == group.chosen)}" for group in spec.options),
        steps=tuple(_steps(evaluation, language, at, beside)),
        keeps=_keeps(evaluation.keeping).text(language),
        keeps_because=evaluation.keeping.because.text(language),
        allergens=_allergens(evaluation).text(language),
        free_from=listed(map(term, evaluation.hazards.free_from)).text(language),
        cautions=evaluation.hazards.cautions,
        marks=language != SOURCE_LANGUAGE,
    )


def markdown(made: Card) -> str:
    """Returns a card as Markdown."""
    labels = made.labels
    rows = [f"# {made.name}", "", f"{labels['makes']} {made.makes}. {labels['takes']} {made.takes}.", ""]
    rows += [f"**{labels['gear']}:** {', '.join(made.gear)}", ""]
    for step in made.steps:
        rows.append(f"{step.number}. " + (f"{step.place}: " if step.place else "") + step.title + (f" — {step.note}" if step.note else ""))
        rows += [f"   - {line.name}: {line.amount}" + (f" ({line.beside})" if line.beside else "") + f", {line.how}" for line in step.lines]
        rows += [f"   - {step.check}"] if step.check else []
    rows += ["", f"**{labels['reads']}:** {', '.join(made.reads)}" if made.reads else "", f"**{labels['keeps']}:** {made.keeps}"]
    rows += [f"**{labels['allergens']}:** {made.allergens}"]
    rows += [f"**{labels['cautions']}:** {caution}" for caution in made.cautions]
    return "\n".join([*rows, "", labels["follow"], ""])
