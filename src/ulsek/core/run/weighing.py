"""Weighing at the bench: what a scale must show to be taken, and how close to its plan a weight must be."""

from __future__ import annotations

from .deviations import QUIET_SHARE

STILL_G = 0.15
"""A scale that shows no more has nothing on it [g]: its drift. House experience."""
LIFTED_G = 1.0
"""A scale that shows less than nothing by more than this, or less than what is in by more, has had something lifted off it [g]. House experience."""
LEAST_SHOWN_G = -20000.0
"""A scale shows less than nothing once something is lifted off after taring, and no less than this [g]."""
_LEAST_G = 0.5
"""No hand pours closer than this [g]. House experience."""


def tolerance_g(planned_g: float) -> float:
    """Returns how far a weight may be from the planned one [g]: what cannot be tasted, and at least what can be poured by hand. 1000 g: 10 g; 20 g: 0.5 g."""
    # Small weights are bounded by the hand, large ones by the tongue.
    return max(_LEAST_G, QUIET_SHARE * planned_g)
