"""pH from a charge balance: what the acids give off and what potassium and sodium have taken."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache

from ..contents import Contents
from ..refusals import Refusal
from ..substances import ACIDS, CATIONS, CITRIC_EQUIVALENT_G, SUBSTANCES, UNVERIFIED_ACIDS
from .density import volume_ml

_A = 0.509
"""Debye–Hückel constant of water at 25 °C [(kg/mol)^½], Davies 1962."""
_KW = 13.995
_LN10 = math.log(10.0)
_CAP, _TOLERANCE = 100, 1e-10
_LOW, _HIGH = -1.0, 14.0
_MODEL = 0.05
"""Half-range of the model for dilute solutions of verified acids, against certified standards."""
_UNVERIFIED = 0.10
_SUGAR_LOWERS = 0.30
"""At 50 °Bx a meter shows about 0.1 to 0.3 less than the balance says: ion activities in thick syrup; house experience."""


def log_gamma(charge: int, strength: float) -> float:
    """log₁₀ of the activity coefficient [-] of an ion of `charge` at ionic `strength` [mol/L], 25 °C: −0.509 z² (√I/(1+√I) − 0.3 I).

    Range to 0.5 mol/L, error 0.03. −0.1070 for z = 1 at I = 0.1. Source: Davies 1962.
    """
    root = math.sqrt(strength)
    return -_A * charge * charge * (root / (1.0 + root) - 0.3 * strength)


def _constants(pka: Sequence[float], strength: float) -> tuple[float, ...]:
    """Cumulative constants β₁, β₂ … in concentrations, H⁺ as an activity: each step's pKa shifted by what its ions lose in activity."""
    found, product = [], 1.0
    for step, value in enumerate(pka, 1):
        product *= 10.0 ** (-value + log_gamma(step - 1, strength) - log_gamma(step, strength))
        found.append(product)
    return tuple(found)


def _charges(h: float, betas: Sequence[float]) -> tuple[float, float, float]:
    """(mean charge given off, its slope by ln h, mean squared charge) per mole of one acid at H⁺ activity `h`."""
    terms, inverse = [1.0], 1.0
    for beta in betas:
        inverse /= h
        terms.append(beta * inverse)
    total = sum(terms)
    mean = sum(n * term for n, term in enumerate(terms)) / total
    square = sum(n * n * term for n, term in enumerate(terms)) / total
    return mean, mean * mean - square, square


def ph_of(acids_mol_l: Mapping[str, float], cation_mol_l: float = 0.0, anion_mol_l: float = 0.0, start: float = 3.0) -> float:
    """pH [-] at 25 °C of acids [mol/L, total] with strong cations and anions [mol/L]: the charges must come out even.

    [H⁺] + cation = anion + Σ Cᵢ n̄ᵢ(h) + [OH⁻], activities after Davies; Newton on pH inside a bracket, ionic strength renewed at each
    round, to 1e-10. Range pH 0 to 13, I to 0.5 mol/L; error 0.05 against certified standards. 6 % citric acid is 1.828.
    Source: electroneutrality; Davies 1962; constants in `substances`.
    """
    if any(amount < 0 for amount in acids_mol_l.values()) or cation_mol_l < 0 or anion_mol_l < 0:
        raise Refusal("A concentration below nothing cannot be", bound="mol per litre are zero or more")
    pkas = [(SUBSTANCES[key].pka, amount) for key, amount in acids_mol_l.items() if amount > 0]
    found, strength = start, max(cation_mol_l, anion_mol_l, 1e-4)
    for _ in range(_CAP):
        found, again = _at_strength(pkas, cation_mol_l, anion_mol_l, strength, found)
        if abs(again - strength) < _TOLERANCE:
            return found
        strength = again
    raise Refusal(
        "The charges do not come out even",
        bound=f"pH {found:.3f}, ionic strength {strength:.3f} mol/L after {_CAP} rounds",
        remedy="Check the acids and the salts",
        code="no_ph",
    )


def _at_strength(
    pkas: Sequence[tuple[tuple[float, ...], float]], cation: float, anion: float, strength: float, start: float
) -> tuple[float, float]:
    """(pH, ionic strength that its species make) at an ionic strength: the charge falls with pH, so Newton inside a bracket finds it."""
    gamma = 10.0 ** log_gamma(1, strength)
    acids = [(_constants(pka, strength), amount) for pka, amount in pkas]
    low, high, ph = _LOW, _HIGH, start
    for _ in range(_CAP):
        h = 10.0**-ph
        free, oh = h / gamma, 10.0 ** (ph - _KW) / gamma
        charge, slope, squares = free + cation - anion - oh, -free - oh, free + cation + anion + oh
        for betas, amount in acids:
            mean, by_ln_h, square = _charges(h, betas)
            charge -= amount * mean
            slope += amount * by_ln_h
            squares += amount * square
        if charge > 0:
            low = ph
        else:
            high = ph
        step = -charge / (slope * _LN10)
        if abs(step) < _TOLERANCE:
            break
        ph = ph + step if low <= ph + step <= high else (low + high) / 2.0
    return ph, squares / 2.0


def _moles_l(contents: Contents) -> tuple[tuple[tuple[str, float], ...], float]:
    litres = volume_ml(contents) / 1000.0
    acids = tuple((key, contents.grams[key] / SUBSTANCES[key].molar_mass / litres) for key in ACIDS if contents.grams.get(key))
    cation = math.fsum(contents.of(key) / SUBSTANCES[key].molar_mass for key in CATIONS) / litres
    return acids, cation


@lru_cache(maxsize=4096)
def _cached(acids: tuple[tuple[str, float], ...], cation: float) -> float:
    return ph_of(dict(acids), cation)


def ph(contents: Contents) -> float:
    """pH [-] of a vessel at 25 °C from its acids and the cations that hold part of them; see `ph_of`. Refuses a vessel in which no acid is known.

    Error 0.05 in dilute solution, up to 0.3 too high at 50 °Bx (`ph_doubt`). Never a measure of sourness: that is titratable acid.
    6 % citric acid is 1.83. Source: `ph_of`, concentrations per litre of solution.
    """
    if volume_ml(contents) <= 0:
        raise Refusal("An empty vessel has no pH", remedy="Put something in first")
    acids, cation = _moles_l(contents)
    if not acids:
        raise Refusal("No acid is known in this vessel, so its pH is not", remedy="Read it with a checked meter", code="no_acid")
    return _cached(acids, cation)


def ph_or_neutral(contents: Contents) -> float:
    """pH [-] where an acid is known, else 7: for paces and hues, which hardly care; never shown as a figure. Source: `ph`."""
    return ph(contents) if contents.total(ACIDS) > 0 else _KW / 2.0


def ph_doubt(contents: Contents, _value: float = 0.0) -> tuple[float, float]:
    """How far [-] the pH may lie (below, above) the balance's figure: the model, unverified constants, and what sugar and alcohol do.

    Downwards 0.3 at 50 °Bx, in proportion; alcohol 0.01 either way per % by weight. Source: house experience, published standards.
    """
    liquid = contents.liquid.mass_g
    acid = contents.total(ACIDS)
    share = contents.total(UNVERIFIED_ACIDS) / acid if acid else 0.0
    solids = math.fsum(g for key, g in contents.grams.items() if SUBSTANCES[key].band == "sugar") / liquid
    spirit = contents.of("ethanol") / liquid
    even = math.hypot(_MODEL, _UNVERIFIED * share, spirit)
    return math.hypot(even, _SUGAR_LOWERS * solids / 0.5), even


def cation_from_ph(acid_split: Mapping[str, float], acid_g_100ml: float, ph_read: float) -> tuple[float, float]:
    """(total acid [mol/L], strong cation [mol/L]) of a juice whose titratable acid [g/100 mL, as citric] and pH were both read.

    Two equations: Σ protons to 8.2 − cation = titration, and the charge balance at the pH read; solved by bisection on the cation to
    1e-9. `acid_split` are shares by mass. Refuses a pH below what the free acid alone would show. 5.5 g/100 mL citric at pH 2.30
    holds 0.040 mol/L cation. Source: electroneutrality, definition of titratable acid.
    """
    titrated = acid_g_100ml * 10.0 / CITRIC_EQUIVALENT_G
    moles = {key: share / SUBSTANCES[key].molar_mass for key, share in acid_split.items() if share > 0}
    total = math.fsum(moles.values())
    protons = math.fsum(m / total * SUBSTANCES[key].molar_mass / SUBSTANCES[key].equivalent_g for key, m in moles.items())

    def balance(cation: float) -> float:
        acid = (titrated + cation) / protons
        return ph_of({key: acid * m / total for key, m in moles.items()}, cation, start=ph_read) - ph_read

    if balance(0.0) > 0.15:
        raise Refusal(
            f"pH {ph_read:.2f} is lower than {acid_g_100ml:.2f} g/100 mL of these acids can give",
            "ph",
            f"free of all salts they would stand at {balance(0.0) + ph_read:.2f}",
            "Rinse and check the meter, or titrate again",
            "readings_disagree",
        )
    low, high = 0.0, 1.0
    for _ in range(60):
        middle = (low + high) / 2.0
        if balance(middle) < 0:
            low = middle
        else:
            high = middle
    cation = (low + high) / 2.0
    return (titrated + cation) / protons, cation
