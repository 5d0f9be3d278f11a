"""Several drafts that were read from one text: their open questions as one list, each asked once, and its answer taken in all of them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ..base.messages import message
from ..base.refusals import Refusal
from .answers import SAME_CAUSE, answered
from .doubts import Form
from .several import MOST_RECIPES


@dataclass(frozen=True, slots=True)
class SharedQuestion:
    """A question that is open in some drafts: the words that the first one asks about, the words of its answers, and the drafts, by position."""

    key: str
    text: str
    question: str
    answers: tuple[str, ...]
    drafts: tuple[int, ...]


def shared_questions(bodies: Sequence[Mapping[str, Any]]) -> tuple[SharedQuestion, ...]:
    """Returns the open questions of several drafts, those in most drafts first. Raises Refusal for more than 60 drafts."""
    _check(bodies)
    found: dict[str, SharedQuestion] = {}
    for draft, body in enumerate(bodies):
        for doubt in _doubts(body):
            key = _key(doubt)
            before = found.get(key)
            drafts = tuple(dict.fromkeys((*(before.drafts if before else ()), draft)))
            text, question = str(doubt.get("text", "")), str(doubt.get("question", ""))
            found[key] = SharedQuestion(
                key,
                before.text if before else text,
                before.question if before else question,
                before.answers if before else _words(doubt),
                drafts,
            )
    return tuple(sorted(found.values(), key=lambda question: -len(question.drafts)))


def answered_together(bodies: Sequence[Mapping[str, Any]], key: str, answer: int | None) -> tuple[Form, ...]:
    """Returns the drafts with a shared question answered [position from 0], or left as it was read (None). Raises Refusal for a question that is not open
    any more, and for more than 60 drafts.
    """
    _check(bodies)
    if not any(_key(doubt) == key for body in bodies for doubt in _doubts(body)):
        raise Refusal(
            message("This question is not open any more"),
            "key",
            remedy=message("Look at the drafts as they are now"),
            code="unknown_reference",
        )
    return tuple(_answered(body, key, answer) for body in bodies)


def _answered(body: Mapping[str, Any], key: str, answer: int | None) -> Form:
    made = dict(body)
    if answer is None:
        left = [doubt for doubt in _doubts(made) if _key(doubt) != key]
        return {**{name: value for name, value in made.items() if name != "doubts"}, **({"doubts": left} if left else {})}
    while True:
        # A question without this answer stays: it is asked in its own draft.
        position = next(
            (
                at
                for at, doubt in enumerate(made.get("doubts") or ())
                if isinstance(doubt, dict) and _key(doubt) == key and len(_words(doubt)) > answer
            ),
            None,
        )
        if position is None:
            return made
        made = answered(made, position, answer)


def _doubts(body: Mapping[str, Any]) -> Iterator[Mapping[str, Any]]:
    doubts = body.get("doubts")
    yield from (doubt for doubt in (doubts if isinstance(doubts, list) else ()) if isinstance(doubt, dict))


def _words(doubt: Mapping[str, Any]) -> tuple[str, ...]:
    return tuple(str(answer.get("word", "")) for answer in doubt.get("answers") or () if isinstance(answer, dict))


def _key(doubt: Mapping[str, Any]) -> str:
    """Returns what is the same in doubts of one cause: their code where one answer settles all, else also the question and its answers."""
    code = str(doubt.get("code", ""))
    return code if code in SAME_CAUSE else "|".join((code, str(doubt.get("question", "")), *_words(doubt)))


def _check(bodies: Sequence[Mapping[str, Any]]) -> None:
    if len(bodies) > MOST_RECIPES:
        raise Refusal(message("Too many drafts at once"), "specs", message("at most {most}", most=MOST_RECIPES), code="too_long")
