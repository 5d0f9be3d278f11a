"""Leftovers of today: skins, zested fruit, by-products, and stock that expires soon; which preps could use them, until when, in how many minutes, and what that saves."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from decimal import Decimal

from ..base.answer import in_answer
from ..base.messages import Day, Message, message, verbatim
from .house_experience import figure
from .poured import poured_before_g
from .prep_facts import PrepFacts
from .prep_leftovers import PrepLeftover
from .schedule import Batch, Schedule
from .situation import Coming, MaterialSupply, Situation, Supply
from .stock_walk import walk

_LEAST_G, _LEAST_SHARE = figure("left_over", "least_g"), figure("left_over", "least_share_of_bottle")
_TURNS_WITHIN = int(figure("left_over", "turns_within_days"))
_CENT = Decimal("0.01")
_SAME = 1.0
"""Differences of less than a minute or a gram are none."""


@dataclass(frozen=True, slots=True)
class TurningDelivery:
    """An open delivery of the material `key`, with `mass_g` [g] left, that expires at `past_min` [min from now]."""

    key: str
    name: str
    code: str
    mass_g: float
    past_min: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Taker:
    """A prep that could use a leftover: the number of bottles made with it, the mass they use [g], and the hands-on time, recovering the leftover included [min].

    `saves` is the value of that mass [currency; None without a price]. `is_listed` is True if the prep is on today's list already.
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
    """A leftover: its mass [g], its volume [mL; 0 unless it is a lot], the prep, lot or delivery that it comes from, and its last day (None: after the days of the list).

    `at` is when it is available, `minutes` the hands-on time to recover it [min]; `offer` is a use that needs no other prep.
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
        """Returns the source and the last day in words: "from Bergamot juice, until 4 Dec"."""
        if self.last_day is None:
            return message("from {source}", source=self.source)
        return message("from {source}, until {day}", source=self.source, day=Day(self.last_day.isoformat()))


@dataclass(frozen=True, slots=True)
class _Found:
    """A leftover of a batch: its mass [g], and when it is available [min from now]."""

    leftover: PrepLeftover
    batch: Batch
    mass_g: float
    at_min: float

    @property
    def alternatives(self) -> tuple[str, str]:
        """The same for leftovers that are parts of the same fruit of one batch."""
        return self.batch.code, self.leftover.source


def _of_batches(situation: Situation, batches: Iterable[Batch]) -> Iterator[_Found]:
    """Yields the leftovers of the batches that start today."""
    for batch in batches:
        if batch.start_min >= situation.days[0].ends_min:
            continue
        for leftover in situation.preps[batch.key].leftovers:
            mass = leftover.g_per_ml * batch.makes_ml
            if mass >= _LEAST_G:
                hands = batch.hands[0] if leftover.from_fruit else batch.hands[-1]
                yield _Found(leftover, batch, mass, hands.until_min)


def _last_day(situation: Situation, past_min: float) -> date | None:
    """Returns the last day that ends before something expires at `past_min` [min from now]; None if it lasts longer than the days of the situation."""
    days = [day.day for day in situation.days if day.ends_min <= past_min + _SAME]
    return days[-1] if days and past_min <= situation.days[-1].ends_min else None


@dataclass(frozen=True, slots=True)
class _Takers:
    """Finds the preps that could use a leftover. `preps` are all of the house, `per_kg` prices by material key [currency/kg]."""

    situation: Situation
    made: Schedule
    preps: Mapping[str, PrepFacts]
    per_kg: Mapping[str, Decimal]

    def of(self, key: str, mass_g: float, own: str, extra_min: float) -> tuple[Taker, ...]:
        """Returns the preps other than `own` that use the material, the largest saving first; without prices the largest mass first."""
        found = [
            self._taker(facts, key, mass_g, extra_min)
            for facts in self.preps.values()
            if facts.needs.get(key, 0.0) > 0.0 and facts.key != own
        ]
        return tuple(sorted((one for one in found if one), key=lambda one: (-(one.saves or Decimal(0)), -one.takes_g, one.name)))

    def _taker(self, facts: PrepFacts, key: str, mass_g: float, extra_min: float) -> Taker | None:
        """Returns None for a prep that cannot be made, and for one of which not even a bottle can be made of a material that cannot be bought or made besides."""
        each = facts.needs[key] * facts.fill_ml
        is_sold = key in self.situation.materials or key in self.preps
        if facts.most_bottles < 1 or facts.turns_before_ready or (mass_g < each and not is_sold):
            return None
        bottles = max(1, min(facts.most_bottles, math.floor(mass_g / each + 1e-9)))
        takes = min(mass_g, each * bottles)
        price = self.per_kg.get(key)
        today = self.situation.days[0].ends_min
        return Taker(
            key=facts.key,
            name=facts.name,
            bottles=bottles,
            takes_g=takes,
            minutes=facts.hands_min + extra_min,
            saves=None if price is None else (price * Decimal(repr(takes)) / 1000).quantize(_CENT),
            is_listed=any(one.key == facts.key and one.start_min < today for one in self.made.batches),
        )


def left_over(
    situation: Situation,
    made: Schedule,
    preps: Mapping[str, PrepFacts],
    per_kg: Mapping[str, Decimal],
    deliveries: Sequence[TurningDelivery] = (),
) -> tuple[LeftOver, ...]:
    """Returns the leftovers of today in order of their last day, each with the preps that could use it. `preps` are all of the house, `per_kg` prices by material key [currency/kg].

    They are leftovers of the batches that start today, and lots and deliveries that expire within two days with more left than will be used. Of alternatives those without a
    taker are omitted; if none has one the first is returned. Source: mass balance; expected use.
    """
    takers = _Takers(situation, made, preps, per_kg)
    groups: dict[tuple[str, str], list[LeftOver]] = {}
    for one in _of_batches(situation, made.batches):
        groups.setdefault(one.alternatives, []).append(_of_batch(situation, one, takers))
    kept = [one for group in groups.values() for one in ([one for one in group if one.takers] or group[:1])]
    turning = [*_turning_lots(situation, made, takers), *_turning_deliveries(situation, made, deliveries, takers)]
    return tuple(sorted([*kept, *turning], key=lambda one: (one.last_day or date.max, -one.mass_g)))


def _of_batch(situation: Situation, found: _Found, takers: _Takers) -> LeftOver:
    leftover = found.leftover
    return LeftOver(
        key=leftover.key,
        name=leftover.name,
        source=situation.preps[found.batch.key].name,
        mass_g=found.mass_g,
        volume_ml=0.0,
        at=situation.at(found.at_min),
        last_day=_last_day(situation, situation.past_min(found.at_min, leftover.keeps_days)),
        minutes=leftover.minutes,
        offer=leftover.offer,
        takers=takers.of(leftover.key, found.mass_g, found.batch.key, leftover.minutes),
    )


def _turns_before_min(situation: Situation) -> float:
    """Returns the end of the days within which stock counts as expiring soon [min from now]. Source: house experience."""
    return situation.days[min(_TURNS_WITHIN, len(situation.days)) - 1].ends_min


def _turning_lots(situation: Situation, made: Schedule, takers: _Takers) -> Iterator[LeftOver]:
    """Yields the lots that expire within two days, with the volume [mL] that remains after the expected use until then."""
    last = _turns_before_min(situation)
    for key, facts in situation.preps.items():
        supplies = [one for one in situation.supplies if one.key == key]
        turning = [one for one in supplies if 0.0 < one.past_min <= last and one.left_ml > 0.0]
        if not turning:
            continue
        left = walk(supplies, [one for one in made.demands.get(key, ()) if one.at_min < last]).left_ml
        for supply in turning:
            ml = left[supply.code]
            if ml >= max(_LEAST_SHARE * facts.bottle_ml, _LEAST_G / facts.density_g_ml):
                yield _lot(situation, facts, supply, ml, takers)


def _lot(situation: Situation, facts: PrepFacts, supply: Supply, ml: float, takers: _Takers) -> LeftOver:
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


def _turning_deliveries(situation: Situation, made: Schedule, deliveries: Sequence[TurningDelivery], takers: _Takers) -> Iterator[LeftOver]:
    """Yields the deliveries that expire within two days, with the mass [g] that remains after the expected use until then; the first to expire is used first."""
    last, opens = _turns_before_min(situation), [day.opens_min for day in situation.days]
    allotted: dict[str, float] = {}
    for one in sorted(deliveries, key=lambda one: (one.past_min, one.code)):
        if not 0.0 < one.past_min <= last:
            continue
        used = sum(
            claim.mass_g - claim.ordered_g for claim in made.fruit.claims if claim.material == one.key and claim.at_min < one.past_min
        )
        if one.key in situation.poured:
            used += poured_before_g(situation.poured[one.key].per_day_g, opens, one.past_min)
        taken = min(one.mass_g, max(0.0, used - allotted.get(one.key, 0.0)))
        allotted[one.key] = allotted.get(one.key, 0.0) + taken
        mass = one.mass_g - taken
        if mass >= _LEAST_G:
            yield LeftOver(
                key=one.key,
                name=verbatim(one.name),
                source=one.code,
                mass_g=mass,
                volume_ml=0.0,
                at=situation.now,
                last_day=_last_day(situation, one.past_min),
                minutes=0.0,
                offer=message("Use it first, or freeze it while it is in date"),
                takers=takers.of(one.key, mass, "", 0.0),
            )


def _wanted_g(situation: Situation) -> dict[str, float]:
    """Returns the mass of each material [g] that the preps added to the list by hand need for the bottles that were asked for."""
    found: dict[str, float] = {}
    for wish in situation.wishes.values():
        if wish.extra and wish.key in situation.preps:
            facts = situation.preps[wish.key]
            for key, per_ml in facts.needs.items():
                found[key] = found.get(key, 0.0) + per_ml * facts.fill_ml * (wish.bottles or 1)
    return found


def with_left_over(situation: Situation, made: Schedule) -> Situation:
    """Returns a copy of the situation in which the leftovers of today's batches are incoming material for the preps that were added to the list by hand; the situation itself if
    there are none.

    Of alternatives only one is counted. A material that is never bought is added only if the leftovers cover all that is wanted of it; otherwise it is assumed to be at hand, as
    without leftovers. The result is valid for a schedule in which the batches that leave them start no later than in `made` (see `keeps_leftovers`).
    """
    wanted = _wanted_g(situation)
    coming: dict[str, list[Coming]] = {}
    names: dict[str, str] = {}
    counted: set[tuple[str, str]] = set()
    for one in _of_batches(situation, made.batches):
        key = one.leftover.key
        if key in wanted and one.alternatives not in counted:
            counted.add(one.alternatives)
            coming.setdefault(key, []).append(Coming(one.at_min, one.mass_g))
            names[key] = str(one.leftover.name)
    materials = dict(situation.materials)
    for key, arrivals in coming.items():
        if key in materials:
            materials[key] = replace(materials[key], coming=(*materials[key].coming, *arrivals))
        elif key not in situation.preps and sum(one.mass_g for one in arrivals) >= wanted[key] - _SAME:
            materials[key] = MaterialSupply(key, names[key], 0.0, coming=tuple(arrivals))
    return situation if materials == situation.materials else replace(situation, materials=materials)


def keeps_leftovers(situation: Situation, before: Schedule, after: Schedule) -> bool:
    """Returns True if all leftovers of `before` that the preps added to the list by hand need are available in `after` as early and in the same mass."""
    wanted = _wanted_g(situation)
    now = {(one.batch.code, one.leftover.key): one for one in _of_batches(situation, after.batches)}
    for one in _of_batches(situation, before.batches):
        other = now.get((one.batch.code, one.leftover.key))
        if one.leftover.key in wanted and (other is None or other.at_min > one.at_min + _SAME or other.mass_g < one.mass_g - _SAME):
            return False
    return True
