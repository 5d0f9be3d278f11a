"""The hub as it is served: a real process, and a real scale on a cable. How long a reading takes to a screen is in tests/bench."""

import http.client
import json
import os
import subprocess
import sys
import time
from urllib.parse import urlencode

import pytest
from django.conf import settings
from django.db import connection

from tests.instruments import ROOT, free_port, hand, listens, simulated, until
from tests.site.conftest import PASSWORD, Api
from ulsek.devices.models import Instrument
from ulsek.devices.tickets import ticket


@pytest.fixture
def hub(transactional_db):
    """`manage.py instruments` on the tests' own database."""
    port = free_port()
    env = {
        **os.environ,
        "ULSEK_DB_NAME": connection.settings_dict["NAME"],
        "ULSEK_INSTRUMENTS": f"http://127.0.0.1:{port}",
        "ULSEK_SECRET_KEY": settings.SECRET_KEY,
    }
    process = subprocess.Popen([sys.executable, str(ROOT / "manage.py"), "instruments"], env=env)
    assert until(lambda: listens(port), 30), "the hub did not start"
    yield port
    process.terminate()
    assert process.wait(10) is not None


def stream(port, **asked):
    line = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
    line.request("GET", f"/stream?{urlencode(asked)}")
    return line.getresponse()


def readings(answer):
    """What is shown, as it comes."""
    for line in answer.fp:
        if line.startswith(b"data: "):
            yield json.loads(line[6:])


def test_a_pour_reaches_the_screen(place, hub):
    with simulated("scale") as port:
        scale = Instrument.objects.create(house=place.house, name="bench", kind="scale", address=f"socket://127.0.0.1:{port}")
        answer = stream(hub, ticket=ticket(place.members["maker"]))
        assert answer.status == 200
        assert answer.getheader("Access-Control-Allow-Origin") == settings.BASE_ADDRESS
        shown = readings(answer)
        assert next(item for item in shown if item["value"] is not None)["instrument"] == str(scale.pk)
        for n in range(1, 4):
            hand(port, f"put {100 * n}")
            assert next(item for item in shown if item["value"] == 100 * n)["state"] == "live"


def test_a_word_comes_through_and_a_wrong_ticket_does_not(place, hub):
    assert stream(hub, ticket="made-up").status == 401
    with simulated("scale") as port:
        scale = Instrument.objects.create(house=place.house, name="bench", kind="scale", address=f"socket://127.0.0.1:{port}")
        hand(port, "put 480")
        shown = readings(stream(hub, ticket=ticket(place.members["maker"])))
        next(item for item in shown if item["value"] == 480)

        def tell(member, word):
            line = http.client.HTTPConnection("127.0.0.1", hub, timeout=5)
            line.request("POST", f"/tell?{urlencode({'ticket': ticket(member), 'instrument': str(scale.pk), 'word': word})}")
            return line.getresponse().status

        assert tell(place.stranger, "tare") == 404
        assert tell(place.members["maker"], "explode") == 404
        assert tell(place.members["reader"], "tare") == 403
        assert tell(place.members["maker"], "tare") == 204
        next(item for item in shown if item["value"] == 0)
        Instrument.objects.all().delete()
        assert until(lambda: tell(place.members["maker"], "tare") == 404, 10), "an instrument that was taken away is let go"


def test_a_ticket_ends_with_its_session(place, hub):
    """A reader signs out: the stream that was open ends, and the ticket opens none."""
    with simulated("scale") as port:
        Instrument.objects.create(house=place.house, name="bench", kind="scale", address=f"socket://127.0.0.1:{port}")
        api = Api()
        api.post("/session", {"name": "maker", "password": PASSWORD})
        asked = api.get("/instruments").data["ticket"]
        shown = readings(stream(hub, ticket=asked))
        next(shown)
        api.post("/session/end")
        begun = time.monotonic()
        assert all(item["kind"] == "scale" for item in shown), "it goes on until it ends"
        assert time.monotonic() - begun < 15
        assert stream(hub, ticket=asked).status == 401
