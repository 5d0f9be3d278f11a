"""Sums on readings: specific gravity of a hydrometer to °Bx, and the recovery of a thaw by two readings."""

from __future__ import annotations

import math

from ..base.messages import Computed, Given, message
from ..base.refusals import Refusal
from ..properties.density import sucrose_density
from .sheet import Ask, Sum, SumAnswer, SumFigure, SumPart

_DENSEST = 0.85
"""Mass fraction of sugar up to which the density is tabulated. Source: ICUMSA SPS-4."""
_CAP = 60


def brix_of_gravity(gravity: float) -> float:
    """Returns the °Bx [g per 100 g] of a sugar solution of specific gravity `gravity` [1 to 1.45] at 20/20 °C: the inverse of `sucrose_density`, to 1e-9.

    10.004 at 1.0400. Error 0.05 °Bx for sugar and water; other solids differ by 2 %. Raises Refusal outside its range. Source: ICUMSA SPS-4.
    """
    # Specific gravity is relative to water of the same temperature, so both densities are those at 20 °C.
    water = sucrose_density(0.0)
    if not 1.0 <= gravity <= sucrose_density(_DENSEST) / water:
        raise Refusal(
            message("A specific gravity of {gravity} is outside the table", gravity=Given(gravity)),
            "gravity",
            message("from 1 to {sucrose_density}, read at 20 °C", sucrose_density=Computed(sucrose_density(_DENSEST) / water, decimals=3)),
            message("Read it without alcohol and without gas"),
            "out_of_bounds",
        )
    # Density rises with °Bx over the whole table, so bisection always finds the one solution; 60 halvings pass double precision.
    low, high = 0.0, _DENSEST
    for _ in range(_CAP):
        middle = (low + high) / 2.0
        if sucrose_density(middle) / water < gravity:
            low = middle
        else:
            high = middle
    return 50.0 * (low + high)


def specific_gravity(gravity: float) -> SumAnswer:
    """Returns °Bx and sugar per 100 mL from a hydrometer's specific gravity at 20 °C [1 to 1.44]: 1.0400 is 10.0 °Bx, 10.4 g/100 mL. Error 0.05 °Bx. Source:
    `brix_of_gravity`.
    """
    found = brix_of_gravity(gravity)
    density = sucrose_density(found / 100.0) / 1000.0
    return SumAnswer(
        (
            SumFigure(message("dissolved"), found, "°Bx"),
            SumFigure(message("as sugar"), found * density, "g/100 mL"),
            SumFigure(message("density"), density, "g/mL"),
            SumFigure(message("in degrees of gravity"), 1000.0 * (gravity - 1.0), "points"),
        ),
        message("the sugar solution that weighs as much at 20 °C"),
        "density of sugar solutions ICUMSA SPS-4",
        (message("Alcohol makes it read low and gas high: shake it out, and don't use it on spirits."),),
    )


def thaw_recovery(juice: float, drip: float, mass: float, caught: float) -> SumAnswer:
    """Returns the share of the solutes in a drip: of `mass` [g] of juice at `juice` [°Bx], a drip of `caught` [g] at `drip` [°Bx].

    1000 g at 12, 450 g of drip at 22: 82.5 % in 45 % of the mass; the ice has 3.8 °Bx, steepness 2.92. Error: that of the readings. Raises Refusal for more
    than there was. Source: mass balance; 1 − (1 − f)^k.
    """
    if caught >= mass:
        raise Refusal(
            message("{caught} g of drip are all of it", caught=Given(caught)),
            "caught",
            message("less than {mass} g", mass=Given(mass)),
            message("Weigh the drip alone"),
            "more_than_there_is",
        )
    # Solids are mass × °Bx on both sides; what is not in the drip is still in the ice.
    back, share = caught * drip / (mass * juice), caught / mass
    # More than there was is no gain but two readings that contradict each other.
    if back > 1.0 + 1e-9:
        raise Refusal(
            message("The drip holds {caught} g of solids", caught=Computed(caught * drip / 100, decimals=0)),
            "drip",
            message("the juice had {mass} g", mass=Computed(mass * juice / 100, decimals=0)),
            message("Read both again at 20 °C, stirred"),
            "readings_disagree",
        )
    left = (mass * juice - caught * drip) / (mass - caught)
    # 1 − back = (1 − share)^k, solved for k. A drip that holds everything has no finite k.
    steep = math.log(1.0 - back) / math.log(1.0 - share) if back < 1.0 else None
    return SumAnswer(
        (
            SumFigure(message("of what is dissolved"), 100.0 * back, "%"),
            SumFigure(message("in so much of the weight"), 100.0 * share, "%"),
            SumFigure(message("the ice left stands at"), left, "°Bx"),
            SumFigure(message("stronger by"), drip / juice, "times"),
            *((SumFigure(message("steepness of this drip"), steep, ""),) if steep is not None else ()),
        ),
        message("drip × its °Bx / (juice × its °Bx)"),
        "mass balance",
        (
            message("Ice under a fifth of the juice's °Bx is spent; above it, let more of it run.")
            if left < 0.2 * juice
            else message(
                "The ice still holds {back} %: let more of it run, or melt it for a granita.", back=Computed(100 * (1 - back), decimals=0)
            ),
        ),
        (SumPart(message("drip"), caught, "g", "sugar"), SumPart(message("ice left"), mass - caught, "g", "water")),
    )


GAUGE_SUMS = (
    Sum(
        "specific_gravity",
        "readings",
        message("Specific gravity to °Bx"),
        {"gravity": Ask(message("Specific gravity at 20 °C"), "", 1.0, 1.44)},
        specific_gravity,
        message("0.05 °Bx for sugar and water"),
    ),
    Sum(
        "thaw_recovery",
        "clear",
        message("What a thaw has brought back"),
        {
            "juice": Ask(message("The juice read"), "°Bx", 0.5, 60.0, lends="brix"),
            "drip": Ask(message("The drip reads"), "°Bx", 0.5, 80.0, lends="brix"),
            "mass": Ask(message("Juice frozen"), "g", 1.0, 1e6, 1000.0),
            "caught": Ask(message("Drip caught"), "g", 0.1, 1e6),
        },
        thaw_recovery,
        message("2 % with both read to 0.2 °Bx"),
    ),
)
