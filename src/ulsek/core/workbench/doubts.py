"""A draft that was read from a text: its open questions, each with what every answer would make of the product, and its claims beside what it comes to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..base.figures import FIGURES, quantity
from ..base.messages import NOTHING, Computed, Message, message, verbatim
from ..base.refusals import Refusal
from ..evaluation.evaluate import Evaluation
from ..recipe_text.answers import answered
from .answer import Workbench, draft_evaluated, workbench
from .house import House
from .questions import SpecForm

_MOST_TRIED = 60
"""Answers that are tried in one draft [count]: each is a pass through the steps."""
_LEAST = {"brix": 0.1, "acid_g_100ml": 0.01, "abv": 0.1}
"""Least differences that are worth saying of an answer [°Bx, g/100 mL, % vol]; for the volume the share of it below. House experience."""
_LEAST_SHARE = 0.01


@dataclass(frozen=True, slots=True)
class AnswerEffect:
    """An answer to an open question: its words, and the figure of the product that it moves most for its size, as it would be then; empty for one that moves nothing, or that
    was not tried.
    """

    word: str
    then: Message


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
    return ReadDraft(workbench(evaluation, house.measures), _questions(house, body, evaluation))


def draft_questions(house: House, body: Mapping[str, Any]) -> tuple[OpenQuestion, ...]:
    """Returns the open questions of a draft with the effect of every answer; at most 60 answers are tried. Raises Refusal for what is no spec file."""
    return _questions(house, body, draft_evaluated(house, body))


def _questions(house: House, body: Mapping[str, Any], evaluation: Evaluation) -> tuple[OpenQuestion, ...]:
    now = _product(evaluation)
    found: list[OpenQuestion] = []
    tried = 0
    doubts = body.get("doubts")
    for position, doubt in enumerate(doubts if isinstance(doubts, list) else ()):
        if not isinstance(doubt, dict):
            continue
        effects: list[AnswerEffect] = []
        for number, answer in enumerate(doubt.get("answers") or ()):
            tried += 1
            then = _tried(house, body, position, number) if tried <= _MOST_TRIED else {}
            effects.append(AnswerEffect(str(answer.get("word", "")), _moved_most(now, then)))
        at, code, text, question = (str(doubt.get(name, "")) for name in ("at", "code", "text", "question"))
        found.append(OpenQuestion(position, at, code, text, question, tuple(effects)))
    return tuple(found)


def _product(evaluation: Evaluation) -> Mapping[str, float]:
    return evaluation.figures[evaluation.last] if evaluation.last is not None else {}


def _tried(house: House, body: Mapping[str, Any], position: int, answer: int) -> Mapping[str, float]:
    """Returns the figures of the product with an answer taken; none where it cannot be made then."""
    try:
        return _product(draft_evaluated(house, answered(body, position, answer)))
    except Refusal:
        return {}


def _moved_most(now: Mapping[str, float], then: Mapping[str, float]) -> Message:
    """Returns the figure that moves most for its size, as it is then; empty where none moves by so much that it is worth saying."""
    volume = now.get("volume_ml", 0.0)
    moved = {
        name: abs(then[name] - now.get(name, 0.0)) / max(abs(now.get(name, 0.0)), least)
        for name, least in {**_LEAST, "volume_ml": _LEAST_SHARE * volume}.items()
        if name in then and least and abs(then[name] - now.get(name, 0.0)) >= least
    }
    if not moved:
        return NOTHING
    most = max(moved, key=lambda name: moved[name])
    if most == "acid_g_100ml":
        return message("acid {acid}", acid=Computed(then[most], "", FIGURES[most].decimals))
    return verbatim(quantity(most, then[most]))


def draft_answered(body: Mapping[str, Any], position: int, answer: int) -> SpecForm:
    """Returns the draft with an answer taken [positions from 0]. Raises Refusal for a question that is not open any more."""
    return SpecForm(answered(body, position, answer))
