"""A draft that was read from a text: its open questions, each with what every answer would make of the product, and its claims beside what it comes to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..base.refusals import Refusal
from ..recipe_text.answers import answered
from .answer import Workbench, draft_evaluated, workbench
from .house import House
from .questions import SpecForm

_MOST_TRIED = 60
"""Answers that are tried in one draft [count]: each is a pass through the steps."""


@dataclass(frozen=True, slots=True)
class AnswerEffect:
    """An answer to an open question, and the product with it: °Bx, acid [g/100 mL] and volume [mL]; None where nothing is made, or it was not tried."""

    word: str
    brix: float | None
    acid_g_100ml: float | None
    volume_ml: float | None


@dataclass(frozen=True, slots=True)
class OpenQuestion:
    """A doubt that is open in a draft, by its position there: the line or step that it is about, its words, the question, and the answers."""

    position: int
    at: str
    code: str
    text: str
    question: str
    answers: tuple[AnswerEffect, ...]


@dataclass(frozen=True, slots=True)
class ReadDraft:
    """A draft read from a text, as it is shown before it is kept: all that the workbench shows, and its open questions."""

    workbench: Workbench
    questions: tuple[OpenQuestion, ...]


def read_draft(house: House, body: Mapping[str, Any]) -> ReadDraft:
    """Returns everything that is shown of a draft that was read. Raises Refusal for what is no spec file."""
    evaluation = draft_evaluated(house, body)
    return ReadDraft(workbench(evaluation, house.measures), draft_questions(house, body))


def draft_questions(house: House, body: Mapping[str, Any]) -> tuple[OpenQuestion, ...]:
    """Returns the open questions of a draft with the effect of every answer; at most 60 answers are tried. Raises Refusal for what is no spec file."""
    found: list[OpenQuestion] = []
    tried = 0
    doubts = body.get("doubts")
    for position, doubt in enumerate(doubts if isinstance(doubts, list) else ()):
        if not isinstance(doubt, dict):
            continue
        effects: list[AnswerEffect] = []
        for number, answer in enumerate(doubt.get("answers") or ()):
            tried += 1
            word = str(answer.get("word", ""))
            effects.append(_effect(house, body, position, number, word) if tried <= _MOST_TRIED else AnswerEffect(word, None, None, None))
        at, code, text, question = (str(doubt.get(name, "")) for name in ("at", "code", "text", "question"))
        found.append(OpenQuestion(position, at, code, text, question, tuple(effects)))
    return tuple(found)


def _effect(house: House, body: Mapping[str, Any], position: int, number: int, word: str) -> AnswerEffect:
    try:
        done = draft_evaluated(house, answered(body, position, number))
    except Refusal:
        return AnswerEffect(word, None, None, None)
    if done.last is None:
        return AnswerEffect(word, None, None, None)
    figures = done.figures[done.last]
    return AnswerEffect(word, figures.get("brix"), figures.get("acid_g_100ml"), figures.get("volume_ml"))


def draft_answered(body: Mapping[str, Any], position: int, answer: int) -> SpecForm:
    """Returns the draft with an answer taken [positions from 0]. Raises Refusal for a question that is not open any more."""
    return SpecForm(answered(body, position, answer))
