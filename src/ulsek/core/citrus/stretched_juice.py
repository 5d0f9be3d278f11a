"""Stretched citrus: any juice to several times itself with acids in its own split and its peel's oil, beside fresh and beside other sours."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

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
    """A citrus to N times its juice: what goes in [g, mL], where it stands beside fresh, what it costs and saves."""

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


USUAL_ML, USUAL_TIMES = 1000.0, 4.0
"""How much juice is usually stretched [mL], and to how many times it. House experience."""
SERVE_ML = 25.0
"""A serve of fresh juice [mL] that other sours are held beside. House experience."""
MOST_OIL_MG_L = figure("oil_mg_l_most")
"""Oil of the peel [mg/L] above which it tastes of it. House experience."""


def stretch(
    of: Variety,
    juice_ml: float,
    times: float,
    *,
    school: School = "rest",
    target: float | None = None,
    peel_g: float | None = None,
    most_oil_mg_l: float | None = None,
    own: Material | None = None,
    share: float | None = None,
    price_kg: float | None = None,
    acid_kg: float | None = None,
) -> Stretched:
    """A citrus stretched to `times` its `juice_ml`: acids in its own split and water to the line, with its peel's oil.

    The juice goes back in; the acids bring it to `target` [g/100 mL, the juice's own without one] in the final volume. `peel_g` of zest lies with the acids (rest)
    or is blended in; its oil is bounded by `most_oil_mg_l`. `own`: the juice as read. `share`: juice of the fruit's weight; `price_kg` of the fruit, `acid_kg`
    of acid; without both there is no cost. 1 L of bergamot at 4.8 to four times: 144 g of acids, 2.91 L of water. Error: acid that of the reading, oil a factor of two.
    Source: mass balance; definition of titratable acid; house experience of oil.
    """
    if not 1.0 < times <= 12.0:
        raise Refusal(
            message("{times} times cannot be", times=Given(times)),
            "times",
            message("above 1, at most 12"),
            message("Beyond it is flavoured acid water"),
            "out_of_bounds",
        )
    if not 1.0 <= juice_ml <= 1_000_000:
        raise Refusal(
            message("{juice} mL of juice cannot be", juice=Given(juice_ml)),
            "juice_ml",
            message("from 1 mL to 1 000 L"),
            code="out_of_bounds",
        )
    for value, where, least, most, unit in ((peel_g, "peel_g", 0.0, 1e6, "g"), (most_oil_mg_l, "most_oil_mg_l", 1.0, 1e5, "mg/L")):
        if value is not None and not least <= value <= most:
            raise Refusal(
                message("{value} {unit} cannot be", value=Given(value), unit=unit),
                where,
                message("from {least} to {most} {unit}", least=Given(least), most=Given(most), unit=unit),
                code="out_of_bounds",
            )
    juice = own or of.juice
    read = juice.measured()
    aim = read["acid_g_100ml"] if target is None else target
    start = juice.per_gram().solution
    start = start.scaled(juice_ml * read["density_g_ml"] / start.mass_g)
    assert isinstance(of.juice.composition, ByReading)
    per_gram = acids_in_split(of.juice.composition.acid_split, 1.0)
    blend = Contents(per_gram)
    volume = times * juice_ml
    if aim * times <= read["acid_g_100ml"]:
        raise Refusal(
            message("{aim} g/100 mL is on the wrong side", aim=Given(aim)),
            "target",
            message(
                "the juice alone brings {acid} to {times} times",
                acid=Computed(read["acid_g_100ml"] / times, decimals=2),
                times=Given(times),
            ),
            message("Aim higher, or thin it with water alone"),
            "unreachable",
        )
    found = amounts_to_reach(
        start,
        [
            Reach("acid_g_100ml", aim, "Acids", blend.scaled(1.0 / blend.mass_g)),
            Reach("volume_ml", volume, "Water", Contents({"water": 1.0})),
        ],
    )
    if found is None or min(found) < -1e-9:
        raise Refusal(
            message("{aim} g/100 mL does not fit", aim=Given(aim)),
            "target",
            message("into {volume} mL", volume=Computed(volume, decimals=0)),
            message("Aim lower"),
            "unreachable",
        )
    acid, water = found
    acids = {key: acid * grams / blend.mass_g for key, grams in per_gram.items()}
    made = start + Contents(acids) + Contents({"water": water})
    of_juice = of.juice_share.value if share is None else share
    fruit_g = juice_ml * read["density_g_ml"] / of_juice
    kept, limit = prior("oil_kept", school), MOST_OIL_MG_L if most_oil_mg_l is None else most_oil_mg_l
    zest = of.zest_share * fruit_g if peel_g is None else peel_g
    remarks = []
    if peel_g is not None and peel_g > fruit_g * of.peel_share:
        remarks.append(
            message(
                "{peel} g of peel are more than these fruits have, about {fruit} g: it comes from others.",
                peel=Computed(peel_g, decimals=0),
                fruit=Computed(fruit_g * of.peel_share, decimals=0),
            )
        )

    def oil(grams: float) -> Range:
        litres = volume / 1000.0
        return Range(*(1000.0 * grams * a * b / litres for a, b in zip(_points(of.zest_oil), _points(kept), strict=True)))

    if oil(zest).value > limit:
        zest *= limit / oil(zest).value
        remarks.append(
            message(
                "Peel held to {zest} g, so that oil stays at {limit} mg/L; the rest makes an oil-sugar.",
                zest=Computed(zest, decimals=0),
                limit=Computed(limit, decimals=0),
            )
        )
    fresh_oil = prior("oil_mg_l_fresh")
    remarks.append(
        message("Skin and sun: gloves for bergamot peel.")
        if of.key == "bergamot"
        else message("Unwaxed or scrubbed fruit: the peel lies in the drink.")
    )
    remarks.append(message("On a menu “juice” has a legal meaning that differs by place: call it stretched, and ask your authority."))
    fresh_cost = None if price_kg is None else price_kg * fruit_g / juice_ml
    cost = None if price_kg is None or acid_kg is None else (price_kg * fruit_g + acid_kg * acid) / volume
    return Stretched(
        juice_ml,
        acids,
        zest,
        water,
        volume,
        sugar_g_100ml(made),
        acid_g_100ml(made),
        oil(zest),
        {"sugar_g_100ml": read["sugar_g_100ml"], "acid_g_100ml": read["acid_g_100ml"], "oil_mg_l": fresh_oil.value},
        1.0 - 1.0 / times,
        cost,
        fresh_cost,
        figure("stretch_hours", school),
        tuple(remarks),
    )


ACID_HOLDS = 0.03
"""Share of its acid within which a stretched juice is right; house experience: a fruit more or less."""


_PASSES = 8
"""Times that a spec is made in thought until what its strained zest holds back is made up for; each leaves about a twentieth of the error."""


def stretched_spec(of: Variety, made: Stretched, school: School, materials: Mapping[str, Material]) -> dict[str, Any]:
    """The spec file of a stretch, to be made by staff: by weight, everything by ratio to the zest that the acids rest on, or to the juice that is blended.

    Acids and water are raised until the bottles hold what was stretched although the strained zest keeps some back. Its goal is the acid that was
    reached, ± 3 %. `materials` hold the fruit's juice and zest, the acids and water. Refuses what cannot be made.
    """
    acids = water = 1.0
    for _ in range(_PASSES):
        body = _as_spec(of, made, school, materials[f"{of.key}_juice"], acids, water)
        done = flow(Inputs(read_spec(body), materials))
        if done.refusal is not None:
            raise done.refusal
        liquid = done.vessels["jar"].liquid
        off = made.acid_g_100ml / acid_g_100ml(liquid)
        water += (made.volume_ml - volume_ml(liquid)) / made.water_g
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
    """The spec file with so many times the stretch's own acids and water."""
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
    bottled = {"verb": "bottle", "bottle_ml": 500, "head_room_percent": 5, "keep_c": 4}
    steps = [*(rested if school == "rest" else blended), bottled]
    goal = {"property": "acid_g_100ml", "value": round(made.acid_g_100ml, 2), "tolerance": round(ACID_HOLDS * made.acid_g_100ml, 3)}
    return {
        "format": FORMAT,
        "version": FORMAT_VERSION,
        "name": f"Stretched {of.name.lower()}, {number_format.given(made.volume_ml / made.juice_ml, 2)} times",
        "family": "stretched_citrus",
        "driver": driver,
        "serve_ml": 25,
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
    """One sour at its dose: mL, and what that dose brings [g]."""

    name: str
    dose_ml: float
    sugar_g: float
    acid_g: float


def at_equal(mixers: Sequence[tuple[str, float, float]], by: Literal["acid", "sugar"], grams: float) -> tuple[Mixer, ...]:
    """Doses of several mixers (name, sugar, acid [g/100 mL]) that bring the same `grams` of acid or of sugar; those without any are left out. Exact."""
    found = []
    for name, sugar, acid in mixers:
        holds = acid if by == "acid" else sugar
        if holds <= 1e-9:
            continue
        dose = 100.0 * grams / holds
        found.append(Mixer(name, dose, sugar * dose / 100.0, acid * dose / 100.0))
    return tuple(found)
