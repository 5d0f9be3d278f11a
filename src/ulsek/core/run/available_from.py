"""Availability: from when a lot may be poured. A lot that rests in its bottle, or was filled hot, is not ready when the bottles are full."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from datetime import datetime, timedelta

from ..base.messages import NOTHING, Message, message
from ..operations.finish import Bottle, HotFill, Rest, Store
from ..operations.step import Step

HOT_MIN = 240.0
"""A bottle that was filled hot, in a refrigerator [min]; house experience, not a standard."""


def ready_from(
    steps: Iterable[Step], done: Mapping[str, str], begun: Mapping[str, str], skipped: Collection[str], finished_at: str
) -> tuple[datetime, Message]:
    """Returns the moment from which a lot may be poured, and the reason: the end of every rest as written, and the cooling after a hot filling.

    Steps that were `skipped` do not count.
    """
    best, why, bottled = datetime.fromisoformat(finished_at), NOTHING, False
    for step in steps:
        if step.id in skipped:
            continue
        # Hot bottles are counted from the end of the filling: a whole case cools slower than one bottle.
        if isinstance(step, HotFill) and step.id in done:
            cold = datetime.fromisoformat(done[step.id]) + timedelta(minutes=HOT_MIN)
            best, why = (cold, message("it was filled hot, and must be cold")) if cold > best else (best, why)
        # A rest before bottling is over when the bottles are full; only those after it count.
        bottled = bottled or isinstance(step, Bottle)
        if bottled and isinstance(step, Rest) and not isinstance(step, Store) and step.id in begun:
            rested = datetime.fromisoformat(begun[step.id]) + timedelta(minutes=step.minutes)
            best, why = (rested, message("it rests in the bottle")) if rested > best else (best, why)
    return best, why
