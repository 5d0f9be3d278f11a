"""Refusals: the one kind of error about input. They hold data; their text is rendered last, in the language of its reader."""

from __future__ import annotations

from dataclasses import dataclass

from .messages import NOTHING, Message, listed, message


@dataclass(frozen=True, slots=True)
class Refused:
    """The JSON of a refusal. `where` is a path such as ``steps/s2/lines/sugar/amount``."""

    code: str
    where: str
    text: Message
    remedy: Message


@dataclass
class Refusal(Exception):
    """An input that cannot be used: what is wrong, where, which bound, what to do.

    `where` is a path into the file or request, such as ``steps/s2/lines/sugar/amount``. `what` and `remedy` are sentences without their full stop, `bound` is a
    phrase.
    """

    what: Message
    where: str = ""
    bound: Message = NOTHING
    remedy: Message = NOTHING
    code: str = "refused"

    @property
    def message(self) -> Message:
        """Returns its text: what is wrong with its bound as one sentence, what to do as the next."""
        wrong = message("{what}: {bound}.", what=self.what, bound=self.bound) if self.bound else _ended(self.what)
        return message("{sentences}", sentences=listed((wrong, _ended(self.remedy)), "space")) if self.remedy else wrong

    @property
    def text(self) -> str:
        """Returns its text in the source language."""
        return self.message.text()

    def __str__(self) -> str:
        return self.text

    def __reduce__(self) -> tuple[type[Refusal], tuple[object, ...]]:
        """Returns how it is pickled, for another process: by its parts."""
        return type(self), (self.what, self.where, self.bound, self.remedy, self.code)

    def at(self, where: str) -> Refusal:
        """Returns the refusal placed at `where`, unless it has a place already."""
        return self if self.where else Refusal(self.what, where, self.bound, self.remedy, self.code)

    @property
    def answer(self) -> Refused:
        """Returns its JSON, as a dataclass."""
        return Refused(self.code, self.where, self.message, self.remedy)


def _ended(sentence: Message) -> Message:
    """Returns the sentence with its full stop."""
    return sentence if sentence.text().endswith(".") else message("{sentence}.", sentence=sentence)
