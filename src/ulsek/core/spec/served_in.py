"""The drink that a prep is made for: its dose and the size of the drink."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class ServedIn:
    """A dose of `dose_ml` [mL] of a prep in a drink of `drink_ml` [mL] as poured; `alcoholic` is None if it is unknown."""

    dose_ml: float
    drink_ml: float
    alcoholic: bool | None = None
