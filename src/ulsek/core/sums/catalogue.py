"""Every quick sum, by its name."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType
from typing import Any

from ..base.messages import listed, message
from ..base.refusals import Refusal
from ..base.register import USUAL_EQUIPMENT, Equipment
from .acids import ACID_SUMS
from .bar import BAR_SUMS
from .clear import CLEAR_SUMS
from .dosing import DOSING_SUMS
from .gauges import GAUGE_SUMS
from .kitchen import KITCHEN_SUMS
from .limits import LIMIT_SUMS
from .sheet import Answers, Sum, SumAnswer
from .strengths import STRENGTH_SUMS
from .sugars import SUGAR_SUMS

SUMS: Mapping[str, Sum] = MappingProxyType(
    {
        item.name: item
        for item in (*ACID_SUMS, *DOSING_SUMS, *SUGAR_SUMS, *STRENGTH_SUMS, *GAUGE_SUMS, *BAR_SUMS, *CLEAR_SUMS, *KITCHEN_SUMS, *LIMIT_SUMS)
    }
)


def sums_at(at: Equipment) -> list[Sum]:
    """Returns every sum, with the figures of the equipment `at` hand as the usual values of its scale and dropper."""
    return [replace(item, asks={name: ask.fitted(at) for name, ask in item.asks.items()}) for item in SUMS.values()]


def work_out(
    name: str,
    given: Answers,
    own: Mapping[str, Mapping[str, Any]] | None = None,
    limits: Mapping[str, Any] | None = None,
    at: Equipment = USUAL_EQUIPMENT,
) -> SumAnswer:
    """Returns the answer of a named sum, with the house's `own` materials besides the typical ones, its own `limits` and the equipment `at` hand. Raises
    Refusal for an unknown name, and for inputs that the sum refuses.
    """
    if name not in SUMS:
        raise Refusal(
            message("“{name}” is no sum", name=name),
            "name",
            message("the sums are {sums}", sums=listed(SUMS, "comma")),
            message("Choose one of them"),
            "unknown_word",
        )
    return SUMS[name].answer(given, own, limits, at)
