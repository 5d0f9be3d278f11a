"""What every simulated instrument shares: a socket that several may listen on, a line several times a second, and the hand that moves it."""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import random
import time
from collections.abc import Callable, Sequence

EVERY_S = 0.1
SEED = 1713


class Instrument:
    """One instrument. Subclasses say what it shows (`line`) and what can be done to it (`told`)."""

    name = "instrument"
    port = 0

    def __init__(self) -> None:
        self.noise = 0.0
        self.drift_per_min = 0.0
        self.began = time.monotonic()
        self.dropped_until = 0.0
        self.garbage = 0
        self.chance = random.Random(SEED)  # noqa: S311  noise of a made-up instrument, no secret
        self.writers: set[asyncio.StreamWriter] = set()

    def line(self) -> str | None:
        """What it shows now, or None when it has nothing to say."""
        return None

    def told(self, words: Sequence[str]) -> str:
        """Does what the host asks and answers."""
        return f"no {words[0]}"

    def moved(self, words: Sequence[str]) -> str:
        """Does what the hand does and answers."""
        return f"no {words[0]}"

    def shaken(self, value: float) -> float:
        """A value with this instrument's noise and drift on it."""
        minutes = (time.monotonic() - self.began) / 60.0
        return value + self.chance.uniform(-self.noise, self.noise) + self.drift_per_min * minutes

    def _hand(self, words: Sequence[str]) -> str:
        match words:
            case ["noise", size]:
                self.noise = float(size)
            case ["drift", size]:
                self.drift_per_min, self.began = float(size), time.monotonic()
            case ["drop", seconds]:
                self.dropped_until = time.monotonic() + float(seconds)
                for writer in self.writers:
                    writer.close()
            case ["garbage", lines]:
                self.garbage = int(lines)
            case _:
                return self.moved(words)
        return "done"

    def answer(self, text: str) -> str:
        """The answer to one line, from the host or from the hand."""
        hand = text.startswith("!")
        words = text.removeprefix("!").split(" ")
        try:
            return self._hand(words) if hand else self.told(words)
        except (ValueError, IndexError):
            return f"cannot read {text!r}"

    def _reply(self, line: bytes, writer: asyncio.StreamWriter) -> None:
        writer.write(f"{self.answer(line.decode('ascii', 'replace').strip())}\n".encode())

    async def _is_hand(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> bool:
        """Whether the hand is at the other end, which a pulled cable does not keep out: it speaks first, and at once."""
        with contextlib.suppress(TimeoutError, ConnectionError):
            line = await asyncio.wait_for(reader.readline(), 0.2)
            if line.startswith(b"!"):
                self._reply(line, writer)
                return True
        return False

    async def _listen(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        if time.monotonic() < self.dropped_until and not await self._is_hand(reader, writer):
            writer.close()
            return
        self.writers.add(writer)
        with contextlib.suppress(ConnectionError, asyncio.IncompleteReadError):
            while line := await reader.readline():
                self._reply(line, writer)
        self.writers.discard(writer)
        writer.close()

    async def _speak(self) -> None:
        while True:
            await asyncio.sleep(EVERY_S)
            line = self.line()
            if self.garbage > 0:
                self.garbage -= 1
                line = "\x02#~mass_g==1e999 \ufffd"
            if line is None:
                continue
            for writer in list(self.writers):
                writer.write(f"{line}\n".encode("ascii", "replace"))

    async def serve(self, port: int, ready: Callable[[], None] = lambda: None) -> None:
        """Serves on loopback until it is cancelled."""
        server = await asyncio.start_server(self._listen, "127.0.0.1", port)
        ready()
        async with server:
            await self._speak()


def run(instrument: Instrument) -> None:
    """The command line of one simulated instrument."""
    words = argparse.ArgumentParser(description=instrument.__doc__)
    words.add_argument("--port", type=int, default=instrument.port)
    with contextlib.suppress(KeyboardInterrupt):
        asyncio.run(instrument.serve(words.parse_args().port))
