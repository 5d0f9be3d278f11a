"""Composition from a nutrition label: what a bought bottle or bag declares in 100 g or 100 mL, as grams of each substance in 100 g with the tolerance of labels."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..base.messages import Computed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.constants import ETHANOL_G_ML
from ..chemistry.contents import Contents
from ..properties.density import volume_ml

DEFAULT_ACIDS, DEFAULT_SUGARS = {"citric_acid": 1.0}, {"sucrose": 0.34, "glucose": 0.33, "fructose": 0.33}
"""Splits of what is known by its label alone: citric acid, as labels declare acidity, and sugars in even parts; the totals are the label's, only pH and water activity
depend on the split. House judgement."""
_FAT_G_ML = 0.92
"""Density of fats and oils at 20 °C [g/mL]; handbook, 0.91 to 0.93."""
_ABV_OFF = 0.3
"""What a declared strength may be off [% vol]. Source: Regulation (EU) 1169/2011, annex XII."""
_ACID_OFF = 0.1
"""What declared acid may be off, as a share of it. House judgement: labels that declare it are rare."""
_KEPT = 0.5
"""Share of the legal tolerance that holds 90 of 100 labels. House judgement: makers aim at the middle of it."""
_ROUNDS, _CLOSE_G = 40, 1e-10


@dataclass(frozen=True, slots=True)
class _Tolerance:
    """Off by `least` [g] below `small` [g], by a fifth up to `large`, by `most` above. Source: EU guidance on tolerances for nutrient values, 2012."""

    least: float
    small: float
    large: float
    most: float

    def of(self, grams: float) -> float:
        """Returns what so many declared grams may be off [g]."""
        return self.least if grams < self.small else 0.2 * grams if grams <= self.large else self.most


_USUAL = _Tolerance(2.0, 10.0, 40.0, 8.0)
_TOLERANCES: Mapping[str, _Tolerance] = {
    "carbohydrate_g": _USUAL,
    "sugars_g": _USUAL,
    "protein_g": _USUAL,
    "fibre_g": _USUAL,
    "fat_g": _Tolerance(1.5, 10.0, 40.0, 8.0),
    "salt_g": _Tolerance(0.375, 1.25, math.inf, math.inf),
}
PER = ("100 g", "100 mL")
FIGURES_OF_LABEL = (*_TOLERANCES, "acid_g", "abv")
"""What a label may declare: grams, acid as citric [g], strength [% vol]."""


def label_substances(data: Mapping[str, Any], where: str, splits: tuple[Mapping[str, float], Mapping[str, float]]) -> dict[str, Range]:
    """Returns grams of each substance in 100 g, with their ranges, of a label `{"by": "label", "per": "100 g" or "100 mL", "sugars_g": …}`.

    `splits` are the shares of the sugars and of the acids. What is not declared counts as none, water is the rest. 100 mL that declare 65 g of sugars weigh 125 g: 52 g in
    100 g. Raises Refusal, at its place, for another `per`, a figure that cannot be, more sugars than carbohydrate, and more than fits.
    """
    per = data.get("per", PER[0])
    if per not in PER:
        raise Refusal(message("A label is per 100 g or per 100 mL"), f"{where}/per", code="unreadable")
    declared = {name: Range.read(data.get(name) or 0, f"{where}/{name}", ceiling=200.0) for name in FIGURES_OF_LABEL}
    if declared["abv"].high > 100.0:
        raise Refusal(message("A strength ends at 100 % vol"), f"{where}/abv", code="out_of_bounds")
    sugars, carbohydrate = declared["sugars_g"].value, declared["carbohydrate_g"].value
    if data.get("carbohydrate_g") is not None and sugars > carbohydrate:
        raise Refusal(
            message("Sugars are part of the carbohydrate"),
            f"{where}/sugars_g",
            message("{sugars} g of {carbohydrate} g", sugars=Computed(sugars), carbohydrate=Computed(carbohydrate)),
            message("Read the label again"),
            "readings_disagree",
        )
    grams, abv = _grams(declared, splits), declared["abv"].value
    mass, volume = _basis(grams, abv, per, where)
    grams["ethanol"] = Range.around(abv, _KEPT * _ABV_OFF * (abv > 0), 0.0).times(volume / 100.0 * ETHANOL_G_ML)
    return {name: amount.times(100.0 / mass) for name, amount in grams.items() if amount.high > 0}


def _grams(declared: Mapping[str, Range], splits: tuple[Mapping[str, float], Mapping[str, float]]) -> dict[str, Range]:
    """Returns grams of each substance but alcohol in what the label is per; a range that was typed stays, else that of labels."""
    off = {name: _KEPT * tolerance.of(declared[name].value) for name, tolerance in _TOLERANCES.items()}
    off["acid_g"] = _KEPT * _ACID_OFF * declared["acid_g"].value
    shown = {
        name: amount if not amount.is_exact or not amount.value else Range.around(amount.value, off[name], 0.0)
        for name, amount in declared.items()
        if name in off
    }
    rest = max(0.0, declared["carbohydrate_g"].value - declared["sugars_g"].value)
    sugars, acids = splits
    return {
        **{key: shown["sugars_g"].times(share) for key, share in sugars.items()},
        **{key: shown["acid_g"].times(share) for key, share in acids.items()},
        "other_carbohydrate": Range.around(rest, _KEPT * _USUAL.of(rest) if rest else 0.0, 0.0),
        "fat": shown["fat_g"],
        "protein": shown["protein_g"],
        "other_solubles": shown["fibre_g"],
        "sodium_chloride": shown["salt_g"],
    }


def _basis(grams: Mapping[str, Range], abv: float, per: str, where: str) -> tuple[float, float]:
    """Returns mass [g] and volume [mL] of what the label is per. Iterates, because what is not declared is water, by weight, and strength is by volume."""
    dry = {key: amount.value for key, amount in grams.items() if amount.value > 0}
    solids, mass, volume = math.fsum(dry.values()), 100.0, 100.0
    for _ in range(_ROUNDS):
        spirit = abv / 100.0 * volume * ETHANOL_G_ML
        water = mass - solids - spirit
        if water < -1e-9:
            raise Refusal(
                message(
                    "The label declares {grams} g in {mass} g", grams=Computed(solids + spirit, decimals=1), mass=Computed(mass, decimals=1)
                ),
                where,
                message("it cannot be more than there is"),
                message("Check whether it is per 100 g or per 100 mL"),
                "more_than_there_is",
            )
        liquid = {key: value for key, value in dry.items() if key != "fat"}
        filled = volume_ml(Contents({**liquid, "ethanol": spirit, "water": max(0.0, water)})) + dry.get("fat", 0.0) / _FAT_G_ML
        before = mass, volume
        if per == PER[0]:
            volume = filled
        else:
            # So much water more or less that it fills 100 mL; a millilitre of it weighs about a gram.
            mass += 100.0 - filled
        if abs(mass - before[0]) + abs(volume - before[1]) < _CLOSE_G:
            break
    return mass, volume
