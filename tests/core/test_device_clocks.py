"""When something really happened, whatever a device's clock shows."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulsek.core.base.refusals import Refusal
from ulsek.core.run.device_clocks import OFF_S, SLACK, CorrectedTime, corrected_time, moment, offset_s

STARTED = datetime(2026, 11, 27, 12, 0, tzinfo=UTC)
RECEIVED = STARTED + timedelta(hours=2)
BEFORE = STARTED + timedelta(minutes=20)
POSSIBLE = (STARTED, RECEIVED)
YEAR = timedelta(days=365)


@given(st.timedeltas(-100 * YEAR, 100 * YEAR), st.timedeltas(timedelta(0), timedelta(hours=2)))
def test_a_clock_that_is_off_all_along_is_corrected_to_the_second(off, after):
    really, ahead = STARTED + after, offset_s(RECEIVED + off, RECEIVED)
    found = corrected_time(really + off, ahead, POSSIBLE, BEFORE)
    assert abs((found.at - really).total_seconds()) <= OFF_S
    assert found.clock == ("corrected" if abs(ahead) > OFF_S else "")


@given(st.datetimes(timezones=st.just(UTC)), st.floats(-1e12, 1e12))
def test_whatever_a_clock_says_the_time_is_possible(said, ahead):
    found = corrected_time(said, ahead, POSSIBLE, BEFORE)
    assert STARTED - SLACK <= found.at <= RECEIVED + SLACK


@pytest.mark.parametrize("said", [STARTED + YEAR, STARTED - YEAR, datetime(9999, 12, 31, tzinfo=UTC), datetime(1, 1, 1, tzinfo=UTC)])
def test_what_cannot_be_true_is_the_earliest_that_it_can_have_been(said):
    assert corrected_time(said, 0.0, POSSIBLE, BEFORE) == CorrectedTime(BEFORE, "estimated")


@pytest.mark.parametrize(
    ("text", "says"), [("yesterday", "“yesterday” is no time"), ("2026-11-27T12:00:00", "The time has no offset"), ("", "“” is no time")]
)
def test_a_text_that_is_no_time_is_refused(text, says):
    with pytest.raises(Refusal) as refused:
        moment(text)
    assert refused.value.text == f"{says}: ISO 8601 with its offset."
