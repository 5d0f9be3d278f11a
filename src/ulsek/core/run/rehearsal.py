"""Rehearsal: a batch with simulated instruments that drift, overshoot and run short, and its score.

Everything follows from a seed, so that a rehearsal is the same on every device.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass

from ..base.figures import quantity
from ..base.messages import Computed, Message, counted, listed, message
from ..spec.sentences import inside_name
from .state import RunState

POURED_S = (4.0, 9.0)
RUNS_ON = (0.006, 0.045)
"""How long a pour takes [s], and the share that still runs in after the hand has stopped; house experience, not a standard."""
SHORT_ONE_IN, SHORT_SHARE = 7, (0.72, 0.93)
DRIFT = {"brix_reading": 0.5, "ph": 0.08, "temperature_c": 1.5, "acid_g_100ml": 0.06, "mass_g": 2.0, "volume_ml": 12.0}
"""By how much an instrument that was not checked may stand off, half-range in its own unit; house experience."""
_POINTS = {"weights": 40, "goals": 30, "readings": 10, "tastes": 10, "steps": 10}
_FULL_JAR = 1.6
"""What a full jar holds against what is wanted of it. House experience."""
_BYTES = 6
"""Bytes of a digest that make one number: 48 bits fit a float exactly."""
_NEAR, _FAR = 0.01, 0.06


def _chance(seed: str, *words: str) -> float:
    """Returns a number from 0 to 1 that follows from the seed and the words."""
    # A hash and no generator: the same on every device, in whatever order it is asked.
    digest = hashlib.sha256("|".join((seed, *words)).encode()).digest()
    return int.from_bytes(digest[:_BYTES], "big") / float(1 << 8 * _BYTES)


def _between(seed: str, low: float, high: float, *words: str) -> float:
    return low + (high - low) * _chance(seed, *words)


@dataclass(frozen=True, slots=True)
class Pour:
    """How a line pours: its rate [g/s], what still runs after stopping [g], and the content of the jar [g]."""

    rate_g_s: float
    runs_on_g: float
    jar_g: float


@dataclass(frozen=True, slots=True)
class InstrumentsShown:
    """What the simulated instruments show: the line at hand and how it pours, and each probe by its property, in that property's unit."""

    line: str | None
    pour: Pour | None
    probes: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class RehearsalScore:
    """The score of a rehearsal, out of 100, and where points were lost."""

    points: int
    told: tuple[Message, ...]


def pour(seed: str, line: str, wanted_g: float) -> Pour:
    """Returns how a line pours: its rate, what still runs after stopping, and the content of the jar."""
    jar = wanted_g * _FULL_JAR
    if int(_chance(seed, line, "short") * SHORT_ONE_IN) == 0:
        jar = wanted_g * _between(seed, *SHORT_SHARE, line, "jar")
    return Pour(wanted_g / _between(seed, *POURED_S, line, "rate"), wanted_g * _between(seed, *RUNS_ON, line, "on"), jar)


def shown(state: RunState, seed: str) -> InstrumentsShown:
    """Returns what the simulated instruments show now: the pour of the line at hand, and each probe with its own drift."""
    line = state.next_line
    planned = state.evaluation.flow.masses.get(line.id) if line is not None else None
    place = state.place
    figures = state.evaluation.figures[place] if place is not None else {}
    probes = {}
    for name, most in DRIFT.items():
        if name in figures:
            probes[name] = figures[name] + _between(seed, -most, most, name)
    return InstrumentsShown(line.id if line else None, pour(seed, line.id, planned) if line is not None and planned else None, probes)


def _part(name: str, share: float) -> float:
    return _POINTS[name] * max(0.0, min(1.0, share))


def score(state: RunState) -> RehearsalScore:
    """Returns the score of a batch, out of 100, and where points were lost. Weights within 1 % have all points, from 6 % on none; a goal within its tolerance
    has all; readings before bottling, tastes at steps that ask for one, and no step skipped make up the rest. House experience, not a standard.
    """
    weighed = [(key, grams) for key, grams in state.actual_g.items() if key in state.spec.lines]
    off = {item.line: abs(item.actual_g / item.planned_g - 1.0) for item in state.deviations if item.planned_g > 0}
    # From all points at 1 % off to none at 6 %, straight between.
    shares = [1.0 - max(0.0, off.get(key, 0.0) - _NEAR) / (_FAR - _NEAR) for key, _ in weighed]
    told = []
    points = _part("weights", sum(max(0.0, share) for share in shares) / len(shares)) if shares else 0.0
    worst = max(off, key=lambda key: off[key], default=None)
    if worst is not None and off[worst] > _NEAR:
        line = state.spec.lines[worst]
        name = message("what was made before") if line.own else inside_name(line.material, state.materials)
        told.append(message("Furthest off was {material}, by {share} %.", material=name, share=Computed(100 * off[worst], decimals=0)))
    figures: Mapping[str, float] = state.evaluation.figures[state.evaluation.last] if state.evaluation.last is not None else {}
    goals = state.spec.goals
    met = [goal for goal in goals if goal.property in figures and abs(figures[goal.property] - goal.value) <= goal.tolerance]
    points += _part("goals", len(met) / len(goals) if goals else 1.0)
    missed = [goal for goal in goals if goal not in met]
    if missed:
        came = listed(quantity(goal.property, figures.get(goal.property, 0.0)) for goal in missed)
        wanted = listed(quantity(goal.property, goal.value) for goal in missed)
        told.append(message("It came to {figures} instead of {goals}.", figures=came, goals=wanted))
    # A batch without goals needs no reading.
    points += _part("readings", 1.0 if state.readings or not goals else 0.0)
    if goals and not state.readings:
        told.append(message("Nothing was read before the bottles."))
    asked = [step for step in state.spec.steps if step.family == "extract" and step.waiting_min > 0]
    tasted = {taste.step for taste in state.record.tastes}
    points += _part("tastes", sum(step.id in tasted for step in asked) / len(asked) if asked else 1.0)
    if any(step.id not in tasted for step in asked):
        told.append(message("A steep was not tasted."))
    points += _part("steps", 1.0 - len(state.skipped) / len(state.spec.steps) if state.spec.steps else 0.0)
    if state.skipped:
        told.append(counted("{n} step was skipped.", "{n} steps were skipped.", len(state.skipped)))
    return RehearsalScore(round(points), tuple(told) or (message("As the spec says, from the first gram to the last."),))
