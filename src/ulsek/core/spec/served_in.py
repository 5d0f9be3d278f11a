"""The drink that a prep is made for: how much of it goes in, and how large the drink is."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class ServedIn:
    """A dose of `dose_ml` [mL] of a prep in a drink of `drink_ml` [mL] as poured; `alcoholic` where somebody said so, else None."""

    dose_ml: float
    drink_ml: float
    alcoholic: bool | None = None
