"""Bought materials of a schedule: which batch takes what is here, what has to be ordered, and which batches would begin before it is there."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Protocol

from .situation import MaterialSupply, Situation

_NOTHING_G = 1e-6


class MadeBatch(Protocol):
    """What `claimed` reads of a batch."""

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
    """The mass of a material that a batch needs at its start: `mass_g` [g] at `at_min` [min from now], of which `ordered_g` [g] is not in stock and must be ordered."""

    batch: tuple[str, int]
    material: str
    at_min: float
    mass_g: float
    ordered_g: float


@dataclass(frozen=True, slots=True)
class TooEarly:
    """A batch that would start before its materials are in stock: the keys of the lacking materials, and the earliest start [min from now; infinity if nobody delivers them]."""

    batch: tuple[str, int]
    until_min: float
    materials: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FruitClaims:
    """The claims of all batches that can start as scheduled, and the batches that cannot."""

    claims: tuple[Claim, ...]
    late: tuple[TooEarly, ...]


@dataclass
class _Shelf:
    """The stock of one material while claims are made on it in order of time."""

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
    """Returns the claims of the batches on the materials of a situation, in order of their start. A batch whose lacking material is delivered before its start gets it
    ordered; any other is returned as `late` and claims nothing.

    Conservation: the sum of the claims up to a moment never exceeds stock, deliveries and orders up to it.
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
