"""Pieces: whole fruit, peel and other solids whose contents stay inside until a step extracts them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..base.messages import message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import NO_WATER
from ..materials.vessel_state import NOTHING, Piece, VesselState, total

CUT, CRUSHED = 2.0, 4.0
"""How many times faster than whole a cut and a crushed piece gives its inside up; house experience, not a standard."""


_MOST_OF_FLESH = 0.9
"""Largest share of the flesh that a method turns into juice. House experience."""


def need_pieces(state: VesselState, doing: str) -> None:
    """Raises Refusal, naming what was to be done, for a vessel without pieces. Source: definition."""
    if not state.pieces:
        raise Refusal(
            message("There is nothing in the vessel to {doing}", doing=doing),
            remedy=message("Put whole fruit, peel or spice in first"),
            code="no_pieces",
        )


def need_solids(state: VesselState, doing: str) -> None:
    """Raises Refusal, naming what was to be done, for a vessel without pieces and without other plant matter (nuts, spices, roots, herbs). Source: definition."""
    if not state.pieces and not state.solids_g:
        raise Refusal(
            message("There is nothing in the vessel to {doing}", doing=doing),
            remedy=message("Put fruit, peel, nuts, spice, roots or herbs in first"),
            code="no_pieces",
        )


def take_parts(pieces: Sequence[Piece], names: Sequence[str], share: float) -> tuple[tuple[Piece, ...], tuple[Piece, ...]]:
    """Returns (remaining pieces, what comes off) when `share` [0 to 1] of the named parts is taken from every piece. Mass is conserved.

    100 g of kumquat with 30 g peel at share 0.9 gives 27 g. Source: mass balance.
    """
    stay, off = [], []
    for piece in pieces:
        removed = {name: part.scaled(share) for name, part in piece.parts.items() if name in names}
        if not removed:
            stay.append(piece)
            continue
        kept = {name: part.scaled(1.0 - share) if name in names else part for name, part in piece.parts.items()}
        # By the mass of the part itself, so that what stays and what comes off add up to what went in.
        weight = total(removed.values()).mass_g
        stay.append(replace(piece, parts=kept, grams_in=piece.grams_in - weight))
        off.append(Piece(piece.material, removed, weight, piece.cut))
    return tuple(stay), tuple(off)


FLESH_GIVES = 0.75
"""Share of the liquid in plant matter of no known juice (celery, ginger) that a reamer or a machine gives; within ±0.15. House experience."""


def flesh_juice_of(pieces: Sequence[Piece], share: float) -> tuple[Contents, tuple[Piece, ...]]:
    """Returns (juice, pressed pieces) of plant matter whose juice nobody has described: three quarters of its liquid × `share`, at most 0.9 of it.

    550 g of celery with 530 g of liquid at share 1 gives 397 g. Error ±20 % of the yield. Source: house experience, mass balance.
    """
    juice, left = NOTHING, []
    for piece in pieces:
        runs = min(_MOST_OF_FLESH, FLESH_GIVES * share * piece.gain)
        parts = {}
        for name, part in piece.parts.items():
            out = part.solution.scaled(runs)
            juice, parts[name] = juice + out, part + out.scaled(-1.0)
        left.append(replace(piece, parts=parts, cut=CRUSHED))
    return juice, tuple(left)


def juice_of(pieces: Sequence[Piece], share: float) -> tuple[Contents, tuple[Piece, ...]]:
    """Returns (juice, pressed pieces) when `share` of the juice of each piece runs out, more from warmed fruit; at most all of it.

    1000 g of fruit with 400 g of juice at share 1 gives 400 g and 600 g of pressed fruit. Error: that of the yield. Source: mass balance.
    """
    juice, left = NOTHING, []
    for piece in pieces:
        part = piece.parts.get("juice", NOTHING)
        # A method may give more than the typical juice; what exceeds it comes out of the flesh.
        runs = min(1.0, share * piece.gain)
        over = share * piece.gain - 1.0
        juice = juice + part.scaled(runs)
        parts = {**piece.parts, "juice": part.scaled(1.0 - runs)}
        if over > 0 and "flesh" in parts:
            # The rest is fibre that no press empties.
            more = min(_MOST_OF_FLESH, over * part.mass_g / parts["flesh"].mass_g) if parts["flesh"].mass_g else 0.0
            juice = juice + parts["flesh"].scaled(more)
            parts["flesh"] = parts["flesh"].scaled(1.0 - more)
        # Pressed fruit exchanges like crushed fruit from now on.
        left.append(replace(piece, parts=parts, cut=CRUSHED))
    return juice, tuple(left)


def dried(piece: Piece, water_g: float) -> Piece:
    """Returns the piece without `water_g` [g] of its water, taken from every part alike. Raises Refusal for more than it holds. Source: mass balance."""
    contents = piece.contents
    return piece.becoming(contents.taking("water", water_g))


def inside(contents: Contents) -> Contents:
    """Returns what can move from a piece into a liquid: everything but what neither dissolves nor mixes. Source: definition."""
    return Contents({key: grams for key, grams in contents.grams.items() if key not in NO_WATER or key == "oil"})
