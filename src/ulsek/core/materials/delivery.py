"""Deliveries: bounds of mass, price and count of packs, and the price per kilogram."""

from __future__ import annotations

import math
from decimal import Decimal

from ..base.figures import FIGURES, MOST_G
from ..base.messages import Computed, message
from ..base.refusals import Refusal
from ..base.units import parse_quantity
from .material import Material

MOST_PACKS = 1000
"""Packs of one delivery [count]."""
MOST_PRICE = Decimal(1_000_000)
"""Largest price of a pack [currency]."""
_CENT, _FINE = Decimal("0.01"), Decimal("0.0001")
_ALL_SOLIDS = ("sweetener", "acid")
"""Kinds whose powders are taken as solids through and through."""


def check_packs(pack_g: Decimal, price: Decimal | None, packs: int) -> None:
    """Raises Refusal, at its place, for a pack of 0 g or less or more than a tonne, a price as `check_price` does, and fewer than 1 or more than `MOST_PACKS` of
    them.
    """
    if not pack_g.is_finite() or not 0 < pack_g <= Decimal(MOST_G):
        raise Refusal(
            message("{value} cannot be", value=str(pack_g)),
            "pack_g",
            message("a pack weighs more than nothing, at most a tonne"),
            code="out_of_bounds",
        )
    check_price(price, "price")
    check_count(packs, 1, "packs")


def check_price(price: Decimal | None, where: str) -> None:
    """Raises Refusal at `where` for a price of a pack outside 0 to `MOST_PRICE`, and for one finer than 0.01, which would be rounded when it is stored; None is allowed."""
    if price is None:
        return
    if not price.is_finite() or not 0 <= price <= MOST_PRICE:
        raise Refusal(message("{value} cannot be", value=str(price)), where, message("a price is nothing or more"), code="out_of_bounds")
    if price != price.quantize(_CENT):
        raise Refusal(message("{value} cannot be", value=str(price)), where, message("to {step}", step=str(_CENT)), code="out_of_bounds")


def check_count(packs: int, least: int, where: str) -> None:
    """Raises Refusal at `where` for a count of packs below `least` or above `MOST_PACKS` [count]."""
    if not least <= packs <= MOST_PACKS:
        raise Refusal(
            message("{packs} packs cannot be", packs=packs),
            where,
            message("from {least} to {most}", least=least, most=Computed(MOST_PACKS, decimals=0)),
            code="out_of_bounds",
        )


def pack_g(written: str, material: Material) -> Decimal:
    """Returns what a pack weighs [g, to 0.1 g] from what stands on it, such as “700 ml” or “2 kg”; a volume is weighed by the material's density.

    Raises Refusal for what is no amount, for a count of pieces, and for a volume of a solid that nobody knows the loose weight of. 700 ml of water: 698.7.
    """
    try:
        return Decimal(f"{_held_g(written, material):.1f}")
    except Refusal as refusal:
        raise refusal.at("pack") from None


def _held_g(written: str, material: Material) -> float:
    found = parse_quantity(written)
    if found.dimension == "count":
        raise Refusal(
            message("“{written}” does not say what it weighs", written=written), remedy=message("Weigh one"), code="unreadable_amount"
        )
    return found.value * (material.density_g_ml() if found.dimension == "volume" else 1.0)


def checked_left_g(value: object) -> float:
    """Returns the mass counted as left [g]. Raises Refusal for what is not a number, and outside 0 g to a tonne."""
    bounds = FIGURES["mass_g"].readable
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value) or not bounds.low <= value <= bounds.high:
        raise Refusal(
            message("{value} g cannot be left", value=str(value)), "body/left_g", bounds.words, message("Weigh it again"), "out_of_bounds"
        )
    return float(value)


def price_per_kg(price: Decimal, pack_g: Decimal) -> Decimal:
    """Returns the price of a kilogram [currency/kg, to a hundredth of a cent] from the price of a pack of `pack_g` [g]. Source: definition."""
    # To a hundredth of a cent: prices of small amounts are multiplied later.
    return (price * 1000 / pack_g).quantize(_FINE)


def price_per_kg_solids(material: Material, per_kg: Decimal | None) -> Decimal | None:
    """Returns the price of a kilogram of dissolved solids [currency/kg, to the cent]; None for a material without any, and without a price.

    Powders of sugars and acids are all solids. A syrup of 66.7 °Bx at 2.00 per kilogram: 3.00. Error: that of its °Bx. Source: definition.
    """
    if per_kg is None:
        return None
    # A powder has no reading, but is what a refractometer would read if it were dissolved.
    brix = material.measured().get("brix") or (100.0 if material.kind in _ALL_SOLIDS else 0.0)
    return (per_kg / Decimal(brix / 100.0)).quantize(_CENT) if brix else None
