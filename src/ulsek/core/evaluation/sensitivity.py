"""Sensitivity: each group of uncertain inputs moved up and down by a half-range, and the change of a figure."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from .flow_values import Flow

_HALVINGS = 8
"""How often the way to the bound is halved: it is found to a 256th of a half-range."""


class OneSidedMove:
    """The flows of a spec with one group moved in one direction: by its whole half-range, and by the largest part of it at which every step can be done."""

    def __init__(self, flow_at: Callable[[float], Flow], way: float, steps: int) -> None:
        """`flow_at` returns the flow at a move [half-ranges], `way` is 1 for up and −1 for down, `steps` the count of steps of the spec."""
        self._walked, self._way, self._steps = flow_at, way, steps
        self.whole = flow_at(way)

    @property
    def refused(self) -> Refusal | None:
        """The refusal of the whole move; None if every step can be done."""
        return self.whole.refusal if len(self.whole.steps) < self._steps else None

    def at(self, step: int) -> Flow | None:
        """Returns the flow in which a step is done; None if no move in this direction reaches it."""
        return self.whole if step < len(self.whole.steps) else self._furthest

    @cached_property
    def _furthest(self) -> Flow | None:
        """The flow of the largest move at which all steps are done, to 1/256 of the half-range. It takes eight flows, so it is computed only when it is needed."""
        low, high, found = 0.0, 1.0, None
        for _ in range(_HALVINGS):
            share = (low + high) / 2.0
            # Feasible moves form an interval from 0, so halving finds its end.
            tried = self._walked(self._way * share)
            if len(tried.steps) >= self._steps:
                low, found = share, tried
            else:
                high = share
        return found


@dataclass(frozen=True, slots=True)
class MovedGroup:
    """The flows of a spec with one group moved up and down; `down` is None if the effect of `up` is to be mirrored.

    If the whole move would break the spec, the largest feasible move stands for it, so that a wider input never gives a narrower range.
    """

    up: OneSidedMove
    down: OneSidedMove | None

    @property
    def refused(self) -> Refusal | None:
        """The refusal at either end; None if both can be made."""
        return self.up.refused or (self.down.refused if self.down is not None else None)


def both_ways(flow_at: Callable[[float], Flow], steps: int, *, mirrored: bool) -> MovedGroup:
    """Returns a group moved both ways; if `mirrored`, down is the mirror of up as long as that can be made whole."""
    up = OneSidedMove(flow_at, 1.0, steps)
    return MovedGroup(up, None if mirrored and up.refused is None else OneSidedMove(flow_at, -1.0, steps))


def changes(moved: Sequence[MovedGroup], step: int, of: Callable[[Flow], float]) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Returns (ups, downs): the change of a figure after `step` for each group moved by a half-range; `of` returns its change in one flow.

    Where the whole move is not feasible the largest feasible one stands for it; a direction without any is the mirror of the other.
    """
    ups: list[float] = []
    downs: list[float] = []
    for one in moved:
        up = one.up.at(step)
        down = one.down.at(step) if one.down is not None else None
        rise = of(up) if up is not None else None
        fall = of(down) if down is not None else None
        if rise is None:
            # To first order a response is odd: the missing side is the mirror of the other.
            rise = -fall if fall is not None else 0.0
        ups.append(rise)
        downs.append(-rise if fall is None else fall)
    return tuple(ups), tuple(downs)


def change_in(figure: Callable[[Contents], float], value: float, here: Contents, there: Contents) -> tuple[float, Refusal | None]:
    """Returns (change of a `figure` from `here`, where it is `value`, to `there`; the refusal there).

    If the figure has no value there, the change is that at the furthest mixture of both contents where it has one.
    """
    try:
        return figure(there) - value, None
    except Refusal as refusal:
        low, high, found = 0.0, 1.0, value
        for _ in range(_HALVINGS):
            share = (low + high) / 2.0
            try:
                low, found = share, figure(here.scaled(1.0 - share) + there.scaled(share))
            except Refusal:
                high = share
        return found - value, refusal
