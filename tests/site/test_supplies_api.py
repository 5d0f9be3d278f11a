"""Taken from a named or scanned supply: its own makeup, what it falls by, what it still makes, and where the trace leads."""

from datetime import timedelta

import pytest
from django.utils import timezone

from tests.site.conftest import event
from tests.site.test_library_api import DRINK
from tests.site.test_library_api import made as made_drink
from tests.site.test_lots_api import bottled
from ulsek.batches.models import Drawn, Lot, Run, RunStock
from ulsek.core.base.answer import encode
from ulsek.core.materials.supply import key_from
from ulsek.core.run.events.catalogue import read_event
from ulsek.core.run.fold import fold_pinned
from ulsek.core.run.run_result import run_result
from ulsek.specs.models import Spec
from ulsek.stores.models import StockItem


def send(place, run, *events):
    return place.apis["maker"].post(f"/runs/{run}/events", {"events": list(events)})


def offered(place, run):
    return {item["supply"]: item for item in place.apis["maker"].get(f"/runs/{run}/supplies").data}


def from_(item):
    return f"delivery:{item.pk}"


@pytest.fixture
def crates(place):
    """An older, sharper delivery, and the newest, which a run takes by itself."""
    return place.delivery(brix_reading=8.2, acid_g_100ml=3.1), place.delivery(brix_reading=8.0, acid_g_100ml=2.0)


def finished(place, run):
    """Cooled and bottled, whatever it came to."""
    state = place.apis["maker"].get(f"/runs/{run}").data["state"]
    left = [event("step_done", step=step["id"]) for step in state["steps"] if step["state"] in ("now", "later")]
    answer = send(place, run, *left, event("finished", volume_ml=1000.0, place="shelf 1", signed=True, rest="tasted"))
    assert answer.status_code == 200, answer.content
    return Lot.objects.get(run=run, what="")


def test_another_delivery_goes_in_with_its_own_makeup_and_is_the_one_that_falls(place, crates):
    old, new = crates
    run = place.run()
    as_new = send(place, run, event("weighed", line="juice", mass_g=1000)).data
    assert as_new["supplies"]["sea_buckthorn_juice"] == from_(new)
    acid = as_new["state"]["evaluation"]["steps"][0]["acid_g_100ml"]["value"]
    assert acid == pytest.approx(2.0, rel=2e-3)
    named = event("taken_from", line="juice", supply=from_(old))
    as_old = send(place, run, named).data
    juice = as_old["state"]["steps"][0]["lines"][0]
    assert (as_old["supplies"][juice["material"]], juice["name"]) == (from_(old), "Sea buckthorn juice")
    assert as_old["state"]["evaluation"]["steps"][0]["acid_g_100ml"]["value"] == pytest.approx(3.1, rel=2e-3)
    assert list(RunStock.objects.filter(run=run).values_list("stock", flat=True)) == [old.pk]
    send(place, run, event("undone", of=named["id"]))
    assert list(RunStock.objects.filter(run=run).values_list("stock", flat=True)) == [new.pk], "taken back, it is the newest again"
    send(place, run, event("taken_from", line="juice", supply=from_(old)))
    lot = finished(place, run)
    assert [float(StockItem.objects.get(pk=item.pk).remaining_g) for item in crates] == [3000.0, 4000.0]
    codes = [[node["code"] for node in place.apis["reader"].get(f"/stock/{item.pk}/trace").data] for item in crates]
    assert codes == [[lot.code], []]


def test_a_crate_runs_empty_and_the_next_goes_on_and_both_fall_and_are_traced(place, crates):
    old, new = crates
    run = place.run()
    send(place, run, event("taken_from", line="juice", supply=from_(old)))
    went_on = event("went_on", line="juice", mass_g=400, supply=from_(new))
    state = send(place, run, went_on).data
    left = {supply: item["left_g"] for supply, item in offered(place, run).items()}
    assert left == {from_(old): 3600, from_(new): 4000}, "what is in has left its crate, weighed or not"
    assert [(state["supplies"][part["material"]], part["mass_g"]) for part in state["state"]["steps"][0]["lines"][0]["parts"]] == [
        (from_(old), 400)
    ]
    state = send(place, run, event("weighed", line="juice", mass_g=1000)).data["state"]
    assert 2.0 < state["evaluation"]["steps"][0]["acid_g_100ml"]["value"] < 3.1
    assert state["evaluation"]["steps"][0]["acid_g_100ml"]["value"] == pytest.approx(0.4 * 3.1 + 0.6 * 2.0, rel=5e-3)
    assert set(RunStock.objects.filter(run=run).values_list("stock", flat=True)) == {old.pk, new.pk}
    lot = finished(place, run)
    assert [float(StockItem.objects.get(pk=item.pk).remaining_g) for item in crates] == [3600.0, 3400.0]
    for item in crates:
        assert [node["code"] for node in place.apis["reader"].get(f"/stock/{item.pk}/trace").data] == [lot.code]


def test_a_tablet_that_is_away_folds_another_crate_to_the_same_digits(place, crates):
    """What it fetched beforehand holds the crates that it may go on with; named after its return they come to the same."""
    old, new = crates
    run = place.run()
    pinned = place.apis["maker"].get(f"/runs/{run}/offline").data
    before = place.apis["maker"].get(f"/runs/{run}").data["events"]
    did = [
        event("taken_from", line="juice", supply=from_(old)),
        event("went_on", line="juice", mass_g=400, supply=from_(new)),
        event("weighed", line="juice", mass_g=1000),
    ]
    here = encode(run_result(fold_pinned(pinned, [read_event(item) for item in [*before, *({**item, "by": "Maker"} for item in did)]])))
    assert here["evaluation"]["steps"][0]["acid_g_100ml"]["value"] > 2.2, "with its own makeup, and not the material's"
    there = send(place, run, *did).data["state"]
    assert here == there


def test_a_delivery_that_nobody_read_goes_in_with_typical_values(place):
    unread = place.delivery()
    place.delivery(brix_reading=8.0, acid_g_100ml=1.0)
    run = place.run()
    send(place, run, event("weighed", line="juice", mass_g=1000))
    acid = send(place, run, event("taken_from", line="juice", supply=from_(unread))).data["state"]["evaluation"]["steps"][0]["acid_g_100ml"]
    assert acid["value"] > 1.5, "what the newest delivery read is not this one's"
    assert acid["high"] > acid["value"] > acid["low"], "nobody has read it"


def test_a_supply_falls_while_it_is_weighed_and_says_what_it_still_makes(place, crates):
    _, new = crates
    run = place.run()
    before = offered(place, run)
    assert {item["material"] for item in before.values()} == {"sea_buckthorn_juice"}
    assert before[from_(new)]["left_g"] == 4000
    volume = place.apis["maker"].get(f"/runs/{run}").data["state"]["evaluation"]["final"]["volume_ml"]["value"]
    assert before[from_(new)]["makes_ml"] == pytest.approx(4 * volume)
    send(place, run, event("weighed", line="juice", mass_g=1000))
    other = place.run(Spec.objects.first())
    assert offered(place, other)[from_(new)]["left_g"] == 3000, "what another open batch has weighed is gone"
    assert offered(place, run)[from_(new)]["makes_ml"] == pytest.approx(3 * volume)
    assert float(StockItem.objects.get(pk=new.pk).remaining_g) == 4000, "the books follow at the finish"


def test_a_lot_goes_in_as_its_own_batch_came_out(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    plain = bottled(place)
    sharp = place.run(Spec.objects.first())
    state = place.apis["maker"].get(f"/runs/{sharp}").data["state"]
    masses = {line["id"]: line["planned_g"]["value"] for step in state["steps"] for line in step["lines"] if line["planned_g"]}
    send(
        place, sharp, *(event("weighed", line=line, mass_g=round(mass * (3 if line == "malic" else 1), 2)) for line, mass in masses.items())
    )
    sharp = finished(place, sharp)
    drink, _ = made_drink(place, {**DRINK, "steps": [*DRINK["steps"], {"id": "s2", "verb": "bottle", "vessel": "glass"}]})
    Spec.objects.filter(pk=drink.pk).update(asks_questions=False)
    run = place.run(drink)
    line = next(
        line
        for step in place.apis["maker"].get(f"/runs/{run}").data["state"]["steps"]
        for line in step["lines"]
        if "cordial" in line["material"]
    )

    def acid():
        return place.apis["maker"].get(f"/runs/{run}").data["state"]["evaluation"]["final"]["acid_g_100ml"]["value"]

    assert Drawn.objects.get(run=run).lot == plain, "the next to turn"
    as_plain = acid()
    scanned = place.apis["maker"].get(f"/runs/{run}/supplies/scanned?line={line['id']}&code=https://tern.house/lots/{sharp.code.lower()}/")
    assert scanned.data == {"supply": f"lot:{sharp.code}"}
    send(place, run, event("taken_from", line=line["id"], supply=scanned.data["supply"]))
    assert acid() > 1.05 * as_plain
    assert Drawn.objects.get(run=run).lot == sharp
    before = {lot.pk: lot.left for lot in (plain, sharp)}
    send(place, run, event("weighed", line=line["id"], mass_g=40))
    finished(place, run)
    assert Lot.objects.get(pk=plain.pk).left == before[plain.pk]
    assert Lot.objects.get(pk=sharp.pk).left == pytest.approx(before[sharp.pk] - 40 / sharp.final["density_g_ml"]["value"])


def test_the_house_s_own_bottles_are_offered_with_what_is_left_and_what_stands_against_them(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    lot = bottled(place)
    drink, _ = made_drink(place, {**DRINK, "steps": [*DRINK["steps"], {"id": "s2", "verb": "bottle", "vessel": "glass"}]})
    Spec.objects.filter(pk=drink.pk).update(asks_questions=False)
    run = place.run(drink)
    found = offered(place, run)[f"lot:{lot.code}"]
    assert found["left_g"] == pytest.approx(lot.left * lot.final["density_g_ml"]["value"])
    assert found["about"] == f"{lot.place}, use by {lot.use_by:%d %b}"
    assert found["makes_ml"] > 0
    assert found["warning"] == ""
    beside = place.apis["maker"].get(f"/runs/{run}/offline").data["materials"]
    assert beside[key_from(found["material"], f"lot:{lot.code}")]["delivery"] == f"{lot.code}, {lot.name}", "a tablet that is away knows it"
    ready = timezone.now() + timedelta(hours=5)
    Lot.objects.filter(pk=lot.pk).update(ready_at=ready)
    assert offered(place, run)[f"lot:{lot.code}"]["warning"] == f"rests until {place.members['maker'].local(ready):%a %H:%M}"
    Lot.objects.filter(pk=lot.pk).update(ready_at=None, use_by=(timezone.now() - timedelta(days=2)).date())
    assert offered(place, run)[f"lot:{lot.code}"]["warning"].startswith("turned on ")
    Lot.objects.filter(pk=lot.pk).update(gone_at=timezone.now())
    assert f"lot:{lot.code}" not in offered(place, run)


@pytest.mark.parametrize(
    ("supply", "code"),
    [
        ("crate:7", "unreadable"),
        ("lot:L9999", "unknown_reference"),
        ("delivery:7", "unknown_reference"),
        ("recalled", "recalled"),
        ("other", "another_material"),
        ("gone", "gone"),
    ],
)
def test_what_cannot_be_taken_is_refused_in_words_and_nothing_is_kept(place, crates, supply, code):
    lot = bottled(place)
    run = place.run(Spec.objects.first())
    if supply == "recalled":
        Lot.objects.filter(pk=lot.pk).update(recalled="glass in it")
    if supply == "gone":
        StockItem.objects.filter(pk=crates[0].pk).update(gone_at=lot.made_at)
    named = {"recalled": f"lot:{lot.code}", "other": f"lot:{lot.code}", "gone": from_(crates[0])}.get(supply, supply)
    count = Run.objects.get(pk=run).events.count()
    answer = send(place, run, event("taken_from", line="juice", supply=named))
    assert (answer.status_code, answer.data["code"], answer.data["where"]) == (422, code, "body/supply")
    assert Run.objects.get(pk=run).events.count() == count


def test_codes_are_known_by_those_who_may_and_a_rehearsal_takes_nothing(place, crates):
    old, _ = crates
    run = place.run()
    ask = f"/runs/{run}/supplies/scanned?line=juice&code={old.code}"
    assert place.apis["maker"].get(ask).data == {"supply": from_(old)}
    assert place.apis["stranger"].get(ask).status_code == 404
    assert place.apis["maker"].get(f"/runs/{run}/supplies/scanned?line=juice&code=D000").data["code"] == "unknown_reference"
    assert not Run.objects.get(pk=run).events.filter(data__kind="taken_from").exists(), "asking keeps nothing"
    play = place.run(Spec.objects.first(), rehearsal=True)
    assert send(place, play, event("taken_from", line="juice", supply=from_(old))).data["code"] == "rehearsal"


def test_the_lists_cost_the_same_however_many_crates_there_are(place, django_assert_max_num_queries):
    for _ in range(12):
        place.delivery()
    run = place.run()
    with django_assert_max_num_queries(14):
        assert len(offered(place, run)) == 12
