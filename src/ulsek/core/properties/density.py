"""Density and volume."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping
from types import MappingProxyType

from ..base.messages import Given, listed, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES, SUGARS
from .alcohol import ethanol_water_density
from .bounds import bounded, checked_contents

_ROUNDING_G, _MOST_G, _LEAST_ML = -1e-9, 1e9, 1e-12

# ICUMSA SPS-4 (1998), coefficients b_i and c_ik; measured, ±0.05 to 0.3 kg/m³ within 0 to 80 °C.
_B = (385.1761, 135.3705, 40.9299, -3.9643, 13.4853, -17.2890)
_C = (
    (-46.2720, -7.1720, 1.1597, 5.1126, 17.5254),
    (59.7712, 7.2491, 12.3630, -35.4791),
    (-47.2207, -21.6977, 27.6301),
    (18.3184, 12.3081),
)
APPARENT = {key: substance.volume_ml_g for key, substance in SUBSTANCES.items() if key not in ("water", "ethanol", "insolubles", *SUGARS)}

# Apparent specific volume [mL/g] at 20 °C by mass fraction of the solute in solute and water, from density tables of the binary solutions: phosphoric acid,
# acetic acid, glycerol and sodium chloride ±0.003 (handbook densities of aqueous solutions); citric acid ±0.008 to 0.6, lactic acid ±0.008 (oligomers). Between
# the points straight lines; below the first and above the last their value, so that thin solutions keep the figure of `substances`.
CROWDED: Mapping[str, tuple[tuple[float, float], ...]] = MappingProxyType(
    {
        "phosphoric_acid": ((0.10, 0.471), (0.20, 0.4835), (0.40, 0.4909), (0.60, 0.5009), (0.75, 0.5105), (0.85, 0.5214)),
        "acetic_acid": ((0.10, 0.867), (0.30, 0.8725), (0.40, 0.8810), (0.60, 0.8983), (0.80, 0.9178), (0.90, 0.9309), (1.00, 0.9526)),
        "lactic_acid": ((0.10, 0.775), (0.50, 0.780), (0.60, 0.786), (0.75, 0.794), (0.80, 0.799), (0.85, 0.804), (0.90, 0.809)),
        "citric_acid": ((0.10, 0.587), (0.20, 0.593), (0.30, 0.598), (0.45, 0.605), (0.60, 0.611)),
        "glycerol": ((0.30, 0.771), (0.50, 0.774), (0.80, 0.784), (1.00, 0.793)),
        "sodium_chloride": ((0.00, 0.296), (0.05, 0.308), (0.10, 0.3235), (0.20, 0.349), (0.26, 0.3615)),
    }
)


def room_ml(key: str, grams: float, water_g: float) -> float:
    """Volume [mL] at 20 °C that `grams` [g] of an acid, a salt or another dissolved substance take up beside `water_g` [g] of water.

    grams × apparent specific volume, which grows in strong solutions. 85 g of phosphoric acid in 15 g of water: 44.3 mL. Error: as the table says. Raises
    Refusal for a substance without an apparent volume. Source: `substances`; handbook densities of aqueous solutions.
    """
    if key not in APPARENT:
        raise Refusal(
            message("“{key}” takes no room of its own", key=key),
            bound=message("it is one of {apparent}", apparent=listed(APPARENT, "comma")),
            code="unknown_substance",
        )
    points = CROWDED.get(key)
    if not (0.0 <= grams < math.inf and 0.0 <= water_g < math.inf):
        # Rounding may leave −1e-10 g behind; anything more negative is refused.
        grams, water_g = (max(0.0, bounded(value, _ROUNDING_G, _MOST_G, "g", message("a weight"))) for value in (grams, water_g))
    # Below the first point ions and molecules do not crowd each other: the volume is that of the dilute solution.
    if points is None or grams <= points[0][0] * (grams + water_g):
        return grams * APPARENT[key]
    share = grams / (grams + water_g)
    for (w0, v0), (w1, v1) in itertools.pairwise(points):
        if share <= w1:
            return grams * (v0 + (v1 - v0) * (share - w0) / (w1 - w0))
    return grams * points[-1][1]


def water_density(t_c: float) -> float:
    """Density of water [kg/m³] at `t_c` [°C], 0 to 100 °C, ±0.01 kg/m³. 998.2 at 20 °C. Source: Kell 1975, as used by SPS-4."""
    bounded(t_c, 0.0, 100.0, "°C", message("the density of water"))
    # A ratio of polynomials, as published: it follows the maximum at 4 °C.
    top = 999.83952 + 16.952577 * t_c - 7.9905127e-3 * t_c**2 - 46.241757e-6 * t_c**3 + 105.84601e-9 * t_c**4 - 281.03006e-12 * t_c**5
    return top / (1 + 16.887236e-3 * t_c)


def sucrose_density(w: float, t_c: float = 20.0) -> float:
    """Density [kg/m³] of a sucrose solution of mass fraction `w` [0 to 1] at `t_c` [°C].

    ρ = ρ_w(t) + Σ bᵢ wⁱ + Σₖ Σᵢ cᵢₖ wⁱ τᵏ with τ = (t − 20)/100. Range 0 to 80 °C; error 0.05 % to 75 °Bx; above saturation it is an extrapolation. 1229.65 at
    w = 0.5 and 20 °C. Raises Refusal outside its range. Source: ICUMSA SPS-4 (1998).
    """
    if not 0.0 <= w <= 1.0:
        raise Refusal(message("A mass fraction of {w} cannot be", w=Given(w)), bound=message("it lies between 0 and 1"))
    if not 0.0 <= t_c <= 80.0:
        raise Refusal(
            message("{t} °C is outside the sucrose density formula", t=Given(t_c)),
            bound=message("it holds from 0 to 80 °C"),
            remedy=message("Work by weight above 80 °C"),
        )
    return _sucrose_density_formula(w, t_c)


def _sucrose_density_formula(w: float, t_c: float) -> float:
    """Returns the formula of `sucrose_density` [kg/m³] without its bounds; it is smooth a little outside 0 to 1, as an inversion needs. 1229.65 at 0.5, 20 °C.

    Source: ICUMSA SPS-4 (1998).
    """
    terms = [water_density(t_c)] + [b * w**i for i, b in enumerate(_B, 1)]
    # The coefficients in τ vanish at 20 °C, where almost every call is made.
    if t_c != 20.0:
        tau = (t_c - 20.0) / 100.0
        terms += [c * w**i * tau**k for k, row in enumerate(_C, 1) for i, c in enumerate(row, 1)]
    return math.fsum(terms)


_WATER_20 = water_density(20.0)


def _sucrose_density_20(w: float) -> float:
    # Horner's scheme of the same polynomial: this line runs for every vessel of every pass.
    return _WATER_20 + w * (_B[0] + w * (_B[1] + w * (_B[2] + w * (_B[3] + w * (_B[4] + w * _B[5])))))


def volume_ml(contents: Contents) -> float:
    """Volume [mL] of the liquid at 20 °C; undissolved plant matter is not counted.

    V = V(water + ethanol, with contraction) + what the sugars add, by the sucrose formula at sugar/(sugar + water)
    + Σ `room_ml` of acids and salts. Error 0.1 % for sugar and water to 75 °Bx with up to 10 % of acids and salts; 0.5 % in
    concentrated phosphoric, acetic and citric acid, 1 % in lactic acid of 80 to 90 %, other acids and salts past 10 %, and at 40 % vol with 300 g/L sugar. 1000 g water + 1000 g sucrose is 1626.5 mL. Sources: ICUMSA SPS-4, OIML R 22, `substances`.
    """
    grams = checked_contents(contents).grams
    return _volume_of(
        grams.get("water", 0.0),
        grams.get("ethanol", 0.0),
        math.fsum(grams[key] for key in SUGARS if key in grams),
        [
            room_ml(key, mass, grams.get("water", 0.0)) if key in CROWDED else mass * APPARENT[key]
            for key, mass in grams.items()
            if key in APPARENT
        ],
    )


def liquid_ml(contents: Contents) -> float:
    """Returns `volume_ml` of a vessel with liquid [mL]. Raises Refusal for an empty one, and for plant matter alone. Source: `volume_ml`."""
    volume = volume_ml(contents)
    if volume < _LEAST_ML:
        raise Refusal(message("An empty vessel has no volume to measure by"), remedy=message("Put something in first"), code="empty")
    return volume


def _volume_of(water: float, ethanol: float, sugar: float, parts: list[float]) -> float:
    """Returns the volume [mL] at 20 °C from the mass of water, ethanol and sugars and the mL of each other substance (`parts`); see `volume_ml`.

    1000 g of water and 1000 g of sugar: 1626.5. Source: `volume_ml`.
    """
    if ethanol:
        # Water is counted twice, with the alcohol and with the sugar, and taken off once: contraction and
        # displacement are each taken from the binary mixture, which costs 0.5 % in a sweet liqueur.
        parts.append(1000.0 * (water + ethanol) / ethanol_water_density(ethanol / (water + ethanol)))
        parts.append(-1000.0 * water / _WATER_20)
    if sugar or water:
        parts.append(1000.0 * (sugar + water) / _sucrose_density_20(sugar / (sugar + water)))
    return math.fsum(parts)


def volume_at_ml(contents: Contents, t_c: float) -> float:
    """Volume [mL] of the liquid at `t_c` [0 to 80 °C; 0 to 40 °C with alcohol]; at 20 °C it is `volume_ml`.

    Sugar and water by SPS-4 and alcohol and water by OIML R 22 at that temperature; acids and salts keep their room at 20 °C, which costs 0.1 %
    at 80 °C. 1000 mL of water at 20 °C are 1027.1 mL at 80 °C. Raises Refusal beyond its range. Sources: ICUMSA SPS-4, OIML R 22.
    """
    bounded(t_c, 0.0, 80.0, "°C", message("a volume that sugar and water take"), message("Work by weight above 80 °C"))
    grams = checked_contents(contents).grams
    water, ethanol = grams.get("water", 0.0), grams.get("ethanol", 0.0)
    sugar = math.fsum(grams[key] for key in SUGARS if key in grams)
    if ethanol and not 0.0 <= t_c <= 40.0:
        raise Refusal(
            message("{t} °C is outside the alcohol tables", t=Given(t_c)),
            bound=message("they hold from 0 to 40 °C"),
            remedy=message("Let it cool, then read"),
            code="out_of_bounds",
        )
    parts = [room_ml(key, mass, water) for key, mass in grams.items() if key in APPARENT]
    if ethanol:
        parts.append(1000.0 * (water + ethanol) / ethanol_water_density(ethanol / (water + ethanol), t_c))
        parts.append(-1000.0 * water / water_density(t_c))
    if sugar or water:
        parts.append(1000.0 * (sugar + water) / sucrose_density(sugar / (sugar + water), t_c))
    return math.fsum(parts)


def volume_from_reading_ml(read_ml: float, t_c: float, contents: Contents) -> float:
    """Volume [mL] at 20 °C of a liquid like `contents` whose line was read as `read_ml` [mL] at `t_c` [°C; range as `volume_at_ml`].

    1027 mL of water read at 80 °C are 1000 mL. Raises Refusal as `volume_at_ml` does, and for a reading of 0 or less. Source: `volume_at_ml`.
    """
    if not 0.0 < read_ml <= _MOST_G:
        raise Refusal(message("{read} mL is no reading of a line", read=Given(read_ml)), bound=message("it must be above zero"))
    # Expansion is a ratio of two volumes of the same contents, so how much there is does not matter.
    return read_ml * liquid_ml(contents) / volume_at_ml(contents, t_c)


def density_g_ml(contents: Contents) -> float:
    """Density [g/mL] of the liquid at 20 °C. Raises Refusal for an empty vessel. Source: `volume_ml`, mass balance."""
    volume = volume_ml(contents)
    if volume <= 0:
        raise Refusal(message("An empty vessel has no density"), remedy=message("Put something in first"))
    return contents.solution.mass_g / volume
