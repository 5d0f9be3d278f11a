"""What dissolves, and what comes out again in the cold."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..contents import Contents
from ..refusals import Refusal
from ..substances import SUBSTANCES
from .density import volume_ml
from .ph import _constants, log_gamma, ph_of
from .sugar import saturation_brix

_INVERT_DISPLACES = 0.15
"""Each gram of glucose and fructose per gram of water lowers what sucrose dissolves by so much [g/g]; 0 to 0.35, house experience."""
# Grams of anhydrous acid per 100 g water at °C; handbook tables, ±3 % (malic ±20 %, ascorbic ±12 %). Citric below 36 °C over its monohydrate.
_ACIDS: Mapping[str, tuple[tuple[float, float], ...]] = {
    "citric_acid": ((0, 97), (10, 117), (20, 145), (30, 180), (40, 218), (50, 244)),
    "malic_acid": ((0, 95), (10, 110), (20, 130), (30, 152), (40, 178), (50, 208)),
    "tartaric_acid": ((0, 115), (10, 126), (20, 139), (30, 156), (40, 176), (50, 195)),
    "ascorbic_acid": ((0, 19), (10, 24), (20, 30), (30, 38), (40, 47), (50, 57)),
    "succinic_acid": ((0, 2.8), (10, 4.5), (20, 6.9), (30, 10.6), (40, 16.2), (50, 24.4)),
    "oxalic_acid": ((0, 3.5), (10, 6.1), (20, 9.5), (30, 14.2), (40, 21.5), (50, 31.4)),
}
# Cream of tartar [g per 100 g water], ±10 %; read with the same activity model into a product of activities.
_BITARTRATE = ((0, 0.30), (5, 0.335), (10, 0.40), (15, 0.465), (20, 0.54), (25, 0.65), (30, 0.78), (40, 1.10), (50, 1.60))
_SPIRIT_LOWERS = 0.052
"""Cream of tartar's solubility falls by exp(−0.052) per % vol of alcohol; ±0.01 (fitted to published tables for wine, 0 to 20 % vol)."""
_GLUCOSE = (34.9, 0.63)
"""Glucose over its monohydrate: 34.9 + 0.63 t % w/w, 0 to 50 °C, ±1.5 (handbook values)."""
_COLDEST, _HOTTEST = 0.0, 50.0


def _between(points: tuple[tuple[float, float], ...], t_c: float) -> float:
    for (t0, s0), (t1, s1) in itertools.pairwise(points):
        if t_c <= t1:
            return s0 * math.pow(s1 / s0, (t_c - t0) / (t1 - t0))
    return points[-1][1]


def _bounded(t_c: float, what: str) -> None:
    if not _COLDEST <= t_c <= _HOTTEST:
        raise Refusal(
            f"{t_c:g} °C is outside the solubility table of {what}",
            bound="it holds from 0 to 50 °C",
            remedy="Choose a temperature inside it",
        )


def acid_solubility_g_100g(acid: str, t_c: float) -> float:
    """Grams of an acid that 100 g of water hold [g/100 g] at `t_c` [0 to 50 °C], error 3 % (malic 20 %, ascorbic 12 %).

    145 of citric at 20 °C. Liquid acids mix in any amount and are refused. Source: handbook tables, read between their points.
    """
    if acid not in _ACIDS:
        raise Refusal(
            f"{acid.replace('_', ' ').capitalize()} mixes with water in any amount, or its solubility is not known",
            bound=f"known: {', '.join(_ACIDS)}",
        )
    _bounded(t_c, SUBSTANCES[acid].name)
    return _between(_ACIDS[acid], t_c)


def sucrose_saturation_g_g(contents: Contents, t_c: float) -> float:
    """Grams of sucrose per gram of water [g/g] that dissolve at `t_c` [0 to 100 °C] beside the glucose and fructose present.

    Pure: Vavrinecz, error 0.3 °Bx. Beside invert sugar the sucrose falls by 0.15 g per g of invert in a g of water, the total rises;
    error 3 % of the total. 1.994 at 20 °C without invert. Source: Vavrinecz 1962; house experience for invert.
    """
    limit = saturation_brix(t_c) / 100.0
    water = contents.of("water")
    invert = (contents.of("glucose") + contents.of("fructose")) / water if water else 0.0
    return max(0.0, limit / (1.0 - limit) - _INVERT_DISPLACES * invert)


def bitartrate_solubility_g_100g(t_c: float, abv: float = 0.0) -> float:
    """Cream of tartar [g/100 g water] that dissolves at `t_c` [0 to 50 °C] and `abv` [0 to 40 % vol], error 10 %. 0.54 at 20 °C.

    Source: handbook table; fall with alcohol fitted to published tables for wine.
    """
    _bounded(t_c, "cream of tartar")
    if not 0.0 <= abv <= 40.0:
        raise Refusal(f"{abv:g} % vol is outside the table of cream of tartar", bound="it holds from 0 to 40 % vol")
    return _between(_BITARTRATE, t_c) * math.exp(-_SPIRIT_LOWERS * abv)


@dataclass(frozen=True, slots=True)
class Crystals:
    """What may come out at a temperature: grams of one solid, how sure, and what to do."""

    substance: str
    name: str
    mass_g: float
    remedy: str


def _ionic_product(potassium: float, acids: Mapping[str, float], other_cation: float) -> float:
    """Activity product of K⁺ and hydrogen tartrate [mol²/L²] in a solution, 25 °C constants."""
    ph = ph_of(acids, potassium + other_cation)
    h = 10.0**-ph
    strength = potassium + other_cation + h
    betas = _constants(SUBSTANCES["tartaric_acid"].pka, strength)
    first = betas[0] / h
    share = first / (1.0 + first + betas[1] / h / h)
    return float(potassium * acids.get("tartaric_acid", 0.0) * share * math.pow(10.0, 2.0 * log_gamma(1, strength)))


def bitartrate_crystals_g(contents: Contents, t_c: float) -> float:
    """Grams of cream of tartar that come out at `t_c` [0 to 50 °C] when it has had time: potassium and tartrate beyond their product.

    The product is that of a saturated solution in water (and alcohol) with the same activity model; found by bisection to 1e-6 g.
    Sugar and cold slow it by days: an amount that may come, not one that must. Error 20 %. Source: mass action, `bitartrate_solubility_g_100g`.
    """
    potassium, tartaric = contents.of("potassium") / 39.098, contents.of("tartaric_acid") / 150.087
    most = min(potassium, tartaric)
    if most <= 0:
        return 0.0
    litres = volume_ml(contents) / 1000.0
    strength = 100.0 * contents.of("ethanol") / 0.78924 / volume_ml(contents)
    alone = bitartrate_solubility_g_100g(t_c, min(40.0, strength)) * 10.0 / 188.177
    limit = _ionic_product(alone, {"tartaric_acid": alone}, 0.0)
    acids = {key: contents.of(key) / SUBSTANCES[key].molar_mass / litres for key in SUBSTANCES if SUBSTANCES[key].pka and contents.of(key)}
    sodium = contents.of("sodium") / 22.990 / litres

    def over(gone: float) -> float:
        left = {**acids, "tartaric_acid": acids["tartaric_acid"] - gone / litres}
        return _ionic_product((potassium - gone) / litres, left, sodium) - limit

    if over(0.0) <= 0:
        return 0.0
    low, high = 0.0, most * (1.0 - 1e-9)
    for _ in range(60):
        middle = (low + high) / 2.0
        if over(middle) > 0:
            low = middle
        else:
            high = middle
    return (low + high) / 2.0 * 188.177


def crystals(contents: Contents, t_c: float) -> tuple[Crystals, ...]:
    """What crystallises at `t_c` [0 to 50 °C] when it stands long enough: sucrose, glucose, acids, cream of tartar, each in grams.

    Empty when all stays dissolved. 52.8 g of sucrose from 1000 g of 66.67 °Bx at 5 °C. Sources: `sucrose_saturation_g_g`, `acid_solubility_g_100g`,
    `bitartrate_crystals_g`; glucose 34.9 + 0.63 t % w/w, handbook values, error 5 %.
    """
    _bounded(t_c, "this vessel")
    water = contents.of("water")
    found: list[Crystals] = []

    def add(key: str, name: str, grams: float, remedy: str) -> None:
        if grams > 1e-6 * contents.mass_g:
            found.append(Crystals(key, name, grams, remedy))

    add(
        "sucrose",
        "sugar",
        contents.of("sucrose") - water * sucrose_saturation_g_g(contents, t_c),
        "More water, or part of the sugar as glucose or invert syrup",
    )
    limit = (_GLUCOSE[0] + _GLUCOSE[1] * t_c) / 100.0
    add("glucose", "glucose", contents.of("glucose") - water * limit / (1.0 - limit), "Swap part of it for fructose or sucrose")
    for acid in _ACIDS:
        if contents.of(acid):
            add(
                acid,
                SUBSTANCES[acid].name,
                contents.of(acid) - water * acid_solubility_g_100g(acid, t_c) / 100.0,
                "Make it weaker, or keep it warmer",
            )
    add(
        "potassium_bitartrate",
        "cream of tartar",
        bitartrate_crystals_g(contents, t_c),
        "Chill it first and rack it off the crystals, or warm it to bring them back",
    )
    return tuple(found)
