"""The registry of figures, the tables that are written from it, and the format of numbers."""

from __future__ import annotations

from typing import get_args

import pytest

from ulsek.core.advice.aims import AIMS
from ulsek.core.base.figures import FIGURES, RUN_READINGS, half_range, named, quantity, with_half_range
from ulsek.core.base.messages import printed
from ulsek.core.base.number_format import amount, figure, given
from ulsek.core.operations.amounts import TargetProperty
from ulsek.core.properties.measure import PROPERTY
from ulsek.typescript import LANGUAGES, TARGET, figures_ts, languages_ts


def test_every_figure_that_is_worked_out_is_described():
    for key in PROPERTY:
        item = FIGURES[key]
        assert item.name and item.formula and item.source, key
        assert item.unit or key in ("ph", "water_activity"), f"{key} has no unit and is no pure number"


def test_what_may_be_aimed_at_has_its_bounds_in_words():
    assert {key: AIMS[key].words.text() for key in AIMS} == {
        "brix": "from 0 to 90 °Bx",
        "brix_reading": "from 0 to 85 °Bx",
        "acid_g_100ml": "from 0 to 60 g/100 mL",
        "sugar_g_100ml": "from 0 to 130 g/100 mL",
        "abv": "from 0 to 97 % vol",
        "volume_ml": "from 0.1 mL to 1 000 L",
        "mass_g": "from 0.1 g to a tonne",
        "ph": "from pH 1 to 9",
        "cost": "zero or more",
    }
    assert set(get_args(TargetProperty)) < set(AIMS)
    with pytest.raises(LookupError, match="The figure viscosity_mpa_s has no limits"):
        _ = FIGURES["viscosity_mpa_s"].bounds


def test_what_may_be_read_has_the_bounds_of_its_instrument_in_words():
    assert {key: (*FIGURES[key].readable[:2], FIGURES[key].readable.words.text()) for key in RUN_READINGS} == {
        "brix_reading": (0.0, 85.0, "a refractometer reads from 0 to 85 °Bx"),
        "acid_g_100ml": (0.0, 60.0, "titratable acid lies from 0 to 60 g/100 mL"),
        "mass_g": (0.0, 1e6, "from 0 g to a tonne"),
        "volume_ml": (0.0, 1e6, "from 0 mL to 1 000 L"),
        "ph": (0.0, 14.0, "a meter reads from pH 0 to 14"),
        "water_activity": (0.0, 1.0, "a meter reads from water activity 0 to 1"),
        "temperature_c": (-30.0, 200.0, "a kitchen thermometer reads from −30 to 200 °C"),
    }
    with pytest.raises(LookupError, match="The figure brix has no instrument"):
        _ = FIGURES["brix"].readable


def test_half_ranges_are_known_for_what_is_compared_with_predictions():
    compared = {key: half_range(key) for key, item in FIGURES.items() if item.is_compared}
    assert compared == {
        "mass_g": 2.0,
        "volume_ml": 10.0,
        "brix_reading": 0.2,
        "acid_g_100ml": 0.06,
        "abv": 0.5,
        "ph": 0.1,
        "water_activity": 0.01,
    }
    with pytest.raises(LookupError, match="Readings of temperature_c are not compared with predictions"):
        half_range("temperature_c")


def test_the_front_ends_tables_on_disk_are_what_the_registry_says_today():
    assert TARGET.read_text(encoding="utf-8") == figures_ts(), "run bin/types"
    assert LANGUAGES.read_text(encoding="utf-8") == languages_ts(), "run bin/types"
    assert '{ property: "brix", label: "Goal °Bx", tolerance: 0.5 },' in figures_ts()
    assert '{ value: "sugar_g_100ml", label: "sugar, g/100 mL" },' in figures_ts()


@pytest.mark.parametrize(
    ("value", "decimals", "text"),
    [
        (0, None, "0.00"),
        (9.994, None, "9.99"),
        (9.995, None, "10.0"),
        (99.94, None, "99.9"),
        (99.95, None, "100"),
        (12345.6, None, "12 346"),
        (-0.001, 2, "0.00"),
        (-3, 0, "\u22123"),
        # Exact halves go away from zero; 2.675 is stored a little below its half.
        (0.125, 2, "0.13"),
        (2.5, 0, "3"),
        (-112.5, 0, "\u2212113"),
        (2.675, 2, "2.67"),
        (1e22, 0, "10 000 000 000 000 000 000 000"),
        (float("inf"), 1, "–"),
        (float("nan"), None, "–"),
    ],
)
def test_figures_have_as_many_digits_as_they_deserve(value, decimals, text):
    assert figure(value, decimals).replace("\u00a0", " ") == text


@pytest.mark.parametrize(
    ("value", "digits", "text"),
    [
        (62.5, 6, "62.5"),
        (-30, 6, "\u221230"),
        (1e6, 6, "1 000 000"),
        (1234567.4, 6, "1 234 567"),
        (1 / 3, 6, "0.333333"),
        (0.000004, 6, "0.000004"),
        (2.449, 2, "2.4"),
        (0, 6, "0"),
        (1e300, 6, "1e+300"),
        (float("inf"), 6, "inf"),
    ],
)
def test_numbers_that_somebody_gave_are_said_as_they_were_given(value, digits, text):
    assert given(value, digits).replace("\u00a0", " ") == text


def test_values_are_printed_with_unit_name_and_half_range():
    shown = [
        quantity("brix", 40),
        quantity("mass_g", 1234.5),
        quantity("ph", 2.9),
        named("ph", 2.9),
        named("water_activity", 0.87),
        named("brix", 40),
        with_half_range("acid_g_100ml", 2.6, 0.055),
        amount(0.004, "g"),
        amount(0.004, "g", 2),
    ]
    assert [printed(text).replace("\u00a0", " ") for text in shown] == [
        "40.0 °Bx",
        "1 235 g",
        "2.90",
        "pH 2.90",
        "water activity 0.870",
        "40.0 °Bx",
        "2.60 g/100 mL ± 0.06",
        "under 0.01 g",
        "0.00 g",
    ]
