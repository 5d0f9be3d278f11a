"""Properties against the reference tables; tolerances are those that the product promises."""

import importlib
import inspect
import itertools
import pkgutil
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

import ulsek.core.operations as operations_package
import ulsek.core.properties as properties_package
from tests.reference import rows
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.materials.composition import ByReading, BySubstance
from ulsek.core.operations.catalogue import VERBS
from ulsek.core.properties import alcohol, density, energy, solubility, sugar, sweetness
from ulsek.core.properties.acidity import acid_g_100ml, titratable_g
from ulsek.core.properties.measure import NAMES, PROPERTY, measure


def _turns(table):
    """How often a table of points changes between rising and falling in its steps, and the largest jump of a step against the one before."""
    steps = [(y2 - y1) / (x2 - x1) for (x1, y1), (x2, y2) in itertools.pairwise(table)]
    return sum((one > 0) != (other > 0) for one, other in itertools.pairwise(steps)), steps


@pytest.mark.parametrize("key", sorted(density.CROWDED))
def test_an_apparent_volume_rises_with_the_share_and_stays_below_that_of_the_pure_substance(key):
    table = density.CROWDED[key]
    turns, steps = _turns(table)
    assert (turns, min(steps) > 0) == (0, True)
    assert [x for x, _ in table] == sorted({x for x, _ in table})
    assert table[-1][1] / table[0][1] < 1.35


@pytest.mark.parametrize("key", sorted(solubility._OTHERS) + sorted(solubility._ACIDS))
def test_what_dissolves_rises_with_the_heat_and_ever_faster(key):
    table = solubility._OTHERS.get(key) or solubility._ACIDS[key]
    turns, steps = _turns(table)
    assert (turns, min(steps) > 0) == (0, True)
    assert all(x % 5 == 0 for x, _ in table), "a handbook's grid"
    # A slip of a point makes the curve bend there and back; citric acid bends once, where its hydrate gives way at 37 °C.
    assert all(later > (0.65 if key == "citric_acid" else 0.75) * earlier for earlier, later in itertools.pairwise(steps))


@pytest.mark.parametrize("row", rows("sucrose_density"), ids=lambda row: f"{row['brix']}Bx {row['temperature_C']}C")
def test_sucrose_density_within_half_a_permille(row):
    found = density.sucrose_density(float(row["brix"]) / 100, float(row["temperature_C"]))
    assert found == pytest.approx(float(row["density_kg_m3"]), rel=5e-4)


@pytest.mark.parametrize("row", rows("ethanol_water"), ids=lambda row: row["p_mass"])
def test_ethanol_density_and_strength_at_every_tabulated_temperature(row):
    p = float(row["p_mass"])
    for column, value in row.items():
        if column.startswith("density_") and value:
            temperature = float(column.removeprefix("density_").removesuffix("C"))
            assert alcohol.ethanol_water_density(p, temperature) == pytest.approx(float(value), rel=2e-4)
    assert alcohol.abv_from_mass_fraction(p) == pytest.approx(float(row["abv_20C"]), abs=0.02)


@pytest.mark.parametrize("row", rows("ethanol_abv_abw"), ids=lambda row: row["abv"])
def test_strength_by_volume_to_mass(row):
    assert 100 * alcohol.mass_fraction_from_abv(float(row["abv"])) == pytest.approx(float(row["abw"]), abs=0.02)


@pytest.mark.parametrize("row", rows("sucrose_refractive_index"), ids=lambda row: row["brix"])
def test_refractive_index(row):
    assert sugar.refractive_index(float(row["brix"]) / 100) == pytest.approx(float(row["nD_table"]), abs=2e-5)


@pytest.mark.parametrize("row", rows("sucrose_solubility"), ids=lambda row: row["temperature_C"])
def test_saturation(row):
    assert sugar.saturation_brix(float(row["temperature_C"])) == pytest.approx(float(row["saturation_brix"]), abs=0.02)


MIXES = {row["id"]: row["outputs"] for row in rows("mixes")}


def told(mix: str, name: str) -> tuple[float, float]:
    """A value and its tolerance out of the table of worked mixtures."""
    value, tolerance = re.search(rf"(?:^|; ){re.escape(name)}=(-?[\d.]+)±([\d.]+)", MIXES[mix]).groups()
    return float(value), float(tolerance)


def check(mix: str, name: str, found: float) -> None:
    value, tolerance = told(mix, name)
    assert found == pytest.approx(value, abs=tolerance), f"{mix} {name}"


def test_one_to_one_syrup_by_weight():
    syrup = Contents({"water": 1000.0, "sucrose": 1000.0})
    figures = measure(syrup)
    check("M01", "brix", figures["brix"])
    check("M01", "density_20C", figures["density_g_ml"] * 1000)
    check("M01", "volume_20C", figures["volume_ml"])
    check("M01", "sugar", figures["sugar_g_100ml"] * 10)
    assert figures["brix_reading"] == pytest.approx(50.0, abs=0.01)


def test_spirit_with_water_and_sugar_contracts():
    p = alcohol.mass_fraction_from_abv(40)
    mass = 0.7 * alcohol.ethanol_water_density(p)
    mix = Contents({"ethanol": mass * p, "water": mass * (1 - p) + 0.3 * density.water_density(20)})
    check("M40", "volume_with_contraction", density.volume_ml(mix))
    check("M40", "abv_with_contraction", measure(mix)["abv"])
    p = alcohol.mass_fraction_from_abv(96)
    mass = 0.35 * alcohol.ethanol_water_density(p)
    sweet = Contents({"ethanol": mass * p, "water": mass * (1 - p) + 0.35 * density.water_density(20), "sucrose": 250.0})
    check("M43", "abv_with_contraction", measure(sweet)["abv"])
    check("M43", "sugar", measure(sweet)["sugar_g_100ml"] * 10)


def test_acid_made_up_to_the_line():
    mix = Contents({"water": told("M26", "water_needed")[0], "citric_acid": 6.0})
    check("M26", "density_20C", density.density_g_ml(mix) * 1000)
    assert acid_g_100ml(mix) == pytest.approx(6.0, abs=0.01)


def test_syrup_past_saturation_crystallises():
    syrup = Contents({"sucrose": 666.67, "water": 333.33})
    check("M50", "crystals", sugar.undissolved_sucrose_g(syrup, 5.0))
    assert sugar.undissolved_sucrose_g(syrup, 40.0) == 0.0


def test_potassium_hides_acid_from_the_burette_and_never_from_the_balance():
    free = Contents({"water": 900.0, "malic_acid": 20.0})
    bound = Contents({"water": 900.0, "malic_acid": 20.0, "potassium": 3.9098})
    assert titratable_g(free) - titratable_g(bound) == pytest.approx(0.1 * 192.124 / 3, rel=1e-9)


def test_a_juice_reads_as_it_was_read():
    juice = ByReading(
        Range.exact(8.2),
        Range.exact(2.4),
        {"malic_acid": 0.55, "quinic_acid": 0.42, "citric_acid": 0.03},
        {"glucose": 1.0},
        200.0,
        Range.exact(0.08),
        "test",
    )
    contents = juice.per_gram(0.0, 0.0)
    figures = measure(contents)
    assert contents.mass_g == pytest.approx(1.0, abs=1e-12)
    assert figures["brix_reading"] == pytest.approx(8.2, abs=1e-9)
    assert figures["acid_g_100ml"] == pytest.approx(2.4, abs=1e-9)
    assert figures["brix"] > 8.2, "acid makes the refractometer read low"


def test_readings_that_cannot_both_be_right_are_refused_in_words():
    juice = ByReading(Range.exact(3.0), Range.exact(4.0), {"citric_acid": 1.0}, {"glucose": 1.0}, 100.0, Range.exact(0.08), "test")
    with pytest.raises(Refusal) as caught:
        juice.per_gram(0.0, 0.0)
    assert caught.value.text.startswith("3.0 °Bx and 4.00 g/100 mL acid cannot both be right: that much acid alone is")


def test_a_makeup_over_a_hundred_is_refused():
    with pytest.raises(Refusal, match=r"The makeup holds 120.0 g in 100 g: it cannot pass 100 g"):
        BySubstance({"sucrose": Range.exact(90.0), "citric_acid": Range.exact(30.0)}, "test").per_gram(0.0)


@pytest.mark.parametrize(
    ("call", "text"),
    [
        (
            lambda: density.sucrose_density(0.5, 95.0),
            "95 °C is outside the sucrose density formula: it holds from 0 to 80 °C. Work by weight above 80 °C.",
        ),
        (
            lambda: alcohol.ethanol_water_density(0.4, 60.0),
            "60 °C is outside the alcohol tables: they hold from −20 to 40 °C. Let it cool, then read.",
        ),
        (lambda: alcohol.mass_fraction_from_abv(101), "101 % vol cannot be: strength lies between 0 and 100 % vol."),
        (lambda: sugar.refractive_index(0.9), "A mass fraction of 0.9 is outside the refractive table: it holds from 0 to 0.85."),
        (lambda: sugar.saturation_brix(120), "120 °C is outside the solubility table: it holds from 0 to 100 °C."),
        (lambda: density.density_g_ml(Contents()), "An empty vessel has no density. Put something in first."),
    ],
)
def test_out_of_range_is_refused_with_the_bound(call, text):
    with pytest.raises(Refusal) as caught:
        call()
    assert caught.value.text == text


SOME = st.floats(0.0, 2000.0)


@given(
    water=st.floats(50, 3000),
    sucrose=SOME,
    glucose=st.floats(0, 300),
    citric=st.floats(0, 100),
    ethanol=st.floats(0, 600),
    solids=st.floats(0, 100),
)
def test_all_figures_at_once_equal_them_one_by_one(water, sucrose, glucose, citric, ethanol, solids):
    mix = Contents(
        {"water": water, "sucrose": sucrose, "glucose": glucose, "citric_acid": citric, "ethanol": ethanol, "insolubles": solids}
    )
    figures = measure(mix)
    for name in set(NAMES) - {"density_g_ml"}:
        one = PROPERTY[name]
        assert figures[name] == pytest.approx(one(mix), rel=1e-12, abs=1e-12), name


@given(water=st.floats(100, 2000), sucrose=st.floats(0, 3000), more=st.floats(1, 500))
def test_more_sugar_is_more_brix_and_more_volume(water, sucrose, more):
    before, after = measure(Contents({"water": water, "sucrose": sucrose})), measure(Contents({"water": water, "sucrose": sucrose + more}))
    assert after["brix"] > before["brix"]
    assert after["volume_ml"] > before["volume_ml"]
    assert after["density_g_ml"] > before["density_g_ml"]


def _functions(package, besides=()):
    """(name, docstring) of every public function of a package, but for the modules named."""
    for module in pkgutil.iter_modules(package.__path__):
        if module.name in besides:
            continue
        loaded = importlib.import_module(f"{package.__name__}.{module.name}")
        for name, thing in vars(loaded).items():
            if inspect.isfunction(thing) and thing.__module__ == loaded.__name__ and not name.startswith("_"):
                yield name, thing.__doc__ or ""


JUICE_LIKE = {"water": 820.0, "sucrose": 90.0, "glucose": 31.0, "fructose": 35.0, "citric_acid": 14.0, "malic_acid": 4.0, "potassium": 1.6}


@pytest.mark.parametrize("name", [name for name in PROPERTY if name not in ("mass_g", "volume_ml")])
@given(times=st.floats(0.01, 500.0), spirit=st.sampled_from([0.0, 60.0]))
def test_no_figure_of_a_liquid_knows_how_much_of_it_there_is(name, times, spirit):
    """Only mass and volume grow with the batch: a glass of it reads as the pot does."""
    pot = Contents({**JUICE_LIKE, **({"ethanol": spirit} if spirit else {})})
    assert PROPERTY[name](pot.scaled(times)) == pytest.approx(PROPERTY[name](pot), rel=1e-7, abs=1e-9)


@given(times=st.floats(0.01, 500.0))
def test_neither_does_the_time_that_a_block_takes(times):
    pot = Contents(JUICE_LIKE)
    for hours in (lambda it: energy.hours_to_freeze(it, 60.0, -18.0), lambda it: energy.hours_to_thaw(it, 60.0, 4.0)):
        assert hours(pot.scaled(times)) == pytest.approx(hours(pot), rel=1e-9)


def test_a_block_of_twelve_brix_thaws_as_its_docstring_says():
    assert energy.hours_to_thaw(Contents({"water": 880.0, "sucrose": 120.0}), 60.0, 4.0) == pytest.approx(83.0, abs=0.5)


def test_sweetness_by_hand():
    """Per 100 mL: each gram by its own sweetness; fructose 1.25 and glucose 0.70 of sucrose."""
    mixed = Contents({"water": 700.0, "sucrose": 100.0, "glucose": 100.0, "fructose": 100.0})
    litres = measure(mixed)["volume_ml"] / 100.0
    assert PROPERTY["sweetness_g_100ml"](mixed) == pytest.approx((100 + 70 + 125) / litres)
    below, above = sweetness.sweetness_uncertainty(mixed)
    assert (below, above) == (pytest.approx((8 + 20) / litres), pytest.approx((6 + 45) / litres))


def test_every_property_says_its_units_and_its_source():
    for name, text in _functions(properties_package):
        if name not in ("measure", "figure_of"):
            assert re.search(r"\[[^\]]+\]", text), f"{name} does not say its units"
            assert "Source" in text, f"{name} does not say its source"


def test_every_operation_says_its_source_and_every_verb_what_it_does():
    for name, text in _functions(operations_package, besides=("step",)):  # how parameters are declared: nothing is computed there
        if name not in ("amounts_to_reach", "bring_to", "bottles", "solve_linear", "holds"):
            assert "Source" in text, f"{name} does not say its source"
    for verb, kind in VERBS.items():
        assert kind.__doc__.strip(), verb
        assert kind.family, verb
