"""Vocabulary: verbs, units, equipment and materials with their words, aliases and look-alikes, by language.

It is data in ``data/vocabulary.json``, used by parsing, search, checks and every generated sentence. A language is added by adding its words.
"""

from __future__ import annotations

import json
import re
import unicodedata
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib.resources import files
from typing import Any, Literal

from .catalogue import SOURCE_LANGUAGE, languages

Kind = Literal["families", "verbs", "verb_families", "params", "units", "gear", "materials"]
KINDS: tuple[Kind, ...] = ("verbs", "units", "gear", "materials")
"""What people search for; the other kinds are words of the screens and cards."""


@dataclass(frozen=True, slots=True)
class Found:
    """One meaning of a text: kind, key, the listed word, and the alias that matched."""

    kind: Kind
    key: str
    word: str
    matched: str


@dataclass(frozen=True, slots=True)
class Confusion:
    """Words that are mistaken for one another: why it matters and what to ask."""

    kind: str
    words: tuple[str, ...]
    why: str
    ask: str


@cache
def _data() -> Mapping[str, Any]:
    loaded: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "vocabulary.json").read_text(encoding="utf-8"))
    return loaded


@lru_cache(maxsize=4096)
def plain(text: str) -> str:
    """Returns a text for comparison: lower case, without accents, single spaces. “Ácido  Málico” is “acido malico”. Source: Unicode NFKD."""
    bare = "".join(letter for letter in unicodedata.normalize("NFKD", text.casefold()) if not unicodedata.combining(letter))
    return " ".join(bare.split())


def word(kind: Kind, key: str, language: str = SOURCE_LANGUAGE) -> str:
    """Returns the word for a key in a language; the English one if the language has none. Raises LookupError for a key that is not listed."""
    entry = _data()[kind].get(key)
    if entry is None:
        raise LookupError(f"“{key}” is not in the list of {kind}")
    return str((entry.get(language) or entry["en"])["word"])


def doing(verb: str, language: str = SOURCE_LANGUAGE) -> str:
    """Returns the word for what goes on in a vessel while a verb waits: “steeping”."""
    entry = _data()["verbs"][verb]
    return str((entry.get(language) or entry["en"]).get("doing") or word("verbs", verb, language).lower())


def keys(kind: Kind) -> tuple[str, ...]:
    """Returns every key of a kind, in the order of the list."""
    return tuple(_data()[kind])


def listed_word(kind: Kind, key: str, language: str) -> str | None:
    """Returns the word for a key; None for a key that is not listed, such as a house's own material."""
    return word(kind, key, language) if key in _data()[kind] else None


def aliases(kind: Kind, language: str = "") -> Mapping[str, str]:
    """Returns every word and alias of a kind, normalised by `plain`, with its key: in one language, else in every language."""
    return _aliases(kind, language)


@cache
def _aliases(kind: Kind, only: str) -> dict[str, str]:
    found: dict[str, str] = {}
    for key, entry in _data()[kind].items():
        names = [key.replace("_", " ")]
        for language in (only,) if only else languages():
            names += [entry[language]["word"], *entry[language]["aliases"]] if language in entry else []
        for name in names:
            found.setdefault(plain(name), key)
    return found


def find(text: str, kinds: tuple[Kind, ...] = KINDS) -> tuple[Found, ...]:
    """Returns the possible meanings of a text: exact matches first, then words that begin with it, then words that contain it; at most twenty."""
    wanted = plain(text)
    if not wanted:
        return ()
    ranked: list[tuple[int, int, Found]] = []
    for kind in kinds:
        best: dict[str, tuple[int, int, str]] = {}
        for name, key in aliases(kind).items():
            rank = 0 if name == wanted else 1 if name.startswith(wanted) else 2 if wanted in name else 3
            if rank < 3 and (key not in best or (rank, len(name)) < best[key][:2]):
                best[key] = (rank, len(name), name)
        ranked += [(rank, size, Found(kind, key, word(kind, key), name)) for key, (rank, size, name) in best.items()]
    return tuple(found for _, _, found in sorted(ranked, key=lambda item: (item[0], item[1], item[2].key))[:20])


@cache
def confusions() -> tuple[Confusion, ...]:
    """Returns every pair of words that are mistaken for one another."""
    return tuple(Confusion(item["kind"], tuple(item["words"]), item["why"], item["ask"]) for item in _data()["confusions"])


def confused_with(text: str) -> Iterator[Confusion]:
    """Yields what a word or material key may be mistaken for."""
    wanted = plain(text.replace("_", " "))
    for item in confusions():
        if any(plain(name.replace("_", " ")) == wanted for name in item.words):
            yield item


@cache
def _every_name() -> re.Pattern[str]:
    """Returns all words for materials as one pattern, the longest first, so that “bergamot zest” is not read as “bergamot”."""
    words = sorted((word for word in aliases("materials") if len(word) > 3), key=len, reverse=True)
    return re.compile(rf"\b(?:{'|'.join(map(re.escape, words))})(?:s|es)?\b")


_GEAR_OF = re.compile(
    r"\b(?:(?:coffee|paper) filters?|coffee (?:grinder|maker)|nut(?: milk)? bags?|tea (?:towel|strainer|ball|infuser|bag)s?|ice bath|citrus (?:press|juicer)|lemon squeezer|wine glass|butter muslin|egg whisk)\b"
)
"""Tools that are called after what goes through them."""


def materials_named(text: str) -> list[tuple[str, str]]:
    """Returns (word, material) for every material that a sentence names, in its order."""
    table = aliases("materials")
    found = []
    for match in _every_name().finditer(_GEAR_OF.sub(" ", plain(text))):
        word = next(word for word in (match[0], match[0][:-1], match[0][:-2]) if word in table)
        found.append((word, table[word]))
    return found
