"""Carbon dioxide in a drink: pressure, volumes, and the gas from a charger."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..base.messages import Computed, Given, message
from ..base.refusals import Refusal
from ..chemistry.constants import GAS_J_MOL_K, WATER_G_MOL, ZERO_C_K
from ..chemistry.contents import Contents
from .bounds import bounded
from .density import liquid_ml
from .water import ATMOSPHERE_KPA

# Carroll, Slupsky and Mather 1991: ln(H/MPa) = Σ aᵢ/Tⁱ for carbon dioxide in water, 273 to 433 K, 2 % below 1 MPa.
_HENRY = (-6.8346, 1.2817e4, -3.7668e6, 2.997e8)
_CO2_G_MOL = 44.009
GRAMS_PER_VOLUME = 1.977
"""Grams per litre of carbon dioxide gas at 0 °C and 101.325 kPa: one “volume” (derived, real gas)."""
_SUGAR_SALTS_OUT = 0.0005
"""Beyond the water it displaces, each gram of dissolved solids per 100 g lowers the gas by so much; ±0.001, house experience."""
_MOST_KPA = 1000.0


def henry_mpa(t_c: float) -> float:
    """Henry's constant [MPa per mole fraction] of carbon dioxide in water at `t_c` [0 to 40 °C], error 2 %. 141.4 at 20 °C.

    Raises Refusal outside its range. Source: Carroll, Slupsky and Mather 1991.
    """
    if not -2.0 <= t_c <= 40.0:
        raise Refusal(
            message("{t} °C is outside the gas table", t=Given(t_c)),
            bound=message("it holds from −2 to 40 °C"),
            remedy=message("Chill it first"),
        )
    kelvin = t_c + ZERO_C_K
    return math.exp(math.fsum(a / kelvin**i for i, a in enumerate(_HENRY)))


def carbonation_g_l(contents: Contents, t_c: float, gauge_kpa: float) -> float:
    """Returns the carbon dioxide [g per L of liquid] at equilibrium under `gauge_kpa` [0 to 1000 kPa above the air's] at `t_c` [°C].

    Henry's law in the water present; sugar takes its place and salts a little out. Error 3 %, 10 % with alcohol. 6.6 at 4 °C and 130 kPa in water. Raises
    Refusal outside these bounds, and for a vessel without liquid. Source: Carroll, Slupsky and Mather 1991; displacement by mass balance.
    """
    if not 0.0 <= gauge_kpa <= _MOST_KPA:
        raise Refusal(
            message("{gauge} kPa is outside what a bar's vessel may hold", gauge=Given(gauge_kpa)),
            bound=message("from 0 to 1 000 kPa above the air"),
            remedy=message("Check the vessel's own limit"),
        )
    pressure = (gauge_kpa + ATMOSPHERE_KPA) / 1000.0
    # The head space is taken as pure carbon dioxide: a drink is purged before it is charged.
    x = pressure / henry_mpa(t_c)
    litres = liquid_ml(contents) / 1000.0
    # Only the water dissolves gas: sugar is counted by the water that it displaces.
    grams = x / (1.0 - x) * contents.of("water") / WATER_G_MOL * _CO2_G_MOL
    solids = 100.0 * math.fsum(g for key, g in contents.grams.items() if key not in ("water", "ethanol", "insolubles")) / contents.mass_g
    # Beyond that displacement dissolved solids salt out a little more.
    return grams / litres * (1.0 - _SUGAR_SALTS_OUT * solids)


def volumes(grams_l: float) -> float:
    """Volumes [L of gas at 0 °C per L of drink] of so many grams per litre. 3.8 at 7.5 g/L. Source: definition."""
    return bounded(grams_l, 0.0, 1e4, "g/L", message("dissolved gas")) / GRAMS_PER_VOLUME


@dataclass(frozen=True, slots=True)
class Charged:
    """A siphon after its charger: gas dissolved and above the liquid [g], gauge pressure [kPa]."""

    dissolved_g_l: float
    volumes: float
    above_g: float
    gauge_kpa: float


def charge(contents: Contents, t_c: float, siphon_ml: float, charger_g: float, given_share: float = 1.0) -> Charged:
    """Returns the state of a filled siphon of `siphon_ml` [mL, brim] after a charger of `charger_g` [g] at `t_c` [0 to 40 °C], shaken to equilibrium.

    Mass balance between liquid and head space, by bisection on pressure; the air that was in the head space stays. `given_share` [0 to 1] is what arrives after
    leaks. Error 10 %. 8 g on 900 mL water at 4 °C in 1 L: about 8.3 g/L. Raises Refusal for a siphon without head room and a pressure beyond 1000 kPa. Source:
    Henry's law, ideal gas above.
    """
    volume = liquid_ml(contents)
    bounded(siphon_ml, 1.0, 1e6, "mL", message("a siphon"))
    room_l = (siphon_ml - volume) / 1000.0
    if room_l <= 0:
        raise Refusal(
            message(
                "{volume} mL fill a siphon of {siphon} mL to the brim",
                volume=Computed(volume, decimals=0),
                siphon=Computed(siphon_ml, decimals=0),
            ),
            bound=message("gas needs head room"),
            remedy=message("Fill to its line, about nine tenths"),
            code="no_head_room",
        )
    if not 0.0 < charger_g <= 100.0 or not 0.0 < given_share <= 1.0:
        raise Refusal(
            message("A charger holds more than nothing and at most 100 g"), bound=message("and gives a share of it between 0 and 1")
        )
    total = charger_g * given_share

    def held(gauge: float) -> float:
        # Ideal gas; the air that was in the head space keeps its own pressure and only the gauge's share is carbon dioxide.
        above = gauge * room_l / (GAS_J_MOL_K * (t_c + ZERO_C_K)) * _CO2_G_MOL
        # Henry's law is linear, so what dissolves under one atmosphere scales to any partial pressure.
        partial = carbonation_g_l(contents, t_c, 0.0) / ATMOSPHERE_KPA * gauge
        return above + partial * volume / 1000.0

    if held(_MOST_KPA) < total:
        raise Refusal(
            message("{charger} g would pass 1 000 kPa", charger=Given(charger_g)),
            bound=message("a siphon is not made for it"),
            remedy=message("Fewer chargers, or a colder and fuller siphon"),
            code="too_much_pressure",
        )
    # What liquid and head space hold rises with pressure: bisection cannot miss it.
    low, high = 0.0, _MOST_KPA
    for _ in range(80):
        middle = (low + high) / 2.0
        if held(middle) < total:
            low = middle
        else:
            high = middle
    gauge = (low + high) / 2.0
    dissolved = carbonation_g_l(contents, t_c, 0.0) / ATMOSPHERE_KPA * gauge
    return Charged(dissolved, volumes(dissolved), total - dissolved * volume / 1000.0, gauge)
