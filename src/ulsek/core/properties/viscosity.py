"""Viscosity."""

from __future__ import annotations

import itertools
import math

from ..base.messages import Given, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from .bounds import bounded, checked_contents
from .sugar import brix

_MOLE = (1900.0, 18.0)
"""Of x = B/(1900 − 18 B), B in °Bx: proportional to the moles of sucrose per mole of water. Source: Génotelle 1978."""
_GENOTELLE = (22.46, -0.114, 30.0, 91.0, 1.1, 43.1, 1.25)
"""a to g of log₁₀ η = a x + b + (c − t)/(d + t) (e + f x^g) [mPa·s, °C]. Source: Génotelle 1978."""
_ERROR, _ERROR_WITH_SPIRIT = 0.1, 0.3
"""Error of a syrup's viscosity, as a share, without and with alcohol. House judgement."""
_THICK_SHARE, _SPIRIT_SHARE = 0.002, 0.02
"""Mass shares of gum, pectin and pulp, and of alcohol, from which they are counted: below, the syrup's own error is larger. House judgement."""

# Génotelle's formula passes 0 to 3 % above Swindells' points at 20 °C but not at 40 °C: the ratio, read between the points, is let go over 20 K.
_SCALE = ((0.0, 1.0373), (20.0, 0.98882), (30.0, 0.97701), (40.0, 0.97009), (50.0, 0.97381), (60.0, 0.97904), (70.0, 0.99265), (78.0, 1.0))

_SPIRIT_THICKENS = (
    (0.0, 1.0), (0.1, 1.535), (0.2, 2.18), (0.3, 2.70), (0.4, 2.90), (0.5, 2.86), (0.6, 2.66), (0.7, 2.36), (0.8, 2.00), (0.9, 1.60), (1.0, 1.20),
)  # fmt: skip
"""Viscosity of ethanol and water against water at 20 °C by mass fraction of ethanol; handbook values of aqueous solutions, ±2 %. It falls faster with warmth than water's."""


def sucrose_viscosity_mpa_s(brix: float, t_c: float = 20.0) -> float:
    """Dynamic viscosity [mPa·s] of a sucrose solution of `brix` [0 to 78 °Bx] at `t_c` [0 to 80 °C].

    log₁₀ η = 22.46 x − 0.114 + (30 − t)/(91 + t) (1.1 + 43.1 x^1.25), x = B/(1900 − 18 B), scaled to Swindells at 20 °C. Error 1.5 % at 20 °C, 5 % elsewhere.
    15.43 at 50 °Bx. Raises Refusal outside its range. Sources: Génotelle 1978; Swindells 1958.
    """
    if not 0.0 <= brix <= 78.0:
        raise Refusal(message("{brix} °Bx is outside the viscosity formula", brix=Given(brix)), bound=message("it holds from 0 to 78 °Bx"))
    if not 0.0 <= t_c <= 80.0:
        raise Refusal(message("{t} °C is outside the viscosity formula", t=Given(t_c)), bound=message("it holds from 0 to 80 °C"))
    x = brix / (_MOLE[0] - _MOLE[1] * brix)
    a, b, c, d, e, f, g = _GENOTELLE
    # x is proportional to the mole fraction of sucrose, by which the logarithm is nearly straight.
    raw = math.pow(10.0, a * x + b + (c - t_c) / (d + t_c) * (e + f * math.pow(x, g)))
    for (b0, s0), (b1, s1) in itertools.pairwise(_SCALE):
        if brix <= b1:
            scale = s0 + (s1 - s0) * (brix - b0) / (b1 - b0)
            # Full correction at 20 °C, where it was measured, none from 20 K away on.
            return raw * math.pow(scale, max(0.0, 1.0 - abs(t_c - 20.0) / 20.0))
    return raw


def viscosity_mpa_s(contents: Contents, t_c: float = 20.0) -> float:
    """Dynamic viscosity [mPa·s] of a vessel at `t_c` [0 to 80 °C], taken as sucrose of equal °Bx.

    Alcohol thickens the water that it stands in: × its own viscosity against water's at 20 °C. Error 10 % for syrups, 30 % with alcohol, a factor of two
    with gum, pectin or pulp, which thicken far more. 1.0 for water, 2.9 at 40 % w/w of alcohol. Sources: `sucrose_viscosity_mpa_s`; handbook viscosities of
    ethanol and water.
    """
    plain = sucrose_viscosity_mpa_s(brix(contents), t_c)
    water, ethanol = contents.of("water"), contents.of("ethanol")
    if not ethanol:
        return plain
    # Ethanol and water are thickest near 40 % w/w, so a straight mean of both would be far too thin.
    share = ethanol / (ethanol + water)
    for (p0, f0), (p1, f1) in itertools.pairwise(_SPIRIT_THICKENS):
        if share <= p1:
            return plain * (f0 + (f1 - f0) * (share - p0) / (p1 - p0))
    return plain * _SPIRIT_THICKENS[-1][1]


def viscosity_uncertainty(contents: Contents, value: float) -> tuple[float, float]:
    """How far [mPa·s] the viscosity may lie (below, above): 10 %, 30 % with alcohol, upwards as much again with gum, pectin or pulp. Raises Refusal for an
    empty vessel. Source: `viscosity_mpa_s`.
    """
    bounded(value, 0.0, 1e9, "mPa·s", message("a viscosity"))
    mass = checked_contents(contents).mass_g
    if mass <= 0:
        raise Refusal(message("An empty vessel has no viscosity"), remedy=message("Put something in first"))
    thick = contents.total(("gum", "pectin", "insolubles")) / mass > _THICK_SHARE
    # From 2 % w/w on the alcohol's own thickening is more than the error of a syrup.
    own = _ERROR_WITH_SPIRIT if contents.of("ethanol") / mass > _SPIRIT_SHARE else _ERROR
    return own * value, (1.0 if thick else own) * value
