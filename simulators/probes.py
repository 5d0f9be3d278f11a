"""Simulated probes that show one figure: refractometer, pH meter, thermometer."""

from __future__ import annotations

import time
from collections.abc import Sequence

from .instrument import Instrument


class Probe(Instrument):
    """Shows one property; the hand sets it, or lets it run to another figure over some seconds."""

    shows = ""
    decimals = 1

    def __init__(self, value: float) -> None:
        super().__init__()
        self.start = self.goal = value
        self.ramp_from = self.ramp_s = 0.0

    @property
    def value(self) -> float:
        share = 1.0 if self.ramp_s <= 0 else min(1.0, (time.monotonic() - self.ramp_from) / self.ramp_s)
        return self.start + (self.goal - self.start) * share

    def more(self) -> str:
        return "steady" if self.value == self.goal else "moving"

    def line(self) -> str | None:
        return f"{self.shows} {self.shaken(self.value):.{self.decimals}f} {self.more()}"

    def moved(self, words: Sequence[str]) -> str:
        match words:
            case ["set", value]:
                self.start = self.goal = float(value)
                self.ramp_s = 0.0
            case ["ramp", value, seconds]:
                self.start, self.goal, self.ramp_s, self.ramp_from = self.value, float(value), float(seconds), time.monotonic()
            case _:
                return super().moved(words)
        return "done"
