"""The verbs as data: what a screen, a card or another program needs to offer them, without a rule of its own."""

from __future__ import annotations

import dataclasses
from typing import Any

from ..base import vocabulary
from ..base.ranges import Range
from ..operations.catalogue import VERBS
from ..operations.step import ChoiceParam, FlagParam, NumberParam, Param, RangeParam, Step


def _kind(param: Param) -> str:
    if isinstance(param, NumberParam):
        return "number"
    if isinstance(param, RangeParam):
        return "range"
    return "choice" if isinstance(param, ChoiceParam) else "flag" if isinstance(param, FlagParam) else "text"


def _param(name: str, param: Param, default: Any, language: str) -> dict[str, Any]:
    usual = default.as_data() if isinstance(default, Range) else default
    return {
        "name": name,
        "label": vocabulary.word("params", name, language),
        "kind": _kind(param),
        "unit": getattr(param, "unit", ""),
        "words": getattr(param, "words", ""),
        "allowed": list(getattr(param, "allowed", ())),
        "usual": usual if isinstance(usual, dict) else {"value": usual},
    }


def _verb(kind: type[Step], language: str) -> dict[str, Any]:
    defaults = {field.name: field.default for field in dataclasses.fields(kind)}
    return {
        "verb": kind.verb,
        "family": kind.family,
        "family_word": vocabulary.word("verb_families", kind.family, language),
        "word": vocabulary.word("verbs", kind.verb, language),
        "about": (kind.__doc__ or "").strip().splitlines()[0],
        "takes_lines": kind.takes_lines,
        "check": kind.usual_check,
        "gear": list(kind.usual_gear),
        "params": [_param(name, param, defaults[name], language) for name, param in kind.params().items()],
    }


def word_sheet(language: str = "en") -> dict[str, Any]:
    """Families of ingredients, and every verb with its words and parameters, in the order in which makers work."""
    families = [{"key": key, "word": vocabulary.word("families", key, language)} for key in vocabulary.keys("families")]
    return {"families": families, "verbs": [_verb(kind, language) for kind in VERBS.values()]}
