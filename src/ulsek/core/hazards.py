"""Hazards: what must be said about a product because of what is in it, and how much of what is restricted a serve holds.

Limits and contents are dated, sourced data in ``data/hazards.json`` that a house may replace; every one says: check your own authority.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from . import say
from .materials import Material
from .ranges import Range
from .remarks import Remark, Severity
from .supply import material_of_key

FOLLOW = "Follow your local food code; ask your authority."
CLAIMS = ("nuts", "milk", "egg")
"""Allergens that a menu likes to claim a drink free from, and that every material here is judged for; others are not claimed."""
_NEAR = 0.5


@dataclass(frozen=True, slots=True)
class Restricted:
    """How much of a restricted substance a product holds, at worst all of it drawn out: mg per serve, and per litre of drink, with their ranges."""

    substance: str
    name: str
    materials: tuple[str, ...]
    per_serve_mg: Range
    per_litre_mg: Range
    limit: str
    share: float
    words: str
    source: str

    @property
    def severity(self) -> Severity:
        """Stop past the limit, check past half of it, else a note."""
        return "stop" if self.share > 1.0 else "check" if self.share > _NEAR else "note"

    @property
    def remark(self) -> Remark:
        """What the release check says of it."""
        amount = f"{say.amount(self.per_serve_mg.value, 'mg')} of {self.name} a serve, {say.amount(self.per_litre_mg.value, 'mg')} a litre of drink, if all of it comes out"
        return Remark(
            f"restricted_{self.substance}",
            self.severity,
            "",
            f"{amount} of {' and '.join(self.materials)}: {say.figure(100 * self.share, 0)} % of {self.limit}.",
            f"{self.words} {FOLLOW}",
        )

    def as_data(self) -> dict[str, Any]:
        return {
            "substance": self.substance,
            "name": self.name,
            "materials": list(self.materials),
            "per_serve_mg": self.per_serve_mg.as_data(),
            "per_litre_mg": self.per_litre_mg.as_data(),
            "limit": self.limit,
            "share": self.share,
            "severity": self.severity,
            "words": self.words,
            "source": self.source,
        }


@dataclass(frozen=True, slots=True)
class Hazards:
    """Allergens and cautions of everything that went in; `free_from` are claims worked out, never typed; `restricted` amounts, the worst first."""

    allergens: tuple[str, ...]
    cautions: tuple[str, ...]
    free_from: tuple[str, ...]
    restricted: tuple[Restricted, ...] = ()


@cache
def starting_limits() -> dict[str, Any]:
    """The limits and contents that ship with Ulsek."""
    limits: dict[str, Any] = json.loads((files("ulsek.core") / "data" / "hazards.json").read_text(encoding="utf-8"))
    return limits


def contained_mg(
    grams: Mapping[str, float], materials: Mapping[str, Material], limits: Mapping[str, Any] | None = None
) -> dict[str, Range]:
    """Milligrams [mg] of every restricted substance that went in, by the contents that are known of each material or that a nested spec brings up.

    10 g of cinchona bark: 200 mg of quinine, 100 to 600. Source: contents compiled from general food-science literature.
    """
    known = (limits or starting_limits())["materials"]
    sums: dict[str, Range] = {}
    for key, mass in grams.items():
        held = {name: Range(value, low, high) for name, (value, low, high) in known.get(material_of_key(key), {}).items()}
        held |= dict(materials[key].contains_mg_g) if key in materials else {}
        for substance, each in held.items():
            now = sums.get(substance, Range.exact(0.0))
            sums[substance] = Range(now.value + mass * each.value, now.low + mass * each.low, now.high + mass * each.high)
    return sums


def restricted_amounts(
    grams: Mapping[str, float],
    materials: Mapping[str, Material],
    volume_ml: float,
    serve_ml: float,
    limits: Mapping[str, Any] | None = None,
    *,
    is_drink: bool = False,
) -> tuple[Restricted, ...]:
    """Amounts of every restricted substance in a product of `volume_ml` [mL] made with these `grams` [g] by material, for a serve of `serve_ml` [mL].

    Worst case: all that the material holds is drawn out, and its high end is judged, in the drink as served: the product itself where it is one, else
    a serve of it in a usual drink. 10 g of cinchona bark in 1 L, 50 mL of it in 200 mL: 50 mg/L of quinine, 150 at most. Source: the limits' own, dated.
    """
    rules = limits or starting_limits()
    sums = contained_mg(grams, materials, rules)
    if not sums or volume_ml <= 0:
        return ()
    drink_ml = serve_ml if is_drink else max(serve_ml, rules["drink_ml"])
    found = []
    for substance, mg in sums.items():
        rule = rules["substances"][substance]
        serve = Range(*(part * serve_ml / volume_ml for part in (mg.value, mg.low, mg.high)))
        litre = Range(*(1000.0 * part / drink_ml for part in (serve.value, serve.low, serve.high)))
        shares = [
            (serve.high / rule["per_serve_mg"], f"{rule['per_serve_mg']:g} mg a serve") if "per_serve_mg" in rule else (0.0, ""),
            (litre.high / rule["per_litre_mg"], f"{rule['per_litre_mg']:g} mg/L in the drink") if "per_litre_mg" in rule else (0.0, ""),
        ]
        share, limit = max(shares)
        names = tuple(
            materials[key].name if key in materials else key.replace("_", " ") for key in grams if _holds(key, substance, materials, rules)
        )
        found.append(Restricted(substance, rule["name"], names, serve, litre, limit, share, rule["words"], rule["source"]))
    return tuple(sorted(found, key=lambda item: -item.share))


def _holds(key: str, substance: str, materials: Mapping[str, Material], rules: Mapping[str, Any]) -> bool:
    return substance in rules["materials"].get(material_of_key(key), {}) or (key in materials and substance in materials[key].contains_mg_g)


def hazards(materials: Iterable[Material], abv: float, restricted: tuple[Restricted, ...] = ()) -> Hazards:
    """Allergens and cautions carried from every material, each once, in the order they go in. `abv` [% vol] decides “alcohol”; a claim stands only
    where nothing that went in speaks against it.
    """
    used = list(materials)
    allergens = tuple(dict.fromkeys(word for material in used for word in material.allergens))
    cautions = tuple(dict.fromkeys(text for material in used for text in material.cautions))
    spirited = abv > 0.0 or any(material.per_gram().of("ethanol") > 0 for material in used)
    claims = [("alcohol", not spirited), ("animal products", all(material.vegan for material in used))]
    claims += [(word, word not in allergens) for word in CLAIMS]
    return Hazards(allergens, cautions, tuple(claim for claim, holds in claims if holds and used), restricted)
