"""Varieties of citrus: typical values of the tables, not facts about the fruit in hand."""

from __future__ import annotations

import csv
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from ..base.messages import listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..materials.material import Material, read_material
from ..materials.reference_materials import PEELER_TAKES, SIZE_SPREAD, typical_materials


def _per_gram(per_100g: Mapping[str, float]) -> Range:
    return Range(*(per_100g[name] / 100.0 for name in ("value", "low", "high")))


@dataclass(frozen=True, slots=True)
class Variety:
    """A citrus of the tables: mass of one [g], shares of its mass that are juice, zest and rind, oil in its zest [g/g], and its juice."""

    key: str
    name: str
    piece_g: Range
    juice_share: Range
    zest_share: float
    zest_oil: Range
    peel_share: float
    juice: Material
    confidence: str

    @property
    def density(self) -> float:
        """Density of the juice [g/mL]."""
        return self.juice.measured()["density_g_ml"]

    def juice_ml(self, share: float | None = None) -> float:
        """Returns the juice of one fruit of the usual mass [mL], at a share of juice or the typical one."""
        return self.piece_g.value * (self.juice_share.value if share is None else share) / self.density

    def ml_kg(self, share: float) -> float:
        """Returns the juice of a kilogram of fruit [mL], at a share of juice."""
        # Mass to volume: a share is by mass, a jug is read by volume.
        return 1000.0 * share / self.density

    def skin_g(self, fruit_g: float) -> tuple[float, float]:
        """Returns (zest, peel in strips) [g] that a person takes off one fruit of `fruit_g` [g]: zest by the table; a peeler takes its share of the rind, pith
        included.

        A bergamot of 140 g: 9.8 and 31 g. Error a third until this house has weighed some. Source: `data/juices.csv`; house experience of the peeler.
        """
        # A grater takes the coloured part only, a peeler also some of the white.
        return self.zest_share * fruit_g, PEELER_TAKES * self.peel_share * fruit_g

    def thrown_skin_g(self, mass_g: float, skin_g: float, binned_g: float) -> float:
        """Returns the skin thrown away [g] after `mass_g` [g] of fruit gave `skin_g` [g], of which `binned_g` [g] was thrown; the whole rind if none was taken
        off. Exact.
        """
        return binned_g if skin_g else self.peel_share * mass_g

    def plate(self) -> dict[str, Range]:
        """Returns sugar and acid of the juice [g/100 mL] with their ranges."""
        ranges = self.juice.measured_ranges()
        return {name: ranges[name] for name in ("sugar_g_100ml", "acid_g_100ml")}


@cache
def varieties() -> Mapping[str, Variety]:
    """Returns every citrus of the tables by its key. Source: `data/juices.csv`, compiled, with its confidence."""
    text = (files("ulsek.core") / "data" / "juices.csv").read_text(encoding="utf-8")
    described = typical_materials()
    found = {}
    for row in csv.DictReader(line for line in text.splitlines() if line and not line.startswith("#")):
        key = row["name"]
        if row["group"] != "citrus" or key not in described:
            continue
        # The tables name one usual mass; sizes of one variety in trade lie about so far apart.
        weight = float(row["fruit_g"])
        found[key] = Variety(
            key,
            described[key]["name"].removesuffix(", whole"),
            SIZE_SPREAD.times(weight),
            Range(float(row["yield_typ"]) / 100.0, float(row["yield_low"]) / 100.0, float(row["yield_high"]) / 100.0),
            float(row["zest_pct"]) / 100.0,
            _per_gram(described[key]["makeup"]["parts"]["zest"]["makeup"]["g_per_100g"]["oil"]),
            float(row["peel_pct"]) / 100.0,
            read_material(f"{key}_juice", described[f"{key}_juice"]),
            row["confidence"],
        )
    return found


def variety(key: str, where: str = "fruit") -> Variety:
    """Returns one citrus. Raises Refusal, with the list of them, for any other fruit."""
    if key not in varieties():
        raise Refusal(
            message("Nothing is known about “{key}” as a citrus", key=key),
            where,
            message("there are {varieties}", varieties=listed(varieties(), "comma")),
            message("Choose one"),
            "unknown_material",
        )
    return varieties()[key]
