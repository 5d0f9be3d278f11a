"""Strong acids, spirits, sugar alcohols and salts: reference points at the edges of the models, and what is refused or widened beyond them."""

import pytest

from tests.core.kitchen import KNOWN, answered, codes, known, line, pour, spec_of, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.materials.material import read_material
from ulsek.core.operations.clarify import enzyme_minutes
from ulsek.core.properties import acidity, density, solubility, sugar, sweetness, viscosity, water
from ulsek.core.properties.measure import PROPERTY
from ulsek.core.properties.ph import balanced, ionic_strength, ph, ph_uncertainty
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.sums.catalogue import work_out


def of(percent, key, **more):
    return Contents({"water": 100.0 - percent - sum(more.values()), key: percent, **more})


@pytest.mark.parametrize(
    ("percent", "key", "g_ml", "within"),
    [
        # Handbook densities of aqueous solutions at 20 °C.
        (85, "phosphoric_acid", 1.685, 0.004),
        (50, "phosphoric_acid", 1.335, 0.004),
        (10, "phosphoric_acid", 1.053, 0.002),
        (80, "acetic_acid", 1.070, 0.002),
        (60, "acetic_acid", 1.064, 0.002),
        (80, "lactic_acid", 1.19, 0.008),
        (90, "lactic_acid", 1.207, 0.008),
        (20, "sodium_chloride", 1.148, 0.002),
        (100, "glycerol", 1.261, 0.002),
        (6, "citric_acid", 1.023, 0.0012),
    ],
)
def test_density_of_strong_solutions(percent, key, g_ml, within):
    assert density.density_g_ml(of(percent, key)) == pytest.approx(g_ml, abs=within)


def test_a_bottle_of_85_percent_acid_weighs_what_it_says():
    assert read_material("acid", KNOWN["phosphoric_acid_85"]).density_g_ml() == pytest.approx(1.685, abs=0.005)


@pytest.mark.parametrize(
    ("key", "freezes", "sweet"),
    [("erythritol", -1.7, 0.65), ("xylitol", -1.37, 1.0), ("sorbitol", -1.14, 0.6), ("allulose", -1.16, 0.7), ("maltodextrin", -0.12, 0.1)],
)
def test_sugar_alcohols_and_their_kin_are_substances_of_their_own(key, freezes, sweet):
    ten = of(10, key)
    assert water.freezing_c(ten) == pytest.approx(freezes, abs=0.03)
    grams = 10.0 / density.volume_ml(ten) * 100.0
    assert sweetness.sweetness_g_100ml(ten) / grams == pytest.approx(sweet, abs=0.03)
    assert key in {name for body in KNOWN.values() for name in body["makeup"].get("g_per_100g", {})}, "something sold holds it"


def test_spirit_holds_less_sugar_than_its_water_would():
    """70 g per 100 mL in 40 % vol is about all that it holds at room temperature (58 at 14 °C, Scheibler)."""
    spirit = Contents({"water": 66.7, "ethanol": 33.3, "sucrose": 0.0})
    pure, beside = sugar.sucrose_saturation_g_g(of(0, "sucrose"), 20.0), sugar.sucrose_saturation_g_g(spirit, 20.0)
    assert beside == pytest.approx(0.745 * pure, rel=1e-3)
    steps = [pour(line("neutral_spirit_60", 500.0), line("white_sugar", 430.0))]
    assert "sugar_undissolved" in codes(worked(*steps)) and "sugar_undissolved" not in codes(
        worked(pour(line("water", 500.0), line("white_sugar", 430.0)))
    )


@pytest.mark.parametrize(
    ("material", "grams", "stays"),
    [("salt", 200.0, 20.0), ("erythritol", 300.0, 115.0), ("isomalt", 250.0, 75.0), ("malic_acid", 900.0, 250.0)],
)
def test_what_does_not_dissolve_is_said_where_it_stands(material, grams, stays):
    done = worked(pour(line("water", 500.0), line(material, grams)))
    assert "undissolved" in codes(done)
    found = {item.substance: item.mass_g for item in solubility.crystals(done.final, 20.0)}
    assert next(iter(found.values())) == pytest.approx(stays, rel=0.1)
    assert "undissolved" not in codes(worked(pour(line("water", 500.0), line(material, grams / 4.0))))


def test_an_acid_solution_past_its_solubility_is_refused_in_words():
    with pytest.raises(Refusal, match=r"do not dissolve in \d+ g of water: at 20 °C so much water holds \d+ g\. Make it weaker"):
        work_out("acid_solution", {"strength": 89, "volume": 1000})
    assert answered(work_out("acid_solution", {"strength": 50, "volume": 1000}), "citric acid") == pytest.approx(500.0)


def test_ph_widens_with_ions_and_is_refused_where_nobody_knows():
    """0.05 mol/L citrate buffers are standards; a molar one is not."""
    thin = Contents({"water": 1000.0, "citric_acid": 10.0, "sodium": 1.5})
    strong = Contents({"water": 1000.0, "citric_acid": 192.0, "sodium": 35.0})
    assert ionic_strength(thin) < 0.1 < 1.0 < ionic_strength(strong)
    assert ph_uncertainty(thin)[1] == pytest.approx(0.05, abs=0.005) and ph_uncertainty(strong)[1] > 0.25
    with pytest.raises(Refusal, match="So strong or so salty a liquid has a pH that cannot be worked out"):
        ph(Contents({"water": 1000.0, "citric_acid": 5.0, "sodium_chloride": 250.0}))
    with pytest.raises(Refusal, match="are more than the acids can hold"):
        ph(Contents({"water": 1000.0, "citric_acid": 1.0, "potassium": 5.0}))
    assert balanced({"citric_acid": 0.05}, 0.15)[0] == pytest.approx(9.1, abs=0.1), (
        "all of it neutralised, by hydrolysis: no clamp at seven"
    )


def test_acid_is_never_less_than_nothing():
    melon = read_material("melon", KNOWN["melon"]).per_gram().scaled(500.0)
    assert acidity.titratable_g(melon) == 0.0 == worked(pour(line("melon", 500.0))).figures[0]["acid_g_100ml"]
    assert acidity.titratable_g(melon + Contents({"citric_acid": 50.0})) < 50.0, "its cations take part of any acid that joins it"


def test_readings_that_cannot_both_be_right_are_refused():
    with pytest.raises(Refusal, match="2 °Bx and 5 % acid cannot both be right"):
        sugar.true_from_reading(2.0, 5.0)
    with pytest.raises(Refusal, match="g of acid in 100 mL cannot be"):
        work_out("titration", {"burette": 500, "sample": 0.1, "normality": 10})
    assert work_out("titration", {"burette": 37.5}).of("acid_g_100ml") == pytest.approx(2.40, abs=0.01)


def test_an_enzyme_clears_in_under_an_hour_warm_and_in_a_night_cold():
    warm, cold = (enzyme_minutes(t_c, 3.5, 1.0) for t_c in (48.0, 4.0))
    assert 15 < warm.value < 60 and 6 * 60 < cold.value < 14 * 60
    cloudy = pour(line("apple_dessert_mixed_juice", 1000.0), line("medlar_puree", 50.0), line("pectin_enzyme", 1.5))
    clear, short = (worked(cloudy, {"verb": "enzyme", "minutes": m}).final for m in (3 * warm.value, 5))
    assert clear.of("insolubles") < 0.1 * short.of("insolubles"), "half of the pectin cut lets all of the haze sink"


def test_what_boils_low_gets_no_hotter_and_alcohol_left_can_be_set():
    high = read_rules({"format": "ulsek.rules", "version": 1, "altitude_m": 3600})
    hot = spec_of(pour(line("water", 500.0)), {"verb": "hold", "temperature_c": 96, "minutes": 5})
    there, here = evaluate(hot, known(hot), rules=high), evaluate(hot, known(hot))
    assert there.flow.steps[1].temperature_c == pytest.approx(88.0, abs=0.5) and here.flow.steps[1].temperature_c == 96
    assert "boils_lower" in codes(there) and "boils_lower" not in codes(here)
    boil = spec_of(pour(line("water", 500.0)), {"verb": "bring_to", "temperature_c": 100})
    assert "boils_lower" not in codes(evaluate(boil, known(boil), rules=high)), "a hundred degrees mean the boil, wherever that is"
    for verb in ({"verb": "simmer"}, {"verb": "hold", "temperature_c": 85}, {"verb": "reduce", "to_fraction": 0.9}):
        done = worked(
            pour(line("neutral_spirit_40", 500.0), line("water", 500.0)), {**verb, "ethanol_left": {"value": 0.5, "low": 0.4, "high": 0.6}}
        )
        assert done.final.of("ethanol") == pytest.approx(0.5 * done.flow.steps[0].state.liquid.of("ethanol")), verb


def test_nuts_spices_roots_and_herbs_are_toasted_cut_crushed_and_dried():
    for material in ("almonds", "allspice", "ginger_fresh", "mint", "fennel_seed"):
        for verb in ("cut", "crush", "muddle"):
            assert worked(pour(line(material, 50.0)), {"verb": verb}).final.mass_g == pytest.approx(50.0), (material, verb)
        toasted = worked(pour(line(material, 50.0)), {"verb": "toast"}).final
        assert 45.0 < toasted.mass_g < 50.0 and toasted.of("water") < 50.0 - toasted.of("insolubles")
    dried = worked(pour(line("mint", 100.0)), {"verb": "dehydrate", "moisture_percent": 10}).final
    assert dried.of("water") == pytest.approx(0.1 * dried.mass_g)
    with pytest.raises(Refusal, match="There is nothing in the vessel to toast"):
        worked(pour(line("water", 100.0)), {"verb": "toast"})


def test_a_concentrate_known_by_its_label_takes_default_splits():
    label = {
        "name": "Lime concentrate",
        "kind": "juice",
        "makeup": {"by": "reading", "brix_reading": 45, "acid_g_100ml": 30, "source": "label"},
    }
    material = read_material("label", label)
    assert material.measured()["acid_g_100ml"] == pytest.approx(30.0, rel=1e-6)
    assert material.per_gram().of("malic_acid") == 0.0 < material.per_gram().of("glucose")
    with pytest.raises(Refusal, match="A split needs shares"):
        read_material("label", {**label, "makeup": {**label["makeup"], "acid_split": {}}})


def test_the_picture_of_a_blend_shows_what_each_thing_is():
    said = work_out(
        "blend", {"first": "water", "second": "white_sugar", "total": 500, "want": 40, "third": "neutral_spirit_60", "third_g": 50}
    )
    assert [part.kind for part in said.parts] == ["water", "sugar", "spirit"]


def test_a_refractometer_in_spirits_has_a_range():
    done = worked(pour(line("neutral_spirit_40", 500.0), line("white_sugar", 100.0)))
    shown = done.range(0, "brix_reading")
    assert shown.half_width == pytest.approx(0.03 * done.figures[0]["abv"], rel=0.05)
    assert sugar.brix_reading_uncertainty(of(70, "ethanol"))[0] > 5 * sugar.brix_reading_uncertainty(of(33, "ethanol"))[0]
    assert sugar.brix_reading_uncertainty(of(30, "citric_acid"))[0] > 1.0


def test_past_its_eutectic_nothing_has_a_freezing_point():
    for thick in (of(66.7, "sucrose"), of(25, "sodium_chloride")):
        with pytest.raises(Refusal, match="comes out as crystals before ice does"):
            water.freezing_c(thick)
    assert water.freezing_c(of(62, "sucrose")) == pytest.approx(-13.4, abs=0.4)


def test_boiling_and_thickness_widen_where_they_are_less_known():
    assert water.boiling_uncertainty(of(50, "sucrose")) == (0.3, 0.3) and water.boiling_uncertainty(of(85, "sucrose"))[1] == pytest.approx(
        2.0, abs=0.1
    )
    assert viscosity.viscosity_mpa_s(of(40, "ethanol")) == pytest.approx(2.91, rel=0.03), "published, 20 °C"
    below, above = viscosity.viscosity_uncertainty(of(40, "ethanol"), 2.9)
    assert below > 0.5 and above > 0.5


def test_powder_with_its_own_moisture_has_no_figures_of_a_solution():
    """Salt of 0.5 % moisture would be a solution of 3 400 mol/kg."""
    for name in ("water_activity", "ph", "freezing_c", "boiling_c"):
        with pytest.raises(Refusal, match="Without water"):
            PROPERTY[name](of(98, "citric_acid"))
    dry = evaluation_result(worked(pour(line("salt", 100.0))), deep=True)
    assert dry.steps[0].properties.water_activity is None and dry.final.mass_g.value == pytest.approx(100.0)
