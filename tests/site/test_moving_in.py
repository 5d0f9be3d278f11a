"""A house of one's own: opened, its people invited, changed and let go, another house gone to, the demo wiped."""

import io
import json
import threading
from datetime import UTC, date, datetime, timedelta

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.utils import timezone

from tests.core.cordial import FORM, JUICE
from tests.site.conftest import PASSWORD, Api, event
from ulsek.batches.models import Lot, Run, RunEvent
from ulsek.team.access import NotAllowed
from ulsek.team.actions.membership import let_go
from ulsek.team.house_rows import delete_house, tables
from ulsek.team.models import HistoryRow, House, Invitation, Membership, Person, SignIn
from ulsek.team.opening import opening_code

OWN = {
    "house": {"name": "Plover Room", "zone": "Europe/Lisbon", "currency": "EUR", "place": "EU", "altitude_m": 650, "day_turns": "05:00"},
    "lead": {"sign_in": "maren", "name": "Maren", "password": "grey-plover-11"},
}


def opening(**changes):
    return {**OWN, **{name: {**OWN[name], **more} if isinstance(more, dict) else more for name, more in changes.items()}}


def refused(answer, where, words):
    assert (answer.status_code, answer.data["where"]) == (422, where), answer.content
    assert words in answer.data["detail"]


def test_the_first_visit_to_an_empty_site_opens_a_house_and_nobody_opens_a_second_one_that_way(db):
    somebody = Api()
    assert somebody.get("/session").data["may_open"] == "freely"
    answer = somebody.post("/session/opening", OWN)
    assert answer.status_code == 201, answer.content
    told = answer.data
    assert (told["house"], told["role"], told["zone"], told["day_turns"], told["altitude_m"], told["is_demo"]) == (
        "Plover Room",
        "lead",
        "Europe/Lisbon",
        "05:00",
        650,
        False,
    )
    assert somebody.get("/specs").data["items"] == [], "nothing of the demo is in it"
    assert somebody.get("/house").data["place"] == "EU"
    assert HistoryRow.objects.get().action == "open_house"
    stranger = Api()
    assert stranger.get("/session").data["may_open"] == ""
    refused(stranger.post("/session/opening", opening(house={"name": "Another"})), "name", "This site has its house.")
    assert House.objects.count() == 1


@pytest.mark.parametrize(
    ("changes", "where", "words"),
    [
        ({"house": {"zone": "Europe/Atlantis"}}, "zone", "“Europe/Atlantis” is no time zone. Choose one, such as Europe/Lisbon."),
        ({"house": {"name": "TERN house"}}, "name", "There is a house called “TERN house” here already."),
        ({"house": {"name": " "}}, "name", "The house has no name."),
        ({"house": {"currency": "euro"}}, "currency", "“euro” is no currency."),
        ({"house": {"day_turns": "09:00"}}, "day_turns", "A day cannot turn at 09:00: from 00:00 to 08:00."),
        ({"house": {"service_from": "6pm"}}, "service_from", "“6pm” is no time of day."),
        ({"house": {"place": "Moon"}}, "place", "No rules of “Moon” ship with Ulsek"),
        ({"house": {"altitude_m": 99000}}, "altitude_m", "is no place for a bar"),
        ({"lead": {"password": "short"}}, "password", "too short"),
        ({"lead": {"sign_in": "two words"}}, "sign_in", "“two words” cannot be signed in by"),
        ({"lead": {"sign_in": "STRANGER"}}, "sign_in", "Somebody signs in by “STRANGER” already"),
        ({"locale": "cubits"}, "locale", "“cubits” is not known here"),
    ],
)
def test_what_a_house_cannot_be_is_refused_at_its_place_and_nothing_is_half_done(place, changes, where, words):
    House.objects.update(is_demo=True)
    people, houses = Person.objects.count(), House.objects.count()
    refused(Api().post("/session/opening", opening(**changes)), where, words)
    assert (Person.objects.count(), House.objects.count()) == (people, houses)


@pytest.mark.django_db(transaction=True)
def test_of_two_first_visits_at_once_one_opens_the_house():
    ready, told = threading.Barrier(2), []

    def visits(name):
        somebody = Api()
        ready.wait()
        told.append(somebody.post("/session/opening", opening(house={"name": name}, lead={"sign_in": name.lower()})).status_code)
        connection.close()

    both = [threading.Thread(target=visits, args=(name,)) for name in ("Plover", "Curlew")]
    for visit in both:
        visit.start()
    for visit in both:
        visit.join()
    assert sorted(told) == [201, 422]
    assert House.objects.count() == 1


def test_on_a_network_the_first_house_takes_the_code_of_whoever_runs_the_site(db, settings):
    settings.BASE_ADDRESS = "https://192.168.1.20:8713"
    somebody = Api()
    assert somebody.get("/session").data["may_open"] == "by code"
    refused(somebody.post("/session/opening", OWN), "opening_code", "That is not this site's opening code")
    assert not House.objects.exists()
    assert somebody.post("/session/opening", {**OWN, "opening_code": opening_code().upper()}).status_code == 201


def invited(place, role="maker", name="Kaja"):
    answer = place.apis["lead"].post("/invitations", {"name": name, "role": role})
    assert answer.status_code == 201, answer.content
    return answer.data


def joining(code, sign_in="kaja", password="long-enough-1", **more):
    return {"code": code, "person": {"sign_in": sign_in, "name": "Kaja", "password": password}, **more}


def test_somebody_comes_in_by_a_code_that_is_shown_once_and_holds_once(place):
    made = invited(place)
    assert made["code"] not in json.dumps(place.apis["lead"].get("/invitations").data), "it is not kept"
    told = Api().post("/session/invitation", {"code": made["code"].upper().replace("-", " ")})
    assert told.data == {"house": "Tern House", "role": "maker", "name": "Kaja", "by": "Lead"}
    kaja = Api()
    answer = kaja.post("/session/join", joining(made["code"]))
    assert (answer.status_code, answer.data["house"], answer.data["role"]) == (201, "Tern House", "maker")
    assert kaja.get("/specs").status_code == 200
    refused(Api().post("/session/join", joining(made["code"], "other")), "code", "This invitation has been used.")
    assert not Person.objects.filter(username="other").exists(), "nobody is made by an invitation that is used"
    assert place.apis["lead"].get("/invitations").data["items"][0]["state"] == "used"


def test_an_invitation_that_is_late_taken_back_or_misread_says_which(place):
    late, back = invited(place), invited(place)
    Invitation.objects.filter(pk=late["id"]).update(expires_at=timezone.now() - timedelta(minutes=1))
    place.apis["lead"].post(f"/invitations/{back['id']}/revoke")
    refused(Api().post("/session/join", joining(late["code"])), "code", "This invitation is older than a week. Ask your lead for another.")
    refused(Api().post("/session/join", joining(back["code"])), "code", "This invitation was taken back.")
    refused(Api().post("/session/join", joining("abcd-efgh-jkmn-pqrs")), "code", "This is no invitation.")


@pytest.mark.parametrize("ends", ["let-go", "role", "hand-over"])
def test_nobody_comes_in_by_the_invitation_of_a_lead_who_leads_no_more(place, ends):
    second = place.members["maker"].person
    place.apis["lead"].call("put", f"/people/{second.pk}/role", {"role": "lead"})
    code = place.apis["maker"].post("/invitations", {"name": "Friend", "role": "lead"}).data["code"]
    if ends == "hand-over":
        place.apis["maker"].post(f"/people/{place.members['lead'].person.pk}/hand-over")
    elif ends == "role":
        place.apis["lead"].call("put", f"/people/{second.pk}/role", {"role": "maker"})
    else:
        place.apis["lead"].post(f"/people/{second.pk}/let-go")
    refused(Api().post("/session/join", joining(code, "friend")), "code", "This invitation was taken back.")
    assert not Person.objects.filter(username="friend").exists()


def test_a_height_that_is_taken_out_is_asked_for_again(place):
    api = place.apis["lead"]
    facts = {**OWN["house"], "name": "Tern House"}
    assert api.call("put", "/house", facts).data["altitude_m"] == 650
    assert api.call("put", "/house", {**facts, "altitude_m": None, "place": ""}).data["altitude_m"] is None
    assert api.get("/session").data["altitude_m"] is None


def test_who_signs_in_here_already_joins_a_second_house_by_their_password_and_changes_between_them(place):
    code = place.apis["stranger"].post("/invitations", {"name": "Lead", "role": "maker"}).data["code"]
    wrong = Api().post("/session/join", joining(code, "lead", "not-this-one", is_known=True))
    assert wrong.status_code == 401
    api = Api()
    joined = api.post("/session/join", joining(code, "lead", PASSWORD, is_known=True))
    assert (joined.status_code, joined.data["house"], joined.data["role"]) == (201, "Lantern Yard", "maker")
    assert [(item["name"], item["role"]) for item in joined.data["houses"]] == [("Lantern Yard", "maker"), ("Tern House", "lead")]
    assert api.get("/history").status_code == 403, "a maker there"
    home = api.post("/session/house", {"house": place.house.pk})
    assert (home.data["house"], home.data["role"]) == ("Tern House", "lead")
    assert api.get("/history").status_code == 200, "a lead here"
    assert place.apis["maker"].post("/session/house", {"house": place.other.pk}).status_code == 404


def test_the_last_lead_cannot_leave_be_let_go_or_step_down(place):
    lead, maker = place.members["lead"].person, place.members["maker"].person
    api = place.apis["lead"]
    last = "Lead is the last lead of Tern House. Make somebody else a lead first, or hand the house over."
    refused(api.post("/own/leave"), "person", last)
    refused(api.post(f"/people/{lead.pk}/let-go"), "person", last)
    refused(api.call("put", f"/people/{lead.pk}/role", {"role": "maker"}), "person", last)
    assert api.call("put", f"/people/{maker.pk}/role", {"role": "lead"}).data["role"] == "lead"
    assert api.post("/own/leave").status_code == 204
    assert api.get("/specs").status_code == 401, "signed out of a house that one has left"


def test_of_two_leads_who_let_each_other_go_the_second_comes_too_late(place):
    first, second = place.members["lead"], place.members["maker"]
    Membership.objects.filter(person=second.person).update(role="lead")
    # Both were let in as leads before either act was done.
    let_go(first, second.person.pk)
    with pytest.raises(NotAllowed):
        let_go(second, first.person.pk)
    assert list(Membership.objects.filter(house=place.house, role="lead").values_list("person", flat=True)) == [first.person.pk]


def test_who_is_let_go_is_signed_out_everywhere_and_comes_back_as_they_were(place):
    tablet = Api()
    assert tablet.post("/session", {"name": "maker", "password": PASSWORD}).status_code == 200
    person = place.members["maker"].person
    run = place.run()
    assert place.apis["lead"].post(f"/people/{person.pk}/let-go").data["left_at"]
    assert not SignIn.objects.filter(person=person, ended_at=None).exists()
    assert tablet.get("/specs").status_code == 401
    assert tablet.post("/session", {"name": "maker", "password": PASSWORD}).status_code == 403
    assert place.apis["lead"].get("/session").data["others"] == [], "nothing is handed to somebody who has left"
    assert [item["name"] for item in place.apis["lead"].get("/people?state=left").data["items"]] == ["Maker"]
    assert place.apis["lead"].get(f"/runs/{run}").data["started_by"] == "Maker", "what they did stays under their name"
    back = place.apis["lead"].post(f"/people/{person.pk}/take-back", {"role": "reader"}).data
    assert (back["role"], back["left_at"]) == ("reader", None)
    assert tablet.post("/session", {"name": "maker", "password": PASSWORD}).data["role"] == "reader"


def test_a_house_is_handed_over(place):
    heir = place.members["maker"].person
    assert place.apis["lead"].post(f"/people/{heir.pk}/hand-over").data["role"] == "lead"
    assert place.apis["lead"].get("/session").data["role"] == "maker"
    assert place.apis["lead"].post("/invitations", {"name": "x", "role": "lead"}).status_code == 403


def test_the_history_is_found_by_person_act_and_day_and_goes_out_as_a_table(place):
    place.delivery(brix_reading=8.2)
    place.apis["lead"].post("/invitations", {"name": "=Kaja", "role": "maker"})
    api, maker = place.apis["lead"], place.members["maker"].person
    assert [item["action"] for item in api.get("/history").data["items"]] == ["invite", "read_delivery", "receive_delivery"]
    assert [item["action"] for item in api.get(f"/history?person={maker.pk}").data["items"]] == ["read_delivery", "receive_delivery"]
    assert [item["by"] for item in api.get("/history?action=invite").data["items"]] == ["Lead"]
    today = place.house.day(timezone.now())
    assert len(api.get(f"/history?since={today}&until={today}").data["items"]) == 3
    assert api.get(f"/history?until={today - timedelta(days=1)}").data["items"] == []
    assert api.get("/history/kinds").data == ["invite", "read_delivery", "receive_delivery"]
    lines = api.client.get("/api/history.csv?action=invite").content.decode().splitlines()
    assert lines[0] == "at,by,act,what"
    assert lines[1].endswith(",Lead,invite,'=Kaja"), "no cell is a formula"


def test_a_day_turns_at_the_house_s_own_hour_on_both_sides_of_a_clock_change(place):
    answer = place.apis["lead"].call("put", "/house", {**OWN["house"], "name": "Tern House", "zone": "Europe/Berlin"})
    assert answer.status_code == 200, answer.content
    house = House.objects.get(pk=place.house.pk)

    def at(text):
        return datetime.fromisoformat(text).replace(tzinfo=UTC)

    assert house.day(at("2026-11-28T03:59")) == date(2026, 11, 27), "04:59 on the house's clock is still the evening before"
    assert house.day(at("2026-11-28T04:00")) == date(2026, 11, 28)
    assert house.day_ends(date(2026, 3, 28)) == at("2026-03-29T03:00"), "05:00 in summer"
    assert house.day_ends(date(2026, 3, 27)) == at("2026-03-28T04:00"), "05:00 in winter"


def test_a_bottle_dated_for_tonight_may_be_poured_until_the_night_is_over(place):
    House.objects.filter(pk=place.house.pk).update(day_turns="05:00")
    run = place.run(place.spec(), mass_g=500)
    weighed = [event("weighed", line=line, mass_g=mass) for line, mass in (("juice", 500), ("sugar", 259.5), ("malic", 4.0))]
    done = [*weighed, *(event("step_done", step=f"s{n}") for n in range(1, 6)), event("finished", volume_ml=600, rest="spoon", signed=True)]
    assert place.apis["maker"].post(f"/runs/{run}/events", {"events": done}).status_code == 200
    lot, house = Lot.objects.get(run=run), House.objects.get(pk=place.house.pk)
    ends = house.day_ends(lot.use_by)
    assert lot.standing(house, ends - timedelta(minutes=1)).state == "good"
    assert lot.standing(house, ends).state == "past"


def test_the_demo_is_wiped_whole_and_a_house_of_one_s_own_is_not_touched(place):
    place.run()
    place.delivery()
    keeper = place.apis["stranger"]
    House.objects.filter(pk=place.house.pk).update(is_demo=True)
    assert place.apis["lead"].get("/session").data["is_demo"]
    assert keeper.post("/house/wipe", {"name": "Lantern Yard"}).data["code"] == "not_the_demo"
    refused(place.apis["lead"].post("/house/wipe", {"name": "tern"}), "name", "Write “Tern House” to wipe it.")
    kept = {model: model._base_manager.filter(**{lookup: place.other.pk}).count() for model, lookup in tables()}
    assert place.apis["lead"].post("/house/wipe", {"name": "Tern House"}).status_code == 204
    assert list(House.objects.values_list("name", flat=True)) == ["Lantern Yard"]
    assert (Run.objects.count(), RunEvent.objects.count(), list(Person.objects.values_list("username", flat=True))) == (0, 0, ["stranger"])
    assert kept == {model: model._base_manager.filter(**{lookup: place.other.pk}).count() for model, lookup in tables()}
    assert keeper.get("/specs").status_code == 200


def test_who_is_in_another_house_too_stays_when_one_is_deleted(place):
    code = place.apis["stranger"].post("/invitations", {"name": "Lead", "role": "reader"}).data["code"]
    Api().post("/session/join", joining(code, "lead", PASSWORD, is_known=True))
    delete_house(place.house)
    assert set(Person.objects.values_list("username", flat=True)) == {"lead", "stranger"}


def test_a_house_is_opened_on_the_machine_itself_with_everything_said_by_options(db, monkeypatch, capsys):
    def run(password, **options):
        monkeypatch.setattr("sys.stdin", io.StringIO(f"{password}\n"))
        call_command("open_house", name="Plover Room", lead="maren", **options)

    with pytest.raises(CommandError, match=r"Nothing was opened\. “Nowhere” is no time zone"):
        run("grey-plover-11", zone="Nowhere")
    assert not House.objects.exists()
    assert not Person.objects.exists()
    run("grey-plover-11", zone="Europe/Lisbon", altitude="650")
    assert "Plover Room is open. Sign in as maren." in capsys.readouterr().out
    assert Api().post("/session", {"name": "maren", "password": "grey-plover-11"}).data["house"] == "Plover Room"
    with pytest.raises(CommandError, match="There is a house called “Plover Room” here already"):
        run("grey-plover-11", zone="Europe/Lisbon")


def test_a_table_of_stock_is_read_and_taken_in_whole_or_not_at_all(place):
    api = place.apis["maker"]
    rows = api.post("/stock/read-table", {"text": "Item,Pack,Count,Price\nLemons,5 kg,2,14.50\nBlue thing,1 L,1,\n"}).data["rows"]
    assert [row["material"] for row in rows] == ["lemon", ""]
    sent = [{name: row[name] for name in ("material", "product", "pack", "packs")} | {"price": row["price"] or None} for row in rows]
    refused(api.post("/stock/many", {"items": sent}), "items/1/material", "Nobody has said what “Blue thing” is.")
    refused(api.post("/stock/many", {"items": []}), "items", "Nothing is ticked.")
    assert api.get("/stock").data["items"] == []
    sent[1]["material"] = "gin"
    assert api.post("/stock/many", {"items": sent}).data == {"count": 2}
    gin, lemons = sorted(api.get("/stock").data["items"], key=lambda item: item["material"])
    assert (lemons["remaining_g"], lemons["price_per_kg"]) == ("10000.0", "2.9000")
    assert (gin["price"], gin["price_per_kg"]) == (None, None), "nobody knows what it cost"
    usual = {item["material"]: item["had"] for group in api.get("/stock/usual").data for item in group["items"]}
    assert (usual["lemon"], usual["gin"], usual["honey"]) == (True, True, False)


def test_a_delivery_without_a_price_leaves_the_cost_open_and_stops_no_batch(place):
    place.apis["maker"].post("/stock/many", {"items": [{"material": JUICE, "product": "Pressed", "pack": "4 L"}]})
    spec = place.spec()
    cost = place.apis["lead"].post("/cost", {"spec": FORM}).data
    assert "sea_buckthorn_juice" in json.dumps(cost["unpriced"]) or "Sea buckthorn juice" in json.dumps(cost["unpriced"])
    assert place.run(spec, mass_g=500)
