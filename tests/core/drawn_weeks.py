"""Drawn weeks: bars with preps of every kind, people who come and go, fruit that runs short; from a seed."""

import random
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from ulsek.core.planning.prep_facts import HandsOn, PrepFacts
from ulsek.core.planning.situation import Coming, MaterialSupply, PlanDay, Situation, Supply, Window, Worker

ZONE = ZoneInfo("Europe/Berlin")
WAITS = (0.0, 20.0, 60.0, 240.0, 480.0, 1080.0, 2880.0, 5760.0)


def days_from(now, count=14, opens=time(18), turns=time(5)):
    """The days of a house that opens at 18:00 and turns at 05:00, the first is the day of `now`."""
    first = (now - timedelta(hours=turns.hour)).date()

    def minutes(at):
        return (at.timestamp() - now.timestamp()) / 60.0

    days = [first + timedelta(days=n) for n in range(count)]
    return tuple(
        PlanDay(
            day,
            minutes(datetime.combine(day, opens, now.tzinfo)),
            minutes(datetime.combine(day + timedelta(days=1), turns, now.tzinfo)),
        )
        for day in days
    )


def windows_of(days, drawn, share=0.75, length=360.0):
    """Shifts of one person: on most days, from some hour before opening."""
    found = []
    for day in days:
        if drawn.random() < share:
            begins = day.opens_min - drawn.choice((240.0, 360.0, 480.0))
            found.append(Window(max(0.0, begins), begins + length))
    return tuple(one for one in found if one.until_min > one.from_min)


def drawn_prep(drawn, key, below, fruit):
    """A prep of a few hands-on times with waits between, made of fruit and perhaps of preps below it."""
    hands = [HandsOn(0.0, drawn.choice((4.0, 15.0, 30.0, 60.0)))]
    for _ in range(drawn.randrange(3)):
        hands.append(HandsOn(drawn.choice(WAITS[1:]), drawn.choice((2.0, 8.0, 20.0))))
    needs = {name: drawn.uniform(0.1, 0.9) for name in drawn.sample(fruit, drawn.randrange(3))}
    needs |= {name: drawn.uniform(0.02, 0.4) for name in drawn.sample(below, min(len(below), drawn.choice((0, 0, 1, 2))))}
    bottle = drawn.choice((250.0, 500.0, 1000.0))
    return PrepFacts(
        key, key.replace("_", " "), tuple(hands), drawn.choice((0.0, 0.0, 0.0, 240.0)), 0.0, drawn.choice((2, 3, 5, 7, 14, 180)),
        bottle, bottle * 0.95, bottle * 0.95 * drawn.uniform(0.8, 12.0), drawn.uniform(0.95, 1.3), needs,
    )  # fmt: skip


def drawn_situation(seed, preps=12, people=3, by_the_clock=False):
    """A whole situation: some things on the shelf, some under way, some past, some fruit short, somebody ill."""
    drawn = random.Random(seed)
    now = datetime(2026, 10, drawn.randrange(19, 31), drawn.randrange(6, 23), drawn.randrange(60), tzinfo=ZONE)
    days = days_from(now)
    fruit = [f"fruit_{n}" for n in range(max(3, preps // 2))]
    made = {}
    for n in range(preps):
        key = f"prep_{n:03d}"
        made[key] = drawn_prep(drawn, key, list(made), fruit)
    must, use, supplies = {}, {}, []
    for key, facts in made.items():
        if drawn.random() < 0.85:
            base = facts.fill_ml * drawn.uniform(0.2, 4.0)
            must[key] = tuple(0.0 if drawn.random() < 0.1 else base * drawn.uniform(0.6, 1.8) for _ in days)
            use[key] = tuple(one * drawn.uniform(0.4, 1.0) for one in must[key])
        for n in range(drawn.randrange(4)):
            ready = drawn.choice((-600.0, -60.0, 300.0, 1500.0))
            past = ready + drawn.choice((200.0, 2000.0, 6000.0, 100000.0))
            supplies.append(Supply(key, f"{key}-{n}", drawn.uniform(-50.0, 3.0 * facts.fill_ml), ready, past))
    workers = tuple(
        Worker(
            f"person-{n}",
            f"Person {n}",
            windows_of(days, drawn, drawn.choice((0.0, 0.5, 0.9))),
            None if drawn.random() < 0.3 else frozenset(drawn.sample(list(made), len(made) // 2)),
        )
        for n in range(people)
    )
    materials = {}
    for name in fruit:
        arrives = drawn.choice((None, 1200.0, 2900.0, 6000.0))
        materials[name] = MaterialSupply(
            name, name, drawn.choice((-200.0, 0.0, 800.0, 5000.0)), "Yard", None if arrives is None else arrives - 900.0, arrives, 1000.0, "4.50",
            (Coming(drawn.uniform(100.0, 3000.0), 2000.0),) if drawn.random() < 0.3 else (),
        )  # fmt: skip
    return Situation(now, days, made, must, use, tuple(supplies), workers, by_the_clock, materials)
