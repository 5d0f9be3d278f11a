"""`bin/test soak`: twenty tablets work an hour of an evening in six minutes while every program is killed in turn, and nothing is lost or done twice.

Every tablet is a client of the real site on loopback, with a queue of its own as a device has: what was not acknowledged is sent again, with the same ids, until
it is. Some tablets' clocks are off by a year, by hours, or by minutes. Printed at the end: what was sent and found, what was lost, kept twice, or does not add up,
and after how many seconds each program was back.
"""

from __future__ import annotations

import os
import random
import shutil
import sys
import threading
import time
from collections import Counter
from datetime import UTC, datetime, timedelta
from uuid import uuid4

from tests.served.conftest import BACK_WITHIN_S, STATE, Caller, Served

TABLETS = int(os.environ.get("ULSEK_SOAK_TABLETS", "20"))
SECONDS = float(os.environ.get("ULSEK_SOAK_SECONDS", "360"))
EVENTS_AN_HOUR = 60
"""What one tablet does in an hour [count]: a weighing, a note or a step a minute."""
KILLED = ("worker process", "site", "database", "hub", "alerts", "nginx", "worker")
CLOCKS = (timedelta(0), timedelta(days=365), timedelta(days=-365), timedelta(hours=5), timedelta(minutes=-7), timedelta(seconds=1))


class Tablet(threading.Thread):
    """A maker's tablet. It makes batch after batch: weighs, notes, ends steps, finishes; uses some of its lots; counts a delivery."""

    def __init__(self, number, spec, delivery):
        super().__init__(daemon=True)
        self.number, self.spec, self.delivery = number, spec, delivery
        self.chance = random.Random(number)
        self.off = CLOCKS[number % len(CLOCKS)]
        self.caller = Caller("jonas")
        self.device = f"tablet-{number}"
        self.sequence = self.lamport = 0
        self.events, self.runs, self.used, self.received = {}, [], Counter(), {}
        self.tries = Counter()
        self.over = threading.Event()

    def clock(self):
        return (datetime.now(UTC) + self.off).isoformat()

    def until_acknowledged(self, method, path, body, **headers):
        """Sends until somebody answers: an answer that is lost is asked for again with the same id."""
        while True:
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

    def event(self, run, kind, **body):
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
        self.events[made["id"]] = run
        status, told = self.until_acknowledged("POST", f"/runs/{run}/events", {"events": [made], "now": self.clock()})
        assert status == 200, (kind, told)
        self.lamport = max(self.lamport, told["lamport"])
        time.sleep(self.chance.uniform(0.4, 1.6) * SECONDS / EVENTS_AN_HOUR)
        return told

    def make(self):
        run = str(uuid4())
        status, told = self.until_acknowledged("POST", "/runs", {"id": run, "spec": self.spec, "factor": 0.5}, **{"Idempotency-Key": run})
        assert status == 201, told
        self.lamport = told["lamport"]
        self.runs.append(run)
        while (at := (told["state"]["current"] or {}).get("step")) and not self.over.is_set():
            steps = {item["id"]: item for item in told["state"]["steps"]}
            for line in steps[at]["lines"]:
                if line["actual_g"] is None and not self.over.is_set():
                    told = self.event(
                        run, "weighed", line=line["id"], mass_g=round((line["planned_g"] or {"value": 5.0})["value"], 1) or 0.1
                    )
            told = self.event(run, "step_done", step=at)
        if not (told["state"]["current"] or {}).get("step"):
            volume = told["state"]["evaluation"]["final"]["volume_ml"]["value"]
            told = self.event(run, "finished", volume_ml=round(volume), signed=True, rest="in the spoon")
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
        except BaseException as trouble:
            self.failed = trouble
            raise

    failed: BaseException | None = None


def killed_in_turn(served, over, back):
    """Kills one program after the other, and notes after how many seconds each was back."""
    chance = random.Random(7)
    while not over.is_set():
        for name in KILLED:
            if over.wait(SECONDS / 20):
                return
            took = served.kill_worker() if name == "worker process" else served.kill(name)
            back.setdefault(name, []).append(took)
            if chance.random() < 0.3 and not over.is_set():
                served.kill("site")


def standing(lead):
    """What the house's deliveries hold [g], by their supply, and how often each product stands there."""
    pages = lead.call("GET", "/stock")[1]["pages"]
    stock = [item for page in range(1, pages + 1) for item in lead.call("GET", f"/stock?page={page}")[1]["items"]]
    return {f"delivery:{item['id']}": float(item["remaining_g"]) for item in stock}, Counter(item["product"] for item in stock)


def faults(tablets, lead, before):
    """What was lost, is there twice, or does not add up; and how much was looked at."""
    found, looked, taken = [], Counter(), Counter()
    for tablet in tablets:
        if tablet.failed is not None:
            found.append(f"{tablet.device} stopped: {tablet.failed!r:.300}")
        kept = Counter()
        for run in tablet.runs:
            told = lead.call("GET", f"/runs/{run}")[1]
            kept.update(item["id"] for item in told["events"])
            looked["batches"] += 1
            for line in (line for step in told["state"]["steps"] for line in step["lines"] if told["lots"]):
                taken[told["supplies"].get(line["material"], "")] += line["actual_g"] or 0.0
            for code in told["lots"]:
                lot = lead.call("GET", f"/lots/{code}")[1]
                looked["lots"] += 1
                if lot["what"] == "" and abs(lot["amount"] - tablet.used[code] - lot["left"]) > 1e-6:
                    found.append(f"{code}: {lot['amount']} made, {tablet.used[code]} used, {lot['left']} left")
                if abs(datetime.fromisoformat(lot["made_at"]) - datetime.now(UTC)) > timedelta(seconds=SECONDS + 120):
                    found.append(f"{code} was made at {lot['made_at']}: the clock of {tablet.device} was {tablet.off} off")
        looked["events"] += len(tablet.events)
        found += [f"{tablet.device}: event {key} is lost" for key in tablet.events if kept[key] == 0]
        found += [f"{tablet.device}: event {key} is there {kept[key]} times" for key in tablet.events if kept[key] > 1]
        looked["deliveries"] += len(tablet.received)
    after, names = standing(lead)
    for supply, held in before.items():
        looked["masses"] += taken[supply] > 0
        # The books keep tenths of a gram, for each batch.
        if abs(held - taken[supply] - after.get(supply, 0.0)) > 0.05 * looked["batches"] + 0.05:
            found.append(f"{supply} held {held} g, {taken[supply]:.1f} g went into lots, and {after.get(supply)} g are left")
    for tablet in tablets:
        found += [f"delivery {name} is there {names[name]} times" for name in tablet.received if names[name] != 1]
    return found, looked


def main() -> int:
    """Runs it and prints what it found; 0 when all held."""
    shutil.rmtree(STATE, ignore_errors=True)
    served = Served(ULSEK_SIGN_INS_A_MINUTE="600")
    served.start()
    try:
        lead = Caller("ilse")
        specs = [item for item in lead.call("GET", "/specs?state=published")[1]["items"] if item["family"] in ("syrup", "cordial")]
        makable = [item for item in specs if lead.call("PUT", f"/specs/{item['id']}/settings", {"asks_questions": False})[0] == 200]
        material = lead.call("GET", "/stock")[1]["items"][0]["material"]
        before = standing(lead)[0]
        tablets = [Tablet(n, makable[n % len(makable)]["id"], material) for n in range(TABLETS)]
        over, back = threading.Event(), {}
        killer = threading.Thread(target=killed_in_turn, args=(served, over, back), daemon=True)
        begun = time.monotonic()
        for thread in (*tablets, killer):
            thread.start()
        time.sleep(SECONDS)
        over.set()
        killer.join()
        for tablet in tablets:
            tablet.over.set()
        for tablet in tablets:
            tablet.join(120)
        found, looked = faults(tablets, lead, before)
        found += [
            f"{name} was not back within {BACK_WITHIN_S} s: {took}"
            for name, times in back.items()
            for took in times
            if took is None or took > BACK_WITHIN_S
        ]
        tries = sum((tablet.tries for tablet in tablets), Counter())
        print(f"{TABLETS} tablets, {time.monotonic() - begun:.0f} s: {dict(looked)}")
        print(f"requests: {dict(tries)}")
        for name, times in back.items():
            print(f"  {name:<15} killed {len(times)} times, back after at most {max(took or 999 for took in times):.1f} s")
        lost, twice = sum("lost" in text for text in found), sum("times" in text for text in found)
        print(f"{lost} lost, {twice} twice, {len(found) - lost - twice} other faults")
        print("\n".join(found[:40]))
        return 1 if found or not looked["events"] else 0
    finally:
        served.stop()


if __name__ == "__main__":
    sys.exit(main())
