"""One thing that goes in, as it was read: its words, the material they name, and how much."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from ..base.ranges import Range
from .material_names import Named

AmountKind = Literal["mass", "volume", "count", "parts", "percent", "ratio", "line", "brix", "cover", "open"]


@dataclass(frozen=True, slots=True)
class Amount:
    """How much goes in: g, mL, pieces, parts or percent with its range; for `line` the mL of the line, for `brix` the °Bx to reach; nothing for `cover` and `open`.

    `assumed`: nobody wrote it, so it is the usual amount of its kind. `unit` is the word that was written.
    """

    kind: AmountKind
    amount: Range
    unit: str = ""
    assumed: bool = False


LEAST_GRAMS = 20.0
"""Smallest number without a unit that is read as a mass instead of a count or a ratio [g]."""

OPEN = Amount("open", Range.exact(0.0))


@dataclass(eq=False)
class Ingredient:
    """One line of the list, or one thing that the method puts in. `start` and `end` are its place in the text [letters], `line` the number of its line.

    `key` is the material's key, in the house's materials or in the draft's own. `per` is another ingredient and the grams of this one for each gram of that.
    `due` is the position of the action before which it does not go in: that of the method where its line stands. `called` holds the words by which the
    method may speak of it; `split` is set for what goes in in two parts; `option` is the alternative that it
    is, as “group/choice”.
    """

    line: int
    start: int
    end: int
    text: str
    named: Named
    key: str
    amount: Amount
    per: tuple[Ingredient, float] | None = None
    due: int = 0
    id: str = ""
    own: Mapping[str, Any] | None = None
    called: frozenset[str] = field(default_factory=frozenset)
    split: bool = False
    option: str = ""
