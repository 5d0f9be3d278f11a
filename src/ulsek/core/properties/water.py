"""Water activity, freezing and boiling: the effect of what is dissolved on the water."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable

from ..base.messages import Computed, Given, message
from ..base.refusals import Refusal
from ..chemistry.constants import ETHANOL_G_MOL, GAS_J_MOL_K, WATER_G_MOL, ZERO_C_K
from ..chemistry.contents import Contents
from ..chemistry.substances import NO_WATER, SUBSTANCES
from .bounds import LEAST_G, bounded, checked_contents, is_solution

_STARZAK = (-17638.0, -1.0038, -0.24653)
"""Q [J/mol], b, c of ln aw = ln(1−x) + Q/(RT) (1 + b x + c x²) x² for sucrose and water (Starzak and Peacock 1997)."""
_PITZER_NACL = (0.3915, 1.2, 2.0, 0.0765, 0.2664, 0.00127)
"""A_φ, b, α, β₀, β₁, C_φ of sodium chloride at 25 °C (Pitzer and Mayorga 1973)."""
# Wagner and Pruss 2002, auxiliary equation for the saturation pressure of water; 273 to 647 K, 0.02 %.
_CRITICAL_K, _CRITICAL_KPA = 647.096, 22064.0
_WAGNER = ((-7.85951783, 1.0), (1.84408259, 1.5), (-11.7866497, 3.0), (22.6807411, 3.5), (-15.9618719, 4.0), (1.80122502, 7.5))
# Freezing points of ethanol and water [% w/w, °C]; published concentrative properties of aqueous solutions, ±0.1 K.
_SPIRIT_FREEZES = (
    (0.0, 0.0), (2.0, -0.81), (5.0, -2.09), (8.0, -3.47), (10.0, -4.47), (12.0, -5.56), (14.0, -6.73), (16.0, -8.01), (18.0, -9.40),
    (20.0, -10.92), (22.0, -12.60), (24.0, -14.47), (26.0, -16.41), (28.0, -18.43), (30.0, -20.47), (32.0, -22.44), (34.0, -24.27),
    (36.0, -25.98), (38.0, -27.62), (40.0, -29.26), (42.0, -30.98),
)  # fmt: skip
_MELTS_K, _COLDEST_C = 273.16, -30.0
# Ethanol: Antoine, 8.20417 − 1642.89/(t + 230.3) [mmHg, °C], −57 to 80 °C; van Laar constants with water at one atmosphere (Perry).
_ANTOINE = (8.20417, 1642.89, 230.300)
_VAN_LAAR = (1.6798, 0.9227)
_MMHG_KPA = 0.133322
_SPIRIT_VAN_LAAR = (1.5541, 0.9343)
"""A, B of ln γ(water) = B (A x/(A x + B (1 − x)))² for ethanol and water at 25 °C, x the mole fraction of ethanol: fitted to modified UNIFAC (Dortmund), 5 to 75 % w/w,
largest deviation 0.0004; the model itself is good to 0.012 below 40 % w/w and 0.03 beyond."""
_GLYCEROL = (1.460, -1.794)
"""k, c of ln aw = ln(1 − x) − x² (k + c x) for glycerol and water at 25 °C: fitted to the humidity correlation of Forney and Brandl 1992, 20 to 75 % w/w, within 0.003."""
_LAPSE_PER_M, _LAPSE_POWER = 2.25577e-5, 5.25588
"""Of p = p₀ (1 − a h)ⁿ: a = 0.0065/288.15 [1/m], n = g M/(R × 0.0065). Source: ISO 2533, standard atmosphere."""
_ICE = (9.550426, -5723.265, 3.53068, -0.00728332)
"""ln p(ice) [Pa] = a + b/T + c ln T + d T, 110 to 273 K. Source: Murphy and Koop 2005, equation 7."""
_SUPERCOOLED = (54.842763, -6763.22, -4.210, 0.000367, 0.0415, 218.8, 53.878, -1331.22, -9.44523, 0.014025)
"""ln p(liquid) [Pa] = a + b/T + c ln T + d T + tanh(e (T − f)) (g + h/T + i ln T + j T), 123 to 332 K. Source: Murphy and Koop 2005, equation 10."""
_CAP = 80
ATMOSPHERE_KPA = 101.325


def saturation_pressure_kpa(t_c: float) -> float:
    """Vapour pressure of pure water [kPa] at `t_c` [0 to 200 °C], error 0.02 %. 2.339 at 20 °C. Raises Refusal outside its range. Source: Wagner and Pruss
    2002, eq. 2.5.
    """
    if not 0.0 <= t_c <= 200.0:
        raise Refusal(message("{t} °C is outside the steam tables", t=Given(t_c)), bound=message("they hold from 0 to 200 °C"))
    kelvin = t_c + ZERO_C_K
    # Distance from the critical point, in which the published equation is a power series.
    tau = 1.0 - kelvin / _CRITICAL_K
    return _CRITICAL_KPA * math.exp(_CRITICAL_K / kelvin * math.fsum(a * tau**n for a, n in _WAGNER))


def pressure_at_kpa(altitude_m: float) -> float:
    """Air pressure [kPa] at `altitude_m` [m above the sea, −500 to 9000]; weather moves it by 3 %. 89.87 at 1000 m. Raises Refusal outside its range. Source:
    ISO 2533, standard atmosphere.
    """
    if not -500.0 <= altitude_m <= 9000.0:
        raise Refusal(
            message("{altitude_m} m is no place for a bar", altitude_m=Given(altitude_m)),
            bound=message("heights from −500 to 9 000 m can be worked with"),
        )
    # Temperature falls by 6.5 K per km in the standard atmosphere; the exponent is g M/(R × 0.0065).
    return ATMOSPHERE_KPA * math.pow(1.0 - _LAPSE_PER_M * altitude_m, _LAPSE_POWER)


def _ln_sucrose(x: float, kelvin: float) -> float:
    q, b, c = _STARZAK
    # The first term is dilution; the second is how strongly sucrose binds water beyond it.
    return math.log(1.0 - x) + q / (GAS_J_MOL_K * kelvin) * (1.0 + b * x + c * x * x) * x * x


def _ln_salt(molality: float) -> float:
    a, b, alpha, beta0, beta1, c = _PITZER_NACL
    root = math.sqrt(molality)
    # Osmotic coefficient of a 1:1 salt: Debye–Hückel, then second and third virial terms.
    osmotic = 1.0 - a * root / (1.0 + b * root) + molality * (beta0 + beta1 * math.exp(-alpha * root)) + molality * molality * c
    # Two ions per formula unit; molality is per kilogram, of which a mole of water is a small part.
    return -osmotic * 2.0 * molality * WATER_G_MOL / 1000.0


def _ln_spirit(ethanol: float, water: float, kelvin: float) -> float:
    """Returns the contribution of alcohol: van Laar at kitchen temperatures, in the cold by published freezing points."""
    # The van Laar constants were fitted at 25 °C and miss the freezing points, which are known directly.
    if kelvin > _MELTS_K:
        moles, moles_water = ethanol / ETHANOL_G_MOL, water / WATER_G_MOL
        x = moles / (moles + moles_water)
        a, b = _SPIRIT_VAN_LAAR
        return math.log(1.0 - x) + b * (a * x / (a * x + b * (1.0 - x))) ** 2
    percent = 100.0 * ethanol / (ethanol + water)
    for (p0, t0), (p1, t1) in itertools.pairwise(_SPIRIT_FREEZES):
        if percent <= p1:
            return _ice_less_liquid(t0 + (t1 - t0) * (percent - p0) / (p1 - p0) + ZERO_C_K + _PAIR_ZERO_K)
    raise Refusal(
        message("{percent} % w/w of alcohol does not freeze above −30 °C", percent=Computed(percent, decimals=0)),
        bound=message("the table of freezing points ends at 42 % w/w"),
        code="does_not_freeze",
    )


def ln_activity(contents: Contents, kelvin: float = 298.15) -> float:
    """Returns the natural log of the water activity at `kelvin` [K]; see `water_activity`, which works at 25 °C. Raises Refusal for a vessel without water.

    Below 0 °C alcohol counts by its published freezing points. Sources: as in `water_activity`.
    """
    bounded(kelvin, 240.0, 473.15, "K", message("a temperature"))
    _check_water(contents)
    return _ln_activity(contents, kelvin)


def _check_water(contents: Contents) -> None:
    """Raises Refusal for contents that cannot be, and for contents with too little water."""
    if not is_solution(contents):
        raise Refusal(message("Without water there is no water activity"), remedy=message("Put water or juice in first"), code="no_water")


def _ln_activity(contents: Contents, kelvin: float) -> float:
    """Returns `ln_activity` of contents that were checked: a search calls it many times."""
    water = contents.of("water")
    moles_water = water / WATER_G_MOL
    parts: list[float] = []
    for key, grams in contents.grams.items():
        if grams <= 0 or key == "water" or key in NO_WATER:
            continue
        substance = SUBSTANCES[key]
        if key == "sodium_chloride":
            parts.append(_ln_salt(grams / substance.molar_mass / water * 1000.0))
            continue
        if key == "ethanol":
            parts.append(_ln_spirit(grams, water, kelvin))
            continue
        # A salt counts each ion; everything else one particle per molecule.
        moles = grams / substance.molar_mass * substance.osmotic
        x = moles / (moles + moles_water)
        if key == "sucrose":
            parts.append(_ln_sucrose(x, kelvin))
        elif key == "glycerol":
            parts.append(math.log(1.0 - x) - (_GLYCEROL[0] + _GLYCEROL[1] * x) * x * x)
        else:
            # Ross: each solute is taken alone in all the water, and the logarithms add up.
            parts.append(math.log(1.0 - x) - substance.norrish * x * x)
    return math.fsum(parts)


def water_activity(contents: Contents) -> float:
    """Water activity [-] at 25 °C: the product of what each dissolved thing would give alone in all the water (Ross).

    Sucrose after Starzak and Peacock, salt after Pitzer, alcohol after van Laar, glycerol with a second constant, the rest (1 − x) exp(−k x²) with
    Norrish's k. Error 0.003 for sucrose to 65 °Bx, 0.015 for mixed syrups, 0.012 with alcohol to 40 % w/w, 0.03 to 75 %; glycerol 0.006 to 60 % w/w, 0.015
    to 75 %. 0.934 at 50 °Bx, 0.8125 at 55 % w/w of alcohol. Sources: Ross 1975; Norrish 1966; Starzak and Peacock 1997; Pitzer and Mayorga 1973; Forney and
    Brandl 1992; constants in `substances`.
    """
    return math.exp(ln_activity(contents))


def water_activity_uncertainty(contents: Contents, value: float) -> tuple[float, float]:
    """Uncertainty of `water_activity` as (below, above) [-]: 0.005, 0.015 where several things bind water, 0.03 past 40 % w/w of alcohol, 0.05 where water is
    less than a tenth; never past 1. Raises Refusal as `water_activity` does. Source: `water_activity`.
    """
    water = checked_contents(contents).of("water")
    bounded(value, 0.0, 1.0, "", message("a water activity"))
    if water <= 0:
        raise Refusal(message("Without water there is no water activity"), remedy=message("Put water or juice in first"), code="no_water")
    # The error grows with what Ross's product leaves out: the interaction of solutes with each other.
    spirit = contents.of("ethanol") / (contents.of("ethanol") + water)
    # Two percent of the water is the least that shifts water activity by more than a thousandth.
    solutes = sum(1 for key, grams in contents.grams.items() if grams > 0.02 * water and key not in ("water", *NO_WATER))
    thick = water < 0.1 * contents.solution.mass_g
    half = 0.05 if thick else 0.03 if spirit > 0.40 else 0.015 if solutes > 1 or spirit > 0 else 0.005
    return half, min(half, 1.0 - value)


def _ice_less_liquid(kelvin: float) -> float:
    """ln of vapour pressure of ice over that of supercooled water (Murphy and Koop 2005, eqs. 7 and 10)."""
    ln_k = math.log(kelvin)
    # Both pressures as published; only their ratio is used.
    a, b, c, d = _ICE
    ice = a + b / kelvin + c * ln_k + d * kelvin
    a, b, c, d, e, f, g, h, i, j = _SUPERCOOLED
    liquid = a + b / kelvin + c * ln_k + d * kelvin
    liquid += math.tanh(e * (kelvin - f)) * (g + h / kelvin + i * ln_k + j * kelvin)
    return ice - liquid


_PAIR_ZERO_K = 0.010
"""The two vapour pressures cross at 0.010 °C; taken off so that water freezes at 0."""


def _root(of: Callable[[float], float], low: float, high: float) -> float:
    """Returns where a rising function crosses zero between `low` and `high`, by secant inside a bracket, to 1e-9. Raises Refusal for a bracket without a
    crossing.
    """
    f_low, f_high = of(low), of(high)
    if f_low > 0 or f_high < 0:
        raise Refusal(
            message("No temperature answers"),
            bound=message("{low} to {high} were tried", low=Computed(low, decimals=0), high=Computed(high, decimals=0)),
            remedy=message("Check what is in the vessel"),
            code="no_answer",
        )
    # Every third step halves the bracket: secant steps alone may creep from one side.
    for turn in range(_CAP):
        middle = (low + high) / 2.0 if turn % 3 == 2 or f_high == f_low else low - f_low * (high - low) / (f_high - f_low)
        value = of(middle)
        if abs(value) < 1e-12 or high - low < 1e-9:
            return middle
        if value < 0:
            low, f_low = middle, value
        else:
            high, f_high = middle, value
    return (low + high) / 2.0


_EUTECTIC_SUCROSE_G_G, _EUTECTIC_SALT_G_G = 62.4 / 37.6, 23.3 / 76.7
"""Sucrose and salt per gram of water [g/g] beyond which they come out before ice does (published eutectics, −13.95 and −21.1 °C)."""


def _before_ice(contents: Contents) -> None:
    """Raises Refusal for contents past the eutectic of their sugar or their salt."""
    water = checked_contents(contents).of("water")
    for key, most in (("sucrose", _EUTECTIC_SUCROSE_G_G), ("sodium_chloride", _EUTECTIC_SALT_G_G)):
        if contents.of(key) > most * water > 0:
            raise Refusal(
                message("So much {substances} comes out as crystals before ice does", substances=SUBSTANCES[key].name),
                "freezing_c",
                message(
                    "past {most} g in 100 g of it and water there is no freezing point", most=Computed(100 * most / (1 + most), decimals=0)
                ),
                message("Thin it, or read at what temperature it sets"),
                "does_not_freeze",
            )


def freezing_c(contents: Contents) -> float:
    """Temperature [°C] at which the first ice forms: where the liquid's water activity equals that of ice.

    Range 0 to −30 °C; error 0.1 K to 40 °Bx, 0.4 K to 62 °Bx, 0.3 K for alcohol and water, 1.5 K for both together. −1.02 at 15 °Bx. Source: Murphy and Koop 2005,
    with `ln_activity` at that temperature. Raises Refusal for what does not freeze above −30 °C, and what is past its eutectic: there sugar or salt comes out before ice.
    """
    _check_water(contents)
    _before_ice(contents)
    # Ice forms where the water in the liquid is no more active than ice at the same temperature.
    top = ZERO_C_K + _PAIR_ZERO_K

    def off(kelvin: float) -> float:
        return _ice_less_liquid(kelvin) - _ln_activity(contents, kelvin)

    coldest = _COLDEST_C + ZERO_C_K
    if off(coldest) > 0:
        raise Refusal(message("It does not freeze above −30 °C"), bound=message("the formula holds to −30 °C"), code="does_not_freeze")
    return _root(off, coldest, top + 1e-6) - top


def freezing_near_c(contents: Contents, known_c: float) -> float:
    """Returns the freezing point [°C] of contents close to some that freeze at `known_c` [°C]: one Newton step, for ranges. Error 2 % of the shift.

    Equal to `freezing_c` if they are the same; raises Refusal as it does. Source: `freezing_c`.
    """
    _before_ice(contents)
    kelvin = bounded(known_c, -30.1, 0.01, "°C", message("a freezing point")) + ZERO_C_K + _PAIR_ZERO_K
    # Water activity changes little with temperature next to ice: only the latter's slope is taken.
    slope = (_ice_less_liquid(kelvin + 0.01) - _ice_less_liquid(kelvin - 0.01)) / 0.02
    found = known_c - (_ice_less_liquid(kelvin) - ln_activity(contents, kelvin)) / slope
    if found < _COLDEST_C - 1.0:
        raise Refusal(message("It does not freeze above −30 °C"), bound=message("the formula holds to −30 °C"), code="does_not_freeze")
    return found


def ice_share(contents: Contents, t_c: float) -> float:
    """Share [0 to 1] of the water that is ice when the vessel has come to `t_c` [−30 to 0 °C]; by bisection to 1e-9.

    0 above the freezing point. A 15 °Bx juice at −18 °C: about 0.915. Raises Refusal outside its range, and past a eutectic. Source: `freezing_c` of what stays
    liquid.
    """
    if checked_contents(contents).of("water") <= LEAST_G:
        raise Refusal(message("Without water there is no ice"), remedy=message("Put water or juice in first"), code="no_water")
    if 0.0 <= t_c <= 120.0:
        return 0.0
    if not -30.0 <= t_c <= 0.0:
        raise Refusal(message("{t} °C is outside the freezing formula", t=Given(t_c)), bound=message("it holds to −30 °C"))
    target = _ice_less_liquid(t_c + ZERO_C_K + _PAIR_ZERO_K)
    water = contents.of("water")

    def over(share: float) -> float:
        # Ice is pure water: all solutes stay in the shrinking liquid, which freezes ever lower.
        left = Contents({**contents.grams, "water": water * (1.0 - share)})
        return target - _ln_activity(left, t_c + ZERO_C_K + _PAIR_ZERO_K)

    if over(0.0) > 0:
        return 0.0
    low, high = 0.0, 1.0 - 1e-9
    for _ in range(_CAP):
        middle = (low + high) / 2.0
        if over(middle) < 0:
            low = middle
        else:
            high = middle
    return (low + high) / 2.0


def _ethanol_pressure_kpa(t_c: float) -> float:
    a, b, c = _ANTOINE
    return _MMHG_KPA * math.pow(10.0, a - b / (t_c + c))


def boiling_c(contents: Contents, pressure_kpa: float = ATMOSPHERE_KPA) -> float:
    """Temperature [°C] at which it boils under `pressure_kpa` [20 to 120 kPa]: where the vapour pressures add up to the air's.

    Water's share is its activity × saturation pressure; alcohol's by van Laar. Error as `boiling_uncertainty` says: 0.3 K to 60 °Bx, 1 K at 80 °Bx, 1.5 K with
    alcohol. 101.80 at 50 °Bx. Raises Refusal outside its range, and for a vessel without water. Sources: Starzak and Peacock 1997; Wagner and Pruss 2002;
    Perry, van Laar constants.
    """
    if not 20.0 <= pressure_kpa <= 120.0:
        raise Refusal(
            message("{pressure} kPa is outside the sum", pressure=Given(pressure_kpa)),
            bound=message("it holds from 20 to 120 kPa"),
            remedy=message("Use the vacuum step below that"),
        )
    share, raises, without = _boiling_parts(contents)
    return _root(lambda t_c: _vapour_kpa(without, share, raises, t_c) - pressure_kpa, 20.0, 199.0)


def brix_boiling_at(t_c: float) -> float:
    """Returns the °Bx of a sugar solution that boils at `t_c` [100 to 125 °C] under one atmosphere; the inverse of `boiling_c`. 50.0 at 101.80.

    Error: 1 °Bx to 80 °Bx, 3 beyond. Raises Refusal outside that range. Source: as of `boiling_c`.
    """
    bounded(t_c, 100.0, 125.0, "°C", message("a temperature to boil at"))
    return 100.0 * _root(lambda share: boiling_c(Contents({"sucrose": share, "water": 1.0 - share})) - t_c, 0.0, 0.95)


def boils_at(contents: Contents, t_c: float, pressure_kpa: float = ATMOSPHERE_KPA) -> bool:
    """Returns True if it boils at `t_c` [20 to 199 °C] or below under `pressure_kpa` [20 to 120 kPa]: one evaluation instead of the search of `boiling_c`.
    Source: as there.
    """
    bounded(t_c, 20.0, 199.0, "°C", message("a temperature to boil at"))
    bounded(pressure_kpa, 20.0, 120.0, "kPa", message("the air's pressure"))
    share, raises, without = _boiling_parts(contents)
    return _vapour_kpa(without, share, raises, t_c) >= pressure_kpa


def _boiling_parts(contents: Contents) -> tuple[float, tuple[float, float], Contents]:
    """Returns (mole fraction of ethanol, activity coefficients, contents without ethanol). Raises Refusal without water."""
    if not is_solution(contents):
        raise Refusal(message("Without water nothing boils here"), remedy=message("Put water or juice in first"), code="no_water")
    ethanol = contents.of("ethanol")
    without = Contents({key: grams for key, grams in contents.grams.items() if key != "ethanol"}) if ethanol else contents
    share, raises = _alcohol_at_the_boil(contents)
    return share, raises, without


def _vapour_kpa(without: Contents, share: float, raises: tuple[float, float], t_c: float) -> float:
    """Returns the vapour pressure [kPa] of water and alcohol together at `t_c` [°C]."""
    # Raoult with activities: sugar lowers the water's share, alcohol dilutes it and raises its coefficient.
    water = math.exp(_ln_activity(without, t_c + ZERO_C_K)) * saturation_pressure_kpa(t_c) * (1.0 - share) * raises[0]
    return water + (share * raises[1] * _ethanol_pressure_kpa(t_c) if share else 0.0)


_BOILING_OFF = ((0.0, 0.3), (0.6, 0.3), (0.8, 1.0), (0.9, 3.0), (1.0, 10.0))
"""(mass fraction of dissolved solids, uncertainty of the boiling point [K]): from the table to 0.9, estimated beyond."""


def boiling_uncertainty(contents: Contents, _value: float = 0.0) -> tuple[float, float]:
    """How far [K] the boiling point may lie (below, above): 0.3 to 60 °Bx, 1 at 80, 3 at 90, 10 beyond; at least 1.5 with alcohol. Raises Refusal for an empty
    vessel. Source: `boiling_c`.
    """
    liquid = checked_contents(contents).solution.mass_g
    if liquid <= 0:
        raise Refusal(message("An empty vessel has no boiling point"), remedy=message("Put something in first"))
    # From the table to nine tenths dissolved, estimated beyond.
    dissolved = 1.0 - (contents.of("water") + contents.of("ethanol")) / liquid
    # Between the points straight lines: the uncertainty itself is known no better.
    off = next(d0 + (d1 - d0) * (dissolved - w0) / (w1 - w0) for (w0, d0), (w1, d1) in itertools.pairwise(_BOILING_OFF) if dissolved <= w1)
    half = max(1.5, off) if contents.of("ethanol") else off
    return half, half


def _alcohol_at_the_boil(contents: Contents) -> tuple[float, tuple[float, float]]:
    """Returns (mole fraction of ethanol relative to water, activity coefficients of water and ethanol by van Laar)."""
    ethanol, water = contents.of("ethanol") / ETHANOL_G_MOL, contents.of("water") / WATER_G_MOL
    if not ethanol:
        return 0.0, (1.0, 1.0)
    x = ethanol / (ethanol + water)
    a, b = _VAN_LAAR
    # van Laar: ln γ₁ = B (A x/(A x + B (1−x)))², and the mirror image for ethanol.
    bottom = a * x + b * (1.0 - x)
    return x, (math.exp(b * (a * x / bottom) ** 2), math.exp(a * (b * (1.0 - x) / bottom) ** 2))
