"""One step as it is typed at the workbench: a verb, at most one thing that goes in, its minutes and degrees."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from ..base.messages import message
from ..base.refusals import Refusal
from ..base.units import Locale
from ..base.vocabulary import aliases
from ..materials.reference_materials import typical_materials
from ..operations.catalogue import VERBS
from ..safety.shipped_rules import kitchen_words
from ..written.lexicon import LANGUAGES, Lexicon, lexicon
from ..written.quantities import MEASURED, Quantity
from ..written.tokens import Token, tokens_of
from .action import Action, told
from .doubts import Form, amount_form
from .draft import params_of, verb_of
from .material_names import material_names
from .piece_amounts import of_vague
from .text_reading import TextReading
from .verbs import VerbAt, VerbFinder

_MOST_WORDS = 4
"""Words of a verb's name [count]: “egg white raft”, “bring titratable acid to”."""


def _listed_verb(tokens: Sequence[Token]) -> VerbAt | None:
    """Returns the verb of the vocabulary that a text begins with, in any language; the longest name wins."""
    for length in range(min(_MOST_WORDS, len(tokens)), 0, -1):
        verb = aliases("verbs").get(" ".join(token.plain for token in tokens[:length]))
        if verb is not None:
            return VerbAt(0, length, verb)
    return None


def _read_with(
    tokens: Sequence[Token], text: str, words: Lexicon, locale: Locale, known: Mapping[str, Any]
) -> tuple[TextReading, VerbAt] | None:
    reading = TextReading(text, words, locale, material_names(words.language, known), kitchen_words()["words"])
    verb = next((item for item in VerbFinder(words, reading.quantities).all(tokens) if item.start == 0 and item.name != "nothing"), None)
    found = _listed_verb(tokens)
    if found is not None and (verb is None or found.end >= verb.end):
        verb = found
    return (reading, verb) if verb is not None else None


def parse_step(text: str, known: Mapping[str, Any] | None = None, locale: Locale = "metric") -> Form:
    """Returns a typed step with its line of one step as people type it: "steep birch tips 9 g 25 min 72 C". Raises Refusal for a text that does not begin with
    a verb, and for one with several amounts.
    """
    tokens = tokens_of(text)
    materials = known or typical_materials()
    read = next((found for language in LANGUAGES if (found := _read_with(tokens, text, lexicon(language), locale, materials))), None)
    if read is None:
        raise Refusal(
            message("“{written}” does not begin with a verb", written=text.strip()),
            "text",
            remedy=message("Begin with what is done: steep, simmer, strain"),
            code="no_verb",
        )
    reading, verb = read
    action = told(reading, verb.name, 1, tokens, reading.quantities.all(tokens))
    action.word = " ".join(token.plain for token in tokens[: verb.end])
    name = verb_of(action, reading)
    step: Form = {"verb": name, "note": text.strip(), **params_of(action, name, reading)}
    line = _line(action, verb, reading) if VERBS[name].takes_lines else None
    if line is not None:
        step["lines"] = [line]
    return step


def _line(action: Action, verb: VerbAt, reading: TextReading) -> Form | None:
    """Returns the line of a typed step; None for a step that names nothing. Raises Refusal for more than one amount."""
    amounts = [q for q in action.quantities if q.kind in (*MEASURED, "vague") and q.start >= verb.end]
    if len(amounts) > 1:
        raise Refusal(
            message("There is more than one amount in “{written}”", written=reading.text.strip()),
            "text",
            message("a typed step puts one thing in"),
            message("Type it with one thing, and add the others to it"),
            "twice",
        )
    named = next((item for item in reading.names.mentions(action.tokens) if item.start >= verb.end and item.key), None)
    if named is None or named.key is None:
        return None
    return {"id": named.key, "material": named.key, "amount": _amount(amounts, action.tokens, reading, named.key)}


def _amount(amounts: Sequence[Quantity], tokens: Sequence[Token], reading: TextReading, key: str) -> Form:
    if not amounts:
        return {"kind": "fixed", "written": ""}
    quantity = amounts[0]
    if quantity.kind == "vague":
        return amount_form(of_vague(reading, key, quantity))
    return {"kind": "fixed", "written": reading.said(tokens, quantity)}
