"""Solubility, and what crystallises in the cold."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..base.messages import Given, Message, listed, message, term
from ..base.refusals import Refusal
from ..chemistry.constants import ETHANOL_G_ML
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES
from .bounds import checked_contents
from .density import liquid_ml
from .ph import _constants, log_gamma, ph_of
from .sugar import sucrose_saturation_g_g

# Grams of anhydrous acid per 100 g water at °C; handbook tables, ±3 % (malic ±20 %, ascorbic ±12 %). Citric below 36 °C over its monohydrate.
_ACIDS: Mapping[str, tuple[tuple[float, float], ...]] = {
    "citric_acid": ((0, 97), (10, 117), (20, 145), (30, 180), (40, 218), (50, 244)),
    "malic_acid": ((0, 95), (10, 110), (20, 130), (30, 152), (40, 178), (50, 208)),
    "tartaric_acid": ((0, 115), (10, 126), (20, 139), (30, 156), (40, 176), (50, 195)),
    "ascorbic_acid": ((0, 19), (10, 24), (20, 30), (30, 38), (40, 47), (50, 57)),
    "succinic_acid": ((0, 2.8), (10, 4.5), (20, 6.9), (30, 10.6), (40, 16.2), (50, 24.4)),
    "oxalic_acid": ((0, 3.5), (10, 6.1), (20, 9.5), (30, 14.2), (40, 21.5), (50, 31.4)),
}
# Grams per 100 g water at °C: salt ±0.5 %; sugar alcohols and allulose from makers' and handbook values, ±10 % (erythritol and isomalt ±25 %, which are printed
# per 100 g of water and per 100 g of solution in turn); trisodium citrate as the anhydrous salt, ±10 %.
_OTHERS: Mapping[str, tuple[tuple[float, float], ...]] = {
    "sodium_chloride": ((0, 35.7), (10, 35.8), (20, 35.9), (30, 36.1), (40, 36.4), (50, 36.9)),
    "erythritol": ((0, 18), (10, 26), (20, 37), (30, 52), (40, 75), (50, 105)),
    "xylitol": ((0, 115), (10, 138), (20, 169), (30, 217), (40, 290), (50, 400)),
    "sorbitol": ((0, 150), (10, 183), (20, 220), (30, 270), (40, 340), (50, 440)),
    "isomalt": ((0, 15), (10, 22), (20, 32.5), (30, 48), (40, 72), (50, 105)),
    "allulose": ((0, 180), (10, 220), (20, 270), (30, 330), (40, 400), (50, 500)),
    "trisodium_citrate": ((0, 40), (10, 47), (20, 54), (30, 62), (40, 70), (50, 80)),
}
SOLUBILITY_ERROR: Mapping[str, float] = {
    "malic_acid": 0.20,
    "ascorbic_acid": 0.12,
    "erythritol": 0.25,
    "isomalt": 0.25,
    "sodium_chloride": 0.01,
}
"""Relative error of the tables where it is not 3 % (acids) or 10 % (sugar alcohols)."""
# Cream of tartar [g per 100 g water], ±10 %; read with the same activity model into a product of activities.
_BITARTRATE = ((0, 0.30), (5, 0.335), (10, 0.40), (15, 0.465), (20, 0.54), (25, 0.65), (30, 0.78), (40, 1.10), (50, 1.60))
_SPIRIT_LOWERS = 0.052
"""Cream of tartar's solubility falls by exp(−0.052) per % vol of alcohol; ±0.01 (fitted to published tables for wine, 0 to 20 % vol)."""
_GLUCOSE = (34.9, 0.63)
"""Glucose over its monohydrate: 34.9 + 0.63 t % w/w, 0 to 50 °C, ±1.5 (handbook values)."""
_BITARTRATE_G_MOL, _CITRATE_G_MOL = 188.177, 258.07
"""Molar masses of potassium hydrogen tartrate and of anhydrous trisodium citrate [g/mol]. Source: IUPAC atomic weights."""
_NEUTRAL_FROM = 2.5
"""Moles of sodium per mole of citric acid from which mostly the trisodium salt is there. House judgement."""
_MOST_ABV = 40.0
"""Strength [% vol] to which cream of tartar's fall with alcohol is used; fitted to 20 % vol, an extrapolation beyond."""
_COLDEST, _HOTTEST = 0.0, 50.0


def _between(points: tuple[tuple[float, float], ...], t_c: float) -> float:
    for (t0, s0), (t1, s1) in itertools.pairwise(points):
        if t_c <= t1:
            # Solubility grows by a factor per kelvin, so between two points its logarithm is straight.
            return s0 * math.pow(s1 / s0, (t_c - t0) / (t1 - t0))
    return points[-1][1]


def _bounded(t_c: float, what: Message) -> None:
    if not _COLDEST <= t_c <= _HOTTEST:
        raise Refusal(
            message("{t} °C is outside the solubility table of {what}", t=Given(t_c), what=what),
            bound=message("it holds from 0 to 50 °C"),
            remedy=message("Choose a temperature inside it"),
        )


def acid_solubility_g_100g(acid: str, t_c: float) -> float:
    """Returns the mass of an acid that 100 g of water dissolve [g/100 g] at `t_c` [0 to 50 °C], error 3 % (malic 20 %, ascorbic 12 %).

    145 of citric at 20 °C. Raises Refusal for liquid acids, which mix in any amount. Source: handbook tables, interpolated.
    """
    if acid not in _ACIDS and acid in SUBSTANCES:
        raise Refusal(
            message("{replace:capital} mixes with water in any amount, or its solubility is not known", replace=acid.replace("_", " ")),
            bound=message("known: {acids}", acids=listed(_ACIDS, "comma")),
        )
    return solubility_g_100g(acid, t_c)


def solubility_g_100g(substance: str, t_c: float) -> float:
    """Returns the mass of an acid, a salt, a sugar alcohol or allulose that 100 g of water dissolve [g/100 g] at `t_c` [0 to 50 °C]; error as in
    `SOLUBILITY_ERROR`.

    35.9 of salt, 169 of xylitol at 20 °C. Raises Refusal for a substance without a table. Source: handbook tables, interpolated.
    """
    table = _ACIDS.get(substance) or _OTHERS.get(substance)
    if table is None:
        raise Refusal(
            message("The solubility of “{substance}” is in no table here", substance=substance),
            bound=message("known: {names}", names=listed((*_ACIDS, *_OTHERS), "comma")),
            code="unknown_substance",
        )
    _bounded(t_c, term(SUBSTANCES[substance].name) if substance in SUBSTANCES else message("trisodium citrate"))
    return _between(table, t_c)


def bitartrate_solubility_g_100g(t_c: float, abv: float = 0.0) -> float:
    """Cream of tartar [g/100 g water] that dissolves at `t_c` [0 to 50 °C] and `abv` [0 to 40 % vol], error 10 %. 0.54 at 20 °C.

    Raises Refusal outside its range. Source: handbook table; fall with alcohol fitted to published tables for wine.
    """
    _bounded(t_c, message("cream of tartar"))
    if not 0.0 <= abv <= _MOST_ABV:
        raise Refusal(
            message("{abv} % vol is outside the table of cream of tartar", abv=Given(abv)), bound=message("it holds from 0 to 40 % vol")
        )
    return _between(_BITARTRATE, t_c) * math.exp(-_SPIRIT_LOWERS * abv)


@dataclass(frozen=True, slots=True)
class Crystals:
    """A solid that may crystallise at a temperature: its mass [g], how certain that is, and what to do."""

    substance: str
    name: str
    mass_g: float
    remedy: Message


def _ionic_product(potassium: float, acids: Mapping[str, float], other_cation: float) -> float:
    """Activity product of K⁺ and hydrogen tartrate [mol²/L²] in a solution, 25 °C constants."""
    ph = ph_of(acids, potassium + other_cation)
    h = 10.0**-ph
    # Every charge is met by one of the other sign, so the ionic strength is that of one side.
    strength = potassium + other_cation + h
    betas = _constants(SUBSTANCES["tartaric_acid"].pka, strength)
    # Share of the tartaric acid that has lost exactly one proton: only hydrogen tartrate crystallises.
    first = betas[0] / h
    share = first / (1.0 + first + betas[1] / h / h)
    # γ² since both ions of the crystal are singly charged.
    return float(potassium * acids.get("tartaric_acid", 0.0) * share * math.pow(10.0, 2.0 * log_gamma(1, strength)))


def bitartrate_crystals_g(contents: Contents, t_c: float) -> float:
    """Returns the mass of cream of tartar [g] that crystallises at `t_c` [0 to 50 °C] in time: potassium and tartrate beyond their solubility product.

    The product is that of a saturated solution in water (and alcohol) with the same activity model; by bisection to 1e-6 g. Sugar and cold delay it by days: it
    may crystallise, it need not. Error 20 %. Source: mass action, `bitartrate_solubility_g_100g`.
    """
    _bounded(t_c, message("cream of tartar"))
    potassium, tartaric = (checked_contents(contents).of(key) / SUBSTANCES[key].molar_mass for key in ("potassium", "tartaric_acid"))
    # One potassium to one tartrate: the scarcer of the two bounds what can crystallise.
    most = min(potassium, tartaric)
    if most <= 0:
        return 0.0
    litres = liquid_ml(contents) / 1000.0
    # % vol of the solution, which is what the published tables for wine are given by.
    strength = 100.0 * contents.of("ethanol") / ETHANOL_G_ML / liquid_ml(contents)
    # The limit is the product of a saturated solution in the same solvent under the same model, so errors of the model cancel.
    saturated_mol_l = bitartrate_solubility_g_100g(t_c, min(_MOST_ABV, strength)) * 10.0 / _BITARTRATE_G_MOL
    limit = _ionic_product(saturated_mol_l, {"tartaric_acid": saturated_mol_l}, 0.0)
    acids = {key: contents.of(key) / SUBSTANCES[key].molar_mass / litres for key in SUBSTANCES if SUBSTANCES[key].pka and contents.of(key)}
    sodium = contents.of("sodium") / SUBSTANCES["sodium"].molar_mass / litres

    def over(gone: float) -> float:
        # Crystals take both ions; pH and the share that is hydrogen tartrate shift with each gram that leaves.
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
    return (low + high) / 2.0 * _BITARTRATE_G_MOL


_LEAST_SOLUBLE = {key: table[0][1] / 100.0 for key, table in (*_ACIDS.items(), *_OTHERS.items()) if key in SUBSTANCES}


def may_stay_undissolved(contents: Contents) -> bool:
    """Returns True if any acid, salt or sugar alcohol is more than ice-cold water dissolves [g/g]: a quick check before `crystals`. Source: the same tables."""
    water = checked_contents(contents).of("water")
    return any(grams > water * _LEAST_SOLUBLE[key] for key, grams in contents.grams.items() if key in _LEAST_SOLUBLE)


def _citrate_g(contents: Contents) -> float:
    """Returns the trisodium citrate [g] that citric acid and sodium form if the acid is nearly neutralised; its acid salts are far more soluble."""
    sodium, citric = (contents.of(key) / SUBSTANCES[key].molar_mass for key in ("sodium", "citric_acid"))
    # With less sodium acid salts hold the citrate in solution.
    return _CITRATE_G_MOL * min(sodium / 3.0, citric) if citric and sodium > _NEUTRAL_FROM * citric else 0.0


def crystals(contents: Contents, t_c: float) -> tuple[Crystals, ...]:
    """Returns what crystallises at `t_c` [0 to 50 °C] in time: sucrose, glucose, acids, salts, sugar alcohols, cream of tartar, each in grams.

    Empty if everything stays dissolved. 52.8 g of sucrose from 1000 g of 66.67 °Bx at 5 °C. Sources: `sucrose_saturation_g_g`, `solubility_g_100g`,
    `bitartrate_crystals_g`; glucose 34.9 + 0.63 t % w/w, handbook values, error 5 %.
    """
    _bounded(t_c, message("this vessel"))
    water = checked_contents(contents).of("water")
    found: list[Crystals] = []

    def add(key: str, name: str, grams: float, remedy: Message) -> None:
        # Less than a millionth is rounding, not a crystal.
        if grams > 1e-6 * contents.mass_g:
            found.append(Crystals(key, name, grams, remedy))

    add(
        "sucrose",
        "sugar",
        contents.of("sucrose") - water * sucrose_saturation_g_g(contents, t_c),
        message("More water, or part of the sugar as glucose or invert syrup"),
    )
    # Each solid is judged by the water alone; that others share it matters for sucrose, which has its own formula.
    limit = (_GLUCOSE[0] + _GLUCOSE[1] * t_c) / 100.0
    add("glucose", "glucose", contents.of("glucose") - water * limit / (1.0 - limit), message("Swap part of it for fructose or sucrose"))
    for acid in _ACIDS:
        if contents.of(acid):
            add(
                acid,
                SUBSTANCES[acid].name,
                contents.of(acid) - water * acid_solubility_g_100g(acid, t_c) / 100.0,
                message("Make it weaker, or keep it warmer"),
            )
    for key in ("sodium_chloride", "erythritol", "xylitol", "sorbitol", "isomalt", "allulose"):
        if contents.of(key):
            grams = contents.of(key) - water * solubility_g_100g(key, t_c) / 100.0
            add(key, SUBSTANCES[key].name, grams, message("More water, or less of it"))
    add(
        "trisodium_citrate",
        "sodium citrate",
        _citrate_g(contents) - water * solubility_g_100g("trisodium_citrate", t_c) / 100.0,
        message("More water"),
    )
    add(
        "potassium_bitartrate",
        "cream of tartar",
        bitartrate_crystals_g(contents, t_c),
        message("Chill it first and rack it off the crystals, or warm it to bring them back"),
    )
    return tuple(found)
