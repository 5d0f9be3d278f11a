"""Dissolved solids, the reading of a refractometer, sugars per 100 mL, and the solubility of sucrose."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable

from ..base.messages import Computed, Given, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES, SUGARS
from .acidity import titratable_g
from .alcohol import abv
from .bounds import bounded, checked_contents
from .density import _sucrose_density_formula, liquid_ml, water_density

_DISSOLVED = frozenset(key for key, substance in SUBSTANCES.items() if substance.dissolved)

# ICUMSA 1974 / SPS-3 refractive index at 20 °C and 589.3 nm, polynomial fit, residual 5e-7.
_N = (1.33298610, 0.142800227, 0.0543566656, 0.0133007116, 0.0113124866, -0.00804400173, -0.000435729848)
# Acid correction of the citrus juice trade: true = reading + 0.012 + 0.193 A - 0.0004 A², A in % w/w as citric.
_ACID = (0.012, 0.193, -0.0004)
# Stronger acids neutralise more base than their own mass of citric acid: pure phosphoric acid is 131 % as citric.
_MOST_ACID_PERCENT = 140.0
_WATER_N = ((10.0, 1.333690), (15.0, 1.333387), (20.0, 1.332986), (25.0, 1.332503), (30.0, 1.331940), (35.0, 1.331309), (40.0, 1.330608))
"""Refractive index of water at 589.3 nm by °C; published, 2e-6 (Tilton and Taylor 1938)."""
_REFRACTION_BY_K = 1.0e-8
"""Temperature coefficient of the specific refraction of sucrose [m³/(kg·K)]; one constant fitted to the tables of 1936 and 1974."""
_INVERT_DISPLACES = 0.15
"""Each gram of glucose and fructose per gram of water lowers what sucrose dissolves by so much [g/g]; 0 to 0.35, house experience."""
_ALCOHOL_LOWERS = (
    (0.0, 1.0), (0.0802, 0.943), (0.1621, 0.878), (0.2461, 0.843), (0.3330, 0.745), (0.4243, 0.641), (0.5210, 0.513), (0.6239, 0.328), (0.7349, 0.155),
    (0.8567, 0.039), (1.0, 0.0),
)  # fmt: skip
"""Sucrose per gram of water against water alone, by the mass fraction of ethanol in the solvent: g per 100 mL and specific gravity at 14 °C (Scheibler 1872), as published in
solubility tables; ±10 %."""
_INDEX_TURNS_ABV = 50.0
"""About here the refractive index of ethanol and water no longer rises in proportion [% vol]."""
_SATURATION = (64.397, 0.07251, 0.0020569, -9.035e-6)
"""Coefficients of the saturation of sucrose [% w/w] in powers of t [°C], 0 to 100 °C. Source: Vavrinecz 1962."""
_SPIRIT_ERROR = (0.03, 0.3)
"""Error of a reading [°Bx per % vol] up to where the index turns, and beyond it. House judgement."""
ALCOHOL_READS_BX_PER_ABV = 0.375
"""Ethanol lifts a sucrose refractometer by 0.35 to 0.40 °Bx per % vol at bar strengths; house experience from published indices."""


def brix(contents: Contents) -> float:
    """Dissolved solids other than alcohol [°Bx, g per 100 g of liquid]. 1000 g water + 1000 g sucrose is 50. Raises Refusal for an empty vessel. Source:
    definition.
    """
    grams = checked_contents(contents).grams
    dissolved = math.fsum(mass for key, mass in grams.items() if key in _DISSOLVED)
    liquid = contents.mass_g - grams.get("insolubles", 0.0)
    if liquid <= 0:
        raise Refusal(message("An empty vessel has no °Bx"), remedy=message("Put something in first"))
    return 100.0 * dissolved / liquid


def refractive_index(w: float) -> float:
    """Refractive index [-] at 20 °C, 589.3 nm, of a sucrose solution of mass fraction `w` [0 to 0.85]; error 2e-5. 1.42009 at 0.5. Raises Refusal outside its
    range. Source: ICUMSA 1974.
    """
    if not 0.0 <= w <= 0.85:
        raise Refusal(
            message("A mass fraction of {w} is outside the refractive table", w=Given(w)), bound=message("it holds from 0 to 0.85")
        )
    return _index(w)


def _index(w: float) -> float:
    """Returns the refractive index by the polynomial; a little below zero it stands for water warmer or colder than 20 °C."""
    return math.fsum(n * w**i for i, n in enumerate(_N))


def _water_index(t_c: float) -> float:
    """Returns the refractive index of water by Lagrange interpolation in the four nearest points."""
    # The four nearest points, shifted inwards at both ends of the table.
    first = max(0, min(len(_WATER_N) - 4, math.floor((t_c - 10.0) / 5.0) - 1))
    points = _WATER_N[first : first + 4]
    return math.fsum(n * math.prod((t_c - other) / (t - other) for other, _ in points if other != t) for t, n in points)


def _specific_refraction(n: float, density: float) -> float:
    # Lorentz–Lorenz: this ratio hardly depends on temperature, unlike the index itself.
    return (n * n - 1.0) / (n * n + 2.0) / density


def _index_at(w: float, t_c: float) -> float:
    """Returns the refractive index at `t_c`: Lorentz–Lorenz with the density at `t_c` and specific refractions that hardly change."""
    # What water's own refraction gains between 20 °C and `t_c`, by its published indices.
    water = _specific_refraction(_water_index(t_c), water_density(t_c)) - _specific_refraction(_water_index(20.0), water_density(20.0))
    at_20 = _specific_refraction(_index(w), _sucrose_density_formula(w, 20.0))
    # Refraction of a mixture is additive by mass; the density carries nearly all of the effect of temperature.
    product = (at_20 + (1.0 - w) * water + w * _REFRACTION_BY_K * (t_c - 20.0)) * _sucrose_density_formula(w, t_c)
    # Lorentz–Lorenz solved for the index.
    return math.sqrt((1.0 + 2.0 * product) / (1.0 - product))


def _bisect(of: Callable[[float], float], low: float, high: float) -> float:
    """Returns where a rising function crosses zero, to 1e-12 of the bracket."""
    for _ in range(50):
        middle = (low + high) / 2.0
        if of(middle) < 0:
            low = middle
        else:
            high = middle
    return (low + high) / 2.0


def _within_table(brix_shown: float, t_c: float) -> None:
    if not 10.0 <= t_c <= 40.0:
        raise Refusal(
            message("A reading at {t} °C cannot be corrected", t=Given(t_c)),
            bound=message("the correction holds from 10 to 40 °C"),
            remedy=message("Let it come to 20 °C and read again"),
            code="out_of_bounds",
        )
    if not 0.0 <= brix_shown <= 80.0:
        raise Refusal(
            message("{brix_shown} °Bx cannot be corrected", brix_shown=Given(brix_shown)),
            bound=message("the correction holds from 0 to 80 °Bx"),
            code="out_of_bounds",
        )


def corrected_to_20(brix_shown: float, t_c: float) -> float:
    """What a refractometer without compensation would show at 20 °C [°Bx] when it shows `brix_shown` [0 to 80] at `t_c` [10 to 40 °C].

    The sucrose solution whose index at `t_c` is the one read: Lorentz–Lorenz with `sucrose_density`. Error 0.05 to 30 °C, 0.1 above.
    50.0 at 28 °C is 50.67. Sources: Tilton and Taylor 1938; ICUMSA SPS-4; tables of 1936 and 1974.
    """
    _within_table(brix_shown, t_c)
    # The scale was drawn at 20 °C, so the shown °Bx is an index; which sucrose solution has it at `t_c`?
    seen = refractive_index(brix_shown / 100.0)
    return 100.0 * _bisect(lambda w: _index_at(w, t_c) - seen, -0.02, 0.85)


def true_from_reading(reading: float, acid_percent: float) -> float:
    """Soluble solids [°Bx] behind a refractometer's `reading` [°Bx at 20 °C] with `acid_percent` [% w/w, as citric]: reading + shift.

    Range 0 to 10 % acid, no alcohol; error 0.1 °Bx. 8.2 with 2.4 % acid is 8.67. Raises Refusal outside its range. Source: `acid_shift`.
    """
    if not 0.0 <= acid_percent <= 10.0:
        raise Refusal(
            message("{acid} % acid is outside the correction", acid=Given(acid_percent)),
            bound=message("it holds from 0 to 10 %"),
            remedy=message("Weigh and dilute it first"),
            code="out_of_bounds",
        )
    solids = bounded(reading, 0.0, 95.0, "°Bx", message("a refractometer")) + acid_shift(acid_percent)
    # Acid is part of the dissolved solids and cannot exceed them.
    if solids < acid_percent:
        raise Refusal(
            message("{reading} °Bx and {acid} % acid cannot both be right", reading=Given(reading), acid=Given(acid_percent)),
            bound=message(
                "the acid alone is more than the {solids} °Bx of solids that the reading stands for", solids=Computed(solids, decimals=2)
            ),
            remedy=message("Read both again: a warm prism and a wrong burette mislead"),
            code="readings_disagree",
        )
    return solids


def acid_shift(acid_percent: float) -> float:
    """Returns how much [°Bx] acid makes a refractometer read low, at `acid_percent` [% w/w, as citric]: 0.012 + 0.193 A − 0.0004 A², 0 without acid.

    Table 0 to 10 %, error 0.1 °Bx; extrapolated to 140 %, for which `brix_reading_uncertainty` widens the range. 0.398 at 2 %. Source: citrus juice trade
    practice, published correction table.
    """
    # At every vessel of every pass: the words are made only where it refuses.
    if not 0.0 <= acid_percent <= _MOST_ACID_PERCENT:
        bounded(acid_percent, 0.0, _MOST_ACID_PERCENT, "%", message("acid"))
    # The published constant 0.012 is left out without acid: a plain syrup is read without any shift.
    return _ACID[0] + _ACID[1] * acid_percent + _ACID[2] * acid_percent**2 if acid_percent > 0 else 0.0


def brix_reading(contents: Contents) -> float:
    """What a refractometer set for sucrose shows [°Bx at 20 °C]: true solids less the acid shift plus 0.375 per % vol of alcohol.

    Error 0.2 °Bx without alcohol; ±0.03 °Bx more per % vol with it, so prefer weight and volume there. Sources: `acid_shift`, published indices.
    """
    liquid = checked_contents(contents).mass_g - contents.of("insolubles")
    # Acid bends light less than the same mass of sucrose, for which the scale was drawn; alcohol bends it more.
    shown = brix(contents) - acid_shift(100.0 * titratable_g(contents) / liquid)
    ethanol = contents.of("ethanol")
    return shown + (ALCOHOL_READS_BX_PER_ABV * abv(ethanol, liquid_ml(contents)) if ethanol else 0.0)


def brix_reading_uncertainty(contents: Contents, _value: float = 0.0) -> tuple[float, float]:
    """How far [°Bx] a refractometer may show off `brix_reading` (below, above), besides what its inputs bring: alcohol and strong acid.

    0.03 °Bx per % vol to 50 % vol and 0.3 beyond, where the index turns back; 0.1 to 10 % acid, then a tenth of what the acid is past that. Source: `ALCOHOL_READS_BX_PER_ABV`,
    `acid_shift`, house judgement.
    """
    volume, liquid = liquid_ml(contents), contents.solution.mass_g
    strength = abv(contents.of("ethanol"), volume)
    acid = 100.0 * titratable_g(contents) / liquid
    # Past about 50 % vol the index turns back and the reading no longer follows the strength.
    spirit = _SPIRIT_ERROR[0] * min(strength, _INDEX_TURNS_ABV) + _SPIRIT_ERROR[1] * max(0.0, strength - _INDEX_TURNS_ABV)
    half = math.hypot(spirit, (0.1 if acid > 2.0 else 0.0) + 0.1 * max(0.0, acid - 10.0))
    return half, half


def sugar_g_100ml(contents: Contents) -> float:
    """Sugars only [g per 100 mL at 20 °C]. 61.5 for a 1:1 syrup by weight. Source: definition."""
    return 100.0 * contents.total(SUGARS) / liquid_ml(contents)


def sugars_g_100ml(contents: Contents) -> dict[str, float]:
    """Returns each sugar [g per 100 mL at 20 °C]; they add up to `sugar_g_100ml`. Source: definition."""
    volume = liquid_ml(contents)
    return {key: 100.0 * contents.of(key) / volume for key in SUGARS if contents.of(key)}


def saturation_brix(t_c: float) -> float:
    """Saturation of pure sucrose in water [% w/w] at `t_c` [0 to 100 °C], error 0.3 (to 0.5 above 60 °C). 66.6 at 20 °C.

    64.397 + 0.07251 t + 0.0020569 t² − 9.035e-6 t³. Raises Refusal outside its range. Source: Vavrinecz 1962.
    """
    if not 0.0 <= t_c <= 100.0:
        raise Refusal(message("{t} °C is outside the solubility table", t=Given(t_c)), bound=message("it holds from 0 to 100 °C"))
    # A cubic in °C, as published.
    return _SATURATION[0] + _SATURATION[1] * t_c + _SATURATION[2] * t_c**2 + _SATURATION[3] * t_c**3


def sucrose_saturation_g_g(contents: Contents, t_c: float) -> float:
    """Grams of sucrose per gram of water [g/g] that dissolve at `t_c` [0 to 100 °C] beside the glucose, fructose and alcohol present.

    Pure: Vavrinecz, error 0.3 °Bx. Beside invert sugar the sucrose falls by 0.15 g per g of invert in a g of water, the total rises; error 3 % of the total.
    Alcohol holds back more than its water: × 0.75 at 40 % vol, × 0.16 at 80 %, error 10 %, measured at 14 °C. 1.994 at 20 °C in water. Sources: Vavrinecz
    1962; house experience for invert; Scheibler 1872 for alcohol.
    """
    limit = saturation_brix(t_c) / 100.0
    water, ethanol = checked_contents(contents).of("water"), contents.of("ethanol")
    if water <= 0:
        return 0.0
    # Invert sugar binds water that sucrose then lacks, although the total that dissolves rises.
    invert = (contents.of("glucose") + contents.of("fructose")) / water
    # Invert sugar alone may saturate the water; the sucrose that dissolves is then 0.
    dissolves_g_g = max(0.0, limit / (1.0 - limit) - _INVERT_DISPLACES * invert)
    return dissolves_g_g * _alcohol_factor(ethanol / (ethanol + water)) if ethanol else dissolves_g_g


def _alcohol_factor(share: float) -> float:
    """Returns the factor [0 to 1] on the sucrose that a gram of water dissolves when `share` [0 to 1] of the mass of the solvent is ethanol."""
    for (p0, f0), (p1, f1) in itertools.pairwise(_ALCOHOL_LOWERS):
        if share <= p1:
            return f0 + (f1 - f0) * (share - p0) / (p1 - p0)
    return 0.0


def undissolved_sucrose_g(contents: Contents, t_c: float) -> float:
    """Returns the mass of sucrose [g] that the water does not dissolve at `t_c` [0 to 100 °C]; 0 if all dissolves. 52.8 g from 1000 g of 66.667 °Bx at 5 °C.

    Error: that of the saturation. Source: `sucrose_saturation_g_g`, mass balance.
    """
    return max(0.0, contents.of("sucrose") - contents.of("water") * sucrose_saturation_g_g(contents, t_c))
