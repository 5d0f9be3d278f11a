"""What was read from a row of tokens, kept for as long as one text is read: a row is asked many times."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from operator import is_
from typing import Generic, TypeVar

from .tokens import Token

_LONGEST, _MOST = 60, 2000
"""Tokens of a row that is kept, and rows that are kept, at most [count]."""
Read = TypeVar("Read")


class RowMemo(Generic[Read]):
    """Keeps what a function reads from rows of tokens; a row is known by its very tokens, not by their words."""

    def __init__(self, read: Callable[[Sequence[Token]], tuple[Read, ...]]) -> None:
        self._read = read
        self._kept: dict[tuple[int, int, int], tuple[tuple[Token, ...], tuple[Read, ...]]] = {}

    def of(self, tokens: Sequence[Token]) -> tuple[Read, ...]:
        """Returns what the function reads from a row; a long row is read anew each time."""
        if not tokens or len(tokens) > _LONGEST:
            return self._read(tokens)
        # The tokens are kept with the answer, so that no other token takes the identity of one.
        key = (id(tokens[0]), id(tokens[-1]), len(tokens))
        kept = self._kept.get(key)
        if kept is None or not all(map(is_, kept[0], tokens)):
            if len(self._kept) >= _MOST:
                self._kept.clear()
            kept = self._kept[key] = (tuple(tokens), self._read(tokens))
        return kept[1]
