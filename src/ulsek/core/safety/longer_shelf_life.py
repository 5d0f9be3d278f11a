"""Longer shelf life: for each barrier the addition or process that reaches it for this vessel, with its condition."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from ..base.figures import quantity
from ..base.messages import Given, Message, grams, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..properties.bounds import is_solution
from ..properties.measure import PROPERTY
from ..properties.sugar import sucrose_saturation_g_g
from ..properties.water import water_activity
from .shelf_life_rules import starting_rules


@dataclass(frozen=True, slots=True)
class WayToKeepLonger:
    """A way to keep longer: what to add or do, and the condition that goes with it."""

    barrier: str
    material: str
    mass_g: float
    words: Message
    condition: Message


FRIDGE_C = 4.0
"""Temperature of a refrigerator [°C], at which sugar must stay dissolved."""
_TRACE = 1e-6
"""Share of the vessel that stands for no acid at all, so that there is a pH to begin from."""
_SPIRIT_BY_MASS = 0.333
"""Mass fraction of ethanol in a spirit of 40 % vol. Source: OIML R 22."""
_MOST_TIMES, _CAP = 6.0, 80


def _grams_to(contents: Contents, unit: Contents, reached: Callable[[Contents], bool]) -> float | None:
    """Returns the least mass [g] of an addition for which `reached(contents)` is True, by bisection to 1e-9; None if six times the vessel is not enough."""
    # Beyond six times the vessel it is another product, and not a way to keep this one.
    low, high = 0.0, _MOST_TIMES * contents.mass_g
    if not reached(contents + unit.scaled(high)):
        return None
    for _ in range(_CAP):
        middle = (low + high) / 2.0
        if reached(contents + unit.scaled(middle)):
            high = middle
        else:
            low = middle
    return high


def _by_sugar(contents: Contents, limit: float, keep_c: float) -> list[WayToKeepLonger]:
    """Returns sugar to a water activity below `limit` [-], with what of it stays dissolved at `keep_c` [°C]; nothing for what has no water. Source:
    `water_activity`.
    """
    sugar = Contents({"sucrose": 1.0})
    if not is_solution(contents):
        return []
    # By the strictest row of the tables, which needs no other barrier beside it. Sugar that leaves no solution at all binds its water too.
    mass_g = _grams_to(contents, sugar, lambda vessel: not is_solution(vessel) or water_activity(vessel) < limit)
    if not mass_g:
        return []
    full = contents + sugar.scaled(mass_g)
    # Sugar that crystallises in the refrigerator leaves a thinner syrup above it.
    holds = sucrose_saturation_g_g(full, max(0.0, keep_c)) * full.of("water")
    words = message("{mass} of sugar bring the water activity below {limit}", mass=grams(mass_g), limit=Given(limit))
    if full.of("sucrose") > holds:
        words = message(
            "{mass} of sugar bring the water activity below {limit}, but only {holds} stay dissolved at {keep} °C",
            mass=grams(mass_g),
            limit=Given(limit),
            holds=grams(holds),
            keep=Given(keep_c),
        )
    then = message("Read °Bx or water activity on the batch; keep the neck clean.")
    return [WayToKeepLonger("water_activity", "white_sugar", mass_g, words, then)]


def _by_acid(contents: Contents, most: float) -> list[WayToKeepLonger]:
    """Returns citric acid to a predicted pH below `most` [pH]; nothing for what has no water, or whose pH cannot be computed. Source: `ph`."""
    acid = Contents({"citric_acid": 1.0})
    if not is_solution(contents):
        return []
    # Without any acid there is no pH; a trace of it makes the search start from a figure.
    start = contents if contents.of("citric_acid") else contents + acid.scaled(_TRACE * contents.mass_g)
    try:
        now = PROPERTY["ph"](start)
        mass_g = 0.0 if now < most else _grams_to(start, acid, lambda vessel: not is_solution(vessel) or PROPERTY["ph"](vessel) < most)
    except Refusal as refusal:
        if refusal.code != "no_ph":
            raise
        return []
    if mass_g is None:
        return []
    words = (
        message("{mass} of citric acid bring the predicted pH below {most}", mass=grams(mass_g), most=Given(most))
        if mass_g
        else message("Its predicted pH is {ph}", ph=quantity("ph", now))
    )
    then = message(
        "A predicted pH lengthens nothing: read it on a meter checked in its buffers, each batch. Preserving by acid may need an approved plan."
    )
    return [WayToKeepLonger("ph", "citric_acid", mass_g, words, then)]


def ways_to_keep_longer(
    contents: Contents, rules: Mapping[str, Any] | None = None, keep_c: float = FRIDGE_C
) -> tuple[WayToKeepLonger, ...]:
    """Returns each barrier solved for this vessel: sugar to a water activity, acid to a pH, spirit to a strength, the freezer; each with the evidence that it
    needs.

    Sugar that would not stay dissolved at `keep_c` [°C] is mentioned, not offered. Source: `water_activity`, `ph`, mass balance; the rules' bounds.
    """
    barriers = (rules or starting_rules())["barriers"]
    found = _by_sugar(contents, barriers["water_activity"]["aw_below"], keep_c)
    found += _by_acid(contents, barriers["ph"]["ph_below"])
    # What a bar has at hand to raise a strength with.
    spirit, least = Contents({"water": 1.0 - _SPIRIT_BY_MASS, "ethanol": _SPIRIT_BY_MASS}), barriers["abv"]["least"]
    # Spirit dilutes as it strengthens: bisection rather than a share.
    mass_g = _grams_to(contents, spirit, lambda vessel: PROPERTY["abv"](vessel) >= least)
    if mass_g is not None and mass_g > 0:
        found.append(
            WayToKeepLonger(
                "abv",
                "neutral_spirit_40",
                mass_g,
                message("{mass} of spirit of 40 % vol bring it to {least} % vol", mass=grams(mass_g), least=Given(least)),
                message("By labelled strength and weight; the label then says alcohol."),
            )
        )
    found.append(
        WayToKeepLonger(
            "frozen",
            "",
            0.0,
            message("Freeze it in portions at −18 °C"),
            message("The class's days count again from the thaw; leave a tenth of head room."),
        )
    )
    return tuple(found)
