"""Sessions: begun by password, PIN or a lead's code, on enrolled devices and others; ended here, from elsewhere, with the device."""

from datetime import timedelta
from uuid import uuid4

import pytest
from axes.utils import reset
from django.utils import timezone

from tests.site.conftest import LISTENS, PASSWORD, Api
from tests.site.doors import PIN, On
from tests.site.signing import Key, sealed
from ulsek.team.models import Device, HistoryRow, Membership, OneTimeCode, Person, SignIn, SigningKey
from ulsek.team.pins import MOST_WRONG


@pytest.fixture
def tablet(place):
    """An enrolled tablet on which nobody is signed in; everybody of the house has the same PIN."""
    for role in ("lead", "maker", "reader"):
        api = On(place, f"{role}'s own").signs_in(role)
        assert api.call("put", "/own/pin", {"password": PASSWORD, "pin": PIN}).data["has_pin"]
        api.post("/session/end")
    return On(place, "bench tablet")


def person(place, role):
    return place.members[role].person.pk


def switched(tablet, person_id, pin=PIN):
    return tablet.post("/session/switch", {"person": person_id, "pin": pin})


def test_a_lead_enrols_a_device_and_people_change_on_it_by_pin(place, tablet):
    lead = Api()
    lead.post("/session", {"name": "lead", "password": PASSWORD})
    assert lead.post("/devices", {"name": " "}).data["where"] == "name"
    enrolled = lead.post("/devices", {"name": "prep laptop"})
    cookie = lead.client.cookies["ulsek_enrolled"]
    assert (enrolled.status_code, enrolled.data["device"]["name"], cookie["httponly"]) == (201, "prep laptop", True)
    assert cookie.value.split(".")[1] not in Device.objects.get(name="prep laptop").secret, "the secret itself is kept nowhere"
    assert [item["name"] for item in tablet.get("/session").data["device"]["people"]] == ["Lead", "Maker", "Reader"]
    first = switched(tablet, person(place, "maker")).data
    assert (first["name"], first["role"], first["by_pin"]) == ("Maker", "maker", True)
    switched(tablet, person(place, "reader"))
    assert tablet.get("/session").data["name"] == "Reader"
    assert tablet.post("/containers", {"name": "tub", "tare_g": 1}).status_code == 403
    ended = SignIn.objects.get(pk=first["id"])
    assert (ended.ended, ended.device) == ("switched", tablet.device)


def test_a_pin_reaches_as_far_as_a_maker_until_the_password_is_typed(place, tablet):
    assert switched(tablet, person(place, "lead")).data["role"] == "lead"
    refused = tablet.call("put", "/house/units", {"beside": "cups", "locale": "us"})
    assert (refused.status_code, refused.data["code"]) == (403, "password_wanted")
    assert tablet.post("/containers", {"name": "tub", "tare_g": 1}).status_code == 201
    assert tablet.post("/session/confirm", {"password": "guessed"}).status_code == 401
    assert tablet.post("/session/confirm", {"password": PASSWORD}).status_code == 200
    assert tablet.call("put", "/house/units", {"beside": "cups", "locale": "us"}).status_code == 200
    session = tablet.client.session
    session["confirmed_until"] = timezone.now().isoformat()
    session.save()
    assert tablet.call("put", "/house/units", {"beside": "cups", "locale": "us"}).status_code == 403, "ten minutes later it is asked again"


def test_a_guessed_pin_locks_that_person_on_that_device_until_the_password(place, tablet):
    maker = person(place, "maker")
    left = [switched(tablet, maker, f"10293{n}").data["left"] for n in range(MOST_WRONG)]
    assert left == [4, 3, 2, 1, 0]
    locked = switched(tablet, maker)
    assert (locked.status_code, locked.data["detail"]) == (403, "Five wrong PINs on this device: sign in with your password.")
    assert switched(On(place, "other tablet"), maker).status_code == 200, "another device counts for itself"
    assert switched(tablet, person(place, "reader")).status_code == 200, "another person too"
    tablet.signs_in("maker")
    assert switched(tablet, maker).status_code == 200


@pytest.mark.parametrize("pin", ["12345", "1234567", "123456", "000000", "484848", "123123", "48291x", "４８２９１５"])
def test_a_pin_that_is_none_or_guessed_at_once_is_refused(place, pin):
    answer = place.apis["maker"].call("put", "/own/pin", {"password": PASSWORD, "pin": pin})
    assert (answer.status_code, answer.data["where"]) == (422, "pin")


def test_a_pin_opens_nothing_without_its_device(place, tablet):
    maker = person(place, "maker")
    assert switched(Api(), maker).status_code == 403
    stranger = Api()
    stranger.client.cookies["ulsek_enrolled"] = f"{tablet.device.pk}.{'x' * 43}"
    assert switched(stranger, maker).status_code == 403
    assert switched(tablet, place.stranger.person.pk).data["left"] == 0, "nobody of another house"
    assert switched(tablet, 10**15).data["left"] == 0
    assert place.apis["maker"].call("put", "/own/pin", {"password": "guessed", "pin": PIN}).status_code == 403


def test_a_switch_without_the_network_counts_once_its_pin_is_checked(place, tablet):
    device, maker, key = tablet.get("/session").data["device"], person(place, "maker"), Key()

    def claim(pin, *, stays=True, by=None, device_id=device["id"]):
        text = sealed(device["sealing_key"], person=maker, pin=pin, device=device_id, key=key.id)
        return tablet.post("/session/claims", {"sealed": text, "public": (by or key).public, "stays": stays})

    assert claim("102938").data["left"] == 4, "a wrong one counts as a try"
    assert claim(PIN, by=Key()).data["where"] == "sealed", "it was sealed for another key"
    assert claim(PIN, device_id=str(uuid4())).data["where"] == "sealed"
    assert tablet.post("/session/claims", {"sealed": "AAAA", "public": key.public, "stays": True}).data["where"] == "sealed"
    past = claim(PIN, stays=False).data
    assert past["session"]["signed_in"] is False, "who has gone on since is not signed in"
    assert SigningKey.objects.get(pk=key.id).sign_in.ended == "switched"
    key = Key()
    now = claim(PIN).data
    assert (now["session"]["name"], now["session"]["by_pin"], now["id"]) == ("Maker", True, key.id)


def test_sessions_are_listed_and_ended_from_elsewhere(place):
    here, there = Api(), Api()
    for api in (here, there):
        api.client.defaults["HTTP_USER_AGENT"] = "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"
        api.post("/session", {"name": "maker", "password": PASSWORD})
    key = Key().register(there)
    rows = here.get("/own/sessions").data["items"]
    assert [(row["browser"], row["here"]) for row in rows] == [("Firefox on Linux", False), ("Firefox on Linux", True)]
    assert place.apis["lead"].post(f"/own/sessions/{rows[0]['id']}/end").status_code == 404, "nobody else's"
    assert here.post(f"/own/sessions/{rows[0]['id']}/end").status_code == 204
    assert (there.get("/shift").status_code, here.get("/shift").status_code) == (401, 200)
    assert SigningKey.objects.get(pk=key.id).revoked_at is not None


def test_a_new_password_ends_every_other_session(place):
    here, there = Api(), Api()
    for api in (here, there):
        api.post("/session", {"name": "maker", "password": PASSWORD})
    assert here.call("put", "/own/password", {"old": "guessed", "new": "steel-ladle-22"}).status_code == 403
    assert here.call("put", "/own/password", {"old": PASSWORD, "new": "short"}).data["where"] == "password"
    assert here.call("put", "/own/password", {"old": PASSWORD, "new": "steel-ladle-22"}).status_code == 200
    assert (there.get("/shift").status_code, here.get("/shift").status_code) == (401, 200)
    assert [row["here"] for row in here.get("/own/sessions").data["items"]] == [True]
    assert Api().post("/session", {"name": "maker", "password": "steel-ladle-22"}).status_code == 200
    reset()


def test_a_session_keeps_no_more_keys_than_it_can_need(place):
    api = Api()
    api.post("/session", {"name": "maker", "password": PASSWORD})
    for _ in range(20):
        Key().register(api)
    assert api.post("/session/key", {"public": Key().public}).data["code"] == "out_of_bounds"
    assert [api.post("/session/key", {"public": text}).data["where"] for text in ("", "AAAA", "B" + "A" * 86)] == ["public"] * 3
    assert place.apis["maker"].post("/session/key", {"public": Key().public}).status_code == 409, "a session from before"


def test_who_forgot_their_password_sets_a_new_one_with_a_lead_s_code(place):
    old = Api()
    old.post("/session", {"name": "maker", "password": PASSWORD})
    code = place.apis["lead"].post(f"/people/{person(place, 'maker')}/code").data["code"]
    body = {"name": "maker", "code": code, "password": "steel-ladle-22"}
    fresh = Api()
    assert fresh.post("/session/code", {**body, "name": "lead"}).status_code == 401
    assert fresh.post("/session/code", {**body, "password": "short"}).data["where"] == "password"
    assert fresh.post("/session/code", body).data["name"] == "Maker"
    assert (old.get("/shift").status_code, fresh.get("/shift").status_code) == (401, 200)
    assert Api().post("/session/code", body).status_code == 401, "it works once"
    code = place.apis["lead"].post(f"/people/{person(place, 'maker')}/code").data["code"]
    assert [Api().post("/session/code", {**body, "code": "guessed"}).status_code for _ in range(5)] == [401] * 5
    assert Api().post("/session/code", {**body, "code": code}).status_code == 401, "five guesses are all there are"
    OneTimeCode.objects.update(wrong=0, expires_at=timezone.now() - timedelta(seconds=1))
    assert Api().post("/session/code", {**body, "code": code}).status_code == 401
    assert {"issue_code", "use_code"} <= set(HistoryRow.objects.values_list("action", flat=True))


def test_a_lead_opens_no_other_house_by_a_code(place):
    Membership.objects.create(house=place.other, person=place.members["maker"].person, role="lead")
    refused = place.apis["lead"].post(f"/people/{person(place, 'maker')}/code")
    assert (refused.status_code, refused.data["code"]) == (422, "elsewhere")
    assert place.apis["lead"].post(f"/people/{place.stranger.person.pk}/code").status_code == 404


def test_a_revoked_device_ends_its_sessions_its_pins_and_its_keys(place, tablet):
    switched(tablet, person(place, "maker"))
    key = Key().register(tablet)
    assert place.apis["stranger"].post(f"/devices/{tablet.device.pk}/revoke").status_code == 404
    assert place.apis["lead"].post(f"/devices/{tablet.device.pk}/revoke").status_code == 204
    session = tablet.get("/session").data
    assert (session["signed_in"], session["device"]) == (False, None)
    assert switched(tablet, person(place, "maker")).status_code == 403
    assert SigningKey.objects.get(pk=key.id).revoked_at is not None
    rows = place.apis["lead"].get("/devices").data["items"]
    assert next(row for row in rows if row["name"] == "bench tablet")["revoked_at"]


def test_signing_out_ends_the_session_its_ticket_and_its_alerts(place, settings):
    from ulsek.devices.alerts import AlertAddress
    from ulsek.devices.tickets import ended, read_ticket

    api = Api()
    api.post("/session", {"name": "reader", "password": PASSWORD})
    ticket = read_ticket(api.get("/instruments").data["ticket"])
    assert (ticket.role, ticket.person, ended([ticket.sign_in])) == ("reader", person(place, "reader"), set())
    api.call("put", "/duty", {"endpoint": f"{settings.PUSH_SERVICE}/push/x", "keys": LISTENS, "on_duty": True})
    api.post("/session/end")
    assert ended([ticket.sign_in]) == {ticket.sign_in}
    assert AlertAddress.objects.get().sign_in.ended == "signed out"
    api.post("/session", {"name": "reader", "password": PASSWORD})
    assert api.get("/duty").data["endpoints"] == []


def test_a_device_on_duty_stays_so_when_another_person_takes_over(place, tablet, settings):
    address = f"{settings.PUSH_SERVICE}/push/bench"
    switched(tablet, person(place, "maker"))
    tablet.call("put", "/duty", {"endpoint": address, "keys": LISTENS, "on_duty": True})
    switched(tablet, person(place, "reader"))
    assert tablet.get("/duty").data["endpoints"] == [address]
    tablet.post("/session/end")
    switched(tablet, person(place, "maker"))
    assert tablet.get("/duty").data["endpoints"] == []


def test_a_person_of_two_houses_works_in_the_device_s_own(place):
    Membership.objects.create(house=place.other, person=place.members["maker"].person, role="reader")
    assert Person.objects.filter(memberships__house=place.other).count() == 2
    tablet = On(place, "bench tablet").signs_in("maker")
    assert (tablet.get("/session").data["house"], tablet.get("/session").data["role"]) == ("Tern House", "maker")
