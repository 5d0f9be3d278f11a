"""Weighing: whether a scale is fine enough for an amount."""

from __future__ import annotations

from .messages import Computed, Given, Message, Value, message

SCALE_G = 1.0
"""What a usual scale shows [g]."""


UNSURE_SHARE = 0.02
"""Share of an amount that one step of the scale may be: more is tasted in an acid. House experience."""


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
