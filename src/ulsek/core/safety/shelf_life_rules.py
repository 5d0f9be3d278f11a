"""Keeping rules: the dated, sourced rows that ship, one reason for a date, and how days are counted."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import cache
from importlib.resources import files
from typing import Any, Literal

from ..base.answer import json_member
from ..base.messages import Message

FOREVER = 3650
"""Days that stand for "no limit from this side": quality, a component or the house decides."""


@dataclass(frozen=True, slots=True)
class Reason:
    """One date and its basis. `kind` is class, barrier, quality, component or house; `until` is the last day [ISO date] on the label of a component, if it has
    one.
    """

    kind: Literal["class", "barrier", "quality", "component", "house"]
    days: int
    words: Message
    source: str
    sure: str
    until: str = field(default="", metadata=json_member(stored=""))


def last_day(first: date, days: int) -> date:
    """Returns the last day of an inclusive count: 3 days from Monday is Wednesday."""
    return first + timedelta(days=days - 1)


def day_of_life(first: date, on: date) -> int:
    """Returns which day `on` is for what keeps from `first` on [days]: the first itself is day 1. The inverse of `last_day`."""
    return (on - first).days + 1


@cache
def starting_rules() -> Mapping[str, Any]:
    """Returns the rules that ship."""
    rules: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "keeping.json").read_text(encoding="utf-8"))
    return rules
