"""A simulated pH meter: what it shows counts as checked only after it stood in its buffers."""

from __future__ import annotations

from collections.abc import Sequence

from .instrument import run
from .probes import Probe


class PhMeter(Probe):
    """A pH meter that says whether it was checked in its buffers since it was switched on."""

    name = "ph_meter"
    port = 9713
    shows = "ph"
    decimals = 2

    def __init__(self, value: float) -> None:
        super().__init__(value)
        self.checked = False

    def more(self) -> str:
        return f"{super().more()} {'checked' if self.checked else 'unchecked'}"

    def moved(self, words: Sequence[str]) -> str:
        if words == ["buffer"]:
            self.checked = True
            return "done"
        return super().moved(words)


if __name__ == "__main__":
    run(PhMeter(7.0))
