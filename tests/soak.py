"""`bin/test soak`: twenty enrolled tablets work an hour of an evening in six minutes while every program is killed in turn; nothing is lost, done twice, or
credited to another.

Every tablet is a client of the real site on loopback, with a queue of its own as a device has: what was not acknowledged is sent again, with the same ids, until
it is. Its network is cut now and then, and two makers share it: what one did is brought by the other. Some tablets' clocks are off by a year, by hours, or by
minutes. Printed at the end: what was sent and found, what was lost, kept twice, credited wrongly, or does not add up, and after how many seconds each program
was back.
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

from tests.served.conftest import BACK_WITHIN_S, STATE, Caller, Served
from tests.tablet import Tablet

TABLETS = int(os.environ.get("ULSEK_SOAK_TABLETS", "20"))
SECONDS = float(os.environ.get("ULSEK_SOAK_SECONDS", "360"))
EVENTS_AN_HOUR = 60
"""What one tablet does in an hour [count]: a weighing, a note or a step a minute."""
PACE_S = SECONDS / EVENTS_AN_HOUR
KILLED = ("worker process", "site", "database", "hub", "alerts", "nginx", "worker")


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
    stock, cursor = [], ""
    while cursor is not None:
        told = lead.call("GET", f"/stock?limit=200&cursor={cursor}")[1]
        stock, cursor = stock + told["items"], told["next"]
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
            by = {item["id"]: (item["by"], item["proof"]) for item in told["events"]}
            found += [
                f"{tablet.device}: event {key} of {name} is credited to {by[key]}"
                for key, (where, name) in tablet.events.items()
                if where == run and key in by and by[key] != (name, "key")
            ]
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
        found += [f"{tablet.device}: was not taken: {answer}" for answer in tablet.wrong]
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
        specs = [
            item for item in lead.call("GET", "/specs?state=published&limit=200")[1]["items"] if item["family"] in ("syrup", "cordial")
        ]
        makable = [item for item in specs if lead.call("PUT", f"/specs/{item['id']}/settings", {"asks_questions": False})[0] == 200]
        material = lead.call("GET", "/stock")[1]["items"][0]["material"]
        before = standing(lead)[0]
        tablets = [Tablet(n, makable[n % len(makable)]["id"], material, PACE_S) for n in range(TABLETS)]
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
        counts = [sum(word in text for text in found) for word in ("is lost", "times", "is credited to")]
        print("{} lost, {} twice, {} credited to another, {} other faults".format(*counts, len(found) - sum(counts)))
        print("\n".join(found[:40]))
        return 1 if found or not looked["events"] else 0
    finally:
        served.stop()


if __name__ == "__main__":
    sys.exit(main())
