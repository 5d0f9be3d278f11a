"""Instruments: lines that are read or passed over, drivers on real simulators, and the hub that fans out to every screen."""

import asyncio
import contextlib
import itertools
import socket
import statistics
import threading
import time

import pytest
from django.core import signing
from django.db import InterfaceError, OperationalError

from tests.instruments import free_port, hand, simulated, until
from ulsek.devices.driver import AGAIN_S, Driver
from ulsek.devices.hub import Hub
from ulsek.devices.lines import Shown, read_line
from ulsek.devices.models import Instrument
from ulsek.devices.tickets import SALT, read_ticket, ticket
from ulsek.team.models import House


@pytest.mark.parametrize(
    ("kind", "line", "found"),
    [
        ("scale", b"mass_g 612.4 steady\n", Shown("mass_g", 612.4, True)),
        ("scale", b"mass_g -3.0 moving\n", Shown("mass_g", -3.0, False)),
        ("scale", b"mass_g over\n", Shown("mass_g", None, False)),
        ("ph_meter", b"ph 3.21 steady checked\n", Shown("ph", 3.21, True, checked=True)),
        ("ph_meter", b"ph 40 steady\n", None),
        ("scale", b"brix_reading 12 steady\n", None),
        ("scale", b"mass_g nan steady\n", None),
        ("scale", b"mass_g 1e999 steady\n", None),
        ("scale", b"\xff\xfe\x00\n", None),
        ("scale", b"\n", None),
        ("scale", b"mass_g 12 dancing\n", None),
    ],
)
def test_a_line_is_read_or_passed_over(kind, line, found):
    assert read_line(kind, line) == found


@contextlib.contextmanager
def driven(name, port, kind=None):
    told = []
    driver = Driver("it", kind or name, f"socket://127.0.0.1:{port}", told.append)
    driver.start()
    try:
        yield told, driver
    finally:
        driver.stop()
        driver.join(3)


def test_a_pour_is_followed_and_the_scale_tared():
    with simulated("scale") as port, driven("scale", port) as (told, driver):
        assert until(lambda: told and told[-1]["value"] == 0.0)
        assert hand(port, "pour 250 0.4") == "done"
        assert until(lambda: any(0 < item["value"] < 250 and not item["steady"] for item in told if item["value"])), "seen on its way"
        assert until(lambda: told[-1]["value"] == 250.0 and told[-1]["steady"])
        driver.send("tare")
        assert until(lambda: told[-1]["value"] == 0.0)
        assert driver.ignored == 0, "an answer is no garbage"


def test_garbage_is_counted_and_a_lost_instrument_is_said_and_found_again():
    with simulated("scale") as port, driven("scale", port) as (told, driver):
        assert until(lambda: told and told[-1]["value"] is not None)
        hand(port, "garbage 5")
        assert until(lambda: driver.ignored == 5)
        hand(port, "drop 1.2")
        lost = time.monotonic()
        assert until(lambda: told[-1]["state"] == "lost")
        driver.send("tare")
        hand(port, "pour 80")
        assert time.monotonic() - lost < 1.0, "said at once"
        assert until(lambda: told[-1]["state"] == "live" and told[-1]["value"] == 80), (
            "found again, and a late tare takes nothing away",
            told[-3:],
        )


@pytest.mark.parametrize(
    ("name", "words", "shows", "value"),
    [
        ("refractometer", "set 23.4", "brix_reading", 23.4),
        ("thermometer", "set 71.5", "temperature_c", 71.5),
        ("ph_meter", "set 3.21", "ph", 3.21),
    ],
)
def test_every_probe_is_read(name, words, shows, value):
    with simulated(name) as port, driven(name, port) as (told, _):
        hand(port, words)
        assert until(lambda: told and told[-1]["value"] == value)
        assert told[-1]["property"] == shows


def test_a_meter_is_checked_only_after_its_buffers():
    with simulated("ph_meter") as port, driven("ph_meter", port) as (told, _):
        assert until(lambda: told and told[-1]["value"] is not None)
        assert not told[-1]["checked"]
        hand(port, "buffer")
        assert until(lambda: told[-1]["checked"])


def test_a_titrator_stops_where_the_definition_says():
    with simulated("titrator") as port, driven("titrator", port) as (told, driver):
        hand(port, "sample 2.4015 1")
        assert until(lambda: told and told[-1]["state"] == "live"), "what is said to an instrument that is not there is let go"
        driver.send("run")
        # 2.4015 g/100 mL as citric, 1 mL: 0.024015 / 64.041 mol of protons, 3.75 mL of 0.1 mol/L.
        assert until(lambda: told and told[-1]["steady"] and told[-1]["value"] == pytest.approx(3.75, abs=0.01))


async def listened(hub, house, count, within=8.0):
    found = []

    async def listen():
        async for reading in hub.listen(house):
            if reading is not None:
                found.append((time.monotonic(), reading))
            if len(found) >= count:
                return

    with contextlib.suppress(TimeoutError):
        await asyncio.wait_for(listen(), within)
    return found


@pytest.mark.django_db(transaction=True)
def test_two_tablets_hear_one_scale_and_another_house_hears_nothing(place):
    with simulated("scale") as port:
        scale = Instrument.objects.create(house=place.house, name="bench", kind="scale", address=f"socket://127.0.0.1:{port}")

        async def story():
            hub = Hub()
            task = asyncio.create_task(hub.keep_up())
            await asyncio.sleep(1.0)
            still = await listened(hub, place.house.pk, 2, 1.0)
            hand(port, "noise 50")
            one, two, stranger = await asyncio.gather(
                listened(hub, place.house.pk, 20), listened(hub, place.house.pk, 20), listened(hub, place.other.pk, 1, 1.0)
            )
            assert not hub.say(place.other.pk, str(scale.pk), "tare"), "another house cannot tare it"
            assert not hub.say(place.house.pk, str(scale.pk), "explode")
            assert hub.say(place.house.pk, str(scale.pk), "tare")
            task.cancel()
            for _, driver in hub._drivers.values():
                driver.stop()
            return still, one, two, stranger

        still, one, two, stranger = asyncio.run(story())
    assert len(still) == 1, "what a scale shows already is not said again"
    assert [reading["value"] for _, reading in one[-10:]] == [reading["value"] for _, reading in two[-10:]]
    assert stranger == []
    gaps = [later - before for (before, _), (later, _) in itertools.pairwise(one[5:])]
    assert statistics.median(gaps) < 0.15, "ten lines a second come through as they are said"


@pytest.mark.django_db(transaction=True)
def test_the_hub_outlives_its_database(place, monkeypatch):
    """MariaDB may be killed and come back: the list of instruments is asked for again."""
    troubles = [OperationalError("gone away"), InterfaceError("closed")]
    answered = threading.Event()

    def rows():
        if troubles:
            raise troubles.pop()
        answered.set()
        return []

    monkeypatch.setattr("ulsek.devices.hub._rows", rows)
    monkeypatch.setattr("ulsek.devices.hub.AGAIN_S", 0.01)

    async def story():
        task = asyncio.create_task(Hub().keep_up())
        while not answered.is_set():
            assert not task.done(), task.exception()
            await asyncio.sleep(0.01)
        task.cancel()

    asyncio.run(asyncio.wait_for(story(), 60))


def test_a_ticket_is_of_one_house_and_cannot_be_made_up(place):
    found = read_ticket(ticket(place.members["reader"]))
    assert (found.house, found.person, found.may_speak) == (place.house.pk, place.members["reader"].person.pk, False)
    with pytest.raises(signing.BadSignature):
        read_ticket(signing.dumps(7, salt=SALT))


def test_instruments_are_connected_by_the_lead_and_bad_addresses_refused(place, settings):
    settings.INSTRUMENT_ADDRESSES = ["socket://127.0.0.1:97*", "COM3"]
    made = place.apis["lead"].post("/instruments", {"name": "bench scale", "kind": "scale", "address": "socket://127.0.0.1:9711"})
    assert made.status_code == 201
    for body, where in (
        ({"name": " ", "kind": "scale", "address": "/dev/ttyUSB0"}, "name"),
        ({"name": "x", "kind": "lamp", "address": "/dev/ttyUSB0"}, "kind"),
        ({"name": "x", "kind": "scale", "address": "/etc/passwd"}, "address"),
        ({"name": "bench scale", "kind": "scale", "address": "COM3"}, "name"),
        ({"name": "x", "kind": "scale", "address": "COM4"}, "address"),
        ({"name": "x", "kind": "scale", "address": "socket://127.0.0.1:3306"}, "address"),
    ):
        refused = place.apis["lead"].post("/instruments", body)
        assert (refused.status_code, refused.data["where"]) == (422, where)
    assert [item["name"] for item in place.apis["reader"].get("/instruments").data["items"]] == ["bench scale"]
    assert refused.data["detail"] == (
        "“socket://127.0.0.1:3306” is not allowed here: whoever runs Ulsek allows socket://127.0.0.1:97*, COM3. "
        "Ask them to add it to ULSEK_INSTRUMENT_ADDRESSES."
    )
    assert place.apis["stranger"].get("/instruments").data["items"] == []
    moved = place.apis["maker"].post(f"/instruments/{made.data['id']}/hand", {"words": "pour 100"})
    assert moved.data["detail"] == "Only a simulated instrument can be moved from here.", "outside the demo no hand moves anything"


def test_a_printer_that_is_away_or_out_of_paper_is_said(place):
    from tests.site.test_lots_api import bottled

    lot = bottled(place)
    away = Instrument.objects.create(house=place.house, name="printer", kind="label_printer", address=f"socket://127.0.0.1:{free_port()}")
    refused = place.apis["maker"].post(f"/runs/{lot.run_id}/print", {"printer": str(away.pk)})
    assert refused.data["detail"] == "printer cannot be reached. Switch it on and print again, or save the PDF."
    with simulated("label_printer") as port:
        Instrument.objects.filter(pk=away.pk).update(address=f"socket://127.0.0.1:{port}")
        printed = place.apis["maker"].post(f"/runs/{lot.run_id}/print", {"printer": str(away.pk), "size": "62x100"})
        assert printed.data == {"printed": 3}, "1000 mL in bottles of 500 mL, filled to 475 mL"
        back = hand(port, "printed")
        assert back.count(f"label {lot.code} 62x100") == 3
        assert f"strong Use by {lot.use_by:%a %d %b %Y}" in back
        assert "Allergens: none listed. Answer for the drink; ask the lead." in back
        hand(port, "paper out")
        refused = place.apis["maker"].post(f"/runs/{lot.run_id}/print", {"printer": str(away.pk)})
        assert (
            refused.data["detail"] == "printer stopped after 0 of 3 labels: its paper is out. See to it and print again, or save the PDF."
        )
        assert place.apis["maker"].post(f"/runs/{lot.run_id}/print", {"printer": str(away.pk), "size": "1x1"}).data["where"] == "size"
        assert place.apis["reader"].post(f"/runs/{lot.run_id}/print", {"printer": str(away.pk)}).status_code == 403


def test_in_the_demo_house_a_hand_moves_the_simulated_ones_and_nothing_else(place):
    House.objects.filter(pk=place.house.pk).update(is_demo=True)
    with simulated("refractometer") as port:
        made = Instrument.objects.create(house=place.house, name="glass", kind="refractometer", address=f"socket://127.0.0.1:{port}")
        real = Instrument.objects.create(house=place.house, name="real", kind="scale", address="/dev/ttyUSB0")
        api = place.apis["maker"]
        assert api.post(f"/instruments/{made.pk}/hand", {"words": "set 41.5"}).data == {"answer": "done"}
        with driven("refractometer", port) as (told, _):
            assert until(lambda: told and told[-1]["value"] == 41.5)
        assert api.post(f"/instruments/{made.pk}/hand", {"words": "dance"}).data == {"answer": "no dance"}
        for words in ("", "x" * 61, "set\n1", "señal"):
            assert api.post(f"/instruments/{made.pk}/hand", {"words": words}).data["where"] == "words"
        assert api.post(f"/instruments/{real.pk}/hand", {"words": "put 1"}).data["code"] == "not_simulated"
        assert place.apis["reader"].post(f"/instruments/{made.pk}/hand", {"words": "set 1"}).status_code == 403
        assert place.apis["stranger"].post(f"/instruments/{made.pk}/hand", {"words": "set 1"}).status_code == 404
    assert (
        api.post(f"/instruments/{made.pk}/hand", {"words": "set 1"}).data["detail"]
        == "glass does not answer. Is it running? bin/start starts it."
    )


@contextlib.contextmanager
def says(talk):
    """Something on a port that is no instrument: `talk` is called with each connection."""
    server = socket.create_server(("127.0.0.1", 0))

    def serve():
        with contextlib.suppress(OSError):
            while True:
                line, _ = server.accept()
                threading.Thread(target=_quietly, args=(talk, line), daemon=True).start()

    threading.Thread(target=serve, daemon=True).start()
    try:
        yield server.getsockname()[1]
    finally:
        server.close()


def _quietly(talk, line):
    with contextlib.suppress(OSError), line:
        talk(line)


def test_a_stream_without_an_end_of_line_costs_next_to_nothing():
    def floods(line):
        while True:
            line.sendall(b"x" * 65536)

    with says(floods) as port, driven("scale", port) as (told, driver):
        begun = time.monotonic()
        assert until(lambda: driver.ignored >= 3)
        assert time.monotonic() - begun > 1.5 * AGAIN_S, "one look at it in a second, of two hundred letters"
        assert told[-1]["state"] == "lost"
        assert not any(item["value"] for item in told)


def test_a_printer_s_error_does_not_echo_what_stands_on_its_port(place):
    from tests.site.test_lots_api import bottled

    lot = bottled(place)

    def talks(line):
        # It speaks once it was spoken to: what arrives before the port is open is thrown away.
        line.recv(100)
        line.sendall(b"SECRET of another service\n")
        while line.recv(100):
            pass

    with says(talks) as port:
        printer = Instrument.objects.create(house=place.house, name="printer", kind="label_printer", address=f"socket://127.0.0.1:{port}")
        refused = place.apis["maker"].post(f"/runs/{lot.run_id}/print", {"printer": str(printer.pk)}).data["detail"]
    assert refused == "printer stopped after 0 of 3 labels: it did not take the line. See to it and print again, or save the PDF."


@pytest.mark.django_db(transaction=True)
def test_an_instrument_of_an_unknown_kind_or_with_a_mad_address_keeps_no_other_from_being_read(place, settings):
    settings.INSTRUMENT_ADDRESSES = ["*"]
    with simulated("scale") as port:
        for name, kind, address in (
            ("old", "barometer", "socket://127.0.0.1:1"),
            ("mad", "scale", "alt://?class=no"),
            ("odd", "scale", "\x00"),
        ):
            Instrument.objects.create(house=place.other, name=name, kind=kind, address=address)
        Instrument.objects.create(house=place.house, name="bench", kind="scale", address=f"socket://127.0.0.1:{port}")
        hand(port, "noise 50")

        async def story():
            hub = Hub()
            task = asyncio.create_task(hub.keep_up())
            await asyncio.sleep(1.0)
            heard = await listened(hub, place.house.pk, 5)
            task.cancel()
            for _, driver in hub._drivers.values():
                driver.stop()
            return heard

        heard = asyncio.run(story())
    assert len(heard) == 5
    assert {reading["state"] for _, reading in heard} == {"live"}


@pytest.mark.django_db(transaction=True)
def test_an_address_that_is_not_allowed_any_more_is_not_opened(place, settings):
    from tests.site.test_lots_api import bottled

    opened = threading.Event()
    with says(lambda line: opened.set() or line.recv(1)) as port:
        settings.INSTRUMENT_ADDRESSES = ["COM3"]
        House.objects.filter(pk=place.house.pk).update(is_demo=True)
        address = f"socket://127.0.0.1:{port}"
        printer = Instrument.objects.create(house=place.house, name="printer", kind="label_printer", address=address)
        scale = Instrument.objects.create(house=place.house, name="scale", kind="scale", address=address)
        api = place.apis["maker"]
        assert api.post(f"/runs/{bottled(place).run_id}/print", {"printer": str(printer.pk)}).data["code"] == "not_allowed"
        assert api.post(f"/instruments/{scale.pk}/hand", {"words": "put 1"}).data["code"] == "not_simulated"

        async def story():
            hub = Hub()
            task = asyncio.create_task(hub.keep_up())
            await asyncio.sleep(1.0)
            task.cancel()
            return hub._drivers

        assert asyncio.run(story()) == {}
        assert not opened.is_set()
