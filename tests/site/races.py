"""Twelve actions that write a house, a run, a delivery or a lot, to be run against each other at the same moment; and what must hold after any two."""

import functools
import threading
from collections import Counter
from dataclasses import dataclass, field
from decimal import Decimal
from uuid import uuid4

from django.db import close_old_connections, connections
from django.utils import timezone

from tests.core.cordial import FORM, JUICE
from tests.site.conftest import event
from ulsek.batches.actions.change_lot import change_lot
from ulsek.batches.actions.recall import recall
from ulsek.batches.actions.record_events import record_events
from ulsek.batches.actions.start_run import BatchOrder, start_run
from ulsek.batches.models import Lot, Run, RunEvent
from ulsek.batches.tracing import open_runs_with, reached
from ulsek.core.base.refusals import Refusal
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.save_draft import save_draft
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.models import Draft, Spec, Version
from ulsek.stores.actions.change_stock import change_stock
from ulsek.stores.actions.read_delivery import read_delivery
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.stores.models import StockItem
from ulsek.team.access import Member
from ulsek.team.actions.set_altitude import set_altitude
from ulsek.team.models import HistoryRow, House, Membership, Person

BATCH_G, BATCH_ML = 500, 600
USED_ML, SPLIT_ML, POURED_ML = 1, 2, 3
COUNTED_G = 50_000
WEIGHED = {"juice": BATCH_G, "sugar": 259.5, "malic": 4.0}
PACK_G = 100_000


def _member(house, role):
    person = Person.objects.create(username=f"{role}-{uuid4().hex[:8]}", display_name=role.title())
    Membership.objects.create(house=house, person=person, role=role)
    return Member(person, house, role)


@dataclass
class Bench:
    """A house with one published cordial; each `set_out` puts a delivery, two lots of it and two open batches on the bench."""

    house: House = field(default_factory=lambda: House.objects.create(name=f"Tern {uuid4().hex[:8]}"))

    def __post_init__(self):
        self.lead, self.maker = _member(self.house, "lead"), _member(self.house, "maker")
        self.spec = start_spec(self.lead, NewSpec("Sea buckthorn cordial", "cordial"), FORM)
        Spec.objects.filter(pk=self.spec.pk).update(asks_questions=False)
        publish_spec(self.lead, self.spec.pk, 1, "first")
        self.stock, self.revision, self.versions = None, 0, 0

    def delivery(self):
        return receive_delivery(
            self.maker, JUICE, Delivery(product="Pressed", supplier="Hagedorn", price=Decimal(15), pack_g=Decimal(PACK_G))
        )

    def to_the_last_step(self):
        """A batch with everything done but its finish."""
        run = start_run(self.maker, uuid4(), BatchOrder(self.spec.pk, mass_g=BATCH_G)).pk
        done = [event("weighed", line=line, mass_g=mass) for line, mass in WEIGHED.items()]
        done += [event("step_done", step=f"s{n}") for n in range(1, 6)]
        record_events(self.maker, run, done)
        return run

    def finish(self, run):
        record_events(self.maker, run, [event("finished", volume_ml=BATCH_ML, rest="in the spoon", signed=True)])

    def lot(self):
        run = self.to_the_last_step()
        self.finish(run)
        return Lot.objects.get(run=run).code

    def set_out(self):
        """Puts out what is missing, and notes how everything stands before the next try."""
        # The newest delivery is the one that batches take from.
        StockItem.objects.filter(house=self.house, gone_at=None).exclude(pk=self.stock and self.stock.pk).update(gone_at=timezone.now())
        if self.stock is None or StockItem.objects.get(pk=self.stock.pk).recalled:
            self.stock = self.delivery()
            self.first_lot, self.second_lot, self.ready = self.lot(), self.lot(), None
            self.open = start_run(self.maker, uuid4(), BatchOrder(self.spec.pk, mass_g=BATCH_G)).pk
        if self.ready is None or Run.objects.get(pk=self.ready).finished_at:
            self.ready = self.to_the_last_step()
        draft, versions = Draft.objects.get(spec=self.spec), Version.objects.filter(spec=self.spec).count()
        if draft.revision != self.revision or versions != self.versions:
            steps = [{**step, "minutes": 45 + versions} if step["id"] == "s4" else step for step in FORM["steps"]]
            self.revision, self.versions = (
                save_draft(self.lead, self.spec.pk, {**draft.body, "steps": steps}, draft.revision).revision,
                versions,
            )
        self.before = self.books()

    def books(self):
        """What is counted before and after a try: what the delivery and the lots hold, and how often each thing was done."""
        lots = Lot.objects.filter(run__took__stock=self.stock).distinct()
        found = Counter(HistoryRow.objects.filter(house=self.house).values_list("action", flat=True))
        found["delivery"] = StockItem.objects.get(pk=self.stock.pk).remaining_g
        found["first lot"], found["second lot"] = (lots.get(code=code).left for code in (self.first_lot, self.second_lot))
        found["all lots"] = sum(lot.left for lot in lots)
        found["batches"] = Run.objects.filter(house=self.house).count()
        found["weighings"] = RunEvent.objects.filter(run=self.open, data__kind="weighed").count()
        return found

    # The twelve. Each raises Refusal where the other of a pair has made it impossible.

    def start(self):
        return start_run(self.maker, uuid4(), BatchOrder(self.spec.pk, mass_g=BATCH_G))

    def weigh(self):
        record_events(self.maker, self.open, [event("weighed", line="juice", mass_g=BATCH_G)])

    def bottle(self):
        self.finish(self.ready)

    def count(self):
        change_stock(self.maker, self.stock.pk, "counted", {"left_g": COUNTED_G})

    def read(self):
        read_delivery(self.maker, self.stock.pk, {"brix_reading": 8.2, "acid_g_100ml": 2.4})

    def receive(self):
        self.delivery()

    def use(self):
        change_lot(self.maker, self.first_lot, "used", {"amount": USED_ML})

    def split(self):
        change_lot(self.maker, self.first_lot, "split", {"amount": SPLIT_ML})

    def top_up(self):
        change_lot(self.maker, self.second_lot, "topped_up", {"amount": POURED_ML, "from": self.first_lot})

    def recall(self):
        recall(self.lead, "glass in the crate", stock=self.stock)

    def climb(self):
        set_altitude(self.lead, 500)

    def publish(self):
        publish_spec(self.lead, self.spec.pk, self.revision, "colder")


ACTIONS = ("start", "weigh", "bottle", "count", "read", "receive", "use", "split", "top_up", "recall", "climb", "publish")

HISTORY = {
    "start": "start_run",
    "bottle": "finish_run",
    "count": "stock_counted",
    "read": "read_delivery",
    "receive": "receive_delivery",
    "use": "lot_used",
    "split": "lot_split",
    "top_up": "lot_topped_up",
    "recall": "recall",
    "climb": "set_altitude",
    "publish": "publish_spec",
}
"""The row of history that each of them writes; a weighing writes none."""


def at_once(*calls):
    """Calls all at the same moment, each in a thread of its own, and returns what each raised: None, or the exception."""
    gate, raised = threading.Barrier(len(calls)), [None] * len(calls)

    def one(n, call):
        close_old_connections()
        gate.wait()
        try:
            call()
        except Exception as trouble:  # noqa: BLE001 # told to the test
            raised[n] = trouble
        finally:
            connections.close_all()

    threads = [threading.Thread(target=one, args=item) for item in enumerate(calls)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return raised


def faults(bench, names, raised):
    """What does not hold after the actions `names` were tried together and raised so; nothing when all is well."""
    done = Counter(name for name, trouble in zip(names, raised, strict=True) if trouble is None)
    found = [f"{name}: {trouble!r}" for name, trouble in zip(names, raised, strict=True) if trouble and not isinstance(trouble, Refusal)]
    done["bottle"] = min(done["bottle"], 1)  # one batch: what finishes it again came too late, and is kept beside it
    before, now = bench.before, bench.books()
    gone = USED_ML * done["use"] + SPLIT_ML * done["split"] + POURED_ML * done["top_up"]
    expected = {
        "first lot": before["first lot"] - gone,
        "second lot": before["second lot"] + POURED_ML * done["top_up"],
        "all lots": before["all lots"] + BATCH_ML * done["bottle"] - USED_ML * done["use"],
        "batches": before["batches"] + done["start"],
        "weighings": before["weighings"] + done["weigh"],
        **{row: before[row] + done[name] for name, row in HISTORY.items()},
    }
    found += [f"{name}: {now[name]}, not {value}" for name, value in expected.items() if now[name] != value]
    taken = BATCH_G * done["bottle"]
    # Counted: what a batch took before the count does not show any more, what it took after does.
    left = {COUNTED_G, COUNTED_G - taken} if done["count"] else {before["delivery"] - taken}
    if now["delivery"] not in left:
        found.append(f"the delivery holds {now['delivery']} g, not {left}")
    if done["recall"]:
        found += [f"{lot.code} is not recalled" for lot in reached(stock=bench.stock) if not lot.recalled]
        found += [f"{run.code} is not recalled" for run in open_runs_with([], stock=bench.stock) if not run.recalled]
    return found


def tried(bench, first, second):
    """Sets the bench out, does both at once, and returns what does not hold."""
    bench.set_out()
    return faults(bench, (first, second), at_once(*(functools.partial(getattr(type(bench), name), bench) for name in (first, second))))
