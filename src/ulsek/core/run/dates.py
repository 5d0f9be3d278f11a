"""Dates of a batch: from when the product and each leftover keep, and their last days."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime

from ..base.messages import Message, message, sentences
from ..evaluation.flow_values import StepFlow
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..safety.shelf_life import MIXING, Keeping
from ..spec import spec as s
from .device_clocks import moment
from .state import RunState


@dataclass(frozen=True, slots=True)
class LotDates:
    """Dates of a lot with their reason: the moment from which it keeps, its last day, its days once opened, and the warmest place [°C]."""

    cooled_at: datetime
    use_by: date
    use_by_reason: Message
    opened_days: int
    keep_c: float


def dated(state: RunState, kept: Keeping, from_day: date) -> tuple[date, Message]:
    """Returns (last day, its reason) of a lot: as `kept` says, counted from `from_day`; the earlier last day of a material that went in after it."""
    # A material that went in after its own last day caps the batch by that day.
    past = [(date.fromisoformat(day), words) for day, words in state.record.past_use_by.values()]
    return min([kept.dated(from_day), *past], key=lambda item: item[0])


def _mixed_at(state: RunState) -> str:
    """Returns the moment [ISO 8601] when the first perishable material was weighed; the first of any if none is perishable, the start if none was weighed."""
    lines, weighed = state.spec.lines, state.record.weighed_at
    perishable = [
        at
        for line, at in weighed.items()
        if line in lines and (found := state.materials.get(lines[line].material)) is not None and not found.defined
    ]
    return min(perishable or weighed.values(), key=datetime.fromisoformat, default=state.events[0].at)


def counted_from(state: RunState) -> tuple[str, bool]:
    """Returns (moment [ISO 8601] from which the product keeps, whether it was logged): the end of its last cooling; its mixing if nothing was heated; the start
    if it was heated and no cooling was logged, which is the strict reading.
    """
    if state.evaluation.keeping.counts_from == MIXING:
        return _mixed_at(state), True
    cooled = [
        state.done[step.id]
        for step in state.spec.steps
        if isinstance(step, s.Cool) and step.id in state.done and step.id not in state.skipped
    ]
    # Without a logged cooling nobody knows when it was cold: the start is the earliest that it can have been.
    return (cooled[-1], True) if cooled else (state.events[0].at, False)


def left_counted_from(state: RunState, kept: Keeping, key: str) -> tuple[str, bool]:
    """Returns the same of a leftover, by `kept`, its own keeping, and `key` as a line names it: peel that was taken out before a rest of ten days is ten days
    old.

    It counts from its mixing if it was never heated, else from the step that left it, and never from later than the product does.
    """
    if kept.counts_from == MIXING:
        return _mixed_at(state), True
    touched = [done.step.id for done in state.evaluation.flow.steps if _touches(done, key) and done.step.id in state.done]
    product, logged = counted_from(state)
    if not touched:
        return product, logged
    left = state.done[touched[-1]]
    return (left, True) if datetime.fromisoformat(left) < datetime.fromisoformat(product) else (product, logged)


def _touches(done: StepFlow, key: str) -> bool:
    """Returns True if a step leaves the by-product, or works in the vessel or fills it."""
    kind, _, name = key.partition(":")
    if f"{kind}:" == BY_PRODUCT:
        return any(stream.kept and stream.name == name for stream in done.outgoing)
    return f"{kind}:" == VESSEL and name in (done.step.vessel, done.vessel, done.step.into)


def lot_dates(state: RunState, kept: Keeping, day_of: Callable[[datetime], date], left: str = "") -> LotDates:
    """Returns the dates of a lot of this batch, by `kept`, its own keeping: of the product, or of what is `left` over, by the key that a line uses.

    `day_of` returns the house's day of a moment. If it was heated and no cooling was logged it counts from the start, and says so. It is kept as cold as both
    its bottling and its keeping ask for.
    """
    at, logged = left_counted_from(state, kept, left) if left else counted_from(state)
    counts = moment(at)
    use_by, reason = dated(state, kept, day_of(counts))
    if not logged:
        reason = sentences(reason, message("No cool-down was logged, so it counts from the start."))
    return LotDates(counts, use_by, reason, kept.opened_days, min(state.bottle.keep_c, kept.at_most_c))
