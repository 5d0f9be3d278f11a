"""A delivery once it stands in Stores: counted with its history, tossed, recalled for good, on the bench too."""

import io
import json
import re
from datetime import timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from pypdf import PdfReader

from tests.instruments import hand, simulated
from tests.site.conftest import event
from tests.site.test_lots_api import bottled
from tests.site.test_supplies_api import finished, from_, send
from ulsek.batches.models import Lot
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.devices.models import Instrument
from ulsek.specs.models import Spec
from ulsek.stores.models import HouseMaterial, StockEvent, StockItem


def does(place, item, kind, role="maker", **body):
    return place.apis[role].post(f"/stock/{item.pk}/events", {"kind": kind, "body": body})


def listed(place, gone=False):
    return [row["id"] for row in place.apis["reader"].get(f"/stock?state={'gone' if gone else 'open'}").data["items"]]


def test_a_count_corrects_the_books_and_keeps_what_stood_there(place):
    item = place.delivery()
    StockItem.objects.filter(pk=item.pk).update(remaining_g=-120)
    assert float(does(place, item, "counted", left_g=850).data["remaining_g"]) == 850
    assert does(place, item, "counted", left_g=0).data["gone_at"]
    assert (listed(place), listed(place, gone=True)) == ([], [str(item.pk)])
    assert does(place, item, "tossed", reason="mould").data["code"] == "gone"
    assert does(place, item, "counted", left_g=300).data["gone_at"] is None, "counted back in"
    assert does(place, item, "tossed", reason="mould").data["gone_at"]
    told = place.apis["reader"].get(f"/stock/{item.pk}/events").data["items"]
    assert [(row["kind"], row["body"]["before_g"]) for row in told] == [
        ("tossed", 300.0),
        ("counted", 0.0),
        ("counted", 850.0),
        ("counted", -120.0),
    ]
    assert told[0]["by"] == "Maker"


@pytest.mark.parametrize(
    ("kind", "body", "where"),
    [
        ("counted", {}, "body/left_g"),
        ("counted", {"left_g": -1}, "body/left_g"),
        ("counted", {"left_g": "some"}, "body/left_g"),
        ("tossed", {"reason": " "}, "body/reason"),
        ("eaten", {}, "kind"),
    ],
)
def test_what_cannot_be_done_to_a_delivery_is_refused_and_nothing_is_kept(place, kind, body, where):
    item = place.delivery()
    assert does(place, item, kind, **body).data["where"] == where
    assert does(place, item, kind, "reader", **body).status_code == 403
    assert does(place, item, "counted", "stranger", left_g=1).status_code == 404
    assert place.apis["stranger"].get(f"/stock/{item.pk}/events").status_code == 404
    assert (StockItem.objects.get(pk=item.pk).remaining_g, StockEvent.objects.count()) == (4000, 0)


def test_a_recall_reaches_the_bench_and_what_comes_off_it(place):
    item = place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    cordial = bottled(place)
    run = place.run(Spec.objects.first())
    send(place, run, event("weighed", line="juice", mass_g=1000))
    other = place.delivery(brix_reading=8.0, acid_g_100ml=2.0)
    clean = place.run(Spec.objects.first())
    told = place.apis["lead"].post(f"/stock/{item.pk}/recall", {"why": "glass in the crate"}).data
    assert told == {"lots": [cordial.code], "runs": ["B0002"]}
    assert place.apis["maker"].get(f"/runs/{run}").data["recalled"] == "glass in the crate"
    assert place.apis["maker"].get(f"/runs/{clean}").data["recalled"] == ""
    assert finished(place, run).recalled == "glass in the crate"
    send(place, clean, event("weighed", line="juice", mass_g=1000))
    assert finished(place, clean).recalled == ""
    assert does(place, item, "counted", left_g=500).data["code"] == "recalled", "nobody counts it back in"
    refused = send(place, place.run(Spec.objects.first()), event("taken_from", line="juice", supply=from_(item)))
    assert refused.data["code"] in ("gone", "recalled")
    assert listed(place) == [str(other.pk)]
    assert Lot.objects.filter(recalled="").count() == 1


def test_a_batch_that_comes_back_to_a_recalled_crate_says_so(place):
    """It had been switched to another crate when the first was recalled; taking that back puts the recalled one in again."""
    bad = place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    run = place.run()
    good = place.delivery(brix_reading=8.0, acid_g_100ml=2.0)
    named = event("taken_from", line="juice", supply=from_(good))
    send(place, run, named, event("weighed", line="juice", mass_g=1000))
    assert place.apis["lead"].post(f"/stock/{bad.pk}/recall", {"why": "glass"}).data == {"lots": [], "runs": []}
    assert place.apis["maker"].get(f"/runs/{run}").data["recalled"] == ""
    assert send(place, run, event("undone", of=named["id"])).data["recalled"] == "glass"
    assert finished(place, run).recalled == "glass"


def test_a_count_below_what_the_books_can_hold_is_nothing_left(place):
    item = place.delivery()
    assert does(place, item, "counted", left_g=0.01).data["gone_at"], "shown as 0.0 g, it stands nowhere"


@pytest.mark.parametrize(
    ("changed", "where"),
    [
        ({"material": "moon_juice"}, "material"),
        ({"product": " "}, "product"),
        ({"pack_g": "0"}, "pack_g"),
        ({"pack_g": "1e9"}, "pack_g"),
        ({"price": "-1"}, "price"),
        ({"price": "NaN"}, "price"),
        ({"packs": 0}, "packs"),
        ({"packs": 4000}, "packs"),
    ],
)
def test_a_delivery_that_cannot_be_is_refused_at_its_figure(place, changed, where):
    good = {"material": "sea_buckthorn_juice", "product": "Pressed", "supplier": "Hagedorn", "price": "15.20", "pack_g": "1000", "packs": 2}
    answer = place.apis["maker"].post("/stock", {**good, **changed})
    assert (answer.status_code, answer.data["where"].rsplit("/", 1)[-1]) == (422, where)
    assert not StockItem.objects.exists()
    assert float(place.apis["maker"].post("/stock", good).data["remaining_g"]) == 2000


def printed_text(place, item, size="60x40"):
    answer = place.apis["reader"].client.get(f"/api/stock/{item.pk}/label.pdf?size={size}")
    assert answer["Content-Type"] == "application/pdf"
    return " ".join(PdfReader(io.BytesIO(answer.content)).pages[0].extract_text().split())


def test_a_crate_has_a_label_whose_code_the_bench_scans(place):
    item = place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    own = json.loads(json.dumps(typical_materials()["sea_buckthorn_juice"])) | {"allergens": ["sulphites"], "keeps_days": 4}
    HouseMaterial.objects.create(house=place.house, key=item.material, body=own)
    for size in ("60x40", "100x70"):
        text = printed_text(place, item, size)
        assert item.code in text
        assert "Allergens: sulphites" in text
        assert f"Use by {place.members['maker'].local(item.received_at) + timedelta(days=3):%a %d %b %Y}" in text, (
            "the day it came counts as the first of its four"
        )
    assert "read: 8.2 °Bx" in text.replace("\u202f", " ").replace("\u2009", " ").replace("\u00a0", " ")
    printer = Instrument.objects.create(house=place.house, name="printer", kind="label_printer", address="socket://127.0.0.1:1")
    ask = {"printer": str(printer.pk), "size": "60x40", "each": 3}
    with simulated("label_printer") as port:
        Instrument.objects.filter(pk=printer.pk).update(address=f"socket://127.0.0.1:{port}")
        assert place.apis["maker"].post(f"/stock/{item.pk}/print", ask).data == {"printed": 3}
        back = hand(port, "printed")
    assert back.count(f"label {item.code} 60x40") == 3
    code = re.search(r"code (\S+)", back)[1]
    run = place.run()
    assert place.apis["maker"].get(f"/runs/{run}/supplies/scanned?line=juice&code={code}").data == {"supply": from_(item)}
    for wrong, where in (({**ask, "each": 0}, "each"), ({**ask, "each": 5000}, "each"), ({**ask, "size": "1x1"}, "size")):
        assert place.apis["maker"].post(f"/stock/{item.pk}/print", wrong).data["where"] == where
    assert place.apis["reader"].post(f"/stock/{item.pk}/print", ask).status_code == 403
    assert place.apis["stranger"].get(f"/stock/{item.pk}/label.pdf").status_code == 404
    place.apis["lead"].post(f"/stock/{item.pk}/recall", {"why": "glass in it"})
    assert "RECALLED: do not use. glass in it" in printed_text(place, item)


def test_a_longer_list_of_deliveries_takes_no_more_queries(place, django_assert_max_num_queries):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    with CaptureQueriesContext(connection) as one:
        place.apis["reader"].get("/stock")
    for _ in range(4):
        place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    with django_assert_max_num_queries(len(one)):
        assert len(place.apis["reader"].get("/stock").data["items"]) == 5
