"""The desks for a juice in hand: ways to clear it and ways to make it stronger, each worked out on this very juice and ranked."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from .contents import Contents
from .materials import Material, read_material
from .matter import MaterialFacts, Matter
from .operations.clarify import Agar, EggRaft, Enzyme, Gelatin, MilkClarify, Settle, enzyme_done
from .operations.concentrate import dripped
from .operations.strain import Filter
from .properties import sugar
from .properties.acidity import acid_g_100ml
from .properties.energy import minutes_to_drive_off
from .properties.ph import ph_or_neutral
from .ranges import Range
from .refusals import Refusal
from .steps import Step
from .sums.sheet import resolution_remark
from .typical import typical_materials

_POT_W = 1200.0
_FLAVOUR = {
    "enzyme": "keeps the flavour, a little rounder; warm hours cost some zest",
    "egg_raft": "takes bitterness and some aroma, and it is cooked",
    "agar": "keeps aroma; loses body",
    "gelatin": "the brightest, keeps aroma; loses body and some colour",
    "milk_clarify": "takes tannin and colour, leaves softness; thins it by the milk's water",
    "settle": "keeps everything; stays a little hazy",
    "filter": "keeps everything that passes; slow, and papers clog with pectin",
}
_WITHOUT = {
    "pectin_enzyme": "No enzyme: an egg raft, agar or gelatin clear without it; a long cold rest and paper where pectin is low.",
    "ascorbic_acid": "No ascorbic acid: work cold and fast and keep air out. Lemon juice brings 0.05 % of it and 6 % of citric acid, a scald stops browning and "
    "cooks it, citric acid slows it through pH; none of them protects for as long.",
    "egg_white": "No egg: agar clears without an allergen.",
    "agar": "No agar: gelatin with freeze and thaw, two days longer, and not vegan.",
    "gelatin": "No gelatin: agar, ready within two hours.",
}
NEEDS: Mapping[str, str] = {
    "enzyme": "pectin_enzyme",
    "egg_raft": "egg_white",
    "agar": "agar",
    "gelatin": "gelatin",
    "milk_clarify": "whole_milk",
}


@dataclass(frozen=True)
class _Desk:
    """A bench for one juice without doubts: every prior at its best value."""

    where: float = 0.0
    factor: float = 1.0
    capacity_ml: float | None = None

    def of(self, doubtful: Range) -> float:
        return doubtful.at(self.where)

    def facts(self, material: str) -> MaterialFacts:
        raise Refusal("Nothing of pieces is known here", material)


@dataclass(frozen=True, slots=True)
class Method:
    """One way to clear or strengthen this juice: its dose [g], time, loss and result with their ranges, what it brings along, what speaks against it."""

    verb: str
    name: str
    dose: str
    dose_g: float
    minutes: Range
    left_g: Range
    haze_taken: float | None
    brix: float
    sugar_g_100ml: float
    acid_g_100ml: float
    flavour: str
    gear: str
    allergens: tuple[str, ...]
    against: tuple[str, ...]
    missing: str

    def as_data(self) -> dict[str, Any]:
        data = {name: getattr(self, name) for name in self.__slots__}
        return {
            **data,
            "minutes": self.minutes.as_data(),
            "left_g": self.left_g.as_data(),
            "allergens": list(self.allergens),
            "against": list(self.against),
        }


def _juice(material: Material, mass_g: float) -> Matter:
    if not 1.0 <= mass_g <= 1e6:
        raise Refusal(f"{mass_g:g} g of juice cannot be", "mass_g", "from 1 g to 1 000 kg", "Weigh it", "out_of_bounds")
    unit = material.per_gram()
    if unit.of("water") < 0.3 or material.pieces:
        raise Refusal(f"{material.name} is no juice", "material", remedy="Choose a juice or a purée", code="not_a_liquid")
    return Matter(unit.scaled(mass_g))


_ADDS: Mapping[str, tuple[str, float, str, str, tuple[str, ...]]] = {
    # verb: (what, grams per gram of juice, dose in words, gear, allergens)
    "enzyme": ("Pectin enzyme", 0.0015, "0.15 % of the juice, by the maker's sheet", "fine scale, thermometer", ()),
    "egg_raft": ("Egg white", 0.066, "two whites a litre", "pot, whisk, probe", ("egg",)),
    "agar": ("Agar", 0.002, "2 g a litre, boiled in a quarter of it", "pot, cloth", ()),
    "gelatin": ("Gelatin", 0.005, "5 g a litre, frozen and thawed over a cloth", "freezer, cloth", ()),
    "milk_clarify": ("Whole milk", 0.2, "a fifth of its weight", "jug, paper", ("milk",)),
    "settle": ("", 0.0, "nothing; cold, and a hose", "tall jar, cold place", ()),
    "filter": ("", 0.0, "nothing; papers and patience", "paper, funnel", ()),
}
_STEPS: Mapping[str, type[Step]] = {
    "enzyme": Enzyme,
    "egg_raft": EggRaft,
    "agar": Agar,
    "gelatin": Gelatin,
    "milk_clarify": MilkClarify,
    "settle": Settle,
    "filter": Filter,
}
_NAMES: Mapping[str, str] = {
    "enzyme": "Pectin enzyme",
    "egg_raft": "Egg-white raft",
    "agar": "Agar",
    "gelatin": "Gelatin, frozen and thawed",
    "milk_clarify": "Milk",
    "settle": "Settle and rack",
    "filter": "Paper alone",
}


def _haze(contents: Contents) -> float:
    return contents.of("insolubles") + contents.of("pectin")


def clear_ways(
    material: Material, mass_g: float, *, warm_c: float = 45.0, missing: Iterable[str] = (), scale_g: float = 0.1
) -> tuple[Method, ...]:
    """Ways to clear `mass_g` [g] of a juice, best first: what works on it before what doesn't, then by the haze that stays, what is lost, and how long it takes.

    Each is worked out by its own operation on this juice, with the loss's 5 and 95 % points. The enzyme's time is what cuts nine tenths of the pectin at `warm_c`
    and this juice's pH. `missing`: materials that are not to be had; what needs them comes last, with what to do instead. Error: the loss and time as shown.
    Source: the operations' own.
    """
    juice = _juice(material, mass_g)
    described = typical_materials()
    gone = set(missing)
    found = []
    for verb, (what, share, dose, gear, allergens) in _ADDS.items():
        grams = share * mass_g
        added = NEEDS.get(verb)
        filled = Matter(juice.liquor + read_material(added, described[added]).per_gram().scaled(grams)) if added else juice
        step = _STEPS[verb](verb, "jar")
        minutes = _minutes(verb, juice.liquor, warm_c, step)
        if verb == "enzyme":
            step = Enzyme(verb, "jar", minutes=min(minutes.value, 20_000.0), temperature_c=warm_c)
        against = [remark.text for remark in step.remarks(filled, step.act(filled, _Desk()))]
        results = []
        for where in (0.0, -1.0, 1.0):
            results.append(step.act(filled, _Desk(where)).matter.liquor)
        middle = results[0]
        weights = [item.mass_g for item in results]
        # Of the juice's own haze; a fining's own matter stays with its lees.
        taken = max(0.0, 1.0 - _haze(middle) / _haze(juice.liquor)) if _haze(juice.liquor) > 0 else 1.0
        needs = NEEDS.get(verb, "")
        found.append(
            Method(
                verb,
                _NAMES[verb],
                dose,
                grams,
                minutes,
                Range(weights[0], min(weights), max(weights)),
                taken,
                sugar.brix(middle),
                sugar.sugar_g_100ml(middle),
                acid_g_100ml(middle),
                _FLAVOUR[verb],
                gear,
                allergens,
                (*against, *(resolution_remark(grams, scale_g, what.lower()) if grams else ())),
                _WITHOUT.get(needs, f"No {what.lower()}: another way below.") if needs in gone else "",
            )
        )
    bad = ("does not curdle", "kills", "about", "sets poorly", "not set", "holds the haze", "breaks down")

    def rank(item: Method) -> tuple[bool, bool, float]:
        fails = any(word in text for word in bad for text in item.against if "unsure" not in text)
        lost = 1.0 - item.left_g.value / (mass_g + item.dose_g)
        return bool(item.missing), fails, lost + item.minutes.value / 20_000.0 + 1.5 * (1.0 - (item.haze_taken or 0.0))

    return tuple(sorted(found, key=rank))


def _minutes(verb: str, juice: Contents, warm_c: float, step: Step) -> Range:
    if verb == "enzyme":
        pace = -math.log(1.0 - enzyme_done(1.0, warm_c, ph_or_neutral(juice), 1.0))
        needed = 100_000.0 if pace <= 2.3e-5 else -math.log(0.1) / pace
        return Range(needed, needed / 2.0, needed * 2.0)
    if verb == "filter":
        needed = 60.0 + 4.0 * juice.mass_g / 100.0
        return Range(needed, needed / 2.0, needed * 3.0)
    usual = float(getattr(step, "minutes", 60.0))
    return Range(usual, 0.7 * usual, 1.5 * usual)


def stronger_ways(
    material: Material, mass_g: float, want_brix: float, *, power_w: float = _POT_W, steep: float = 4.0
) -> tuple[Method, ...]:
    """Ways to bring a juice to `want_brix` [°Bx], what keeps most first: freeze and drip, under vacuum, in the pot.

    Drip: the share of the thaw whose drip together reads so; pot and vacuum: weight by solids. Refuses a target that it has passed. Error: the drip's
    strength 10 %, the pot's time that of its power. Source: `dripped`; mass and energy balance.
    """
    juice = _juice(material, mass_g).liquor
    have = sugar.brix(juice)
    if want_brix <= have:
        raise Refusal(f"{want_brix:g} °Bx is behind it already", "want_brix", f"it stands at {have:.1f}", "Thin it instead", "unreachable")
    ends = juice.mass_g * have / want_brix
    found = []
    kept = _drip_share(juice, want_brix, steep)
    if kept:
        caught, ice = dripped(juice, kept, steep, -18.0)
        lows = [share * juice.mass_g for k in (steep - 1.0, steep + 1.0) if (share := _drip_share(juice, want_brix, k))]
        found.append(
            _strong(
                "freeze_drip",
                "Freeze and drip",
                f"keep the first {100 * kept:.0f} % of the thaw",
                Range(1440.0, 960.0, 2880.0),
                Range(caught.mass_g, min([*lows, caught.mass_g]), max([*lows, caught.mass_g])),
                caught,
                "keeps aroma and colour; sugar stays in the ice",
                "freezer, bottle with head room, cold place",
                (f"The ice keeps {sugar.brix(ice):.1f} °Bx: melt it for a granita or the next syrup.",),
            )
        )
    steam = juice.mass_g - ends
    boiled = Contents({key: grams - (steam if key == "water" else 0.0) for key, grams in juice.liquid.grams.items()})
    minutes = minutes_to_drive_off(steam, 100.0, power_w)
    exact = Range.exact(ends)
    found.append(
        _strong(
            "vacuum_reduce",
            "Under vacuum",
            f"stop at {ends:.0f} g",
            Range(4.0 * minutes, 2.5 * minutes, 8.0 * minutes),
            exact,
            boiled,
            "keeps colour; the first vapour takes top notes along",
            "vacuum evaporator",
            ("Glass under vacuum: look for scratches, stand behind a guard.",),
        )
    )
    found.append(
        _strong(
            "reduce",
            "In the pot",
            f"stop at {ends:.0f} g",
            Range(minutes, 0.7 * minutes, 1.6 * minutes),
            exact,
            boiled,
            "cooked and darker; aroma leaves with the steam",
            "pot, scale",
            ("It scorches at the end: stir, and lower the heat.",),
        )
    )
    return tuple(found)


def _drip_share(juice: Contents, want: float, steep: float) -> float | None:
    """Share of the thaw whose drip reads `want` [°Bx]; none where even the first of it does not."""

    def stands(kept: float) -> float:
        return sugar.brix(dripped(juice, kept, steep, -18.0)[0])

    low, high = 0.02, 0.98
    if stands(low) < want:
        return None
    for _ in range(50):
        middle = (low + high) / 2.0
        low, high = (middle, high) if stands(middle) > want else (low, middle)
    return (low + high) / 2.0


def _strong(
    verb: str, name: str, dose: str, minutes: Range, left: Range, made: Contents, flavour: str, gear: str, against: tuple[str, ...]
) -> Method:
    return Method(
        verb,
        name,
        dose,
        0.0,
        minutes,
        left,
        None,
        sugar.brix(made),
        sugar.sugar_g_100ml(made),
        acid_g_100ml(made),
        flavour,
        gear,
        (),
        against,
        "",
    )
