"""The verbs as data: what a screen, a card or another program needs to offer them."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from typing import Any, Literal

from ..base import vocabulary
from ..base.messages import Message
from ..base.ranges import Range
from ..operations.catalogue import VERBS
from ..operations.step import ChoiceParam, FlagParam, NumberParam, Param, RangeParam, Step


@dataclass(frozen=True, slots=True, kw_only=True)
class NumberSheet:
    """A number of a verb, in its unit; `usual` is its default, None if it is optional; `words` is the text of its bounds."""

    kind: Literal["number"] = "number"
    name: str
    label: str
    unit: str
    words: Message
    usual: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class RangeSheet:
    """A process figure of a verb, in its unit; `usual` is the starting value, None if it is only given when it is known better than the model computes it."""

    kind: Literal["range"] = "range"
    name: str
    label: str
    unit: str
    usual: Range | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ChoiceSheet:
    """One of a few words."""

    kind: Literal["choice"] = "choice"
    name: str
    label: str
    allowed: tuple[str, ...]
    usual: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FlagSheet:
    """Yes or no."""

    kind: Literal["flag"] = "flag"
    name: str
    label: str
    usual: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class TextSheet:
    """A text in people's own words."""

    kind: Literal["text"] = "text"
    name: str
    label: str
    usual: str


ParamSheet = NumberSheet | RangeSheet | ChoiceSheet | FlagSheet | TextSheet


@dataclass(frozen=True, slots=True)
class VerbSheet:
    """A verb with its words and its parameters."""

    verb: str
    family: str
    family_word: str
    word: str
    about: str
    takes_lines: bool
    check: str
    gear: tuple[str, ...]
    params: tuple[ParamSheet, ...]


@dataclass(frozen=True, slots=True)
class FamilySheet:
    """A family of ingredients and its word."""

    key: str
    word: str


@dataclass(frozen=True, slots=True)
class WordSheet:
    """The words that screens offer: families of ingredients, and verbs in the order of work."""

    families: tuple[FamilySheet, ...]
    verbs: tuple[VerbSheet, ...]


def _param(name: str, param: Param, usual: Any, language: str) -> ParamSheet:
    label = vocabulary.word("params", name, language)
    if isinstance(param, NumberParam):
        return NumberSheet(name=name, label=label, unit=param.unit, words=param.words, usual=usual)
    if isinstance(param, RangeParam):
        return RangeSheet(name=name, label=label, unit=param.unit, usual=usual)
    if isinstance(param, ChoiceParam):
        return ChoiceSheet(name=name, label=label, allowed=param.allowed, usual=usual)
    if isinstance(param, FlagParam):
        return FlagSheet(name=name, label=label, usual=usual)
    return TextSheet(name=name, label=label, usual=usual)


def _verb(kind: type[Step], language: str) -> VerbSheet:
    defaults = {field.name: field.default for field in dataclasses.fields(kind)}
    return VerbSheet(
        kind.verb,
        kind.family,
        vocabulary.word("verb_families", kind.family, language),
        vocabulary.word("verbs", kind.verb, language),
        (kind.__doc__ or "").strip().splitlines()[0],
        kind.takes_lines,
        kind.usual_check,
        kind.usual_gear,
        tuple(_param(name, param, defaults[name], language) for name, param in kind.params().items()),
    )


def word_sheet(language: str = "en") -> WordSheet:
    """Returns the families of ingredients, and every verb with its words and parameters."""
    families = (FamilySheet(key, vocabulary.word("families", key, language)) for key in vocabulary.keys("families"))
    return WordSheet(tuple(families), tuple(_verb(kind, language) for kind in VERBS.values()))
