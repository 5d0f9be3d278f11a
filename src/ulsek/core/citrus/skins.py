"""Skins: peel packed in sugar, what runs off it, and what a jar teaches of this house's own peel."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from ..materials import read_material
from ..operations.extract import DOUBLES_PER_K, DRAW_H, DRAWN_G_G, extent
from ..properties.energy import learned
from ..properties.sugar import saturation_brix
from ..ranges import Range
from ..refusals import Refusal
from ..typical import typical_materials
from .experience import figure, prior
from .fruit import Variety


@cache
def _sugar_g_ml() -> float:
    return read_material("white_sugar", typical_materials()["white_sugar"]).density_g_ml()


@dataclass(frozen=True, slots=True)
class OilSugar:
    """Peel packed in sugar: what goes in and what runs off it [g]; hours are at the given warmth."""

    sugar_g: float
    drawn_g: Range
    dissolved_g: float
    dry_g: float
    pours_g: Range
    oil_mg: Range
    hours_to_most: float
    remarks: tuple[str, ...]

    def as_data(self) -> dict[str, Any]:
        data = {name: getattr(self, name) for name in self.__slots__}
        ranges = {name: getattr(self, name).as_data() for name in ("drawn_g", "pours_g", "oil_mg")}
        return {**data, **ranges, "remarks": list(self.remarks)}


def oil_sugar(
    of: Variety,
    peel_g: float,
    *,
    measure: Literal["weight", "volume"] = "weight",
    ratio: float = 1.5,
    hours: float = 18.0,
    warm_c: float = 20.0,
    pressed: bool = True,
    peel_g_ml: float | None = None,
    learned_g_g: Range | None = None,
) -> OilSugar:
    """Sugar on `peel_g` [g] of peel for `hours` at `warm_c` [0 to 45 °C]: `ratio` of the peel's weight, or of its packed volume.

    Drawn = peel × plateau × (1 − exp(−t/τ)); sugar dissolves in it to saturation, the rest stays dry. By volume the peel's packed weight counts,
    `peel_g_ml` as this house weighed it once, and white sugar as it lies. `learned_g_g`: the house's own plateau [g/g]. Pressing gives back a quarter of what clings.
    100 g, 18 h at 20 °C: 28.5 g drawn. Error 40 % until learned. Source: house experience, mass balance.
    """
    for value, name, low, high, unit in (
        (peel_g, "peel_g", 0.1, 100_000.0, "g"),
        (ratio, "ratio", 0.1, 10.0, "times the peel"),
        (hours, "hours", 0.0, 240.0, "h"),
        (warm_c, "warm_c", 0.0, 45.0, "°C"),
    ):
        if not (math.isfinite(value) and low <= value <= high):
            raise Refusal(f"{value:g} {unit} cannot be", name, f"from {low:g} to {high:g} {unit}", code="out_of_bounds")
    packed = prior("peel_g_per_ml").value if peel_g_ml is None else peel_g_ml
    sugar = peel_g * ratio if measure == "weight" else peel_g / packed * _sugar_g_ml() * ratio
    plateau = learned_g_g or DRAWN_G_G
    reached = extent(hours * 60.0, DRAW_H.value, warm_c)
    slow, fast = (extent(hours * 60.0, tau, warm_c) for tau in (DRAW_H.high, DRAW_H.low))
    drawn = Range(peel_g * plateau.value * reached, peel_g * plateau.low * slow, peel_g * plateau.high * fast)
    full = saturation_brix(warm_c) / 100.0
    water = 0.9 * drawn.value
    dissolved = min(sugar, water * full / (1.0 - full))
    clings = figure("peel_holds") * (peel_g - drawn.value) * (1.0 - figure("pressing_returns") * pressed)
    # Less than clings to the peel does not pour at all.
    pours = max(0.0, drawn.value + dissolved - clings)
    spread = drawn.half_width / drawn.value if drawn.value else 0.0
    runs = 1000.0 * peel_g * figure("zest_in_peel") * figure("oil_runs") * reached
    oil = Range(*(runs * share for share in (of.zest_oil.value, of.zest_oil.low, of.zest_oil.high)))
    remarks = ["Spent peel: cover it with the water of the next syrup, candy it, or lay it in spirit for a day."]
    if sugar - dissolved > 0.5:
        remarks.append(f"{sugar - dissolved:.0f} g of sugar stay dry: stir in juice or a little warm water, and rinse the peel with it.")
    if measure == "volume" and peel_g_ml is None:
        remarks.append("Packed peel weighs 0.30 to 0.48 g/mL until this house weighs its own cup of it once.")
    return OilSugar(
        sugar,
        drawn,
        dissolved,
        sugar - dissolved,
        Range.around(pours, spread * pours, 0.0),
        oil,
        3.0 * DRAW_H.value / math.pow(2.0, (warm_c - 20.0) / DOUBLES_PER_K),
        tuple(remarks),
    )


def taught_draw(peel_g: float, spent_g: float, hours: float, warm_c: float = 20.0) -> float:
    """Plateau [g/g of peel] that one jar teaches: `peel_g` weighed `spent_g` after `hours` under sugar at `warm_c` [°C], rinsed and drained.

    (before − after) / before / (1 − exp(−t/τ)). 100 g that weigh 71.5 g after 18 h: 0.30. Refuses peel that grew, or lost more than its half.
    Error: the drops that cling. Source: mass balance, the draw's own time constant.
    """
    if not (math.isfinite(peel_g) and math.isfinite(spent_g) and peel_g > 0 and 0.4 * peel_g <= spent_g < peel_g):
        raise Refusal(
            f"{spent_g:g} g of spent peel cannot be",
            "spent_g",
            f"from {0.4 * peel_g:.0f} to {peel_g:.0f} g",
            "Rinse, drain, weigh again",
            "out_of_bounds",
        )
    if not 0.5 <= hours <= 240.0:
        raise Refusal(f"{hours:g} h teach nothing", "hours", "from 0.5 to 240 h", "Wait longer", "out_of_bounds")
    return (peel_g - spent_g) / peel_g / extent(hours * 60.0, DRAW_H.value, warm_c)


def learned_draw(seen: Sequence[float]) -> Range | None:
    """The house's own plateau [g/g] from what its jars have taught, the prior narrowed; None before the first. Source: `energy.learned`."""
    return learned(DRAWN_G_G, list(seen)) if seen else None
