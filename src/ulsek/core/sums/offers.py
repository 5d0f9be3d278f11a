"""Sums that a liquid offers, with its readings filled in."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..base.messages import Message, message

_SHARP_G_100ML, _SWEET_BRIX = 0.1, 1.0
"""Less acid [g/100 mL] doses nothing, less sugar [°Bx] stands in for no syrup. House experience."""


@dataclass(frozen=True, slots=True)
class SumOffer:
    """A sum by its name, its use, and the figures of the liquid as its inputs, as text."""

    name: str
    label: Message
    figures: Mapping[str, str]


def _typed(value: float) -> str:
    return f"{value:.4g}"


def offers_of(acid_g_100ml: float, brix: float) -> tuple[SumOffer, ...]:
    """Returns the sums that a liquid offers, by its titratable acid [g/100 mL] and its dissolved solids [°Bx]."""
    found = []
    if acid_g_100ml >= _SHARP_G_100ML:
        found.append(SumOffer("acid_dose", message("Dose with it"), {"solution": _typed(acid_g_100ml)}))
    if brix >= _SWEET_BRIX:
        found.append(SumOffer("swap_syrup", message("In place of another syrup"), {"want": _typed(brix)}))
    return tuple(found)
