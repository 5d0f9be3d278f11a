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
_FULL = 100.0
"""What a label is per [g or mL]."""
_ROUNDS, _CLOSE, _TOO_MUCH = 60, 1e-10, 1e-6


@dataclass(frozen=True, slots=True)
class _Tolerance:
    """Off by `least` [g] below `small` [g], by a fifth up to `large`, by `most` above. Source: EU guidance on tolerances for nutrient values, 2012."""

    least: float
    small: float
    large: float
    most: float

    def of(self, grams: float) -> float:
        """Returns by how much the true mass may differ from `grams` that a label declares, either way [g]."""
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
    declared = {
        name: Range.read(0 if data.get(name) is None else data[name], f"{where}/{name}", ceiling=200.0) for name in FIGURES_OF_LABEL
    }
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
    grams, abv = _grams(declared, splits), declared["abv"]
    mass, volume = _basis(grams, abv.value, per, where)
    strength = _shown(abv, _ABV_OFF)
    grams["ethanol"] = strength.times(volume / 100.0 * ETHANOL_G_ML)
    return {name: amount.times(100.0 / mass) for name, amount in grams.items() if amount.high > 0}


def _grams(declared: Mapping[str, Range], splits: tuple[Mapping[str, float], Mapping[str, float]]) -> dict[str, Range]:
    """Returns grams of each substance but alcohol in what the label is per; a range that was typed stays, else that of labels."""
    shown = {name: _shown(declared[name], tolerance.of(declared[name].value)) for name, tolerance in _TOLERANCES.items()}
    acid = _shown(declared["acid_g"], _ACID_OFF * declared["acid_g"].value)
    carbohydrate = declared["carbohydrate_g"]
    rest = max(0.0, carbohydrate.value - declared["sugars_g"].value)
    starch = Range.around(rest, carbohydrate.half_width or _KEPT * _USUAL.of(rest), 0.0) if rest else Range.exact(0.0)
    sugars, acids = splits
    return {
        **{key: shown["sugars_g"].times(share) for key, share in sugars.items()},
        **{key: acid.times(share) for key, share in acids.items()},
        "other_carbohydrate": starch,
        "fat": shown["fat_g"],
        "protein": shown["protein_g"],
        "other_solubles": shown["fibre_g"],
        "sodium_chloride": shown["salt_g"],
    }


def _shown(declared: Range, off: float) -> Range:
    """Returns what a label declares with the part of its tolerance `off` that counts; a range that was typed stays, and so does nothing."""
    return Range.around(declared.value, _KEPT * off, 0.0) if declared.is_exact and declared.value else declared


def _basis(grams: Mapping[str, Range], abv: float, per: str, where: str) -> tuple[float, float]:
    """Returns mass [g] and volume [mL] of what the label is per; what is not declared is water. Raises Refusal, at `where`, if the rest alone is more than that."""
    dry = {key: amount.value for key, amount in grams.items() if amount.value > 0}
    solids, by_mass = math.fsum(dry.values()), per == PER[0]
    liquid = Contents({key: value for key, value in dry.items() if key != "fat"})
    # Water is by weight and strength by volume, so each follows from the other.
    water, filled, spirit = max(0.0, _FULL - solids), _FULL, 0.0
    for _ in range(_ROUNDS):
        spirit = abv / 100.0 * (filled if by_mass else _FULL) * ETHANOL_G_ML
        # A millilitre of water weighs about a gram: so much more or less of it fills the rest.
        wanted = _FULL - solids - spirit if by_mass else water + _FULL - filled
        moved, water = abs(max(0.0, wanted) - water), max(0.0, wanted)
        before, filled = filled, volume_ml(liquid + Contents({"ethanol": spirit, "water": water})) + dry.get("fat", 0.0) / _FAT_G_ML
        if moved + abs(filled - before) < _CLOSE:
            break
    over = solids + spirit + water - _FULL if by_mass else filled - _FULL
    if over > _TOO_MUCH:
        raise Refusal(
            message(
                "What the label declares is {most} {unit} in {per}",
                most=Computed(_FULL + over, decimals=1),
                unit="g" if by_mass else "mL",
                per=per,
            ),
            where,
            message("it cannot be more than there is"),
            message("Check whether it is per 100 g or per 100 mL"),
            "more_than_there_is",
        )
    return solids + spirit + water, filled
