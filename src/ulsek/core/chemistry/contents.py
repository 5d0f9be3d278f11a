"""Contents: the mass of each substance in a vessel. Every other figure is computed from it."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from ..base.messages import Given, message
from ..base.refusals import Refusal
from .substances import BANDS, SUBSTANCES, Band


@dataclass(frozen=True, slots=True)
class Contents:
    """Mass of each substance [g]; a substance that is absent has none. Never negative."""

    grams: Mapping[str, float] = field(default_factory=dict)

    @property
    def mass_g(self) -> float:
        """Mass of all substances [g]."""
        return math.fsum(self.grams.values())

    def of(self, key: str) -> float:
        """Returns the mass of one substance [g]."""
        return self.grams.get(key, 0.0)

    def total(self, keys: Iterable[str]) -> float:
        """Returns the mass of several substances together [g]."""
        return math.fsum(self.grams.get(key, 0.0) for key in keys)

    def __add__(self, other: Contents) -> Contents:
        mixed = dict(self.grams)
        for key, mass in other.grams.items():
            mixed[key] = mixed.get(key, 0.0) + mass
        return Contents(mixed)

    def scaled(self, factor: float) -> Contents:
        """Returns `factor` times the contents."""
        return Contents({key: mass * factor for key, mass in self.grams.items()})

    def taking(self, key: str, mass_g: float) -> Contents:
        """Returns the contents less `mass_g` [g] of one substance. Raises Refusal for more than there is."""
        have = self.of(key)
        if mass_g > have:
            raise Refusal(
                message("{mass} g of {substances} cannot leave", mass=Given(mass_g, digits=4), substances=SUBSTANCES[key].name),
                bound=message("the vessel holds {have} g of it", have=Given(have, digits=4)),
                remedy=message("Check the minutes, the lid and what went in"),
                code="more_than_there_is",
            )
        return Contents({**self.grams, key: have - mass_g})

    def without(self, key: str) -> Contents:
        """Returns the contents without one substance."""
        return Contents({name: mass for name, mass in self.grams.items() if name != key})

    @property
    def solution(self) -> Contents:
        """The contents without the undissolved plant matter."""
        return self.without("insolubles") if "insolubles" in self.grams else self

    def bands(self) -> dict[Band, float]:
        """Returns the mass [g] in each of the five groups of substances that the river draws."""
        sums: dict[Band, float] = dict.fromkeys(BANDS, 0.0)
        for key, mass in self.grams.items():
            sums[SUBSTANCES[key].band] += mass
        return sums
