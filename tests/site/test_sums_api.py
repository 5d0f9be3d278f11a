"""Quick sums over HTTP: what a person used last, what stands in a bottle, a label, and the house's own materials."""

import json

import pytest

from tests.site.conftest import event
from ulsek.sums.models import RecentSum

DOSE = {"volume": "60", "want": 1.5, "solution": 28}


@pytest.fixture
def api(place):
    return place.apis["maker"]


def test_the_last_sums_are_a_persons_own_newest_first_and_no_twins(place, api):
    for volume in ("60", "70", "60"):
        kept = api.post("/sums/acid_dose/kept", {"figures": {**DOSE, "volume": volume, "rule": ""}})
        assert kept.status_code == 201
    assert kept.data["said"] == "dose 3.40\u00a0mL"
    assert [item["figures"]["volume"] for item in api.get("/sums/recent").data["items"]] == ["60", "70"]
    assert "rule" not in kept.data["figures"]
    assert place.apis["lead"].get("/sums/recent").data["items"] == place.apis["stranger"].get("/sums/recent").data["items"] == []
    for n in range(25):
        api.post("/sums/dilute/kept", {"figures": {"mass": 100 + n, "have": 60, "want": 50}})
    assert RecentSum.objects.count() == 20
    assert api.post("/sums/acid_dose/kept", {"figures": {"volume": 60}}).data["where"] == "want"


def test_a_sum_knows_the_house_s_reading_of_a_juice(place, api):
    figures = {"citrus": "sea_buckthorn_juice", "serve": 30, "solution": 30}
    typical = api.post("/sums/same_as_citrus", {"figures": figures}).data["figures"][0]["value"]
    place.delivery(brix_reading=8.2, acid_g_100ml=4.0)
    read = api.post("/sums/same_as_citrus", {"figures": figures}).data["figures"][0]["value"]
    assert read == pytest.approx(30 * 4.0 / 30)
    assert read != pytest.approx(typical)
    assert place.apis["stranger"].post("/sums/same_as_citrus", {"figures": figures}).data["figures"][0]["value"] == pytest.approx(typical)


def test_a_bottle_lends_its_strength_by_the_code_on_its_label(place, api):
    run = place.run()
    state = api.get(f"/runs/{run}").data["state"]
    for step in state["steps"]:
        for line in step["lines"]:
            body = {"line": line["id"], "mass_g": line["planned_g"]["value"]}
            api.post(f"/runs/{run}/events", {"events": [event("weighed", **body)]})
        api.post(f"/runs/{run}/events", {"events": [event("step_done", step=step["id"])]})
    done = api.post(f"/runs/{run}/events", {"events": [event("finished", volume_ml=1000.0, signed=True, rest="tasted", place="shelf")]})
    (code,) = done.data["lots"]
    liquid = api.get(f"/sums/liquids/{code}").data
    lot = api.get(f"/lots/{code}").data
    assert liquid["name"] == lot["name"]
    assert liquid["figures"]["acid_g_100ml"] == pytest.approx(lot["final"]["acid_g_100ml"]["value"])
    place.delivery(brix_reading=8.2, acid_g_100ml=4.0)
    assert api.get("/sums/liquids/sea_buckthorn_juice").data["figures"]["acid_g_100ml"] == pytest.approx(4.0)
    assert place.apis["stranger"].get(f"/sums/liquids/{code}").status_code == 404


def test_an_acid_stock_is_labelled_as_none_to_drink(api):
    def label(name, figures):
        return api.get(f"/sums/{name}/label.pdf?figures={json.dumps(figures)}")

    stock = label("acid_solution", {"strength": 28, "volume": 500})
    assert (stock.status_code, stock["Content-Type"]) == (200, "application/pdf")
    from io import BytesIO

    from pypdf import PdfReader

    text = " ".join(PdfReader(BytesIO(stock.content)).pages[0].extract_text().split())
    assert "CONCENTRATE, NOT A DRINK" in text
    assert "Acid stock 28 g/100 mL" in text
    weak = " ".join(PdfReader(BytesIO(label("acid_solution", {"strength": 6, "volume": 500}).content)).pages[0].extract_text().split())
    assert "NOT A DRINK" not in weak
    assert label("titration", {"burette": 20}).data["detail"].startswith("This sum makes nothing to label")
    assert label("acid_solution", {"strength": 28}).data["where"] == "volume"
    assert api.get("/sums/dilute/label.pdf?figures=[1").data["where"] == "figures"
