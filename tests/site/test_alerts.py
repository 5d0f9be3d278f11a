"""Alerts of waits that are over: who gets them, once, and what a bad address or row cannot hold up."""

import http.client
import json
from datetime import UTC, datetime, timedelta

from tests.core.cordial import form
from tests.instruments import free_port, simulated
from tests.site.conftest import event
from tests.site.test_batches_api import send
from ulsek.batches.actions.alert_waits import alert_waits
from ulsek.batches.models import Run
from ulsek.devices.alerts import alert
from ulsek.devices.models import AlertAddress, Alerted


def test_a_long_wait_that_is_over_alerts_whoever_is_on_duty_once(place, settings):
    def ask(port, method, path):
        line = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
        line.request(method, path)
        answer = line.getresponse()
        return answer.status, json.loads(answer.read() or b"null")

    steeped = {"id": "s4", "verb": "steep", "minutes": 240}
    run = place.run(place.spec(body=form(s4=steeped)), ago=timedelta(hours=6))
    begun = datetime.now(UTC) - timedelta(hours=5)
    for line, mass, step in (("juice", 1000, "s1"), ("sugar", 519, "s2"), ("malic", 4, "s3")):
        send(place, run, event("weighed", line=line, mass_g=mass), event("step_done", step=step))
    send(place, run, event("step_begun", step="s4", at=begun.isoformat()))
    with simulated("push_service") as port:
        settings.PUSH_SERVICE = f"http://127.0.0.1:{port}"
        for name, path, on in (("maker", "/push/phone", True), ("lead", "/push/laptop", False), ("stranger", "/push/other", True)):
            answer = place.apis[name].call("put", "/duty", {"endpoint": settings.PUSH_SERVICE + path, "on_duty": on})
            assert answer.status_code == 200, answer.content
        elsewhere = place.apis["maker"].call("put", "/duty", {"endpoint": "http://127.0.0.1:1/push/x", "on_duty": True})
        assert elsewhere.data["where"] == "endpoint"
        assert alert_waits(begun + timedelta(hours=3)) == 0, "it is not over yet"
        assert alert_waits(datetime.now(UTC)) == 1
        assert alert_waits(datetime.now(UTC)) == 0, "once is enough"
        (message,) = ask(port, "GET", "/push/phone")[1]
        assert (message["urgency"], message["bytes"]) == ("high", 0)
        assert ask(port, "GET", "/push/laptop")[1] == ask(port, "GET", "/push/other")[1] == []
        ask(port, "DELETE", "/push/phone")
        assert alert(place.house, "again", datetime.now(UTC)) == 0
        assert not AlertAddress.objects.filter(person=place.members["maker"].person).exists(), "a subscription that has ended is let go"


def test_an_alert_is_tried_again_until_it_is_taken_and_one_bad_address_silences_nobody(place, settings):
    now = datetime.now(UTC)
    with simulated("push_service") as port:
        settings.PUSH_SERVICE = f"http://127.0.0.1:{port}"
        good = {
            name: AlertAddress.objects.create(
                house=place.house, person=place.members[name].person, endpoint=f"{settings.PUSH_SERVICE}/push/{name}"
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
            AlertAddress.objects.create(house=place.house, person=place.members["reader"].person, endpoint=bad)
        away = AlertAddress.objects.create(
            house=place.other, person=place.stranger.person, endpoint=f"http://127.0.0.1:{free_port()}/push/later"
        )
        assert alert(place.house, "wait", now) == 2, "the good ones are reached whatever stands beside them"
        assert alert(place.other, "other wait", now) == 0
        AlertAddress.objects.filter(pk=away.pk).update(endpoint=f"{settings.PUSH_SERVICE}/push/later")
        assert alert(place.other, "other wait", now + timedelta(seconds=5)) == 0, "not at once"
        assert alert(place.other, "other wait", now + timedelta(seconds=20)) == 1, "tried again, and taken"
        assert alert(place.other, "other wait", now + timedelta(seconds=90)) == 0, "once taken it is not sent again"
        assert alert(place.house, "wait", now + timedelta(seconds=90)) == 0, "nor to those who took it while others did not"
        row = Alerted.objects.get(what="wait")
        assert (sorted(row.taken_by), row.reached) == (sorted(item.pk for item in good.values()), 2)
        assert alert(place.house, "old", now) == 2
        Alerted.objects.filter(what="old").update(taken_by=[])
        assert alert(place.house, "old", now + timedelta(hours=5)) == 0, "nobody is woken for what is long past"
    for n, endpoint in enumerate(("http://127.0.0.1:1/push/x\r\n", settings.PUSH_SERVICE + "/push/\u202e", "http://[::/push/x")):
        answer = place.apis["reader"].call("put", "/duty", {"endpoint": endpoint, "on_duty": True})
        assert (answer.status_code, answer.data["where"]) == (422, "endpoint"), n


def test_one_batch_with_a_bad_row_silences_no_other_house(place, settings):
    steeped = {"id": "s4", "verb": "steep", "minutes": 240}
    run = place.run(place.spec(body=form(s4=steeped)))
    for projection in ({"waiting": {"since": "never", "until": 7}, "number": 1}, {"waiting": {}}, ["no mapping"], None):
        Run.objects.filter(pk=run).update(projection=projection if projection is not None else "text")
        assert alert_waits(datetime.now(UTC)) == 0
