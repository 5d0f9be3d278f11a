"""Refusals: the one way the core says no. They hold data and build their text from it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Refused:
    """A refusal, as it is answered. `where` is a path such as ``steps/s2/lines/sugar/amount``."""

    code: str
    where: str
    text: str
    remedy: str


@dataclass
class Refusal(Exception):
    """A value that cannot be worked with: what is wrong, where, which bound, what to do.

    `where` is a path into the file or request, such as ``steps/s2/lines/sugar/amount``.
    """

    what: str
    where: str = ""
    bound: str = ""
    remedy: str = ""
    code: str = "refused"

    def __post_init__(self) -> None:
        super().__init__(self.text)

    @property
    def text(self) -> str:
        """One sentence or two in kitchen words."""
        parts = [self.what + (f": {self.bound}" if self.bound else "") + "."]
        if self.remedy:
            parts.append(self.remedy if self.remedy.endswith(".") else self.remedy + ".")
        return " ".join(parts)

    def __str__(self) -> str:
        return self.text

    def __reduce__(self) -> tuple[type[Refusal], tuple[str, ...]]:
        """How it goes from one process to another: by its parts, from which the text is made again."""
        return type(self), (self.what, self.where, self.bound, self.remedy, self.code)

    def at(self, where: str) -> Refusal:
        """The same refusal, placed at `where` unless it already names a place."""
        return self if self.where else Refusal(self.what, where, self.bound, self.remedy, self.code)

    @property
    def answer(self) -> Refused:
        return Refused(self.code, self.where, self.text, self.remedy)
