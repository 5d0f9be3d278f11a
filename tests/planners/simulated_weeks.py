"""Twelve drawn weeks of a bar, run once by the fixed par table alone and once by the list: how often a prep runs out, and how much goes into the bin."""

import math
import random
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from tests.core.drawn_weeks import ZONE, days_from
from ulsek.core.planning.pars import Par, must_and_use
from ulsek.core.planning.prep_facts import HandsOn, PrepFacts
from ulsek.core.planning.rota import Rota
from ulsek.core.planning.schedule import schedule
from ulsek.core.planning.schedule_validator import faults
from ulsek.core.planning.situation import Situation, Supply, Window, Worker
from ulsek.core.planning.used import par_from_use

WEEKS, BEFORE_DAYS, SHAPE = 12, 14, (0.6, 0.6, 0.8, 1.0, 1.6, 1.8, 0.9)
"""Twelve weeks, after two by the par table whichever way comes then, in which it is seen what is used; how much of a mean day each weekday uses."""
_HANDS = {
    "cordial": ((0.0, 4.0), (240.0, 8.0), (20.0, 8.0)),
    "syrup": ((0.0, 14.0), (25.0, 8.0), (60.0, 8.0)),
    "milk": ((0.0, 4.0), (480.0, 8.0), (15.0, 8.0)),
    "stock": ((0.0, 12.0),),
    "clear": ((0.0, 14.0), (240.0, 6.0), (120.0, 10.0)),
    "drip": ((0.0, 8.0), (720.0, 2.0), (1800.0, 6.0), (420.0, 8.0)),
    "juice": ((0.0, 30.0),),
    "shrub": ((0.0, 3.0), (2880.0, 12.0), (120.0, 8.0)),
}
_KEEPS = {"cordial": 5, "syrup": 7, "milk": 3, "stock": 60, "clear": 3, "drip": 5, "juice": 2, "shrub": 14}


@dataclass
class Bar:
    """A bar's preps and what it really uses: a mean a day, with a spread that nobody knows."""

    preps: dict[str, PrepFacts]
    mean_ml: dict[str, float]
    par_ml: dict[str, tuple[float, ...]]
    used_ml: dict[tuple[str, int], float]


@dataclass
class Outcome:
    """Openings or evenings on which a prep ran out [count], what went into the bin [mL], and what was used [mL]."""

    ran_out: int = 0
    binned_ml: float = 0.0
    used_ml: float = 0.0
    faults: int = 0
    days: dict[str, dict] = field(default_factory=dict)


def bar(seed, weeks=WEEKS):
    """A bar of sixteen preps. Its par table is what a lead writes: a third more than a usual day uses, and the days until a new batch is ready, rounded up to half bottles."""
    drawn = random.Random(seed)
    preps, mean, par, used = {}, {}, {}, {}
    for n in range(16):
        kind = list(_HANDS)[n % len(_HANDS)]
        key = f"{kind}_{n}"
        preps[key] = PrepFacts(
            key,
            key,
            tuple(HandsOn(*part) for part in _HANDS[kind]),
            0.0,
            0.0,
            _KEEPS[kind],
            500.0,
            475.0,
            475.0 * drawn.choice((4, 6, 9)),
            1.05,
        )
        mean[key] = drawn.uniform(300.0, 1500.0)
        lead = math.ceil(max(0.0, preps[key].takes_min - 480.0) / 1440.0)
        needed = [sum(SHAPE[(day + n) % 7] for n in range(lead + 1)) for day in range(7)]
        par[key] = tuple(math.ceil(1.35 * mean[key] * share / 237.5) * 237.5 for share in needed)
        spread = drawn.uniform(0.15, 0.3)
        for day in range(7 * weeks + BEFORE_DAYS):
            used[key, day] = max(0.0, mean[key] * SHAPE[day % 7] * drawn.gauss(1.0, spread))
    return Bar(preps, mean, par, used)


@dataclass
class _Lot:
    key: str
    left: float
    ready: datetime
    past: datetime


def run(world, way, weeks=WEEKS, checked=False):
    """The weeks of a bar from a Monday on, planned every morning at ten by `way`: "table" or "list". Whoever is there is in from ten until opening, every day."""
    began = datetime(2026, 9, 7, 10, 0, tzinfo=ZONE)
    found, lots, known = Outcome(), [], {key: {} for key in world.preps}
    for key in world.preps:
        # Both begin with what the first day needs.
        lots.append(_Lot(key, world.par_ml[key][0], began - timedelta(days=1), began + timedelta(days=1, hours=19)))
    for number in range(7 * weeks + BEFORE_DAYS):
        day = (began + timedelta(days=number)).date()
        now = datetime(day.year, day.month, day.day, 10, 0, tzinfo=ZONE)
        opens, ends = now + timedelta(hours=8), now + timedelta(hours=19)
        lots += (
            _by_table(world, lots, day, now)
            if way == "table" or number < BEFORE_DAYS
            else _by_list(world, lots, known, now, found, checked)
        )
        for key in world.preps:
            wanted = world.used_ml[key, number]
            there = sorted((one for one in lots if one.key == key and one.ready <= ends and one.past > opens), key=lambda one: one.past)
            for one in there:
                taken = min(one.left, wanted)
                one.left -= taken
                wanted -= taken
                found.used_ml += taken if number >= BEFORE_DAYS else 0.0
            found.ran_out += wanted > 1.0 and number >= BEFORE_DAYS
            known[key][day] = world.used_ml[key, number] - max(0.0, wanted)
        turned = [one for one in lots if one.past <= ends]
        found.binned_ml += sum(one.left for one in turned) if number >= BEFORE_DAYS else 0.0
        lots = [one for one in lots if one.past > ends and one.left > 1.0]
    return found


def _lot(facts, makes, start, ready):
    day = (start - timedelta(hours=5)).date()
    last = datetime(day.year, day.month, day.day, 5, 0, tzinfo=ZONE) + timedelta(days=facts.keeps_days)
    return _Lot(facts.key, makes, ready, last)


def _workers(days):
    """Three people, in on every day from eight hours before it opens until then."""
    windows = tuple(Window(max(0.0, day.opens_min - 480.0), day.opens_min) for day in days)
    return tuple(Worker(name, name, windows) for name in ("ada", "tove", "emre"))


def _by_table(world, lots, day, now):
    """What a par table alone does: what stands there in date or is under way is counted, and what is missing of today's par is begun now, in whole bottles."""
    made = []
    rota = Rota(_workers(days_from(now)), now, by_the_clock=False)
    for key, facts in world.preps.items():
        missing = world.par_ml[key][day.weekday()] - sum(one.left for one in lots if one.key == key and one.past > now)
        count = min(math.ceil(missing / facts.fill_ml - 1e-9), facts.most_bottles)
        if count > 0:
            placed = rota.soonest(facts, 0.0)
            rota.take(placed)
            begun, ready = (now + timedelta(minutes=at) for at in (placed.start_min, placed.ready_min))
            made.append(_lot(facts, count * facts.fill_ml, begun, ready))
    return made


def _by_list(world, lots, known, now, found, checked):
    """What the list does: pars from use as soon as there is any, and what has to be begun today."""
    days = days_from(now)
    must, use = {}, {}
    for key in world.preps:
        by_use = par_from_use(known[key], world.par_ml[key], world.preps[key].lasts_days)
        par = Par(by_use.must_ml, by_use.use_ml) if by_use else Par(world.par_ml[key])
        must[key], use[key] = must_and_use(key, par, [one.day for one in days], {})

    def minutes(at):
        return (at - now).total_seconds() / 60.0

    supplies = tuple(Supply(one.key, f"{one.key}-{n}", one.left, minutes(one.ready), minutes(one.past)) for n, one in enumerate(lots))
    situation = Situation(now, days, world.preps, must, use, supplies, _workers(days))
    made = schedule(situation)
    if checked:
        found.faults += len(faults(situation, made))
    begun = [one for one in made.batches if one.start_min < days[0].ends_min]
    return [_lot(world.preps[one.key], one.makes_ml, situation.at(one.start_min), situation.at(one.ready_min)) for one in begun]
