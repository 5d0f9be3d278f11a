"""What a batch leaves that another prep could take: skins of fruit that is juiced, fruit that was only zested, and by-products that are kept."""

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

_SKIN_DAYS, _JUICE_SHARE, _ZEST_SHARE = (
    int(figure("left_over", "skin_days")),
    figure("left_over", "juice_share"),
    figure("left_over", "zest_share"),
)
_MORE_THAN_BINNED_MIN = 1.0


@dataclass(frozen=True, slots=True)
class Leaves:
    """Something that a prep leaves: `g_per_ml` [g per mL of its product] of what other preps know as the material `key`, which keeps `keeps_days` with that day as the first.

    `source` is the same for what comes of the same fruit: one excludes the other. `minutes` [min] is the hands-on time to take it, `offer` what to do with it by itself.
    """

    key: str
    name: Message
    source: str
    g_per_ml: float
    keeps_days: int
    minutes: float
    offer: Message


def _name_of(key: str) -> Message:
    return verbatim(str(typical_materials()[key]["name"]))


def _skins(piece: Piece, makes_ml: float) -> Iterator[Leaves]:
    """Yields the zest, and as its alternative the peel, of fruit that is juiced with its skin on. A skin that was zested has only shreds left and gives neither."""
    zest, peel = (piece.parts[name].mass_g if name in piece.parts else 0.0 for name in ("zest", "peel"))
    whole = piece.grams_in * _whole_share(piece.material)
    if zest <= LEAST_G or zest < 0.5 * whole:
        return
    source = f"skin:{piece.material}"
    for part, mass, step in (("zest", zest * _ZEST_SHARE, Zest), ("peel", (zest + peel) * PEELER_TAKES, Peel)):
        key = f"{piece.material}_{part}"
        if key in typical_materials():
            offer = message("Take it off before juicing, and pack it in its own weight of sugar: an oil-sugar by tomorrow")
            yield Leaves(key, _name_of(key), source, mass / makes_ml, _SKIN_DAYS, step.usual_hands_on_min, offer)


def _whole_share(material: str) -> float:
    """Returns the share [-] of zest in a whole fruit; 0 for a fruit of which nobody has said it."""
    makeup = typical_materials().get(material, {}).get("makeup", {})
    return float(makeup.get("parts", {}).get("zest", {}).get("share", 0.0))


def _naked(state: VesselState, makes_ml: float) -> Iterator[Leaves]:
    """Yields the juice of fruit whose skin was taken and whose juice was not."""
    for piece in state.pieces:
        juice = piece.parts["juice"].mass_g if "juice" in piece.parts else 0.0
        skin = piece.parts["zest"].mass_g if "zest" in piece.parts else 0.0
        key = f"{piece.material}_juice"
        if juice > LEAST_G and skin < 0.5 * piece.grams_in * _whole_share(piece.material) and key in typical_materials():
            offer = message("Juice it today: it dries out and grips its juice")
            yield Leaves(key, _name_of(key), f"naked:{piece.material}", juice * _JUICE_SHARE / makes_ml, 1, Juice.usual_hands_on_min, offer)


def leaves_of(evaluation: Evaluation, key: str, makes_ml: float) -> tuple[Leaves, ...]:
    """Returns what a spec with the material `key` leaves for other preps, for each millilitre of the `makes_ml` [mL] that it makes.

    Errors: skins ± a factor of two, by-products ± 30 %. Source: mass balance, the parts of a fruit by juice tables, house experience.
    """
    found: list[Leaves] = []
    for done in evaluation.flow.steps:
        if done.step.verb == Juice.verb:
            found += [one for stream in done.outgoing for piece in stream.state.pieces for one in _skins(piece, makes_ml)]
    states = {**{f"vessel:{name}": state for name, state in evaluation.flow.vessels.items()}, **evaluation.flow.streams}
    for state in states.values():
        found += _naked(state, makes_ml)
    for left in evaluation.leftovers:
        if left.stands == "by_product" and left.hands_min > _MORE_THAN_BINNED_MIN:
            name = left.key.removeprefix(BY_PRODUCT)
            of = left.key
            found.append(Leaves(output_key(key, name), left.name, of, left.mass_g / makes_ml, left.days, left.hands_min, left.offer))
    return tuple(found)
