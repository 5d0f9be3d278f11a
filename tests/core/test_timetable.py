"""Counting back from a pour, through rests and the preps below."""

from datetime import UTC, datetime, timedelta

import pytest

from ulsek.core.base.refusals import Refusal
from ulsek.core.run.start_times import PrepTimes, expiry_before_ready, start_by, takes_min

FRIDAY = datetime(2026, 11, 27, 18, tzinfo=UTC)
MADE = {
    "soda": PrepTimes("soda", "Soda", 120.0, ("syrup",)),
    "syrup": PrepTimes("syrup", "Soda syrup", 60.0, ("emulsion", "water")),
    "emulsion": PrepTimes("emulsion", "Emulsion", 2880.0),
}


def starts(**how):
    return {item.key: item for item in start_by("soda", FRIDAY, FRIDAY - timedelta(days=1), MADE, **how)}


def test_a_friday_pour_starts_on_wednesday():
    found = starts()
    assert found["soda"].start_by == FRIDAY - timedelta(hours=2)
    assert found["syrup"].ready_by == found["soda"].start_by
    assert found["emulsion"].start_by == FRIDAY - timedelta(hours=3) - timedelta(days=2)
    assert [found[key].too_late for key in ("soda", "syrup", "emulsion")] == [False, False, True]
    assert found["emulsion"].needed_for == "Soda syrup"
    assert list(found) == ["emulsion", "syrup", "soda"], "the first to start stands first"


def test_what_is_on_the_shelf_need_not_be_made():
    assert set(starts(on_shelf=["syrup"])) == {"soda"}


def test_a_prep_that_two_need_is_needed_by_the_earlier():
    made = {**MADE, "soda": PrepTimes("soda", "Soda", 120.0, ("emulsion", "syrup"))}
    found = {item.key: item for item in start_by("soda", FRIDAY, FRIDAY, made)}
    assert found["emulsion"].ready_by == found["syrup"].start_by


def test_a_circle_and_a_stranger_are_refused():
    with pytest.raises(Refusal, match="draws on itself"):
        start_by("a", FRIDAY, FRIDAY, {"a": PrepTimes("a", "A", 1, ("b",)), "b": PrepTimes("b", "B", 1, ("a",))})
    with pytest.raises(Refusal, match="Nothing is known"):
        start_by("x", FRIDAY, FRIDAY, MADE)


def test_what_is_out_of_date_before_it_is_ready_has_no_timetable():
    old = {**MADE, "emulsion": PrepTimes("emulsion", "Emulsion", 2880.0, expires_before_ready=True)}
    with pytest.raises(Refusal, match="Emulsion is out of date before it is ready"):
        start_by("soda", FRIDAY, FRIDAY, old)
    assert start_by("soda", FRIDAY, FRIDAY, old, on_shelf=["emulsion"]), "what stands on the shelf is ready"


@pytest.mark.parametrize(("days", "words"), [(2, ""), (9, "Ready on 06 Dec, to be used by 01 Dec: 5 days at 5 °C or colder")])
def test_a_rest_that_outlives_its_date_says_so_by_the_calendar(days, words):
    from tests.core.kitchen import line, pour, worked

    rested = worked(
        pour(line("gooseberry_juice", 500.0), line("white_sugar", 400.0)), {"verb": "rest", "minutes": 1440 * days, "temperature_c": 4}
    )
    said = expiry_before_ready(rested, FRIDAY).text()
    assert said.startswith(words) if words else not said


def test_a_spec_takes_as_long_as_its_slowest_vessel():
    from tests.core.kitchen import line, pour, worked

    done = worked(pour(line("water", 900.0)), {"verb": "rest", "minutes": 2880})
    assert takes_min(done) == pytest.approx(2880 + sum(step.labour_min for step in done.inputs.spec.steps))
