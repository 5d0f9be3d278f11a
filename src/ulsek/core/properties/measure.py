"""All figures of a vessel: the eight of every step at once, sharing one volume; the others on request."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from types import MappingProxyType

from ..base.messages import listed, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import CITRIC_EQUIVALENT_G, SUBSTANCES, SUGARS
from . import acidity, alcohol, ph, sugar, sweetness, viscosity, water
from .acidity import PROTONS
from .alcohol import PURE_ETHANOL_KG_M3
from .bounds import checked_contents
from .density import APPARENT, CROWDED, _volume_of, liquid_ml, room_ml, volume_ml

_DISSOLVED = frozenset(key for key, substance in SUBSTANCES.items() if substance.dissolved)

NAMES = ("mass_g", "volume_ml", "density_g_ml", "brix", "brix_reading", "sugar_g_100ml", "acid_g_100ml", "abv")
"""The figures of every vessel after every step."""


def _carbonation(contents: Contents) -> float:
    return 1000.0 * contents.of("carbon_dioxide") / liquid_ml(contents)


PROPERTY: Mapping[str, Callable[[Contents], float]] = MappingProxyType(
    {
        "mass_g": lambda contents: checked_contents(contents).mass_g,
        "volume_ml": volume_ml,
        "brix": sugar.brix,
        "brix_reading": sugar.brix_reading,
        "acid_g_100ml": acidity.acid_g_100ml,
        "sugar_g_100ml": sugar.sugar_g_100ml,
        "abv": lambda contents: alcohol.abv(contents.of("ethanol"), liquid_ml(contents)),
        "ph": ph.ph,
        "water_activity": water.water_activity,
        "freezing_c": water.freezing_c,
        "boiling_c": water.boiling_c,
        "viscosity_mpa_s": viscosity.viscosity_mpa_s,
        "sweetness_g_100ml": sweetness.sweetness_g_100ml,
        "acid_g_100g": acidity.acid_percent_w_w,
        "abw": alcohol.abw,
        "carbonation_g_l": _carbonation,
    }
)
"""Each figure on its own, as a function of Contents."""
LABEL = ("ph", "water_activity", "freezing_c")
"""Deeper figures that every finished product is shown with."""
NEAR: Mapping[str, Callable[[Contents, float], float]] = MappingProxyType({"freezing_c": water.freezing_near_c})
"""Figures that cost a search, for contents close to some whose figure is known: one step instead of the search, for ranges."""
DEEP = tuple(name for name in PROPERTY if name not in NAMES)


MODEL_UNCERTAINTY: Mapping[str, Callable[[Contents, float], tuple[float, float]]] = MappingProxyType(
    {
        "ph": ph.ph_uncertainty,
        "water_activity": water.water_activity_uncertainty,
        "freezing_c": lambda contents, _value: (1.5, 1.5) if contents.of("ethanol") else (0.3, 0.3),
        "brix_reading": sugar.brix_reading_uncertainty,
        "boiling_c": water.boiling_uncertainty,
        "viscosity_mpa_s": viscosity.viscosity_uncertainty,
        "sweetness_g_100ml": sweetness.sweetness_uncertainty,
        "carbonation_g_l": lambda _contents, value: (0.1 * value, 0.1 * value),
    }
)
"""How far the model itself may be off (below, above), in the figure's unit, besides what its inputs bring; nothing where it is not named."""


def measure(contents: Contents) -> dict[str, float]:
    """Returns the figures of a vessel by key: mass_g [g, with solids], and of its liquid volume_ml, density_g_ml, brix, brix_reading, sugar_g_100ml,
    acid_g_100ml, abv.

    Equal to `PROPERTY` one by one (a test compares them), for about the cost of one. Mass and volume only for an empty vessel.
    """
    grams = contents.grams
    mass = math.fsum(grams.values())
    liquid = mass - grams.get("insolubles", 0.0)
    if liquid <= 1e-9:
        checked_contents(contents)
        return {"mass_g": mass, "volume_ml": 0.0}
    if not (min(grams.values()) >= 0.0 and mass < math.inf):
        checked_contents(contents)
    water_g = grams.get("water", 0.0)
    dissolved: list[float] = []
    protons: list[float] = []
    others: list[float] = []
    # One pass over the substances: this runs for every vessel of every pass.
    for key, grams_of in grams.items():
        if key in _DISSOLVED:
            dissolved.append(grams_of)
        if key in PROTONS:
            protons.append(grams_of * PROTONS[key])
        if key in APPARENT:
            others.append(room_ml(key, grams_of, water_g) if key in CROWDED else grams_of * APPARENT[key])
    sugars = math.fsum([grams[key] for key in SUGARS if key in grams])
    ethanol = grams.get("ethanol", 0.0)
    volume = _volume_of(water_g, ethanol, sugars, others)
    # Cations beyond what the acids can bind are bound to something else, so the acid is at least 0.
    titratable = CITRIC_EQUIVALENT_G * max(0.0, math.fsum(protons))
    brix = 100.0 * math.fsum(dissolved) / liquid
    strength = 100.0 * (ethanol * 1000.0 / PURE_ETHANOL_KG_M3) / volume
    return {
        "mass_g": mass,
        "volume_ml": volume,
        "density_g_ml": liquid / volume,
        "brix": brix,
        "brix_reading": brix - sugar.acid_shift(100.0 * titratable / liquid) + sugar.ALCOHOL_READS_BX_PER_ABV * strength,
        "sugar_g_100ml": 100.0 * sugars / volume,
        "acid_g_100ml": 100.0 * titratable / volume,
        "abv": strength,
    }


def figure_of(name: str, contents: Contents) -> float:
    """Returns one figure by its key, in its unit. Raises Refusal for an unknown key."""
    if name not in PROPERTY:
        raise Refusal(
            message("“{name}” is no figure of a vessel", name=name),
            bound=message("choose one of {names}", names=listed(PROPERTY, "comma")),
        )
    return PROPERTY[name](contents)
