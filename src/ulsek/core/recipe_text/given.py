"""Assigns a phrase of the text to a step by hand: its materials become lines of the step, or its words are added to the note of the step."""

from __future__ import annotations

import copy
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any

from ..base.answer import DescribedAs, OpenForm
from ..base.messages import message
from ..base.refusals import Refusal
from ..base.units import Locale
from ..operations.catalogue import VERBS
from ..safety.shipped_rules import kitchen_words
from ..spec.object_reader import MOST_TEXT
from ..written.lexicon import lexicon
from ..written.tokens import Token, tokens_of
from .doubts import Doubt, Form
from .draft import line_form
from .ingredient import Ingredient
from .languages import language_of
from .lines import LineReader
from .material_names import material_names
from .phrases import TextPhrase
from .rows import MOST_TOKENS, bare
from .text_reading import Shelf, TextReading, Words


@dataclass(frozen=True, slots=True)
class Given:
    """The result of assigning a phrase of the text to a step: the changed draft, and the phrases that now belong to a line or to the step."""

    spec: Annotated[OpenForm, DescribedAs("SpecFile")]
    phrases: tuple[TextPhrase, ...]


def given(
    body: Mapping[str, Any], phrase: tuple[int, int], step: str, known: Mapping[str, Any], words: Words | None = None, shelf: Shelf = None
) -> Given:
    """Returns a draft in which the phrase from letter `phrase[0]` up to letter `phrase[1]` of its text is assigned to the step with id `step`.

    Each material of the phrase becomes a line of the step, with its doubts; of a new combining step behind it if the step takes no ingredients. A phrase without
    materials is added to the note of the step. `known`, `words` and `shelf` are the house's, as for `parse_recipe`.

    Raises Refusal for a phrase outside the text, an unknown step, and a language that is not read.
    """
    (start, end), text = phrase, body.get("note")
    if not isinstance(text, str) or not 0 <= start < end <= len(text):
        raise Refusal(message("These words are not in the text"), "start", remedy=message("Choose words of the text"), code="out_of_bounds")
    made: Form = copy.deepcopy(dict(body))
    place = next((item for item in made.get("steps") or () if isinstance(item, dict) and item.get("id") == step), None)
    if place is None:
        raise Refusal(
            message("There is no step “{step}”", step=step),
            "step",
            remedy=message("Look at the draft as it is now"),
            code="unknown_reference",
        )
    locale: Locale = body["locale"] if body.get("locale") in ("us", "imperial") else "metric"
    language = language_of(text, tokens_of(text))
    reading = TextReading(text, lexicon(language), locale, material_names(language, known), words or kitchen_words()["words"], shelf)
    tokens = _from_its_first_thing(bare(tokens_of(text[start:end], start))[:MOST_TOKENS], reading)
    found = list(LineReader(reading).ingredients(text.count("\n", 0, start) + 1, tokens, strict=True)) if tokens else []
    if not found:
        place["note"] = "; ".join(filter(None, (str(place.get("note", "")), text[start:end].strip())))[:MOST_TEXT]
        return Given(made, (TextPhrase(start, end, "step", step),))
    if place.get("verb") in VERBS and not VERBS[place["verb"]].takes_lines:
        place = _step_behind(made, place, text[start:end].strip())
    for item, number in zip(found, _free(made, "l"), strict=False):
        item.id = f"l{number}"
        place.setdefault("lines", []).append(line_form(item, found, found, reading))
    own = {key: form for key, form in reading.own.items() if any(item.key == key for item in found)}
    if own:
        made["materials"] = {**own, **(made.get("materials") or {})}
    asked = [_asked(doubt, found) for doubt in reading.doubts]
    if asked:
        made["doubts"] = [*(made.get("doubts") or ()), *asked]
    return Given(made, tuple(TextPhrase(item.start, item.end, "line", item.id) for item in found))


def _from_its_first_thing(tokens: list[Token], reading: TextReading) -> list[Token]:
    """Returns the tokens from the first amount or material on: “some people like 5 g of salt” speaks of 5 g of salt."""
    begins = [q.start for q in reading.quantities.all(tokens)[:1]] + [item.start for item in reading.names.mentions(tokens)][:1]
    return tokens[min(begins) :] if begins else tokens


def _step_behind(body: Form, step: Form, words: str) -> Form:
    """Returns a new step that stirs in, put behind one into which nothing goes."""
    made: Form = {"id": f"s{_free(body, 's')[0]}", "verb": "combine", "vessel": step.get("vessel", "pot"), "note": words[:MOST_TEXT]}
    body["steps"].insert(body["steps"].index(step) + 1, made)
    return made


def _free(body: Form, letter: str) -> range:
    """Returns numbers that no line and no step of the draft has behind a letter in its id."""
    steps = body.get("steps") or ()
    ids = [str(item.get("id")) for step in steps for item in (step, *(step.get("lines") or ()))]
    used = [int(found[1]) for each in ids if (found := re.fullmatch(rf"{letter}(\d{{1,6}})", each))]
    first = max(used, default=0) + 1
    return range(first, first + 1000)


def _asked(doubt: Doubt, found: list[Ingredient]) -> Form:
    at = next((item.id for item in found if (item.start, item.end) == (doubt.start, doubt.end)), found[0].id)
    return doubt.form(at)
