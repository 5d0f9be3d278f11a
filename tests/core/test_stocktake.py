"""The walk of a count and its gap in money, by hand."""

from datetime import UTC, datetime
from decimal import Decimal

from ulsek.core.materials.stocktake import Count, Gap, StocktakeItem, gap_of, total_of, walk_order


def at(day, hour, minute=0):
    return datetime(2026, 11, day, hour, minute, tzinfo=UTC)


def test_the_shelf_is_walked_as_it_was_walked_last():
    items = [
        StocktakeItem("lemon", "Lemon", "cold room", at(20, 10, 1)),
        StocktakeItem("gin", "Gin", "back bar", at(20, 9, 2)),
        StocktakeItem("cordial", "Cordial", "cold room", at(20, 10)),
        StocktakeItem("rum", "Rum", "back bar", at(20, 9, 1)),
        StocktakeItem("vermouth", "Vermouth", "back bar", at(20, 9, 3)),
        StocktakeItem("ash", "Ash", "back bar", None),
        StocktakeItem("sugar", "Sugar", "attic", None),
        StocktakeItem("lost", "Lost", "", at(20, 8)),
    ]
    usual = ("rum", "gin", "vermouth", "ash", "cordial", "lemon", "sugar", "lost")
    assert walk_order(items) == usual
    # One bottle that was counted at another time is walked last where it stands, and its place stays where it is.
    assert walk_order([StocktakeItem("rum", "Rum", "back bar", at(25, 9)) if one.key == "rum" else one for one in items])[:4] == (
        "gin",
        "vermouth",
        "rum",
        "ash",
    )
    assert walk_order([]) == ()


def test_a_gap_is_what_the_counts_changed_and_not_what_was_used_between_them():
    # 900 in the books and 780 there; 300 used; then it is counted right: 500 there of 480 in the books.
    gap = gap_of([Count(900.0, 780.0), Count(480.0, 500.0)], Decimal("0.0205"))
    assert gap == Gap(amount=-100.0, money=Decimal("-2.05"))
    assert gap_of([Count(100.0, 90.0)], None) == Gap(amount=-10.0, money=None)
    assert gap_of([], Decimal(1)) is None


def test_what_lacks_is_not_set_off_against_what_is_over():
    total = total_of(
        {
            "a": Gap(amount=-100.0, money=Decimal("-2.00")),
            "b": Gap(amount=50.0, money=Decimal("1.50")),
            "c": Gap(amount=-5.0, money=None),
            "d": Gap(amount=0.0, money=None),
        }
    )
    assert (total.lacks, total.over, total.unpriced) == (Decimal("2.00"), Decimal("1.50"), 1)
    assert str(total_of({}).lacks) == "0"
