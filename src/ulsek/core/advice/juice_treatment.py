"""Juice treatment: ways to clear a juice and ways to concentrate it, each computed for this juice and ranked."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from ..base.messages import NOTHING, Computed, Given, Message, listed, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.weighing import resolution_remark
from ..chemistry.contents import Contents
from ..materials.material import Material, read_material
from ..materials.reference_materials import typical_materials
from ..materials.vessel_state import MaterialFacts, VesselState
from ..operations.clarify import Agar, EggRaft, Enzyme, Gelatin, MilkClarify, Settle, enzyme_minutes
from ..operations.concentrate import dripped, kept_range
from ..operations.step import Step
from ..operations.strain import Filter
from ..properties import sugar
from ..properties.acidity import acid_g_100ml
from ..properties.energy import minutes_to_drive_off
from ..properties.ph import ph_or_neutral
from ..properties.water import ATMOSPHERE_KPA

_POT_W, _STEEP, _BLOCK_C = 1200.0, 4.0, -18.0
WARM_C, FINE_SCALE_G, STRONGER_BRIX, USUAL_G = 45.0, 0.1, 30.0, 1000.0
"""Warmth at which an enzyme usually works [°C], what a fine scale shows [g], how strong a juice is usually made [°Bx], and how much of it there usually is [g]. House experience."""
_SETTLES_MIN = 60.0
"""What the enzyme has cut needs about so long to settle in the cold [min]; house experience."""
_SLOW_MIN, _HAZE_WEIGHT = 20_000.0, 1.5
"""In the ranking so many minutes weigh as all of the juice lost, and haze that stays half as much again as juice that goes."""

_LEAST_WATER = 0.3
"""Mass share of water from which something can be treated as a juice. House judgement."""
_PAPER_MIN, _PAPER_MIN_G = 60.0, 0.04
"""Paper takes so long to wet and clog [min], and so much more for each gram [min/g]. House experience."""
_PAPER_SPREAD, _USUAL_SPREAD = Range(1.0, 0.5, 3.0), Range(1.0, 0.7, 1.5)
"""Spread of the time of paper, and of the other ways, as multiples of it. House experience."""
_VACUUM_TIMES, _POT_TIMES = Range(4.0, 2.5, 8.0), Range(1.0, 0.7, 1.6)
"""Duration of an evaporation under vacuum, and in a pot, each as a multiple of the minutes that the heater's power alone gives. House experience."""
_DRIP_MIN = Range(1440.0, 960.0, 2880.0)
"""Minutes that a block takes to freeze and drip. House experience."""


@dataclass(frozen=True, slots=True)
class _Way:
    """One way to clear: its verb, what is added per gram of juice [g/g], its effect on flavour, its equipment, and the substitute."""

    kind: type[Step]
    name: Message
    adds: str = ""
    share: float = 0.0
    dose: Message = NOTHING
    flavour: Message = NOTHING
    gear: Message = NOTHING
    without: Message = NOTHING


_WAYS = (
    _Way(
        Enzyme,
        message("Pectin enzyme"),
        "pectin_enzyme",
        0.0015,
        message("0.15 % of the juice, by the maker's sheet"),
        message("keeps the flavour, a little rounder; warm hours cost some zest"),
        message("fine scale, thermometer"),
        message("No enzyme: an egg raft, agar or gelatin clear without it; a long cold rest and paper where pectin is low."),
    ),
    _Way(
        EggRaft,
        message("Egg-white raft"),
        "egg_white",
        0.066,
        message("two whites a litre"),
        message("takes bitterness and some aroma, and it is cooked"),
        message("pot, whisk, probe"),
        message("No egg: agar clears without an allergen."),
    ),
    _Way(
        Agar,
        message("Agar"),
        "agar",
        0.002,
        message("2 g a litre, boiled in a quarter of it"),
        message("keeps aroma; loses body"),
        message("pot, cloth"),
        message("No agar: gelatin with freeze and thaw, two days longer, and not vegan."),
    ),
    _Way(
        Gelatin,
        message("Gelatin, frozen and thawed"),
        "gelatin",
        0.005,
        message("5 g a litre, over a cloth"),
        message("the brightest, keeps aroma; loses body and some colour"),
        message("freezer, cloth"),
        message("No gelatin: agar, ready within two hours."),
    ),
    _Way(
        MilkClarify,
        message("Milk"),
        "whole_milk",
        0.2,
        message("a fifth of its weight"),
        message("takes tannin and colour, leaves softness; thins it by the milk's water"),
        message("jug, paper"),
        message("No milk: an egg raft takes the same tannin."),
    ),
    _Way(
        Settle,
        message("Settle and rack"),
        dose=message("nothing; cold, and a hose"),
        flavour=message("keeps everything; stays a little hazy"),
        gear=message("tall jar, cold place"),
    ),
    _Way(
        Filter,
        message("Paper alone"),
        dose=message("nothing; papers and patience"),
        flavour=message("keeps everything that passes; slow, and papers clog with pectin"),
        gear=message("paper, funnel"),
    ),
)
_ASCORBIC = message(
    "No ascorbic acid: work cold and fast and keep air out. A scald stops browning and cooks it; citric acid slows it through its pH; lemon juice brings a "
    "trace of it (0.05 %) and 6 % of citric acid. None of them protects for as long."
)
_MISSABLE = {way.adds: way.without for way in _WAYS if way.adds} | {"ascorbic_acid": _ASCORBIC}


def missable() -> tuple[tuple[str, str], ...]:
    """Returns (key, name) of every material that may be unavailable and has a substitute."""
    described = typical_materials()
    return tuple((key, str(described[key]["name"]).split(",")[0].lower()) for key in _MISSABLE)


def without(missing: Iterable[str]) -> tuple[Message, ...]:
    """Returns the substitute for each unavailable material, by its key. Raises Refusal for a material that no way needs. Source: house experience."""
    asked = tuple(dict.fromkeys(missing))
    for key in asked:
        if key not in _MISSABLE:
            raise Refusal(
                message("No way needs “{key}”", key=key),
                "missing",
                message("there are {missable}", missable=listed(_MISSABLE, "comma")),
                message("Name one of them"),
                "unknown_word",
            )
    return tuple(_MISSABLE[key] for key in asked)


@dataclass(frozen=True, slots=True)
class _ReferenceContext:
    """The `StepContext` of one juice on its own: every prior moved by `z` half-ranges, nothing else in the vessels."""

    where: float = 0.0
    factor: float = 1.0
    capacity_ml: float | None = None
    pressure_kpa: float = ATMOSPHERE_KPA

    def value_of(self, figure: Range) -> float:
        return figure.at(self.where)

    def take_stream(self, name: str) -> VesselState | None:
        del name
        return None

    def facts(self, material: str) -> MaterialFacts:
        raise Refusal(message("Nothing of pieces is known here"), material)


@dataclass(frozen=True, slots=True)
class Method:
    """One way to clear or concentrate a juice: its dose [g], time [min], the mass that is left [g] and what that reads, its allergens, and what is against it."""

    verb: str
    name: Message
    dose: Message
    dose_g: float
    minutes: Range
    left_g: Range
    haze_taken: float | None
    brix: float
    sugar_g_100ml: float
    acid_g_100ml: float
    flavour: Message
    gear: Message
    allergens: tuple[str, ...]
    against: tuple[Message, ...]
    missing: bool


def _juice(material: Material, mass_g: float) -> VesselState:
    if not 1.0 <= mass_g <= 1e6:
        raise Refusal(
            message("{mass} g of juice cannot be", mass=Given(mass_g)),
            "mass_g",
            message("from 1 g to 1 000 kg"),
            message("Weigh it"),
            "out_of_bounds",
        )
    unit = material.per_gram()
    if unit.of("water") < _LEAST_WATER or material.pieces:
        raise Refusal(
            message("{material} is no juice", material=material.name),
            "material",
            remedy=message("Choose a juice or a purée"),
            code="not_a_liquid",
        )
    return VesselState(unit.scaled(mass_g))


def _haze(contents: Contents) -> float:
    return contents.of("insolubles") + contents.of("pectin")


def clear_ways(
    material: Material, mass_g: float, *, warm_c: float = WARM_C, missing: Iterable[str] = (), scale_g: float = FINE_SCALE_G
) -> tuple[Method, ...]:
    """Returns the ways to clear `mass_g` [g] of a juice, best first: without warnings, then by haze left, loss and time together; those that need a `missing`
    material last.

    Each is computed by its own operation on this juice, the loss with its 5 and 95 % points. The time of the enzyme is that which cuts half of the pectin at
    `warm_c` [°C] and the pH of this juice, and an hour to settle. Raises Refusal for a mass out of bounds and for what is no juice. Error: the ranges as
    returned. Source: the operations' own.
    """
    juice = _juice(material, mass_g)
    gone = frozenset(missing)
    without(gone)
    described = typical_materials()
    found = [_cleared(way, juice, warm_c, scale_g, described, way.adds in gone) for way in _WAYS]
    return tuple(method for _, method in sorted(found, key=lambda item: item[0]))


def _cleared(
    way: _Way, juice: VesselState, warm_c: float, scale_g: float, described: Mapping[str, Any], missing: bool
) -> tuple[tuple[bool, bool, float], Method]:
    """Returns (rank, method) of one way for this juice; the rank is (needs a missing material, warned of by its verb, cost of haze, loss and time)."""
    # Doses are by mass of the juice, as makers' sheets give them.
    grams = way.share * juice.liquid.mass_g
    added = read_material(way.adds, described[way.adds]) if way.adds else None
    filled = VesselState(juice.liquid + added.per_gram().scaled(grams)) if added else juice
    step = way.kind("clear", "jar")
    minutes = _minutes(step, juice.liquid, warm_c)
    if way.kind is Enzyme:
        # Settling is waiting only; the enzyme's own time decides what is cut.
        step = Enzyme("clear", "jar", minutes=minutes.value - _SETTLES_MIN, temperature_c=warm_c)
    remarks = tuple(step.remarks(filled, step.act(filled, _ReferenceContext())))
    middle, low, high = (step.act(filled, _ReferenceContext(where)).state.liquid for where in (0.0, -1.0, 1.0))
    # The range of the loss: every prior of the operation moved together.
    weights = [item.mass_g for item in (middle, low, high)]
    # Only the juice's own haze counts: the fining agent stays with the lees.
    # Pectin that the enzyme has begun to cut no longer stabilises haze.
    stays = middle.of("insolubles") if way.kind is Enzyme else _haze(middle)
    taken = max(0.0, 1.0 - stays / _haze(juice.liquid)) if _haze(juice.liquid) > 0 else 1.0
    method = Method(
        step.verb,
        way.name,
        way.dose,
        grams,
        minutes,
        Range(weights[0], min(weights), max(weights)),
        taken,
        sugar.brix(middle),
        sugar.sugar_g_100ml(middle),
        acid_g_100ml(middle),
        way.flavour,
        way.gear,
        added.allergens if added else (),
        (*(remark.text for remark in remarks), *(resolution_remark(grams, scale_g, added.name.lower()) if added else ())),
        missing,
    )
    warned = any(remark.severity != "note" for remark in remarks)
    # Loss, time and haze in one figure, each as a share of what would be unbearable.
    lost = 1.0 - method.left_g.value / filled.mass_g
    return (missing, warned, lost + minutes.value / _SLOW_MIN + _HAZE_WEIGHT * (1.0 - taken)), method


def _minutes(step: Step, juice: Contents, warm_c: float) -> Range:
    if isinstance(step, Enzyme):
        works = enzyme_minutes(warm_c, ph_or_neutral(juice), 1.0, where="warm_c")
        return Range(*(minutes + _SETTLES_MIN for minutes in (works.value, works.low, works.high)))
    if isinstance(step, Filter):
        needed = _PAPER_MIN + _PAPER_MIN_G * juice.mass_g
        return _PAPER_SPREAD.times(needed)
    usual = float(getattr(step, "minutes", 60.0))
    return _USUAL_SPREAD.times(usual)


def stronger_ways(
    material: Material, mass_g: float, want_brix: float, *, power_w: float = _POT_W, steep: float = _STEEP
) -> tuple[Method, ...]:
    """Returns the ways to concentrate a juice to `want_brix` [°Bx], the gentlest first: freeze and drip, under vacuum, in the pot.

    Raises Refusal for a target at or below the juice's own. Error: 10 % of the strength of the drip; the time in the pot that of its power [W]. Source:
    `dripped`; mass and energy balance.
    """
    juice = _juice(material, mass_g).liquid
    have = sugar.brix(juice)
    if want_brix <= have:
        raise Refusal(
            message("{want_brix} °Bx is behind it already", want_brix=Given(want_brix)),
            "want_brix",
            message("it stands at {have}", have=Computed(have, decimals=1)),
            message("Thin it instead"),
            "unreachable",
        )
    # Dissolved solids stay, so the mass that is left follows from both °Bx.
    ends = juice.mass_g * have / want_brix
    drip = _by_drip(juice, want_brix, steep)
    steam = juice.mass_g - ends
    # Only water leaves in either way: aroma is beyond what is computed, and is told in words.
    boiled = Contents({key: grams - (steam if key == "water" else 0.0) for key, grams in juice.solution.grams.items()})
    minutes = minutes_to_drive_off(steam, 100.0, power_w)
    stop_at = message("stop at {ends} g", ends=Computed(ends, decimals=0))
    vacuum = _Strengthened(
        "vacuum_reduce",
        message("Under vacuum"),
        stop_at,
        _VACUUM_TIMES.times(minutes),
        Range.exact(ends),
        boiled,
        message("keeps colour; the first vapour takes top notes along"),
        message("vacuum evaporator"),
        message("Glass under vacuum: look for scratches, stand behind a guard."),
    )
    pot = _Strengthened(
        "reduce",
        message("In the pot"),
        stop_at,
        _POT_TIMES.times(minutes),
        Range.exact(ends),
        boiled,
        message("cooked and darker; aroma leaves with the steam"),
        message("pot, scale"),
        message("It scorches at the end: stir, and lower the heat."),
    )
    return tuple(way.method for way in (drip, vacuum, pot) if way is not None)


@dataclass(frozen=True, slots=True)
class _Strengthened:
    """One way to a stronger juice: its verb, name and dose, its time [min], the mass that is left [g] and what that holds, and what to know of it."""

    verb: str
    name: Message
    dose: Message
    minutes: Range
    left_g: Range
    made: Contents
    flavour: Message
    gear: Message
    against: Message

    @property
    def method(self) -> Method:
        """The way as a method of treatment: nothing is added, no haze is taken, no allergens come in."""
        return Method(
            self.verb,
            self.name,
            self.dose,
            0.0,
            self.minutes,
            self.left_g,
            None,
            sugar.brix(self.made),
            sugar.sugar_g_100ml(self.made),
            acid_g_100ml(self.made),
            self.flavour,
            self.gear,
            (),
            (self.against,),
            False,
        )


def _by_drip(juice: Contents, want_brix: float, steep: float) -> _Strengthened | None:
    """Returns the way by freezing and dripping to `want_brix` [°Bx]; None if no drip is as strong as that."""
    try:
        kept = kept_range(juice, want_brix, steep, _BLOCK_C)
    except Refusal:
        return None
    caught, ice = dripped(juice, kept.value, steep, _BLOCK_C)
    return _Strengthened(
        "freeze_drip",
        message("Freeze and drip"),
        message("keep the first {kept} % of the thaw", kept=Computed(100 * kept.value, decimals=0)),
        _DRIP_MIN,
        Range(*(share * juice.mass_g for share in (kept.value, kept.low, kept.high))),
        caught,
        message("keeps aroma and colour; sugar stays in the ice"),
        message("freezer, bottle with head room, cold place"),
        message("The ice keeps {brix} °Bx: melt it for a granita or the next syrup.", brix=Computed(sugar.brix(ice), decimals=1)),
    )
