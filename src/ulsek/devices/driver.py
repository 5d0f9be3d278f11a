"""Driver of an instrument: reads it in a thread of its own, through pyserial, which treats a serial port and a socket alike."""

from __future__ import annotations

import logging
import queue
import threading
import time
from collections.abc import Callable, Mapping
from typing import Any

import serial

from .lines import MOST_IN_LINE, is_answer, read_line

_LOG = logging.getLogger(__name__)
SILENT_S = 3.0
AGAIN_S = 1.0
STALE_S = 0.5
"""A word that could not be said for so long is not said any more: a late tare would take away what was poured since."""
_WAIT_S = 0.25
Told = Callable[[Mapping[str, Any]], None]


class Driver(threading.Thread):
    """Reads `address` until it is stopped, and calls `tell` for every line and every loss, with the open form of a reading."""

    def __init__(self, instrument: str, kind: str, address: str, tell: Told) -> None:
        super().__init__(daemon=True, name=f"{kind} {address}")
        self.instrument, self.kind, self.address = instrument, kind, address
        self._tell = tell
        self._stopped = threading.Event()
        self._words: queue.SimpleQueue[tuple[float, str]] = queue.SimpleQueue()
        self.ignored = 0

    def stop(self) -> None:
        """Ends the thread after its next read."""
        self._stopped.set()

    def send(self, word: str) -> None:
        """Queues a word for the instrument. It is dropped if the instrument cannot be reached within `STALE_S` [s]."""
        self._words.put((time.monotonic(), word))

    def _say(self, state: str, **more: Any) -> None:
        self._tell(
            {
                "instrument": self.instrument,
                "kind": self.kind,
                "property": None,
                "value": None,
                "steady": False,
                "checked": False,
                "state": state,
                "ignored": self.ignored,
                **more,
            }
        )

    def _read(self, port: serial.SerialBase) -> None:
        heard = time.monotonic()
        while not self._stopped.is_set():
            while not self._words.empty():
                since, word = self._words.get()
                if time.monotonic() - since < STALE_S:
                    port.write(f"{word}\n".encode("ascii"))
            line = port.read_until(b"\n", MOST_IN_LINE)
            now = time.monotonic()
            if len(line) >= MOST_IN_LINE and not line.endswith(b"\n"):
                # It talks without a break, and is no instrument: let go, and looked at again a second later, so that it costs next to nothing.
                self.ignored += 1
                return
            if not line:
                if now - heard > SILENT_S and self.kind != "titrator":
                    return
                continue
            heard = now
            shown = read_line(self.kind, line)
            if shown is not None:
                self._say("live", property=shown.property, value=shown.value, steady=shown.steady, checked=shown.checked)
            elif not is_answer(line):
                self.ignored += 1

    def run(self) -> None:
        """Reads the instrument until `stop`, and connects again after a loss."""
        while not self._stopped.is_set():
            try:
                with serial.serial_for_url(self.address, timeout=_WAIT_S) as port:
                    if self.kind == "titrator":
                        self._say("live")  # it has nothing to show until it runs
                    self._read(port)
            except Exception as trouble:  # noqa: BLE001 # whatever a port or an address does, it is this instrument's alone
                if not isinstance(trouble, OSError | ValueError):
                    _LOG.warning("instrument %s cannot be read: %s", self.instrument, type(trouble).__name__)
            if not self._stopped.is_set():
                self._say("lost")
                self._stopped.wait(AGAIN_S)
