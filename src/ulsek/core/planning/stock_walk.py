"""Stock over the days: what stands there at each demand when the first to expire is used first, and what is left of every supply."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from .house_experience import figure
from .situation import Supply

_NOTHING_ML = 1e-6
_SHORT_SHARE = figure("short_share")


@dataclass(frozen=True, slots=True)
class Demand:
    """At a moment `must_ml` [mL] must stand there, in date and ready; `use_ml` [mL] of it is used. `batch` is the batch of another prep that takes it (its key and
    number); None at the opening of day `day`.
    """

    at_min: float
    must_ml: float
    use_ml: float
    day: int
    batch: tuple[str, int] | None = None

    @property
    def least_ml(self) -> float:
        """Volume below which something is made [mL]: a little under the par is not worth a batch; a batch takes the whole of what it needs."""
        return self.must_ml - _NOTHING_ML if self.batch else self.must_ml * (1.0 - _SHORT_SHARE)


@dataclass(frozen=True, slots=True)
class Met:
    """A demand, what stood there for it, and what was used of that [mL]."""

    demand: Demand
    there_ml: float
    used_ml: float

    @property
    def short_ml(self) -> float:
        """Volume that is missing [mL]; 0 for what is not worth a batch."""
        return self.demand.must_ml - self.there_ml if self.there_ml < self.demand.least_ml else 0.0


@dataclass(frozen=True, slots=True)
class Walked:
    """Every demand as it was met, and what is left of each supply at the end by its code [mL]."""

    met: tuple[Met, ...]
    left_ml: Mapping[str, float]


def walk(supplies: Iterable[Supply], demands: Sequence[Demand]) -> Walked:
    """Returns the demands, which are in order of time, met from the supplies; the first to expire is used first. What is not ready or out of date counts as
    not there, and so does a supply below 0 after a miscount.
    """
    order = sorted(supplies, key=lambda supply: (supply.past_min, supply.ready_min, supply.code))
    left = [max(0.0, supply.left_ml) for supply in order]
    lives = [(n, supply.ready_min, supply.past_min) for n, supply in enumerate(order)]
    met: list[Met] = []
    for demand in demands:
        at, there, usable = demand.at_min, 0.0, []
        # Plain loops: a list of a large house walks here some thousand times.
        for n, ready, past in lives:
            if ready <= at < past and left[n] > _NOTHING_ML:
                there += left[n]
                usable.append(n)
        used = wanted = min(demand.use_ml, there)
        for n in usable:
            if wanted <= _NOTHING_ML:
                break
            taken = min(left[n], wanted)
            left[n] -= taken
            wanted -= taken
        met.append(Met(demand, there, used))
    return Walked(tuple(met), {supply.code: left[n] for n, supply in enumerate(order)})
