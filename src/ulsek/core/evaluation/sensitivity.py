"""Moved: each group of uncertain inputs moved up and down by a half-range, as far as the spec can still be made, and what a figure makes of it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from .flow_values import Flow

_HALVINGS = 8
"""How often the way to the bound is halved: it is found to a 256th of a half-range."""


class Way:
    """The flows of a spec with one group of inputs moved in one direction: by its whole half-range, and by the largest part of it that reaches every step."""

    def __init__(self, walked: Callable[[float], Flow], way: float, steps: int) -> None:
        """`walked` gives the flow at so many half-ranges, `way` is 1 for up and −1 for down, `steps` how many the spec has."""
        self._walked, self._way, self._steps = walked, way, steps
        self.whole = walked(way)

    @property
    def refused(self) -> Refusal | None:
        """What refuses the whole move; None where every step can be done."""
        return self.whole.refusal if len(self.whole.steps) < self._steps else None

    def at(self, step: int) -> Flow | None:
        """The flow to read a step from; None where no move this way reaches it."""
        return self.whole if step < len(self.whole.steps) else self._furthest

    @cached_property
    def _furthest(self) -> Flow | None:
        """The furthest move that reaches all steps, to a 256th of the way. Worked out only when a step past the refusal is asked for: it takes eight flows."""
        low, high, found = 0.0, 1.0, None
        for _ in range(_HALVINGS):
            share = (low + high) / 2.0
            tried = self._walked(self._way * share)
            if len(tried.steps) >= self._steps:
                low, found = share, tried
            else:
                high = share
        return found


@dataclass(frozen=True, slots=True)
class Moved:
    """The flows of a spec with one group of inputs moved up and down; `down` is None if the effect of `up` is to be mirrored.

    A wider input never gives a narrower answer: where the whole move would break the spec, the furthest that can be made stands for it.
    """

    up: Way
    down: Way | None

    @property
    def refused(self) -> Refusal | None:
        """What refuses either end; None where both can be made."""
        return self.up.refused or (self.down.refused if self.down is not None else None)


def both_ways(walked: Callable[[float], Flow], steps: int, *, mirrored: bool) -> Moved:
    """A group moved both ways; `mirrored` leaves the way down to be taken from the way up as long as that can be made whole."""
    up = Way(walked, 1.0, steps)
    return Moved(up, None if mirrored and up.refused is None else Way(walked, -1.0, steps))


def changes(moved: Sequence[Moved], step: int, of: Callable[[Flow], float]) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """(ups, downs): by how much a figure after `step` changes with each half-range; `of` gives its change in one flow. Where the whole way cannot be taken the figure at
    the bound stands for its end; a way that cannot be taken at all is the other one mirrored.
    """
    ups: list[float] = []
    downs: list[float] = []
    for one in moved:
        up = one.up.at(step)
        down = one.down.at(step) if one.down is not None else None
        rise = of(up) if up is not None else None
        fall = of(down) if down is not None else None
        if rise is None:
            rise = -fall if fall is not None else 0.0
        ups.append(rise)
        downs.append(-rise if fall is None else fall)
    return tuple(ups), tuple(downs)


def change_in(figure: Callable[[Contents], float], value: float, here: Contents, there: Contents) -> tuple[float, Refusal | None]:
    """(change of a `figure` from `here`, where it is `value`, to `there`; what refuses it there). Where it has none there, the change reaches to the furthest mixture
    of both that has one.
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
