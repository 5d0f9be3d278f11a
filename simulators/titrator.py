"""A simulated titrator: a burette of 0.1 N sodium hydroxide that stops at pH 8.2."""

from __future__ import annotations

import time
from collections.abc import Sequence

from .instrument import Instrument, run

NORMALITY = 0.1
ML_PER_S = 4.0
CITRIC_G_MOL, CITRIC_PROTONS = 192.124, 3


class Titrator(Instrument):
    """Runs base into a sample until it turns, and shows how much went in."""

    name = "titrator"
    port = 9715

    def __init__(self) -> None:
        super().__init__()
        self.end_ml = 0.0
        self.from_s: float | None = None

    def _ml(self) -> float:
        return 0.0 if self.from_s is None else min(self.end_ml, (time.monotonic() - self.from_s) * ML_PER_S)

    def line(self) -> str | None:
        if self.from_s is None:
            return None
        now = self._ml()
        return f"naoh_ml {self.shaken(now):.2f} {'steady' if now >= self.end_ml else 'moving'}"

    def told(self, words: Sequence[str]) -> str:
        if words == ["run"]:
            self.from_s = time.monotonic()
            return "done run"
        return super().told(words)

    def moved(self, words: Sequence[str]) -> str:
        match words:
            case ["sample", grams, ml]:
                mol = float(grams) / 100.0 * float(ml) / CITRIC_G_MOL
                self.end_ml, self.from_s = mol * CITRIC_PROTONS / NORMALITY * 1000.0, None
            case ["run"]:
                return self.told(["run"]).replace(" run", "")
            case _:
                return super().moved(words)
        return "done"


if __name__ == "__main__":
    run(Titrator())
