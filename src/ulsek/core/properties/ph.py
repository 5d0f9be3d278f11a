"""pH from a charge balance of acids and strong cations."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from functools import lru_cache

from ..base.messages import Computed, Given, listed, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, CATIONS, CITRIC_EQUIVALENT_G, SUBSTANCES, UNVERIFIED_ACIDS
from .bounds import bounded, checked_contents, is_solution
from .density import volume_ml

_A = 0.509
"""Debye–Hückel constant of water at 25 °C [(kg/mol)^½], Davies 1962."""
_KW = 13.995
_LN10 = math.log(10.0)
_MOST_MOL_L, _LEAST_ML = 40.0, 1e-9
_CAP, _TOLERANCE = 100, 1e-10
_LOW, _HIGH = -1.0, 14.0
_MOST_IONIC = 3.0
"""Past this ionic strength [mol/L] nothing is answered: the formula is one for thin solutions."""
_MODEL = ((0.0, 0.05), (0.1, 0.05), (0.5, 0.12), (_MOST_IONIC, 1.0))
"""Half-range [pH] of the model for verified acids by ionic strength [mol/L]: certified standards to 0.1; beyond, ion pairs and the activities of ions of charge 2 and 3,
of which Davies's formula says less and less; house judgement."""
_UNVERIFIED = 0.10
_SUGAR_LOWERS = 0.30
"""At 50 °Bx a meter shows about 0.1 to 0.3 less than the balance says: ion activities in thick syrup; house experience."""


def log_gamma(charge: int, strength: float) -> float:
    """log₁₀ of the activity coefficient [-] of an ion of `charge` at ionic `strength` [mol/L], 25 °C: −0.509 z² (√I/(1+√I) − 0.3 I).

    Range to 0.5 mol/L, error 0.03; beyond only as a figure. −0.1070 for z = 1 at I = 0.1. Source: Davies 1962.
    """
    root = math.sqrt(bounded(strength, 0.0, 1e3, "mol/L", message("an ionic strength")))
    return -_A * charge * charge * (root / (1.0 + root) - 0.3 * strength)


def _constants(pka: Sequence[float], strength: float) -> tuple[float, ...]:
    """Returns the cumulative constants β₁, β₂ … in concentrations, H⁺ as an activity: the pKa of each step shifted by the activity of its ions."""
    found, product = [], 1.0
    for step, value in enumerate(pka, 1):
        # The thermodynamic constant holds for activities; concentrations shift it by the charges before and after the step.
        product *= 10.0 ** (-value + log_gamma(step - 1, strength) - log_gamma(step, strength))
        found.append(product)
    return tuple(found)


def _charges(h: float, betas: Sequence[float]) -> tuple[float, float, float]:
    """Returns (mean charge, its slope by ln h, mean squared charge) per mole of one acid at H⁺ activity `h`."""
    terms, inverse = [1.0], 1.0
    for beta in betas:
        inverse /= h
        terms.append(beta * inverse)
    total = sum(terms)
    # Mean number of protons lost; its slope by ln h is minus the variance of that number.
    mean = sum(n * term for n, term in enumerate(terms)) / total
    square = sum(n * n * term for n, term in enumerate(terms)) / total
    return mean, mean * mean - square, square


def ph_of(acids_mol_l: Mapping[str, float], cation_mol_l: float = 0.0, anion_mol_l: float = 0.0, start: float = 3.0) -> float:
    """Returns the pH [-] at 25 °C of acids [mol/L, total] with strong cations and anions [mol/L], by electroneutrality.

    [H⁺] + cation = anion + Σ Cᵢ n̄ᵢ(h) + [OH⁻], activities after Davies; Newton's method on pH inside a bracket, ionic strength updated at each round, to
    1e-10. Range pH −1 to 14, I to 3 mol/L; error 0.05 against certified standards to I = 0.1, 0.12 at 0.5, 1 at 3. 6 % citric acid is 1.828. Raises Refusal for
    a pH out of range, and for more cation than acid and anion can balance. Source: electroneutrality; Davies 1962; constants in `substances`.
    """
    return balanced(acids_mol_l, cation_mol_l, anion_mol_l, start)[0]


def balanced(
    acids_mol_l: Mapping[str, float], cation_mol_l: float = 0.0, anion_mol_l: float = 0.0, start: float = 3.0
) -> tuple[float, float]:
    """Returns (pH [-], ionic strength [mol/L]) of the balance in `ph_of`, with its range and error. 6 % citric acid: 1.828 and 0.017. Raises Refusal as `ph_of`
    does. Source: `ph_of`.
    """
    for amount in (*acids_mol_l.values(), cation_mol_l, anion_mol_l):
        bounded(amount, 0.0, _MOST_MOL_L, "mol/L", message("a concentration"))
    bounded(start, _LOW, _HIGH, "", message("a pH to start from"))
    unknown = next((key for key in acids_mol_l if key not in ACIDS), None)
    if unknown is not None:
        raise Refusal(
            message("“{unknown}” is no acid that Ulsek knows", unknown=unknown),
            bound=message("it knows {acids}", acids=listed(ACIDS, "comma")),
            code="unknown_substance",
        )
    # Even fully ionised acids cannot balance more cation than this; the rest would have to be hydroxide.
    capacity = math.fsum(amount * len(SUBSTANCES[key].pka) for key, amount in acids_mol_l.items())
    if cation_mol_l > capacity + anion_mol_l + 1e-9 + 1e-6 * cation_mol_l:
        raise Refusal(
            message(
                "{cation_mol_l} mol/L of potassium and sodium are more than the acids can hold", cation_mol_l=Given(cation_mol_l, digits=3)
            ),
            "ph",
            message("they can hold {capacity} mol/L", capacity=Given(capacity + anion_mol_l, digits=3)),
            message("Read it with a checked meter: what else holds them is not known here"),
            "no_ph",
        )
    pkas = [(SUBSTANCES[key].pka, amount) for key, amount in acids_mol_l.items() if amount > 0]
    # Ionic strength depends on pH and pH on ionic strength: each round uses the other's last value.
    found, strength = start, max(cation_mol_l, anion_mol_l, 1e-4)
    for _ in range(_CAP):
        found, again = _at_strength(pkas, cation_mol_l, anion_mol_l, strength, found)
        if again > _MOST_IONIC or not _LOW + 1e-6 < found < _HIGH - 1e-6:
            raise Refusal(
                message("So strong or so salty a liquid has a pH that cannot be worked out"),
                "ph",
                message(
                    "ionic strength {strength} mol/L; the sum holds to {most}",
                    strength=Given(again, digits=2),
                    most=Given(_MOST_IONIC),
                ),
                message("Thin it and read it with a checked meter"),
                "no_ph",
            )
        if abs(again - strength) < _TOLERANCE:
            return found, again
        strength = again
    raise Refusal(
        message("The charges do not come out even"),
        bound=message(
            "pH {found}, ionic strength {strength} mol/L after {cap} rounds",
            found=Computed(found, decimals=3),
            strength=Computed(strength, decimals=3),
            cap=_CAP,
        ),
        remedy=message("Check the acids and the salts"),
        code="no_ph",
    )


def _at_strength(
    pkas: Sequence[tuple[tuple[float, ...], float]], cation: float, anion: float, strength: float, start: float
) -> tuple[float, float]:
    """Returns (pH, ionic strength of its species) at an assumed ionic strength: the charge falls with pH, so Newton's method inside a bracket finds it."""
    gamma = 10.0 ** log_gamma(1, strength)
    acids = [(_constants(pka, strength), amount) for pka, amount in pkas]
    low, high, ph = _LOW, _HIGH, start
    for _ in range(_CAP):
        h = 10.0**-ph
        # Acidity is an activity and charges are counted in concentrations: hence the division by γ.
        free, oh = h / gamma, 10.0 ** (ph - _KW) / gamma
        charge, slope, squares = free + cation - anion - oh, -free - oh, free + cation + anion + oh
        for betas, amount in acids:
            mean, by_ln_h, square = _charges(h, betas)
            charge -= amount * mean
            slope += amount * by_ln_h
            squares += amount * square
        # Too much positive charge means too low a pH; the bracket keeps Newton from leaving the range.
        if charge > 0:
            low = ph
        else:
            high = ph
        # The slope is by ln h; pH is −log₁₀ h.
        step = -charge / (slope * _LN10)
        if abs(step) < _TOLERANCE:
            break
        ph = ph + step if low <= ph + step <= high else (low + high) / 2.0
    # I = ½ Σ c z².
    return ph, squares / 2.0


def _moles_l(contents: Contents) -> tuple[tuple[tuple[str, float], ...], float, float]:
    """Returns (acids, strong cations, strong anions) [mol/L]: salt adds as much to both and raises the ionic strength."""
    # Per litre of solution, as published constants of juices are; sugar raises it by displacing water.
    litres = volume_ml(contents) / 1000.0
    acids = tuple((key, contents.grams[key] / SUBSTANCES[key].molar_mass / litres) for key in ACIDS if contents.grams.get(key))
    cation = math.fsum(contents.of(key) / SUBSTANCES[key].molar_mass for key in CATIONS) / litres
    salt = contents.of("sodium_chloride") / SUBSTANCES["sodium_chloride"].molar_mass / litres
    return acids, cation + salt, salt


@lru_cache(maxsize=4096)
def _cached(acids: tuple[tuple[str, float], ...], cation: float, anion: float) -> tuple[float, float]:
    return balanced(dict(acids), cation, anion)


def _balance_of(contents: Contents) -> tuple[float, float]:
    """Returns (pH, ionic strength) of a vessel. Raises Refusal if it is empty or dry, and if no acid is known."""
    if volume_ml(checked_contents(contents)) < _LEAST_ML:
        raise Refusal(message("An empty vessel has no pH"), remedy=message("Put something in first"))
    if not is_solution(contents):
        raise Refusal(message("Without water there is no pH"), remedy=message("Put water or juice in first"), code="no_water")
    acids, cation, anion = _moles_l(contents)
    if not acids:
        raise Refusal(
            message("No acid is known in this vessel, so its pH is not"), remedy=message("Read it with a checked meter"), code="no_acid"
        )
    # Steps that only move liquid leave its concentrations as they were: the cache answers those.
    return _cached(acids, cation, anion)


def ph(contents: Contents) -> float:
    """Returns the pH [-] of a vessel at 25 °C from its acids and the cations that bind part of them; see `ph_of`.

    Error 0.05 in dilute solution, up to 0.3 too high at 50 °Bx (`ph_uncertainty`). It is no measure of sourness: that is titratable acid. 6 % citric acid is
    1.83. Raises Refusal for a vessel in which no acid is known. Source: `ph_of`, concentrations per litre of solution.
    """
    return _balance_of(contents)[0]


def ionic_strength(contents: Contents) -> float:
    """Returns the ionic strength [mol/L] of a vessel at its own pH; the balance holds to 0.1, with a growing error beyond. 0.017 in 6 % citric acid. Source:
    `ph_of`.
    """
    return _balance_of(contents)[1]


def ph_or_neutral(contents: Contents) -> float:
    """Returns the pH [-] if it can be computed, else 7: for rates and hues, which depend on it little; never shown as a figure. Source: `ph`."""
    try:
        # pH 7 from the ionic product, for a vessel in which no acid is known.
        return ph(contents) if checked_contents(contents).total(ACIDS) > 0 else _KW / 2.0
    except Refusal as refusal:
        if refusal.code not in ("no_ph", "no_water"):
            raise
        return _KW / 2.0


def ph_uncertainty(contents: Contents, _value: float = 0.0) -> tuple[float, float]:
    """Uncertainty of `ph` as (below, above) [pH], from the model by ionic strength, unverified constants, sugar and alcohol. Raises Refusal as `ph` does.

    Downwards 0.3 at 50 °Bx, in proportion; alcohol 0.01 either way per % by weight; 0.12 at an ionic strength of 0.5 mol/L and 1 at 3. Source: house
    experience, published standards.
    """
    strength, liquid = ionic_strength(contents), contents.solution.mass_g
    model = next(
        (d0 + (d1 - d0) * (strength - i0) / (i1 - i0) for (i0, d0), (i1, d1) in itertools.pairwise(_MODEL) if strength <= i1), _MODEL[-1][1]
    )
    acid = contents.total(ACIDS)
    share = contents.total(UNVERIFIED_ACIDS) / acid if acid else 0.0
    solids = math.fsum(g for key, g in contents.grams.items() if SUBSTANCES[key].band == "sugar") / liquid
    spirit = contents.of("ethanol") / liquid
    # Independent sources of error: they add in squares.
    even = math.hypot(model, _UNVERIFIED * share, spirit)
    # Thick syrup only lowers what a meter shows, so it widens the range on one side.
    return math.hypot(even, _SUGAR_LOWERS * solids / 0.5), even


def cation_from_ph(acid_split: Mapping[str, float], acid_g_100ml: float, ph_read: float) -> tuple[float, float]:
    """Returns (total acid [mol/L], strong cation [mol/L]) of a juice whose titratable acid [g/100 mL, as citric] and pH were both read.

    Two equations: Σ protons to 8.2 − cation = titration, and the charge balance at the pH read; solved by bisection on the cation to 1e-9. `acid_split` are
    shares by mass. 5.5 g/100 mL citric at pH 2.30 holds 0.040 mol/L cation. Raises Refusal for a pH below that of the free acid alone. Source:
    electroneutrality, definition of titratable acid.
    """
    bounded(acid_g_100ml, 0.0, 60.0, "g/100 mL", message("titratable acid"))
    bounded(ph_read, 0.0, 13.0, "", message("a pH reading"))
    for key, share in acid_split.items():
        if key not in ACIDS:
            raise Refusal(
                message("“{key}” is no acid that Ulsek knows", key=key),
                bound=message("it knows {acids}", acids=listed(ACIDS, "comma")),
                code="unknown_substance",
            )
        bounded(share, 0.0, 1e6, "", message("the share of {substances}", substances=SUBSTANCES[key].name))
    # g per 100 mL to g per L, then to moles of protons.
    titrated = acid_g_100ml * 10.0 / CITRIC_EQUIVALENT_G
    moles = {key: share / SUBSTANCES[key].molar_mass for key, share in acid_split.items() if share > 0}
    total = math.fsum(moles.values())
    if not math.isfinite(total) or total <= 0:
        raise Refusal(message("A split needs an acid"), "acid_split", remedy=message("Say which acids the juice holds"))
    protons = math.fsum(m / total * SUBSTANCES[key].molar_mass / SUBSTANCES[key].equivalent_g for key, m in moles.items())

    def balance(cation: float) -> float:
        # Each cation has taken a proton's place, which titration therefore does not find.
        acid = (titrated + cation) / protons
        return ph_of({key: acid * m / total for key, m in moles.items()}, cation, start=ph_read) - ph_read

    # More than a checked meter errs: the two readings contradict each other.
    if balance(0.0) > 0.15:
        raise Refusal(
            message(
                "pH {ph_read} is lower than {acid_g_100ml} g/100 mL of these acids can give",
                ph_read=Computed(ph_read, decimals=2),
                acid_g_100ml=Computed(acid_g_100ml, decimals=2),
            ),
            "ph",
            message("free of all salts they would stand at {balance}", balance=Computed(balance(0.0) + ph_read, decimals=2)),
            message("Rinse and check the meter, or titrate again"),
            "readings_disagree",
        )
    # More cation needs more acid behind the same titration, and raises the pH: one crossing.
    low, high = 0.0, 1.0
    for _ in range(60):
        middle = (low + high) / 2.0
        if balance(middle) < 0:
            low = middle
        else:
            high = middle
    cation = (low + high) / 2.0
    return (titrated + cation) / protons, cation
