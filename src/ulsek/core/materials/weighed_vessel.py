"""Weighed vessels: liquid moved between a vessel and its outgoing streams, so that the vessel agrees with the scale."""

from __future__ import annotations

from dataclasses import replace

from ..chemistry.contents import Contents
from .vessel_state import OutgoingStream, VesselState

SAME_G = 1e-6
"""Two weights [g] closer than this are the same."""
_MOST_OF_IT = 0.98
"""Largest share of a stream that is given back to a vessel that weighs more than was worked out."""


def moved_between(state: VesselState, stream: OutgoingStream, off: float) -> tuple[VesselState, OutgoingStream] | None:
    """Returns the vessel and a stream that left it, with `off` [g] moved between them as far as either holds it: water for steam, liquid for a sieve. None for
    other streams.
    """
    if stream.kind == "steam":
        # The scale is right about the sum, not about where the difference came from: steam is the least certain of what left.
        most = _MOST_OF_IT * (stream.contents.of("water") if off > 0 else state.liquid.of("water"))
        water = Contents({"water": min(abs(off), most)})
        here, there = (state.liquid, stream.contents) if off < 0 else (stream.contents, state.liquid)
        here, there = here.taking("water", water.mass_g), there + water
        liquid, gone = (here, there) if off < 0 else (there, here)
        return replace(state, liquid=liquid), replace(stream, state=replace(stream.state, liquid=gone))
    if stream.kind in ("strained", "filtered", "pressed") and stream.state.liquid.solution.mass_g > 0 and state.liquid.solution.mass_g > 0:
        held = stream.state.liquid.solution if off > 0 else state.liquid.solution
        grams = min(abs(off), _MOST_OF_IT * held.mass_g)
        solution = held.scaled(grams / held.mass_g)
        # What a sieve holds is not seen by the scale under the vessel, so the difference is taken from it first.
        sign = 1.0 if off > 0 else -1.0
        return (
            replace(state, liquid=_less(state.liquid, solution, -sign)),
            replace(stream, state=replace(stream.state, liquid=_less(stream.state.liquid, solution, sign))),
        )
    return None


def _less(contents: Contents, part: Contents, sign: float) -> Contents:
    """Returns `contents` with `part` taken out (`sign` 1) or put in (−1)."""
    return Contents({key: max(0.0, contents.of(key) - sign * part.of(key)) for key in {**contents.grams, **part.grams}})
