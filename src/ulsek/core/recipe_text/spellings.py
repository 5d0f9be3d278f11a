"""Names of the materials that ship: all spellings in a language, similar names for misspelt words, and keys of the parts of fruits."""

from __future__ import annotations

import difflib
import re
from collections.abc import Container, Mapping, Sequence
from functools import cache, lru_cache

from ..base.vocabulary import aliases, plain
from ..written.lexicon import Phrases, lexicon
from ..written.tokens import Token, stem

_LONGEST_TYPO, _LEAST_TYPO, _NEAR = 24, 4, 0.82
"""Letters of a word that may be a slip of the pen, at most and at least, and how alike the right one must be [0 to 1]."""
_LEAST_SHORT, _MOST_SHORT, _MOST_NEAR = 3, 8, 3
"""Letters of a shortened word, at least and at most, and how many materials are offered for it [count]."""
PARTS = ("zest", "peel", "juice", "white")
"""Parts that are materials of their own."""


def near_names(words: Sequence[Token], language: str, known: Container[str], part: str, *, alone: bool) -> tuple[str, ...]:
    """Returns the keys of the known materials that abbreviated or misspelt words may mean, likeliest first: “ging”, “watre”, “gngr”.

    `words` exclude adjectives; `part` is a part of a fruit or ""; `alone`: the row has no other words. () if no name is similar.
    """
    spelled = _spelled_like(words, language, known)
    # “Ging” is the beginning of ginger before it is a slip for gin.
    begun = _begun(words, language, known) if alone else ()
    return (tuple(dict.fromkeys((*begun, *spelled)))[:_MOST_NEAR] if begun else spelled) or shortened(words, language, known, part)


def _spelled_like(words: Sequence[Token], language: str, known: Container[str]) -> tuple[str, ...]:
    said = " ".join([*(token.plain for token in words[:-1]), *(token.stem for token in words[-1:])])
    if not _LEAST_TYPO <= len(said) <= _LONGEST_TYPO:
        return ()
    # Only names of about this length with the same first letters are compared: a text may hold hundreds of strange words.
    alike = [name for name in _by_letters(language).get(_first_letters(said), ()) if abs(len(name) - len(said)) <= 2]
    # “Watre” has two letters in each other's place, “suger” another one.
    turned = [name for name in alike if len(name) == len(said) and (_turned(name, said) or _one_other(name, said))]
    near = [*turned, *difflib.get_close_matches(said, alike, n=_MOST_NEAR, cutoff=_NEAR)][:_MOST_NEAR]
    return _keys(near, language, known)


def _begun(words: Sequence[Token], language: str, known: Container[str]) -> tuple[str, ...]:
    if len(words) != 1 or not _LEAST_TYPO <= len(words[0].plain) <= _MOST_SHORT:
        return ()
    names = _by_first_letter(language).get(words[0].plain[0], ())
    return _keys(sorted(name for name in names if name.startswith(words[0].plain)), language, known)


def shortened(words: Sequence[Token], language: str, known: Container[str], part: str) -> tuple[str, ...]:
    """Returns the keys of the known materials whose name begins with a word or has the same consonants: “sug”, “gngr”. () if there are none."""
    words = [token for token in words if token.plain not in lexicon(language).words["part_words"]]
    if len(words) != 1 or not _LEAST_SHORT <= len(words[0].stem) <= _MOST_SHORT:
        return ()
    said, bones = words[0].plain, _consonants(words[0].plain)
    names = [
        name
        for name in _by_first_letter(language).get(said[0], ())
        if name.startswith((said, words[0].stem)) or (bones == said and _consonants(name) == bones)
    ]
    found = _keys(sorted(names, key=lambda name: (len(name), name)), language, known)
    of_part = [key for key in (part_key(key, part, known) for key in found) if key] if part else []
    return tuple(dict.fromkeys(of_part or found))[:_MOST_NEAR]


def _keys(names: Sequence[str], language: str, known: Container[str]) -> tuple[str, ...]:
    spellings = shipped_names(language)[1]
    return tuple(dict.fromkeys(spellings[name] for name in names if spellings[name] in known))


def part_key(key: str, part: str, known: Container[str]) -> str | None:
    """Returns the key of a part of a fruit: zest, peel or juice; a fruit's whole for its flesh. None if there is no such material."""
    base = re.sub(r"_(?:juice|zest|peel)$", "", key)
    if part in PARTS:
        return next((name for name in (f"{base}_{part}", f"{base}_zest" if part == "peel" else f"{base}_peel") if name in known), None)
    return base if base in known else None


def fruit_of(key: str, known: Container[str]) -> str | None:
    """Returns the whole fruit that a juice, zest or peel comes from; None if it comes from none."""
    base = re.sub(r"_(?:juice|zest|peel)$", "", key)
    return base if base != key and base in known else None


@lru_cache(maxsize=8)
def shipped_names(language: str) -> tuple[Phrases, Mapping[str, str]]:
    """Returns the names of the materials that ship, in a language: as phrases, and each with its key."""
    words = lexicon(language)
    entries: dict[str, str] = {}
    entries.update({plain(text): key for text, key in words.data.get("materials", {}).items()})
    for name, key in aliases("materials", language).items():
        entries.setdefault(name, key)
        # “Lime, whole” and “Neutral spirit, 60 %” are called by what stands before the comma as well.
        entries.setdefault(name.split(",")[0].strip(), key)
    if language != "en":
        for text, key in lexicon("en").data["materials"].items():
            entries.setdefault(plain(text), key)
    return Phrases(entries.items()), entries


@cache
def short_names(language: str) -> Mapping[str, frozenset[str]]:
    """Returns the names of one word of each material, in the singular."""
    found: dict[str, set[str]] = {}
    for name, key in shipped_names(language)[1].items():
        if " " not in name:
            found.setdefault(key, set()).add(stem(name))
    return {key: frozenset(names) for key, names in found.items()}


def _turned(one: str, other: str) -> bool:
    """Returns True if two words of equal length differ by one transposition of neighbouring letters."""
    apart = [at for at, (a, b) in enumerate(zip(one, other, strict=True)) if a != b]
    return len(apart) == 2 and apart[1] == apart[0] + 1 and one[apart[0]] == other[apart[1]] and one[apart[1]] == other[apart[0]]


def _one_other(one: str, other: str) -> bool:
    """Returns True if two words of equal length, five letters or more, differ by one letter that is neither the first nor the last."""
    apart = [at for at, (a, b) in enumerate(zip(one, other, strict=True)) if a != b]
    return len(one) > _LEAST_TYPO and len(apart) == 1 and 0 < apart[0] < len(one) - 1


@cache
def _by_first_letter(language: str) -> Mapping[str, tuple[str, ...]]:
    """Names of one word, by their first letter."""
    found: dict[str, tuple[str, ...]] = {}
    for name in shipped_names(language)[1]:
        if name and " " not in name:
            found[name[0]] = (*found.get(name[0], ()), name)
    return found


def _consonants(word: str) -> str:
    return "".join(letter for letter in word if letter not in "aeiouy")


@cache
def _by_letters(language: str) -> Mapping[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for name in shipped_names(language)[1]:
        found[_first_letters(name)] = (*found.get(_first_letters(name), ()), name)
    return found


def _first_letters(text: str) -> str:
    # A slip of the pen keeps the first letter: “simple syrup” is no maple syrup.
    return "".join(word[0] for word in text.split())
