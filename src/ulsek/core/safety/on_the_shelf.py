"""Lots on the shelf: whether a lot may be poured, from when it expires soon, and how much of it may be taken."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Literal

from ..base.figures import MOST_G
from ..base.messages import NOTHING, Computed, Given, Message, counted, message, sentences
from ..base.refusals import Refusal
from .shelf_life import Keeping
from .shelf_life_rules import last_day

LATEST_DAY_TURN = time(8)
"""Latest time of day at which a day of a house may turn: a last day ends then, and must not reach into the next day's work. House prudence."""
EXPIRES_SOON_DAYS = 2
"""A lot whose last day is at most so many days away stands among those that turn [days]. House experience."""
State = Literal["good", "resting", "past", "withdrawn", "recalled", "gone"]


@dataclass(frozen=True, slots=True)
class ShelfFacts:
    """What decides whether a lot may be poured: the end of its last day, when it is ready and why not before, why its version was withdrawn, why it was
    recalled, and whether it has left the shelf. Moments have their offset.
    """

    past_at: datetime
    ready_at: datetime | None = None
    ready_why: Message = NOTHING
    withdrawn: str = ""
    recalled: str = ""
    gone: bool = False


@dataclass(frozen=True, slots=True)
class ShelfState:
    """The state of a lot: it may be poured only if its `state` is "good". `until` is the moment at which that changes by itself, None if it never does."""

    state: State
    until: datetime | None


def too_warm(keep_c: float, place: str, at_c: float | None) -> Message:
    """Returns the sentence that a lot to be kept at `keep_c` or colder stands too warm in a place of up to `at_c` [°C]; nothing if it does not, or nobody has measured."""
    if at_c is None or at_c <= keep_c:
        return NOTHING
    return message(
        "{place} is up to {at} °C, and this keeps at {keep} °C or colder: move it, its date does not hold there.",
        place=place,
        at=Given(at_c),
        keep=Given(keep_c),
    )


def shelf_state(lot: ShelfFacts, now: datetime) -> ShelfState:
    """Returns the state of a lot at `now`. The last day is included. A state in which it may never be poured again goes before "resting". Source: date marking
    of food codes.
    """
    # In the order of finality: a recalled lot is recalled even after its date, and a past one never becomes ready.
    if lot.gone:
        return ShelfState("gone", None)
    if lot.recalled:
        return ShelfState("recalled", None)
    if lot.withdrawn:
        return ShelfState("withdrawn", None)
    if now >= lot.past_at:
        return ShelfState("past", None)
    if lot.ready_at is not None and now < lot.ready_at:
        # A lot may pass its date while it rests.
        return ShelfState("resting", min(lot.ready_at, lot.past_at))
    return ShelfState("good", lot.past_at)


def expires_soon_until(today: date) -> date:
    """Returns the last of the days that count as soon: a lot whose last day is this one or an earlier one expires soon, if it has not expired already."""
    # Today counts as zero days away.
    return today + timedelta(days=EXPIRES_SOON_DAYS)


UNKNOWN_DAYS = 2
"""Days that a bottle with unknown contents keeps, the day of its making included [days]. House prudence: as a fresh juice, kept cold."""
FOUND_ML = 700.0
"""Assumed volume of a bottle that was not measured [mL]: a usual bottle, full."""
MOST_DAYS_AGO = 400
"""Most days between the making of a bottle and its labelling [days]."""
FRIDGE_C = 5.0
"""Warmest place for a bottle with unknown contents [°C]. Source: usual limit of food codes for chilled food."""


@dataclass(frozen=True, slots=True)
class FoundDates:
    """Dates of a bottle whose making was not recorded: its last day with the reason, its days once opened, and the warmest place [°C]."""

    use_by: date
    reason: Message
    opened_days: int
    keep_c: float


def found_dates(keeping: Keeping | None, made: date | None, today: date) -> FoundDates:
    """Returns the dates of a bottle whose making was not recorded, by the `keeping` of its spec (None: unknown contents) from the day it was `made` (None: unknown
    age). A bottle of unknown age is to be used on the day it is labelled.
    """
    opened, keep_c = (keeping.opened_days, keeping.at_most_c) if keeping else (UNKNOWN_DAYS, FRIDGE_C)
    if made is None:
        return FoundDates(today, message("Nobody knows when it was made: use it today, or throw it away."), opened, keep_c)
    if keeping is None:
        last = last_day(made, UNKNOWN_DAYS)
        return FoundDates(
            last,
            counted(
                "Nobody wrote down what is in it: {n} day at most.", "Nobody wrote down what is in it: {n} days at most.", UNKNOWN_DAYS
            ),
            opened,
            keep_c,
        )
    last, reason = keeping.dated(made)
    return FoundDates(last, sentences(reason, message("Labelled afterwards; made from memory.")), opened, keep_c)


def checked_amount(value: object, unit: str, refused: Message, most: float = MOST_G) -> float:
    """Returns an amount of a lot [`unit`: mL or g], from 0 to `most`. Raises Refusal with the template `refused`, which holds the places {value} and {unit}."""
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value) or not 0 <= value <= most:
        raise Refusal(
            refused.with_values(value=str(value), unit=unit),
            "body/amount",
            message("from 0 to {most} {unit}", most=Computed(most, decimals=0), unit=unit),
            message("Measure it again"),
            "out_of_bounds",
        )
    return float(value)
