"""The spec card: one page that a new hire can make it from, at the batch that is wanted, to the scale's resolution, in the reader's language.

Every sentence is generated from the typed steps; the lead's own words stay as written and are marked in another language.
"""

from __future__ import annotations

import dataclasses
import math
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Literal, TypeVar

from ..base import number_format as say
from ..base.figures import with_unit
from ..base.refusals import Refusal
from ..base.units import KITCHEN_ML, Locale
from ..base.vocabulary import LANGUAGES, localised, phrase, plain, sentence, word
from ..evaluation.evaluate import Evaluation
from ..evaluation.flow import StepFlow
from ..materials.material import Material
from ..safety.shelf_life import Keeping
from ..spec import spec as s
from ..spec.sentences import amount_words, listed, material_name, minutes_words, short_name, step_title

Value = TypeVar("Value")
Beside = Literal["nothing", "volume", "cups"]
BESIDE: tuple[Beside, ...] = ("nothing", "volume", "cups")
FINE_G = 0.01
LEAST_G = 0.005
"""What rounds to nothing on a fine scale is not weighed."""
_FINE_BELOW = 50.0
"""Below fifty steps of the bench scale (2 % each) a line is weighed on the fine one."""
_READS = ("brix", "acid_g_100ml", "abv")
_SPOON_STEPS = (("cup", 0.25), ("tbsp", 0.5), ("tsp", 0.25))


def _step_g(mass_g: float, resolution_g: float) -> float:
    return resolution_g if mass_g >= _FINE_BELOW * resolution_g else min(FINE_G, resolution_g)


def on_scale(mass_g: float, resolution_g: float) -> str:
    """Grams [g] as a scale of `resolution_g` [g] shows them; small lines on the fine scale. 618.27 g on 1 g: "618 g"; 3.962 g: "3.96 g"."""
    step = _step_g(mass_g, resolution_g)
    places = max(0, -math.floor(math.log10(step) + 1e-9))
    return say.amount(max(step, round(mass_g / step) * step), "g", places)


def in_spoons(volume_ml: float, locale: Locale) -> str:
    """A volume [mL] in the largest kitchen measure that it fills a quarter of: "2 1/4 cup", always beside a weight. 250 mL metric: "1 cup"."""
    sizes = KITCHEN_ML[locale]
    for unit, least in _SPOON_STEPS:
        if volume_ml >= least * sizes[unit]:
            quarters = max(1, round(4.0 * volume_ml / sizes[unit]))
            whole, rest = divmod(quarters, 4)
            part = {0: "", 1: "1/4", 2: "1/2", 3: "3/4"}[rest]
            return " ".join(item for item in (str(whole) if whole else "", part, unit) if item)
    return ""


def beside_words(material: Material | None, mass_g: float, locale: Locale, beside: Beside) -> str:
    """What stands beside a weight [g]: mL, or cups in the `locale`'s size; nothing where nobody has said what a mL of it weighs."""
    if material is None or beside == "nothing":
        return ""
    try:
        volume = mass_g / material.density_g_ml()
    except Refusal:
        # Nobody has said what a mL of it weighs: the weight stands alone.
        return ""
    if beside == "cups":
        return in_spoons(volume, locale)
    return say.amount(volume, "mL", 0 if volume >= 20 else 1)


_PLURALS = (
    (re.compile(r"(?<=[^aeiou])y$"), "ies"),
    (re.compile(r"(?:leaf)$"), "leaves"),
    (re.compile(r"(?<=ch|sh|.x|.z)$"), "es"),
    (re.compile(r"(?<=[^s])$"), "s"),
)
_SAME_IN_PLURAL = ("anise", "cinnamon")


def _pieces(name: str, count: float) -> str:
    """What is counted, in English: “1 bergamot”, “6 bergamots”, “40 cloves”; its short name as it is where that has no other form."""
    short = short_name(name)
    if count == 1:
        return short
    if short.endswith(_SAME_IN_PLURAL):
        return f"{short} pieces"
    for pattern, ending in _PLURALS:
        if pattern.search(short):
            return pattern.sub(ending, short)
    return short


def _amount(line: s.Line, mass_g: float, name: str, factor: float, language: str, resolution_g: float) -> str:
    """What stands as a line's amount: its weight on the scale, and where it is counted how many that are: “6 bergamots, 900 g in all”."""
    if mass_g < LEAST_G:
        return sentence("nothing_needed", language)
    weight = on_scale(mass_g, resolution_g)
    amount = line.amount
    if not isinstance(amount, s.Fixed) or amount.dimension != "count":
        return weight
    count = amount.quantity * (factor if amount.scales else 1.0)
    turn = "one_piece" if count == 1 else "pieces_in_all"
    return sentence(turn, language).format(
        n=say.figure(count, 0 if float(count).is_integer() else 1), pieces=_pieces(name, count), weight=weight
    )


def _says_again(text: str, said: str) -> bool:
    """Whether a text says nothing that another has not said: a pasted recipe's own sentence beside the one made of it."""
    words = {word for word in re.findall(r"[a-zà-ÿ]{3,}", plain(text)) if word not in _SMALL}
    have = set(re.findall(r"[a-zà-ÿ]{3,}", plain(said)))
    return bool(words) and all(word in have or word.rstrip("s") in have or f"{word}s" in have for word in words)


_SMALL = frozenset(
    {"the", "and", "for", "with", "into", "then", "min", "minutes", "hours", "days", "stir", "pour", "add", "mix", "combine", "put"}
)


@dataclass(frozen=True, slots=True)
class CardLine:
    """A line of a card: what, how much as the scale shows it, what stands beside that, how it is measured, the lead's own note."""

    id: str
    name: str
    amount: str
    beside: str
    how: str
    note: str


@dataclass(frozen=True, slots=True)
class CardStep:
    """A step of a card; `place` is its vessel, where the spec has several and it is not the one at hand."""

    id: str
    number: int
    place: str
    title: str
    lines: tuple[CardLine, ...]
    check: str
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """Everything that stands on a card, as text in its language. `marks` is True if the lead's own words are marked as in another language."""

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


def _lines(evaluation: Evaluation, done: StepFlow, language: str, resolution_g: float, beside: Beside) -> Iterator[CardLine]:
    spec, materials = evaluation.inputs.spec, evaluation.inputs.materials
    for added in done.added:
        line = spec.lines.get(added.line)
        if line is None:
            continue
        name = material_name(line.material, materials, language, spec)
        yield CardLine(
            line.id,
            name[:1].upper() + name[1:] if line.own else name,
            _amount(line, added.mass_g, name, evaluation.inputs.factor, language, resolution_g),
            beside_words(materials.get(line.material), added.mass_g, spec.locale, beside),
            amount_words(line, spec, materials, language),
            line.note,
        )


def _gear(evaluation: Evaluation, language: str, resolution_g: float) -> tuple[str, ...]:
    spec = evaluation.inputs.spec
    masses = [mass for mass in evaluation.plain.masses.values() if mass > 0]
    scales = ["scale"] * any(mass >= _FINE_BELOW * resolution_g for mass in masses)
    scales += ["fine scale"] * any(mass < _FINE_BELOW * resolution_g for mass in masses)
    used = [spec.vessels[step.vessel].name for step in spec.steps]
    steps = [item for step in spec.steps for item in (step.gear or step.usual_gear)]
    return tuple(phrase(item, language) for item in dict.fromkeys([*scales, *used, *steps]))


def _reads(name: str, value: float, language: str) -> str:
    """A figure that an instrument shows, with what it is where its unit does not say so: "41.8 °Bx", "acid 2.60 g/100 mL"."""
    return f"{sentence('acid', language)} {with_unit(name, value)}" if name == "acid_g_100ml" else with_unit(name, value)


def _check(step: s.Step, language: str) -> str:
    written = f" ({sentence('card_as_written', language)})" if language != "en" else ""
    said = step.check + written if step.check else phrase(step.usual_check, language)
    said = "" if _says_again(said, step.note) else said
    until = f"{sentence('card_until', language)}: {said}" if said else ""
    sample = sentence("card_sample", language) if step.keep_sample else ""
    return " · ".join(part for part in (until, sample) if part)


def _keeps(kept: Keeping, language: str) -> str:
    written = sentence("day", language) if kept.days == 1 else sentence("days", language).format(n=kept.days)
    return sentence("card_keep_at", language).format(days=written, c=say.given(kept.at_most_c), start=phrase(kept.counts_from, language))


def _place(spec: s.Spec, n: int, language: str) -> str:
    """The vessel of a step, where the spec has several and it is not the one at hand: “Tall jug”."""
    step, before = spec.steps[n], spec.steps[n - 1] if n else None
    at_hand = (before.into or before.vessel) if before is not None else ""
    if len(spec.vessels) < 2 or step.vessel == at_hand:
        return ""
    name = phrase(spec.vessels[step.vessel].name, language)
    return name[:1].upper() + name[1:]


def _allergens(evaluation: Evaluation, language: str) -> str:
    """What is in it and of what nobody has said anything; never that it is free of all."""
    hazards = evaluation.hazards
    held = listed([phrase(item, language) for item in hazards.allergens], language) or sentence("card_none", language)
    if not hazards.unknown:
        return held
    return f"{held}; {sentence('card_unknown', language).format(names=listed(list(hazards.unknown), language))}"


def card(evaluation: Evaluation, language: str = "en", *, resolution_g: float = 1.0, beside: Beside = "nothing") -> Card:
    """Everything that stands on the card, as text in `language`, weights to `resolution_g` [g]; volumes or cups `beside` them where wanted.

    Refuses a language that the vocabulary does not hold, a spec that cannot be made to its end, and a resolution that is none.
    """
    if language not in LANGUAGES:
        raise Refusal(f"There are no cards in “{language}”", "language", f"there are {', '.join(LANGUAGES)}", "Choose one of them")
    if not 0.0 < resolution_g <= 100.0:
        raise Refusal(f"A scale does not read to {say.given(resolution_g)} g", "resolution_g", "above 0 and at most 100 g")
    if beside not in BESIDE:
        raise Refusal(f"“{beside}” does not stand beside weights", "beside", f"there are {', '.join(BESIDE)}", "Choose one of them")
    if evaluation.plain.refusal:
        raise evaluation.plain.refusal
    if evaluation.last is None:
        raise Refusal("Nothing is made yet", "steps", remedy="Add a step and put something in", code="nothing_made")
    spec, materials, final = evaluation.inputs.spec, evaluation.inputs.materials, evaluation.figures[evaluation.last]
    titles = [step_title(done.step, materials, first=n == 0, language=language, spec=spec) for n, done in enumerate(evaluation.plain.steps)]
    steps = tuple(
        CardStep(
            done.step.id,
            n + 1,
            _place(spec, n, language),
            titles[n],
            tuple(_lines(evaluation, done, language, resolution_g, beside)),
            _check(done.step, language),
            "" if _says_again(done.step.note, titles[n]) else done.step.note,
        )
        for n, done in enumerate(evaluation.plain.steps)
    )
    volume = final["volume_ml"]
    hands = math.fsum(step.hands_min * step.people for step in spec.steps)
    spans = sentence("card_hands", language).format(
        hands=minutes_words(hands, language), all=minutes_words(max(done.ends_min for done in evaluation.plain.steps), language)
    )
    labels = (
        "gear",
        "makes",
        "serves",
        "reads",
        "keeps",
        "allergens",
        "cautions",
        "free_from",
        "takes",
        "version",
        "as_written",
        "options",
    )
    more = ("signed", "date", "lot", "follow", "withdrawn")
    made = Card(
        language=language,
        name=spec.name,
        family=word("families", spec.family, language) if spec.family != "other" else "",
        labels={name: sentence(f"card_{name}", language) for name in (*labels, *more)},
        makes=f"{say.amount(volume / 1000.0, 'L', 2)} · {say.figure(volume / spec.serve_ml, 0)} {sentence('card_serves', language)} {say.amount(spec.serve_ml, 'mL', 0)}",
        takes=spans,
        reads=tuple(_reads(name, final[name], language) for name in _READS if final.get(name, 0.0) > 0.05),
        gear=_gear(evaluation, language, resolution_g),
        options=tuple(f"{group.name}: {next(c.name for c in group.choices if c.id == group.chosen)}" for group in spec.options),
        steps=steps,
        keeps=_keeps(evaluation.keeping, language),
        keeps_because=evaluation.keeping.because,
        allergens=_allergens(evaluation, language),
        free_from=listed([phrase(item, language) for item in evaluation.hazards.free_from], language),
        cautions=evaluation.hazards.cautions,
        marks=language != "en",
    )
    return _localised(made, language)


_AS_WRITTEN = frozenset({"name", "note", "keeps_because"})
"""Texts of a card that somebody wrote."""


def _localised(value: Value, language: str) -> Value:
    """Returns a copy of the value with the decimal separator of the language in every text, except in the fields of `_AS_WRITTEN`."""
    found: Any = value
    if isinstance(value, str):
        found = localised(value, language)
    elif dataclasses.is_dataclass(value) and not isinstance(value, type):
        texts = {item.name: getattr(value, item.name) for item in dataclasses.fields(value) if item.name not in _AS_WRITTEN}
        found = dataclasses.replace(value, **{name: _localised(item, language) for name, item in texts.items()})
    elif isinstance(value, Mapping):
        found = {key: _localised(item, language) for key, item in value.items()}
    elif isinstance(value, tuple):
        found = tuple(_localised(item, language) for item in value)
    return found  # type: ignore[no-any-return]


def markdown(made: Card) -> str:
    """A card as Markdown: readable anywhere, without Ulsek."""
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
