"""Dates of a batch: from which moment the product and each thing left over keep, and their last days."""

from __future__ import annotations

from datetime import date, datetime

from ..base.messages import Message
from ..evaluation.flow import StepFlow
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..safety.shelf_life import MIXING, Keeping
from ..spec import spec as s
from .state import RunState


def dated(state: RunState, kept: Keeping, from_day: date) -> tuple[date, Message]:
    """(last day, its reason) of what came of this batch: as `kept` says, counted from `from_day`, and past already where something went in past its own."""
    past = [(date.fromisoformat(day), words) for day, words in state.record.past_use_by.values()]
    return min([kept.dated(from_day), *past], key=lambda item: item[0])


def _mixed_at(state: RunState) -> str:
    """The moment [ISO 8601] when the first perishable thing was weighed; the first of any where nothing is perishable, the start where nothing is in."""
    lines, weighed = state.spec.lines, state.record.weighed_at
    perishable = [
        at
        for line, at in weighed.items()
        if line in lines and (found := state.materials.get(lines[line].material)) is not None and not found.defined
    ]
    return min(perishable or weighed.values(), key=datetime.fromisoformat, default=state.events[0].at)


def counted_from(state: RunState) -> tuple[str, bool]:
    """(moment [ISO 8601] from which the product's keeping counts, whether it was logged): the end of its last cooling; its mixing where nothing was heated; the
    very start where it was heated and no cooling was logged, which is the strict reading.
    """
    if state.evaluation.keeping.counts_from == MIXING:
        return _mixed_at(state), True
    cooled = [
        state.done[step.id]
        for step in state.spec.steps
        if isinstance(step, s.Cool) and step.id in state.done and step.id not in state.skipped
    ]
    return (cooled[-1], True) if cooled else (state.events[0].at, False)


def left_counted_from(state: RunState, kept: Keeping, key: str) -> tuple[str, bool]:
    """The same of what is left over, by `kept`, its own keeping, and `key` as a line calls it: peel that was taken out before a rest of ten days is ten days old.

    It counts from its mixing where it was never heated, else from the step that left it, and never from later than the product does.
    """
    if kept.counts_from == MIXING:
        return _mixed_at(state), True
    touched = [done.step.id for done in state.evaluation.plain.steps if _touches(done, key) and done.step.id in state.done]
    product, logged = counted_from(state)
    if not touched:
        return product, logged
    left = state.done[touched[-1]]
    return (left, True) if datetime.fromisoformat(left) < datetime.fromisoformat(product) else (product, logged)


def _touches(done: StepFlow, key: str) -> bool:
    """Whether a step leaves a by-product, or works in a vessel or fills it."""
    kind, _, name = key.partition(":")
    if f"{kind}:" == BY_PRODUCT:
        return any(stream.kept and stream.name == name for stream in done.leaving)
    return f"{kind}:" == VESSEL and name in (done.step.vessel, done.vessel, done.step.into)
