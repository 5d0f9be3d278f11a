"""Who may comes before what is sent; who is locked out and where; what the settings refuse; what is said when the database is away."""

import json
import os
import socket
import subprocess
import sys
import threading
import time
from uuid import uuid4

import pytest
from django.db import connection
from django.test import Client, override_settings

from tests.site.conftest import PASSWORD
from tests.site.proxies import full
from ulsek.site.problems import PROBLEM
from ulsek.team.hashers import AT_ONCE, Argon2, a_turn
from ulsek.team.known_devices import TRIES, TRIES_KNOWN
from ulsek.team.models import Person


class Browser(Client):
    """A browser on a device of its own, which sends its page's token."""

    def __init__(self, address="127.0.0.1"):
        super().__init__(enforce_csrf_checks=True, REMOTE_ADDR=address)
        self.get("/api/session")

    def send(self, path, body, **headers):
        headers = {"X-CSRFToken": self.cookies["csrftoken"].value, **headers}
        return self.post(f"/api{path}", json.dumps(body), content_type="application/json", headers=headers)

    def signs_in(self, name="lead", password=PASSWORD):
        return self.send("/session", {"name": name, "password": password}).status_code


class Body:
    """A body that notes whether anybody read it."""

    def __init__(self, data):
        self.data, self.taken = data, 0

    def read(self, size=-1):
        part = self.data[self.taken :] if size < 0 else self.data[self.taken : self.taken + size]
        self.taken += len(part)
        return part

    def readline(self, size=-1):
        return self.read(size)


def upload(browser, path, **headers):
    """Sends a file as a form would, and returns the status and how much of it was read."""
    boundary = "one-of-mine"
    text = f'--{boundary}\r\nContent-Disposition: form-data; name="file"; filename="a.txt"\r\nContent-Type: text/plain\r\n\r\n'
    body = Body(text.encode() + b"x" * 1_000_000 + f"\r\n--{boundary}--\r\n".encode())
    answer = browser.request(
        REQUEST_METHOD="POST", PATH_INFO=f"/api{path}", CONTENT_TYPE=f"multipart/form-data; boundary={boundary}", CONTENT_LENGTH=str(len(body.data)), **{"wsgi.input": body}, **headers
    )  # fmt: skip
    return answer.status_code, body.taken


def test_a_file_is_not_read_before_it_is_known_who_sends_it_and_whether_they_may(place):
    path = f"/specs/{place.spec().pk}/attachments"
    nobody, reader, lead = Browser(), Browser(), Browser()
    assert (reader.signs_in("reader"), lead.signs_in("lead")) == (200, 200)
    token = {"HTTP_X_CSRFTOKEN": lead.cookies["csrftoken"].value}
    assert upload(nobody, path, HTTP_X_CSRFTOKEN=nobody.cookies["csrftoken"].value) == (401, 0)
    assert upload(reader, path, HTTP_X_CSRFTOKEN=reader.cookies["csrftoken"].value) == (403, 0)
    assert upload(lead, path) == (403, 0), "a page of another site has no token of ours"
    status, taken = upload(lead, path, **token)
    assert (status, taken > 1_000_000) == (201, True)
    assert lead.get(f"/api{path}").json()["items"][0]["name"] == "a.txt"
    assert [who.get("/api/may-attach").status_code for who in (nobody, reader, lead)] == [401, 403, 204], "what the proxy asks first"


def test_a_lock_out_elsewhere_keeps_nobody_out_of_a_device_that_knows_them(place):
    own = Browser("10.0.0.5")
    assert own.signs_in() == 200
    stranger = Browser("10.0.0.5")  # behind the same address, on a device of its own
    for _ in range(TRIES - 1):
        assert stranger.signs_in(password="guessed") == 401
    assert stranger.signs_in(password="guessed") == 429
    assert stranger.signs_in() == 429, "locked at this address, with the right password too"
    own.post("/api/session/end", headers={"X-CSRFToken": own.cookies["csrftoken"].value})
    assert own.signs_in() == 200, "the device that knows her is counted apart"
    assert own.signs_in("maker", "guessed") == 401
    assert [own.signs_in(password="guessed") for _ in range(TRIES_KNOWN)] == [401] * (TRIES_KNOWN - 1) + [429]
    assert Browser("10.0.0.6").signs_in() == 200


def test_a_forged_device_is_a_stranger(place):
    forged = Browser()
    forged.cookies["ulsek_device"] = "eyJuYW1lcyI6WyJsZWFkIl19:1abcde:forged"
    assert [forged.signs_in(password="guessed") for _ in range(TRIES)] == [401] * (TRIES - 1) + [429]


def test_behind_the_proxy_the_client_is_who_the_proxy_says_and_nobody_else_is_believed(place):
    def locked(**headers):
        browser = Browser()
        for _ in range(TRIES):
            browser.send("/session", {"name": "lead", "password": "guessed"}, **headers)
        return browser.send("/session", {"name": "lead", "password": PASSWORD}, **headers).status_code

    assert locked(**{"X-Real-IP": "10.0.0.7"}) == 429
    assert Browser().signs_in() == 429, "without a proxy the header is nothing: the address itself is locked"
    with override_settings(BEHIND_PROXY=True):
        assert Browser().send("/session", {"name": "lead", "password": PASSWORD}, **{"X-Real-IP": "10.0.0.8"}).status_code == 200


def test_passwords_are_kept_as_owasp_says_older_ones_are_kept_anew_and_few_are_worked_out_at_once(place):
    assert (Argon2.time_cost, Argon2.memory_cost, Argon2.parallelism) == (2, 19_456, 1)
    old = type("Old", (Argon2,), {"memory_cost": 102_400, "parallelism": 8})()
    Person.objects.filter(username="maker").update(password=old.encode(PASSWORD, "some-salt-of-ours"))
    assert Browser().signs_in("maker") == 200
    assert "m=19456,t=2,p=1" in Person.objects.get(username="maker").password
    at_once, most, lock = [], [0], threading.Lock()

    def works():
        with a_turn():
            with lock:
                at_once.append(1)
                most[0] = max(most[0], len(at_once))
            time.sleep(0.02)
            with lock:
                at_once.pop()

    threads = [threading.Thread(target=works) for _ in range(16)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert most[0] == AT_ONCE


def test_every_answer_has_an_id_by_which_the_log_is_searched(place, caplog):
    first, second = (place.apis["lead"].client.get("/api/session")["X-Request-ID"] for _ in range(2))
    assert first != second
    with override_settings(BEHIND_PROXY=True):
        assert (
            place.apis["lead"].client.get("/api/session", headers={"X-Request-ID": "0123456789abcdef"})["X-Request-ID"]
            == "0123456789abcdef"
        )
        forged = place.apis["lead"].client.get("/api/session", headers={"X-Request-ID": "a\tb"})["X-Request-ID"]
        assert forged != "a\tb"


def settings_with(**environment):
    """What the settings are under another environment, in a process of their own."""
    names = "SECURE_HSTS_SECONDS", "SESSION_COOKIE_SECURE", "CSRF_COOKIE_SECURE", "SECURE_PROXY_SSL_HEADER"
    code = (
        f"import django, json; django.setup(); from django.conf import settings as s; print(json.dumps([getattr(s, n) for n in {names!r}]))"
    )
    kept = {name: value for name, value in os.environ.items() if name not in ("ULSEK_SECRET_KEY", "ULSEK_ADDRESS")}
    done = subprocess.run([sys.executable, "-c", code], env={**kept, **environment}, capture_output=True, text=True, check=False)
    return json.loads(done.stdout) if done.returncode == 0 else done.stderr.splitlines()[-1]


def test_there_is_no_secret_but_a_real_one_and_where_tls_is_nothing_goes_without_it():
    assert "ULSEK_SECRET_KEY is not set" in settings_with()
    plain = settings_with(ULSEK_SECRET_KEY=uuid4().hex, ULSEK_ADDRESS="http://127.0.0.1:8713", ULSEK_BEHIND_PROXY="yes")
    assert plain == [0, False, False, None]
    tls = settings_with(ULSEK_SECRET_KEY=uuid4().hex, ULSEK_ADDRESS="https://192.168.1.20:8713", ULSEK_BEHIND_PROXY="yes")
    assert tls == [31_536_000, True, True, ["HTTP_X_FORWARDED_PROTO", "https"]]


@pytest.mark.django_db(transaction=True)
def test_with_the_database_away_the_answer_says_so_and_the_site_comes_back_by_itself(place):
    api, port = place.apis["maker"], connection.settings_dict["PORT"]
    api.client.raise_request_exception = False
    connection.close()
    connection.settings_dict["PORT"] = "1"
    try:
        for answer in (api.client.get("/api/health"), api.client.get("/api/stock"), api.client.get("/api/session")):
            assert (answer.status_code, answer["Content-Type"], answer["Retry-After"]) == (503, PROBLEM, "2")
            assert answer.json()["code"] == "away"
        page = api.client.get("/make")
        assert page.status_code == 200, "the page itself needs no database"
    finally:
        connection.close()
        connection.settings_dict["PORT"] = port
    assert api.client.get("/api/stock").status_code == 200


@pytest.mark.django_db(transaction=True)
def test_a_full_database_is_waited_for_a_moment_and_then_said(place):
    api = place.apis["maker"]
    api.client.raise_request_exception = False
    with full() as leave:
        begun = time.monotonic()
        answer = api.client.get("/api/stock")
        assert (answer.status_code, answer.json()["code"]) == (503, "away")
        assert 1.0 < time.monotonic() - begun < 6.0, "waited for, not for long"
        threading.Timer(0.5, leave).start()
        assert api.client.get("/api/stock").status_code == 200, "one goes, and the next is let in"


def test_no_test_opens_an_address_outside_this_machine():
    with socket.socket() as line, pytest.raises(AssertionError, match=r"only 127\.0\.0\.0/8 is allowed"):
        line.connect(("192.0.2.1", 9))
    with socket.create_server(("127.0.0.1", 0)) as server, socket.create_connection(server.getsockname()):
        pass
