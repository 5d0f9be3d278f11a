"""Starts every simulated instrument as a process of its own, and ends them with itself; or becomes the one whose number is given."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from types import FrameType

ALL = ("scale", "refractometer", "ph_meter", "thermometer", "titrator", "label_printer", "push_service")
FIRST_PORT = int(os.environ.get("ULSEK_INSTRUMENT_PORT", "9711"))


def main() -> None:
    """All of them until this process is told to end, or one of them in this process's place."""
    if len(sys.argv) > 1:
        n = int(sys.argv[1])
        os.execv(sys.executable, [sys.executable, "-m", f"simulators.{ALL[n]}", "--port", str(FIRST_PORT + n)])  # noqa: S606 # our own modules
    running = [subprocess.Popen([sys.executable, "-m", f"simulators.{name}", "--port", str(FIRST_PORT + n)]) for n, name in enumerate(ALL)]

    def end(_signal: int, _frame: FrameType | None) -> None:
        for process in running:
            process.terminate()

    signal.signal(signal.SIGTERM, end)
    signal.signal(signal.SIGINT, end)
    for process in running:
        process.wait()


if __name__ == "__main__":
    main()
