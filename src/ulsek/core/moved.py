"""Moved: each group of uncertain inputs moved up and down by a half-range, as far as the spec can still be made, and what a figure makes of it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from .contents import Contents
from .flow import Flow
from .refusals import Refusal

_HALVINGS = 8
"""How often the way to the bound is halved: it is found to a 256th of a half-range."""


@dataclass(frozen=True, slots=True)
class Moved:
    """One group moved: its flow up and down, how much of a half-range that was (1, less at a bound, 0 where no move can be made), and what refused the whole.

    `down` is None where up is to be mirrored.
    """

    up: Flow
    down: Flow | None
    up_share: float = 1.0
    down_share: float = 1.0
    refused: Refusal | None = None


def _furthest(walked: Callable[[float], Flow], way: float, steps: int) -> tuple[Flow, float, Refusal | None]:
    """(flow, share of a half-range, refusal of the whole move) of the furthest move `way` (1 up, −1 down) that still reaches all `steps`, to a 256th of the way."""
    whole = walked(way)
    if len(whole.steps) >= steps:
        return whole, 1.0, None
    low, high, found = 0.0, 1.0, whole
    for _ in range(_HALVINGS):
        share = (low + high) / 2.0
        tried = walked(way * share)
        if len(tried.steps) >= steps:
            low, found = share, tried
        else:
            high = share
    return found, low, whole.refusal


def both_ways(walked: Callable[[float], Flow], steps: int, *, mirrored: bool) -> Moved:
    """A group moved both ways; `walked` gives the flow at so many half-ranges, `mirrored` leaves the way down to be taken from the way up.

    A wider input never gives a narrower answer: where the whole move would break the spec, the furthest that can be made stands for it.
    """
    up, up_share, refused = _furthest(walked, 1.0, steps)
    if mirrored and up_share == 1.0:
        return Moved(up, None)
    down, down_share, also = _furthest(walked, -1.0, steps)
    return Moved(up, down, up_share, down_share, refused or also)


def changes(moved: Sequence[Moved], of: Callable[[Flow], float]) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """(ups, downs): by how much a figure changes with each whole half-range; `of` gives its change in one flow. Where the whole way cannot be taken the
    figure at the bound stands for its end; a way that cannot be taken at all is the other one mirrored.
    """
    ups: list[float] = []
    downs: list[float] = []
    for one in moved:
        rise = of(one.up) if one.up_share else None
        fall = None if one.down is None or not one.down_share else of(one.down)
        if rise is None:
            rise = -fall if fall is not None else 0.0
        ups.append(rise)
        downs.append(-rise if fall is None else fall)
    return tuple(ups), tuple(downs)


def change_in(figure: Callable[[Contents], float], value: float, here: Contents, there: Contents) -> float:
    """By how much a `figure` changes from `here`, where it is `value`, to `there`; where it has none there, to the furthest mixture of both that has one."""
    try:
        return figure(there) - value
    except Refusal:
        low, high, found = 0.0, 1.0, value
        for _ in range(_HALVINGS):
            share = (low + high) / 2.0
            try:
                low, found = share, figure(here.scaled(1.0 - share) + there.scaled(share))
            except Refusal:
                high = share
        return found - value
