"""Bought materials of a schedule: which batch takes what is here, what has to be ordered, and which batches would begin before it is there."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Protocol

from .situation import MaterialSupply, Situation

_NOTHING_G = 1e-6


class MadeBatch(Protocol):
    """A batch, as far as it takes materials."""

    @property
    def key(self) -> str:
        """Its prep."""

    @property
    def number(self) -> int:
        """Its number among the batches of that prep."""

    @property
    def makes_ml(self) -> float:
        """What it makes [mL]."""

    @property
    def start_min(self) -> float:
        """When it is begun [min from now]."""


@dataclass(frozen=True, slots=True)
class Claim:
    """A batch takes `mass_g` [g] of a material at `at_min`; `ordered_g` [g] of it are not here and come with an order."""

    batch: tuple[str, int]
    material: str
    at_min: float
    mass_g: float
    ordered_g: float


@dataclass(frozen=True, slots=True)
class TooEarly:
    """A batch that would begin before its materials are here: until when it has to wait [min from now; infinity: for good], and for what."""

    batch: tuple[str, int]
    until_min: float
    materials: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FruitClaims:
    """What every batch claims, and the batches that begin too early."""

    claims: tuple[Claim, ...]
    late: tuple[TooEarly, ...]


@dataclass
class _Shelf:
    """What is left of one material as batches take it, in order of time."""

    supply: MaterialSupply
    taken_g: float = 0.0

    def there_g(self, at_min: float) -> float:
        arrived = sum(one.mass_g for one in self.supply.coming if one.at_min <= at_min)
        return max(0.0, self.supply.here_g + arrived - self.taken_g)

    def wait_until(self, at_min: float) -> float:
        """Returns when the next delivery comes after a moment; infinity if none does."""
        moments = [one.at_min for one in self.supply.coming if one.at_min > at_min]
        if self.supply.arrives_min is not None and self.supply.arrives_min > at_min:
            moments.append(self.supply.arrives_min)
        return min(moments, default=math.inf)

    def may_order(self, at_min: float) -> bool:
        return self.supply.arrives_min is not None and self.supply.arrives_min <= at_min


def claimed(situation: Situation, batches: Iterable[MadeBatch]) -> FruitClaims:
    """Returns what each batch takes of the materials that the house counts, the first to begin first; what is not here has to be ordered, or the batch has to wait.

    Mass balance: no gram is taken twice.
    """
    shelves: Mapping[str, _Shelf] = {key: _Shelf(supply) for key, supply in situation.materials.items()}
    claims: list[Claim] = []
    late: list[TooEarly] = []
    for batch in sorted(batches, key=lambda one: (one.start_min, one.key, one.number)):
        facts, at = situation.preps[batch.key], batch.start_min
        wanted = {key: per_ml * batch.makes_ml for key, per_ml in facts.needs.items() if key in shelves}
        lacking = [key for key, mass in wanted.items() if shelves[key].there_g(at) < mass - _NOTHING_G and not shelves[key].may_order(at)]
        if lacking:
            late.append(TooEarly((batch.key, batch.number), max(shelves[key].wait_until(at) for key in lacking), tuple(sorted(lacking))))
            continue
        for key, mass in wanted.items():
            here = min(mass, shelves[key].there_g(at))
            shelves[key].taken_g += here
            claims.append(Claim((batch.key, batch.number), key, at, mass, max(0.0, mass - here)))
    return FruitClaims(tuple(claims), tuple(late))
