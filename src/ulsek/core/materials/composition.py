"""Composition of a material: by substance (g per 100 g), by its label, by reading (refractometer and titration), or by parts (zest, peel, juice, core of a whole fruit), each
of which has a composition. The contents of one gram follow from it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, NamedTuple

from ..base.answer import encode
from ..base.budgets import PARTS, within
from ..base.figures import FIGURES, half_range
from ..base.messages import Computed, Given, listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..chemistry.substances import ACIDS, CITRIC_EQUIVALENT_G, SUBSTANCES, SUGARS
from ..properties import density, sugar
from ..properties.ph import cation_from_ph
from .label import DEFAULT_ACIDS, DEFAULT_SUGARS, label_substances

RISE_TOGETHER = 0.7
"""Correlation of °Bx and acid of one fruit before either is read: water and ripeness move both. House experience, not a standard."""
_MOST_PECTIN = 0.6
"""Largest part of the other solids of a juice that pectin can be. House judgement."""
_DENSITY_PER_BRIX = 0.004
"""Rise of the density of a juice with its °Bx [g/mL]: a first guess."""
_SHARES_OFF = 0.02
"""What shares that were rounded may miss a whole by. House judgement."""
_MOST_POTASSIUM = 2000.0
"""More potassium than any juice or concentrate has [mg/100 g]. House judgement."""
MOST_JUICE_ACID_G_100ML = 15.0
"""More titratable acid than any juice has [g/100 mL]."""


@dataclass(frozen=True, slots=True)
class BySubstance:
    """Mass of each substance per 100 g [g]; water is the rest unless it is listed."""

    g_per_100g: Mapping[str, Range]
    source: str

    def parts_per_gram(self, z: float, z_acid: float = 0.0) -> dict[str, Contents]:
        """Returns the contents of the one part, by name."""
        return {"flesh": self.per_gram(z, z_acid)}

    def per_gram(self, z: float, _z_acid: float = 0.0) -> Contents:
        """Returns the contents of one gram [g by substance] with every substance moved by `z` half-ranges.

        Masses that would add up to more than 100 g are scaled to 100 g. Raises Refusal if the best values alone are more than that.
        """
        shares = {key: amount.at(z) / 100.0 for key, amount in self.g_per_100g.items() if key != "water"}
        filled = math.fsum(shares.values())
        # Every substance at its high end may be more than there is room for: their proportions are kept.
        if filled > 1.0 and z:
            return Contents({key: share / filled for key, share in shares.items()})
        if filled > 1.0 + 1e-9:
            raise Refusal(
                message("The makeup holds {filled} g in 100 g", filled=Computed(filled * 100, decimals=1)),
                bound=message("it cannot pass 100 g"),
                remedy=message("Check the parts"),
            )
        return Contents({**shares, "water": 1.0 - filled} if filled < 1.0 else shares)

    @property
    def is_exact(self) -> bool:
        """True if no substance has a range."""
        return all(amount.is_exact for amount in self.g_per_100g.values())


@dataclass(frozen=True, slots=True)
class ByReading:
    """A juice by its readings: °Bx of a refractometer, titratable acid, and the split of acids and sugars.

    `acid_split` and `sugar_split` are shares by mass that add up to 1; potassium binds acid that titration does not find.
    """

    brix_reading: Range
    acid_g_100ml: Range
    acid_split: Mapping[str, float]
    sugar_split: Mapping[str, float]
    potassium_mg_100g: float
    other_solids_share: Range
    source: str
    brix_read: bool = False
    acid_read: bool = False
    pectin_g_100g: float = 0.0
    ph: float | None = None

    def parts_per_gram(self, z: float, z_acid: float) -> dict[str, Contents]:
        """Returns the contents of the one part, the juice, by name."""
        return {"juice": self.per_gram(z, z_acid)}

    @property
    def is_exact(self) -> bool:
        """True if neither °Bx nor acid has a range."""
        return self.brix_reading.is_exact and self.acid_g_100ml.is_exact

    def per_gram(self, z: float, z_acid: float) -> Contents:
        """Returns the contents of one gram [g by substance] with the °Bx moved by `z` half-ranges and the acid by `z_acid`.

        Iterates on density, because titration is per volume and solids are per mass. Raises Refusal for readings that cannot both be right.
        """
        rest = _Rest(
            tuple(self.acid_split.items()),
            tuple(self.sugar_split.items()),
            self.potassium_mg_100g,
            self.other_solids_share.value,
            self.pectin_g_100g,
            self.ph,
        )
        return _from_readings(max(0.0, self.brix_reading.at(z)), max(0.0, self.acid_g_100ml.at(z_acid)), rest)


@dataclass(frozen=True, slots=True)
class ByParts:
    """A whole fruit, egg or nut: the mass of each part in one gram, and its composition; `flesh` is the rest.

    `shares` leave something for the flesh, or name everything and add up to 1.
    """

    shares: Mapping[str, float]
    compositions: Mapping[str, BySubstance | ByReading]
    source: str

    @property
    def is_exact(self) -> bool:
        """True if the composition of every part is exact."""
        return all(composition.is_exact for composition in self.compositions.values())

    def parts_per_gram(self, z: float, z_acid: float) -> dict[str, Contents]:
        """Returns the contents of each part in one gram of the whole, all parts moved together."""
        return {name: composition.per_gram(z, z_acid).scaled(self.shares[name]) for name, composition in self.compositions.items()}

    def per_gram(self, z: float, z_acid: float) -> Contents:
        """Returns the contents of one gram of the whole [g by substance], all parts moved together."""
        found = Contents()
        for part in self.parts_per_gram(z, z_acid).values():
            found = found + part
        return found


Composition = BySubstance | ByReading | ByParts

_ITERATIONS = 12
_TOLERANCE = 1e-13


class _Rest(NamedTuple):
    """What is known of a juice besides its °Bx and acid. A tuple, because it is the key of a cache."""

    acid_split: tuple[tuple[str, float], ...]
    sugar_split: tuple[tuple[str, float], ...]
    potassium_mg_100g: float
    other_share: float
    pectin_g_100g: float
    ph: float | None


def _density_near(reading: float) -> float:
    """Returns about the density of a juice of `reading` [°Bx] in g/mL, to 2 %: where the iteration begins."""
    return 1.0 + _DENSITY_PER_BRIX * reading


@lru_cache(maxsize=4096)
def _from_readings(reading: float, acid_g_100ml: float, rest: _Rest) -> Contents:
    """Returns the contents of one gram of a juice from its °Bx and titratable acid [g/100 mL]. Raises Refusal if both cannot be right."""
    acid_split, sugar_split, other_share = rest.acid_split, rest.sugar_split, rest.other_share
    potassium = rest.potassium_mg_100g / 1e5
    if rest.ph is not None:
        # Acid and pH were both read: the cation per litre follows from them, and the density of the juice brings it to grams.
        cation = cation_from_ph(dict(acid_split), acid_g_100ml, rest.ph)[1]
        potassium = cation * SUBSTANCES["potassium"].molar_mass / (1000.0 * _density_near(reading))
    # Protons of a gram of the acids together: titration counts protons, the split is by mass.
    protons_per_g = math.fsum(share / SUBSTANCES[key].equivalent_g for key, share in acid_split)
    rho = _density_near(reading)
    for _ in range(_ITERATIONS):
        # From per volume to per mass by the density of this round.
        titratable = acid_g_100ml / 100.0 / rho
        # A refractometer reads low in acid, so the solids are more than it shows.
        solids = (reading + sugar.acid_shift(100.0 * titratable)) / 100.0
        # Potassium has taken protons from titration: the acid that it binds is there all the same.
        acids = (titratable / CITRIC_EQUIVALENT_G + potassium / SUBSTANCES["potassium"].molar_mass) / protons_per_g
        others = other_share * solids
        sugars = solids - acids - potassium - others
        if sugars < 0:
            raise Refusal(
                message(
                    "{reading} °Bx and {acid_g_100ml} g/100 mL acid cannot both be right",
                    reading=Computed(reading, decimals=1),
                    acid_g_100ml=Computed(acid_g_100ml, decimals=2),
                ),
                bound=message(
                    "that much acid alone is {acids} g of solids in 100 g", acids=Computed(100 * (acids + potassium + others), decimals=1)
                ),
                remedy=message("Read both again; pulp and a warm prism mislead"),
                code="readings_disagree",
            )
        # Pectin is part of the other solids, not added to them.
        pectin = min(rest.pectin_g_100g / 100.0, _MOST_PECTIN * others)
        grams = {"water": 1.0 - solids, "potassium": potassium, "other_solubles": others - pectin}
        if pectin:
            grams["pectin"] = pectin
        grams |= {key: sugars * share for key, share in sugar_split if share}
        grams |= {key: acids * share for key, share in acid_split if share}
        found = Contents(grams)
        # The density that these contents have; the first guess is off in the third digit.
        again = density.density_g_ml(found)
        if abs(again - rho) < _TOLERANCE:
            return found
        rho = again
    return found


def _split(data: Any, allowed: tuple[str, ...], where: str) -> dict[str, float]:
    if not isinstance(data, dict) or not data:
        raise Refusal(message("A split needs shares by substance"), where)
    unknown = sorted(set(data) - set(allowed))
    if unknown:
        raise Refusal(
            message("“{unknown}” does not belong in this split", unknown=unknown[0]),
            where,
            message("it may hold {allowed}", allowed=listed(allowed, "comma")),
        )
    shares = {key: Range.read(value, f"{where}/{key}").value for key, value in data.items()}
    total = math.fsum(shares.values())
    if abs(total - 1.0) > _SHARES_OFF:
        raise Refusal(message("The shares add up to {total}", total=Computed(total, decimals=2)), where, message("they must add up to 1"))
    # Rounded shares are taken as proportions.
    return {key: share / total for key, share in shares.items()}


def _by_parts(data: Any, where: str, source: str) -> ByParts:
    parts = data.get("parts")
    if not isinstance(parts, dict) or not parts:
        raise Refusal(
            message("A makeup by parts needs its parts"),
            where,
            remedy=message("Name zest, peel, juice, core or what it has, each with its share"),
        )
    within(parts, PARTS, message("parts"), f"{where}/parts", message("Take alike ones together"))
    shares: dict[str, float] = {}
    compositions: dict[str, BySubstance | ByReading] = {}
    for name, part in parts.items():
        at = f"{where}/parts/{name}"
        if not isinstance(part, dict):
            raise Refusal(message("A part needs its share and makeup"), at)
        composition = read_composition(part.get("makeup"), f"{at}/makeup")
        if isinstance(composition, ByParts):
            raise Refusal(message("A part has no parts of its own"), at)
        compositions[name] = composition
        if name != "flesh":
            shares[name] = Range.read(part.get("share"), f"{at}/share", ceiling=1.0).value
    rest = 1.0 - math.fsum(shares.values())
    if "flesh" in compositions:
        shares["flesh"] = rest
    if rest < -1e-9 or ("flesh" not in compositions and abs(rest) > 1e-6):
        raise Refusal(
            message("The parts add up to {rest}", rest=Computed(1.0 - rest, decimals=3)),
            f"{where}/parts",
            message("they must add up to 1, or leave the rest to flesh"),
        )
    return ByParts(shares, compositions, source)


def read_composition(data: Any, where: str) -> Composition:
    """Returns a composition from an open file: ``{"by": "label", …}``, ``{"by": "substance", …}``, ``{"by": "reading", …}`` or ``{"by": "parts", …}``. Raises Refusal, at its place,
    for what cannot be read.
    """
    if not isinstance(data, dict):
        raise Refusal(message("A material needs a makeup"), where, remedy=message("Say what is in it, by substance or by reading"))
    source = str(data.get("source") or "not stated")
    if data.get("by") == "substance":
        parts = data.get("g_per_100g")
        if not isinstance(parts, dict):
            raise Refusal(message("A makeup by substance needs g_per_100g"), where)
        within(parts, PARTS, message("substances"), f"{where}/g_per_100g", message("Take alike ones together"))
        unknown = sorted(set(parts) - set(SUBSTANCES))
        if unknown:
            raise Refusal(
                message("“{unknown}” is no substance that Ulsek knows", unknown=unknown[0]),
                f"{where}/g_per_100g",
                message("it knows {substances}", substances=listed(SUBSTANCES, "comma")),
            )
        composition = BySubstance(
            {key: Range.read(value, f"{where}/g_per_100g/{key}", ceiling=100.0) for key, value in parts.items()}, source
        )
        # Refused now, at its place, rather than in the first pass that uses it.
        composition.per_gram(0.0)
        return composition
    if data.get("by") == "label":
        splits = (
            _split(data.get("sugar_split", DEFAULT_SUGARS), SUGARS, f"{where}/sugar_split"),
            _split(data.get("acid_split", DEFAULT_ACIDS), ACIDS, f"{where}/acid_split"),
        )
        labelled = BySubstance(label_substances(data, where, splits), source)
        labelled.per_gram(0.0)
        return labelled
    if data.get("by") == "reading":
        return ByReading(
            Range.read(data.get("brix_reading"), f"{where}/brix_reading", ceiling=FIGURES["brix_reading"].readable.high),
            Range.read(data.get("acid_g_100ml"), f"{where}/acid_g_100ml", ceiling=FIGURES["acid_g_100ml"].readable.high),
            _split(data.get("acid_split", DEFAULT_ACIDS), ACIDS, f"{where}/acid_split"),
            _split(data.get("sugar_split", DEFAULT_SUGARS), SUGARS, f"{where}/sugar_split"),
            Range.read(data.get("potassium_mg_100g", 0), f"{where}/potassium_mg_100g", ceiling=_MOST_POTASSIUM).value,
            Range.read(data.get("other_solids_share", 0), f"{where}/other_solids_share", ceiling=0.5),
            source,
            bool(data.get("brix_read")),
            bool(data.get("acid_read")),
            Range.read(data.get("pectin_g_100g", 0), f"{where}/pectin_g_100g", ceiling=10.0).value,
            Range.read(data["ph"], f"{where}/ph", ceiling=12.0).value if data.get("ph") is not None else None,
        )
    if data.get("by") == "parts":
        return _by_parts(data, where, source)
    raise Refusal(message("A makeup is “by label”, “by reading”, “by substance” or “by parts”"), f"{where}/by")


def with_readings(composition: dict[str, Any], readings: Mapping[str, float], source: str) -> dict[str, Any]:
    """Returns a composition by reading with the readings of a delivery in place of the typical figures, each with the half-range of its instrument.

    `readings` may hold brix_reading [°Bx], acid_g_100ml [g/100 mL] and ph. Raises Refusal for readings out of range of the instruments, and for readings that
    cannot both be right.
    """
    if composition.get("by") != "reading":
        raise Refusal(
            message("This material is not known by readings"),
            remedy=message("Only juices and other liquids with a reading of their own can be read"),
        )
    read = dict(composition)
    for name, (least, most, words) in (
        ("brix_reading", FIGURES["brix_reading"].readable),
        (
            "acid_g_100ml",
            (0.0, MOST_JUICE_ACID_G_100ML, message("a titration of juice gives 0 to {most} g/100 mL", most=Given(MOST_JUICE_ACID_G_100ML))),
        ),
    ):
        if name not in readings:
            continue
        value = readings[name]
        if not math.isfinite(value) or not least <= value <= most:
            raise Refusal(
                message("A reading of {value} cannot be", value=Given(value)),
                name,
                words,
                message("Read again, or check the unit"),
                code="reading_out_of_range",
            )
        # The instrument's half-range replaces that of the table: the fruit in hand is known.
        read[name] = encode(Range.around(value, half_range(name), floor=0.0))
        read["brix_read" if name == "brix_reading" else "acid_read"] = True
    if "ph" in readings:
        least, most, words = FIGURES["ph"].bounds
        if not math.isfinite(readings["ph"]) or not least <= readings["ph"] <= most:
            raise Refusal(
                message("A reading of {ph} cannot be", ph=Given(readings["ph"])),
                "ph",
                message("a meter shows a food {bounds}", bounds=words),
                message("Check the meter in its buffers"),
                code="reading_out_of_range",
            )
        read["ph"] = readings["ph"]
    read["source"] = source
    read_composition(read, "makeup").per_gram(0.0, 0.0)
    return read
