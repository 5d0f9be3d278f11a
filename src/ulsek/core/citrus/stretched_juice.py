"""Stretched juice: a juice at several times its volume with acids in its own split and oil of its peel, compared with fresh juice and other sours."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal, cast

from ..base import number_format
from ..base.messages import Computed, Given, Message, message, sentences
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..evaluation.flow import flow
from ..evaluation.flow_values import Inputs
from ..evaluation.line_mass import Reach, amounts_to_reach
from ..materials.composition import ByReading
from ..materials.material import Material
from ..properties.acidity import acid_g_100ml, acids_in_split
from ..properties.density import volume_ml
from ..properties.sugar import sugar_g_100ml
from ..spec.json_form import FORMAT, FORMAT_VERSION, read_spec
from .fruit import Variety
from .house_experience import figure, prior

School = Literal["rest", "blend"]
SHARP_G_100ML = 0.8
"""From here on a mixer counts as a sour [g/100 mL]; house experience."""


@dataclass(frozen=True, slots=True)
class Stretched:
    """A stretched juice: what goes in [g, mL], its figures and those of the fresh juice, its cost and saving."""

    juice_ml: float
    acids_g: Mapping[str, float]
    peel_g: float
    water_g: float
    volume_ml: float
    sugar_g_100ml: float
    acid_g_100ml: float
    oil_mg_l: Range
    fresh: Mapping[str, float]
    fruit_saved: float
    cost_litre: float | None
    fresh_litre: float | None
    hours: float
    remarks: tuple[Message, ...]


MOST_TIMES = 12.0
"""Most times its volume that a juice is stretched to. House experience."""
USUAL_ML, USUAL_TIMES = 1000.0, 4.0
"""How much juice is usually stretched [mL], and to how many times it. House experience."""
SERVE_ML = 25.0
"""A serve of fresh juice [mL] that other sours are held beside. House experience."""
_BOTTLE_ML, _ROOM_PERCENT, _KEEP_C = 500, 5, 4
"""How a stretched juice is bottled and kept: bottles [mL], head room [%], temperature [°C]. House experience."""
_OIL_MG_L = (1.0, 1e5)
"""Least and most limit of oil that can be asked for [mg/L]. House judgement."""
MOST_OIL_MG_L = figure("oil_mg_l_most")
"""Oil of the peel [mg/L] above which it tastes of it. House experience."""


@dataclass(frozen=True, slots=True)
class StretchInputs:
    """`juice_ml` [mL] of a juice to stretch to `times` its volume, with its zest resting with the acids or blended in (`school`).

    `target` is the titratable acid of the product [g/100 mL; None: that of the juice], `peel_g` the zest [g; None: all that the fruit has], of which
    `most_oil_mg_l` [mg/L; None: `MOST_OIL_MG_L`] bounds the oil.
    """

    juice_ml: float
    times: float
    school: School = "rest"
    target: float | None = None
    peel_g: float | None = None
    most_oil_mg_l: float | None = None

    def check(self) -> None:
        """Raises Refusal, at its field, for a figure that is out of bounds."""
        if not 1.0 < self.times <= MOST_TIMES:
            raise Refusal(
                message("{times} times cannot be", times=Given(self.times)),
                "times",
                message("above 1, at most 12"),
                message("Beyond it is flavoured acid water"),
                "out_of_bounds",
            )
        if not 1.0 <= self.juice_ml <= 1_000_000:
            raise Refusal(
                message("{juice} mL of juice cannot be", juice=Given(self.juice_ml)),
                "juice_ml",
                message("from 1 mL to 1 000 L"),
                code="out_of_bounds",
            )
        for value, where, least, most, unit in (
            (self.peel_g, "peel_g", 0.0, 1e6, "g"),
            (self.most_oil_mg_l, "most_oil_mg_l", *_OIL_MG_L, "mg/L"),
        ):
            if value is not None and not least <= value <= most:
                raise Refusal(
                    message("{value} {unit} cannot be", value=Given(value), unit=unit),
                    where,
                    message("from {least} to {most} {unit}", least=Given(least), most=Given(most), unit=unit),
                    code="out_of_bounds",
                )


@dataclass(frozen=True, slots=True)
class OwnFruit:
    """What is known of the fruit in hand: its juice as read, the share of its mass that is juice [0 to 1], prices per kg of it and of acid. None: typical, or unknown."""

    juice: Material | None = None
    juice_share: float | None = None
    price_kg: float | None = None
    acid_kg: float | None = None


TYPICAL = OwnFruit()


def stretch(of: Variety, asked: StretchInputs, own: OwnFruit = TYPICAL) -> Stretched:
    """Returns a citrus juice stretched with acids in the juice's own split, water to the line, and the oil of its peel. Without both prices it has no cost.

    1 L of bergamot at 4.8 g/100 mL to four times: 144 g of acids, 2.91 L of water. Error: acid that of the reading, oil a factor of two.
    Raises Refusal for figures out of bounds, and for an acid that cannot be reached. Source: mass balance; definition of titratable acid; house experience of oil.
    """
    asked.check()
    juice = own.juice or of.juice
    # What was read of the juice in hand, else what is typical of its variety.
    read = juice.measured()
    volume = asked.times * asked.juice_ml
    start = juice.per_gram().solution
    # Measures are by volume and balances by mass.
    start = start.scaled(asked.juice_ml * read["density_g_ml"] / start.mass_g)
    acids, water = _acids_and_water(of, asked, read["acid_g_100ml"], start)
    made = start + Contents(acids) + Contents({"water": water})
    # The fruit that gave the juice: its skin is what the oil comes from.
    fruit_g = asked.juice_ml * read["density_g_ml"] / (of.juice_share.value if own.juice_share is None else own.juice_share)
    zest, remarks = _zest_g(of, asked, fruit_g)
    # Fruit and acid are bought by mass; the water is free.
    acid = sum(acids.values())
    fresh_cost = None if own.price_kg is None else own.price_kg * fruit_g / asked.juice_ml
    cost = None if own.price_kg is None or own.acid_kg is None else (own.price_kg * fruit_g + own.acid_kg * acid) / volume
    return Stretched(
        asked.juice_ml,
        acids,
        zest,
        water,
        volume,
        sugar_g_100ml(made),
        acid_g_100ml(made),
        _oil_mg_l(of, asked, zest),
        {"sugar_g_100ml": read["sugar_g_100ml"], "acid_g_100ml": read["acid_g_100ml"], "oil_mg_l": prior("oil_mg_l_fresh").value},
        # At n times the volume each litre needs one n-th of the fruit.
        1.0 - 1.0 / asked.times,
        cost,
        fresh_cost,
        figure("stretch_hours", asked.school),
        (
            *remarks,
            message("Skin and sun: gloves for bergamot peel.")
            if of.key == "bergamot"
            else message("Unwaxed or scrubbed fruit: the peel lies in the drink."),
            message("On a menu “juice” has a legal meaning that differs by place: call it stretched, and ask your authority."),
        ),
    )


def _acids_and_water(of: Variety, asked: StretchInputs, acid: float, start: Contents) -> tuple[dict[str, float], float]:
    """Returns the mass of each acid and of the water [g] that bring the juice, of `acid` [g/100 mL], to the acid and volume asked for. Raises Refusal if none do."""
    aim, volume = acid if asked.target is None else asked.target, asked.times * asked.juice_ml
    # Acid can be added, not taken out.
    if aim * asked.times <= acid:
        raise Refusal(
            message("{aim} g/100 mL is on the wrong side", aim=Given(aim)),
            "target",
            message(
                "the juice alone brings {acid} to {times} times", acid=Computed(acid / asked.times, decimals=2), times=Given(asked.times)
            ),
            message("Aim higher, or thin it with water alone"),
            "unreachable",
        )
    # The juice's own proportions of acids, or the product tastes of citric acid alone.
    split = acids_in_split(cast("ByReading", of.juice.composition).acid_split, 1.0)
    whole = sum(split.values())
    reaches = [
        Reach("acid_g_100ml", aim, "Acids", Contents(split).scaled(1.0 / whole)),
        Reach("volume_ml", volume, "Water", Contents({"water": 1.0})),
    ]
    # Acids take up volume and water dilutes acid: both amounts follow from one linear system.
    found = amounts_to_reach(start, reaches)
    if found is None or min(found) < -1e-9:
        raise Refusal(
            message("{aim} g/100 mL does not fit", aim=Given(aim)),
            "target",
            message("into {volume} mL", volume=Computed(volume, decimals=0)),
            message("Aim lower"),
            "unreachable",
        )
    return {key: found[0] * grams / whole for key, grams in split.items()}, found[1]


def _oil_mg_l(of: Variety, asked: StretchInputs, zest_g: float) -> Range:
    """Returns the oil of the product [mg/L] from `zest_g` [g] of zest. Error a factor of two. Source: house experience."""
    # Oil in the zest × the share that the school brings into the liquid: both ends together give the range.
    litres, kept = asked.times * asked.juice_ml / 1000.0, prior("oil_kept", asked.school)
    return Range(*(1000.0 * zest_g * a * b / litres for a, b in zip(_points(of.zest_oil), _points(kept), strict=True)))


def _zest_g(of: Variety, asked: StretchInputs, fruit_g: float) -> tuple[float, list[Message]]:
    """Returns the zest [g] that keeps the oil within its limit, of `fruit_g` [g] of fruit, and what is to be said of it."""
    limit = MOST_OIL_MG_L if asked.most_oil_mg_l is None else asked.most_oil_mg_l
    zest = of.zest_share * fruit_g if asked.peel_g is None else asked.peel_g
    remarks = []
    has = fruit_g * of.peel_share
    if asked.peel_g is not None and asked.peel_g > has:
        peel = Computed(asked.peel_g, decimals=0)
        fruit = Computed(has, decimals=0)
        remarks.append(
            message("{peel} g of peel are more than these fruits have, about {fruit} g: it comes from others.", peel=peel, fruit=fruit)
        )
    # Oil is in proportion to the zest, so the limit scales it directly.
    oil = _oil_mg_l(of, asked, zest).value
    if oil > limit:
        zest *= limit / oil
        remarks.append(
            message(
                "Peel held to {zest} g, so that oil stays at {limit} mg/L; the rest makes an oil-sugar.",
                zest=Computed(zest, decimals=0),
                limit=Computed(limit, decimals=0),
            )
        )
    return zest, remarks


ACID_HOLDS = 0.03
"""Share of its acid within which a stretched juice is right; house experience: a fruit more or less."""


_PASSES = 8
"""Times that a spec is made in thought until what its strained zest holds back is made up for; each leaves about a twentieth of the error."""


def stretched_spec(of: Variety, made: Stretched, school: School, materials: Mapping[str, Material]) -> dict[str, Any]:
    """Returns the spec file of a stretched juice: by mass, everything by ratio to the zest that rests with the acids, or to the juice that is blended.

    Acids and water are raised until the bottles hold the stretched juice in spite of what the strained zest keeps back. The goal is the acid that was reached,
    ± 3 %. `materials` hold the fruit's juice and zest, the acids and water. Raises Refusal for a spec that cannot be made.
    """
    acids = water = 1.0
    for _ in range(_PASSES):
        body = _as_spec(of, made, school, materials[f"{of.key}_juice"], acids, water)
        done = flow(Inputs(read_spec(body), materials))
        if done.refusal is not None:
            raise done.refusal
        liquid = done.vessels["jar"].liquid
        # Acid is corrected by a factor, since it is in proportion; water by a difference, since volumes nearly add.
        off = made.acid_g_100ml / acid_g_100ml(liquid)
        water += (made.volume_ml - volume_ml(liquid)) / made.water_g
        # The zest holds back liquid with its acid: correct both factors by what came out, and make it again.
        acids *= off
    if abs(off - 1.0) > ACID_HOLDS:
        raise Refusal(
            message("The zest keeps so much back that no acid makes up for it"),
            "peel_g",
            remedy=message("Use less of it"),
            code="unreachable",
        )
    return body


def _as_spec(of: Variety, made: Stretched, school: School, juice: Material, acids: float, water: float) -> dict[str, Any]:
    """Returns the spec file with the acids and the water of the stretched juice multiplied by factors."""
    grams = made.juice_ml * juice.measured()["density_g_ml"]
    driver, first_g = ("zest", made.peel_g) if school == "rest" else ("juice", grams)

    def line(key: str, material: str, mass_g: float) -> dict[str, Any]:
        ratio = {"kind": "ratio", "to": {"line": driver}, "basis": "weight", "ratio": float(f"{mass_g / first_g:.6g}")}
        return {"id": key, "material": material, "amount": {"kind": "fixed", "mass_g": float(f"{mass_g:.6g}")} if key == driver else ratio}

    rind, fruit = line("zest", f"{of.key}_zest", made.peel_g), line("juice", juice.key, grams)
    sours, wet = [line(key, key, acids * mass) for key, mass in made.acids_g.items()], line("water", "water", water * made.water_g)
    rested: list[dict[str, Any]] = [
        {"verb": "dry_mix", "lines": [rind, *sours]},
        {"verb": "rest", "minutes": 60.0 * made.hours, "temperature_c": 20},
        {"verb": "combine", "lines": [wet]},
        {"verb": "strain"},
        {"verb": "combine", "lines": [fruit]},
    ]
    blended: list[dict[str, Any]] = [{"verb": "blend", "lines": [fruit, rind, wet, *sours]}, {"verb": "strain"}]
    bottled = {"verb": "bottle", "bottle_ml": _BOTTLE_ML, "head_room_percent": _ROOM_PERCENT, "keep_c": _KEEP_C}
    steps = [*(rested if school == "rest" else blended), bottled]
    # The goal is what was reached, not what was asked for: the maker reads it on the batch.
    goal = {"property": "acid_g_100ml", "value": round(made.acid_g_100ml, 2), "tolerance": round(ACID_HOLDS * made.acid_g_100ml, 3)}
    return {
        "format": FORMAT,
        "version": FORMAT_VERSION,
        "name": f"Stretched {of.name.lower()}, {number_format.given(made.volume_ml / made.juice_ml, 2)} times",
        "family": "stretched_citrus",
        "driver": driver,
        "serve_ml": int(SERVE_ML),
        "vessels": [{"id": "jar", "name": "jar"}],
        "goals": [goal],
        "note": sentences(*made.remarks).text(),
        "steps": [{"id": f"s{n}", "vessel": "jar", **step} for n, step in enumerate(steps, 1)],
    }


def _points(of: Range) -> tuple[float, float, float]:
    return of.value, of.low, of.high


def sours_at_equal(
    mixers: Sequence[tuple[str, float, float]], fresh_sugar: float, fresh_acid: float
) -> tuple[tuple[Mixer, ...], tuple[Mixer, ...]]:
    """Returns the doses of several mixers that bring the acid, and those that bring the sugar, of a serve of `SERVE_ML` of fresh juice [g/100 mL]. Exact."""
    return (
        at_equal(mixers, "acid", SERVE_ML * fresh_acid / 100.0),
        at_equal(mixers, "sugar", SERVE_ML * fresh_sugar / 100.0),
    )


@dataclass(frozen=True, slots=True)
class Mixer:
    """A mixer at a dose [mL], with the sugar and acid in that dose [g]."""

    name: str
    dose_ml: float
    sugar_g: float
    acid_g: float


def at_equal(mixers: Sequence[tuple[str, float, float]], by: Literal["acid", "sugar"], grams: float) -> tuple[Mixer, ...]:
    """Returns the doses of mixers (name, sugar, acid [g/100 mL]) that bring the same `grams` of acid or of sugar; those without any are omitted. Exact."""
    found = []
    for name, sugar, acid in mixers:
        holds = acid if by == "acid" else sugar
        # No dose of a mixer without acid brings any acid.
        if holds <= 1e-9:
            continue
        dose = 100.0 * grams / holds
        found.append(Mixer(name, dose, sugar * dose / 100.0, acid * dose / 100.0))
    return tuple(found)
