"""What today leaves over: skins, naked fruit, by-products, and the bottle that turns; which prep could take it, by when, with its minutes beside what it saves."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import date, datetime
from decimal import Decimal

from ..base.answer import in_answer
from ..base.messages import Day, Message, message, verbatim
from .house_experience import figure
from .leaves import Leaves
from .prep_facts import PrepFacts
from .schedule import Batch, Schedule
from .situation import Coming, Situation, Supply
from .stock_walk import walk

_LEAST_G, _LEAST_SHARE = figure("left_over", "least_g"), figure("left_over", "least_share_of_bottle")
_TURNS_WITHIN = int(figure("left_over", "turns_within_days"))
_CENT = Decimal("0.01")


@dataclass(frozen=True, slots=True, kw_only=True)
class Taker:
    """A prep that could take it: how many bottles it makes of it, how much that takes [g], its hands-on time with what it takes to get at it [min], and what it saves.

    `saves` is what so much of it costs to buy or to make [currency; None: it has no price]. `is_listed` marks one that is on today's list already.
    """

    key: str
    name: str
    bottles: int
    takes_g: float
    minutes: float
    saves: Decimal | None
    is_listed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftOver:
    """Something that today leaves: its mass [g] and, of what pours, volume [mL; else 0], of which prep or bottle, from when, and its last day (None: after the days of the list).

    `minutes` is the hands-on time to take it [min]; `offer` is what to do with it where no prep of the house takes it.
    """

    key: str
    name: Message
    source: str
    mass_g: float
    volume_ml: float
    at: datetime
    last_day: date | None
    minutes: float
    offer: Message
    takers: tuple[Taker, ...]

    @property
    @in_answer()
    def said(self) -> Message:
        """Returns from what and until when in words: "from Bergamot juice, until 4 Dec"."""
        if self.last_day is None:
            return message("from {source}", source=self.source)
        return message("from {source}, until {day}", source=self.source, day=Day(self.last_day.isoformat()))


@dataclass(frozen=True, slots=True)
class _Found:
    """A leftover of a batch [min from now]."""

    leaves: Leaves
    batch: Batch
    mass_g: float
    at_min: float


def _of_batches(situation: Situation, batches: Iterable[Batch]) -> Iterator[_Found]:
    """Yields what the batches leave that are begun today, from the end of their first hands-on time (skins and fruit) or of their last (by-products)."""
    for batch in batches:
        if batch.start_min >= situation.days[0].ends_min:
            continue
        for leaves in situation.preps[batch.key].leaves:
            mass = leaves.g_per_ml * batch.makes_ml
            if mass >= _LEAST_G:
                hands = batch.hands[0] if leaves.source.startswith(("skin:", "naked:")) else batch.hands[-1]
                yield _Found(leaves, batch, mass, hands.until_min)


def _last_day(situation: Situation, past_min: float) -> date | None:
    days = [day.day for day in situation.days if day.ends_min <= past_min + 1.0]
    return days[-1] if days and past_min <= situation.days[-1].ends_min else None


@dataclass(frozen=True, slots=True)
class _Takers:
    """Finds the preps that could take something."""

    situation: Situation
    made: Schedule
    preps: Mapping[str, PrepFacts]
    per_kg: Mapping[str, Decimal]

    def of(self, key: str, mass_g: float, own: str, extra_min: float) -> tuple[Taker, ...]:
        found = [
            self._taker(facts, key, mass_g, extra_min)
            for facts in self.preps.values()
            if facts.needs.get(key, 0.0) > 0.0 and facts.key != own
        ]
        # What saves most comes first; without prices what takes most.
        return tuple(sorted((one for one in found if one), key=lambda one: (-(one.saves or Decimal(0)), -one.takes_g, one.name)))

    def _taker(self, facts: PrepFacts, key: str, mass_g: float, extra_min: float) -> Taker | None:
        if facts.most_bottles < 1 or facts.turns_before_ready:
            return None
        each = facts.needs[key] * facts.fill_ml
        bottles = max(1, min(facts.most_bottles, math.floor(mass_g / each + 1e-9)))
        takes = min(mass_g, each * bottles)
        price = self.per_kg.get(key)
        today = self.situation.days[0].ends_min
        listed = any(one.key == facts.key and one.start_min < today for one in self.made.batches)
        return Taker(
            key=facts.key,
            name=facts.name,
            bottles=bottles,
            takes_g=takes,
            minutes=facts.hands_min + extra_min,
            saves=None if price is None else (price * Decimal(repr(takes)) / 1000).quantize(_CENT),
            is_listed=listed,
        )


def left_over(situation: Situation, made: Schedule, preps: Mapping[str, PrepFacts], per_kg: Mapping[str, Decimal]) -> tuple[LeftOver, ...]:
    """Returns what today leaves over by its last day, each with the preps that could take it. `preps` are all of the house's, `per_kg` prices by material key.

    What a batch leaves that is begun today, and bottles that turn within two days of which more is left than will be used. Of the same fruit the alternatives without a taker
    are omitted, unless none has one. Source: mass balance; expected use.
    """
    takers = _Takers(situation, made, preps, per_kg)
    found: list[LeftOver] = []
    for one in _of_batches(situation, made.batches):
        facts = situation.preps[one.batch.key]
        past = situation.past_min(one.at_min, one.leaves.keeps_days)
        found.append(
            LeftOver(
                key=one.leaves.key,
                name=one.leaves.name,
                source=facts.name,
                mass_g=one.mass_g,
                volume_ml=0.0,
                at=situation.at(one.at_min),
                last_day=_last_day(situation, past),
                minutes=one.leaves.minutes,
                offer=one.leaves.offer,
                takers=takers.of(one.leaves.key, one.mass_g, one.batch.key, one.leaves.minutes),
            )
        )
    kept = [one for n, one in enumerate(found) if one.takers or not _has_alternative(found, n)]
    return tuple(sorted([*kept, *_turning(situation, made, takers)], key=lambda one: (one.last_day or date.max, -one.mass_g)))


def _has_alternative(found: list[LeftOver], n: int) -> bool:
    """Returns True if the same batch leaves something else of the same fruit that is taken, or that stands before it."""
    fruit = found[n].key.rpartition("_")[0]
    return any(
        other.source == found[n].source
        and other.at == found[n].at
        and other.key.rpartition("_")[0] == fruit
        and (bool(other.takers) or m < n)
        for m, other in enumerate(found)
        if m != n
    )


def _turning(situation: Situation, made: Schedule, takers: _Takers) -> Iterator[LeftOver]:
    """Yields bottles that turn within two days, less what will be used of them until then."""
    last = situation.days[min(_TURNS_WITHIN, len(situation.days)) - 1].ends_min
    for key, facts in situation.preps.items():
        supplies = [one for one in situation.supplies if one.key == key]
        turning = [one for one in supplies if 0.0 < one.past_min <= last and one.left_ml > 0.0]
        if not turning:
            continue
        left = walk(supplies, [one for one in made.demands.get(key, ()) if one.at_min < last]).left_ml
        for supply in turning:
            ml = left[supply.code]
            if ml >= max(_LEAST_SHARE * facts.bottle_ml, _LEAST_G / facts.density_g_ml):
                yield _bottle(situation, facts, supply, ml, takers)


def _bottle(situation: Situation, facts: PrepFacts, supply: Supply, ml: float, takers: _Takers) -> LeftOver:
    mass = ml * facts.density_g_ml
    return LeftOver(
        key=facts.key,
        name=verbatim(facts.name),
        source=supply.code,
        mass_g=mass,
        volume_ml=ml,
        at=situation.at(max(0.0, supply.ready_min)),
        last_day=_last_day(situation, supply.past_min),
        minutes=0.0,
        offer=message("Pour it first, or freeze it while it is in date"),
        takers=takers.of(facts.key, mass, facts.key, 0.0),
    )


def with_left_over(situation: Situation, made: Schedule) -> Situation:
    """Returns the situation with what today's batches leave as deliveries to come, for the preps that were put on the list to take it; the same one if there is none.

    Of the same fruit of one batch only one part is counted on. A schedule that is made of it must begin the batches that leave it no later than `made`; `is_kept` tells.
    """
    wanted = {
        key for wish in situation.wishes.values() if wish.extra and wish.key in situation.preps for key in situation.preps[wish.key].needs
    }
    coming: dict[str, list[Coming]] = {}
    used: set[tuple[str, str]] = set()
    for one in _of_batches(situation, made.batches):
        place = (one.batch.code, one.leaves.source)
        if one.leaves.key in wanted and one.leaves.key in situation.materials and place not in used:
            used.add(place)
            coming.setdefault(one.leaves.key, []).append(Coming(one.at_min, one.mass_g))
    if not coming:
        return situation
    materials = {
        key: replace(supply, coming=(*supply.coming, *coming[key])) if key in coming else supply
        for key, supply in situation.materials.items()
    }
    return replace(situation, materials=materials)


def is_kept(situation: Situation, before: Schedule, after: Schedule) -> bool:
    """Returns True if everything that `before` leaves for the preps of the list is there as early, and as much of it, in `after`."""
    now = {(one.batch.code, one.leaves.key): one for one in _of_batches(situation, after.batches)}
    wanted = {
        key for wish in situation.wishes.values() if wish.extra and wish.key in situation.preps for key in situation.preps[wish.key].needs
    }
    for one in _of_batches(situation, before.batches):
        other = now.get((one.batch.code, one.leaves.key))
        if one.leaves.key in wanted and (other is None or other.at_min > one.at_min + 1.0 or other.mass_g < one.mass_g - 1.0):
            return False
    return True
