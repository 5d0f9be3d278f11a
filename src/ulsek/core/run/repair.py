"""Repairs: additions that bring a batch back to its goals, as they are offered and as they are taken."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..base.figures import MOST_G
from ..base.messages import Message, message
from .event_parts import Number, Parts, Text, optional, required

RepairState = Literal["offered", "put off", "refused", "taken"]
NOTHING_ADDED = message("A repair needs its additions")


@dataclass(frozen=True, slots=True, kw_only=True)
class RepairAddition(Parts):
    """One addition of a repair. Its line is weighed like any other."""

    kind = "addition"

    line: str = required(Text(missing=NOTHING_ADDED))
    material: str = required(Text(missing=NOTHING_ADDED))
    mass_g: float = required(Number(about="[g]", low=1e-6, high=MOST_G, words=message("an addition is above 0 g"), missing=NOTHING_ADDED))
    name: str = optional(Text(about="the material in words"), "")


@dataclass(frozen=True, slots=True)
class Repair:
    """Additions that bring the batch back to its goals, and what they lead to."""

    id: str
    state: RepairState
    additions: tuple[RepairAddition, ...]
    text: Message
    effect: Message
