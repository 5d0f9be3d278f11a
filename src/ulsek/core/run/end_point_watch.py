"""End-point watch: a step that goes on by itself, followed by readings: progress, expected end, and what to do when it went past.

A reading taken during a step (`step` in its body) belongs to its watch and is not compared with the finished vessel. Times are minutes [min] since the step
began.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from ..base.figures import quantity
from ..base.messages import NOTHING, Computed, Given, grams, listed, message, sentences
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..evaluation.flow_values import StepFlow
from ..operations.clarify import Enzyme, enzyme_done
from ..operations.concentrate import FreezeDrip, VacuumReduce, dripped
from ..operations.extract import Infuse, Steep
from ..operations.finish import Cool
from ..operations.heat import Reduce
from ..operations.step import Step
from ..operations.strain import Filter, Strain
from ..properties import energy
from ..properties.measure import PROPERTY
from ..properties.ph import ph_or_neutral
from ..safety.shelf_life_rules import starting_rules
from .pace import ONE_POINT, THERE, Points, State, expected_at, minutes_left, pace, state_of
from .reading import Reading
from .watch import Watch, points_of, shown

_AROUND_C: Mapping[str, float] = {"ice_bath": 0.0, "blast": -10.0, "fridge": 4.0}
_HALF_MIN: Mapping[str, tuple[float, float, float]] = {
    "ice_bath": (20.0, 12.0, 35.0),
    "blast": (25.0, 15.0, 45.0),
    "fridge": (120.0, 60.0, 240.0),
}
"""What each way of cooling ends at [°C] and its half time [min] until the first probe; house experience, not a standard."""


_FRACTION, _KEPT = (0.02, 0.999), (0.02, 0.95)
"""Ends of the fraction that a reduction stops at, and of the share of a thaw that is kept: those of their verbs."""
_READS_FROM_BX = 0.5
"""Reading [°Bx] from which a refractometer tells how far a pot is. House judgement."""
_STOPPED_SHARE = 0.25
"""Share of its mean pace below which a filter has nearly stopped. House experience."""
_COOLED_K = 0.5
"""Fall of temperature [K] from which a probe tells a half time. House judgement."""
_ENZYME_MOST_C, _LONGEST_TIMES, _SLOW_TIMES = 60.0, 20.0, 1.5
"""Temperature [°C] at which the enzyme is inactive, multiple of the meant time that is searched, and the one from which it is slow. House judgement."""
_ENZYME_SPREAD = Range(1.0, 0.8, 1.3)
"""Spread of the enzyme's time at a temperature that is probed. House experience."""
_TASTES_SHORT, _TASTES_LONG, _SHORT_MIN = (0.6, 0.8), (0.5, 0.75), 240.0
"""When to taste, as shares of the time, for a short and a long steep, and where a short one ends [min]. House experience."""
_TOO_STRONG, _LONGER_SHARE, _SWEET_BX = 1.0 / 9.0, 0.2, 2.0
"""Plain liquid that cuts what is a tenth too strong, as a share of it; longer time for what is too weak; and °Bx from which plain liquid is syrup. House experience."""
_HOURS_FROM_MIN = 120.0
"""From when on a time is told in hours [min]."""


def _stopped(done: StepFlow, points: Points) -> dict[str, float | None] | None:
    """Returns the step as it was done: with the fraction of its mass at which it stopped, in place of the state that was meant."""
    if not points or done.before.mass_g <= 0:
        return None
    others = ("to_mass_g", "to_volume_ml", "to_brix")
    # The last weighing is where it stopped; what comes after is computed from it.
    share = min(_FRACTION[1], max(_FRACTION[0], points[-1][1] / done.before.mass_g))
    return {"to_fraction": share, **{name: None for name in others if getattr(done.step, name, None) is not None}}


def _reduction(done: StepFlow, begun: str, reads: Sequence[Reading]) -> Watch:
    """Returns the watch of a pot by its mass, or by °Bx converted to it: the solids stay, so mass × °Bx is constant."""
    start, target = done.before.mass_g, done.after.state.mass_g
    brix = PROPERTY["brix_reading"](done.after.state.liquid)
    of: dict[str, Callable[[float], float]] = {"mass_g": lambda value: value}
    if brix > _READS_FROM_BX:
        # Solids stay in the pot, so mass × °Bx is that of the target at any moment.
        of["brix_reading"] = lambda value: target * brix / value if value > 0 else math.inf
    points = points_of(begun, reads, of)
    prior = None
    if isinstance(done.step, Reduce):
        watts = done.step.power_w
        # Before the first reading by the power of the ring, whose high end is the shortest time.
        prior = tuple(energy.minutes_to_drive_off(max(0.0, start - target), 100.0, power) for power in (watts.high, watts.value, watts.low))
    expected = expected_at(start, target, points, prior)  # type: ignore[arg-type]
    state = state_of(target, points, expected, falls=True)
    now = points[-1][1] if points else start
    advice = NOTHING
    if state == "past":
        advice = message(
            "{back} past the mark. Add {back} of water to come back, or leave it: what comes after is worked out with what it weighs.",
            back=grams(target - now),
        )
    left, time = grams(now - target), minutes_left(expected, points)
    words = {
        "going": message("{left} to go: {time}.", left=left, time=time),
        "near": message("Nearly: {left} to go, {time}. Stay with it.", left=left, time=time),
        "there": message("It is there. Take it off."),
        "past": message("It went past."),
    }
    return Watch(
        "reduction",
        tuple(of),
        "g",
        start,
        target,
        shown(points),
        expected,
        (),
        state,
        words[state],
        advice,
        state == "past",
        _stopped(done, points),
    )


def _drip(step: FreezeDrip, done: StepFlow, begun: str, reads: Sequence[Reading]) -> Watch:
    """Returns the watch of a thaw by the mass caught; a refractometer on the drip tells its strength."""
    start, target = done.before.liquid.mass_g, step.kept * done.before.liquid.mass_g
    points = points_of(begun, reads, {"mass_g": lambda value: value})
    expected = expected_at(0.0, target, points, None)
    caught = points[-1][1] if points else 0.0
    share = min(_KEPT[1], caught / start) if start else 0.0
    # The whole of the drip, as its step predicts it: a reading of the last drops would be lower.
    planned = PROPERTY["brix_reading"](done.after.state.liquid)
    read = next((reading.value for reading in reversed(reads) if reading.property == "brix_reading"), None)
    parts = []
    if share >= _KEPT[0]:
        now: Contents = dripped(done.before.liquid, share, max(1.0, step.k.value), step.block_c)[0]
        would_read = quantity("brix_reading", PROPERTY["brix_reading"](now))
        caught_so_far = Computed(100 * share, decimals=0)
        parts.append(message("{share} % is caught; by the usual thaw it reads {brix}.", share=caught_so_far, brix=would_read))
    if read is not None:
        found, wanted = quantity("brix_reading", read), quantity("brix_reading", planned)
        parts.append(message("The whole of it reads {found}, {wanted} is wanted.", found=found, wanted=wanted))
    state = state_of(target, points, expected, falls=False)
    # A refractometer on the drip knows better than the scale: strength is what is wanted.
    if read is not None and read <= planned * (1 - THERE):
        state = "past"
    elif read is not None and read <= planned * (1 + THERE):
        state = "there"
    advice = {
        "there": message("Take it away now: what drips from here only thins it."),
        "past": message("It is thinner than wanted. Stop; freeze it again, or take less of it."),
    }.get(state, NOTHING)
    parts = parts or [message("Nothing is caught yet.")]
    text = sentences(*parts, message("{time:capital}.", time=minutes_left(expected, points)))
    changes = {"kept": min(_KEPT[1], max(_KEPT[0], share))} if points else None
    return Watch(
        "drip", ("mass_g", "brix_reading"), "g", 0.0, target, shown(points), expected, (), state, text, advice, state == "past", changes
    )


def _filtering(done: StepFlow, begun: str, reads: Sequence[Reading]) -> Watch:
    target = done.after.state.mass_g
    points = points_of(begun, reads, {"mass_g": lambda value: value})
    expected = expected_at(0.0, target, points, None)
    # Paper holds something back, so nearly all of it is all of it.
    state: State = "there" if points and points[-1][1] >= target * (1 - THERE) else state_of(target, points, expected, falls=False)
    if len(points) >= 2 and state in ("going", "near"):
        # The last stretch against the mean of all: paper clogs suddenly.
        (t0, y0), (t1, y1) = points[-2:]
        slope = pace(0.0, points)[0]
        if t1 > t0 and slope > 0 and (y1 - y0) / (t1 - t0) < _STOPPED_SHARE * slope:
            return Watch(
                "filter",
                ("mass_g",),
                "g",
                0.0,
                target,
                shown(points),
                expected,
                (),
                state,
                message("It has nearly stopped: {left} are still above.", left=grams(target - y1)),
                message("A fresh filter is faster than waiting; weigh the old one wet."),
                True,
            )
    if state == "there":
        text = message("It has run through.")
    else:
        to_come = grams(target - (points[-1][1] if points else 0.0))
        text = message("{mass} to come: {time}.", mass=to_come, time=minutes_left(expected, points))
    return Watch("filter", ("mass_g",), "g", 0.0, target, shown(points), expected, (), state, text)


def _half_time(step: Cool, start_c: float, points: Points) -> tuple[float, float, float]:
    """Returns the half time of cooling [min] with its range: the usual one of the method until a probe is read. Source: Newton's law of cooling."""
    # Newton's law: the difference to the surroundings halves in equal times.
    around = _AROUND_C[step.method]
    by_readings = [
        at * math.log(2.0) / math.log((start_c - around) / (value - around))
        for at, value in points
        if at > 0 and around < value < start_c - _COOLED_K
    ]
    if not by_readings:
        return _HALF_MIN[step.method]
    # The last probe is the furthest from the start, so its error matters least.
    best = by_readings[-1]
    return best, best * (1 - ONE_POINT / len(by_readings)), best * (1 + ONE_POINT / len(by_readings))


def _cooling(step: Cool, done: StepFlow, begun: str, reads: Sequence[Reading], rules: Mapping[str, Any]) -> Watch:
    """Returns the watch of a vessel that cools, with the two stages of the local limit; it warns as soon as the rate shows that they cannot be met."""
    limit = rules["cooling"]
    points = points_of(begun, reads, {"temperature_c": lambda value: value})
    # The first probe may show more than was predicted: cooling starts from the hotter of both.
    start = max(done.before.temperature_c, points[0][1] if points else -math.inf)
    around = _AROUND_C[step.method]
    half, least, most = _half_time(step, start, points)

    def reaches(to_c: float, with_half: float) -> float:
        if start <= to_c or to_c <= around:
            return 0.0
        return with_half * math.log2((start - around) / (to_c - around))

    # Newton's law never reaches the temperature around; a kelvin above it counts as there.
    target = max(step.to_c, around + 1.0)
    expected = (reaches(target, least), reaches(target, half), reaches(target, most))
    state = state_of(target - around, tuple((at, value - around) for at, value in points), expected, falls=True)
    # Colder than asked for is cold enough.
    state = "there" if state == "past" else state
    # Both stages count from the temperature at which the code begins to count.
    first = reaches(limit["first_c"], half) - reaches(limit["from_c"], half)
    second = reaches(limit["then_c"], half) - reaches(limit["from_c"], half)
    over_first, over_second = first > limit["first_min"], second > limit["first_min"] + limit["then_min"]
    warns = start > limit["first_c"] and (over_first or over_second) and state != "there"
    advice = NOTHING
    if warns:
        stage = (
            (limit["first_c"], first, limit["first_min"])
            if over_first
            else (limit["then_c"], second, limit["first_min"] + limit["then_min"])
        )
        advice = message(
            "At this pace {to} °C takes {time} min; the limit is {limit} ({source}). Shallower pans, an ice bath, stir. Follow your local food code.",
            to=Given(stage[0]),
            time=Computed(stage[1], decimals=0),
            limit=Given(stage[2]),
            source=limit["source"],
        )
    cold = message("Cold enough.")
    text = (
        cold if state == "there" else message("{target} in {time}.", target=Computed(target, "°C", 0), time=minutes_left(expected, points))
    )
    return Watch("cooling", ("temperature_c",), "°C", start, step.to_c, shown(points), expected, (), state, text, advice, warns)


def _enzyme(step: Enzyme, done: StepFlow, begun: str, reads: Sequence[Reading]) -> Watch:
    """Returns the watch of pectin by the time at the temperature that was held: each probe counts for the time since the one before."""
    points = points_of(begun, reads, {"temperature_c": lambda value: value})
    ph = ph_or_neutral(done.before.liquid)
    spans = [
        (at - before, value) for (before, _), (at, value) in zip(((0.0, step.temperature_c), *points)[: len(points)], points, strict=True)
    ]
    # A weighted mean by time: a probe stands for the time since the one before it.
    held = (
        math.fsum(t * value for t, value in spans) / math.fsum(t for t, _ in spans) if spans and points[-1][0] > 0 else step.temperature_c
    )
    held = min(_ENZYME_MOST_C, max(0.0, held))
    # How much the spec meant to cut; the time that cuts as much at the temperature that was held follows by bisection.
    wanted = enzyme_done(step.minutes, step.temperature_c, ph, 1.0)
    low, high = 0.0, _LONGEST_TIMES * step.minutes + 60.0
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if enzyme_done(middle, held, ph, 1.0) < wanted else (low, middle)
    expected = (_ENZYME_SPREAD.low * high, high, _ENZYME_SPREAD.high * high)
    slow = high > _SLOW_TIMES * step.minutes
    text = message(
        "At {held} it takes {time} in all; {meant} at {meant_at} °C were meant.",
        held=Computed(held, "°C", 0),
        time=Computed(high, "min", 0),
        meant=Computed(step.minutes, "min", 0),
        meant_at=Given(step.temperature_c),
    )
    advice = message("Warm it, at most to 55 °C: heat ends the enzyme.") if slow else NOTHING
    return Watch(
        "enzyme",
        ("temperature_c",),
        "°C",
        step.temperature_c,
        step.temperature_c,
        shown(points),
        expected,
        (),
        "going",
        text,
        advice,
        slow,
    )


def _steep(done: StepFlow) -> Watch:
    """Returns the watch of a steep: moments to taste, and what to do if it is too strong or too weak: dilute with plain syrup of the same °Bx, or wait a fifth
    longer.
    """
    minutes = done.step.waiting_min
    early, late = _TASTES_SHORT if minutes <= _SHORT_MIN else _TASTES_LONG
    moments = (
        (round(early * minutes), round(late * minutes), minutes) if minutes <= _SHORT_MIN else (early * minutes, late * minutes, minutes)
    )
    # 1/9 of plain liquid brings 10/9 of the strength back to 1.
    cut, brix = _TOO_STRONG * done.after.state.mass_g, PROPERTY["brix"](done.after.state.liquid)
    if brix > _SWEET_BX:
        plain = message("{mass} of plain syrup at {brix}", mass=grams(cut), brix=quantity("brix", brix))
    else:
        plain = message("{mass} of the plain liquid", mass=grams(cut))
    advice = message(
        "Too strong by a tenth: {plain} cut it and keep the rest as it is. Too weak: {longer} more.",
        plain=plain,
        longer=Computed(_LONGER_SHARE * minutes, "min", 0),
    )
    by_readings = listed(Computed(at, "min", 0) if at < _HOURS_FROM_MIN else Computed(at / 60, "h", 1) for at in moments[:-1])
    text = message("Taste at {moments}.", moments=by_readings)
    return Watch("steep", (), "min", 0.0, minutes, (), (minutes, minutes, minutes), moments, "going", text, advice)


_WATCHED = (Reduce, VacuumReduce, FreezeDrip, Filter, Cool, Enzyme)


def is_watched(step: Step) -> bool:
    """Returns True if a step of this verb is followed by readings from its beginning."""
    return isinstance(step, _WATCHED)


def watch_of(done: StepFlow, begun: str, reads: Sequence[Reading], rules: Mapping[str, Any] | None = None) -> Watch | None:
    """Returns the watch of a step that has begun, with its readings so far; None if the step is not monitored. `rules` hold the local cooling limit."""
    try:
        found = _watch(done, begun, reads, rules or starting_rules())
    except Refusal:
        # A vessel that cannot be measured (dry, empty) cannot be watched; the step itself says what is wrong with it.
        return None
    return replace(found, wait_min=done.step.waiting_min) if found else None


def _watch(done: StepFlow, begun: str, reads: Sequence[Reading], rules: Mapping[str, Any]) -> Watch | None:
    step = done.step
    if isinstance(step, Reduce | VacuumReduce):
        return _reduction(done, begun, reads)
    if isinstance(step, FreezeDrip):
        return _drip(step, done, begun, reads)
    if isinstance(step, Filter) or (isinstance(step, Strain) and reads):
        return _filtering(done, begun, reads)
    if isinstance(step, Cool):
        return _cooling(step, done, begun, reads, rules)
    if isinstance(step, Enzyme):
        return _enzyme(step, done, begun, reads)
    if isinstance(step, Steep | Infuse) and step.waiting_min > 0:
        return _steep(done)
    return None
