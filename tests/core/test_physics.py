"""Water, acids, heat, steam, cold and gas against published tables; tolerances are those that the product promises."""

import json
import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.reference import rows
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.materials.composition import read_composition
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.core.operations import concentrate, extract, finish, steam
from ulsek.core.properties import acidity, alcohol, carbonation, density, energy, solubility, sugar, sweetness, viscosity, water
from ulsek.core.properties.measure import DEEP, NEAR, PROPERTY
from ulsek.core.properties.ph import cation_from_ph, log_gamma, ph, ph_of, ph_uncertainty


def solution(percent, solute="sucrose"):
    return Contents({"water": 100.0 - percent, solute: percent})


SOLUTE = {"nacl": "sodium_chloride"}


@pytest.mark.parametrize("row", rows("sucrose_water_activity"), ids=lambda row: f"{row['solute']} {row['wt_pct']}")
def test_water_activity_of_one_solute(row):
    percent = float(row["wt_pct"])
    found = water.water_activity(solution(percent, SOLUTE.get(row["solute"], row["solute"])))
    tolerance = 0.01 if row["solute"] == "sucrose" and percent <= 65 else max(0.003, float(row["u"]))
    if row["solute"] == "ethanol":
        below, _ = water.water_activity_uncertainty(solution(percent, "ethanol"), found)
        assert below >= float(row["u"]), "the range holds what the reference itself is sure of"
        tolerance = 0.002
    assert found == pytest.approx(float(row["aw_reference"] or row["aw_norrish"]), abs=tolerance)


@pytest.mark.parametrize("solute", ["ethanol", "glycerol", "sucrose", "fructose", "erythritol"])
def test_water_activity_falls_with_every_gram_of_a_solute(solute):
    found = [water.water_activity(solution(percent, solute)) for percent in range(1, 96)]
    assert found == sorted(found, reverse=True) and found[0] < 1.0


def test_water_activity_of_a_mixed_syrup_is_the_product_of_its_solutes():
    syrup = Contents({"water": 400.0, "sucrose": 300.0, "glucose": 150.0, "fructose": 150.0})
    verbatim = [water.water_activity(Contents({"water": 400.0, key: grams})) for key, grams in syrup.grams.items() if key != "water"]
    assert water.water_activity(syrup) == pytest.approx(math.prod(verbatim), rel=1e-12)
    # Honey of 17.2 % water is published at 0.56 to 0.62.
    honey = Contents({"water": 17.2, "sucrose": 1.0, "glucose": 34.0, "fructose": 39.5, "other_carbohydrate": 7.8})
    assert 0.53 < water.water_activity(honey) < 0.63


@pytest.mark.parametrize("row", rows("sucrose_freezing_point"), ids=lambda row: row["brix"])
def test_freezing_point(row):
    brix = float(row["brix"])
    found = water.freezing_c(solution(brix))
    assert found == pytest.approx(float(row["freezing_C"]), abs=0.02)
    if row["handbook_C"] and brix <= 40:
        assert found == pytest.approx(float(row["handbook_C"]), abs=0.3)


@pytest.mark.parametrize(("percent", "freezes"), [(10.0, -4.47), (20.0, -10.92), (33.0, -23.4), (40.0, -29.26)])
def test_spirit_freezes_where_published(percent, freezes):
    assert water.freezing_c(solution(percent, "ethanol")) == pytest.approx(freezes, abs=0.3)


def test_ice_grows_as_it_gets_colder_and_leaves_the_liquid_of_that_freezing_point():
    juice = solution(15)
    share = water.ice_share(juice, -5.0)
    left = Contents({"water": 85.0 * (1 - share), "sucrose": 15.0})
    assert water.freezing_c(left) == pytest.approx(-5.0, abs=1e-6)
    assert 0 < share < water.ice_share(juice, -18.0) < 1
    assert water.ice_share(juice, -0.5) == 0.0


@pytest.mark.parametrize("row", rows("sucrose_boiling_point"), ids=lambda row: row["brix"])
def test_boiling_point(row):
    assert water.boiling_c(solution(float(row["brix"]))) == pytest.approx(float(row["boiling_C"]), abs=float(row["u_K"]))
    assert water.brix_boiling_at(water.boiling_c(solution(float(row["brix"])))) == pytest.approx(float(row["brix"]), abs=1e-6)


def test_water_boils_lower_up_a_mountain_and_spirit_lower_than_water():
    assert water.pressure_at_kpa(1000.0) == pytest.approx(89.87, abs=0.02)
    assert water.boiling_c(solution(0), water.pressure_at_kpa(1000.0)) == pytest.approx(96.7, abs=0.1)
    # 40 % vol boils at about 84 °C at sea level (published equilibrium tables, ±1).
    assert water.boiling_c(Contents({"water": 66.7, "ethanol": 33.3})) == pytest.approx(84.0, abs=1.5)


@pytest.mark.parametrize("row", rows("sucrose_viscosity"), ids=lambda row: row["brix"])
def test_viscosity(row):
    brix = float(row["brix"])
    assert viscosity.sucrose_viscosity_mpa_s(brix) == pytest.approx(float(row["adopted_20C"]), rel=0.015)
    assert viscosity.sucrose_viscosity_mpa_s(brix, 40) == pytest.approx(float(row["genotelle_40C"]), rel=0.015)
    assert viscosity.sucrose_viscosity_mpa_s(brix, 60) == pytest.approx(float(row["genotelle_60C"]), rel=0.015)


@pytest.mark.parametrize("row", rows("brix_temperature_correction"), ids=lambda row: f"{row['brix_reading']}Bx {row['temperature_C']}C")
def test_refractometer_corrected_for_temperature(row):
    shown, at = float(row["brix_reading"]), float(row["temperature_C"])
    corrected = sugar.corrected_to_20(shown, at)
    assert corrected - shown == pytest.approx(float(row["correction_model"]), abs=0.02)


@pytest.mark.parametrize(("shown", "at", "true"), [(50.0, 28.0, 50.6712), (10.0, 12.0, 9.52909), (65.0, 25.0, 65.4109)])
def test_worked_readings_at_other_temperatures(shown, at, true):
    assert sugar.corrected_to_20(shown, at) == pytest.approx(true, abs=0.01)


def test_acid_makes_a_refractometer_read_low_both_ways():
    juice = Contents({"water": 90.0, "sucrose": 7.6, "citric_acid": 2.4})
    assert sugar.true_from_reading(sugar.brix_reading(juice), acidity.acid_percent_w_w(juice)) == pytest.approx(sugar.brix(juice), abs=1e-9)
    with pytest.raises(Refusal, match="outside the correction"):
        sugar.true_from_reading(40.0, 12.0)


@pytest.mark.parametrize("row", rows("ph_vectors"), ids=lambda row: row["solution"][:40])
def test_ph_of_pure_and_part_neutralised_acids(row):
    acids = {f"{name}_acid": amount for name, amount in json.loads(row["acid_total_mol_per_L"]).items()}
    found = ph_of(acids, float(row["strong_cation"]), float(row["strong_anion"]))
    assert found == pytest.approx(float(row["pH_davies"]), abs=1e-3)
    if row["published"]:
        assert found == pytest.approx(float(row["published"]), abs=0.05)


JUICES = [row for row in rows("juices") if float(row["pH_high"]) <= 4.7 and row["name"] != "tamarind_pulp"]


@pytest.mark.parametrize("row", JUICES, ids=lambda row: row["name"])
def test_juices_stand_in_their_published_ph_range_with_cations_from_their_potassium(row):
    """The typical juice lies in the range or, where acid and pH of one fruit move together, the ripe or the sharp one does."""
    key = f"{row['name']}_juice" if f"{row['name']}_juice" in typical_materials() else row["name"]
    composition = read_composition(typical_materials()[key]["makeup"], key)
    found = {z: ph(composition.per_gram(0.0, z)) for z in (-1.0, 0.0, 1.0)}
    low, high = float(row["pH_low"]), float(row["pH_high"])
    below, above = ph_uncertainty(composition.per_gram(0.0, 0.0))
    assert low - above <= found[0.0] <= high + below or low <= found[1.0] <= high or low <= found[-1.0] <= high


def test_a_juice_read_by_titration_and_meter_gives_back_both():
    total, cation = cation_from_ph({"citric_acid": 0.9, "malic_acid": 0.1}, 5.0, 2.4)
    moles = {"citric_acid": 0.9 / 192.124, "malic_acid": 0.1 / 134.087}
    share = total / sum(moles.values())
    assert ph_of({key: amount * share for key, amount in moles.items()}, cation) == pytest.approx(2.4, abs=1e-6)
    with pytest.raises(Refusal, match=r"is lower than 1\.00 g/100 mL of these acids can give"):
        cation_from_ph({"citric_acid": 1.0}, 1.0, 1.6)


@given(st.floats(0.001, 0.5), st.floats(0.0, 0.3))
def test_ph_rises_with_cations_and_falls_with_acid(acid, cation):
    assume(cation + 0.01 < 2.0 * acid)
    assert ph_of({"malic_acid": acid}, cation + 0.01) > ph_of({"malic_acid": acid}, cation)
    assert ph_of({"malic_acid": acid * 1.1}, cation) < ph_of({"malic_acid": acid}, cation)


def test_ph_is_no_figure_where_no_acid_is_known():
    with pytest.raises(Refusal, match="No acid is known in this vessel, so its pH is not"):
        ph(solution(50))


@pytest.mark.parametrize("row", [row for row in rows("acids") if row["citric_equiv_factor"]], ids=lambda row: row["name"])
def test_titratable_equivalents_of_every_acid(row):
    key = row["name"].replace("L-", "").replace(" anhydrous", "").replace("trans-", "").replace(" ", "_")
    if key in ("citric_acid_monohydrate", "potassium_bitartrate"):
        body = typical_materials()["citric_acid_monohydrate" if "mono" in key else "cream_of_tartar"]
        grams = read_composition(body["makeup"], key).per_gram(0.0, 0.0)
    else:
        grams = Contents({key: 1.0})
    assert acidity.titratable_g(grams) == pytest.approx(float(row["citric_equiv_factor"]), rel=0.01)
    if row["solubility_g_100g_water_20C"] and key in (
        "citric_acid",
        "malic_acid",
        "tartaric_acid",
        "ascorbic_acid",
        "succinic_acid",
        "oxalic_acid",
    ):
        assert solubility.acid_solubility_g_100g(key, 20.0) == pytest.approx(float(row["solubility_g_100g_water_20C"]), rel=0.01)


def test_a_burette_and_its_inverse_agree():
    juice = Contents({"water": 90.0, "sucrose": 8.0, "malic_acid": 2.0})
    burette = acidity.burette_ml(juice, 10.0, 0.1)
    assert acidity.acid_from_burette(burette, 10.0, 0.1) == pytest.approx(acidity.acid_g_100ml(juice), rel=1e-12)
    # 10 mL at 6.000 g/100 mL hold 0.6 g = 9.369 mmol of protons: 93.69 mL of 0.1 mol/L.
    sharp = Contents({"water": 96.3046, "citric_acid": 6.0})
    assert acidity.burette_ml(sharp, 10.0, 0.1) == pytest.approx(93.69, abs=0.1)
    assert acidity.as_acid(1.0, "malic_acid") == pytest.approx(1.047, abs=0.001)
    with pytest.raises(Refusal, match="is no acid that Ulsek knows"):
        acidity.as_acid(1.0, "hydrochloric_acid")


def test_sucrose_saturates_later_in_all_but_less_itself_beside_invert_sugar():
    plain = Contents({"water": 100.0})
    beside = Contents({"water": 100.0, "glucose": 40.0, "fructose": 40.0})
    assert sugar.sucrose_saturation_g_g(plain, 20.0) == pytest.approx(1.994, abs=0.01)
    assert sugar.sucrose_saturation_g_g(beside, 20.0) < sugar.sucrose_saturation_g_g(plain, 20.0)
    assert sugar.sucrose_saturation_g_g(beside, 20.0) + 0.8 > sugar.sucrose_saturation_g_g(plain, 20.0)


def test_citrate_comes_out_only_where_the_acid_is_nearly_neutralised():
    """Half a mole of citric acid with three half moles of sodium is 129.0 g of trisodium citrate; with two it is an acid salt, which stays dissolved."""
    half = {"water": 100.0, "citric_acid": 0.5 * 192.124}
    neutral, acid = (Contents({**half, "sodium": 0.5 * times * 22.98977}) for times in (3.0, 2.0))
    found = {item.substance: item.mass_g for item in solubility.crystals(neutral, 5.0)}
    assert found["trisodium_citrate"] == pytest.approx(129.03 - solubility.solubility_g_100g("trisodium_citrate", 5.0), abs=0.05)
    assert "trisodium_citrate" not in {item.substance for item in solubility.crystals(acid, 5.0)}


def test_crystals_in_the_fridge():
    found = {item.substance: item.mass_g for item in solubility.crystals(Contents({"water": 333.33, "sucrose": 666.67}), 5.0)}
    assert found == {"sucrose": pytest.approx(52.77, abs=0.5)}
    assert solubility.crystals(Contents({"water": 500.0, "sucrose": 500.0}), 5.0) == ()
    acid = {item.substance: item.mass_g for item in solubility.crystals(Contents({"water": 100.0, "tartaric_acid": 140.0}), 0.0)}
    assert acid == {"tartaric_acid": pytest.approx(25.0, abs=1.0)}


def test_cream_of_tartar_comes_out_of_cold_grape_juice_and_a_saturated_solution_stands():
    dissolved = Contents({"water": 1000.0, "tartaric_acid": 5.4 * 0.7976, "potassium": 5.4 * 0.2078})
    assert solubility.bitartrate_crystals_g(dissolved, 20.0) < 0.15
    cold = solubility.bitartrate_crystals_g(dissolved, 0.0)
    assert cold == pytest.approx(2.4, abs=0.4), "5.4 g/L dissolve at 20 °C, 3.0 at 0 °C"
    wine = Contents({**dissolved.grams, "ethanol": 100.0})
    assert solubility.bitartrate_crystals_g(wine, 0.0) > cold
    assert solubility.bitartrate_crystals_g(Contents({"water": 100.0, "citric_acid": 5.0, "potassium": 0.2}), 0.0) == 0.0


@pytest.mark.parametrize("row", [row for row in rows("sweeteners") if row["confidence"] != "C"], ids=lambda row: row["name"])
def test_sweetness_of_sweeteners_lies_in_their_published_range(row):
    made_of = read_composition(typical_materials()[row["name"]]["makeup"], row["name"]).per_gram(0.0)
    found = sum(made_of.of(key) * factor.value for key, factor in sweetness.SWEETNESS.items())
    low = sum(made_of.of(key) * factor.low for key, factor in sweetness.SWEETNESS.items())
    high = sum(made_of.of(key) * factor.high for key, factor in sweetness.SWEETNESS.items())
    assert low - 0.1 <= float(row["sweet_typ"]) <= high + 0.1, found
    assert 100 * (1 - made_of.of("water")) == pytest.approx(float(row["solids_typ"]), abs=0.01)


def test_gas_by_pressure_and_from_a_charger():
    # 1.45 to 1.50 g/L of carbon dioxide dissolve in water at 25 °C under one bar of it (published).
    at_one_bar = carbonation.carbonation_g_l(Contents({"water": 1000.0}), 25.0, 0.0) / 1.01325
    assert at_one_bar == pytest.approx(1.48, abs=0.04)
    sweet = Contents({"water": 900.0, "sucrose": 100.0})
    plain = Contents({"water": 1000.0})
    assert carbonation.carbonation_g_l(sweet, 4.0, 200.0) < carbonation.carbonation_g_l(plain, 4.0, 200.0)
    found = carbonation.charge(Contents({"water": 900.0}), 4.0, 1000.0, 8.0)
    litres = density.volume_ml(Contents({"water": 900.0})) / 1000
    assert found.dissolved_g_l * litres + found.above_g == pytest.approx(8.0, rel=1e-9)
    assert found.volumes == pytest.approx(found.dissolved_g_l / 1.977, rel=1e-12)
    assert carbonation.charge(Contents({"water": 900.0}), 15.0, 1000.0, 8.0).gauge_kpa > found.gauge_kpa
    with pytest.raises(Refusal, match="gas needs head room"):
        carbonation.charge(Contents({"water": 1000.0}), 4.0, 1000.0, 8.0)
    with pytest.raises(Refusal, match="would pass 1 000 kPa"):
        carbonation.charge(Contents({"water": 100.0}), 20.0, 200.0, 16.0)


def test_energy_and_time():
    kilo = Contents({"water": 1000.0})
    assert energy.minutes_to_heat(kilo, 20.0, 100.0, 1200.0) == pytest.approx(4186 * 80 / 1200 / 60, rel=1e-3)
    assert energy.latent_heat_j_g(100.0) == pytest.approx(2257, rel=0.002)
    assert energy.heat_capacity_j_g(solution(50)) == pytest.approx(2.84, abs=0.05)
    power = energy.power_from_weighings_w(160.0, 5.0)
    assert energy.minutes_to_drive_off(160.0, 100.0, power) == pytest.approx(5.0, rel=1e-12)
    with pytest.raises(Refusal, match="a loss and a time above zero"):
        energy.power_from_weighings_w(-3.0, 5.0)
    assert energy.hours_to_freeze(solution(12), 60.0, -18.0) < energy.hours_to_freeze(solution(12), 120.0, -18.0)
    with pytest.raises(Refusal, match="the air must be colder"):
        energy.hours_to_freeze(solution(60), 60.0, -8.0)


def test_a_house_learns_from_its_own_runs():
    prior = Range(4.0, 3.0, 5.0)
    assert energy.learned(prior, []) == prior
    learned = energy.learned(prior, [5.2, 5.1, 5.3, 5.2, 5.15, 5.25])
    assert 4.8 < learned.value < 5.2
    assert learned.high - learned.low < prior.high - prior.low
    wild = energy.learned(prior, [3.0, 6.0, 2.5, 7.0])
    assert wild.high - wild.low > learned.high - learned.low


@pytest.mark.parametrize("row", rows("sucrose_density"), ids=lambda row: f"{row['brix']}Bx {row['temperature_C']}C")
def test_volume_at_any_temperature_follows_the_density_table(row):
    brix, at = float(row["brix"]), float(row["temperature_C"])
    made = solution(brix)
    assert 100.0 / density.volume_at_ml(made, at) == pytest.approx(float(row["density_kg_m3"]) / 1000, rel=5e-4)
    assert density.volume_at_ml(made, 20.0) == pytest.approx(density.volume_ml(made), rel=1e-12)


def test_a_line_read_hot_is_brought_to_20_degrees():
    water_100 = Contents({"water": 998.2})
    hot = density.volume_at_ml(water_100, 80.0)
    assert hot == pytest.approx(1027.1, abs=0.3)
    assert density.volume_from_reading_ml(hot, 80.0, water_100) == pytest.approx(1000.0, abs=0.1)
    spirit = Contents({"water": 600.0, "ethanol": 300.0, "sucrose": 100.0})
    assert density.volume_at_ml(spirit, 35.0) > density.volume_ml(spirit) > density.volume_at_ml(spirit, 5.0)
    with pytest.raises(Refusal, match="they hold from 0 to 40 °C"):
        density.volume_at_ml(spirit, 60.0)


def test_each_sugar_and_each_acid_add_up():
    juice = Contents({"water": 88.0, "sucrose": 4.0, "glucose": 3.0, "citric_acid": 1.0, "malic_acid": 0.5, "potassium": 0.1})
    assert sum(sugar.sugars_g_100ml(juice).values()) == pytest.approx(sugar.sugar_g_100ml(juice), rel=1e-12)
    by_acid = acidity.acids_g_100ml(juice)
    bound = 0.1 / 39.098 * 64.0413 * 100 / density.volume_ml(juice)
    assert sum(acid.titratable_g_100ml for acid in by_acid.values()) - bound == pytest.approx(acidity.acid_g_100ml(juice), rel=1e-5)
    assert by_acid["malic_acid"].titratable_g_100ml / by_acid["malic_acid"].g_100ml == pytest.approx(0.9552, abs=1e-4)


def test_thawing_takes_longer_than_freezing_and_running_water_is_quicker():
    juice = solution(12)
    assert energy.hours_to_thaw(juice, 60.0, 4.0) > energy.hours_to_freeze(juice, 60.0, -18.0)
    assert energy.hours_to_thaw(juice, 60.0, 10.0, film_w_m2k=200.0) < energy.hours_to_thaw(juice, 60.0, 10.0)
    with pytest.raises(Refusal, match="from 1 to 30 °C"):
        energy.hours_to_thaw(juice, 60.0, 60.0)


def test_alcohol_by_mass_and_what_a_simmer_leaves():
    spirit = Contents({"water": 66.7, "ethanol": 33.3})
    assert alcohol.abw(spirit) == pytest.approx(33.3, abs=0.01)
    # USDA retention: 40 % after a quarter of an hour, 5 % after two and a half.
    assert alcohol.ethanol_retained(15.0).value == pytest.approx(0.40)
    assert alcohol.ethanol_retained(150.0).value == pytest.approx(0.05)
    assert alcohol.ethanol_retained(15.0, "on").value > alcohol.ethanol_retained(15.0).value
    assert alcohol.ethanol_retained(150.0).low > 0, "never all of it leaves"
    with pytest.raises(Refusal, match="outside the table of alcohol retained"):
        alcohol.ethanol_retained(400.0)


COLD = Contents({"water": 60.0, "sucrose": 25.0, "glucose": 8.0, "fructose": 8.0, "citric_acid": 2.0, "potassium": 0.1, "ethanol": 6.0})


@pytest.mark.parametrize("name", DEEP)
def test_every_deeper_figure_is_scale_free(name):
    assert PROPERTY[name](COLD.scaled(7.0)) == pytest.approx(PROPERTY[name](COLD), rel=1e-9, abs=1e-12)


@given(st.floats(0.9, 1.1))
def test_the_quick_freezing_point_is_near_the_searched_one(more):
    other = Contents({**COLD.grams, "sucrose": 25.0 * more})
    base = PROPERTY["freezing_c"](COLD)
    shift = PROPERTY["freezing_c"](other) - base
    assert NEAR["freezing_c"](other, base) - base == pytest.approx(shift, abs=0.03 * abs(shift) + 1e-9)


@pytest.mark.parametrize(
    ("broken", "text"),
    [
        (lambda: water.freezing_c(Contents({"water": 40.0, "ethanol": 60.0})), "does not freeze above −30 °C"),
        (lambda: water.water_activity(Contents({"sucrose": 5.0})), "Without water there is no water activity"),
        (lambda: sugar.corrected_to_20(20.0, 55.0), "the correction holds from 10 to 40 °C"),
        (lambda: sugar.corrected_to_20(92.0, 25.0), "the correction holds from 0 to 80 °Bx"),
        (lambda: viscosity.sucrose_viscosity_mpa_s(85.0), "it holds from 0 to 78 °Bx"),
        (lambda: carbonation.carbonation_g_l(COLD, 60.0, 100.0), "it holds from −2 to 40 °C"),
        (lambda: solubility.acid_solubility_g_100g("lactic_acid", 20.0), "mixes with water in any amount"),
        (lambda: solubility.crystals(COLD, 70.0), "it holds from 0 to 50 °C"),
        (lambda: water.boiling_c(COLD, 5.0), "it holds from 20 to 120 kPa"),
        (lambda: ph_of({"citric_acid": -0.1}), "\u22120.1 mol/L is out of bounds for a concentration"),
    ],
)
def test_models_refuse_outside_their_range(broken, text):
    with pytest.raises(Refusal) as refused:
        broken()
    assert text in refused.value.text


def test_the_worked_numbers_of_the_handbook():
    """Each stands in a docstring, and so in docs/core."""
    plain, kilo = Contents({"water": 998.2}), Contents({"water": 1000.0})
    assert steam.steam_g(11.0, 70.0, 24.0, "half").value == pytest.approx(25.3, abs=0.05)
    assert steam.saturation_pressure_pa(20.0) == pytest.approx(2339, abs=1)
    assert carbonation.henry_mpa(20.0) == pytest.approx(141.4, abs=0.1)
    assert carbonation.carbonation_g_l(kilo, 4.0, 130.0) == pytest.approx(6.6, abs=0.05)
    assert carbonation.charge(Contents({"water": 900.0}), 4.0, 1000.0, 8.0).dissolved_g_l == pytest.approx(8.3, abs=0.05)
    assert energy.hours_to_freeze(solution(12), 60.0, -18.0) == pytest.approx(23, abs=0.5)
    assert energy.hours_to_thaw(solution(12), 60.0, 4.0) == pytest.approx(83, abs=0.5)
    assert [energy.latent_heat_j_g(t) for t in (0.0, 20.0, 100.0, 150.0)] == pytest.approx([2500.9, 2453.5, 2256.4, 2113.7], rel=5e-4)
    assert water.ice_share(solution(15), -18.0) == pytest.approx(0.915, abs=0.001)
    assert carbonation.charge(Contents({"water": 900.0}), 4.0, 1000.0, 8.0).gauge_kpa == pytest.approx(290.0, abs=1.0)
    assert finish.bottles(1430.0, 500.0, 10.0) == (3, pytest.approx(80.0))
    assert finish.bottles(900.0, 500.0, 10.0) == (2, pytest.approx(0.0, abs=1e-6)), "a full bottle is full, whatever the rounding"
    assert sum(water.water_activity_uncertainty(solution(1), 0.999)) == pytest.approx(0.005 + 0.001), "never past 1"
    # Two priors' worth of 4.0 and two runs of 5.0: √(4 × 5) in the middle.
    assert energy.learned(Range(4.0, 3.0, 5.0), [5.0, 5.0]).value == pytest.approx(math.sqrt(20.0))
    assert energy.learned(Range(4.0, 3.0, 5.0), [4.0, 4.0]).half_width == pytest.approx(4.0 * math.sinh(0.2019), abs=0.001)
    assert log_gamma(1, 0.1) == pytest.approx(-0.1070, abs=1e-4)
    assert cation_from_ph({"citric_acid": 1.0}, 5.5, 2.30)[1] == pytest.approx(0.040, abs=0.0005)
    assert concentrate.drip_share(0.25, 4.0) == pytest.approx(0.684, abs=0.001)
    assert density.volume_at_ml(plain, 80.0) == pytest.approx(1027.1, abs=0.2)
    assert extract.extent(1080.0, 6.0, 20.0) * 30.0 == pytest.approx(28.5, abs=0.05)
