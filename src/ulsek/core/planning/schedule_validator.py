"""An independent check of a schedule: it shares no code with what draws one but the values, and finds every rule that a schedule breaks."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

from ..base.messages import Computed, Message, message
from .house_experience import figure
from .schedule import Batch, Schedule
from .situation import Situation

_MINUTE, _ML, _G = 1e-3, 1e-3, 1e-3
_ENOUGH, _AHEAD_MIN = 1.0 - figure("short_share"), figure("ahead_days") * 1440.0


def faults(situation: Situation, made: Schedule) -> tuple[Message, ...]:
    """Returns what is wrong with a schedule; nothing for a good one.

    Whole bottles that fit; no batch begun before now; ready before it is needed, or told as missed; nothing used before it is ready or past its date; no gram of fruit and no
    millilitre of a part twice; nobody at two things, or not in.
    """
    return (
        *_bottles(situation, made),
        *_times(situation, made),
        *_parts(situation, made),
        *_materials(situation, made),
        *_people(situation, made),
    )


def _bottles(situation: Situation, made: Schedule) -> Iterator[Message]:
    for batch in made.batches:
        facts = situation.preps[batch.key]
        if batch.bottles < 1 or abs(batch.makes_ml - batch.bottles * facts.fill_ml) > _ML:
            yield message("{name} is not in whole bottles", name=facts.name)
        if batch.makes_ml > facts.fits_ml + _ML:
            yield message("{name} does not fit: {volume}", name=facts.name, volume=Computed(batch.makes_ml, "mL", 0))


def _times(situation: Situation, made: Schedule) -> Iterator[Message]:
    missed = {(one.key, round(one.at_min, 3)) for one in made.shorts}
    for batch in made.batches:
        facts = situation.preps[batch.key]
        if batch.start_min < -_MINUTE:
            yield message("{name} begins before now", name=facts.name)
        if batch.ready_min - batch.start_min < facts.takes_min - _MINUTE:
            yield message("{name} is ready before its waits are over", name=facts.name)
        began = batch.start_min + facts.counts_from_min
        day = next((n for n, one in enumerate(situation.days) if began < one.ends_min), len(situation.days) - 1) + facts.keeps_days - 1
        last = situation.days[day].ends_min if day < len(situation.days) else math.inf
        if batch.past_min > last + _MINUTE:
            yield message("{name} is said to keep longer than it does", name=facts.name)
        if batch.ready_min >= batch.past_min:
            yield message("{name} is out of date before it is ready", name=facts.name)
        extra = batch.key in situation.wishes and situation.wishes[batch.key].extra
        is_late = batch.needed_for == "" and not extra and batch.ready_min > batch.needed_min + _MINUTE
        if is_late and (batch.key, round(batch.needed_min, 3)) not in missed:
            yield message("{name} is late, and nobody is told", name=facts.name)


def _users(situation: Situation, made: Schedule, key: str) -> list[tuple[float, int, float, float]]:
    """Returns what is wanted of a prep in order of time: (moment, 0 for a batch or 1 for an opening, what must be there, what is used of it)."""
    found = []
    for batch in made.batches:
        per_ml = situation.preps[batch.key].needs.get(key, 0.0)
        if per_ml:
            volume = per_ml * batch.makes_ml / situation.preps[key].density_g_ml
            found.append((batch.start_min, 0, volume, volume))
    if key in situation.must:
        for n, day in enumerate(situation.days):
            if day.opens_min >= 0.0:
                found.append((day.opens_min, 1, situation.must[key][n], situation.use[key][n]))
            else:
                # It has opened: only what is still used of it counts.
                found.append((0.0, 1, 0.0, situation.use[key][n] * day.ends_min / (day.ends_min - day.opens_min)))
    return sorted(found)


def _parts(situation: Situation, made: Schedule) -> Iterator[Message]:
    """Yields the faults of taking preps: before they are ready, past their date, twice, or short of a par without a notice. Keeps a ledger of its own, first expiry first."""
    missed = {(one.key, round(one.at_min, 3)) for one in made.shorts}
    for key, facts in situation.preps.items():
        shelf = [[one.past_min, one.ready_min, max(0.0, one.left_ml)] for one in situation.supplies if one.key == key]
        shelf += [[one.past_min, one.ready_min, one.makes_ml] for one in made.batches if one.key == key]
        shelf.sort()
        for at, kind, must, used in _users(situation, made, key):
            good = [one for one in shelf if one[1] <= at < one[0]]
            there = sum(one[2] for one in good)
            if kind == 0 and there < must - 0.01:
                yield message("{name} is taken before it is ready, or twice", name=facts.name)
            ahead = facts.takes_min + _AHEAD_MIN
            if kind == 1 and at <= ahead and there < _ENOUGH * must - 0.01 and (key, round(at, 3)) not in missed:
                yield message("{name} is short of its par, and nobody is told", name=facts.name)
            left = used
            for one in good:
                taken = min(one[2], left)
                one[2] -= taken
                left -= taken


def _materials(situation: Situation, made: Schedule) -> Iterator[Message]:
    ordered: dict[str, float] = {}
    for claim in made.fruit.claims:
        ordered[claim.material] = ordered.get(claim.material, 0.0) + claim.ordered_g
    for key, supply in situation.materials.items():
        taken = 0.0
        for batch in sorted(made.batches, key=lambda one: one.start_min):
            taken += situation.preps[batch.key].needs.get(key, 0.0) * batch.makes_ml
            arrived = sum(one.mass_g for one in supply.coming if one.at_min <= batch.start_min)
            if supply.arrives_min is not None and supply.arrives_min <= batch.start_min:
                arrived += ordered.get(key, 0.0)
            if taken > max(0.0, supply.here_g) + arrived + _G:
                yield message("{name} is taken twice, or before it is here", name=supply.name)
                break


def _people(situation: Situation, made: Schedule) -> Iterator[Message]:
    if situation.by_the_clock:
        return
    windows = {worker.key: worker.windows for worker in situation.workers}
    busy: dict[str, list[tuple[float, float, Batch]]] = {key: [] for key in windows}
    for batch in made.batches:
        for part in batch.hands:
            name = situation.preps[batch.key].name
            if part.worker not in windows:
                yield message("Nobody makes {name}", name=name)
                continue
            if not any(
                one.from_min <= part.from_min + _MINUTE and part.until_min <= one.until_min + _MINUTE for one in windows[part.worker]
            ):
                yield message("{name} is made when {worker} is not in", name=name, worker=part.worker)
            busy[part.worker].append((part.from_min, part.until_min, batch))
    for key, times in busy.items():
        times.sort(key=lambda one: one[:2])
        for (_, ends, one), (begins, _, other) in pairwise(times):
            if begins < ends - _MINUTE:
                yield message("{worker} is at {one} and {other} at once", worker=key, one=one.key, other=other.key)
