"""Waits: what a step without hands-on work waits for, since when and until when, and which waits need attention."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime, timedelta

from ..base.answer import json_member
from ..base.messages import Message, Word, verbatim
from .device_clocks import moment
from .state import RunState

LABELLED_MIN = 15.0
"""A vessel that waits longer [min] is left alone, and wants a label. House experience."""
ALERTED_MIN = 60.0
"""The end of a longer wait [min] alerts whoever is on duty; somebody who waits for less stands beside it. House experience."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Waiting:
    """A step that waits for a fixed time, from `since` until `until`: `kind` is its verb, `family` that verb's family, `doing` the word for what goes on."""

    since: datetime
    until: datetime
    kind: str
    family: str = field(metadata=json_member(stored=""))
    doing: Message = field(metadata=json_member(stored=""))


def waiting_of(state: RunState) -> Waiting | None:
    """Returns what the step at hand waits for; None while it needs hands-on work."""
    step = state.current
    if step is None or step.waiting_min <= 0 or step.id not in state.begun:
        return None
    begun = moment(state.begun[step.id])
    doing = verbatim(Word("verbs", step.verb, form="doing"))
    return Waiting(since=begun, until=begun + timedelta(minutes=step.waiting_min), kind=step.verb, family=step.family, doing=doing)


def needs_attention(since: datetime, until: datetime, now: datetime) -> bool:
    """Returns True if a wait is over at `now` that was long enough for people to have left."""
    # A short wait needs no alert: whoever waits is still there.
    return until <= now and until - since >= timedelta(minutes=ALERTED_MIN)
