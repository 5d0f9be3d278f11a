"""The schedule: which batches are made when and by whom so that every par is met, with the parts and the fruit that they take.

Preps are taken in order, users before what they use, so that a batch's own need for parts is known when those are planned. Where parts or fruit come too late for a batch,
that batch gets an earliest start, and the whole is drawn again; earliest starts only grow, so this ends.
"""

from __future__ import annotations

import heapq
import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from ..base.messages import listed, message
from ..base.refusals import Refusal
from .fruit import FruitClaims, claimed
from .house_experience import figure
from .prep_facts import PrepFacts
from .rota import HandsAt, Placement, Rota
from .situation import Situation, Supply
from .stock_walk import Demand, Met, Walked, walk

_ROUNDS, _LAST_ROUNDS, _MOST_BATCHES = 40, 10, 60
"""Most drawings of a schedule, the last of them in which whatever is still held up is given up, and most batches of one prep [count]."""
_BINNED_SHARE = figure("binned_share_of_bottle")
_SLOW_SHARE, _SPARE_MIN = figure("slow_day_share"), figure("spare_min")
_COVER_MIN, _AHEAD_MIN = figure("cover_days") * 1440.0, figure("ahead_days") * 1440.0
Why = Literal["time", "people", "parts", "fruit", "vessel", "turns"]
BatchId = tuple[str, int]


@dataclass(frozen=True, slots=True)
class Batch:
    """A batch of a schedule: `bottles` whole bottles, `makes_ml` [mL] together. Times are minutes from now.

    It is begun at `start_min`, may be poured from `ready_min` and is in date until `past_min`. It is made for the demand at `needed_min`: the opening of a day, or a batch of
    another prep (`needed_for`). `not_before` says what held it up, if anything did.
    """

    key: str
    number: int
    bottles: int
    makes_ml: float
    hands: tuple[HandsAt, ...]
    ready_min: float
    past_min: float
    needed_min: float
    needed_for: str = ""
    not_before: Why | None = None
    overlong_min: float = 0.0

    @property
    def start_min(self) -> float:
        """When it is begun [min from now]."""
        return self.hands[0].from_min

    @property
    def code(self) -> str:
        """Name of its supply."""
        return f"{self.key}#{self.number}"

    @property
    def supply(self) -> Supply:
        """What it adds to the shelf."""
        return Supply(self.key, self.code, self.makes_ml, self.ready_min, self.past_min)


@dataclass(frozen=True, slots=True)
class Short:
    """A demand that is not met: `short_ml` [mL] are missing when a day opens at `at_min`. `ready_min` is when there is enough again, None if not within the days."""

    key: str
    at_min: float
    short_ml: float
    ready_min: float | None
    why: Why
    materials: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Schedule:
    """Batches in order of their start, the demands that are not met, the fruit that they claim, and the demands of every prep in order of time."""

    batches: tuple[Batch, ...]
    shorts: tuple[Short, ...]
    fruit: FruitClaims
    demands: Mapping[str, tuple[Demand, ...]]


@dataclass(frozen=True, slots=True)
class _Held:
    """The earliest start of a batch [min from now; infinity if it cannot be made], the reason, and the keys of the lacking materials."""

    until_min: float
    why: Why
    materials: tuple[str, ...] = ()


_FREE = _Held(0.0, "time")


def in_order(preps: Mapping[str, PrepFacts], urgent_min: Mapping[str, float]) -> list[str]:
    """Returns the keys of the preps in topological order, every prep before its parts; among those that may come next the one with the smallest `urgent_min` [min].

    Raises Refusal for preps that use each other in a circle.
    """
    done: set[str] = set()

    def visit(key: str, path: tuple[str, ...]) -> None:
        if key in path:
            names = [preps[one].name for one in (*path[path.index(key) :], key)]
            raise Refusal(
                message("These preps are made of one another: {names}", names=listed(names, "comma")),
                "preps",
                remedy=message("Take one of them out of the other's spec"),
                code="circle",
            )
        if key in done:
            return
        for part in sorted(preps[key].needs):
            if part in preps:
                visit(part, (*path, key))
        done.add(key)

    for key in sorted(preps):
        visit(key, ())
    users = dict.fromkeys(preps, 0)
    for facts in preps.values():
        for part in facts.needs.keys() & preps.keys():
            users[part] += 1
    waiting = [(urgent_min.get(key, math.inf), key) for key, count in users.items() if not count]
    heapq.heapify(waiting)
    order: list[str] = []
    while waiting:
        _, key = heapq.heappop(waiting)
        order.append(key)
        for part in preps[key].needs.keys() & preps.keys():
            users[part] -= 1
            if not users[part]:
                heapq.heappush(waiting, (urgent_min.get(part, math.inf), part))
    return order


@dataclass
class _Draft:
    """One round of scheduling, with the earliest starts that earlier rounds found."""

    situation: Situation
    held: Mapping[BatchId, _Held]
    order: list[str]
    rota: Rota = field(init=False)
    batches: list[Batch] = field(default_factory=list)
    shorts: list[Short] = field(default_factory=list)
    later: dict[BatchId, _Held] = field(default_factory=dict)
    takes: dict[str, list[Demand]] = field(default_factory=dict)
    demands: dict[str, tuple[Demand, ...]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        situation = self.situation
        self.rota = Rota(situation.workers, situation.now, by_the_clock=situation.by_the_clock)

    def drawn(self) -> None:
        for key in self.order:
            self.plan(key)

    def plan(self, key: str) -> None:
        """Adds batches of one prep until every demand within its horizon is met or noted as missed."""
        situation = self.situation
        demands = sorted([*openings(situation, key), *self.takes.get(key, [])], key=lambda one: (one.at_min, one.batch is None))
        self.demands[key] = tuple(demands)
        supplies = [one for one in situation.supplies if one.key == key]
        ahead = looks_ahead_min(situation.preps[key])
        # What is planned on later days is not looked at, but for the size of a batch that lasts until then.
        until = max([ahead, *(one.at_min for one in demands if one.batch is not None)])
        soon = [one for one in demands if one.at_min <= until]
        missed = {n for n, one in enumerate(soon) if one.batch is None and one.at_min > ahead}
        wish = situation.wishes.get(key)
        if wish is not None and wish.extra:
            self.add(key, Met(Demand(situation.days[0].ends_min, 0.0, 0.0, 0), 0.0, 0.0), demands, supplies, soon=True)
        for _ in range(_MOST_BATCHES):
            met = walk(supplies, soon).met
            short = next((n for n, one in enumerate(met) if n not in missed and one.short_ml > 0.0), None)
            if short is None:
                break
            if not self.add(key, met[short], demands, supplies):
                missed.add(short)

    def add(self, key: str, met: Met, demands: list[Demand], supplies: list[Supply], *, soon: bool = False) -> bool:
        """Adds a batch for a demand that is not met. Returns True if it is ready in time; otherwise the shortage is noted, and a batch is added only if it still serves that day."""
        situation, facts, demand = self.situation, self.situation.preps[key], met.demand
        number = sum(1 for one in self.batches if one.key == key)
        held = self.held.get((key, number), _FREE)
        wish = situation.wishes.get(key)
        today_off = wish is not None and wish.bottles == 0
        earliest = max(held.until_min, situation.days[0].ends_min if today_off else 0.0, 0.0)
        if facts.turns_before_ready or facts.most_bottles < 1:
            return self.missed(key, met, None, "turns" if facts.turns_before_ready else "vessel", ())
        only = wish.worker if wish is not None else ""
        given_up = math.isinf(earliest)
        placed = None if soon or given_up else self.in_time(facts, demand, earliest, only)
        late = placed is None
        if placed is None and not given_up:
            placed = self.rota.soonest(facts, earliest, only)
        if placed is None:
            return self.missed(key, met, None, held.why if held is not _FREE else "people", held.materials)
        past = situation.past_min(placed.start_min + facts.counts_from_min, facts.keeps_days)
        why: Why = held.why if held is not _FREE else "time" if earliest + facts.takes_min > demand.at_min else "people"
        if past <= max(demand.at_min, placed.ready_min):
            return self.missed(key, met, None, "turns", ())
        # Ready only after the day that it was for: the next day's own demand brings it in, in the size that is right then.
        if late and not soon and demand.batch is None and placed.ready_min >= situation.days[demand.day].ends_min:
            return self.missed(key, met, placed.ready_min, why, held.materials)
        bottles = self.bottles(facts, met, demands, supplies, (placed.ready_min, past), number)
        batch = Batch(
            key, number, bottles, bottles * facts.fill_ml, placed.hands, placed.ready_min, past, demand.at_min,
            demand.batch[0] if demand.batch else "", held.why if held is not _FREE else None, placed.overlong_min,
        )  # fmt: skip
        self.keep(batch, facts, placed)
        supplies.append(batch.supply)
        return self.missed(key, met, placed.ready_min, why, held.materials) if late and not soon else True

    def in_time(self, facts: PrepFacts, demand: Demand, earliest: float, only: str) -> Placement | None:
        """Returns the latest placement that is ready in time for a demand, half an hour before the opening if possible; None if there is none."""
        spare = _SPARE_MIN if demand.batch is None else 0.0
        found = self.rota.latest(facts, demand.at_min - spare, earliest, only)
        if found is None and spare:
            found = self.rota.latest(facts, demand.at_min, earliest, only)
        # Times are sums of minutes from now: what is ready on the minute of the demand must not be late by a rounding.
        return None if found is None else replace(found, ready_min=min(found.ready_min, demand.at_min))

    def keep(self, batch: Batch, facts: PrepFacts, placed: Placement) -> None:
        """Adds a batch to the schedule: reserves its hands-on time and adds its demands for other preps."""
        self.batches.append(batch)
        self.rota.take(placed)
        for part, per_ml in facts.needs.items():
            if part in self.situation.preps:
                volume = per_ml * batch.makes_ml / self.situation.preps[part].density_g_ml
                taken = Demand(batch.start_min, volume, volume, self.situation.day_index(batch.start_min), (batch.key, batch.number))
                self.takes.setdefault(part, []).append(taken)

    def missed(self, key: str, met: Met, ready_min: float | None, why: Why, materials: tuple[str, ...]) -> bool:
        """Records a demand that is not met in time and returns False: of a batch as its later earliest start, of an opening as a shortage [mL]."""
        demand = met.demand
        if demand.batch is not None:
            until = math.inf if ready_min is None else ready_min
            before = self.later.get(demand.batch)
            if before is None or before.until_min < until:
                self.later[demand.batch] = _Held(until, "fruit" if materials else "parts", materials)
        else:
            self.shorts.append(Short(key, demand.at_min, met.short_ml, ready_min, why, materials))
        return False

    def bottles(
        self, facts: PrepFacts, met: Met, demands: list[Demand], supplies: list[Supply], life: tuple[float, float], number: int
    ) -> int:
        """Returns the size of a batch [bottles]: what the demands need for as long as it keeps, at most a week, without a bottle that would be left over when it is out of date, and at
        most as many as fit the vessel.
        """
        wish = self.situation.wishes.get(facts.key)
        if wish is not None and wish.bottles and number == 0:
            return min(wish.bottles, facts.most_bottles)
        ready, past = life
        serves_until = self.situation.days[met.demand.day].ends_min
        least = max(1, math.ceil(met.short_ml / facts.fill_ml - 1e-9)) if ready <= max(met.demand.at_min, serves_until) else 1

        def enough(count: int, until: float) -> int:
            while count < facts.most_bottles:
                found = self.with_batch(facts, count, life, demands, supplies).met
                short = next((one for one in found if one.short_ml > 0.0 and ready <= one.demand.at_min < until), None)
                if short is None:
                    break
                count += max(1, math.ceil(short.short_ml / facts.fill_ml - 1e-9))
            return min(count, facts.most_bottles)

        # What the same day wants besides is never a batch of its own; what later days want is, rather than that a bottle is binned.
        least = enough(least, min(past, serves_until))
        count = enough(least, min(past, ready + _COVER_MIN))
        # In a slow week too: what is binned is not made up for by one batch fewer.
        slow = [replace(one, use_ml=one.use_ml * _SLOW_SHARE) if one.batch is None else one for one in demands]
        while count > least and past < math.inf:
            if self.with_batch(facts, count, life, slow, supplies).left_ml[_TRIED] < _BINNED_SHARE * facts.fill_ml:
                break
            count -= 1
        return count

    @staticmethod
    def with_batch(facts: PrepFacts, bottles: int, life: tuple[float, float], demands: list[Demand], supplies: list[Supply]) -> Walked:
        """Returns the demands as they are met with one more batch of so many bottles."""
        return walk([*supplies, Supply(facts.key, _TRIED, bottles * facts.fill_ml, *life)], demands)


_TRIED = "tried"


def looks_ahead_min(facts: PrepFacts) -> float:
    """Returns the end of the planning horizon of a prep [min from now]: its time from start to ready plus four days."""
    return facts.takes_min + _AHEAD_MIN


def openings(situation: Situation, key: str) -> list[Demand]:
    """Returns the demands of the openings of all days for a prep; none for one without a par.

    A day that has opened already asks for nothing more to stand there; of its use as much is left as of the time until it ends.
    """
    if key not in situation.must:
        return []
    found = []
    for n, day in enumerate(situation.days):
        must, use = situation.must[key][n], situation.use[key][n]
        if day.opens_min < 0.0:
            must, use = 0.0, use * day.ends_min / (day.ends_min - day.opens_min)
        found.append(Demand(max(0.0, day.opens_min), must, use, n))
    return found


def urgent_from(situation: Situation) -> dict[str, float]:
    """Returns the latest start [min from now] that meets the first shortage, for each prep whose par is not met by the present stock."""
    found: dict[str, float] = {}
    for key, facts in situation.preps.items():
        met = walk([one for one in situation.supplies if one.key == key], openings(situation, key)).met
        short = next((one.demand.at_min for one in met if one.short_ml > 0.0), None)
        if short is not None:
            found[key] = short - facts.takes_min
    return found


def schedule(situation: Situation) -> Schedule:
    """Returns the batches that meet the pars of a situation, and what cannot be met. Raises Refusal for preps that use each other in a circle.

    Every batch is begun as late as it can be, so that it is fresh, with its parts ready and its fruit here; in whole bottles that fit. Nobody is at two things at once.
    Error: greedy, not optimal: another order of work may meet a demand that this one misses. Source: house experience in `data/planning.json`.
    """
    order = in_order(situation.preps, urgent_from(situation))
    held: dict[BatchId, _Held] = {}
    for left in reversed(range(_ROUNDS)):
        draft = _Draft(situation, held, order)
        draft.drawn()
        fruit = claimed(situation, draft.batches)
        later = dict(draft.later)
        for late in fruit.late:
            if late.batch not in later or later[late.batch].until_min < late.until_min:
                later[late.batch] = _Held(late.until_min, "fruit", late.materials)
        grown = {one: by for one, by in later.items() if by.until_min > held.get(one, _FREE).until_min}
        if not grown:
            break
        # In the last rounds what is still held up is given up, so that the rest stands.
        held |= {one: replace(by, until_min=math.inf) for one, by in grown.items()} if left < _LAST_ROUNDS else grown
    batches = sorted(draft.batches, key=lambda one: (one.start_min, one.ready_min, one.key, one.number))
    return Schedule(tuple(batches), tuple(sorted(draft.shorts, key=lambda one: (one.at_min, one.key))), fruit, draft.demands)
