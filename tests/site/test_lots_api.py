"""Lots: what is done to them, drawn on by what is made with them, traced both ways, recalled."""

from datetime import datetime, timedelta

import pytest
from django.utils import timezone

from tests.site.conftest import event
from tests.site.test_library_api import DRINK
from tests.site.test_library_api import made as made_drink
from ulsek.batches.folding import events_of, folded
from ulsek.batches.models import Drawn, Lot, LotEvent, Run
from ulsek.batches.tracing import lots_for
from ulsek.core.base.messages import message
from ulsek.specs.models import Spec

API = "maker"


def bottled(place, spec=None, **start):
    """A lot, weighed, cooled and bottled as planned."""
    return finished(place, place.run(spec, **start))


def finished(place, run):
    """The lot of a batch that is weighed, cooled and bottled as planned."""
    state = folded(Run.objects.get(pk=run), events_of(Run.objects.get(pk=run)))
    events = []
    for step in state.spec.steps:
        events += [event("weighed", line=line.id, mass_g=round(state.evaluation.flow.masses[line.id], 2)) for line in step.lines]
        events.append(event("step_done", step=step.id))
    answer = place.apis[API].post(
        f"/runs/{run}/events", {"events": [*events, event("finished", volume_ml=1000.0, place="shelf 1", signed=True, rest="tasted")]}
    )
    assert answer.status_code == 200, answer.content
    return Lot.objects.get(run=run)


def today_at(place):
    """The day it is in the house, which by night is not the day of the server."""
    return place.members["maker"].local(timezone.now()).date()


def does(house, lot, kind, role=API, **body):
    return house.apis[role].post(f"/lots/{lot.code}/events", {"kind": kind, "body": body})


def test_what_is_done_to_a_lot_is_kept_and_counts(place):
    lot = bottled(place)
    assert does(place, lot, "moved", place="bar fridge").data["place"] == "bar fridge"
    assert does(place, lot, "used", amount=250).data["left"] == 750
    assert does(place, lot, "counted", amount=700).data["left"] == 700
    assert does(place, lot, "split", amount=200).data["left"] == 500
    part = Lot.objects.get(split_of=lot)
    assert (part.code, part.left, part.use_by) == (f"{lot.code}B", 200, lot.use_by)
    assert does(place, lot, "tossed", reason="left out overnight").data["gone_at"]
    assert does(place, lot, "used", amount=1).data["code"] == "gone"
    kinds = [item["kind"] for item in place.apis["reader"].get(f"/lots/{lot.code}/trace").data["events"]]
    assert kinds == ["tossed", "split", "counted", "used", "moved"]
    assert LotEvent.objects.filter(lot=lot).count() == 5


def test_an_opened_bottle_is_counted_anew_and_never_past_its_first_date(place):
    lot = bottled(place)
    Lot.objects.filter(pk=lot.pk).update(use_by=today_at(place) + timedelta(days=60), opened_days=14)
    opened = does(place, lot, "opened").data
    assert opened["use_by"] == (today_at(place) + timedelta(days=13)).isoformat()
    assert does(place, lot, "opened").data["code"] == "twice"
    other = bottled(place, Spec.objects.get(key="cordial"))
    assert does(place, other, "opened").data["use_by"] == other.use_by.isoformat(), "three days stay three days"


def test_a_decanted_bottle_is_a_lot_of_its_own_and_open(place):
    lot = bottled(place)
    Lot.objects.filter(pk=lot.pk).update(use_by=today_at(place) + timedelta(days=60), opened_days=14)
    assert does(place, lot, "decanted", amount=300, place="rail").data["left"] == 700
    rail = Lot.objects.get(split_of=lot)
    today = today_at(place)
    assert (rail.left, rail.place, rail.use_by) == (300, "rail", today + timedelta(days=13))
    assert rail.opened_at is not None
    lot.refresh_from_db()
    assert (lot.opened_at, lot.use_by) == (None, today + timedelta(days=60)), "what stays closed keeps its date"


def test_a_topped_up_bottle_takes_the_earliest_date_and_all_allergens_and_a_recall_reaches_it(place):
    late, early = bottled(place), bottled(place, Spec.objects.get(key="cordial"))
    today = today_at(place)
    Lot.objects.filter(pk=late.pk).update(use_by=today + timedelta(days=4), allergens=["nuts"], keep_c=4)
    Lot.objects.filter(pk=early.pk).update(use_by=today + timedelta(days=1), allergens=["egg"], cautions=["Who drinks: raw egg"], keep_c=5)
    found = does(place, late, "topped_up", amount=200, **{"from": early.code.lower()}).data
    assert (found["left"], found["use_by"], found["allergens"], found["keep_c"]) == (
        1200,
        (today + timedelta(days=1)).isoformat(),
        ["nuts", "egg"],
        4,
    )
    assert "Who drinks: raw egg" in found["cautions"]
    assert found["use_by_reason"].startswith(f"Topped up with {early.code}, which turns first.")
    assert found["opened_at"], "who tops a bottle up has opened it"
    early.refresh_from_db()
    assert early.left == 800
    into = place.apis["reader"].get(f"/lots/{early.code}/trace").data["went_into"]
    assert [node["code"] for node in into] == [late.code]
    assert early.code in [node["code"] for node in place.apis["reader"].get(f"/lots/{late.code}/trace").data["made_of"]]
    place.apis["lead"].post(f"/lots/{early.code}/recall", {"why": "glass in it"})
    late.refresh_from_db()
    assert late.recalled == "glass in it"


def test_what_may_not_be_poured_is_not_poured_in(place):
    lot, other = bottled(place), bottled(place, Spec.objects.get(key="cordial"))
    drink = made_drink(place)[0]
    Spec.objects.update(asks_questions=False)
    assert does(place, lot, "topped_up", amount=10, **{"from": lot.code}).data["code"] == "circle"
    assert does(place, lot, "topped_up", amount=10, **{"from": "L9999"}).data["code"] == "unknown_reference"
    assert does(place, lot, "topped_up", amount=5000, **{"from": other.code}).data["where"] == "body/amount"
    Lot.objects.filter(pk=other.pk).update(ready_at=timezone.now() + timedelta(days=1), ready_why=message("it rests"))
    assert does(place, lot, "topped_up", amount=10, **{"from": other.code}).data["code"] == "not_ready"
    Lot.objects.filter(pk=other.pk).update(ready_at=None, use_by=today_at(place) - timedelta(days=2))
    assert does(place, lot, "topped_up", amount=10, **{"from": other.code}).data["code"] == "out_of_date"
    Lot.objects.filter(pk=other.pk).update(use_by=lot.use_by)
    place.apis["lead"].post(f"/specs/{other.run.version.spec_id}/versions/1/withdraw", {"why": "too sharp"})
    withdrawn = does(place, lot, "topped_up", amount=10, **{"from": other.code}).data
    assert (withdrawn["code"], "too sharp" in withdrawn["detail"]) == ("out_of_date", True)
    foreign = bottled(place, drink)
    assert does(place, lot, "topped_up", amount=10, **{"from": foreign.code}).data["code"] == "another_material"
    lot.refresh_from_db()
    assert not lot.topped_up_with.exists(), "what was refused changed nothing"


def test_a_bottle_says_whether_it_may_be_poured_and_until_when(place):
    lot = bottled(place)

    def stands(**changed):
        Lot.objects.filter(pk=lot.pk).update(**changed)
        row = place.apis["reader"].get(f"/lots/{lot.code}").data
        return row["standing"]["state"]

    standing = place.apis["reader"].get(f"/lots/{lot.code}").data["standing"]
    past_at = place.members["maker"].local(datetime.fromisoformat(standing["until"]))
    assert (past_at.date() - timedelta(days=1), past_at.hour) == (lot.use_by, 0), "to the end of its last day, in the house's zone"
    assert standing["state"] == "good"
    assert stands(use_by=today_at(place)) == "good"
    assert stands(use_by=today_at(place) - timedelta(days=1)) == "past"
    assert stands(use_by=lot.use_by, ready_at=timezone.now() + timedelta(hours=1)) == "resting"
    assert stands(recalled="glass") == "recalled"
    assert stands(gone_at=timezone.now()) == "gone"


def test_a_lot_of_a_withdrawn_version_goes_into_nothing(place):
    lot = bottled(place)
    drink, _ = made_drink(place)
    Spec.objects.update(asks_questions=False)
    run = place.run(drink)
    place.apis["lead"].post(f"/specs/{lot.run.version.spec_id}/versions/1/withdraw", {"why": "too sharp"})
    assert lots_for(lot.house, ["cordial"]) == {}
    line = Run.objects.get(pk=run).snapshot["spec"]["steps"][0]["lines"][0]["id"]
    refused = place.apis[API].post(f"/runs/{run}/events", {"events": [event("taken_from", line=line, supply=f"lot:{lot.code}")]})
    assert (refused.status_code, refused.data["code"], "too sharp" in refused.data["detail"]) == (422, "withdrawn", True)


def test_a_lot_past_its_last_day_goes_into_nothing(place):
    lot = bottled(place)
    spec, _ = made_drink(place)
    Spec.objects.update(asks_questions=False)
    material = "cordial"
    assert lots_for(lot.house, [material]) == {material: lot}
    Lot.objects.filter(pk=lot.pk).update(use_by=today_at(place) - timedelta(days=2))
    assert lots_for(lot.house, [material]) == {}
    run = place.run(spec)
    line = next(
        line
        for line in folded(Run.objects.get(pk=run), events_of(Run.objects.get(pk=run))).spec.lines.values()
        if line.material == material
    )
    refused = place.apis[API].post(f"/runs/{run}/events", {"events": [event("taken_from", line=line.id, supply=f"lot:{lot.code}")]})
    assert (refused.status_code, refused.data["code"]) == (422, "out_of_date")


def test_an_open_batch_says_which_rules_it_started_with_and_a_finished_one_stays_as_it_was(place):
    run = place.run()
    said = place.apis["reader"].get(f"/runs/{run}").data["rules"]
    assert said.startswith("Started with the rules of 20")
    older = Run.objects.get(pk=run)
    older.snapshot["edition"] = {"keeping": "2026-01-02", "limits": "2026-01-02", "house": ""}
    older.save()
    assert (
        place.apis["reader"]
        .get(f"/runs/{run}")
        .data["rules"]
        .startswith("Started with the rules of 2026-01-02. Its dates go by the rules of 20")
    )
    lot = bottled(place, Spec.objects.get(key="cordial"))
    finished = lot.run
    finished.snapshot["edition"] = {"keeping": "2020-01-01", "limits": "2020-01-01", "house": ""}
    finished.save()
    assert "2020" not in place.apis["reader"].get(f"/runs/{finished.pk}").data["rules"]


@pytest.mark.parametrize(
    ("kind", "body", "where"),
    [
        ("drunk", {}, "kind"),
        ("used", {"amount": -1}, "body/amount"),
        ("used", {"amount": "some"}, "body/amount"),
        ("split", {"amount": 5000}, "body/amount"),
        ("split", {"amount": 0}, "body/amount"),
        ("tossed", {"reason": " "}, "body/reason"),
        ("moved", {}, "body/place"),
    ],
)
def test_what_cannot_be_done_is_refused_at_its_place(place, kind, body, where):
    lot = bottled(place)
    assert does(place, lot, kind, **body).data["where"] == where
    assert does(place, lot, "moved", role="reader", place="x").status_code == 403
    assert does(place, lot, "moved", role="stranger", place="x").status_code == 404
    assert Lot.objects.get(pk=lot.pk).left == 1000


def test_a_drink_draws_on_a_lot_and_a_crate_is_followed_to_its_bottles(place):
    crate = place.delivery()
    cordial = bottled(place)
    drink, _ = made_drink(place, {**DRINK, "steps": [*DRINK["steps"], {"id": "s2", "verb": "bottle", "vessel": "glass"}]})
    Spec.objects.filter(pk=drink.pk).update(asks_questions=False)
    glass = bottled(place, drink)
    drawn = Drawn.objects.get(run=glass.run)
    assert (drawn.lot, drawn.mass_g) == (cordial, 40.0)
    density = cordial.final["density_g_ml"]["value"]
    assert Lot.objects.get(pk=cordial.pk).left == pytest.approx(1000 - 40 / density)
    trace = place.apis["reader"].get(f"/stock/{crate.pk}/trace").data
    assert [node["code"] for node in trace] == [cordial.code]
    assert [node["code"] for node in trace[0]["branches"]] == [glass.code]
    back = place.apis["reader"].get(f"/lots/{glass.code}/trace").data["made_of"]
    assert back[0]["code"] == cordial.code
    assert back[0]["branches"][0]["name"] == "Pressed"
    assert place.apis["stranger"].get(f"/stock/{crate.pk}/trace").status_code == 404


def test_a_recall_reaches_every_bottle_and_takes_the_crate_away(place):
    crate = place.delivery()
    cordial = bottled(place)
    does(place, cordial, "split", amount=100)
    before = place.apis["lead"].post(f"/stock/{crate.pk}/recall", {"why": ""})
    assert before.data["where"] == "why"
    assert place.apis["maker"].post(f"/stock/{crate.pk}/recall", {"why": "x"}).status_code == 403
    told = place.apis["lead"].post(f"/stock/{crate.pk}/recall", {"why": "glass in the crate"}).data
    assert told["lots"] == [cordial.code, f"{cordial.code}B"]
    assert place.apis["reader"].get(f"/lots/{cordial.code}").data["recalled"] == "glass in the crate"
    crate.refresh_from_db()
    assert crate.gone_at is not None
    version = cordial.run.version
    other = bottled(place, version.spec)
    again = place.apis["lead"].post(f"/specs/{version.spec_id}/versions/1/recall", {"why": "all of it"}).data["lots"]
    assert other.code in again
    assert place.apis["lead"].post(f"/lots/{other.code}/recall", {"why": "this one"}).data["lots"] == [other.code]


def test_the_trace_of_a_lot_stays_within_a_few_queries(place, django_assert_max_num_queries):
    lot = bottled(place)
    with django_assert_max_num_queries(12):
        assert place.apis["reader"].get(f"/lots/{lot.code}/trace").status_code == 200
