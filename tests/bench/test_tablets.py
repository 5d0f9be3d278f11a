"""Ten tablets at once, each on a batch of its own, over real HTTP to the real site: how long one signed event takes to be kept and answered."""

import http.client
import json
import statistics
import threading
import time
import uuid
from datetime import UTC, datetime

import pytest

from tests.browser.conftest import PORT, Hand
from tests.site.signing import Key, carried

TABLETS, EVENTS = 10, 24
PACE_S = 1.0
"""A hand weighs something every second at most."""


class Tablet:
    """A signed-in device that weighs, reads and takes back."""

    def __init__(self, name):
        self.line = http.client.HTTPConnection("127.0.0.1", PORT, timeout=20)
        self.cookies = {}
        self.took, self.sent = [], []
        self.call("GET", "/api/session")
        session = self.call("POST", "/api/session", {"name": name, "password": Hand.PASSWORDS[name]})
        self.key = Key()
        self.key.certificate = self.call("POST", "/api/session/key", {"public": self.key.public})["certificate"]
        self.key.person, self.key.house = session["person"], session["house_id"]

    def call(self, method, path, body=None):
        headers = {"Content-Type": "application/json", "Cookie": "; ".join(f"{key}={value}" for key, value in self.cookies.items())}
        if "csrftoken" in self.cookies:
            headers["X-CSRFToken"] = self.cookies["csrftoken"]
        self.line.request(method, path, json.dumps(body) if body is not None else None, headers)
        answer = self.line.getresponse()
        for cookie in answer.headers.get_all("Set-Cookie") or ():
            key, _, value = cookie.split(";")[0].partition("=")
            self.cookies[key] = value
        data = json.loads(answer.read())
        # The site ends a line that was quiet for two seconds; a browser opens a new one, and so does this.
        self.line.close()
        assert answer.status < 300, (path, data)
        return data

    def begin(self, spec):
        self.run = str(uuid.uuid4())
        self.state = self.call("POST", "/api/runs", {"id": self.run, "spec": spec, "rehearsal": False})

    def works(self):
        line = next(item for step in self.state["state"]["steps"] for item in step["lines"])
        for n in range(EVENTS):
            event = {
                "id": str(uuid.uuid4()),
                "kind": "weighed",
                "at": datetime.now(UTC).isoformat(),
                "lamport": n + 1,
                "device": self.run[:8],
                "sequence": n,
                "body": {"line": line["id"], "mass_g": 900 + n},
            }
            signed = self.key.signed(self.run, event)
            began = time.perf_counter()
            sent = carried(signed, view={"kind": "run_event", "subject": self.run})
            assert self.call("POST", "/api/signed-actions", sent)["answers"][0]["outcome"] == "done"
            self.took.append(time.perf_counter() - began)
            self.sent.append(event["id"])
            # The bench asks what its crates still make after each weighing: not waited for by the hand, but work for the site.
            self.call("GET", f"/api/runs/{self.run}/supplies")
            time.sleep(max(0.0, PACE_S - (time.perf_counter() - began)))


@pytest.mark.benchmark(group="tablets")
def test_ten_tablets_at_once(site, benchmark, capsys):
    specs = Tablet("jonas").call("GET", "/api/specs?find=Bergamot%20cordial")["items"]
    spec = next(item["id"] for item in specs if item["name"] == "Bergamot cordial")

    def all_at_once():
        tablets = [Tablet(("jonas", "noor")[n % 2]) for n in range(TABLETS)]
        for tablet in tablets:
            tablet.begin(spec)
        threads = [threading.Thread(target=tablet.works) for tablet in tablets]
        for n, thread in enumerate(threads):
            time.sleep(PACE_S / TABLETS * (n > 0))
            thread.start()
        for thread in threads:
            thread.join()
        for tablet in tablets:
            stored = [event["id"] for event in tablet.call("GET", f"/api/runs/{tablet.run}")["events"]]
            assert [item for item in stored if item in tablet.sent] == tablet.sent, "each event once, in the order in which it was done"
            assert len(tablet.sent) == EVENTS
        return sorted(took for tablet in tablets for took in tablet.took)

    took = benchmark.pedantic(all_at_once, rounds=1)
    with capsys.disabled():
        print(
            f"\n{TABLETS} tablets, {len(took)} events: median {1e3 * statistics.median(took):.0f} ms, p95 {1e3 * took[int(0.95 * len(took))]:.0f} ms"
        )
