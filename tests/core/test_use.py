"""Pars from what was used: days from what was noted and counted, and a par that covers all but the days that it says."""

from datetime import date, timedelta
from random import Random

import pytest

from ulsek.core.planning.used import BottleNote, UsedBetween, by_day, daily_use, par_from_use, run_out_share, used_by_notes


def test_a_par_from_use_covers_all_but_the_share_of_days_that_it_says():
    over = {1: 0, 7: 0, 30: 0}
    for seed in range(300):
        drawn = Random(seed)
        days = {date(2026, 9, 7) + timedelta(days=n): 1000.0 * drawn.gauss(1.0, 0.25) for n in range(42)}
        for lasts in over:
            found = par_from_use(days, (1000.0,) * 7, lasts)
            over[lasts] += 1000.0 * drawn.gauss(1.0, 0.25) > found.must_ml[3]
    # 30 %, 4.3 % and 2 % are what it says; three standard errors of 300 draws.
    for lasts, count in over.items():
        share = run_out_share(lasts)
        assert count / 300 == pytest.approx(share, abs=3.0 * (share * (1.0 - share) / 300) ** 0.5 + 0.01)
    assert par_from_use({date(2026, 9, 7): 100.0}, (1000.0,) * 7, 3) is None


def test_what_a_count_found_is_spread_over_its_days_by_the_usual_week():
    week = (500.0, 500.0, 500.0, 1000.0, 2000.0, 2000.0, 0.0)
    found = by_day(
        [UsedBetween(date(2026, 12, 3), date(2026, 12, 4), 3000.0), UsedBetween(date(2026, 12, 4), date(2026, 12, 4), 100.0)], week
    )
    assert found == {date(2026, 12, 3): 1000.0, date(2026, 12, 4): 2100.0}


def test_a_day_counts_once_it_is_over_and_one_without_a_note_is_one_without_use():
    day = [date(2026, 12, n) for n in range(1, 9)]
    noted = [UsedBetween(day[0], day[0], 300.0), UsedBetween(day[2], day[2], 500.0), UsedBetween(day[6], day[6], 900.0)]
    found = daily_use(noted, (1.0,) * 7, today=day[6])
    assert found == {day[0]: 300.0, day[1]: 0.0, day[2]: 500.0}
    assert daily_use([UsedBetween(day[6], day[6], 900.0)], (1.0,) * 7, today=day[6]) == {}


def test_a_par_to_keep_is_in_whole_tens_and_never_below_what_follows():
    days = {date(2026, 11, 2) + timedelta(days=n): 333.0 + n for n in range(21)}
    found = par_from_use(days, (500.0,) * 7, 10)
    assert all(kept % 10 == 0 and 0 <= kept - must < 10 for kept, must in zip(found.par.must_ml, found.must_ml, strict=True))
    assert found.par.use_ml == found.use_ml


def test_what_a_count_finds_missing_was_used_since_the_count_before_it():
    day = [date(2026, 12, n) for n in range(1, 11)]

    def note(n, kind, ml, before=None, bottle=1):
        return BottleNote(bottle, day[0], day[n], kind == "counted", ml, before)

    notes = [
        note(1, "used", 100.0),
        note(3, "counted", 500.0, 700.0),
        note(3, "counted", 300.0, 400.0, bottle=2),
        # More than was thought, and one of which nobody recorded what was expected: no use, but counted.
        note(5, "counted", 600.0, 500.0),
        note(6, "counted", 550.0),
        note(8, "counted", 400.0, 550.0),
    ]
    assert used_by_notes(notes, earliest=day[2]) == (
        UsedBetween(day[1], day[1], 100.0),
        UsedBetween(day[2], day[3], 200.0),
        UsedBetween(day[2], day[3], 100.0),
        UsedBetween(day[6], day[8], 150.0),
    )
