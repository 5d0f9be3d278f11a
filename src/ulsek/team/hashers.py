"""How passwords are kept, and how many are worked out at a time."""

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
    """More passwords at once than this process works out; raised after a wait of `WAIT_S` [s]."""


_turns = threading.BoundedSemaphore(AT_ONCE)


@contextmanager
def a_turn() -> Iterator[None]:
    """Waits for one of the process's `AT_ONCE` turns: a flood of sign-ins takes their memory, and no more. Raises TooMany."""
    if not _turns.acquire(timeout=WAIT_S):
        raise TooMany
    try:
        yield
    finally:
        _turns.release()
