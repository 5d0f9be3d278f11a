"""Computations in processes of their own, each with a time that it may take.

The core has no clock, and a thread cannot be stopped: what somebody sends may be within every budget and still be slow on a busy machine. Here it takes its own
process, which is ended when its time is over; the request is answered in words, and the site's threads go on.
"""

from __future__ import annotations

import atexit
import multiprocessing
import threading
from collections.abc import Callable
from concurrent.futures import TimeoutError as TooLate
from typing import Any, ParamSpec, TypeVar

from pebble import ProcessExpired, ProcessPool

from ulsek.core.refusals import Refusal

P = ParamSpec("P")
R = TypeVar("R")
PROCESSES, LIMIT_S = 2, 10.0
"""Processes beside each of the site's own; seconds [s] that one computation may take."""
_lock = threading.Lock()
_pool: ProcessPool | None = None


def _running() -> ProcessPool:
    """The pool, made when it is first needed; made anew after it was broken."""
    global _pool  # noqa: PLW0603 # one for the process
    with _lock:
        if _pool is None or not _pool.active:
            # Spawned, not forked: the site's process has threads, and locks that they may hold.
            _pool = ProcessPool(max_workers=PROCESSES, context=multiprocessing.get_context("spawn"))
        return _pool


@atexit.register
def _end() -> None:
    if _pool is not None:
        _pool.stop()  # type: ignore[no-untyped-call]


def in_time(function: Callable[P, R], /, *args: P.args, **kwargs: P.kwargs) -> R:
    """What `function` returns, worked out in another process within `LIMIT_S` of having begun. It must be a function of a module, and what it takes and
    returns must be picklable.

    Raises what it raises, and Refusal where it was stopped, or its process died.
    """
    return within(LIMIT_S, function, *args, **kwargs)


def within(limit_s: float, function: Callable[..., R], /, *args: Any, **kwargs: Any) -> R:
    """As `in_time`, with another limit [s]."""
    try:
        return _running().schedule(function, args=args, kwargs=kwargs, timeout=limit_s).result()
    except TooLate:
        raise Refusal(
            "This took too long to work out, and was stopped", "body", f"at most {limit_s:g} s", "Take it apart, and try again", "too_slow"
        ) from None
    except ProcessExpired:
        raise Refusal("This could not be worked out", "body", remedy="Take it apart, and try again", code="too_slow") from None


def warm() -> None:
    """Starts the processes, so that the first person does not wait for them."""
    for _ in range(PROCESSES):
        _running().schedule(_nothing)


def _nothing() -> None:
    """What a process is started with: the imports behind the functions that it will be asked for."""
    import ulsek.core.interchange  # noqa: F401
