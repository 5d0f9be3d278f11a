"""Standards: how long frozen portions are one, what a making must read, and how far batches drift."""

from datetime import date

import pytest

from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.house_rules import read_rules, shipped
from ulsek.core.tasting.serving import SampleContents
from ulsek.core.tasting.standards import (
    Batch,
    check_portions,
    check_reads_so,
    differs,
    drift,
    frozen_until,
    portions_for,
    reads_words,
    standard_stop,
    thaw_words,
)

DAY = date(2026, 12, 1)


def plain(said):
    return str(said).replace("\xa0", " ")


def test_frozen_portions_end_with_their_aroma_or_when_the_house_says_and_never_later():
    rules = shipped().keeping
    last, why = frozen_until(rules, DAY, None)
    assert (last, plain(why)) == (date(2027, 3, 30), "120 days at −18 °C or colder: frozen, aroma fades over months.")
    assert frozen_until(rules, DAY, 30)[0] == date(2026, 12, 30)
    assert "the house ends it then" in plain(frozen_until(rules, DAY, 30)[1])
    for days in (0, 121):
        with pytest.raises(Refusal, match="A standard that has faded is none"):
            frozen_until(rules, DAY, days)
    stricter = {"frozen, aroma fades over months": {"days": 60, "source": "house", "dated": "2026-12-01"}}
    own = read_rules({"format": "ulsek.rules", "version": 1, "quality": stricter})
    assert frozen_until(own.keeping, DAY, None)[0] == date(2027, 1, 29)


@pytest.mark.parametrize(("portions", "ml", "where"), [(0, 100, "portions"), (201, 100, "portions"), (6, 4, "portion_ml"), (6, float("nan"), "portion_ml")])  # fmt: skip
def test_portions_that_cannot_be_are_refused(portions, ml, where):
    with pytest.raises(Refusal) as refused:
        check_portions(portions, ml)
    assert refused.value.where == where


def test_whole_portions_are_thawed_and_used():
    assert [portions_for(ml, 100.0) for ml in (0.0, 90.0, 100.0, 100.1, 250.0)] == [1, 1, 1, 2, 3]
    assert "what is thawed is not frozen again" in plain(thaw_words(2, "Quince, T0001"))


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({}, ""),
        ({"portions": 0}, "No portion is left"),
        ({"until": date(2026, 11, 30)}, "Its last day was 30 Nov"),
        ({"until": date(2026, 11, 30), "portions": None}, "make it again, and read it"),
        ({"until": None, "portions": None}, "It is not made yet"),
        ({"ended": "spilled"}, "It was ended: spilled"),
        ({"recalled": True, "ended": "spilled"}, "recalled or withdrawn"),
    ],
)
def test_why_nobody_may_taste_against_it(change, said):
    stop = plain(standard_stop(**{"ended": "", "recalled": False, "until": DAY, "portions": 3, "today": DAY, **change}))
    assert said in stop
    assert bool(stop) == bool(said)


def test_what_is_made_again_must_read_as_the_standard_does():
    wanted = {"brix_reading": 44.6, "acid_g_100ml": 1.77}
    assert plain(reads_words(wanted)) == "44.6 °Bx and 1.77 g/100 mL acid"
    check_reads_so(wanted, {"brix_reading": 44.9})
    check_reads_so(wanted, {"brix_reading": 44.2, "acid_g_100ml": 1.78})
    for read, where in (({}, "brix_reading"), ({"brix_reading": 45.1}, "brix_reading"), ({"brix_reading": float("nan")}, "brix_reading"), ({"brix_reading": 44.6, "acid_g_100ml": 2.4}, "acid_g_100ml")):  # fmt: skip
        with pytest.raises(Refusal) as refused:
            check_reads_so(wanted, read)
        assert refused.value.where == where
    with pytest.raises(Refusal, match="is not the standard: 44"):
        check_reads_so(wanted, {"brix_reading": 45.1})


def test_what_a_panel_showed_of_one_of_its_samples():
    pairs = [{"first": 2, "second": 0, "by_chance": 0.01}, {"first": 1, "second": 0, "by_chance": 0.3}]
    assert [differs({"share": None, "ranking": None, "scores": {"pairs": pairs}}, place) for place in (0, 1, 2)] == [True, False, True]
    assert differs({"share": {"by_chance": 0.04, "ended_by": None}}, 0)
    assert not differs({"share": {"by_chance": 0.06, "ended_by": None}}, 0)
    assert not differs({"share": {"by_chance": 0.04, "ended_by": "line kept"}}, 0)


def test_drift_is_said_from_a_tenth_on():
    standard = SampleContents("house", 50.0, 2.0, 0.0)
    assert plain(drift(standard, []).words) == "No batch stands beside it yet."
    near = [
        Batch("L0002", 1, date(2026, 11, 9), SampleContents("", 52.0, 1.9)),
        Batch("L0001", 1, date(2026, 11, 2), SampleContents("", 49.0, None)),
    ]
    found = drift(standard, near)
    assert [(point.lot, point.sugar, point.acid) for point in found.points] == [
        ("L0001", pytest.approx(-0.02), None),
        ("L0002", pytest.approx(0.04), pytest.approx(-0.05)),
    ]
    assert plain(found.words) == "2 batches stand beside it: none is off by a tenth, which many would notice."
    off = drift(standard, [*near, Batch("L0003", 2, date(2026, 11, 16), SampleContents("", 44.0, 2.2))])
    assert plain(off.words) == (
        "3 batches stand beside it, 1 of them a tenth off or more. "
        "The last one that is off is L0003, version 2: 12 % less sugar and 10 % more acid."
    )
