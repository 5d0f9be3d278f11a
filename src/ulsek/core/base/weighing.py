"""Weighing: whether a scale is fine enough for an amount."""

from __future__ import annotations

from .number_format import figure, given


def resolution_remark(grams: float, resolution_g: float, what: str) -> tuple[str, ...]:
    """Returns one sentence if a scale of `resolution_g` [g] shows `grams` [g] of `what` to no better than 2 %, else an empty tuple. It proposes a solution to weigh instead.

    0.5 g on a scale of 0.1 g: 20 % unsure. Source: house experience, not a standard.
    """
    if grams <= 0 or resolution_g / grams <= 0.02:
        return ()
    unsure = f"{given(grams, 3)} g of {what} on a scale of {given(resolution_g)} g is {figure(100 * resolution_g / grams, 0)} % unsure"
    return (
        f"{unsure}: dissolve {given(10 * grams, 3)} g in {given(90 * grams, 3)} g of water and weigh {given(10 * grams, 3)} g of that.",
    )
