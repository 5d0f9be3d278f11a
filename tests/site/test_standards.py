"""Standards over HTTP: frozen and made again, tasted against in a panel, and what stood beside them."""

from datetime import timedelta

import pytest

from tests.site.panels import Table, odd, plan_of
from tests.site.test_lots_api import bottled, today_at
from ulsek.batches.models import Lot
from ulsek.tasting.models import Standard


@pytest.fixture
def lot(place):
    return bottled(place)


def frozen(place, lot, **more):
    made = place.apis["lead"].post(
        "/standards", {"kind": "frozen", "lot": lot.code, "portions": 3, "portion_ml": 60, "place": "freezer", **more}
    )
    assert made.status_code == 201, made.content
    return made.data


def test_frozen_portions_are_tasted_against_and_counted_off_once_it_is_told(place, lot):
    lead, today = place.apis["lead"], today_at(place)
    standard = frozen(place, lot)
    assert Lot.objects.get(pk=lot.pk).left == lot.left - 180, "what is frozen is out of its bottle"
    assert (standard["portions"], standard["lot"], standard["stop"], standard["weights"]) == (3, lot.code, "", [])
    assert standard["until"] == (today + timedelta(days=119)).isoformat()
    young = bottled(place, lot.run.version.spec)
    plan = plan_of(young, {"kind": "standard", "standard": standard["id"]}, tasters=6, rounds=1)
    table = Table(place, plan)
    # Six sets of three glasses of 15 mL: nine glasses of it, 135 mL.
    (thaw,) = table.pourer.get(f"{table.path}/pouring").data["thaw"]
    assert thaw.startswith("Thaw 3 portions of Sea buckthorn cordial, T0001 in the cold")
    assert lead.get(f"/standards/{standard['id']}").data["portions"] == 3, "a smaller number would say what is tasted"
    second = lead.post("/panels", {**plan, "poured_by": place.members["maker"].person.pk}).data
    refused = lead.post(f"/panels/{second['id']}/open")
    assert (refused.status_code, refused.data["where"]) == (422, "samples/1")
    assert "3 portions of Sea buckthorn cordial are needed, and 0 are left" in refused.data["detail"]
    key = table.key()
    for phone in table.seated("Ada", "Ben", "Cleo", "Dov", "Edda", "Finn"):
        phone.says(1, code=odd(phone.get("/seat").data["pages"][0], key))
    assert table.seen()["samples"][1]["standard"] == standard["id"]
    assert table.seen()["age"] is None, "frozen, it differs by that too"
    seen = lead.get(f"/standards/{standard['id']}").data
    assert (seen["portions"], seen["stop"]) == (0, "No portion is left: freeze a new one.")
    (panel,) = seen["panels"]
    assert (panel["code"], panel["is_shown"], panel["day"]) == (table.seen()["code"], True, today.isoformat())
    assert [point["lot"] for point in seen["drift"]["points"]] == [lot.code, young.code]
    assert seen["drift"]["points"][0]["sugar"] == pytest.approx(0.0)
    assert seen["drift"]["words"].startswith("2 batches stand beside it: none is off by a tenth")
    assert "No portion is left" in lead.post("/panels", plan).data["detail"]


def test_one_that_is_made_again_is_weighed_and_read(place, lot):
    lead, maker, spec = place.apis["lead"], place.apis["maker"], lot.run.version.spec
    wanted = {"kind": "made", "name": "House sour", "spec": str(spec.pk), "version": 1, "portion_ml": 200}
    made = lead.post("/standards", wanted)
    assert made.status_code == 201, made.content
    path = f"/standards/{made.data['id']}"
    assert made.data["stop"] == "It is not made yet: make it by weight, and read it."
    assert made.data["portions"] is None
    assert any("sugar" in weight for weight in made.data["weights"])
    plan = plan_of(lot, {"kind": "standard", "standard": made.data["id"]})
    assert "It is not made yet" in lead.post("/panels", plan).data["detail"]
    brix = Standard.objects.get().readings["brix_reading"]
    for read, where in (({}, "brix_reading"), ({"brix_reading": brix + 1.0}, "brix_reading")):
        refused = maker.post(f"{path}/made", read)
        assert (refused.status_code, refused.data["where"]) == (422, where)
    done = maker.post(f"{path}/made", {"brix_reading": brix + 0.2}).data
    assert (done["stop"], len(done["makings"]), done["makings"][0]["by"]) == ("", 1, "Maker")
    assert done["until"] == done["makings"][0]["until"] >= today_at(place).isoformat()
    assert lead.post("/panels", plan).status_code == 201
    assert maker.post(f"{path}/portion").status_code == 422
    # To readings of its own.
    own = lead.post("/standards", {**wanted, "brix_reading": 40}).data
    assert own["reads"].startswith("40.0\xa0°Bx")
    assert lead.post(f"/standards/{own['id']}/made", {"brix_reading": brix}).status_code == 422


def test_what_is_no_standard_is_refused_at_its_place(place, lot):
    lead = place.apis["lead"]
    for change, where in (
        ({"lot": "L9999"}, "lot"),
        ({"portions": 0}, "portions"),
        ({"portions": 200}, "portions"),
        ({"portion_ml": 1}, "portion_ml"),
        ({"days": 121}, "days"),
        ({"kind": "made", "spec": None}, "version"),
        ({"name": "x" * 200}, "name"),
    ):
        refused = lead.post("/standards", {"kind": "frozen", "lot": lot.code, "portions": 3, "portion_ml": 60, **change})
        assert (refused.status_code, refused.data["where"]) == (422, where), refused.data
    Lot.objects.filter(pk=lot.pk).update(use_by=today_at(place) - timedelta(days=1))
    assert lead.post("/standards", {"kind": "frozen", "lot": lot.code}).data["where"] == "lot"


def test_a_recall_ends_it_and_so_does_a_lead_with_a_reason(place, lot):
    lead, maker = place.apis["lead"], place.apis["maker"]
    standard = frozen(place, lot, days=30)
    path = f"/standards/{standard['id']}"
    assert maker.post(f"{path}/portion").data["portions"] == 2
    assert maker.post(f"{path}/made", {"brix_reading": 45}).status_code == 422
    table = Table(
        place, plan_of(bottled(place, lot.run.version.spec), {"kind": "standard", "standard": standard["id"]}, tasters=1, rounds=1)
    )
    lead.post(f"/lots/{lot.code}/recall", {"why": "mould"})
    assert "Something here was recalled" in table.seen()["stop"]
    assert "recalled or withdrawn" in maker.post(f"{path}/portion").data["detail"]
    assert lead.post(f"{path}/end", {"why": ""}).data["where"] == "why"
    ended = lead.post(f"{path}/end", {"why": "recalled"}).data
    assert ended["ended_why"] == "recalled"
    assert lead.post(f"{path}/end", {"why": "again"}).status_code == 422
    assert [row["code"] for row in maker.get("/standards?find=buckthorn").data["items"]] == [standard["code"]]
