"""Hazards of a product by its materials: allergens, cautions, and restricted substances per serve.

Limits and contents are dated, sourced data in ``data/hazards.json`` that a house may replace; each refers to the authority.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.answer import HIDDEN, in_answer, json_member
from ..base.figures import MOST_G
from ..base.messages import NOTHING, Computed, Given, Message, grams, listed, message, sentences, template, term, verbatim
from ..base.ranges import Range
from ..base.remarks import Remark, Severity
from ..materials.material import Material
from ..materials.supply import material_of_key
from ..spec.served_in import ServedIn

FOLLOW = message("Follow your local food code; ask your authority.")
CLAIMS = ("nuts", "milk", "egg")
"""Allergens that a menu likes to claim a drink free from, and that every material here is judged for; others are not claimed."""
OTHER_CLAIMS = ("alcohol", "animal products")
"""What else a menu likes to claim a drink free from."""
_TOLD_APART = 1.001
"""Ratio from which the typical and the worst amount print apart."""
_NEAR = 0.5


def bottle_words(allergens: Sequence[str], unknown: Sequence[str] = (), *, asks: bool = False) -> Message:
    """Returns what the label of one bottle says: what is in it, never that it is free of anything. `asks` is True if it refers to the lead in any case.

    “nuts. Answer for the drink.”; “none listed. Answer for the drink; ask the lead.”
    """
    held = message("{allergens}.", allergens=listed(map(term, allergens), "comma")) if allergens else message("none listed.")
    asked = message("Nobody has said what {names} holds.", names=listed(unknown)) if unknown else NOTHING
    # Naming nothing is not the same as knowing that nothing is in it, so only a complete list goes without the lead.
    sure = allergens and not unknown and not asks
    return sentences(held, asked, message("Answer for the drink.") if sure else message("Answer for the drink; ask the lead."))


@dataclass(frozen=True, slots=True)
class AsPoured:
    """The drink in which restricted amounts are judged: `dose_ml` of the product in `drink_ml`, `alcoholic` or not (None: unknown), and whether that was said
    or is a prudent worst case.
    """

    dose_ml: float
    drink_ml: float
    alcoholic: bool | None
    said: bool

    @property
    def words(self) -> Message:
        """Text of the dose: "20 mL in a drink of 180 mL"."""
        dose = Computed(self.dose_ml, "mL", 0 if self.dose_ml >= 10 else 1)
        return message("{dose} in a drink of {drink}", dose=dose, drink=Computed(self.drink_ml, "mL", 0))


def as_poured(
    serve_ml: float,
    abv: float,
    served_in: ServedIn | None,
    rules: Mapping[str, Any],
    *,
    is_drink: bool = False,
    alcoholic: bool | None = None,
) -> AsPoured:
    """Returns the drink in which a product of `abv` [% vol] is judged: itself if it is a drink; the one that its spec is for; else a serve of it in a short
    drink, with or without alcohol. Strength from 1.2 % vol makes a drink alcoholic.
    """
    from_abv = rules["drink"]["alcoholic_from_abv"]
    if is_drink:
        return AsPoured(serve_ml, serve_ml, abv > from_abv, said=True)
    # Nobody said what it is poured into: the smallest usual drink gives the highest concentration.
    dose, size = (
        (served_in.dose_ml, served_in.drink_ml) if served_in is not None else (serve_ml, max(serve_ml, float(rules["drink"]["worst_ml"])))
    )
    said = served_in.alcoholic if served_in is not None else alcoholic
    return AsPoured(dose, size, True if abv * dose / size > from_abv else said, said=served_in is not None)


@dataclass(frozen=True, slots=True)
class AtMost:
    """The mass of one material in a batch [g], and the most that the limit allows."""

    material: str
    name: str
    now_g: float
    most_g: float


@dataclass(frozen=True, slots=True)
class Restricted:
    """The amount of a restricted substance in a product, with all of it extracted: mg per serve, and per litre of drink, with their ranges.

    `share` is the high end relative to the `limit`; `at_most` is the amount of each material that just meets it.
    """

    substance: str = field(metadata=json_member(stored=""))
    name: str
    at_most: tuple[AtMost, ...] = field(metadata=json_member(stored=()))
    per_serve_mg: Range
    per_litre_mg: Range
    limit: Message
    share: float
    words: Message
    source: str
    poured: AsPoured = field(metadata=HIDDEN)

    @property
    @in_answer()
    def materials(self) -> tuple[str, ...]:
        """Names of the materials that hold it."""
        return tuple(item.name for item in self.at_most)

    @property
    @in_answer()
    def severity(self) -> Severity:
        """ "stop" above the limit, "check" above half of it, else "note"."""
        return "stop" if self.share > 1.0 else "check" if self.share > _NEAR else "note"

    @property
    @in_answer(stored="")
    def told(self) -> Message:
        """Text of the amount and its drink: the milligrams and the percent of the limit at the high end."""
        return message(
            "{serve} of {substance} a serve, {litre} a litre of drink, if all of it comes out of {materials}: at worst {share} % of {limit}, {poured}.",
            serve=_at_worst(self.per_serve_mg),
            litre=_at_worst(self.per_litre_mg),
            substance=term(self.name),
            materials=listed(self.materials),
            share=Computed(100 * self.share, decimals=0),
            limit=self.limit,
            poured=self.poured.words,
        )

    @property
    @in_answer(stored=None)
    def dose_ml(self) -> float:
        """Volume of the product in the drink [mL]."""
        return self.poured.dose_ml

    @property
    @in_answer(stored=None)
    def drink_ml(self) -> float:
        """Volume of the drink [mL]."""
        return self.poured.drink_ml

    @property
    @in_answer(stored=True)
    def drink_said(self) -> bool:
        """True if somebody said what that drink is."""
        return self.poured.said

    @property
    def remark(self) -> Remark:
        """Returns the remark of the release check, with the most of each material that the limit allows."""
        most = listed(
            message("{most} of {material}, and it holds {now}", most=grams(item.most_g), material=item.name.lower(), now=grams(item.now_g))
            for item in self.at_most
        )
        at_most = message("At most {most}.", most=most) if self.share > _NEAR else NOTHING
        return Remark(f"restricted_{self.substance}", self.severity, "", self.told, sentences(at_most, self.words, FOLLOW))


def _at_worst(mg: Range) -> Message:
    """Returns "10 mg (at worst 30 mg)"; one figure if both are the same."""
    if mg.high > mg.value * _TOLD_APART:
        return message("{mass} (at worst {most})", mass=Computed(mg.value, "mg"), most=Computed(mg.high, "mg"))
    return verbatim(Computed(mg.value, "mg"))


@dataclass(frozen=True, slots=True)
class Hazards:
    """Allergens and cautions of everything that went in; `free_from` are claims that are computed, never typed; `restricted` amounts, the largest share first;
    `unknown` are the materials whose allergens are unknown.
    """

    allergens: tuple[str, ...]
    cautions: tuple[str, ...]
    free_from: tuple[str, ...]
    restricted: tuple[Restricted, ...] = ()
    unknown: tuple[str, ...] = ()


@cache
def starting_limits() -> Mapping[str, Any]:
    """Returns the limits and contents that ship."""
    limits: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "hazards.json").read_text(encoding="utf-8"))
    return limits


def contained_mg(
    grams: Mapping[str, float], materials: Mapping[str, Material], limits: Mapping[str, Any] | None = None
) -> dict[str, Range]:
    """Returns the mass [mg] of every restricted substance that went in, by the contents of each material or of a nested spec.

    10 g of cinchona bark: 200 mg of quinine, 100 to 600. Source: contents compiled from general food-science literature.
    """
    known = (limits or starting_limits())["materials"]
    sums: dict[str, Range] = {}
    for key, mass in grams.items():
        held = {name: Range(value, low, high) for name, (value, low, high) in known.get(material_of_key(key), {}).items()}
        # What the house itself stated of a material goes before the table.
        held |= dict(materials[key].contains_mg_g) if key in materials else {}
        for substance, each in held.items():
            now = sums.get(substance, Range.exact(0.0))
            sums[substance] = Range(now.value + mass * each.value, now.low + mass * each.low, now.high + mass * each.high)
    return sums


_LIMITS = (("per_serve_mg", False, template("{most} mg a serve")), ("per_litre_mg", True, template("{most} mg/L in the drink")))


def _limits_of(rule: Mapping[str, Any], alcoholic: bool | None) -> list[tuple[float, bool, Message]]:
    """Returns (mg, whether it is per litre, text) of every limit that may apply; both if it is unknown whether the drink holds alcohol."""
    found = [(rule[key], per_litre, said.with_values(most=Given(rule[key]))) for key, per_litre, said in _LIMITS if key in rule]
    # It is not known whether the drink holds alcohol: both limits apply, and the stricter decides.
    if alcoholic is not False and "alcoholic_per_litre_mg" in rule:
        most = rule["alcoholic_per_litre_mg"]
        found.append((most, True, message("{most} mg/L in a drink with alcohol", most=Given(most))))
    if alcoholic is not True and "alcohol_free_per_litre_mg" in rule:
        most = rule["alcohol_free_per_litre_mg"]
        found.append((most, True, message("{most} mg/L in a drink without alcohol", most=Given(most))))
    return found


def restricted_amounts(
    grams: Mapping[str, float],
    materials: Mapping[str, Material],
    volume_ml: float,
    poured: AsPoured,
    limits: Mapping[str, Any] | None = None,
) -> tuple[Restricted, ...]:
    """Returns the amounts of every restricted substance in a product of `volume_ml` [mL] made with these `grams` [g] by material, in the drink as poured.

    All of it is taken as extracted, and the high end is judged. 10 g of cinchona bark in 1 L, 50 mL of it in 200 mL: 50 mg/L of quinine, 150 at most, and 5.5 g
    of bark at most for 83 mg/L. Source: the limits' own, dated.
    """
    rules = limits or starting_limits()
    sums = contained_mg(grams, materials, rules)
    if not sums or volume_ml <= 0:
        return ()
    found = []
    for substance, mg in sums.items():
        rule = rules["substances"][substance]
        # All that went in counts as dissolved: extraction is never known well enough to rely on.
        serve = Range(*(part * poured.dose_ml / volume_ml for part in (mg.value, mg.low, mg.high)))
        litre = Range(*(1000.0 * part / poured.drink_ml for part in (serve.value, serve.low, serve.high)))
        # Judged at the high end: a limit that the typical content meets may be passed by the batch in hand.
        shares = [((litre if per_litre else serve).high / most, words) for most, per_litre, words in _limits_of(rule, poured.alcoholic)]
        # The limit that is used up most is the one that decides.
        share, limit = max(shares, key=lambda item: item[0], default=(0.0, message("no limit")))
        at_most = tuple(
            AtMost(
                # Every source scales alike, so what each may be at most follows from the one share.
                key,
                materials[key].name if key in materials else key.replace("_", " "),
                mass,
                mass / share if share > 0 else float(MOST_G),
            )
            for key, mass in grams.items()
            if _holds(key, substance, materials, rules)
        )
        found.append(Restricted(substance, rule["name"], at_most, serve, litre, limit, share, term(rule["words"]), rule["source"], poured))
    return tuple(sorted(found, key=lambda item: -item.share))


def _holds(key: str, substance: str, materials: Mapping[str, Material], rules: Mapping[str, Any]) -> bool:
    return substance in rules["materials"].get(material_of_key(key), {}) or (key in materials and substance in materials[key].contains_mg_g)


def hazards(materials: Iterable[Material], abv: float, restricted: tuple[Restricted, ...] = ()) -> Hazards:
    """Returns the allergens and cautions of every material, each once, in the order in which they go in. `abv` [% vol] decides “alcohol”. A claim holds only if
    nothing contradicts it and it is known of everything.
    """
    used = list(materials)
    allergens = tuple(dict.fromkeys(word for material in used for word in material.allergens))
    cautions = tuple(dict.fromkeys(text for material in used for text in material.cautions))
    unknown = tuple(dict.fromkeys(material.name for material in used if not material.allergens_known))
    # A spoon of tincture may round to 0 % vol, yet the drink is not free of alcohol.
    spirited = abv > 0.0 or any(material.per_gram().of("ethanol") > 0 for material in used)
    alcohol, animal = OTHER_CLAIMS
    claims = [(alcohol, not spirited), (animal, not unknown and all(material.vegan for material in used))]
    # One material of which nobody knows the allergens ends every claim.
    claims += [(word, not unknown and word not in allergens) for word in CLAIMS]
    return Hazards(allergens, cautions, tuple(claim for claim, holds in claims if holds and used), restricted, unknown)
