"""Weighing: what is said where a scale is too coarse for an amount."""

from __future__ import annotations


def resolution_remark(grams: float, resolution_g: float, what: str) -> tuple[str, ...]:
    """A word of warning where a scale is too coarse: more than 2 % of the amount is one step of it, so weigh ten times as much and thin it."""
    if grams <= 0 or resolution_g / grams <= 0.02:
        return ()
    unsure = f"{grams:.3g} g of {what} on a scale of {resolution_g:g} g is {100 * resolution_g / grams:.0f} % unsure"
    return (f"{unsure}: dissolve {10 * grams:.3g} g in {90 * grams:.3g} g of water and weigh {10 * grams:.3g} g of that.",)
