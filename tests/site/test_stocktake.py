"""The stocktake over HTTP: the walk in its order, gaps in money, places, and counts that cannot be."""

from datetime import timedelta
from decimal import Decimal

import pytest

from tests.site.test_planning import planned
from ulsek.batches.models import Lot
from ulsek.stores.models import StockEvent, StockItem

__all__ = ["planned"]


def walk(place, role="maker"):
    answer = place.apis[role].get("/stocktake")
    assert answer.status_code == 200, answer.content
    return answer.data


def did(bar, row, kind, **body):
    path = f"/stock/{row['id']}/events" if row["kind"] == "delivery" else f"/lots/{row['id']}/events"
    return bar.apis["maker"].post(path, {"kind": kind, "body": body})


def receive(place, product, price="10", **over):
    delivery = {"material": "white_sugar", "product": product, "supplier": "Yard", "price": price, "pack_g": "1000", "packs": 1, **over}
    answer = place.apis["lead"].post("/stock", delivery)
    assert answer.status_code == 201, answer.content
    return answer.data


@pytest.fixture
def shelf(planned):
    StockItem.objects.all().delete()
    for name in ("Ash", "Birch", "Chalk"):
        receive(planned, name)
    return planned


def test_a_count_says_what_lacks_in_money_and_stays_where_it_stood_in_the_walk(shelf):
    rows = {row["name"]: row for row in walk(shelf)["rows"]}
    assert all(row["gap"] is None and row["counted_at"] is None for row in rows.values())
    assert did(shelf, rows["Birch"], "counted", left_g=880).status_code == 200
    assert did(shelf, rows["Chalk"], "counted", left_g=1050).status_code == 200
    assert did(shelf, rows["Ash"], "counted", left_g=0).status_code == 200
    found = walk(shelf)
    assert [row["name"] for row in found["rows"]] == ["Ash", "Birch", "Chalk"], (
        "nothing moves while it is counted, and what is gone is told"
    )
    assert [(row["gap"]["amount"], Decimal(row["gap"]["money"])) for row in found["rows"]] == [
        (-1000.0, Decimal("-10.00")),
        (-120.0, Decimal("-1.20")),
        (50.0, Decimal("0.50")),
    ]
    assert (found["counted"], Decimal(found["total"]["lacks"]), Decimal(found["total"]["over"])) == (3, Decimal("11.20"), Decimal("0.50"))
    # A count that is corrected leaves the gap of the last one.
    assert did(shelf, rows["Birch"], "counted", left_g=980).status_code == 200
    assert next(row for row in walk(shelf)["rows"] if row["name"] == "Birch")["gap"]["amount"] == -20.0


def test_the_next_walk_has_the_order_of_the_last_and_no_gaps(shelf):
    rows = {row["name"]: row for row in walk(shelf)["rows"]}
    for minutes, name in enumerate(("Chalk", "Ash", "Birch")):
        assert did(shelf, rows[name], "counted", left_g=900).status_code == 200
        event = StockEvent.objects.get(stock=rows[name]["id"])
        StockEvent.objects.filter(pk=event.pk).update(at=event.at - timedelta(days=2) + timedelta(minutes=minutes))
    found = walk(shelf)
    assert [row["name"] for row in found["rows"]] == ["Chalk", "Ash", "Birch"]
    assert found["counted"] == 0 and all(row["counted_at"] for row in found["rows"])


def test_own_lots_are_walked_with_what_is_bought_and_places_come_together(shelf):
    lot = shelf.apis["maker"].post("/lots", {"name": "Old cordial", "amount_ml": 500, "place": "cold room"})
    assert lot.status_code == 201, lot.content
    rows = {row["name"]: row for row in walk(shelf)["rows"]}
    assert did(shelf, rows["Chalk"], "moved", place=" cold room ").status_code == 200
    found = walk(shelf)["rows"]
    # What stands in no place comes last.
    assert [(row["name"], row["place"]) for row in found] == [
        ("Chalk", "cold room"),
        ("Old cordial", "cold room"),
        ("Ash", ""),
        ("Birch", ""),
    ]
    assert did(shelf, rows["Old cordial"], "counted", amount=350).status_code == 200
    counted = next(row for row in walk(shelf)["rows"] if row["name"] == "Old cordial")
    assert (counted["unit"], counted["left"], counted["gap"]) == ("mL", 350.0, {"amount": -150.0, "money": None})
    assert walk(shelf)["total"]["unpriced"] == 1
    assert Lot.objects.get(code=counted["code"]).left == 350
    # The next delivery stands where the last one of the material stood.
    assert receive(shelf, "Dune")["place"] == "cold room"


def test_counts_and_places_that_cannot_be_are_refused_at_their_place(shelf):
    row = walk(shelf)["rows"][0]
    for kind, body, where in (
        ("counted", {"left_g": -1}, "left_g"),
        ("counted", {"left_g": "many"}, "left_g"),
        ("moved", {}, "body/place"),
        ("moved", {"place": "x" * 61}, "body/place"),
        ("lost", {}, "kind"),
    ):
        answer = did(shelf, row, kind, **body)
        assert (answer.status_code, answer.data["where"].endswith(where)) == (422, True), answer.content
    assert walk(shelf)["counted"] == 0
    assert shelf.apis["reader"].post(f"/stock/{row['id']}/events", {"kind": "moved", "body": {"place": "attic"}}).status_code == 403
    assert len(walk(shelf, "reader")["rows"]) == 3


def test_a_place_that_gets_another_name_takes_along_what_stands_there(shelf):
    kept = shelf.apis["lead"].post("/register", {"kind": "place", "name": "attic", "figures": {}})
    assert kept.status_code == 201, kept.content
    row = walk(shelf)["rows"][0]
    assert did(shelf, row, "moved", place="attic").status_code == 200
    entry = next(one for one in shelf.apis["lead"].get("/register?kind=place").data["items"] if one["name"] == "attic")
    assert entry["holds"] == 1
    renamed = shelf.apis["lead"].call("put", f"/register/{entry['id']}", {"kind": "place", "name": "loft", "figures": {}})
    assert renamed.status_code == 200, renamed.content
    assert walk(shelf)["rows"][0]["place"] == "loft"


def test_a_delivery_is_found_by_its_place_and_its_code(shelf):
    rows = walk(shelf)["rows"]
    assert did(shelf, rows[1], "moved", place="cold room").status_code == 200

    def found(words):
        return [item["product"] for item in shelf.apis["maker"].get(f"/stock?find={words}").data["items"]]

    assert [found("cold"), found(rows[0]["code"].lower()), found("yard birch"), found(f"attic {rows[0]['code']}")] == [
        ["Birch"],
        ["Ash"],
        ["Birch"],
        [],
    ]
