"""The list of a day as an answer: what is made in order, what misses its day, what is ordered, and what runs out; each with its reasons in words."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime

from ..base.messages import NOTHING, Computed, Message, counted, listed, message, minutes, short_name
from .house_experience import figure
from .rota import HandsAt
from .schedule import Batch, Schedule, Short, openings
from .situation import Situation, Supply
from .stock_walk import Met, walk

_EARLIER_MIN = 45.0
"""A batch that begins so much earlier than it would have to says why [min]; house judgement."""
_SHOWN_DAYS = 7


@dataclass(frozen=True, slots=True, kw_only=True)
class ListHands:
    """A time interval in which one person works on a batch: key and name of the person (empty in a list by the clock alone), its start and end."""

    worker: str
    name: str
    from_at: datetime
    until_at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class ListLine:
    """A batch on a list: what stands there in date when it is needed [mL], how much is made, when it is begun at the latest, and by whom.

    `needed` says for what; `lasts_until` is the last day whose par it covers. `is_late` marks one that misses its day, `is_extra` one that was put on by hand.
    """

    key: str
    name: str
    there_ml: float
    must_ml: float
    needed_at: datetime
    needed: Message
    lasts_until: date | None
    bottles: int
    bottle_ml: float
    makes_ml: float
    start_by: datetime
    ready_at: datetime
    use_by: date | None
    hands: tuple[ListHands, ...]
    is_cleared: bool
    is_late: bool
    is_extra: bool
    why: tuple[Message, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class MissedPar:
    """A par that cannot be met: by how much [mL], when it opens, why, and the nearest that can."""

    key: str
    name: str
    at: datetime
    short_ml: float
    ready_at: datetime | None
    what: Message
    nearest: Message


@dataclass(frozen=True, slots=True, kw_only=True)
class StandsThere:
    """What stands there of a prep when a day opens, without anything more being made, beside its par [mL]."""

    day: date
    there_ml: float
    must_ml: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RunsOut:
    """How long a prep lasts without anything more being made: on which day it runs out (null: not within the days), and what stands there until then."""

    key: str
    name: str
    left_ml: float
    day: date | None
    stands: tuple[StandsThere, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class DayList:
    """The list of a day: what is begun today in order, what on the days after, what misses its day, and what runs out."""

    now: datetime
    day: date
    lines: tuple[ListLine, ...]
    later: tuple[ListLine, ...]
    missed: tuple[MissedPar, ...]
    runs_out: tuple[RunsOut, ...]
    by_the_clock: bool
    said: Message


def _volume(ml: float) -> Computed:
    return Computed(ml / 1000.0, "L", 2) if ml >= 1000.0 else Computed(ml, "mL", 0)


def bottles_words(count: int, ml: float) -> Message:
    """Returns the size of a batch in words: "1 bottle, 475 mL", "3 bottles, 1.43 L"."""
    return counted("{n} bottle, {volume}", "{n} bottles, {volume}", count, volume=_volume(ml))


@dataclass(frozen=True, slots=True)
class _Reader:
    """Reads the lines of a schedule."""

    situation: Situation
    made: Schedule

    def supplies(self, key: str, batches: Iterable[Batch] = ()) -> list[Supply]:
        return [*(one for one in self.situation.supplies if one.key == key), *(one.supply for one in batches)]

    def line(self, batch: Batch) -> ListLine:
        situation, facts = self.situation, self.situation.preps[batch.key]
        before = [one for one in self.made.batches if one.key == batch.key and one.number < batch.number]
        there = self._at(batch, before)
        wish = situation.wishes.get(batch.key)
        covers = self._covers(batch, [*before, batch])
        finite = batch.past_min <= situation.days[-1].ends_min
        return ListLine(
            key=batch.key,
            name=facts.name,
            there_ml=there.there_ml if there else 0.0,
            must_ml=there.demand.must_ml if there else 0.0,
            needed_at=situation.at(batch.needed_min),
            needed=self._needed(batch),
            lasts_until=situation.days[covers].day if covers is not None else None,
            bottles=batch.bottles,
            bottle_ml=facts.bottle_ml,
            makes_ml=batch.makes_ml,
            start_by=situation.at(batch.start_min),
            ready_at=situation.at(batch.ready_min),
            use_by=situation.days[situation.day_index(batch.past_min - 1.0)].day if finite else None,
            hands=tuple(self._hands(one) for one in batch.hands),
            is_cleared=all(one.is_cleared(batch.key) for one in situation.workers if one.key == batch.hands[0].worker),
            is_late=any(one.key == batch.key and one.at_min == batch.needed_min for one in self.made.shorts),
            is_extra=wish is not None and wish.extra and batch.number == 0,
            why=tuple(self._why(batch, before, covers)),
        )

    def _hands(self, part: HandsAt) -> ListHands:
        names = {worker.key: worker.name for worker in self.situation.workers}
        return ListHands(
            worker=part.worker,
            name=names.get(part.worker, ""),
            from_at=self.situation.at(part.from_min),
            until_at=self.situation.at(part.until_min),
        )

    def _at(self, batch: Batch, before: list[Batch]) -> Met | None:
        met = walk(self.supplies(batch.key, before), self.made.demands[batch.key]).met
        return next((one for one in met if one.demand.at_min == batch.needed_min and self._is_for(one, batch)), None)

    @staticmethod
    def _is_for(met: Met, batch: Batch) -> bool:
        return (met.demand.batch is None) == (batch.needed_for == "")

    def _needed(self, batch: Batch) -> Message:
        if batch.needed_for:
            return message(
                "for {prep}, {moment}",
                prep=short_name(self.situation.preps[batch.needed_for].name),
                moment=self.situation.when(batch.needed_min),
            )
        return self.situation.when(batch.needed_min)

    def _covers(self, batch: Batch, batches: list[Batch]) -> int | None:
        """Returns the position of the last day whose par is met in a row, from when the batch is ready on; None if there is none."""
        met = walk(self.supplies(batch.key, batches), self.made.demands[batch.key]).met
        covered = None
        for one in met:
            if one.demand.batch is not None or one.demand.at_min < batch.ready_min or one.demand.must_ml <= 0.0:
                continue
            if one.short_ml > 0.0:
                break
            covered = one.demand.day
        return covered

    def _why(self, batch: Batch, before: list[Batch], covers: int | None) -> Iterable[Message]:
        situation, facts = self.situation, self.situation.preps[batch.key]
        takes = minutes(batch.ready_min - batch.start_min)
        if batch.needed_for:
            name = short_name(situation.preps[batch.needed_for].name)
            yield message(
                "It takes {takes}, and {prep} takes it on {moment}.", takes=takes, prep=name, moment=situation.when(batch.needed_min)
            )
        else:
            yield message("It takes {takes}, and must stand there on {moment}.", takes=takes, moment=situation.when(batch.needed_min))
        yield self._size(batch, covers)
        yield from self._one_more_or_less(batch, before)
        if batch.overlong_min > 0.0:
            yield message(
                "Nobody is there when its wait is over: it goes on for {longer} more than its spec says.",
                longer=minutes(batch.overlong_min),
            )
        if batch.not_before == "fruit":
            yield message("It waits for what it is made of to be delivered.")
        elif batch.not_before == "parts":
            yield message("It waits for what it is made of to be ready.")
        latest = batch.needed_min - facts.takes_min
        if not situation.by_the_clock and latest - batch.start_min > _EARLIER_MIN:
            yield message(
                "It could be begun until {moment}, but nobody is free then who could make it, and take it up when it waits.",
                moment=situation.when(latest),
            )

    def _size(self, batch: Batch, covers: int | None) -> Message:
        facts, situation = self.situation.preps[batch.key], self.situation
        bottles = bottles_words(batch.bottles, batch.makes_ml)
        full = batch.bottles >= facts.most_bottles
        day = situation.day_words(covers) if covers is not None else None
        if full and facts.fits_vessel:
            vessel = facts.fits_vessel
            return (
                message("{bottles}: no more fit the {vessel}; they last through {day}.", bottles=bottles, vessel=vessel, day=day)
                if day
                else message("{bottles}: no more fit the {vessel}.", bottles=bottles, vessel=vessel)
            )
        return message("{bottles}, to last through {day}.", bottles=bottles, day=day) if day else message("{bottles}.", bottles=bottles)

    def _one_more_or_less(self, batch: Batch, before: list[Batch]) -> Iterable[Message]:
        facts, situation, demands = self.situation.preps[batch.key], self.situation, self.made.demands[batch.key]

        def walked(bottles: int) -> tuple[float, Met | None]:
            tried = Supply(batch.key, batch.code, bottles * facts.fill_ml, batch.ready_min, batch.past_min)
            found = walk([*self.supplies(batch.key, before), tried], demands)
            short = next((one for one in found.met if one.short_ml > 0.0 and batch.ready_min <= one.demand.at_min < batch.past_min), None)
            return (found.left_ml[batch.code] if batch.past_min <= situation.days[-1].ends_min else 0.0), short

        more, _ = walked(batch.bottles + 1)
        _, short = walked(batch.bottles - 1)
        _, short_now = walked(batch.bottles)
        if batch.bottles < facts.most_bottles and more >= facts.fill_ml:
            yield message("One more would leave {volume} for the bin.", volume=_volume(more))
        if batch.bottles > 1 and short is not None and (short_now is None or short.demand.at_min < short_now.demand.at_min):
            yield message("One fewer falls short on {moment}.", moment=situation.when(short.demand.at_min))

    def missed(self, short: Short) -> MissedPar:
        situation, facts = self.situation, self.situation.preps[short.key]
        ready = None if short.ready_min is None else situation.at(short.ready_min)
        said = message(
            "{name}: {volume} short for {moment}, because {why}.",
            name=facts.name,
            volume=_volume(short.short_ml),
            moment=situation.when(short.at_min),
            why=self._reason(short),
        )
        nearest = (
            message("The nearest that can: ready {moment}.", moment=situation.when(short.ready_min))
            if short.ready_min is not None
            else message("Nothing within a week can: take it off the par, or change its spec.")
            if short.why in ("vessel", "turns")
            else message("Nothing within a week can: see who could come in, and what could be ordered.")
        )
        return MissedPar(
            key=short.key,
            name=facts.name,
            at=situation.at(short.at_min),
            short_ml=short.short_ml,
            ready_at=ready,
            what=said,
            nearest=nearest,
        )

    def _reason(self, short: Short) -> Message:
        facts = self.situation.preps[short.key]
        if short.why == "fruit":
            names = listed([short_name(self.situation.materials[key].name) for key in short.materials])
            return (
                message("the {materials} for it is not here", materials=names)
                if short.materials
                else message("what it is made of is not here")
            )
        if short.why == "parts":
            return message("what it is made of is not ready")
        if short.why == "vessel":
            return message("not even one bottle of it fits the {vessel}", vessel=facts.fits_vessel)
        if short.why == "turns":
            return message("it would be out of date by then")
        if short.why == "people":
            return (
                message("nobody is in who could make it in time; {away}", away=_away(self.situation))
                if self.situation.away
                else message("nobody is in who could make it in time")
            )
        return message("it takes {takes}", takes=minutes(facts.takes_min))

    def runs_out(self, key: str) -> RunsOut:
        situation, facts = self.situation, self.situation.preps[key]
        supplies = [one for one in self.supplies(key) if one.past_min > 0.0]
        met = walk(supplies, openings(situation, key)).met
        out = next((one for one in met if one.used_ml < one.demand.use_ml * (1.0 - figure("short_share"))), None)
        day = situation.days[out.demand.day].day if out is not None else None
        return RunsOut(
            key=key,
            name=facts.name,
            left_ml=sum(max(0.0, one.left_ml) for one in supplies),
            day=day,
            stands=tuple(
                StandsThere(day=situation.days[one.demand.day].day, there_ml=one.there_ml, must_ml=one.demand.must_ml)
                for one in met[:_SHOWN_DAYS]
            ),
        )


def day_list(situation: Situation, made: Schedule) -> DayList:
    """Returns the list of today with its reasons. Source: `schedule`; every number of it can be read off the situation."""
    reader = _Reader(situation, made)
    ends = situation.days[0].ends_min
    lines = tuple(reader.line(one) for one in made.batches if one.start_min < ends)
    first: dict[str, Short] = {}
    for short in made.shorts:
        first.setdefault(short.key, short)
    missed = tuple(reader.missed(one) for one in first.values())
    runs_out = sorted(
        (reader.runs_out(key) for key in situation.must), key=lambda one: (one.day is None, one.day or situation.days[0].day, one.name)
    )
    return DayList(
        now=situation.now,
        day=situation.days[0].day,
        lines=lines,
        later=tuple(reader.line(one) for one in made.batches if one.start_min >= ends),
        missed=missed,
        runs_out=tuple(runs_out),
        by_the_clock=situation.by_the_clock,
        said=_said(len(lines), missed, situation),
    )


def _said(lines: int, missed: tuple[MissedPar, ...], situation: Situation) -> Message:
    """Returns the list in one sentence."""
    to_make = (
        counted("{n} to make", "{n} to make", lines)
        if lines
        else message("nothing can be begun today")
        if missed
        else message("nothing has to be begun today")
    )
    short = (
        message("{names} misses its day", names=listed([short_name(one.name) for one in missed]))
        if len(missed) == 1
        else message("{names} miss their day", names=listed([short_name(one.name) for one in missed]))
        if missed
        else message("nothing is short")
    )
    return message("{parts}", parts=listed([part for part in (to_make, short, _away(situation)) if part], "dot"))


def _away(situation: Situation) -> Message:
    """Returns who is away today; empty if nobody is."""
    if not situation.away:
        return NOTHING
    names = listed(situation.away)
    return message("{names} is away", names=names) if len(situation.away) == 1 else message("{names} are away", names=names)
