"""The language of a text: one of those that are read, or another one, which is named."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.messages import message
from ..base.refusals import Refusal
from ..base.vocabulary import plain
from ..written.lexicon import LANGUAGES, lexicon
from ..written.tokens import Token

_BEYOND_LATIN = re.compile("[\u0370-\uffff]")
_LOOKED_AT = 400
"""Words that are looked at [count]: a recipe says soon which language it is in."""
_ENOUGH, _AHEAD = 3, 1.5
"""Hits that another language needs at least, and how many times those of a language that is read."""
_SURE = 2
"""Hits from which a language other than English is believed where English words stand as well."""
_LEAST_LETTERS = 0.3
"""Share of letters in another script from which a text is in that script."""


@cache
def _others() -> Mapping[str, Any]:
    loaded: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "reading" / "other_languages.json").read_text(encoding="utf-8"))
    return loaded


def language_of(text: str, tokens: list[Token]) -> str:
    """Returns the language of a text, English where nothing tells. Raises Refusal, naming it, for a language that is not read."""
    script = _script(text)
    if script:
        raise _unread(script)
    # Each word counts once: “dem” for demerara stands on every line of a bar's notes.
    words = {token.plain for token in tokens[:_LOOKED_AT] if token.kind == "word"}
    hits = {language: len(words & _marks(language)) for language in LANGUAGES}
    best = max(LANGUAGES, key=lambda language: (hits[language], language == LANGUAGES[0]))
    more = len(words & _taught(LANGUAGES[0])) > len(words & _taught(best))
    if (hits[best] < _SURE and (hits[LANGUAGES[0]] or more)) or (hits[best] - hits[LANGUAGES[0]] < _SURE and more):
        # “400 g dem, all in, press, btl”: a word or two of German among more of English.
        best = LANGUAGES[0]
    others = {name: len(words & marks) for name, marks in _marks_of_others().items()}
    other = max(others, key=lambda name: others[name])
    if others[other] >= _ENOUGH and others[other] > _AHEAD * hits[best]:
        raise _unread(other)
    return best


@cache
def _marks(language: str) -> frozenset[str]:
    return frozenset(plain(word) for word in lexicon(language).data["marks_language"])


@cache
def _taught(language: str) -> frozenset[str]:
    """Words of one language that its verbs and materials are called by."""
    data = lexicon(language).data
    return frozenset(plain(word) for section in (*data["verbs"].values(), data["materials"]) for word in section)


@cache
def _marks_of_others() -> Mapping[str, frozenset[str]]:
    return {name: frozenset(plain(word) for word in words) for name, words in _others()["languages"].items()}


def _script(text: str) -> str:
    """Returns the language or script of letters that are not Latin; "" where most are."""
    if not _BEYOND_LATIN.search(text, 0, 4000):
        return ""
    letters = [letter for letter in text[:4000] if letter.isalpha()]
    for name, low, high in _others()["scripts"]:
        count = sum(int(low, 16) <= ord(letter) <= int(high, 16) for letter in letters)
        if letters and count >= _LEAST_LETTERS * len(letters):
            return str(name)
    return ""


def _unread(name: str) -> Refusal:
    return Refusal(
        message("This looks like {language}, which is not read here", language=name),
        "text",
        message("English, Spanish, French, German and Italian are read"),
        message("Paste it in one of these"),
        "unread_language",
    )
