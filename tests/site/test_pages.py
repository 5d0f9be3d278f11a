"""What the site serves besides its API: the page, the service worker, the house's certificate, and the headers that each must carry."""

import io
from datetime import UTC, datetime, timedelta

import pytest
from django.core.management import call_command
from django.test import Client

from tests.core.cordial import form
from tests.instruments import listening_device, simulated
from tests.site.conftest import event
from tests.site.test_batches_api import send
from ulsek.devices.models import AlertAddress, Alerted
from ulsek.site.headers import static_headers


@pytest.mark.django_db
def test_every_address_answers_with_the_page_and_its_own_nonce():
    one, other = Client().get("/make/anything"), Client().get("/")
    policy = one["Content-Security-Policy"]
    nonce = policy.split("'nonce-")[1].split("'")[0]
    assert f'content="{nonce}"'.encode() in one.content
    assert nonce.encode() not in other.content, "a nonce is used once"
    assert one["Cache-Control"] == "no-store"
    assert "unsafe-eval" not in policy.replace("wasm-unsafe-eval", "")
    assert "wasm" not in policy, "only the core's own worker may compile WebAssembly"
    assert "connect-src 'self' http://127.0.0.1:" in policy, "the hub, and nothing else"
    assert Client().post("/make/anything").status_code == 405


@pytest.mark.django_db
def test_who_opens_an_address_in_a_tab_reads_words_and_a_program_its_shape(place):
    path = f"/api/stock/{place.delivery().pk}/label.pdf?size=<b>1x1"
    shape, words = (place.apis["maker"].client.get(path, headers={"Accept": accept}) for accept in ("*/*", "text/html,*/*;q=0.8"))
    assert (shape.status_code, words.status_code) == (422, 422)
    assert shape.json()["detail"].startswith("There is no label of size “<b>1x1”")
    text = words.content.decode()
    assert "There is no label of size “&lt;b&gt;1x1”: there are 100x70, 62x100, 60x40, or width" in text
    assert f'nonce="{words["Content-Security-Policy"].split("nonce-")[1].split(chr(39))[0]}"' in text
    assert Client().get("/api/stock", headers={"Accept": "text/html"}).status_code == 401


@pytest.mark.django_db
def test_the_service_worker_rules_every_address_and_is_never_old():
    answer = Client().get("/sw.js")
    assert answer.status_code == 200
    assert answer["Content-Type"].startswith("text/javascript")
    assert answer["Cache-Control"] == "no-cache"
    script = answer.content.decode()
    for part in ("/static/core.zip", "/static/pyodide/pyodide.asm.wasm", "notificationclick", "ulsek.queue"):
        assert part in script


def test_only_scripts_carry_a_worker_s_policy():
    for url, carries in (("/static/assets/core.worker-x.js", True), ("/static/pyodide/pyodide.mjs", True), ("/static/mark.svg", False)):
        headers = {}
        static_headers(headers, "", url)
        assert ("Content-Security-Policy" in headers) is carries
    assert "connect-src 'self'" in headers.get("Content-Security-Policy", "connect-src 'self'")


@pytest.mark.django_db
def test_the_certificate_is_given_to_tablets_and_its_key_never(settings, tmp_path):
    assert Client().get("/house-certificate").status_code == 404, "on loopback there is none"
    (tmp_path / "house.crt").write_bytes(b"-----BEGIN CERTIFICATE-----\nhouse")
    (tmp_path / "house.key").write_bytes(b"secret")
    settings.CERTIFICATE = str(tmp_path / "site.crt")
    answer = Client().get("/house-certificate")
    assert answer.content == b"-----BEGIN CERTIFICATE-----\nhouse"
    assert answer["Content-Type"] == "application/x-x509-ca-cert"
    for path in ("/house-certificate/house.key", "/house.key", "/static/house.key"):
        assert b"secret" not in Client().get(path).content


@pytest.mark.django_db(transaction=True)
def test_the_alerts_are_sent_by_their_own_command(place, settings):
    run = place.run(place.spec(body=form(s4={"id": "s4", "verb": "steep", "minutes": 90})), ago=timedelta(hours=3))
    for line, mass, step in (("juice", 1000, "s1"), ("sugar", 519, "s2"), ("malic", 4, "s3")):
        send(place, run, event("weighed", line=line, mass_g=mass), event("step_done", step=step))
    send(place, run, event("step_begun", step="s4", at=(datetime.now(UTC) - timedelta(hours=2)).isoformat()))
    with simulated("push_service") as port:
        settings.PUSH_SERVICE = f"http://127.0.0.1:{port}"
        phone = listening_device(port)
        AlertAddress.objects.create(house=place.house, person=place.members["maker"].person, endpoint=phone["endpoint"], **phone["keys"])
        call_command("alerts", once=True, stderr=io.StringIO())
    (alerted,) = Alerted.objects.all()
    assert (alerted.reached, alerted.house) == (1, place.house)
