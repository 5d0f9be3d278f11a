"""Computations in processes of their own, each with a time limit.

The core has no clock, and a thread cannot be stopped: a request may be within every budget and still be slow on a busy machine. Its process is ended when its
time is over; the request is refused, and the site's threads go on.
"""

from __future__ import annotations

import atexit
import multiprocessing
import threading
from collections.abc import Callable
from concurrent.futures import TimeoutError as TooLate
from concurrent.futures.process import BrokenProcessPool
from typing import Any, ParamSpec, TypeVar

from pebble import ProcessExpired, ProcessPool

from ulsek.core.base.messages import Given, message
from ulsek.core.base.refusals import Refusal

P = ParamSpec("P")
R = TypeVar("R")
PROCESSES, LIMIT_S = 2, 10.0
"""Processes beside each of the site's own [count]; how long one computation may take [s]."""
AT_ONCE, WAIT_S = 4, 1.0
"""Requests of one site process that may wait for a result at once [count], so that the others stay free for everything else; how long one waits for a place [s]."""
_lock = threading.Lock()
_places = threading.BoundedSemaphore(AT_ONCE)
_pool: ProcessPool | None = None


def _running() -> ProcessPool:
    """Returns the pool, made at its first use, and again after it was broken."""
    global _pool  # noqa: PLW0603 # one for the process
    with _lock:
        if _pool is None or not _pool.active:
            if _pool is not None:
                # Its other processes may still compute; ending them takes a moment, for which nobody waits.
                threading.Thread(target=_pool.join, daemon=True).start()
            # Spawned, not forked: the site's process has threads, and locks that they may hold.
            _pool = ProcessPool(max_workers=PROCESSES, context=multiprocessing.get_context("spawn"))
        return _pool


@atexit.register
def _end() -> None:
    if _pool is not None:
        _pool.stop()  # type: ignore[no-untyped-call]


def in_time(function: Callable[P, R], /, *args: P.args, **kwargs: P.kwargs) -> R:
    """Returns the result of a function of a module, called in another process. Arguments and result must be picklable.

    Raises what the function raises, and Refusal if it runs for more than `LIMIT_S` [s], if its process dies, or if `AT_ONCE` others wait already.
    """
    return within(LIMIT_S, function, *args, **kwargs)


def within(limit_s: float, function: Callable[..., R], /, *args: Any, **kwargs: Any) -> R:
    """Returns what the function returns, computed in another process within `limit_s` [s].

    Raises what the function raises, and Refusal if it runs longer, if its process dies twice, or if `AT_ONCE` others wait already.
    """
    if not _places.acquire(timeout=WAIT_S):
        raise Refusal(message("Much is being worked out just now"), "body", remedy=message("Try again in a moment"), code="busy")
    try:
        try:
            return _computed(limit_s, function, args, kwargs)
        except BrokenProcessPool:
            # A process that dies before it is known what it computes breaks the pool for every call in it, so each is made once more.
            return _computed(limit_s, function, args, kwargs)
    except TooLate:
        raise Refusal(
            message("This took too long to work out, and was stopped"),
            "body",
            message("at most {limit} s", limit=Given(limit_s)),
            message("Take it apart, and try again"),
            "too_slow",
        ) from None
    except (ProcessExpired, BrokenProcessPool):
        raise Refusal(
            message("This could not be worked out"), "body", remedy=message("Take it apart, and try again"), code="too_slow"
        ) from None
    finally:
        _places.release()


def _computed(limit_s: float, function: Callable[..., R], args: tuple[Any, ...], kwargs: dict[str, Any]) -> R:
    """Returns and raises what the function does in another process; raises TooLate, ProcessExpired or BrokenProcessPool if it does not come to an end there."""
    try:
        scheduled = _running().schedule(function, args=args, kwargs=kwargs, timeout=limit_s)
    except RuntimeError as error:
        raise BrokenProcessPool("it broke before the call was made") from error
    try:
        # Its time begins when a process takes it; before that it waits for the calls ahead of it.
        return scheduled.result(timeout=limit_s + LIMIT_S * AT_ONCE / PROCESSES)
    except TooLate:
        scheduled.cancel()  # type: ignore[no-untyped-call]
        raise


def warm() -> None:
    """Starts the processes, so that the first person does not wait for them."""
    for _ in range(PROCESSES):
        _running().schedule(_nothing)


def _nothing() -> None:
    """Imports the modules of the functions that a process will run."""
    import ulsek.core.recipe_text.open_forms  # noqa: F401
