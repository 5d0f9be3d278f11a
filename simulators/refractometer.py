"""A simulated refractometer with temperature compensation of its own."""

from __future__ import annotations

from .instrument import run
from .probes import Probe


class Refractometer(Probe):
    """A simulated refractometer with temperature compensation of its own."""

    name = "refractometer"
    port = 9712
    shows = "brix_reading"
    decimals = 1


if __name__ == "__main__":
    run(Refractometer(0.0))
