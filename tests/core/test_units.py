"""Amounts as people write them."""

import pytest

from ulsek.core.base.refusals import Refusal
from ulsek.core.base.units import LOCALES, parse_quantity, read_number, unit_size
from ulsek.core.written.lexicon import LANGUAGES, lexicon


@pytest.mark.parametrize(
    ("written", "locale", "value", "dimension"),
    [
        ("650 g", "metric", 650.0, "mass"),
        ("1,34 kg", "metric", 1340.0, "mass"),
        ("1 340 g", "metric", 1340.0, "mass"),
        ("2 oz", "us", 56.69904625, "mass"),
        ("1 1/2 cups", "us", 354.88235475, "volume"),
        ("1 1/2 cups", "metric", 375.0, "volume"),
        ("½ tsp", "metric", 2.5, "volume"),
        ("1½ tbsp", "imperial", 26.63724609375, "volume"),
        ("2 fl oz", "us", 59.147059125, "volume"),
        ("2 fl oz", "imperial", 56.826125, "volume"),
        ("75 cl", "metric", 750.0, "volume"),
        ("3 each", "metric", 3.0, "count"),
    ],
)
def test_amounts_are_read_with_the_locale_and_keep_their_text(written, locale, value, dimension):
    found = parse_quantity(written, locale)
    assert (found.value, found.dimension, found.written) == (pytest.approx(value), dimension, written)


@pytest.mark.parametrize(
    ("written", "text"),
    [
        ("", "The amount is empty. Write a number and a unit, such as 620 g."),
        ("a splash", "“a splash” cannot be read as an amount. Write a number and a unit, such as 620 g."),
        ("620", "“620” has no unit. Write one of g, kg, mg, oz, lb, mL, cL, dL, L, tsp, tbsp, cup, fl oz, pint, quart, each."),
        ("-5 g", "“-5 g” is not an amount to add: it must be more than nothing. Write a number above zero."),
        ("0 g", "“0 g” is not an amount to add: it must be more than nothing. Write a number above zero."),
        ("1/0 cup", "“1/0 cup” is not an amount to add: it must be more than nothing. Write a number above zero."),
    ],
)
def test_what_is_no_amount_is_refused_in_words(written, text):
    with pytest.raises(Refusal) as caught:
        parse_quantity(written)
    assert caught.value.text == text


def test_an_unknown_unit_names_the_known_ones():
    with pytest.raises(Refusal, match="“firkins” is a unit that Ulsek does not know: it knows g, kg"):
        parse_quantity("2 firkins")


@pytest.mark.parametrize(
    ("written", "value"),
    [("0,62", 0.62), ("1 1/2", 1.5), ("−3", -3.0), ("1 340.5", 1340.5), ("66.6671", 66.6671), ("0.1234", 0.1234), ("1,200.5", 1200.5)],
)
def test_bare_numbers(written, value):
    assert read_number(written) == pytest.approx(value)


@pytest.mark.parametrize("written", ["", "NaN", "inf", "1e9", "4 g", "--2"])
def test_no_bare_number(written):
    with pytest.raises(Refusal):
        read_number(written)


@pytest.mark.parametrize("language", LANGUAGES)
def test_every_unit_that_a_language_names_has_a_size(language):
    units = set(lexicon(language).data["units"].values()) - {"drop", "dash", "pinch", "shot", "bar spoon", "each"}
    assert all(unit_size(unit, locale)[1] > 0 for unit in units for locale in LOCALES)
