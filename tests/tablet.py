"""A tablet as the soak knows it: enrolled, shared by two makers who change by PIN, with a queue of signed actions that outlives its network and its hands."""

import random
import threading
import time
from collections import Counter
from datetime import UTC, datetime, timedelta
from uuid import uuid4

from tests.served.conftest import Caller
from tests.site.signing import Key, sealed

PINS = {"Jonas": "482915", "Noor": "730418"}
CLOCKS = (timedelta(0), timedelta(days=365), timedelta(days=-365), timedelta(hours=5), timedelta(minutes=-7), timedelta(seconds=1))
CUT_SHARE, CUT_S = 0.06, (2.0, 9.0)
"""How often an event finds the network cut, and for how long [s]."""
HANDS_SHARE = 0.15
"""How often another person takes over between two events; without the network by their word, until the PIN they typed is checked."""
AT_ONCE = 20


class Tablet(threading.Thread):
    """It makes batch after batch: weighs, ends steps, finishes; uses some of its lots; counts a delivery. `pace_s` lies between two events [s]."""

    failed: BaseException | None = None

    def __init__(self, number, spec, delivery, pace_s):
        super().__init__(daemon=True)
        self.number, self.spec, self.delivery, self.pace_s = number, spec, delivery, pace_s
        self.chance = random.Random(number)
        self.off = CLOCKS[number % len(CLOCKS)]
        self.device = f"tablet-{number}"
        self.sequence = self.lamport = 0
        self.events, self.runs, self.used, self.received = {}, [], Counter(), {}
        self.queue, self.claims = [], []
        self.tries, self.wrong = Counter(), []
        self.cut_until = 0.0
        self.over = threading.Event()
        self.caller = Caller("ilse")
        session = self.until_acknowledged("POST", "/devices", {"name": self.device})[1]
        self.site, self.house = session["device"], session["house_id"]
        self.people = {row["name"]: row["id"] for row in self.site["people"]}
        self.take_over("Jonas")

    def clock(self):
        return (datetime.now(UTC) + self.off).isoformat()

    @property
    def is_cut(self):
        return time.monotonic() < self.cut_until

    def until_acknowledged(self, method, path, body, **headers):
        """Sends until somebody answers: an answer that is lost is asked for again with the same id."""
        while True:
            time.sleep(max(0.0, self.cut_until - time.monotonic()))
            self.tries["sent"] += 1
            try:
                status, told = self.caller.call(method, path, body, **headers)
            except (OSError, ValueError) as trouble:
                self.tries[type(trouble).__name__] += 1
            else:
                if status not in (429, 502, 503, 504):
                    assert status < 500, (status, told)
                    return status, told
                self.tries[status] += 1
            time.sleep(self.chance.uniform(0.2, 1.0))

    def take_over(self, name):
        """Another person by their PIN; while the network is cut by their word, which is checked later."""
        self.name, self.key = name, Key()
        self.key.person, self.key.house = self.people[name], self.house
        if self.is_cut:
            said = {"person": self.key.person, "pin": PINS[name], "device": self.site["id"], "key": self.key.id}
            self.claims.append((sealed(self.site["sealing_key"], **said), self.key))
            self.tries["claims"] += 1
            return
        self.drain()
        status, told = self.until_acknowledged("POST", "/session/switch", {"person": self.key.person, "pin": PINS[name]})
        assert status == 200, told
        status, told = self.until_acknowledged("POST", "/session/key", {"public": self.key.public})
        assert status == 200, told
        self.key.certificate = told["certificate"]
        self.tries["switches"] += 1

    def drain(self):
        """Brings the site what waits, in order, whoever is at the tablet by now."""
        while self.claims:
            text, key = self.claims[0]
            status, told = self.until_acknowledged(
                "POST", "/session/claims", {"sealed": text, "public": key.public, "stays": key is self.key}
            )
            assert status == 200, told
            key.certificate = told["certificate"]
            self.claims.pop(0)
        while self.queue:
            batch = self.queue[:AT_ONCE]
            actions = [{**action, "certificate": key.certificate} for action, key in batch]
            status, told = self.until_acknowledged("POST", "/signed-actions", {"actions": actions, "now": self.clock()})
            assert status == 200, told
            self.wrong += [answer for answer in told["answers"] if answer["outcome"] != "done"]
            del self.queue[: len(batch)]

    def event(self, run, kind, **body):
        if self.chance.random() < HANDS_SHARE:
            self.take_over("Noor" if self.name == "Jonas" else "Jonas")
        self.sequence += 1
        self.lamport += 1
        made = {
            "id": str(uuid4()),
            "kind": kind,
            "at": self.clock(),
            "lamport": self.lamport,
            "device": self.device,
            "sequence": self.sequence,
            "body": body,
        }
        self.events[made["id"]] = (run, self.name)
        signed = self.key.signed(run, made)
        self.queue.append(({name: signed[name] for name in ("text", "signature")}, self.key))
        if self.chance.random() < CUT_SHARE and not self.is_cut:
            self.cut_until = time.monotonic() + self.chance.uniform(*CUT_S)
            self.tries["cuts"] += 1
        if not self.is_cut:
            self.drain()
        time.sleep(self.chance.uniform(0.4, 1.6) * self.pace_s)

    def make(self):
        run = str(uuid4())
        self.drain()
        status, told = self.until_acknowledged("POST", "/runs", {"id": run, "spec": self.spec, "factor": 0.5}, **{"Idempotency-Key": run})
        assert status == 201, told
        self.lamport = max(self.lamport, told["lamport"])
        self.runs.append(run)
        for step in told["state"]["steps"]:
            for line in step["lines"]:
                if self.over.is_set():
                    self.drain()
                    return
                self.event(run, "weighed", line=line["id"], mass_g=round((line["planned_g"] or {"value": 5.0})["value"], 1) or 0.1)
            self.event(run, "step_done", step=step["id"])
        volume = told["state"]["evaluation"]["final"]["volume_ml"]["value"]
        self.event(run, "finished", volume_ml=round(volume), signed=True, rest="in the spoon")
        self.drain()
        told = self.until_acknowledged("GET", f"/runs/{run}", None)[1]
        self.use(told["lots"][0])

    def use(self, code):
        for _ in range(2):
            status, told = self.until_acknowledged(
                "POST", f"/lots/{code}/events", {"kind": "used", "body": {"amount": 7}}, **{"Idempotency-Key": uuid4().hex}
            )
            if status == 200:
                self.used[code] += 7
            else:
                assert told["code"] == "gone", told
        name = f"{self.device} {uuid4().hex[:6]}"
        body = {"material": self.delivery, "product": name, "supplier": "Hagedorn", "price": "3", "pack_g": "1000"}
        status, told = self.until_acknowledged("POST", "/stock", body, **{"Idempotency-Key": uuid4().hex})
        assert status == 201, told
        self.received[name] = told["id"]

    def run(self):
        try:
            while not self.over.is_set():
                self.make()
            self.drain()
        except BaseException as trouble:
            self.failed = trouble
            raise
