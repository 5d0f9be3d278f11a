"""Scores by tasters who knew what they drank: a result in words, which shows nothing of guests."""

from datetime import UTC, datetime, timedelta

from ulsek.core.tasting.open_scores import OpenScore, open_result

AT = datetime(2026, 11, 20, 16, tzinfo=UTC)


def test_one_score_is_somebodys_and_several_have_a_mean_and_their_ends():
    assert open_result(()) is None
    noor = OpenScore(7.25, "Noor", "", "rounder", AT)
    assert str(open_result((noor,)).headline) == "Noor gave 7.25 of 10."
    jonas = OpenScore(6.5, "Jonas", "version 2", "", AT + timedelta(days=1))
    both = open_result((noor, jonas))
    assert str(both.headline) == "6.9 of 10 on average, 6.5 to 7.25, by 2 tasters, against version 2."
    assert both.scores == (jonas, noor), "the newest first, with their decimals"
    assert "shows nothing of guests" in str(both.about)
    again = open_result((noor, OpenScore(9.0, "Noor", "the market's", "", AT), jonas))
    assert "by 2 tasters, against the market's and version 2." in str(again.headline)
