"""Cache of what was read from rows of tokens, for the time in which one text is read."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from operator import is_
from typing import Generic, TypeVar

from .tokens import Token

_LONGEST, _MOST = 200, 2000
"""Largest number of tokens of a cached row, and of cached rows [count]."""
Read = TypeVar("Read")


class RowMemo(Generic[Read]):
    """Caches the results of a function of a row of tokens, by the identity of the tokens."""

    def __init__(self, read: Callable[[Sequence[Token]], tuple[Read, ...]]) -> None:
        self._read = read
        self._kept: dict[tuple[int, int, int], tuple[tuple[Token, ...], tuple[Read, ...]]] = {}

    def of(self, tokens: Sequence[Token]) -> tuple[Read, ...]:
        """Returns the result of the function for a row. Rows that are too long are not cached."""
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
