"""Actions at the same moment: any two of the twelve that write a house, a run, a delivery or a lot; one of them many times; one that is sent twice."""

import functools
import os
import re
from dataclasses import replace
from pathlib import Path
from uuid import uuid4

import pytest
from django.db import OperationalError, connection

import ulsek
from tests.site.proxies import cut_after
from tests.site.races import ACTIONS, Bench, at_once, tried
from ulsek.batches.actions.change_lot import change_lot
from ulsek.batches.actions.start_run import BatchOrder, start_run
from ulsek.batches.models import Lot, Run
from ulsek.core.base.refusals import Refusal
from ulsek.stores.actions.change_stock import change_stock
from ulsek.stores.models import StockItem
from ulsek.team.action import TRIES, action
from ulsek.team.locks import LockedOutOfOrder, locked
from ulsek.team.models import HistoryRow, Receipt

RACE_TRIES = int(os.environ.get("ULSEK_RACE_TRIES", "3"))
together = pytest.mark.django_db(transaction=True)


@together
@pytest.mark.parametrize("first", ACTIONS)
def test_any_two_actions_at_once_leave_sums_marks_and_history_true(first):
    bench = Bench()
    wrong = []
    for second in ACTIONS[ACTIONS.index(first) :]:
        for n in range(RACE_TRIES):
            wrong += [f"{first} and {second}, try {n}: {text}" for text in tried(bench, first, second)]
    assert not wrong, "\n".join(wrong)


@together
def test_one_start_sent_by_many_is_one_batch_and_counts_beside_starts_are_all_kept():
    bench = Bench()
    bench.set_out()
    run_id = uuid4()
    raised = at_once(*[functools.partial(start_run, bench.maker, run_id, BatchOrder(bench.spec.pk, mass_g=500))] * 16)
    assert raised == [None] * 16
    assert Run.objects.filter(pk=run_id).count() == 1
    counts = [functools.partial(change_stock, bench.maker, bench.stock.pk, "counted", {"left_g": 1000 + n}) for n in range(8)]
    assert at_once(*counts, *[bench.start] * 8) == [None] * 16
    codes = list(Run.objects.filter(house=bench.house).order_by("code").values_list("code", flat=True))
    assert codes == [f"B{n:04d}" for n in range(1, len(codes) + 1)], "no number twice, and none left out"
    assert HistoryRow.objects.filter(house=bench.house, action="stock_counted").count() == 8


@together
def test_a_request_sent_twice_at_once_is_done_once_and_an_id_is_not_used_again_for_another():
    bench = Bench()
    bench.set_out()
    asked = replace(bench.maker, request_id="tablet-000001", request_digest="use 50")
    raised = at_once(*[functools.partial(change_lot, asked, bench.first_lot, "used", {"amount": 50})] * 6)
    assert raised == [None] * 6
    assert Lot.objects.get(house=bench.house, code=bench.first_lot).left == 550
    assert change_lot(asked, bench.first_lot, "used", {"amount": 50}).left == 550, "as it stands now"
    with pytest.raises(Refusal, match="used for something else"):
        change_lot(replace(asked, request_digest="use 70"), bench.first_lot, "used", {"amount": 70})
    with pytest.raises(Refusal, match="used for something else"):
        change_lot(replace(bench.lead, request_id="tablet-000001", request_digest="use 50"), bench.first_lot, "used", {"amount": 50})
    # What was refused is not done: the same id may be sent again once it can be.
    refused = replace(bench.maker, request_id="tablet-000002")
    with pytest.raises(Refusal, match="from 0 to"):
        change_lot(refused, bench.first_lot, "split", {"amount": 5000})
    assert change_lot(refused, bench.first_lot, "split", {"amount": 500}).left == 50


@together
@pytest.mark.parametrize("word", ["commit", "update `stores_stockitem`", "insert into `team_receipt`"])
def test_an_action_whose_connection_breaks_is_done_once_whatever_was_lost(word):
    bench = Bench()
    bench.set_out()
    with cut_after(word) as wire:
        change_stock(bench.maker, bench.stock.pk, "counted", {"left_g": 700})
        assert wire.cut, "the wire was cut on the way"
    assert StockItem.objects.get(pk=bench.stock.pk).remaining_g == 700
    assert HistoryRow.objects.filter(house=bench.house, action="stock_counted").count() == 1
    assert Receipt.objects.filter(house=bench.house, action="change_stock").count() == 1


@together
def test_an_action_is_tried_so_often_and_no_more_and_never_where_trying_does_not_help():
    bench = Bench()
    tries = []

    @action
    def fails(member, number):
        tries.append(number)
        raise OperationalError(number, "as the database says it")

    for number, expected in ((1213, TRIES), (1064, 1)):
        tries.clear()
        with pytest.raises(OperationalError):
            fails(bench.maker, number)
        assert len(tries) == expected
    assert connection.get_autocommit(), "nothing is left open"


@together
def test_rows_are_locked_in_the_one_order():
    bench = Bench()
    bench.set_out()
    lots, stock, runs = (kind.objects.filter(house=bench.house) for kind in (Lot, StockItem, Run))

    @action
    def locks(_member, *steps):
        for rows, shared in steps:
            locked(rows, shared=shared)

    locks(bench.maker, (runs, True), (stock, False), (lots, False), (stock, True))
    first, second = lots.order_by("pk")
    for steps in (
        [(lots, False), (stock, False)],
        [(stock, True), (stock, False)],
        [(lots.filter(pk=second.pk), False), (lots.filter(pk=first.pk), False)],
    ):
        with pytest.raises(LockedOutOfOrder, match="is locked after"):
            locks(bench.maker, *steps)
    with pytest.raises(RuntimeError, match="inside an action"):
        locked(lots)


def test_a_run_of_another_house_is_not_started_again(place):
    mine = place.run()
    theirs = place.apis["stranger"].post("/runs", {"id": mine, "spec": mine})
    assert (theirs.status_code, theirs.data["code"]) == (422, "twice")


def test_the_client_s_id_comes_as_a_header_and_one_that_is_none_is_refused(place):
    item = place.delivery()
    body, key = {"kind": "counted", "body": {"left_g": 500}}, "tablet-0000003"
    count = functools.partial(place.apis["maker"].call, "post", f"/stock/{item.pk}/events")
    first, again = (count(body, **{"Idempotency-Key": key}) for _ in range(2))
    assert (first.status_code, again.data) == (200, first.data)
    assert HistoryRow.objects.filter(action="stock_counted").count() == 1
    other = count({"kind": "counted", "body": {"left_g": 501}}, **{"Idempotency-Key": key})
    assert (other.status_code, other.data["code"]) == (422, "id_used")
    assert count(body, **{"Idempotency-Key": "no id"}).data["where"] == "Idempotency-Key"


def test_nothing_is_ordered_by_an_auto_incremented_key_and_no_row_is_locked_beside_the_one_order():
    """Two nodes give such keys in no order of time; a lock taken beside `locked` is in no order of tables. The demo's record is made on one machine."""
    sources = [path for path in Path(ulsek.__file__).parent.rglob("*.py") if "core" not in path.parts and "migrations" not in path.parts]
    by_key = re.compile(r"""order_by\([^)]*["']-?(pk|id)["']""")
    assert sorted(path.name for path in sources if by_key.search(path.read_text(encoding="utf-8"))) == ["locks.py", "rows.py"]
    beside = [path.name for path in sources if "select_for_update" in path.read_text(encoding="utf-8")]
    assert sorted(beside) == ["authenticators.py", "locks.py", "measure_fruit.py", "open_house.py", "refold.py", "taking_in.py"]
