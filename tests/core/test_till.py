"""A till's table: its columns found by their heads or said, dates in any order, refunds, nights, formulas, and what cannot be read."""

from datetime import date, time

import pytest

from tests.core.test_planning import plain
from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.till import read_till, used_of

THREE = date(2026, 12, 3)


def sold(text, **said):
    return {(one.day, one.product): one.count for one in read_till(text, **said).sold}


@pytest.mark.parametrize(
    ("text", "order"),
    [
        ("Date,Item,Qty\n2026-12-03,Bergamot tall,2\n2026-12-03,Bergamot tall,1\n", "ymd"),
        ("Datum;Artikel;Anzahl\n03.12.2026;Bergamot tall;3\n", "dmy"),
        ("date\titem\tsold\n12/3/26\tBergamot tall\t3\n12/25/26\tx\t0\n", "mdy"),
        ("fecha,producto\n03/12/2026,Bergamot tall\n03/12/2026,Bergamot tall\n03/12/2026,Bergamot tall\n31/12/2026,x\n", "dmy"),
        # A cell that was kept from being a formula is what it was.
        ("day,name,qty\n2026-12-03,'=Bergamot tall,3\n", "ymd"),
    ],
)
def test_columns_and_dates_are_found_out(text, order):
    table = read_till(text)
    assert table.order == order
    assert {one.product.lstrip("="): one.count for one in table.sold if one.day == THREE} == {"Bergamot tall": 3.0}
    assert table.unread == 0


def test_what_was_sold_after_midnight_counts_for_the_evening_and_a_refund_is_subtracted():
    text = "Closed at,Item,Qty\n2026-12-03 23:50,Damson long,2\n2026-12-04 01:20,Damson long,3\n2026-12-04 06:00,Damson long,1\n2026-12-03 22:00,Damson long,-1\n"
    assert sold(text, turns=time(5)) == {(THREE, "Damson long"): 4.0, (date(2026, 12, 4), "Damson long"): 1.0}
    assert sold("date,item,qty\n12/3/2026 1:20 AM,x,1\n12/13/2026,x,1\n", turns=time(5))[date(2026, 12, 2), "x"] == 1.0


def test_another_till_s_columns_are_asked_for_and_taken_as_said():
    foreign = "Wann,Was,Wieviel\n2026-12-03,Damson long,2\n"
    with pytest.raises(Refusal, match="No column says when") as refused:
        read_till(foreign)
    assert refused.value.where == "columns" and "Wann, Was" in plain(refused.value.bound)
    assert sold(foreign, meanings=("day", "product", "count")) == {(THREE, "Damson long"): 2.0}
    with pytest.raises(Refusal, match="A column cannot be"):
        read_till(foreign, meanings=("colour",))


def test_dates_that_can_be_read_two_ways_are_not_guessed():
    text = "date,item,qty\n03/12/2026,Damson long,2\n"
    with pytest.raises(Refusal, match="can be read two ways") as refused:
        read_till(text)
    assert (refused.value.where, refused.value.code) == ("order", "ambiguous")
    assert list(sold(text, order="dmy")) == [(THREE, "Damson long")]
    assert list(sold(text, order="mdy")) == [(date(2026, 3, 12), "Damson long")]


def test_lines_that_say_nothing_are_counted_and_told_and_an_empty_table_is_refused():
    table = read_till("date,item,qty\n2026-12-03,Damson long,2\nTotal,,2\n2026-02-30,Damson long,1\n2026-12-03,Damson long,many\n")
    assert (len(table.sold), table.rows, table.unread) == (1, 4, 3)
    assert next(plain(one) for one in table.problems) == "Line 3: “Total” was not read"
    for text in ("", "date,item,qty\n", "date,item,qty\nTotal,,\n"):
        with pytest.raises(Refusal):
            read_till(text)


@pytest.mark.parametrize(
    ("counts", "total"), [(("1,234", "5"), 1239.0), (("1.000", "2.500"), 3.5), (("2,5", "1"), 3.5), (("-1.200", "2.000"), 0.8)]
)
def test_a_separator_before_three_digits_means_thousands_only_where_others_have_none(counts, total):
    text = "date;item;qty\n" + "".join(f"2026-12-03;Damson long;{count}\n" for count in counts)
    assert sold(text) == {(THREE, "Damson long"): pytest.approx(total)}


def test_a_date_that_contradicts_most_of_the_others_is_not_read_and_does_not_decide():
    days = ["13/12/2026", "14/12/2026", "12/25/2026"]
    table = read_till("date,item,qty\n" + "".join(f"{day},Damson long,1\n" for day in days))
    assert (table.order, len(table.sold), table.unread) == ("dmy", 2, 1)


def test_a_name_that_is_too_long_is_told_and_not_cut():
    table = read_till(f"date,item,qty\n2026-12-03,{'x' * 81},2\n2026-12-03,{'x' * 80},1\n")
    assert [(one.product, one.count) for one in table.sold] == [("x" * 80, 1.0)]
    assert plain(table.problems[0]).startswith("Line 2: “xxx")


def test_two_hundred_thousand_rows_are_read_and_more_than_may_be_are_refused():
    rows = [f"2026-{n % 12 + 1:02d}-{n % 28 + 1:02d},Drink {n % 40},1" for n in range(200_000)]
    table = read_till("date,item,qty\n" + "\n".join(rows))
    assert (table.rows, sum(one.count for one in table.sold)) == (200_000, 200_000.0)
    with pytest.raises(Refusal, match="too long"):
        read_till("date,item,qty\n" + "\n".join(rows * 2) + "\n2026-12-03,x,1")


def test_a_column_of_receipts_is_no_column_of_products():
    rows = [f"2026-12-03,Receipt {n},1" for n in range(2001)]
    assert len(read_till("date,item,qty\n" + "\n".join(rows[:-1])).sold) == 2000
    with pytest.raises(Refusal, match="2001 different products") as refused:
        read_till("date,item,qty\n" + "\n".join(rows))
    assert refused.value.where == "columns"


def test_what_was_sold_is_what_was_used_with_what_is_spilled():
    used = used_of(
        {THREE: {"tall": 10.0, "long": 4.0, "other": 9.0, "refunded": -2.0}}, {"tall": 25.0, "long": 40.0, "refunded": 10.0}, {"long": 20.0}
    )
    assert used == {THREE: 10 * 25.0 + 4 * 40.0 / 0.8}
