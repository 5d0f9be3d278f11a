"""Where a formula ends: each holds at the edge of its range and refuses the step beyond it, in words, instead of going on by guess."""

import math
import re

import pytest

from tests.core.cordial import FORM, evaluated, form, materials_of
from tests.core.kitchen import codes, line, pour, worked
from ulsek.core.advice.batch_scaling import driver_mass_g, factor_for_serves, factor_for_volume
from ulsek.core.advice.corrections import take_addition
from ulsek.core.base.figures import SCORE, TARE_G, VESSEL_ML
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.operations.catalogue import VERBS
from ulsek.core.operations.step import NumberParam
from ulsek.core.properties import acidity, alcohol, carbonation, density, energy, ph, solubility, sugar, viscosity, water
from ulsek.core.release.release_check import release_check
from ulsek.core.run.event_parts import Number
from ulsek.core.run.events.catalogue import EVENTS
from ulsek.core.spec.json_form import read_spec

SYRUP = Contents({"sucrose": 50.0, "water": 50.0})
FULL = Contents({"water": 1000.0})
SPIRIT = Contents({"ethanol": 40.0, "water": 60.0})

EDGES = [
    (lambda t: viscosity.sucrose_viscosity_mpa_s(50.0, t), 80.0, 80.1, "outside the viscosity formula"),
    (viscosity.sucrose_viscosity_mpa_s, 78.0, 78.1, "outside the viscosity formula"),
    (lambda t: solubility.acid_solubility_g_100g("citric_acid", t), 50.0, 51.0, "outside the solubility table"),
    (lambda abv: solubility.bitartrate_solubility_g_100g(20.0, abv), 40.0, 41.0, "outside the table of cream of tartar"),
    (carbonation.henry_mpa, 40.0, 40.5, "outside the gas table"),
    (lambda kpa: carbonation.carbonation_g_l(FULL, 4.0, kpa), 1000.0, 1001.0, "outside what a bar's vessel may hold"),
    (lambda grams: carbonation.charge(FULL, 4.0, 1200.0, grams), 8.0, 0.0, "A charger holds more than nothing"),
    (lambda size: carbonation.charge(FULL, 4.0, size, 8.0), 1100.0, 1000.0, "to the brim"),
    (alcohol.ethanol_water_density, 1.0, 1.01, "A mass fraction of 1.01 cannot be"),
    (alcohol.mass_fraction_from_abv, 100.0, 100.5, "strength lies between 0 and 100"),
    (density.sucrose_density, 0.8, 1.2, "A mass fraction of 1.2 cannot be"),
    (energy.latent_heat_j_g, 150.0, 151.0, "outside the steam formula"),
    (lambda watts: energy.minutes_to_heat(FULL, 20.0, 100.0, watts), 1200.0, 0.0, "heats nothing"),
    (lambda watts: energy.minutes_to_drive_off(500.0, 100.0, watts), 1200.0, -1.0, "a power above zero"),
    (lambda gram: energy.learned(Range(2.0, 1.0, 3.0), [gram]), 0.1, 0.0, "Only values above zero teach a rate"),
    (water.pressure_at_kpa, 9000.0, 9001.0, "no place for a bar"),
]  # fmt: skip


@pytest.mark.parametrize(("formula", "inside", "outside", "words"), EDGES)
def test_a_formula_holds_at_its_edge_and_refuses_beyond_it(formula, inside, outside, words):
    formula(inside)
    with pytest.raises(Refusal, match=words):
        formula(outside)


ENDS = [
    (density.water_density, 0.0, 100.0),
    (density.sucrose_density, 0.0, 1.0),
    (lambda t: density.sucrose_density(0.5, t), 0.0, 80.0),
    (lambda t: density.volume_at_ml(SYRUP, t), 0.0, 80.0),
    (lambda t: density.volume_at_ml(SPIRIT, t), 0.0, 40.0),
    (alcohol.ethanol_water_density, 0.0, 1.0),
    (lambda t: alcohol.ethanol_water_density(0.4, t), -20.0, 40.0),
    (alcohol.mass_fraction_from_abv, 0.0, 100.0),
    (alcohol.ethanol_retained, 0.0, alcohol.MOST_RETENTION_MIN),
    (lambda volume: alcohol.abv(0.0, volume), 1e-12, 1e12),
    (lambda grams: alcohol.abv(grams, 1000.0), 0.0, None),
    (sugar.refractive_index, 0.0, 0.85),
    (lambda shown: sugar.corrected_to_20(shown, 25.0), 0.0, 80.0),
    (lambda t: sugar.corrected_to_20(50.0, t), 10.0, 40.0),
    (lambda reading: sugar.true_from_reading(reading, 0.0), 0.0, 95.0),
    (lambda acid: sugar.true_from_reading(50.0, acid), 0.0, 10.0),
    (sugar.acid_shift, 0.0, 140.0),
    (sugar.saturation_brix, 0.0, 100.0),
    (viscosity.sucrose_viscosity_mpa_s, 0.0, 78.0),
    (lambda t: viscosity.sucrose_viscosity_mpa_s(50.0, t), 0.0, 80.0),
    (lambda value: viscosity.viscosity_uncertainty(SYRUP, value), 0.0, 1e9),
    (lambda titratable: acidity.as_acid(titratable, "malic_acid"), 0.0, 1e9),
    (lambda titratable: acidity.acids_in_split({"citric_acid": 1.0}, titratable), 0.0, 1e9),
    (lambda share: acidity.acids_in_split({"citric_acid": 1.0, "malic_acid": share}, 1.0), 0.0, 1e6),
    (lambda strength: ph.log_gamma(1, strength), 0.0, 1e3),
    (lambda start: ph.ph_of({}, start=start), -1.0, 14.0),
    (lambda acid: ph.cation_from_ph({"citric_acid": 1.0}, acid, 3.5), None, 60.0),
    (lambda share: ph.cation_from_ph({"citric_acid": 1.0, "malic_acid": share}, 5.0, 3.5), 0.0, 1e6),
    (lambda reading: ph.cation_from_ph({"citric_acid": 1.0}, 5.0, reading), None, 13.0),
    (carbonation.henry_mpa, -2.0, 40.0),
    (lambda kpa: carbonation.carbonation_g_l(FULL, 4.0, kpa), 0.0, 1000.0),
    (carbonation.volumes, 0.0, 1e4),
    (lambda size: carbonation.charge(FULL, 4.0, size, 8.0), None, 1e6),
    (lambda share: carbonation.charge(FULL, 4.0, 1500.0, 8.0, share), None, 1.0),
    (lambda grams: carbonation.charge(FULL, 4.0, 1e6, grams), None, 100.0),
    (lambda t: energy.minutes_to_heat(FULL, t, 200.0, 1000.0), -60.0, 200.0),
    (lambda t: energy.minutes_to_heat(FULL, -60.0, t, 1000.0), -60.0, 200.0),
    (energy.latent_heat_j_g, 0.0, 150.0),
    (lambda air: energy.hours_to_freeze(FULL, 20.0, air), -40.0, -5.0),
    (lambda around: energy.hours_to_thaw(FULL, 20.0, around), 1.0, 30.0),
    (water.saturation_pressure_kpa, 0.0, 200.0),
    (water.pressure_at_kpa, -500.0, 9000.0),
    (lambda kelvin: water.ln_activity(SYRUP, kelvin), 240.0, 473.15),
    (lambda value: water.water_activity_uncertainty(SYRUP, value), 0.0, 1.0),
    (lambda known: water.freezing_near_c(SYRUP, known), -30.1, 0.01),
    (lambda kpa: water.boiling_c(SYRUP, kpa), 20.0, 120.0),
    (water.brix_boiling_at, 100.0, 125.0),
    (lambda kpa: water.boils_at(SYRUP, 100.0, kpa), 20.0, 120.0),
    (lambda t: water.boils_at(SYRUP, t), 20.0, 199.0),
    (solubility.bitartrate_solubility_g_100g, 0.0, 50.0),
    (lambda abv: solubility.bitartrate_solubility_g_100g(20.0, abv), 0.0, 40.0),
]  # fmt: skip
"""Formulas with the first and the last value that each takes; None where what is too small is refused for another reason."""


@pytest.mark.parametrize(("formula", "low", "high"), ENDS)
def test_a_formula_takes_both_of_its_ends_and_nothing_past_them(formula, low, high):
    for end, beyond in ((low, -math.inf), (high, math.inf)):
        if end is not None:
            formula(end)
            with pytest.raises(Refusal):
                formula(math.nextafter(end, beyond))


def heated(c):
    return pour(line("water", 500.0), line("white_sugar", 500.0)), {"verb": "bring_to", "temperature_c": c}


TURNS = [
    (lambda c: (pour(line("egg", 60.0)), *heated(c)), 70.0, "raw_egg", (-1,)),
    (lambda c: (pour(line("egg_white", 60.0), line("water", 500.0)), {"verb": "egg_raft", "temperature_c": c}), 74.0, "raft_not_cooked", (-1,)),
    (lambda c: (pour(line("lemon_juice", 500.0), line("pectin_enzyme", 1.0)), {"verb": "enzyme", "temperature_c": c}), 55.0, "enzyme_killed", (1,)),
    (lambda c: (*heated(c), {"verb": "cool", "to_c": 4.0, "minutes": 400.0}), 57.0, "slow_cooling", (1,)),
    (lambda c: (*heated(70.0), {"verb": "cool", "to_c": c, "minutes": 400.0}), 21.0, "slow_cooling", (-1, 0)),
    (lambda minutes: (*heated(70.0), {"verb": "cool", "to_c": 4.0, "minutes": minutes}), 360.0, "slow_cooling", (1,)),
    (lambda c: (*heated(c), {"verb": "bottle"}), 45.0, "sealed_hot", (1,)),
    (lambda c: (*heated(c), {"verb": "blend"}), 45.0, "hot_blending", (1,)),
    (lambda c: (*heated(20.0), {"verb": "bottle", "keep_c": c, "head_room_percent": 2.0}), -2.0, "no_head_room", (-1,)),
    (lambda room: (*heated(20.0), {"verb": "bottle", "keep_c": -18.0, "head_room_percent": room}), 10.0, "no_head_room", (-1,)),
    (lambda c: (*heated(c), {"verb": "off_heat", "below_c": 60.0}), 60.5, "too_hot_to_add", (1,)),
    (lambda c: (*heated(c), {"verb": "make_up", "to_volume_ml": 1000.0}), 25.0, "line_read_hot", (1,)),
    (lambda c: (*heated(c), {"verb": "carbonate", "temperature_c": 4.0}), 10.0, "warm_gas", (1,)),
    (lambda c: (*heated(c), {"verb": "hot_fill", "fill_c": 85.0}), 83.0, "not_hot_enough", (-1,)),
]  # fmt: skip
"""Steps with a figure at which a rule of safety turns: what is said, and whether below it (−1), at it (0) or above it (1)."""


@pytest.mark.parametrize(("steps", "edge", "code", "where"), TURNS)
def test_a_rule_turns_exactly_where_it_says(steps, edge, code, where):
    for side in (-1, 0, 1):
        made = worked(*steps(math.nextafter(edge, side * math.inf) if side else edge))
        said = codes(made) if code != "raw_egg" else {remark.code for remark in release_check(made)}
        assert (code in said) is (side in where), (edge, side)


@pytest.mark.parametrize("of", [sugar.brix, alcohol.abw, energy.heat_capacity_j_g, density.density_g_ml, acidity.acid_percent_w_w])
def test_an_empty_vessel_has_no_figures(of):
    assert of(SYRUP) >= 0
    with pytest.raises(Refusal):
        of(Contents())


@pytest.mark.parametrize(("substance", "name"), [("sucrose", "sucrose"), ("moonshine", "moonshine")])
def test_less_than_nothing_of_a_substance_is_refused_by_its_name(substance, name):
    with pytest.raises(Refusal, match=rf"(?i)\u22121 g of {name} cannot be in a vessel"):
        density.density_g_ml(Contents({"water": 10.0, substance: -1.0}))


def test_heat_agrees_with_its_own_parts():
    """1 kg of water by 80 K at 1200 W is 4.65 min, by 4.187 J/gK; half a kilogram of steam 15.7 min, by 2256 J/g."""
    assert energy.minutes_to_heat(FULL, 20.0, 100.0, 1200.0) == pytest.approx(1000 * 4.187 * 80 / 1200 / 60, rel=2e-3)
    assert energy.minutes_to_drive_off(500.0, 100.0, 1200.0) == pytest.approx(500 * 2256.4 / 1200 / 60, rel=1e-3)
    assert energy.heat_capacity_j_g(SYRUP) == pytest.approx(2.84, abs=0.09)
    power = energy.power_from_weighings_w(150.0, 6.0)
    assert energy.minutes_to_drive_off(150.0, 100.0, power) == pytest.approx(6.0)


@pytest.mark.parametrize(
    ("asked", "words"),
    [
        (lambda spec, known: factor_for_volume(spec, known, 0.5), "A yield of 0.5 mL cannot be made"),
        (lambda spec, known: factor_for_volume(spec, known, 2e6), "from 1 mL to 1 000 L"),
        (lambda spec, known: factor_for_serves(spec, known, 0), "0 serves cannot be made"),
    ],
)
def test_a_batch_that_cannot_be_is_refused_at_its_figure(asked, words):
    spec = read_spec(FORM)
    with pytest.raises(Refusal, match=words):
        asked(spec, materials_of(spec))


def test_the_line_that_sets_the_batch_stands_by_itself():
    first = {**FORM["steps"][0], "lines": [{**FORM["steps"][0]["lines"][0], "amount": {"kind": "fixed", "written": "2 kg"}}]}
    spec = read_spec(form(s1=first))
    assert driver_mass_g(spec, materials_of(spec)) == pytest.approx(2000)
    with pytest.raises(Refusal, match="needs an amount of its own"):
        driver_mass_g(read_spec({**FORM, "driver": "sugar"}), materials_of(spec))
    with pytest.raises(Refusal, match="which line sets the batch"):
        driver_mass_g(read_spec({key: value for key, value in FORM.items() if key != "driver"}), materials_of(spec))


def test_additions_are_written_where_a_maker_would_write_them():
    """A line that is there grows; what is not there gets one step before the cooling, and the next addition joins it."""
    once = take_addition(FORM, evaluated(), "citric_acid", 2.0)
    assert [step["id"] for step in once["steps"]] == ["s1", "s2", "s3", "adjust1", "s4", "s5"]
    twice = take_addition(once, evaluated(), "tartaric_acid", 1.0)
    (adjust,) = (step for step in twice["steps"] if step["id"] == "adjust1")
    assert [(line["material"], line["amount"]["mass_g"]) for line in adjust["lines"]] == [("citric_acid", 2.0), ("tartaric_acid", 1.0)]
    more = take_addition(FORM, evaluated(), "sea_buckthorn_juice", 50.0)
    assert more["steps"][0]["lines"][0]["amount"] == {"kind": "fixed", "mass_g": 1050.0}
    assert FORM["steps"][0]["lines"][0]["amount"]["written"] == "1 kg", "the draft that was given stays as it was"
    with pytest.raises(Refusal, match="0 g is not an amount to add"):
        take_addition(FORM, evaluated(), "citric_acid", 0.0)


UNITS = {"L": 1000.0, "kg": 1000.0, "days": 1440.0}
"""Units that a bound is named in, in those that it is computed in: mL, g, min."""
IN_WORDS = {"strength_min", "share"}
"""What is bounded in words alone: by the house's own minutes, by all of it, by three times too much."""


def named(words):
    """The numbers that stand in words, as mL, g or min."""
    text = words.text().replace("\u00a0", " ").replace("−", "-").replace("a tonne", "1000 kg").replace("a day", "1 days")
    return {
        float(number.replace(" ", "")) * UNITS.get(unit, 1.0)
        for number, unit in re.findall(r"(-?\d+(?: \d{3})*(?:\.\d+)?) ?(L|kg|days)?", text)
    }


def bounds():
    for verb, kind in VERBS.items():
        yield from ((f"{verb}.{name}", item) for name, item in kind.params().items() if isinstance(item, NumberParam))
    for kind, event in EVENTS.items():
        yield from (
            (f"{kind}.{name}", item) for name, item in event.parts().items() if isinstance(item, Number) and math.isfinite(item.high)
        )
    yield from {"vessel.ml": VESSEL_ML, "a.score": SCORE, "vessel.tare": TARE_G}.items()


@pytest.mark.parametrize(("name", "bound"), [item for item in bounds() if item[0].partition(".")[2] not in IN_WORDS])
def test_the_words_of_a_bound_name_its_ends(name, bound):
    said = named(bound.words)
    assert bound.high in said
    assert bound.low in said or (0.0 in said and 0.0 < bound.low <= 1e-3), "what is above nothing has a least value all the same"
