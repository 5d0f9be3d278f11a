"""A standard to taste against: frozen portions with an end date, or made again by weight to its readings; and how far batches drift from it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal

from ..base.figures import half_range, quantity
from ..base.messages import NOTHING, Computed, Day, Message, counted, days, listed, message, percent, sentences, term
from ..base.refusals import Refusal
from ..safety.shelf_life_rules import last_day
from .found import ALARM
from .serving import NOTICEABLE, SampleContents

StandardKind = Literal["frozen", "made"]
"""Frozen portions of one bottle, or a version that is made again by weight whenever it is wanted."""
MOST_PORTIONS, LEAST_PORTION_ML, MOST_PORTION_ML = 200, 5.0, 1000.0
READ = ("brix_reading", "acid_g_100ml")
"""What a standard is read by: °Bx on a refractometer, and acid by titration."""
_DRIFTS = {"sugar_g_100ml": message("sugar"), "acid_g_100ml": message("acid")}
_CLOSE = 1e-9


def _refused(what: Message, where: str, bound: Message, remedy: Message) -> Refusal:
    return Refusal(what, where, bound, remedy, "out_of_bounds")


def check_portions(portions: int, portion_ml: float) -> None:
    """Checks how many portions of a standard are frozen [count] and how large each is [mL]. Raises Refusal, at its place, outside 1 to 200 portions and 5 to 1,000 mL."""
    if not 1 <= portions <= MOST_PORTIONS:
        raise _refused(
            message("{n} portions cannot be", n=portions),
            "portions",
            message("1 to {most}", most=MOST_PORTIONS),
            message("Count the portions that go into the freezer"),
        )
    if not LEAST_PORTION_ML <= portion_ml <= MOST_PORTION_ML:
        raise _refused(
            message("A portion of {ml} cannot be", ml=Computed(portion_ml, "mL", 0)),
            "portion_ml",
            message("{least} to {most}", least=Computed(LEAST_PORTION_ML, "mL", 0), most=Computed(MOST_PORTION_ML, "mL", 0)),
            message("One panel's worth is a good portion"),
        )


def frozen_until(rules: Mapping[str, Any], frozen_on: date, wanted: int | None) -> tuple[date, Message]:
    """Returns (last day, its reason) of portions frozen on a day, by the keeping rules of the house: until their aroma fades, or for the `wanted` days. What dulls a
    product in the cold stands still meanwhile. Raises Refusal for more days than that. Source: the rules, dated and sourced.
    """
    coldest = Computed(rules["barriers"]["frozen"]["most"], "°C", 0)
    rule = min((rule for rule in rules["quality"] if rule["when"].get("frozen") is True), key=lambda rule: rule["days"])
    most, because = rule["days"], term(rule["words"])
    count = most if wanted is None else wanted
    if not 1 <= count <= most:
        raise _refused(
            message("{days} cannot be", days=days(count)),
            "days",
            message("1 to {most}: {because}", most=most, because=because),
            message("A standard that has faded is none"),
        )
    why = because if wanted is None else message("the house ends it then")
    return last_day(frozen_on, count), message("{days} at {c} or colder: {why}.", days=days(count), c=coldest, why=why)


def thaw_words(portions: int, name: str) -> Message:
    """Returns what is thawed before a panel is poured."""
    return message(
        "Thaw {portions} of {name} in the cold, stir, and use it today: what is thawed is not frozen again.",
        portions=counted("{n} portion", "{n} portions", portions),
        name=name,
    )


def portions_for(needed_ml: float, portion_ml: float) -> int:
    """Returns how many portions [count] hold so much [mL], at least one."""
    return max(1, math.ceil(needed_ml / portion_ml - _CLOSE))


def standard_stop(*, ended: str, recalled: bool, until: date | None, portions: int | None, today: date) -> Message:
    """Returns why nobody may taste against a standard today; empty if they may. `until` is None while what is made again was not made yet, `portions` for such a one."""
    if recalled:
        return message("What it was taken from was recalled or withdrawn: nobody tastes it.")
    if ended:
        return message("It was ended: {why}", why=ended)
    if until is None:
        return message("It is not made yet: make it by weight, and read it.")
    if today > until:
        if portions is None:
            return message("What was made of it was good until {day}: make it again, and read it.", day=Day(until.isoformat()))
        return message("Its last day was {day}: freeze a new one.", day=Day(until.isoformat()))
    if portions == 0:
        return message("No portion is left: freeze a new one.")
    return NOTHING


def reads_words(readings: Mapping[str, float]) -> Message:
    """Returns readings, by figure, in words: "44.6 °Bx and 1.77 g/100 mL acid"."""
    names = {"acid_g_100ml": message("acid")}
    return message(
        "{readings}",
        readings=listed(
            message("{value} {name}", value=quantity(key, value), name=names[key]) if key in names else quantity(key, value)
            for key, value in readings.items()
        ),
    )


def check_reads_so(wanted: Mapping[str, float], read: Mapping[str, float]) -> None:
    """Raises Refusal, at its place, for readings by which what was made again is not the standard: farther off than two readings of one liquid may lie apart, and
    for none at all.
    """
    if not set(wanted) & set(read):
        raise Refusal(
            message("A standard that is made again is read"),
            "brix_reading",
            remedy=message("Read its °Bx, or its acid"),
            code="missing",
        )
    for name, value in read.items():
        allowed = 2.0 * half_range(name)
        if name in wanted and not abs(value - wanted[name]) <= allowed:
            raise _refused(
                message("{read} is not the standard", read=quantity(name, value)),
                name,
                message("{wanted}, give or take {allowed}", wanted=quantity(name, wanted[name]), allowed=quantity(name, allowed)),
                message("Correct it and read it again, or weigh it anew"),
            )


@dataclass(frozen=True, slots=True)
class DriftPoint:
    """A batch beside the standard: its bottle, the number of its version, its day, and by what share its sugar and acid lie above it [1]; None where nobody knows. `words` say what is noticeable."""

    lot: str
    version: int
    day: date
    sugar: float | None
    acid: float | None
    words: Message


@dataclass(frozen=True, slots=True)
class Drift:
    """The batches of a spec compared with a standard: a point for each batch, the oldest first, a summary in words, and from which share [1] on a difference is noticeable."""

    points: tuple[DriftPoint, ...]
    words: Message
    noticeable: float = NOTICEABLE


@dataclass(frozen=True, slots=True)
class Batch:
    """A batch: its bottle, the number of its version, its day, and what is in it."""

    lot: str
    version: int
    day: date
    contents: SampleContents


def drift(standard: SampleContents, batches: Sequence[Batch]) -> Drift:
    """Returns how far the batches lie from a standard: from a tenth on, which many notice side by side, it is said."""
    points = tuple(sorted((_beside(standard, batch) for batch in batches), key=lambda point: (point.day, point.lot)))
    off = [point for point in points if point.words]
    if not points:
        return Drift((), message("No batch stands beside it yet."))
    told = counted("{n} batch stands beside it", "{n} batches stand beside it", len(points))
    if not off:
        return Drift(points, message("{told}: none is off by a tenth, which many would notice.", told=told))
    last = message(
        "The last one that is off is {lot}, version {version}: {words}.", lot=off[-1].lot, version=off[-1].version, words=off[-1].words
    )
    return Drift(points, sentences(message("{told}, {n} of them a tenth off or more.", told=told, n=len(off)), last))


def differs(found: Mapping[str, Any], place: int) -> bool:
    """Returns True if a panel showed that something differs from its sample at a place (from 0). `found` is its `PanelFound` as it is stored."""
    share = found.get("share")
    if share:
        return bool(share["by_chance"] <= ALARM if share.get("ended_by") is None else share["ended_by"] == "difference")
    several = found.get("ranking") or found.get("scores") or {"pairs": ()}
    return any(pair["by_chance"] <= ALARM and place in (pair["first"], pair["second"]) for pair in several["pairs"])


def _beside(standard: SampleContents, batch: Batch) -> DriftPoint:
    shares = {}
    for name in _DRIFTS:
        own, other = getattr(standard, name), getattr(batch.contents, name)
        shares[name] = other / own - 1.0 if own and other is not None else None
    words = [
        message(
            "{share} {more} {what}", share=percent(abs(share)), more=message("more") if share > 0.0 else message("less"), what=_DRIFTS[name]
        )
        for name, share in shares.items()
        if share is not None and abs(share) >= NOTICEABLE - _CLOSE
    ]
    return DriftPoint(
        batch.lot,
        batch.version,
        batch.day,
        shares["sugar_g_100ml"],
        shares["acid_g_100ml"],
        message("{all}", all=listed(words)) if words else NOTHING,
    )
