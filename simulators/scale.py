"""A simulated scale."""

from __future__ import annotations

import time
from collections.abc import Sequence

from .instrument import Instrument, run

STEADY_S = 0.4
STEP_G = 0.1


class Scale(Instrument):
    """A bench scale: shows what stands on it less its tare; what is poured runs in over some seconds."""

    name = "scale"
    port = 9711
    most_g = 15000.0

    def __init__(self) -> None:
        super().__init__()
        self.tare_g = 0.0
        self.settled_g = 0.0
        self.pouring_g = 0.0
        self.pour_from = 0.0
        self.pour_s = 0.0

    def _share(self) -> float:
        return 1.0 if self.pour_s <= 0 else min(1.0, (time.monotonic() - self.pour_from) / self.pour_s)

    @property
    def gross_g(self) -> float:
        return self.settled_g + self.pouring_g * self._share()

    def _settle(self) -> None:
        self.settled_g, self.pouring_g, self.pour_s = self.gross_g, 0.0, 0.0

    def line(self) -> str | None:
        if self.gross_g > self.most_g:
            return "mass_g over"
        net = self.shaken(self.gross_g - self.tare_g)
        moving = self._share() < 1.0 or time.monotonic() - self.pour_from - self.pour_s < STEADY_S
        return f"mass_g {round(net / STEP_G) * STEP_G:.1f} {'moving' if moving else 'steady'}"

    def told(self, words: Sequence[str]) -> str:
        if words == ["tare"]:
            self.tare_g = self.gross_g
            return "done tare"
        return super().told(words)

    def moved(self, words: Sequence[str]) -> str:
        match words:
            case ["pour", grams, *seconds]:
                self._settle()
                self.pouring_g = float(grams)
                self.pour_s, self.pour_from = float(seconds[0]) if seconds else 0.0, time.monotonic()
            case ["put", grams]:
                self.settled_g, self.pouring_g, self.pour_from = float(grams), 0.0, time.monotonic()
            case ["lift"]:
                self.settled_g = self.pouring_g = 0.0
                self.pour_from = time.monotonic()
            case _:
                return super().moved(words)
        return "done"


if __name__ == "__main__":
    run(Scale())
