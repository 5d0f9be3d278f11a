"""A vessel that was weighed: how much liquid moves between it and what left it, so that both agree with the scale."""

from __future__ import annotations

from dataclasses import replace

from ..chemistry.contents import Contents
from .vessel_state import Leaving, Matter

SAME_G = 1e-6
"""Two weights [g] closer than this are the same."""
_MOST_OF_IT = 0.98
"""Largest share of a stream that is given back to a vessel that weighs more than was worked out."""


def moved_between(matter: Matter, stream: Leaving, off: float) -> tuple[Matter, Leaving] | None:
    """The vessel and a stream that left it, with `off` [g] moved between them as far as either holds it: water by the steam, liquid by the sieve. None for
    other streams.
    """
    if stream.kind == "steam":
        most = _MOST_OF_IT * (stream.contents.of("water") if off > 0 else matter.liquor.of("water"))
        water = Contents({"water": min(abs(off), most)})
        here, there = (matter.liquor, stream.contents) if off < 0 else (stream.contents, matter.liquor)
        here, there = here.taking("water", water.mass_g), there + water
        liquor, gone = (here, there) if off < 0 else (there, here)
        return replace(matter, liquor=liquor), replace(stream, matter=replace(stream.matter, liquor=gone))
    if stream.kind in ("strained", "filtered", "pressed") and stream.matter.liquor.liquid.mass_g > 0 and matter.liquor.liquid.mass_g > 0:
        held = stream.matter.liquor.liquid if off > 0 else matter.liquor.liquid
        grams = min(abs(off), _MOST_OF_IT * held.mass_g)
        liquid = held.scaled(grams / held.mass_g)
        sign = 1.0 if off > 0 else -1.0
        return (
            replace(matter, liquor=_less(matter.liquor, liquid, -sign)),
            replace(stream, matter=replace(stream.matter, liquor=_less(stream.matter.liquor, liquid, sign))),
        )
    return None


def _less(contents: Contents, part: Contents, sign: float) -> Contents:
    """`contents` with `part` taken out (1) or put in (−1)."""
    return Contents({key: max(0.0, contents.of(key) - sign * part.of(key)) for key in {**contents.grams, **part.grams}})
