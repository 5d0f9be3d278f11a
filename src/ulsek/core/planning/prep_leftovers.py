"""Leftovers of a prep that another prep could use: skins of juiced fruit, fruit that was only zested, and by-products that are kept."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..base.messages import Message, message, verbatim
from ..evaluation.evaluate import Evaluation
from ..evaluation.leftovers import LEAST_G
from ..materials.reference_materials import PEELER_TAKES, typical_materials
from ..materials.vessel_state import Piece, VesselState
from ..operations.amounts import BY_PRODUCT
from ..operations.prepare import Juice, Peel, Zest
from ..recipe_text.templates import output_key
from .house_experience import figure

_SKIN_DAYS = int(figure("left_over", "skin_days"))
_JUICE_SHARE, _ZEST_SHARE = figure("left_over", "juice_share"), figure("left_over", "zest_share")
_WHOLE_SKIN_SHARE = figure("left_over", "whole_skin_share")
_BIN_MIN = figure("left_over", "bin_min")


@dataclass(frozen=True, slots=True)
class PrepLeftover:
    """A leftover of a prep: `g_per_ml` [g per mL of its product] of the material `key`, which keeps `keeps_days` [days, the day of the batch included].

    Leftovers with the same `source` are alternatives: they are parts of the same fruit. `minutes` [min] is the hands-on time to recover it, `offer` a use that needs no other
    prep. It is available after the first hands-on period of the batch if `from_fruit`, otherwise after the last.
    """

    key: str
    name: Message
    source: str
    g_per_ml: float
    keeps_days: int
    minutes: float
    offer: Message
    from_fruit: bool = False


def _name_of(key: str) -> Message:
    return verbatim(str(typical_materials()[key]["name"]))


def _has_skin(piece: Piece) -> bool:
    """Returns True if at least half of the zest is still on the fruit. Source: house experience (`whole_skin_share`)."""
    zest = piece.parts["zest"].mass_g if "zest" in piece.parts else 0.0
    return zest >= _WHOLE_SKIN_SHARE * piece.grams_in * _zest_share(piece.material)


def _zest_share(material: str) -> float:
    """Returns the mass share of zest in a whole fruit [-]; 0 if it is unknown."""
    makeup = typical_materials().get(material, {}).get("makeup", {})
    return float(makeup.get("parts", {}).get("zest", {}).get("share", 0.0))


def _skins(piece: Piece, makes_ml: float) -> Iterator[PrepLeftover]:
    """Yields the zest and, as an alternative, the peel of fruit that is juiced unzested, for a product of `makes_ml` [mL]."""
    zest, peel = (piece.parts[name].mass_g if name in piece.parts else 0.0 for name in ("zest", "peel"))
    if zest <= LEAST_G or not _has_skin(piece):
        return
    for part, mass, step in (("zest", zest * _ZEST_SHARE, Zest), ("peel", (zest + peel) * PEELER_TAKES, Peel)):
        key = f"{piece.material}_{part}"
        if key in typical_materials():
            offer = message("Take it off before juicing, and pack it in its own weight of sugar: an oil-sugar by tomorrow")
            yield PrepLeftover(
                key, _name_of(key), f"skin:{piece.material}", mass / makes_ml, _SKIN_DAYS, step.usual_hands_on_min, offer, from_fruit=True
            )


def _juice_of_zested(state: VesselState, makes_ml: float) -> Iterator[PrepLeftover]:
    """Yields the juice of zested fruit that is not juiced, for a product of `makes_ml` [mL]."""
    for piece in state.pieces:
        juice = piece.parts["juice"].mass_g if "juice" in piece.parts else 0.0
        key = f"{piece.material}_juice"
        if juice > LEAST_G and _zest_share(piece.material) > 0.0 and not _has_skin(piece) and key in typical_materials():
            offer = message("Juice it today: it dries out and grips its juice")
            yield PrepLeftover(
                key,
                _name_of(key),
                f"zested:{piece.material}",
                juice * _JUICE_SHARE / makes_ml,
                1,
                Juice.usual_hands_on_min,
                offer,
                from_fruit=True,
            )


def prep_leftovers(evaluation: Evaluation, key: str, makes_ml: float) -> tuple[PrepLeftover, ...]:
    """Returns the leftovers of a spec, whose product is the material `key`, that other preps could use, per mL of the `makes_ml` [mL] that it makes.

    Errors: skins ± a factor of two, by-products ± 30 %. Source: mass balance, the parts of a fruit by juice tables, house experience.
    """
    found: list[PrepLeftover] = []
    for done in evaluation.flow.steps:
        if done.step.verb == Juice.verb:
            found += [one for stream in done.outgoing for piece in stream.state.pieces for one in _skins(piece, makes_ml)]
    for state in (*evaluation.flow.vessels.values(), *evaluation.flow.streams.values()):
        found += _juice_of_zested(state, makes_ml)
    for left in evaluation.leftovers:
        # What takes no longer than throwing it away is not worth a taker.
        if left.stands == "by_product" and left.hands_min > _BIN_MIN:
            part = output_key(key, left.key.removeprefix(BY_PRODUCT))
            found.append(PrepLeftover(part, left.name, left.key, left.mass_g / makes_ml, left.days, left.hands_min, left.offer))
    return tuple(found)
