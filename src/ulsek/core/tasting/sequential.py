"""A rule that ends a panel as soon as it is decided. It is fixed before anybody tastes, so that looking at the count after each answer does no harm."""

from __future__ import annotations

import math

from .found import ALARM, Decided


def bounds_after(sets: int, guess: float, line: float) -> tuple[float, float]:
    """Returns (fewer right answers than this keep the line, more than this show a difference) [count] after so many `sets` [count].

    Sequential probability ratio test of no difference against a share `line` of guests who tell [0 to 1], with an error of 5 % each way. Source: Wald 1945.
    """
    at_line = guess + (1.0 - guess) * line
    gain, loss = math.log(at_line / guess), math.log((1.0 - guess) / (1.0 - at_line))
    slope, width = loss / (gain + loss), math.log((1.0 - ALARM) / ALARM) / (gain + loss)
    return slope * sets - width, slope * sets + width


def decided(right: int, sets: int, guess: float, line: float) -> Decided:
    """Returns what `right` of `sets` answers [count] decide; empty if they decide nothing yet."""
    low, high = bounds_after(sets, guess, line)
    if right >= high:
        return "difference"
    return "line kept" if right <= low else ""
