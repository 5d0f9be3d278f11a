"""Refusals: the one way the core says no. They hold data; their text is rendered last, in the language of its reader."""

from __future__ import annotations

from dataclasses import dataclass

from .messages import NOTHING, Message, listed, message


@dataclass(frozen=True, slots=True)
class Refused:
    """A refusal, as it is answered. `where` is a path such as ``steps/s2/lines/sugar/amount``."""

    code: str
    where: str
    text: Message
    remedy: Message


@dataclass
class Refusal(Exception):
    """A value that cannot be worked with: what is wrong, where, which bound, what to do.

    `where` is a path into the file or request, such as ``steps/s2/lines/sugar/amount``. `what` and `remedy` are sentences without their full stop, `bound` is
    a phrase.
    """

    what: Message
    where: str = ""
    bound: Message = NOTHING
    remedy: Message = NOTHING
    code: str = "refused"

    @property
    def message(self) -> Message:
        """Returns all that it says: what is wrong and its bound as one sentence, what to do as the next."""
        wrong = message("{what}: {bound}.", what=self.what, bound=self.bound) if self.bound else _ended(self.what)
        return message("{sentences}", sentences=listed((wrong, _ended(self.remedy)), "space")) if self.remedy else wrong

    @property
    def text(self) -> str:
        """Returns all that it says in the source language."""
        return self.message.text()

    def __str__(self) -> str:
        return self.text

    def __reduce__(self) -> tuple[type[Refusal], tuple[object, ...]]:
        """How it goes from one process to another: by its parts."""
        return type(self), (self.what, self.where, self.bound, self.remedy, self.code)

    def at(self, where: str) -> Refusal:
        """The same refusal, placed at `where` unless it already names a place."""
        return self if self.where else Refusal(self.what, where, self.bound, self.remedy, self.code)

    @property
    def answer(self) -> Refused:
        return Refused(self.code, self.where, self.message, self.remedy)


def _ended(sentence: Message) -> Message:
    """Returns the sentence with its full stop."""
    return sentence if sentence.text().endswith(".") else message("{sentence}.", sentence=sentence)
