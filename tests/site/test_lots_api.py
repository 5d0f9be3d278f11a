"""Lots: what is done to them, drawn on by what is made with them, traced both ways, recalled."""

from datetime import timedelta

import pytest
from django.utils import timezone

from tests.site.conftest import event
from tests.site.test_library_api import DRINK
from tests.site.test_library_api import made as made_drink
from ulsek.batches.folding import events_of, folded
from ulsek.batches.models import Drawn, Lot, LotEvent, Run
from ulsek.specs.models import Spec

API = "maker"


def bottled(place, spec=None, **start):
    """A lot, weighed, cooled and bottled as planned."""
    run = place.run(spec, **start)
    state = folded(Run.objects.get(pk=run), events_of(Run.objects.get(pk=run)))
    events = []
    for step in state.spec.steps:
        events += [event("weighed", line=line.id, mass_g=round(state.evaluation.plain.masses[line.id], 2)) for line in step.lines]
        events.append(event("step_done", step=step.id))
    answer = place.apis[API].post(
        f"/runs/{run}/events", {"events": [*events, event("finished", volume_ml=1000.0, place="shelf 1", signed=True)]}
    )
    assert answer.status_code == 200, answer.content
    return Lot.objects.get(run=run)


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
    Lot.objects.filter(pk=lot.pk).update(use_by=timezone.now().date() + timedelta(days=60), opened_days=14)
    opened = does(place, lot, "opened").data
    assert opened["use_by"] == (place.members["maker"].local(timezone.now()).date() + timedelta(days=13)).isoformat()
    assert does(place, lot, "opened").data["code"] == "twice"
    other = bottled(place, Spec.objects.get(key="cordial"))
    assert does(place, other, "opened").data["use_by"] == other.use_by.isoformat(), "three days stay three days"


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
