"""Titratable acidity."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..base.messages import Computed, Given, listed, message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, CATIONS, CITRIC_EQUIVALENT_G, SUBSTANCES
from .bounds import bounded, checked_contents
from .density import liquid_ml

MOST_ACID_G_100ML = 190.0
"""Titratable acid [g/100 mL, as citric] that no bottle passes: phosphoric acid of 85 % holds 187."""
_MOST_SAMPLE_ML, _LEAST_NORMALITY, _MOST_NORMALITY = 1e5, 1e-6, 20.0
# Every acid is counted to pH 8.2, where the pink of phenolphthalein appears: the end point that a bar can see.
_EQUIVALENT = {key: SUBSTANCES[key].equivalent_g for key in ACIDS}
PROTONS = {key: 1.0 / grams for key, grams in _EQUIVALENT.items()} | {key: -1.0 / SUBSTANCES[key].molar_mass for key in CATIONS}
"""Moles of protons that titration finds per gram; a cation takes them away."""


def titratable_g(contents: Contents) -> float:
    """Returns the titratable acid [g, as anhydrous citric] up to pH 8.2 in the whole vessel, at least 0.

    Protons of every acid, less those that potassium and sodium have replaced, times 64.041 g. 6 g citric give 6.00; 6 g malic give 5.73. Error: the table of
    acids, 0.1 %; whole protons are counted (phosphoric 2.3 % high). Source: definition.
    """
    # More potassium than the acids can bind is bound to something that titration does not see: 0, not less.
    return CITRIC_EQUIVALENT_G * max(
        0.0, math.fsum(mass * PROTONS[key] for key, mass in checked_contents(contents).grams.items() if key in PROTONS)
    )


def acid_g_100ml(contents: Contents) -> float:
    """Titratable acid [g per 100 mL at 20 °C, as anhydrous citric]. Source: definition, with `volume_ml`."""
    return 100.0 * titratable_g(contents) / liquid_ml(contents)


def as_acid(titratable_as_citric: float, acid: str) -> float:
    """Returns the same titratable acid [any unit] as another acid: × its equivalent / 64.041. 1.00 as citric is 1.047 as malic.

    Exact. Raises Refusal for what is not an acid. Source: definition.
    """
    if acid not in _EQUIVALENT:
        raise Refusal(
            message("“{acid}” is no acid that Ulsek knows", acid=acid),
            bound=message("it knows {equivalent}", equivalent=listed(_EQUIVALENT, "comma")),
            remedy=message("Name one of them"),
            code="unknown_substance",
        )
    return bounded(titratable_as_citric, 0.0, 1e9, "", message("titratable acid")) * _EQUIVALENT[acid] / CITRIC_EQUIVALENT_G


def acids_in_split(split: Mapping[str, float], titratable_g: float) -> dict[str, float]:
    """Returns the mass [g] of each acid that together have `titratable_g` [g, as citric] in the proportions of `split` [by weight]; shares under half a percent
    are omitted.

    94 % citric and 6 % malic acid for 48 g: 45.2 and 2.9 g. Exact. Raises Refusal for a split without an acid. Source: definition of titratable acid.
    """
    bounded(titratable_g, 0.0, 1e9, "g", message("titratable acid"))
    for key, share in split.items():
        bounded(share, 0.0, 1e6, "", message("the share of {replace}", replace=key.replace("_", " ")))
        as_acid(1.0, key)
    # So small a share is a trace in a table of juices, not an acid that anybody weighs in.
    counted = {key: share for key, share in split.items() if share >= 0.005}
    if not counted:
        raise Refusal(
            message("No acid has a share"), "acid_split", message("at least one must be above half a percent"), message("Give the shares")
        )
    # A gram of each acid has a different number of protons, so the masses follow from the sum, not from the shares alone.
    per_gram = math.fsum(share * CITRIC_EQUIVALENT_G / SUBSTANCES[key].equivalent_g for key, share in counted.items())
    return {key: titratable_g * share / per_gram for key, share in counted.items()}


def acid_percent_w_w(contents: Contents) -> float:
    """Returns the titratable acid [g per 100 g of liquid, as anhydrous citric]; per 100 mL it is `acid_g_100ml`. Raises Refusal for an empty vessel. Source:
    definition.
    """
    liquid = checked_contents(contents).solution.mass_g
    if liquid <= 0:
        raise Refusal(message("An empty vessel has no acid"), remedy=message("Put something in first"))
    return 100.0 * titratable_g(contents) / liquid


@dataclass(frozen=True, slots=True)
class ByAcid:
    """One acid of a liquid, per 100 mL at 20 °C: its mass, bound or free, and the titratable acid of its free form, as citric."""

    g_100ml: float
    titratable_g_100ml: float


def acids_g_100ml(contents: Contents) -> dict[str, ByAcid]:
    """Returns each acid [g per 100 mL]: its mass and its titratable equivalent as citric, before potassium binds its share.

    5.3 g malic acid count as 5.06 as citric. Exact but for whole protons. Source: definition.
    """
    volume = liquid_ml(contents)
    return {
        key: ByAcid(100.0 * contents.of(key) / volume, 100.0 * contents.of(key) * CITRIC_EQUIVALENT_G / _EQUIVALENT[key] / volume)
        for key in ACIDS
        if contents.of(key)
    }


USUAL_SAMPLE_ML, USUAL_NORMALITY = 10.0, 0.1
"""Sample [mL] and strength of the base [mol/L] of a titration at a bar. House experience."""

RAYS = (8, 12, 18, 30)
"""Grams of sugar to one of acid that the plate draws a ray of: sharp, balanced, soft and sweet in a sour. House experience."""

TITRATION_STEPS = (
    message("Measure the sample into the flask, and some water with it."),
    message("Three drops of the indicator."),
    message("Base in, drop by drop at the end, until a pink stays for half a minute (pH 8.2)."),
    message("Read what went in. Goggles and gloves: base burns."),
)
"""A titration at a bar, step by step. Source: definition of titratable acid, end point pH 8.2."""


def burette_ml(contents: Contents, sample_ml: float, normality: float) -> float:
    """Returns the NaOH [mL] of `normality` [mol/L] that titrates `sample_ml` [mL] to pH 8.2: Σ protons / normality.

    Error 0.5 % and the drop. 10 mL of 6 % citric acid: 93.7 mL of 0.1 mol/L. Raises Refusal for figures of 0 or less. Source: definition.
    """
    if not (0 < sample_ml <= _MOST_SAMPLE_ML and _LEAST_NORMALITY <= normality <= _MOST_NORMALITY):
        raise Refusal(
            message("A titration needs a sample and a normality above zero"),
            bound=message("{sample} mL, {normality} mol/L were given", sample=Given(sample_ml), normality=Given(normality)),
        )
    return acid_g_100ml(contents) / 100.0 * sample_ml / CITRIC_EQUIVALENT_G * 1000.0 / normality


def acid_from_burette(burette: float, sample_ml: float, normality: float, acid: str = "citric_acid") -> float:
    """Returns the titratable acid [g per 100 mL, as `acid`] from `burette` [mL] of NaOH of `normality` [mol/L] on `sample_ml` [mL].

    mL × normality × equivalent / sample / 10. Error 0.5 % and the drop. 37.5 mL of 0.1 mol/L on 10 mL is 2.40 as citric. Raises Refusal for figures of 0 or
    less. Source: definition.
    """
    if not (0 < sample_ml <= _MOST_SAMPLE_ML and 0 < normality <= _MOST_NORMALITY and 0 <= burette < math.inf):
        raise Refusal(
            message("A titration needs a sample and a normality above zero, and a burette of zero or more"),
            bound=message(
                "{burette} mL on {sample} mL at {normality} mol/L were given",
                burette=Given(burette),
                sample=Given(sample_ml),
                normality=Given(normality),
            ),
        )
    # mL × mol/L is mmol; /1000 to mol and ×100 for 100 mL leave the division by ten.
    found = burette * normality * CITRIC_EQUIVALENT_G / sample_ml / 10.0
    if found > MOST_ACID_G_100ML:
        raise Refusal(
            message("{found} g of acid in 100 mL cannot be", found=Computed(found, decimals=0)),
            bound=message("the strongest acid that is sold holds about {most}, as citric", most=Given(MOST_ACID_G_100ML)),
            remedy=message("Check the sample, the burette and the strength of the NaOH"),
            code="out_of_bounds",
        )
    return as_acid(found, acid)
