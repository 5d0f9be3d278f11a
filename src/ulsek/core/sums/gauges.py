"""Sums about readings: a hydrometer's specific gravity to °Bx, and what a thaw has brought back by two readings."""

from __future__ import annotations

import math

from ..base import number_format as say
from ..base.refusals import Refusal
from ..properties.density import sucrose_density
from .sheet import Ask, Sum, SumAnswer, SumFigure, SumPart

_CAP = 60


def brix_of_gravity(gravity: float) -> float:
    """°Bx [g per 100 g] of a sugar solution whose specific gravity at 20/20 °C is `gravity` [1 to 1.45]; `sucrose_density` the other way round, to 1e-9.

    10.004 at 1.0400. Error 0.05 °Bx for sugar and water; other solids read alike within 2 %. Source: ICUMSA SPS-4.
    """
    water = sucrose_density(0.0)
    if not 1.0 <= gravity <= sucrose_density(0.85) / water:
        raise Refusal(
            f"A specific gravity of {say.given(gravity)} is outside the table",
            "gravity",
            f"from 1 to {say.figure(sucrose_density(0.85) / water, 3)}, read at 20 °C",
            "Read it without alcohol and without gas",
            "out_of_bounds",
        )
    low, high = 0.0, 0.85
    for _ in range(_CAP):
        middle = (low + high) / 2.0
        if sucrose_density(middle) / water < gravity:
            low = middle
        else:
            high = middle
    return 50.0 * (low + high)


def specific_gravity(gravity: float) -> SumAnswer:
    """°Bx and sugar per 100 mL behind a hydrometer's specific gravity at 20 °C [1 to 1.44]: 1.0400 is 10.0 °Bx, 10.4 g/100 mL. Error 0.05 °Bx. Source: `brix_of_gravity`."""
    found = brix_of_gravity(gravity)
    density = sucrose_density(found / 100.0) / 1000.0
    return SumAnswer(
        (
            SumFigure("dissolved", found, "°Bx"),
            SumFigure("as sugar", found * density, "g/100 mL"),
            SumFigure("density", density, "g/mL"),
            SumFigure("in degrees of gravity", 1000.0 * (gravity - 1.0), "points"),
        ),
        "the sugar solution that weighs as much at 20 °C",
        "density of sugar solutions ICUMSA SPS-4",
        ("Alcohol makes it read low and gas high: shake it out, and don't use it on spirits.",),
    )


def thaw_recovery(juice: float, drip: float, mass: float, caught: float) -> SumAnswer:
    """What a thaw has brought back, by two readings: of `mass` [g] of juice at `juice` [°Bx] the drip of `caught` [g] at `drip` [°Bx] holds a share of all that is dissolved.

    1000 g at 12, 450 g of drip at 22: 82.5 % in 45 % of the weight; the ice stands at 3.8 °Bx, steepness 2.92. Refuses more than there was. Error: that of the readings. Source: mass
    balance; 1 − (1 − f)^k.
    """
    if caught >= mass:
        raise Refusal(
            f"{say.given(caught)} g of drip are all of it",
            "caught",
            f"less than {say.given(mass)} g",
            "Weigh the drip alone",
            "more_than_there_is",
        )
    back, share = caught * drip / (mass * juice), caught / mass
    if back > 1.0 + 1e-9:
        raise Refusal(
            f"The drip holds {say.figure(caught * drip / 100, 0)} g of solids",
            "drip",
            f"the juice had {say.figure(mass * juice / 100, 0)} g",
            "Read both again at 20 °C, stirred",
            "readings_disagree",
        )
    left = (mass * juice - caught * drip) / (mass - caught)
    steep = math.log(1.0 - back) / math.log(1.0 - share) if back < 1.0 else None
    return SumAnswer(
        (
            SumFigure("of what is dissolved", 100.0 * back, "%"),
            SumFigure("in so much of the weight", 100.0 * share, "%"),
            SumFigure("the ice left stands at", left, "°Bx"),
            SumFigure("stronger by", drip / juice, "times"),
            *((SumFigure("steepness of this drip", steep, ""),) if steep is not None else ()),
        ),
        "drip × its °Bx / (juice × its °Bx)",
        "mass balance",
        (
            "Ice under a fifth of the juice's °Bx is spent; above it, let more of it run."
            if left < 0.2 * juice
            else f"The ice still holds {say.figure(100 * (1 - back), 0)} %: let more of it run, or melt it for a granita.",
        ),
        (SumPart("drip", caught, "g", "sugar"), SumPart("ice left", mass - caught, "g", "water")),
    )


GAUGE_SUMS = (
    Sum(
        "specific_gravity",
        "readings",
        "Specific gravity to °Bx",
        {"gravity": Ask("Specific gravity at 20 °C", "", 1.0, 1.44)},
        specific_gravity,
        "0.05 °Bx for sugar and water",
    ),
    Sum(
        "thaw_recovery",
        "clear",
        "What a thaw has brought back",
        {
            "juice": Ask("The juice read", "°Bx", 0.5, 60.0, lends="brix"),
            "drip": Ask("The drip reads", "°Bx", 0.5, 80.0, lends="brix"),
            "mass": Ask("Juice frozen", "g", 1.0, 1e6, 1000.0),
            "caught": Ask("Drip caught", "g", 0.1, 1e6),
        },
        thaw_recovery,
        "2 % with both read to 0.2 °Bx",
    ),
)
