"""Steam: what leaves an open, half covered or covered pot, by its surface, its heat and its minutes, and what evaporates with the water."""

from __future__ import annotations

import math
from typing import NamedTuple

from ..base.messages import Given, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.constants import GAS_J_MOL_K, WATER_G_MOL, ZERO_C_K
from ..chemistry.contents import Contents
from ..materials.vessel_state import StepContext
from ..properties import energy
from ..properties.alcohol import MOST_RETENTION_MIN, ethanol_retained
from .step import share_in

_TRANSFER_M_S = 0.010
"""Mass transfer from a still pot into kitchen air [m/s]; house experience, not a standard, good to a factor of two."""
LID = {"off": 1.0, "half": 0.45, "on": 0.08}
"""Share of the open pot's steam that passes the lid; house experience, not a standard."""
_SPREAD = 0.5
SIMMER_W = Range(350.0, 180.0, 650.0)
"""Power [W] that goes into steam at a simmer in an open pot 24 cm across; house experience, not a standard."""
USUAL_POT_CM = 24.0
HOTTEST_C = 95.0
VINEGAR_FOLLOWS = Range(0.65, 0.40, 0.90)
"""Acetic acid leaves with the steam like water raised to this power near the boil (relative volatility); published values for thin solutions."""
_BUCK = (611.21, 18.678, 234.5, 257.14)
"""p₀ [Pa], a, b, c [°C] of p₀ exp((a − t/b) t/(c + t)). Source: Buck 1981, equation e_w4."""
_ROOM_VAPOUR_KG_M3 = 0.0087
"""Water in the air of a kitchen at 20 °C and half saturation [kg/m³]. Source: steam tables."""
_MOST_BOIL_C = 110.0
"""Highest boiling point [°C] at which latent heat is looked up; that of 110 °C is taken for syrups that boil higher. House judgement."""
_DRY_SHARE = 0.16
"""Mass share of water and spirit below which a vessel holds powder: dry gums and crystals hold up to 0.15. House experience."""
_SPIRIT_BOILS_OFF_C = 75.0


def saturation_pressure_pa(t_c: float) -> float:
    """Returns the vapour pressure of water [Pa] at `t_c` [0 to 100 °C]. 2 339 Pa at 20 °C. Error 0.1 %. Source: Buck 1981, equation e_w4."""
    at_zero, a, b, c = _BUCK
    return at_zero * math.exp((a - t_c / b) * t_c / (c + t_c))


def steam_g(minutes: float, t_c: float, pot_cm: float, lid: str) -> Range:
    """Returns the water lost [g] from a pot `pot_cm` [cm] across in `minutes` [min] at `t_c` [°C] below the boil.

    Surface × transfer × vapour density above the pot. Range 20 to 95 °C, error a factor of one and a half: two weighings of the pot replace it. 25.3 g in 11
    min at 70 °C, 24 cm, lid half on. Raises Refusal outside its range. Source: diffusion through still air, house constant.
    """
    if t_c > HOTTEST_C:
        raise Refusal(
            message("Steam at {t} °C is a matter of the stove's power", t=Given(t_c)),
            bound=message("the sum holds to {hottest} °C", hottest=Given(HOTTEST_C)),
            remedy=message("Weigh the pot before and after and write the steam in grams, or simmer"),
            code="too_hot_for_sum",
        )
    # Ideal gas: at kitchen pressures water vapour deviates by less than 2 %.
    vapour_kg_m3 = saturation_pressure_pa(t_c) * WATER_G_MOL / 1000.0 / (GAS_J_MOL_K * (t_c + ZERO_C_K))
    # What the air of the kitchen already holds does not leave the pot.
    surface_m2 = math.pi * (pot_cm / 200.0) ** 2
    lost = 1000.0 * max(0.0, vapour_kg_m3 - _ROOM_VAPOUR_KG_M3) * _TRANSFER_M_S * surface_m2 * minutes * 60.0 * LID[lid]
    return Range(lost, lost * (1 - _SPREAD), lost * (1 + _SPREAD))


def steam_rising_g(minutes: float, from_c: float, to_c: float, pot_cm: float, lid: str) -> Range:
    """Returns the water lost [g] in `minutes` [min] on the way from `from_c` to `to_c` [°C, at most 95]: the mean of `steam_g` over a steady rise (Simpson,
    five points).

    11 g in 8 min from 20 to 95 °C in 24 cm, lid half on. Error: as `steam_g`. Source: `steam_g`.
    """
    rise = (to_c - from_c) / 4.0
    # Vapour pressure is strongly curved in temperature: a mean of both ends would be far too high.
    weights = (1.0, 4.0, 2.0, 4.0, 1.0)
    points = [steam_g(minutes, from_c + rise * i, pot_cm, lid) for i in range(5)]
    return Range(
        *(math.fsum(w * getattr(p, name) for w, p in zip(weights, points, strict=True)) / 12.0 for name in ("value", "low", "high"))
    )


def steam_simmering_g(minutes: float, boils_c: float, pot_cm: float, lid: str, power_w: float = SIMMER_W.value) -> float:
    """Returns the water lost [g] in `minutes` [min] at a simmer: power × time / latent heat, as the lid allows; `power_w` [W] goes into steam in a pot 24 cm
    across, more with its surface.

    75 g in 18 min at 350 W with the lid half on. Error: that of the power, a factor of two until the pot was weighed twice. Source: energy balance, house
    experience.
    """
    # A wider pot on the same simmer gives steam in proportion to its surface.
    surface = (pot_cm / USUAL_POT_CM) ** 2
    return power_w * surface * minutes * 60.0 / energy.latent_heat_j_g(min(boils_c, _MOST_BOIL_C)) * LID[lid]


def is_dry(liquid: Contents) -> bool:
    """Returns True for a vessel of powder without liquid: less than 16 % of water and spirit (dry gums and crystals hold up to 15 %). Source: definition."""
    return liquid.of("water") + liquid.of("ethanol") < _DRY_SHARE * liquid.mass_g


def vapour(contents: Contents, water_g: float, vinegar_follows: float, ethanol_kept: float) -> Contents:
    """Returns what leaves when `water_g` [g] of water evaporates: the water, acetic acid by Rayleigh, and alcohol but for `ethanol_kept` [0 to 1].

    Acetic acid left = (water left / water before)^`vinegar_follows`. 100 g of 1000 g water takes 6.6 % of the acetic acid at 0.65. Error: the ranges of both
    figures. Source: Rayleigh distillation; `ethanol_retained`.
    """
    water = contents.of("water")
    # Refused with the words of the contents, which know how much there is.
    if water_g > water:
        contents.taking("water", water_g)
    removed = {"water": water_g}
    if contents.of("acetic_acid") and water:
        # Rayleigh: each gram of steam leaves at the composition of that moment, not of the start.
        removed["acetic_acid"] = contents.of("acetic_acid") * (1.0 - ((water - water_g) / water) ** vinegar_follows)
    if contents.of("ethanol"):
        removed["ethanol"] = contents.of("ethanol") * (1.0 - ethanol_kept)
    return Contents({key: grams for key, grams in removed.items() if grams})


def without(contents: Contents, removed: Contents) -> Contents:
    """Returns what is left. Mass is conserved to rounding. Source: mass balance."""
    return Contents({key: mass - removed.of(key) for key, mass in contents.grams.items()})


class Heating(NamedTuple):
    """A time in the heat: up to `t_c` [°C] for `minutes` [min], from `from_c` [°C] if it rises steadily, with `steam_g` [g] of water leaving under the `lid`.

    `ethanol_left` is the share [0 to 1] of the alcohol that stays; None: as the table says.
    """

    t_c: float
    minutes: float
    steam_g: float
    lid: str
    from_c: float | None = None
    ethanol_left: Range | None = None


def steamed(liquid: Contents, context: StepContext, heating: Heating) -> tuple[Contents, Contents]:
    """Returns (what is left, what left) of a liquid after a time in the heat: water as steam, with acetic acid and alcohol. Source: `vapour`, `ethanol_retained`."""
    acid_follows = context.value_of(VINEGAR_FOLLOWS) if liquid.of("acetic_acid") else 1.0
    # Below that alcohol leaves too slowly for a kitchen's minutes.
    spirit = liquid.of("ethanol") and heating.t_c >= _SPIRIT_BOILS_OFF_C
    retained = heating.ethanol_left or ethanol_retained(min(heating.minutes, MOST_RETENTION_MIN), heating.lid)
    kept = share_in(context, retained) if spirit else 1.0
    removed = vapour(liquid, heating.steam_g, acid_follows, kept)
    return without(liquid, removed), removed
