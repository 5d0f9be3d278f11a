"""Hashing of passwords, with a bound on how many are computed at a time."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from django.contrib.auth.hashers import Argon2PasswordHasher

AT_ONCE, WAIT_S = 2, 5.0


class Argon2(Argon2PasswordHasher):
    """Argon2id with 19 MiB, two passes, one lane. Source: OWASP Password Storage Cheat Sheet; RFC 9106."""

    time_cost = 2
    memory_cost = 19_456
    parallelism = 1


class TooMany(Exception):
    """Raised after a wait of `WAIT_S` [s] if too many passwords are being computed."""


_turns = threading.BoundedSemaphore(AT_ONCE)


@contextmanager
def a_turn() -> Iterator[None]:
    """Waits for one of the process's `AT_ONCE` turns, so that many sign-ins at once do not use more memory. Raises TooMany."""
    if not _turns.acquire(timeout=WAIT_S):
        raise TooMany
    try:
        yield
    finally:
        _turns.release()
