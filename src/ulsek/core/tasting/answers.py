"""Answers of a taster: what a page takes, and what an answer says once the key is known."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ..base.figures import SCORE
from ..base.free_text import free_text
from ..base.messages import Given, Message, listed, message
from ..base.refusals import Refusal
from .design import SheetPage
from .methods import LEAST_MARK, MOST_MARK, PageKind

Answer = Mapping[str, Any]
"""``{"code"}``, ``{"same"}``, ``{"order"}``, ``{"score"}`` or ``{"marks"}``, each with an optional ``"word"``; by the kind of its page."""
MOST_WORD = 200


@dataclass(frozen=True, slots=True)
class Answered:
    """A page that was answered, with its answer in the plain form that `checked_answer` returns."""

    page: SheetPage
    answer: Answer


def checked_answer(asks: PageKind, codes: Sequence[str], attributes: Sequence[str], given: Mapping[str, Any]) -> Answer:
    """Returns an answer to a page in its plain form, with the taster's own word if there is one.

    Raises Refusal, at its place, for a glass that does not stand there, an order that leaves one out, a score or a mark out of bounds, and a missing answer.
    """
    word = free_text(given.get("word"), "word", MOST_WORD)
    said = _READ[asks](codes, attributes, given)
    return {**said, **({"word": word} if word else {})}


def _wrong(where: str, bound: Message) -> Refusal:
    return Refusal(message("That is no answer to these glasses"), where, bound, code="unreadable")


def _glass(codes: Sequence[str], _attributes: Sequence[str], given: Mapping[str, Any]) -> Answer:
    code = given.get("code")
    if code not in codes:
        raise _wrong("code", message("one of {codes}", codes=listed(codes, "comma")))
    return {"code": code}


def _same(_codes: Sequence[str], _attributes: Sequence[str], given: Mapping[str, Any]) -> Answer:
    if not isinstance(given.get("same"), bool):
        raise _wrong("same", message("the same, or different"))
    return {"same": given["same"]}


def _order(codes: Sequence[str], _attributes: Sequence[str], given: Mapping[str, Any]) -> Answer:
    order = given.get("order")
    if not isinstance(order, list | tuple) or sorted(map(str, order)) != sorted(codes):
        raise _wrong("order", message("each of {codes} once", codes=listed(codes, "comma")))
    return {"order": [str(code) for code in order]}


def _score(_codes: Sequence[str], _attributes: Sequence[str], given: Mapping[str, Any]) -> Answer:
    score = given.get("score")
    if isinstance(score, bool) or not isinstance(score, int | float):
        raise _wrong("score", message("a number"))
    if not SCORE.low <= score <= SCORE.high:
        raise Refusal(message("{score} is no score", score=Given(score)), "score", SCORE.words, code="out_of_bounds")
    return {"score": round(float(score), 2)}


def _marks(_codes: Sequence[str], attributes: Sequence[str], given: Mapping[str, Any]) -> Answer:
    marks = given.get("marks")
    if not isinstance(marks, Mapping) or set(marks) != set(attributes):
        raise _wrong("marks", message("a mark for each of {names}", names=listed(attributes, "comma")))
    for key in attributes:
        mark = marks[key]
        if isinstance(mark, bool) or not isinstance(mark, int) or not LEAST_MARK <= mark <= MOST_MARK:
            raise _wrong(f"marks/{key}", message("{least} to {most}", least=LEAST_MARK, most=MOST_MARK))
    return {"marks": {key: marks[key] for key in attributes}}


_READ = {"odd": _glass, "same": _same, "preferred": _glass, "ranking": _order, "liking": _score, "attributes": _marks}


def is_right(page: SheetPage, answer: Answer) -> bool:
    """Returns True if an answer names the odd glass, or says rightly whether two are the same. Raises ValueError for a page without a right answer."""
    if page.asks == "odd":
        odd = next(place for place, sample in enumerate(page.samples) if page.samples.count(sample) == 1)
        return bool(answer["code"] == page.codes[odd])
    if page.asks == "same":
        return bool(answer["same"] == (len(set(page.samples)) == 1))
    raise ValueError(f"{page.asks} has no right answer")


def chosen_sample(page: SheetPage, code: str) -> int:
    """Returns the sample (from 0) in the glass with this code. Raises ValueError if there is none."""
    return page.samples[page.codes.index(code)]
