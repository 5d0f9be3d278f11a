"""The list of a day: aims 1 s for a house of 40 drinks and 120 preps and eight weeks of its till, first and again."""

import copy
import time
from datetime import timedelta
from decimal import Decimal
from uuid import uuid4

from django.utils import timezone

from tests.core.cordial import FORM, JUICE
from tests.site.conftest import Place
from tests.site.test_lots_api import bottled
from ulsek.batches.models import Lot, Run
from ulsek.planning import facts
from ulsek.planning.actions.keep_hours import keep_hours
from ulsek.planning.actions.keep_par import keep_par
from ulsek.planning.models import Sale
from ulsek.planning.queries import today
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.models import Spec
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery

PREPS, DRINKS, PEOPLE, PACKS = 120, 40, ("lead", "maker", "reader"), 900
WAITS = (45, 60, 240, 480, 1080, 2880)
SHAPE = (0.6, 0.6, 0.8, 1.0, 1.6, 1.8, 0.8)


def _body(n):
    """A cordial that rests as long as its turn says, and every fifth one made with the one before it."""
    body = copy.deepcopy(FORM)
    body["id"], body["name"] = f"prep-{n}", f"Prep {n}"
    body["steps"][3]["minutes"] = WAITS[n % len(WAITS)]
    if n % 5 == 4:
        line = {"id": "part", "material": f"prep_{n - 1}", "amount": {"kind": "fixed", "written": "100 g"}}
        body["steps"][0]["lines"].append(line)
    return body


def _on_the_shelf(place, lot):
    """Two bottles in three of every prep, copied from one batch: so much is made of most preps that they last some days."""
    runs, lots = [], []
    for n, spec in enumerate(Spec.objects.filter(house=place.house, family="cordial").select_related("newest").order_by("key")):
        if n % 3 == 2:
            continue
        run, bottle = copy.copy(lot.run), copy.copy(lot)
        run.pk, run.code, run.version = uuid4(), f"C{n:04d}", spec.newest
        bottle.pk, bottle.code, bottle.run, bottle.left = None, f"K{n:04d}", run, 900.0 + 40.0 * (n % 50)
        runs.append(run)
        lots.append(bottle)
    Run.objects.bulk_create(runs)
    Lot.objects.bulk_create(lots)


def _sold(place, now):
    """What the till told of eight weeks: some of every drink on every day."""
    drinks, today = Spec.objects.filter(house=place.house, family="drink"), place.house.day(now)
    Sale.objects.bulk_create(
        [Sale(house=place.house, day=today - timedelta(days=n), spec=drink, count=4 + n % 9) for drink in drinks for n in range(1, 57)]
    )


def test_the_list_of_a_house_of_a_hundred_and_twenty_preps(db, benchmark):
    place = Place()
    lead, now = place.members["lead"], timezone.now()
    for n in range(PREPS + DRINKS):
        family = "cordial" if n < PREPS else "drink"
        spec = start_spec(lead, NewSpec(f"Prep {n}", family), {**_body(n), "family": family})
        publish_spec(lead, spec.pk, 1, "first")
    receive_delivery(
        lead, JUICE, Delivery(product="Pressed", supplier="Hagedorn", price=Decimal("15.20"), pack_g=Decimal(1000), packs=PACKS)
    )
    Spec.objects.update(asks_questions=False)
    for n, spec in enumerate(Spec.objects.filter(house=place.house).exclude(family="drink").order_by("key")):
        keep_par(lead, spec.pk, [(400 + 10 * (n % 90)) * share for share in SHAPE])
        if n % 30 == 0:
            lot = bottled(place, spec)
    _on_the_shelf(place, lot)
    _sold(place, now)
    place.members["reader"].person.memberships.update(role="maker")
    for role in PEOPLE:
        keep_hours(lead, place.members[role].person.pk, [["09:00", "18:00"]] * 7)
    facts._kept.clear()
    began = time.perf_counter()
    first = today(lead, now)
    cold = time.perf_counter() - began
    found = benchmark.pedantic(lambda: today(lead, now + timedelta(seconds=1)), rounds=10)
    assert len(found.preps) == len(first.preps) == PREPS
    benchmark.extra_info["cold_s"] = round(cold, 2)
    print(
        f"\n  the first in a new process {cold:.2f} s; {len(found.list.lines)} today, {len(found.list.later)} later, {len(found.list.missed)} missed"
    )
