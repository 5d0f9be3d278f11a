"""A lot on the shelf, and what a delivery may be: the rules that lists, labels and phones go by."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from decimal import Decimal

import pytest

from tests.core.kitchen import KNOWN
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.materials.delivery import check_packs, price_per_kg, price_per_kg_solids
from ulsek.core.materials.material import read_material
from ulsek.core.operations.finish import bottle_count
from ulsek.core.run.waiting import ALERTED_MIN, needs_attention
from ulsek.core.safety.mixture import opened_until
from ulsek.core.safety.on_the_shelf import ShelfFacts, expires_soon_until, found_dates, shelf_state

PAST = datetime(2026, 3, 8, tzinfo=UTC)
READY = PAST - timedelta(days=3)
LOT = ShelfFacts(PAST, READY, message("it rests in the bottle"))


@pytest.mark.parametrize(
    ("changed", "now", "state", "until"),
    [
        ({}, READY - timedelta(seconds=1), "resting", READY),
        ({}, READY, "good", PAST),
        ({}, PAST - timedelta(seconds=1), "good", PAST),
        ({}, PAST, "past", None),
        ({"ready_at": PAST + timedelta(days=1)}, READY, "resting", PAST),
        ({"withdrawn": "too sharp"}, READY, "withdrawn", None),
        ({"withdrawn": "too sharp", "recalled": "glass"}, PAST, "recalled", None),
        ({"recalled": "glass", "gone": True}, READY, "gone", None),
    ],
)
def test_a_lot_may_be_poured_only_while_nothing_stands_against_it(changed, now, state, until):
    found = shelf_state(replace(LOT, **changed), now)
    assert (found.state, found.until) == (state, until)


def test_the_last_day_counts_and_an_opened_bottle_never_outlasts_its_first_date():
    today = date(2026, 3, 8)
    assert expires_soon_until(today) == today + timedelta(days=2)
    assert opened_until(date(2026, 3, 20), today, 7) == date(2026, 3, 14), "the day it is opened is the first of the seven"
    assert opened_until(date(2026, 3, 10), today, 7) == date(2026, 3, 10)


def test_only_a_wait_that_nobody_stands_beside_calls():
    begun, long = READY, timedelta(minutes=ALERTED_MIN)
    assert needs_attention(begun, begun + long, begun + long)
    assert not needs_attention(begun, begun + long, begun + long - timedelta(seconds=1))
    assert not needs_attention(begun, begun + long - timedelta(minutes=1), begun + long)


@pytest.mark.parametrize(("volume", "count"), [(1430, 4), (1350, 3), (1350.5, 3), (0.4, 1)])
def test_a_label_for_each_bottle_as_it_is_filled(volume, count):
    assert bottle_count(volume, 500.0, 10.0) == count


def test_what_a_kilogram_of_solids_costs_follows_the_reading():
    syrup = {"makeup": {"by": "substance", "g_per_100g": {"sucrose": 66.667}}, "kind": "sweetener", "name": "Syrup"}
    assert price_per_kg(Decimal("1.50"), Decimal(750)) == Decimal("2.0000")
    assert price_per_kg_solids(read_material("syrup", syrup), Decimal("2.00")) == Decimal("3.00")
    assert price_per_kg_solids(read_material("citric_acid", KNOWN["citric_acid"]), Decimal("4.20")) == Decimal("4.20")
    assert price_per_kg_solids(read_material("allspice", KNOWN["allspice"]), Decimal("30.00")) is None


@pytest.mark.parametrize(
    ("pack_g", "price", "packs", "where"),
    [
        (0, 1, 1, "pack_g"),
        (1_000_001, 1, 1, "pack_g"),
        ("NaN", 1, 1, "pack_g"),
        (1, -1, 1, "price"),
        (1, "Infinity", 1, "price"),
        (1, 1, 0, "packs"),
        (1, 1, 1001, "packs"),
    ],
)
def test_packs_that_cannot_be_are_refused_at_their_place(pack_g, price, packs, where):
    with pytest.raises(Refusal) as refused:
        check_packs(Decimal(pack_g), Decimal(price), packs)
    assert refused.value.where == where
    check_packs(Decimal(1_000_000), Decimal(0), 1000)


def test_a_bottle_found_is_dated_by_what_is_known_of_it():
    day = date(2026, 11, 28)
    unknown = found_dates(None, None, day)
    assert (unknown.use_by, unknown.keep_c) == (day, 5.0)
    assert found_dates(None, date(2026, 11, 27), day).use_by == date(2026, 11, 28), "two days, the first included"
