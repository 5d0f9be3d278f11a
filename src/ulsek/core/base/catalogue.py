"""Catalogues: the templates of messages in other languages, one gettext file per language in ``data/messages``.

A language is added by its file there, which `bin/types` compiles, and by its words in ``data/vocabulary.json``; no code changes.
"""

from __future__ import annotations

import gettext
from functools import cache
from importlib.resources import files

DIRECTORY = files("ulsek.core") / "data" / "messages"
SOURCE_LANGUAGE = "en"
"""The language in which templates stand in the code."""
DECIMAL_MARK = ("decimal mark", ".")
"""Context and template under which a catalogue holds the decimal mark of its language."""


@cache
def languages() -> tuple[str, ...]:
    """Returns the codes (ISO 639-1) of the languages that can be rendered: the source language, then those with a compiled catalogue."""
    return (SOURCE_LANGUAGE, *sorted(item.name.removesuffix(".mo") for item in DIRECTORY.iterdir() if item.name.endswith(".mo")))


@cache
def catalogue(language: str) -> gettext.NullTranslations:
    """Returns the catalogue of a language; what it does not hold comes back in the source language. Raises LookupError for a language that has none."""
    if language == SOURCE_LANGUAGE:
        return gettext.NullTranslations()
    if language not in languages():
        raise LookupError(f"There is no catalogue for {language}; there are {', '.join(languages())}")
    with (DIRECTORY / f"{language}.mo").open("rb") as compiled:
        return gettext.GNUTranslations(compiled)


def decimal_mark(language: str) -> str:
    """Returns what stands before the decimals of a number in a language: "." in English, "," in Spanish."""
    return catalogue(language).pgettext(*DECIMAL_MARK)
