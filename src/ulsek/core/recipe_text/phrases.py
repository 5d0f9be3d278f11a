"""Phrases of a text, each with what was taken from it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

PhraseKind = Literal["line", "step", "claim", "title", "note"]


@dataclass(frozen=True, slots=True)
class TextPhrase:
    """A phrase of the text [letters from `start` to `end`] and what was taken from it: a line or step of the draft, by id, a claim, the title; a note was kept only."""

    start: int
    end: int
    kind: PhraseKind
    at: str = ""
