"""Doubts: readings that may be wrong, each with its question and the answers that settle it by changing the draft."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

from ..base.answer import encode
from ..base.ranges import Range
from ..base.vocabulary import Confusion, confusions, plain
from ..materials.reference_materials import typical_materials
from ..spec.object_reader import MOST_TEXT
from .ingredient import Amount, Ingredient

Form = dict[str, Any]
"""An object of the spec file while it is built."""
_OF_STEPS = frozenset({"values", "add", "remove"})
"""Changes of a step; all others are of a line."""


@dataclass(frozen=True, slots=True)
class Change:
    """One change that an answer makes in the draft. What is changed is the line of an ingredient (`of`), or the line or step that the doubt is about.

    `sets` are members in the form of the spec file: `amount`, `material`, `to_taste`, `by_volume` or `drop` of a line, `move` it to a step, `choose` an
    alternative, `own` (key and body) a material of the draft, `values` of a step, a line to `add` to it, `remove` it.
    """

    sets: Mapping[str, Any]
    of: Ingredient | None = None

    def form(self, at: str) -> Form:
        """Returns the change for the spec file; `at` is the line or step that the doubt is about."""
        if self.of is not None:
            return {"line": self.of.id, **self.sets}
        return {"step" if _OF_STEPS.intersection(self.sets) else "line": at, **self.sets}


@dataclass(frozen=True, slots=True)
class Answer:
    """One answer to a doubt: its words, and the changes that it makes."""

    word: str
    changes: tuple[Change, ...] = ()

    def form(self, at: str) -> Form:
        """Returns the answer for the spec file."""
        return {"word": self.word, **({"changes": [change.form(at) for change in self.changes]} if self.changes else {})}


def to_amount(word: str, amount: Amount) -> Answer:
    """Returns the answer that sets the amount of the line in question."""
    return Answer(word, (Change({"amount": amount_form(amount)}),))


def to_material(word: str, key: str) -> Answer:
    """Returns the answer that sets the material of the line in question."""
    return Answer(word, (Change({"material": key}),))


def to_values(word: str, **values: float | str) -> Answer:
    """Returns the answer that sets figures of the step in question."""
    return Answer(word, (Change({"values": values}),))


@dataclass(frozen=True, slots=True)
class Doubt:
    """One reading that may be wrong: what, in which line of the text (counted from 1), the question, and the answers that settle it.

    `start` and `end` are the place of its words in the text [letters].
    """

    code: str
    line: int
    text: str
    question: str
    answers: tuple[Answer, ...] = ()
    start: int = 0
    end: int = 0

    def form(self, at: str) -> Form:
        """Returns the doubt for the spec file; `at` is the line or step that it is about."""
        form: Form = {"at": at, "code": self.code, "text": self.text[:MOST_TEXT], "question": self.question}
        return {**form, **({"answers": [answer.form(at) for answer in self.answers]} if self.answers else {})}


def doubt_about(made: Ingredient, code: str, question: str, answers: Sequence[Answer] = ()) -> Doubt:
    """Returns a doubt about an ingredient."""
    return Doubt(code, made.line, made.text, question, tuple(answers), made.start, made.end)


def amount_form(amount: Amount) -> Form:
    """Returns an amount in the form of the spec file; an empty one, which stops publishing, for an amount that is open."""
    member = {"mass": "mass_g", "volume": "volume_ml", "count": "count"}.get(amount.kind)
    if member is None:
        return {"kind": "fixed", "written": ""}
    value: Any = (
        amount.amount.value
        if amount.amount.is_exact
        else encode(Range(*map(_short, (amount.amount.value, amount.amount.low, amount.amount.high))))
    )
    if isinstance(value, float):
        value = _short(value)
    return {"kind": "fixed", member: value, **({"assumed": True} if amount.assumed else {})}


def _short(value: float) -> float:
    return float(f"{value:.6g}")


@cache
def risky_names() -> Mapping[str, Confusion]:
    """Returns names to ask about whenever they stand: both sides of a look-alike, the wrong side alone of a slip of the pen (maleic for malic)."""
    return {
        plain(word.replace("_", " ")): confusion
        for confusion in confusions()
        for word in confusion.words
        if "safe" in confusion.why or "poison" in confusion.why or ("no food" in confusion.why and word not in typical_materials())
    }
