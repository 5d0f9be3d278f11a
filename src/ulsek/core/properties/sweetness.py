"""Sweetness relative to the same mass of white sugar."""

from __future__ import annotations

import math

from ..base.ranges import Range
from ..chemistry.contents import Contents
from .density import liquid_ml

SWEETNESS = {
    "sucrose": Range(1.0, 1.0, 1.0),
    "glucose": Range(0.70, 0.62, 0.76),
    "fructose": Range(1.25, 1.05, 1.70),
    "allulose": Range(0.70, 0.65, 0.75),
    "glucose_syrup_solids": Range(0.38, 0.28, 0.48),
    "maltodextrin": Range(0.10, 0.05, 0.20),
    "other_carbohydrate": Range(0.40, 0.30, 0.50),
    "glycerol": Range(0.60, 0.55, 0.75),
    "erythritol": Range(0.65, 0.58, 0.70),
    "xylitol": Range(1.00, 0.93, 1.05),
    "sorbitol": Range(0.60, 0.52, 0.65),
    "isomalt": Range(0.52, 0.45, 0.62),
    "polyol": Range(0.65, 0.45, 1.00),
}
"""Sweetness per gram against sucrose in about 10 % solution; moves with cold, acid and strength. Compiled, not verified one by one."""


def sweetness_g_100ml(contents: Contents) -> float:
    """Sweetness [g per 100 mL, as sucrose]: Σ grams × sweetness of each kind, per volume at 20 °C.

    Error 0.1 of itself at best; cold lifts fructose, warmth and acid lower it. 61.5 for a 1:1 syrup by weight. Source: compiled relative sweetness.
    """
    # Added up by mass: masking and synergy of sweeteners are left to their ranges.
    return 100.0 * math.fsum(contents.of(key) * factor.value for key, factor in SWEETNESS.items()) / liquid_ml(contents)


def sweetness_uncertainty(contents: Contents, _value: float = 0.0) -> tuple[float, float]:
    """How far [g per 100 mL] the sweetness may lie (below, above): each kind's own spread, added up. Source: `SWEETNESS`."""
    volume = liquid_ml(contents) / 100.0
    return (
        # Added up, not in squares: cold and acid move all of them together.
        math.fsum(contents.of(key) * (f.value - f.low) for key, f in SWEETNESS.items()) / volume,
        math.fsum(contents.of(key) * (f.high - f.value) for key, f in SWEETNESS.items()) / volume,
    )
