"""Constants of the substances that a vessel can hold, each with its source.

Sources
  acids   critical-compilation pKa set at I = 0, 25 °C (quinic, isocitric, oxalic, aconitic and shikimic rounded and unverified, so
          their pH is ±0.1 wider); equivalents per mole titrated to pH 8.2; apparent specific volumes at 20 °C in dilute water:
          acetic, phosphoric from a published density correlation (Laliberté 2009); citric, tartaric from old density tables; malic,
          succinic, ascorbic from partial molar volumes 82.5, 82.9, 106 mL/mol; the rest estimated, ±0.05 mL/g.
  masses  IUPAC 2021 standard atomic weights, rounded.
  Norrish k of single solutes: Chirife, Ferro Fontán and Benmergui 1980; sucrose, glucose, fructose, erythritol, xylitol, sorbitol as published there; of
          isomalt, allulose, glucose syrup's larger sugars (mean molar mass of a syrup of 42 DE without its glucose, 18 000/DE) and maltodextrin (11 DE) estimated.
  rest    potassium, sodium: partial molar volumes 9.0 and −1.2 mL/mol, sodium chloride 18 mL/mol at 1 mol/kg (Millero 1971); glycerol
          71 mL/mol, erythritol 86.8, xylitol 102.3, sorbitol 119.7, allulose 110.5 mL/mol (partial molar volumes); isomalt as a disaccharide; carbon dioxide 33 mL/mol; gum, pectin 0.62, protein 0.73 mL/g (partial specific volumes);
          citrus oil 0.85 g/mL, fat 0.92 g/mL; other solubles taken as sugar-like, 0.62 ± 0.03 mL/g; dry plant matter 0.65 ± 0.05 mL/g
          (cellulose 1.5 g/mL): house experience, not a standard.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

Band = Literal["water", "sugar", "acid", "spirit", "solids"]

CITRIC_EQUIVALENT_G = 192.124 / 3.0
"""Grams of anhydrous citric acid that give one mole of protons up to pH 8.2 (derived)."""


@dataclass(frozen=True, slots=True)
class Substance:
    """One substance. `equivalent_g` is grams per mole of protons to pH 8.2; `volume_ml_g` the apparent specific volume at 20 °C [mL/g]; `pka` thermodynamic
    constants at 25 °C; `norrish` its constant k for water activity; `osmotic` particles per mole that bind water.
    """

    key: str
    name: str
    band: Band
    molar_mass: float
    volume_ml_g: float
    equivalent_g: float = 0.0
    dissolved: bool = True
    pka: tuple[float, ...] = ()
    norrish: float = 0.0
    osmotic: float = 1.0


def _acid(key: str, molar_mass: float, protons: int, volume_ml_g: float, pka: tuple[float, ...], norrish: float = 0.0) -> Substance:
    return Substance(key, key.replace("_", " "), "acid", molar_mass, volume_ml_g, molar_mass / protons, pka=pka, norrish=norrish)


_ALL = (
    Substance("water", "water", "water", 18.015, 1.0018, dissolved=False),
    Substance("ethanol", "ethanol", "spirit", 46.068, 1.267, dissolved=False),
    Substance("sucrose", "sucrose", "sugar", 342.296, 0.62, norrish=6.47),
    Substance("glucose", "glucose", "sugar", 180.156, 0.62, norrish=2.25),
    Substance("fructose", "fructose", "sugar", 180.156, 0.62, norrish=2.25),
    Substance("allulose", "allulose", "sugar", 180.156, 0.613, norrish=2.25),
    Substance("glucose_syrup_solids", "glucose syrup's larger sugars", "sugar", 635.0, 0.62, norrish=6.0),
    Substance("maltodextrin", "maltodextrin", "sugar", 1700.0, 0.62, norrish=6.0),
    Substance("other_carbohydrate", "other carbohydrate", "sugar", 342.3, 0.62, norrish=4.54),
    _acid("citric_acid", 192.124, 3, 0.587, (3.128, 4.761, 6.396), 6.17),
    _acid("malic_acid", 134.087, 2, 0.615, (3.459, 5.097), 1.82),
    _acid("tartaric_acid", 150.087, 2, 0.550, (3.036, 4.366), 4.68),
    _acid("lactic_acid", 90.078, 1, 0.775, (3.86,), -1.59),
    _acid("acetic_acid", 60.052, 1, 0.867, (4.756,)),
    _acid("ascorbic_acid", 176.124, 1, 0.604, (4.1, 11.79)),
    _acid("phosphoric_acid", 97.994, 2, 0.471, (2.148, 7.198, 12.35)),
    _acid("succinic_acid", 118.088, 2, 0.700, (4.207, 5.636)),
    _acid("quinic_acid", 192.17, 1, 0.60, (3.46,)),
    _acid("isocitric_acid", 192.124, 3, 0.60, (3.29, 4.71, 6.40)),
    _acid("oxalic_acid", 90.03, 2, 0.55, (1.25, 4.27)),
    _acid("aconitic_acid", 174.11, 3, 0.60, (2.80, 4.46, 6.3)),
    _acid("shikimic_acid", 174.15, 1, 0.60, (4.15,)),
    Substance("potassium", "potassium, bound to acid", "solids", 39.098, 0.23),
    Substance("sodium", "sodium, bound to acid", "solids", 22.990, -0.05),
    Substance("sodium_chloride", "salt", "solids", 58.443, 0.31, osmotic=2.0),
    Substance("glycerol", "glycerol", "solids", 92.094, 0.771),
    Substance("erythritol", "erythritol", "solids", 122.12, 0.711, norrish=1.34),
    Substance("xylitol", "xylitol", "solids", 152.15, 0.672, norrish=1.66),
    Substance("sorbitol", "sorbitol", "solids", 182.17, 0.657, norrish=1.65),
    Substance("isomalt", "isomalt", "solids", 344.31, 0.622, norrish=4.5),
    Substance("polyol", "other sugar alcohol", "solids", 182.17, 0.66, norrish=1.65),
    Substance("gum", "gum", "solids", 250000.0, 0.62),
    Substance("pectin", "pectin", "solids", 100000.0, 0.62),
    Substance("protein", "dissolved protein", "solids", 40000.0, 0.73),
    Substance("oil", "aroma oil", "solids", 136.23, 1.18, dissolved=False),
    Substance("fat", "fat", "solids", 860.0, 1.09, dissolved=False),
    Substance("carbon_dioxide", "carbon dioxide", "solids", 44.009, 0.75, dissolved=False),
    Substance("other_solubles", "other dissolved solids", "solids", 180.0, 0.62),
    Substance("insolubles", "plant matter", "solids", 162.0, 0.65, dissolved=False),
)

SUBSTANCES = MappingProxyType({substance.key: substance for substance in _ALL})

SUGARS = ("sucrose", "glucose", "fructose", "allulose", "glucose_syrup_solids", "maltodextrin", "other_carbohydrate")
ACIDS = tuple(substance.key for substance in _ALL if substance.equivalent_g)
CATIONS = ("potassium", "sodium")
"""Strong cations that have taken protons' places: titration no longer finds what they bind."""
UNVERIFIED_ACIDS = ("quinic_acid", "isocitric_acid", "oxalic_acid", "aconitic_acid", "shikimic_acid")
NO_WATER = ("oil", "fat", "insolubles")
"""Matter that floats or sinks and binds no water."""
BANDS: tuple[Band, ...] = ("sugar", "acid", "solids", "spirit", "water")
