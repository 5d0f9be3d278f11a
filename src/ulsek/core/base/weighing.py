"""Weighing: whether a scale is fine enough for an amount."""

from __future__ import annotations

from dataclasses import dataclass

from .messages import Computed, Given, Message, Value, message

SCALE_G, FINE_G = 1.0, 0.01
"""Resolution of the usual scale at a bench, and of a fine scale [g]: those of a house that has told of none."""
UNSURE_SHARE = 0.02
"""Share of an amount that one step of the scale may be: more is tasted in an acid. House experience."""


@dataclass(frozen=True, slots=True)
class Scales:
    """The resolutions of the scale at the bench and of the fine one [g]."""

    bench_g: float = SCALE_G
    fine_g: float = FINE_G

    def step_g(self, mass_g: float) -> float:
        """Returns the resolution [g] of the scale that a mass [g] is weighed on: the coarsest of which one step is at most 2 % of it.

        An amount that is too small for both takes 0.01 g, or the fine scale if that is finer. 618 g on 1 g and 0.1 g: 1; 8 g: 0.1; 0.3 g: 0.01.
        """
        fits = (step for step in (self.bench_g, self.fine_g) if mass_g * UNSURE_SHARE >= step)
        return next(fits, min(FINE_G, self.fine_g))


def resolution_remark(grams: float, resolution_g: float, what: Value) -> tuple[Message, ...]:
    """Returns one sentence if one step of a scale of `resolution_g` [g] is more than 2 % of `grams` [g] of `what`, else an empty tuple. It proposes to weigh a
    solution.

    0.5 g on a scale of 0.1 g: 20 %. Source: house experience, not a standard.
    """
    if grams <= 0 or resolution_g / grams <= UNSURE_SHARE:
        return ()
    # A solution of one in ten: ten times the mass on the same scale is ten times as sure.
    ten_times = 10 * grams
    return (
        message(
            "{mass} g of {material} on a scale of {resolution} g is {share} % unsure: dissolve {ten_times} g in {water} g of water and weigh {ten_times} g of that.",
            mass=Given(grams, digits=3),
            material=what,
            resolution=Given(resolution_g),
            share=Computed(100 * resolution_g / grams, decimals=0),
            ten_times=Given(ten_times, digits=3),
            water=Given(9 * ten_times, digits=3),
        ),
    )
