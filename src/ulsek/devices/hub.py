"""The hub: one asyncio process that owns the instruments and gives their readings to every screen. It is served by `hub_app`."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Mapping
from typing import Any

from asgiref.sync import sync_to_async
from django.db import Error, close_old_connections

from .addresses import is_allowed
from .driver import Driver
from .lines import KINDS, TOLD
from .models import Instrument
from .tickets import Ticket, ended

AGAIN_S = 3.0
_BEAT_S = 3.0
_MOST_WAITING = 200


class Hub:
    """The drivers of all houses, the last reading of each, and the listeners."""

    def __init__(self) -> None:
        self._drivers: dict[str, tuple[int, Driver]] = {}
        self._latest: dict[str, Mapping[str, Any]] = {}
        self._listeners: dict[int, set[asyncio.Queue[Mapping[str, Any]]]] = {}
        self._open: list[Ticket] = []
        self._ended: set[str] = set()
        self._loop: asyncio.AbstractEventLoop | None = None

    async def keep_up(self) -> None:
        """Follows the list of instruments: opens new ones, and closes those that are gone."""
        self._loop = asyncio.get_running_loop()
        while True:
            try:
                wanted = {str(row["id"]): row for row in await sync_to_async(_rows)()}
                self._ended = await sync_to_async(_ended)({ticket.sign_in for ticket in self._open})
            except Error:
                # Without the database the instruments go on as they are; the list is asked for again.
                await asyncio.sleep(AGAIN_S)
                continue
            for key in [key for key, (_, driver) in self._drivers.items() if wanted.get(key, {}).get("address") != driver.address]:
                self._drivers.pop(key)[1].stop()
                self._latest.pop(key, None)
            for key, row in wanted.items():
                # Passed over: a kind that is not known, left by another release, and an address that is not allowed any more.
                if key not in self._drivers and KINDS.get(row["kind"]) and is_allowed(row["address"]):
                    driver = Driver(key, row["kind"], row["address"], self._tell)
                    self._drivers[key] = (row["house"], driver)
                    driver.start()
            await asyncio.sleep(AGAIN_S)

    def _tell(self, reading: Mapping[str, Any]) -> None:
        if self._loop is not None and not self._loop.is_closed():
            self._loop.call_soon_threadsafe(self._spread, reading)

    def _spread(self, reading: Mapping[str, Any]) -> None:
        key = reading["instrument"]
        # Instruments repeat their reading ten times a second, and each one that is sent makes every page render: repeated ones are dropped.
        if key not in self._drivers or self._latest.get(key) == reading:
            return
        self._latest[key] = reading
        for listener in self._listeners.get(self._drivers[key][0], ()):
            if listener.full():
                listener.get_nowait()  # a slow screen misses what is old by now, never what is new
            listener.put_nowait(reading)

    async def listen(self, house: int) -> AsyncIterator[Mapping[str, Any] | None]:
        """Yields the last reading of each instrument of a house, then every reading that differs from the one before it; None after 3 s without one."""
        waiting: asyncio.Queue[Mapping[str, Any]] = asyncio.Queue(_MOST_WAITING)
        self._listeners.setdefault(house, set()).add(waiting)
        try:
            for key, reading in self._latest.items():
                if self._drivers[key][0] == house:
                    yield reading
            while True:
                try:
                    yield await asyncio.wait_for(waiting.get(), _BEAT_S)
                except TimeoutError:
                    yield None
        finally:
            self._listeners[house].discard(waiting)

    def say(self, house: int, instrument: str, word: str) -> bool:
        """Sends a word to an instrument of this house. Returns False if there is no such instrument, or it does not know the word."""
        found = self._drivers.get(instrument)
        if found is None or found[0] != house or word not in TOLD.get(found[1].kind, ()):
            return False
        found[1].send(word)
        return True

    async def has_ended(self, ticket: Ticket) -> bool:
        """Returns True if the session of a ticket has ended; by the last answer if the database is away, because nobody can sign out then."""
        try:
            return ticket.sign_in in await sync_to_async(_ended)({ticket.sign_in})
        except Error:
            return ticket.sign_in in self._ended

    async def readings(self, ticket: Ticket) -> AsyncIterator[Mapping[str, Any] | None]:
        """Yields the readings of the ticket's house, or None every 3 s without a new one, until the ticket has expired or its session has ended."""
        self._open.append(ticket)
        try:
            async for reading in self.listen(ticket.house):
                if ticket.is_over or ticket.sign_in in self._ended:
                    return
                yield reading
        finally:
            self._open.remove(ticket)

    def stop(self) -> None:
        """Closes every instrument."""
        for _, driver in self._drivers.values():
            driver.stop()


def _rows() -> list[Mapping[str, Any]]:
    close_old_connections()
    return [dict(row) for row in Instrument.objects.values("id", "house", "kind", "address")]


def _ended(sign_ins: set[str]) -> set[str]:
    close_old_connections()
    return ended(sign_ins)
