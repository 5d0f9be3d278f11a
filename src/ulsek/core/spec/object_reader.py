"""Reader of one object of the spec file, member by member: each fault is collected with its place."""

from __future__ import annotations

import math
from itertools import count
from typing import Any

from ..base.messages import NOTHING, Given, Message, listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.units import read_number

MOST_TEXT = 2000
"""Letters of a name or a step's note."""


class ObjectReader:
    """Reads one object of a file and collects its faults."""

    def __init__(self, data: Any, where: str, faults: list[Refusal]) -> None:
        self.where, self.faults = where, faults
        self.data: dict[str, Any] = data if isinstance(data, dict) else {}
        if not isinstance(data, dict):
            self.fault(message("This must be an object"), "")

    def fault(self, what: Message, key: str, bound: Message = NOTHING, remedy: Message = NOTHING, code: str = "unreadable") -> None:
        """Adds a fault at a member."""
        self.faults.append(Refusal(what, f"{self.where}/{key}" if key else self.where, bound, remedy, code))

    def identity(self, taken: set[str], kind: str, position: int) -> str:
        """Returns the id of the object, else one by its `kind` and `position`, and adds it to those `taken`. For an id that is taken already a fault is
        collected, and a free one returned.
        """
        found = self.text("id") or f"{kind}{position}"
        if found in taken:
            self.fault(message("“{found}” stands twice", found=found), "id", message("every id stands once"), code="twice")
            # Worked out under another id, so that both are seen until one of them is renamed.
            found = next(free for n in count(2) if (free := f"{found}.{n}") not in taken)
        taken.add(found)
        return found

    def text(self, key: str, default: str = "", most: int = MOST_TEXT) -> str:
        """Returns a text of at most `most` letters; the default, and a fault, for anything else."""
        value = self.data.get(key, default)
        if isinstance(value, str) and len(value) <= most:
            return value
        self.fault(message("This must be a text of at most {most} letters", most=most), key)
        return default

    def number(self, key: str, default: float | None, low: float, high: float, words: Message) -> float:
        """Returns a number, or the number of its text as typed. `words` is the text of the bounds. A missing one without default is a fault."""
        value = self.data.get(key, default)
        try:
            found = read_number(value) if isinstance(value, str) else value
        except Refusal as refusal:
            self.faults.append(refusal.at(f"{self.where}/{key}"))
            return default if default is not None else low
        if isinstance(found, bool) or not isinstance(found, int | float):
            self.fault(message("A number is missing"), key, words, code="missing")
        elif not math.isfinite(found):
            self.fault(message("This number is not finite"), key, words, code="not_finite")
        elif not low <= found <= high:
            self.fault(message("{found} is out of bounds", found=Given(found)), key, words, code="out_of_bounds")
        else:
            return float(found)
        return default if default is not None else low

    def choice(self, key: str, allowed: tuple[Any, ...], default: Any) -> Any:
        """Returns one of the allowed values; the default, and a fault, for anything else."""
        value = self.data.get(key, default)
        if value in allowed:
            return value
        self.fault(
            message("“{value}” is not known here", value=value),
            key,
            message("choose one of {allowed}", allowed=listed(map(str, allowed), "comma")),
        )
        return default

    def items(self, key: str) -> list[Any]:
        """Returns the entries of a list; none, and a fault, for anything else."""
        value = self.data.get(key, [])
        if isinstance(value, list):
            return value
        self.fault(message("This must be a list"), key)
        return []

    def range(self, key: str, ceiling: float) -> Range | None:
        """Returns a range, or that of its text as typed, at most `ceiling`; None, and a fault, for anything else."""
        if self.data.get(key) is None:
            return None
        value = self.data[key]
        try:
            return Range.read(read_number(value) if isinstance(value, str) else value, f"{self.where}/{key}", ceiling=ceiling)
        except Refusal as refusal:
            self.faults.append(refusal.at(f"{self.where}/{key}"))
            return None
