"""The plan over HTTP: a list that follows from pars, hours, bottles, batches and deliveries; and what is refused."""

import io
from collections import OrderedDict
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from types import SimpleNamespace
from uuid import uuid4

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from pypdf import PdfReader

from tests.core.cordial import FORM, JUICE
from tests.morning import at_ten
from tests.site.test_lots_api import bottled
from ulsek.batches.models import Lot
from ulsek.planning import facts
from ulsek.planning.models import Par
from ulsek.specs.actions.clear_person import clear_person
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.projection import material_key_of
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.team.models import House

ALL_DAY = [["00:30", "23:30"]] * 7


@pytest.fixture
def planned(place):
    """The house at ten in the morning, with a published cordial and fruit for it."""
    House.objects.filter(pk=place.house.pk).update(zone=at_ten())
    place.house.refresh_from_db()
    place.cordial = place.spec()
    place.item = place.delivery()
    return place


def par(place, must_ml, spec=None):
    return place.apis["lead"].call("put", f"/plan/pars/{(spec or place.cordial).pk}", {"must_ml": must_ml})


def today(place, role="maker"):
    answer = place.apis[role].get("/plan/today")
    assert answer.status_code == 200, answer.content
    return answer.data


def hours(place, role, week=ALL_DAY):
    path = f"/plan/people/{place.members[role].person.pk}/hours"
    assert place.apis["lead"].call("put", path, {"week": week}).status_code == 204


def test_a_par_table_alone_gives_a_list_on_the_first_day(planned):
    assert today(planned)["pars"] == 0
    assert par(planned, [900] * 7).status_code == 204
    found = today(planned)
    (line,) = found["list"]["lines"][:1]
    assert (line["name"], line["there_ml"], line["bottles"], line["hands"][0]["name"]) == (
        "Sea buckthorn cordial",
        0.0,
        line["bottles"],
        "",
    )
    # Whole bottles that fit: at least what must stand there, and not past the pot of 5 L.
    assert line["makes_ml"] == line["bottles"] * 475 and 900 <= line["makes_ml"] <= 5000
    assert found["list"]["by_the_clock"]
    assert found["list"]["missed"] == []
    assert found["list"]["runs_out"][0]["day"] == found["list"]["day"]
    # Ready half an hour before it opens; it takes 50 minutes and a bit.
    ready, opens = datetime.fromisoformat(line["ready_at"]), datetime.fromisoformat(found["opens_at"])
    assert timedelta(minutes=30) <= opens - ready < timedelta(minutes=45)


def test_one_press_starts_a_batch_that_is_scaled_to_its_line_and_the_list_says_so(planned):
    par(planned, [900] * 7)
    line = today(planned)["list"]["lines"][0]
    body = {"id": str(uuid4()), "spec": str(planned.cordial.pk), "volume_ml": line["makes_ml"]}
    started = planned.apis["maker"].post("/runs", body)
    assert started.status_code == 201
    found = today(planned)
    (begun,) = found["begun"]
    assert (begun["run"], begun["by"], begun["finished_at"]) == (body["id"], "Maker", None)
    assert begun["makes_ml"] == pytest.approx(line["makes_ml"], rel=1e-6)
    # What is under way counts for tonight, so that nothing more is begun for it.
    assert [one for one in found["list"]["lines"] if one["needed_at"] == line["needed_at"]] == []


def test_somebody_who_is_away_moves_the_list_and_back_again(planned):
    par(planned, [900] * 7)
    hours(planned, "maker")
    line = today(planned)["list"]["lines"][0]
    assert line["hands"][0]["name"] == "Maker"
    person = planned.members["maker"].person.pk
    away = planned.apis["maker"].post(f"/plan/people/{person}/away")
    assert away.status_code == 201
    assert planned.apis["maker"].post(f"/plan/people/{person}/away").data == away.data, "pressed twice"
    found = today(planned)
    (missed,) = found["list"]["missed"]
    assert "nobody is in who could make it in time; Maker is away" in missed["what"]
    assert missed["nearest"].startswith("The nearest that can: ready ")
    assert found["workers"] == [{"person": person, "name": "Maker", "is_away": True}]
    # The lead is in as well: it goes to her.
    hours(planned, "lead")
    assert [one["hands"][0]["name"] for one in today(planned)["list"]["lines"]][:1] == ["Lead"]
    assert planned.apis["maker"].call("delete", f"/plan/away/{away.data['id']}").status_code == 204
    clear_person(planned.members["lead"], planned.cordial.pk, person, cleared=True)
    line = today(planned)["list"]["lines"][0]
    assert (line["hands"][0]["name"], line["is_cleared"]) == ("Maker", True)
    # Said of nobody any more: by the clock again.
    for role in ("maker", "lead"):
        hours(planned, role, [])
    assert today(planned)["list"]["by_the_clock"]


def test_only_what_may_be_poured_on_its_day_is_on_hand(planned):
    lot = bottled(planned, planned.cordial)
    par(planned, [min(900, int(lot.left))] * 7)
    assert today(planned)["list"]["runs_out"][0]["stands"][0]["there_ml"] == pytest.approx(lot.left)

    def there(**changed):
        Lot.objects.filter(pk=lot.pk).update(**changed)
        found = today(planned)["list"]["runs_out"][0]["stands"][0]["there_ml"]
        Lot.objects.filter(pk=lot.pk).update(recalled="", use_by=lot.use_by, ready_at=None, gone_at=None)
        return found

    day = planned.house.day(datetime.now(UTC))
    assert there(recalled="mould") == 0.0
    assert there(use_by=day - timedelta(days=1)) == 0.0
    assert there(use_by=day) == pytest.approx(lot.left)
    assert there(ready_at=datetime.now(UTC) + timedelta(hours=12)) == 0.0
    assert there(gone_at=datetime.now(UTC)) == 0.0
    withdrawn = planned.apis["lead"].post(f"/specs/{planned.cordial.pk}/versions/1/withdraw", {"why": "cloudy"})
    assert withdrawn.status_code in (200, 204)
    # Nothing that is withdrawn is made, nor counted.
    assert today(planned)["list"]["runs_out"] == []


def test_fruit_that_is_short_is_ordered_of_who_brought_it_last(planned):
    par(planned, [4000] * 7)
    entry = planned.apis["lead"].post("/register", {"kind": "supplier", "name": "Hagedorn"}).data["id"]
    terms = {"weekdays": list(range(7)), "cut_off": "23:59", "lead_days": 1, "arrives": "00:30"}
    assert planned.apis["lead"].call("put", f"/plan/suppliers/{entry}", terms).status_code == 200
    found = today(planned)
    order = next(one for one in found["orders"] if one["supplier"] == "Hagedorn")
    (line,) = order["lines"]
    assert (line["material"], line["pack_g"], line["here_g"]) == (JUICE, 1000.0, 4000.0)
    assert order["is_today"]
    assert line["packs"] * 1000.0 >= line["lacking_g"] > (line["packs"] - 1) * 1000.0
    assert Decimal(str(line["price"])) == line["packs"] * Decimal("15.20")
    # Another delivery is here: less is ordered.
    receive_delivery(
        planned.members["maker"],
        JUICE,
        Delivery(product="Pressed", supplier="Hagedorn", price=Decimal("15.20"), pack_g=Decimal(1000), packs=90),
    )
    assert [one for one in today(planned)["orders"] if one["supplier"] == "Hagedorn"] == []


def test_a_party_and_a_closed_day_change_the_list(planned):
    par(planned, [900] * 7)
    day = planned.house.day(datetime.now(UTC))
    usual = today(planned)["list"]["runs_out"][0]["stands"]
    lead = planned.apis["lead"]
    assert lead.call("put", f"/plan/days/{day + timedelta(days=1)}", {"name": "party of 60", "times": 2}).status_code == 200
    assert lead.call("put", f"/plan/days/{day}", {"name": "closed", "times": 0}).status_code == 200
    found = today(planned)
    assert [one["must_ml"] for one in found["list"]["runs_out"][0]["stands"]][:3] == [0.0, 1800.0, 900.0]
    assert [one["must_ml"] for one in usual][:3] == [900.0, 900.0, 900.0]
    assert found["changed"] == "closed"
    assert [one["name"] for one in planned.apis["reader"].get("/plan/days").data] == ["closed", "party of 60"]
    assert lead.call("delete", f"/plan/days/{day}").status_code == 204
    assert today(planned)["changed"] == ""


def test_a_maker_decides_who_how_many_and_not_today(planned):
    par(planned, [900] * 7)
    hours(planned, "maker")
    hours(planned, "lead")
    path, maker = f"/plan/today/{planned.cordial.pk}", planned.apis["maker"]
    assert maker.call("patch", path, {"person": planned.members["lead"].person.pk}).status_code == 204
    assert maker.call("patch", path, {"bottles": 3}).status_code == 204, "who makes it stays decided"
    found = today(planned)
    assert (found["list"]["lines"][0]["bottles"], found["list"]["lines"][0]["hands"][0]["name"]) == (3, "Lead")
    assert found["preps"]["cordial"]["bottles"] == 3
    refused = maker.call("patch", path, {"bottles": 900})
    assert (refused.status_code, refused.data["where"]) == (422, "bottles")
    assert "fit heavy pot" in refused.data["detail"]
    assert maker.call("patch", path, {"bottles": 0}).status_code == 204
    found = today(planned)
    assert [one["key"] for one in found["list"]["lines"]] == []
    assert [one["key"] for one in found["list"]["missed"]] == ["cordial"]
    assert maker.call("delete", path).status_code == 204
    assert today(planned)["list"]["lines"][0]["key"] == "cordial"


def test_the_list_goes_out_as_paper_text_and_calendar(planned):
    par(planned, [900] * 7)
    hours(planned, "maker")
    line = today(planned)["list"]["lines"][0]
    start = datetime.fromisoformat(line["start_by"])
    reader = planned.apis["reader"]
    page = PdfReader(io.BytesIO(reader.get("/plan/list.pdf").content)).pages[0].extract_text()
    assert "Sea buckthorn cordial" in page and f"{start:%H:%M}" in page and "Maker" in page
    text = reader.get("/plan/list.txt").content.decode()
    assert f"{start:%H:%M} Sea buckthorn cordial, {line['bottles']} bottles" in text
    calendar = reader.get("/plan/list.ics").content.decode()
    assert calendar.count("BEGIN:VEVENT") == sum(len(one["hands"]) for one in today(planned)["list"]["lines"])
    assert f"{start.astimezone(UTC):%Y%m%dT%H%M}" in calendar or f"{start:%Y%m%dT%H%M}" in calendar


def test_pars_hours_days_and_terms_that_cannot_be_are_refused_at_their_place(planned):
    lead = planned.apis["lead"]

    def refused(method, path, body):
        answer = lead.call(method, path, body)
        assert answer.status_code == 422, answer.content
        return answer.data["where"], answer.data["detail"]

    assert par(planned, [0, 0, -5, 0, 0, 0, 0]).data["where"] == "must_ml/wednesday"
    assert par(planned, [900] * 6).data["where"] == "must_ml"
    drink = start_spec(planned.members["lead"], NewSpec("Tall fizz", "drink"))
    assert par(planned, [900] * 7, drink).data["where"] == "spec"
    person = planned.members["maker"].person.pk
    where, said = refused("put", f"/plan/people/{person}/hours", {"week": [["10:00", "10:00"], *[None] * 6]})
    assert where == "week/monday" and "end when they begin" in said
    assert refused("put", f"/plan/people/{person}/hours", {"week": [["soon", "late"], *[None] * 6]})[0] == "week/monday"
    assert refused("put", f"/plan/people/{person}/hours", {"week": [None] * 6})[0] == "week"
    assert refused("post", f"/plan/people/{person}/away", {"first": "2020-01-01"})[0] == "last"
    assert refused("post", f"/plan/people/{person}/away", {"first": "2100-01-02", "last": "2100-01-01"})[0] == "last"
    assert refused("put", "/plan/days/2020-01-01", {"times": 2})[0] == "day"
    assert refused("put", "/plan/days/2100-01-01", {"times": -1})[0] == "times"
    assert refused("put", "/plan/days/2100-01-01", {"must_ml": {"nothing": 100}})[0] == "must_ml/nothing"
    entry = lead.post("/register", {"kind": "supplier", "name": "Yard / north"}).data["id"]
    assert (
        refused("put", f"/plan/suppliers/{entry}", {"weekdays": [], "cut_off": "16:00", "lead_days": 1, "arrives": "10:00"})[0]
        == "weekdays"
    )
    reader = planned.members["reader"].person.pk
    assert lead.call("put", f"/plan/people/{reader}/hours", {"week": ALL_DAY}).status_code == 404, "a reader makes nothing"


def test_a_list_asks_as_much_of_the_database_with_many_preps_as_with_one(planned):
    def asked():
        with CaptureQueriesContext(connection) as seen:
            today(planned)
        return len(seen)

    par(planned, [900] * 7)
    hours(planned, "maker")
    today(planned)
    few = asked()
    for n in range(6):
        spec = planned.spec(body={**FORM, "id": f"cordial-{n}", "name": f"Cordial {n}"})
        par(planned, [500] * 7, spec)
        bottled(planned, spec)
    # The facts of new versions are worked out once.
    today(planned)
    assert asked() == few


def test_a_process_computes_the_facts_of_its_preps_before_anybody_asks(planned, monkeypatch):
    assert par(planned, [900] * 7).status_code == 204
    monkeypatch.setattr(facts, "_kept", OrderedDict())
    # The connection of a test is the one of its transaction: it stays.
    monkeypatch.setattr(facts, "connection", SimpleNamespace(close=lambda: None))
    facts.warm()
    (found,) = facts._kept.values()
    assert found.key == material_key_of(planned.cordial.key)
    monkeypatch.setattr(facts, "_computed", pytest.fail)
    assert today(planned)["list"]["lines"]


def test_a_par_follows_from_pours_and_from_what_a_count_finds_lacking(planned):
    lead, maker = planned.apis["lead"], planned.apis["maker"]
    par(planned, [100] * 7)
    path = f"/plan/pars/{planned.cordial.pk}/by-use"
    refused = lead.post(path)
    assert (refused.status_code, refused.data["code"]) == (422, "missing"), "nothing was noted yet"
    lot = bottled(planned, planned.cordial)
    for amount in (400, 100):
        assert maker.post(f"/lots/{lot.code}/events", {"kind": "used", "body": {"amount": amount}}).status_code == 200
    left = Lot.objects.get(pk=lot.pk).left
    assert maker.post(f"/lots/{lot.code}/events", {"kind": "counted", "body": {"amount": left - 300}}).status_code == 200
    # As if it had been poured on three days before, and counted yesterday after six days.
    for n, event in enumerate(lot.events.filter(kind__in=("used", "counted")).order_by("id")):
        lot.events.filter(pk=event.pk).update(at=event.at - timedelta(days=(5, 3, 1)[n]))
    Lot.objects.filter(pk=lot.pk).update(made_at=lot.made_at - timedelta(days=6))
    (row,) = [one for one in lead.get("/plan/pars").data if one["by_use"]]
    assert (row["spec"], row["by_use"]["days"]) == (str(planned.cordial.pk), 6)
    assert row["must_ml"] == [100.0] * 7, "it is a proposal until somebody takes it"
    assert planned.apis["maker"].post(path).status_code == 403
    assert lead.post(path).status_code == 204
    kept = Par.objects.get(spec=planned.cordial)
    assert kept.must_ml == row["by_use"]["must_ml"]
    # 400, 100 and 300 mL over six days, more on the days that were poured on.
    assert 800 / 7 < sum(kept.use_ml) / 7 < 800 / 4 < max(kept.must_ml)
