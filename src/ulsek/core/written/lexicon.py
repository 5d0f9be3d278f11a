"""The words of one language that a reader needs, from ``data/reading``, in the form in which tokens are compared."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.vocabulary import plain
from .tokens import Token, tokens_of

LANGUAGES = ("en", "es", "fr", "de", "it")
"""Languages whose recipes are read."""


class Phrases:
    """Phrases of one or more words, each with a value; the longest that begins at a token is found. Words are compared in the singular."""

    def __init__(self, entries: Iterable[tuple[str, Any]]) -> None:
        self._by_first: dict[str, list[tuple[tuple[str, ...], Any]]] = {}
        for text, value in entries:
            words = tuple(token.stem for token in tokens_of(text))
            if words:
                self._by_first.setdefault(words[0], []).append((words, value))
        for found in self._by_first.values():
            found.sort(key=lambda entry: -len(entry[0]))

    @property
    def first_words(self) -> frozenset[str]:
        """The first word of every phrase, in the singular."""
        return frozenset(self._by_first)

    def at(self, tokens: Sequence[Token], position: int) -> tuple[int, Any] | None:
        """Returns (number of tokens, value) of the longest phrase that begins at a position; None if there is none."""
        if position >= len(tokens):
            return None
        for words, value in self._by_first.get(tokens[position].stem, ()):
            length = len(words)
            if length == 1:
                return 1, value
            if position + length <= len(tokens) and all(
                tokens[position + n].stem == word or tokens[position + n].plain == word for n, word in enumerate(words)
            ):
                return length, value
        return None

    def within(self, tokens: Sequence[Token]) -> tuple[int, int, Any] | None:
        """Returns (position, number of tokens, value) of the first phrase in a list of tokens; None if there is none."""
        for position, token in enumerate(tokens):
            if token.stem in self._by_first:
                found = self.at(tokens, position)
                if found:
                    return position, *found
        return None


@dataclass(frozen=True, slots=True)
class Lexicon:
    """The words of one language. `data` is its file; `phrases` and `words` are its sections in the form that is compared with tokens.

    `slips` maps each verb of one word, and its forms without one letter, to (verb, verb of a step). `gerunds` maps each gerund to its verb; it is empty in
    languages without gerunds.
    """

    language: str
    data: Mapping[str, Any]
    phrases: Mapping[str, Phrases]
    words: Mapping[str, frozenset[str]]
    slips: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    gerunds: Mapping[str, str] = field(default_factory=dict)

    def meant_verb(self, word: str) -> str | None:
        """Returns the verb that a misspelt word means: one letter wrong, missing or too many, or two transposed, as in “botle”. None if no verb is so near."""
        if not _SHORTEST_SLIP <= len(word) <= _LONGEST_SLIP:
            return None
        for verb, name in filter(None, (self.slips.get(less) for less in _one_letter_less(word))):
            # Another ending is another form of a word, no slip.
            if verb[0] == word[0] and (verb[-2:] == word[-2:] or sorted(verb) == sorted(word)):
                return name
        return None

    def at(self, section: str, tokens: Sequence[Token], position: int) -> tuple[int, Any] | None:
        """Returns (number of tokens, value) of the longest phrase of a section at a position."""
        return self.phrases[section].at(tokens, position)

    def first_words(self, sections: Iterable[str]) -> frozenset[str]:
        """Returns the first word of every phrase of some sections, in the singular."""
        return frozenset[str]().union(*(self.phrases[section].first_words for section in sections))

    def says(self, section: str, tokens: Sequence[Token]) -> bool:
        """Returns True if any phrase of a section is among the tokens."""
        return self.phrases[section].within(tokens) is not None


_LISTS = ("about", "language", "pronouns_after")
_SHORTEST_VERB, _SHORTEST_SLIP, _LONGEST_SLIP = 6, 5, 16
"""Shortest verb, and shortest and longest misspelt word, that are compared [letters]. Shorter words are similar to too many others."""


def _one_letter_less(word: str) -> tuple[str, ...]:
    """Returns a word and its forms without one letter. Two words share one of them if they differ by one letter or by one transposition."""
    return (word, *(word[:at] + word[at + 1 :] for at in range(len(word))))


def _gerunds(verb: str, ending: str) -> tuple[str, ...]:
    """Returns the possible gerunds of a verb: verb + ending, without a final “e” (dissolving), with the last letter doubled (stirring)."""
    return (verb + ending, verb.removesuffix("e") + ending, verb + verb[-1] + ending)


def _entries(value: Any) -> list[tuple[str, Any]]:
    if isinstance(value, list):
        return [(text, text) for text in value]
    found: list[tuple[str, Any]] = []
    for key, item in value.items():
        if isinstance(item, list) and item and isinstance(item[0], str):
            found += [(text, key) for text in item]
        else:
            found.append((key, item))
    return found


def _with_pronouns(text: str, rules: Sequence[Mapping[str, Any]]) -> list[str]:
    """Returns the forms of a verb that carry what they act on at their end, in a language that has them: “colar” is “colarlo”, “frulla” is “frullale”.

    A rule with `alone` is for verbs of one word.
    """
    first, _, others = text.partition(" ")
    fitting = [rule for rule in rules if first.endswith(tuple(rule["endings"])) and not (others and rule.get("alone"))]
    return [f"{first[: len(first) - int(rule['dropped'])]}{pronoun} {others}".strip() for rule in fitting for pronoun in rule["pronouns"]]


@cache
def lexicon(language: str) -> Lexicon:
    """Returns the words of a language. Raises LookupError for a language that is not read."""
    if language not in LANGUAGES:
        raise LookupError(language)
    data: dict[str, Any] = json.loads((files("ulsek.core") / "data" / "reading" / f"{language}.json").read_text(encoding="utf-8"))
    sections = (
        {name: _entries(data.get(name, [])) for name in (*lexicon(LANGUAGES[0]).data, *data) if name not in _LISTS}
        if language != LANGUAGES[0]
        else {name: _entries(value) for name, value in data.items() if name not in _LISTS}
    )
    for section in ("verbs", "cover_words"):
        told = sections[section]
        sections[section] = told + [(said, key) for text, key in told for said in _with_pronouns(text, data.get("pronouns_after", []))]
    # What a group word or a material stands for is a key of its own, not a list of further words.
    sections["group_words"] = list(data.get("group_words", {}).items())
    verbs = [(word, str(verb)) for text, verb in sections["verbs"] if " " not in (word := plain(text)) and len(word) >= _SHORTEST_VERB]
    endings = data.get("gerund_ending", [])
    return Lexicon(
        language,
        data,
        {name: Phrases(entries) for name, entries in sections.items()},
        {name: frozenset(word for text, _ in entries for word in (plain(text),)) for name, entries in sections.items()},
        {less: (word, verb) for word, verb in verbs for less in _one_letter_less(word)},
        {
            form: word
            for text, _ in sections["verbs"]
            if " " not in (word := plain(text))
            for ending in endings
            for form in _gerunds(word, ending)
        },
    )
