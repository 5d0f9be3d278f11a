"""A simulated probe thermometer."""

from __future__ import annotations

from .instrument import run
from .probes import Probe


class Thermometer(Probe):
    """A simulated probe thermometer."""

    name = "thermometer"
    port = 9714
    shows = "temperature_c"
    decimals = 1


if __name__ == "__main__":
    run(Thermometer(20.0))
