"""Orders over HTTP: placed for what the list lacks, counted on, taken in short, and what the list says then."""

import csv
import io

from pypdf import PdfReader

from tests.core.cordial import JUICE
from tests.site.test_planning import hours, par, planned, today
from ulsek.planning.models import PlacedOrder
from ulsek.stores.models import StockItem

__all__ = ["planned"]


def lacking(place):
    """The packs of juice that today's list says have to be ordered."""
    return sum(line["packs"] for order in today(place)["orders"] for line in order["lines"] if line["material"] == JUICE)


def placed(place, packs, role="maker"):
    answer = place.apis[role].post("/plan/orders", {"supplier": "Calder Citrus Yard", "packs": {JUICE: packs}})
    assert answer.status_code == 201, answer.content
    return answer.data


def took_in(place, order, **said):
    line = {"line": order["lines"][0]["id"], "packs": order["lines"][0]["packs"], "price": order["lines"][0]["price"], **said}
    return place.apis["maker"].post(f"/plan/orders/{order['id']}/receipt", {"lines": [line]})


def test_what_is_ordered_is_counted_on_until_it_comes_short_and_is_lacking_again(planned):
    hours(planned, "maker")
    # More than the juice that is here gives, from the day after tomorrow on.
    weekday = (planned.house.day(planned.item.received_at).weekday() + 3) % 7
    assert par(planned, [40_000 if day == weekday else 0 for day in range(7)]).status_code == 204
    wanted = lacking(planned)
    assert wanted > 1
    order = placed(planned, wanted)
    assert (order["closed_at"], order["is_late"], order["discrepancies"]) == (None, False, [])
    assert lacking(planned) == 0, "what is ordered is not ordered twice"

    # At the door half of it is missing, and what came is dearer: the list wants the rest anew.
    came = wanted // 2
    answer = took_in(planned, order, packs=came, price="99.50")
    assert answer.status_code == 200, answer.content
    said = answer.data["discrepancies"]
    assert said[0].endswith(f"{came} of {wanted} came") and "99.50 a pack instead of" in said[1]
    item = StockItem.objects.filter(house=planned.house, material=JUICE).order_by("-received_at").first()
    assert (item.supplier, str(item.price), item.remaining_g) == ("Calder Citrus Yard", "99.50", came * item.pack_g)
    assert lacking(planned) == wanted - came
    # Sent twice, it comes once.
    again = took_in(planned, order, packs=came)
    assert (again.status_code, again.data["code"]) == (422, "already_done")
    assert lacking(planned) == wanted - came


def test_an_order_goes_out_as_paper_table_and_text(planned):
    order = placed(planned, 3)
    path, reader = f"/plan/orders/{order['id']}", planned.apis["reader"]
    text = reader.get(f"{path}/order.txt").content.decode()
    assert text.startswith(f"{planned.house.name}, order for Calder Citrus Yard") and "3 ×" in text
    rows = list(csv.DictReader(io.StringIO(reader.get(f"{path}/order.csv").content.decode())))
    assert [(row["supplier"], row["packs"], row["received_packs"]) for row in rows] == [("Calder Citrus Yard", "3", "")]
    paper = PdfReader(io.BytesIO(reader.get(f"{path}/order.pdf").content)).pages[0].extract_text()
    assert "Calder Citrus Yard" in paper and "3 ×" in paper
    assert planned.apis["stranger"].get(f"{path}/order.pdf").status_code == 404
    assert [one["id"] for one in reader.get("/plan/orders").data] == [order["id"]]
    assert planned.apis["maker"].call("delete", path).status_code == 204
    assert not PlacedOrder.objects.exists()


def test_an_order_that_cannot_be_is_refused_whole(planned):
    maker = planned.apis["maker"]

    def refused(packs):
        answer = maker.post("/plan/orders", {"supplier": "Yard", "packs": packs})
        assert answer.status_code == 422, answer.content
        return answer.data["where"]

    assert refused({}) == "packs"
    assert refused({JUICE: 0}) == f"packs/{JUICE}"
    assert refused({"agar": 1}) == "packs/agar", "of what was never delivered no pack is known"
    order = placed(planned, 2)
    before = StockItem.objects.count()
    assert took_in(planned, order, packs=-1).status_code == 422
    assert took_in(planned, order, line=0).data["where"] == "lines"
    assert took_in(planned, order, refused="x" * 500).data["where"] == "lines/0/refused"
    assert StockItem.objects.count() == before, "nothing is taken in by half"
    whole = took_in(planned, order, packs=0, refused="mouldy")
    assert whole.data["discrepancies"][0].endswith("0 of 2 taken, the rest refused: mouldy")
    assert StockItem.objects.count() == before
