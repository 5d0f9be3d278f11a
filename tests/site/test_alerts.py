"""Alerts of waits that are over: who gets them, once, and what a bad address or row cannot hold up."""

import http.client
import json
from datetime import UTC, datetime, timedelta

import pytest

from tests.core.cordial import form
from tests.instruments import free_port, heard, listening_device, simulated
from tests.site.conftest import LISTENS, event
from tests.site.test_batches_api import send
from ulsek.batches.actions.alert_waits import alert_waits
from ulsek.batches.models import Run
from ulsek.devices.alerts import alert
from ulsek.devices.models import AlertAddress, Alerted
from ulsek.devices.push import Alert, Subscription, public_key, push

DUE = Alert("Cordial", "Its wait is over.", "/make/1")


def test_a_long_wait_that_is_over_alerts_whoever_is_on_duty_once(place, settings):
    steeped = {"id": "s4", "verb": "steep", "minutes": 240}
    run = place.run(place.spec(body=form(s4=steeped)), ago=timedelta(hours=6))
    begun = datetime.now(UTC) - timedelta(hours=5)
    for line, mass, step in (("juice", 1000, "s1"), ("sugar", 519, "s2"), ("malic", 4, "s3")):
        send(place, run, event("weighed", line=line, mass_g=mass), event("step_done", step=step))
    send(place, run, event("step_begun", step="s4", at=begun.isoformat()))
    with simulated("push_service") as port:
        settings.PUSH_SERVICE = f"http://127.0.0.1:{port}"
        phone, laptop, other = (listening_device(port) for _ in range(3))
        for name, device, on in (("maker", phone, True), ("lead", laptop, False), ("stranger", other, True)):
            answer = place.apis[name].call("put", "/duty", {**device, "on_duty": on})
            assert answer.status_code == 200, answer.content
        assert answer.data["key"] == public_key()
        assert alert_waits(begun + timedelta(hours=3)) == 0, "it is not over yet"
        assert alert_waits(datetime.now(UTC)) == 1
        assert alert_waits(datetime.now(UTC)) == 0, "once is enough"
        (message,) = heard(port, phone)
        said = json.loads(message["said"])
        assert (message["urgency"], said["title"], said["path"]) == ("high", "Sea buckthorn cordial", f"/make/{run}")
        assert said["body"].startswith("Its wait is over."), "opened with the keys of that device alone"
        assert heard(port, laptop) == heard(port, other) == []
        line = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
        line.request("DELETE", phone["endpoint"].removeprefix(settings.PUSH_SERVICE))
        line.getresponse()
        assert alert(place.house, "again", datetime.now(UTC), DUE) == 0
        assert not AlertAddress.objects.filter(person=place.members["maker"].person).exists(), "a subscription that has ended is let go"


def test_an_alert_is_tried_again_until_it_is_taken_and_one_bad_address_silences_nobody(place, settings):
    now = datetime.now(UTC)
    with simulated("push_service") as port:
        settings.PUSH_SERVICE = f"http://127.0.0.1:{port}"
        devices = {name: listening_device(port) for name in ("lead", "maker", "later")}
        good = {
            name: AlertAddress.objects.create(
                house=place.house, person=place.members[name].person, endpoint=devices[name]["endpoint"], **devices[name]["keys"]
            )
            for name in ("lead", "maker")
        }
        for bad in (
            "http://127.0.0.1:x/push/a",
            "http://127.0.0.1:1/push/b\r\nX: y",
            "http://[::/push",
            "no address",
            f"http://127.0.0.1:{free_port()}/push/away",
        ):
            AlertAddress.objects.create(house=place.house, person=place.members["reader"].person, endpoint=bad, **LISTENS)
        AlertAddress.objects.create(
            house=place.house, person=place.members["reader"].person, endpoint=f"{settings.PUSH_SERVICE}/push/no-keys"
        )
        away = AlertAddress.objects.create(
            house=place.other,
            person=place.stranger.person,
            endpoint=f"http://127.0.0.1:{free_port()}/push/later",
            **devices["later"]["keys"],
        )
        assert alert(place.house, "wait", now, DUE) == 2, "the good ones are reached whatever stands beside them"
        assert alert(place.other, "other wait", now, DUE) == 0
        AlertAddress.objects.filter(pk=away.pk).update(endpoint=devices["later"]["endpoint"])
        assert alert(place.other, "other wait", now + timedelta(seconds=5), DUE) == 0, "not at once"
        assert alert(place.other, "other wait", now + timedelta(seconds=20), DUE) == 1, "tried again, and taken"
        assert alert(place.other, "other wait", now + timedelta(seconds=90), DUE) == 0, "once taken it is not sent again"
        assert alert(place.house, "wait", now + timedelta(seconds=90), DUE) == 0, "nor to those who took it while others did not"
        row = Alerted.objects.get(what="wait")
        assert (sorted(row.taken_by), row.reached) == (sorted(item.pk for item in good.values()), 2)
        assert alert(place.house, "old", now, DUE) == 2
        Alerted.objects.filter(what="old").update(taken_by=[])
        assert alert(place.house, "old", now + timedelta(hours=5), DUE) == 0, "nobody is woken for what is long past"


@pytest.mark.parametrize(
    ("endpoint", "numbers"),
    [
        ("http://127.0.0.1:1/push/x", ()),
        ("http://127.0.0.1:9717/push/x\r\n", ()),
        ("http://127.0.0.1:9717/push/\u202e", ()),
        ("http://127.0.0.1:9717/other", ()),
        ("http://[::/push/x", ()),
        ("http://push.example/x", ("93.184.216.34",)),
        ("https://push.example:8443/x", ("93.184.216.34",)),
        ("https://push.example/x", ("10.0.0.7",)),
        ("https://push.example/x", ("93.184.216.34", "192.168.1.20")),
        ("https://push.example/x", ("169.254.169.254",)),
        ("https://push.example/x", ("::1",)),
        ("https://push.example/x", ("fd00::7",)),
        ("https://push.example/x", ("::ffff:10.0.0.7",)),
        ("https://push.example/x", ()),
    ],
)
def test_nothing_is_sent_into_the_house_s_own_network(place, monkeypatch, endpoint, numbers):
    def numbers_of(_host, _port):
        if not numbers:
            raise OSError("no such host")
        return list(numbers)

    monkeypatch.setattr("ulsek.devices.push._numbers", numbers_of)
    answer = place.apis["reader"].call("put", "/duty", {"endpoint": endpoint, "keys": LISTENS, "on_duty": True})
    assert (answer.status_code, answer.data["where"]) == (422, "endpoint"), answer.content
    assert not AlertAddress.objects.exists()
    assert push(Subscription(endpoint, **LISTENS), "wait", DUE) == 0, "nor later, when its name means another machine"


def test_a_public_service_is_taken_and_reached_at_the_number_that_was_checked(place, monkeypatch):
    monkeypatch.setattr("ulsek.devices.push._numbers", lambda _host, _port: ["93.184.216.34"])
    asked = []

    def connected(address, _timeout):
        asked.append(address)
        raise OSError("not from here")

    monkeypatch.setattr("ulsek.devices.push.socket.create_connection", connected)
    device = {"endpoint": "https://push.example/send/abc?x=1", "keys": LISTENS}
    assert place.apis["maker"].call("put", "/duty", {**device, "on_duty": True}).status_code == 200
    assert alert(place.house, "wait", datetime.now(UTC), DUE) == 0
    assert asked == [("93.184.216.34", 443)]


@pytest.mark.parametrize("keys", [{"p256dh": "AAAA", "auth": LISTENS["auth"]}, {"p256dh": LISTENS["p256dh"], "auth": "AAAA"}])
def test_keys_that_are_none_are_refused(place, keys):
    answer = place.apis["maker"].call("put", "/duty", {"endpoint": "http://127.0.0.1:9717/push/x", "keys": keys, "on_duty": True})
    assert (answer.status_code, answer.data["where"]) == (422, "keys")


def test_the_stand_in_refuses_who_does_not_prove_who_sends_and_what_is_for_another(settings, monkeypatch):
    with simulated("push_service") as port:
        settings.PUSH_SERVICE = f"http://127.0.0.1:{port}"
        one, other = listening_device(port), listening_device(port)
        assert push(Subscription(one["endpoint"], **one["keys"]), "t", DUE) == 201
        assert push(Subscription(one["endpoint"], **other["keys"]), "t", DUE) == 400, "encrypted for another device"
        assert push(Subscription(f"{settings.PUSH_SERVICE}/push/none", **one["keys"]), "t", DUE) == 404
        monkeypatch.setattr("ulsek.devices.push._TOKEN_S", -60)
        assert push(Subscription(one["endpoint"], **one["keys"]), "t", DUE) == 403, "a token of before"


def test_the_key_follows_from_the_site_s_secret(settings):
    first = public_key()
    assert public_key() == first
    settings.SECRET_KEY = "another secret of more than thirty-two letters"
    assert public_key() != first


def test_one_batch_with_a_bad_row_silences_no_other_house(place, settings):
    steeped = {"id": "s4", "verb": "steep", "minutes": 240}
    run = place.run(place.spec(body=form(s4=steeped)))
    for projection in ({"waiting": {"since": "never", "until": 7}, "number": 1}, {"waiting": {}}, ["no mapping"], None):
        Run.objects.filter(pk=run).update(projection=projection if projection is not None else "text")
        assert alert_waits(datetime.now(UTC)) == 0
