"""Bottles that stood there before anybody wrote them down: labelled with what is known, dated by what is not, and kept apart from what batches made."""

from datetime import timedelta

from django.utils import timezone

from ulsek.batches.models import Lot
from ulsek.team.models import House


def labelled(house, **said):
    answer = house.apis["maker"].post("/lots", said)
    assert answer.status_code == 201, answer.content
    return answer.data


def today(place):
    return House.objects.get(pk=place.house.pk).day(timezone.now())


def test_a_bottle_of_a_spec_has_its_allergens_and_its_date_from_the_day_that_it_was_made(place):
    spec = place.spec()
    fresh = labelled(place, spec=str(spec.pk), days_ago=0, amount_ml=500, place="bar fridge")
    older = labelled(place, spec=str(spec.pk), days_ago=2)
    assert (fresh["name"], fresh["version_number"], fresh["left"], fresh["place"], fresh["run"]) == (
        "Sea buckthorn cordial",
        1,
        500,
        "bar fridge",
        None,
    )
    days = Lot.objects.get(code=fresh["code"]).use_by - Lot.objects.get(code=older["code"]).use_by
    assert days == timedelta(days=2)
    assert "Labelled afterwards" in fresh["use_by_reason"]
    assert (fresh["code"], older["code"]) == ("S0001", "S0002")
    pdf = place.apis["reader"].client.get(f"/api/lots/{fresh['code']}/label.pdf")
    assert pdf.content.startswith(b"%PDF")
    assert [lot["code"] for lot in place.apis["maker"].get("/lots?find=buckthorn").data["items"]] == ["S0002", "S0001"]


def test_what_nobody_knows_makes_the_date_shorter_never_longer(place):
    spec = place.spec()
    unknown = labelled(place, spec=str(spec.pk))
    assert unknown["use_by"] == today(place).isoformat()
    assert unknown["use_by_reason"] == "Nobody knows when it was made: use it today, or throw it away."
    bare = labelled(place, name="Green stuff", days_ago=0)
    assert bare["use_by"] == (today(place) + timedelta(days=1)).isoformat(), "two days, the day of its making included"
    assert (bare["version_number"], bare["spec"], bare["keep_c"]) == (0, None, 5.0)
    assert "sk" in bare["allergens_words"], "ask: nobody wrote them down"
    old = labelled(place, name="Old stuff", days_ago=30)
    assert old["standing"]["state"] == "past"


def test_what_cannot_be_is_refused(place):
    api, draft = place.apis["maker"], place.spec(published=False)
    for said, where in (
        ({"days_ago": 1}, "name"),
        ({"name": "x", "days_ago": -1}, "days_ago"),
        ({"name": "x", "days_ago": 9999}, "days_ago"),
        ({"spec": str(draft.pk)}, "spec"),
        ({"name": "x", "amount_ml": -5}, "body/amount"),
        ({"name": "x", "amount_ml": 0}, "amount_ml"),
    ):
        answer = api.post("/lots", said)
        assert (answer.status_code, answer.data["where"]) == (422, where), said
    assert not Lot.objects.exists()


def test_it_is_opened_moved_split_traced_and_recalled_like_any_other_but_never_mixed_or_drawn_on(place):
    spec, api = place.spec(), place.apis["maker"]
    code = labelled(place, spec=str(spec.pk), days_ago=0)["code"]
    other = labelled(place, spec=str(spec.pk), days_ago=1)["code"]
    for kind, body in (("opened", {}), ("moved", {"place": "cold room"}), ("used", {"amount": 100})):
        assert api.post(f"/lots/{code}/events", {"kind": kind, "body": body}).status_code == 200, kind
    mixed = api.post(f"/lots/{code}/events", {"kind": "topped_up", "body": {"from": other, "amount": 50}})
    assert (mixed.status_code, mixed.data["code"]) == (422, "another_material")
    assert api.get(f"/lots/{code}/trace").data["made_of"] == []
    run = place.run(spec, mass_g=500)
    drawn = api.get(f"/runs/{run}/supplies/scanned?code={code}")
    assert drawn.status_code in (404, 422)
    assert place.apis["lead"].post(f"/lots/{code}/recall", {"why": "smells odd"}).data["lots"] == [code]
    assert api.get(f"/lots/{code}").data["standing"]["state"] == "recalled"
    assert api.get("/shift").status_code == 200
