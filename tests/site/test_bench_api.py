"""The bench beside its events: by-products, what a batch taught, rehearsals, containers, pictures, what was settled by taste, waits."""

import base64
import io
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from uuid import uuid4

import jsonschema
import pytest
from django.core.management import call_command
from django.utils import timezone
from icalendar import Calendar
from pypdf import PdfReader

from tests.core.cordial import form
from tests.site.conftest import event
from tests.site.test_batches_api import send, weigh_all
from ulsek.batches.actions.keep_photo import MOST_BYTES
from ulsek.batches.models import Container, Drawn, Learned, Lot, Run, RunEvent, RunStock
from ulsek.batches.tracing import lots_for
from ulsek.core.base.answer import encode
from ulsek.core.run.events.catalogue import read_event
from ulsek.core.run.events.schema import event_schema
from ulsek.core.run.fold import fold_pinned
from ulsek.core.run.run_result import run_result
from ulsek.specs.models import Spec
from ulsek.specs.outputs import output_key
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery

PNG = base64.b64encode(b"\x89PNG\r\n\x1a\n" + b"\0" * 60).decode()
STRAINED = form(
    s1={
        "id": "s1",
        "verb": "combine",
        "lines": [
            {"id": "juice", "material": "sea_buckthorn_juice", "amount": {"kind": "fixed", "written": "1 kg"}},
            {"id": "peel", "material": "quince", "amount": {"kind": "fixed", "written": "300 g"}},
        ],
    },
    s4={"id": "s4", "verb": "strain", "by_product": "pressed quince"},
)


@pytest.fixture
def strained(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    run = place.run(place.spec(body=STRAINED))
    weigh_all(place, run)
    return run


def finish(place, run, **more):
    return send(place, run, event("finished", volume_ml=1500, place="shelf 1", signed=True, rest="in the pot", **more))


def test_an_amount_far_from_the_prediction_asks_where_the_rest_is(place, strained):
    expected = place.apis["maker"].get(f"/runs/{strained}").data["state"]["expected_ml"]
    bare = send(place, strained, event("finished", volume_ml=0.7 * expected["value"], signed=True))
    assert (bare.status_code, bare.data["code"], bare.data["where"]) == (422, "where_is_the_rest", "body/rest")
    assert "Where is the rest" in bare.data["detail"]
    told = send(place, strained, event("finished", volume_ml=0.7 * expected["value"], signed=True, rest="a ladle went on the floor"))
    assert told.status_code == 200, told.content
    assert not Lot.objects.filter(what="pressed quince").exists()


@pytest.mark.parametrize("named", [{"key": "vessel:jug"}, {}], ids=["by its key", "by its name, as before there were keys"])
def test_what_is_left_in_a_vessel_becomes_a_lot_with_a_date_of_its_own(place, named):
    body = form(
        s1={"id": "s1", "verb": "combine", "vessel": "jug", "lines": [{"id": "juice", "material": "sea_buckthorn_juice", "amount": {"kind": "fixed", "mass_g": 1000}}]},
        s2={"id": "s2", "verb": "combine", "lines": [
            {"id": "half", "material": "vessel:jug", "amount": {"kind": "all", "share": 0.5}},
            {"id": "sugar", "material": "white_sugar", "amount": {"kind": "fixed", "mass_g": 300}},
        ]},
    )  # fmt: skip
    body["vessels"].append({"id": "jug", "name": "tall jug"})
    run = place.run(place.spec(body=body))
    for step, lines in {"s1": {"juice": 1000}, "s2": {"half": 500, "sugar": 300}, "s3": {"malic": 5}, "s4": {}, "s5": {}}.items():
        send(place, run, *(event("weighed", line=line, mass_g=grams) for line, grams in lines.items()), event("step_done", step=step))
    state = place.apis["maker"].get(f"/runs/{run}").data["state"]
    (left,) = [item for item in state["evaluation"]["leftovers"] if item["stands"] == "vessel"]
    assert (left["name"], round(left["mass_g"])) == ("sea buckthorn juice, in the tall jug", 500)
    (asked,) = state["asked_at_finish"]
    assert asked == {"key": left["key"], "called": left["name"], "usual": "lot"}
    foreign = {"name": "gold", "key": "vessel:pot", "to": "lot", "mass_g": 495}
    assert send(place, run, event("finished", signed=True, by_products=[foreign])).data["code"] == "unknown_reference", "the product itself"
    chosen = {"name": left["name"], "to": "lot", "mass_g": 495} | named
    kept = send(place, run, event("finished", signed=True, by_products=[chosen]))
    assert kept.status_code == 200, kept.content
    rest = Lot.objects.exclude(what="").get()
    assert (rest.what, rest.amount, rest.unit) == (left["name"], 495, "g")
    assert "fresh juice or fruit" in rest.use_by_reason.text()


def test_what_was_taken_out_before_a_rest_is_as_old_as_that(place):
    body = form(
        s1={"id": "s1", "verb": "combine", "lines": [{"id": "juice", "material": "sea_buckthorn_juice", "amount": {"kind": "fixed", "mass_g": 1000}},
                                                     {"id": "quince", "material": "quince", "amount": {"kind": "fixed", "mass_g": 300}}]},
        s2={"id": "s2", "verb": "simmer", "minutes": 20, "temperature_c": 95, "lines": []},
        s3={"id": "s3", "verb": "combine", "lines": [{"id": "sugar", "material": "white_sugar", "amount": {"kind": "fixed", "mass_g": 300}}]},
        s4={"id": "s4", "verb": "strain", "by_product": "pulp"},
        s5={"id": "s5", "verb": "cool", "temperature_c": 4},
    )  # fmt: skip
    body["steps"].append({"id": "s6", "verb": "bottle"})
    run = place.run(place.spec(body=body), ago=timedelta(days=5))
    now = datetime.now(UTC)
    for step, lines, days in (
        ("s1", {"juice": 1000, "quince": 300}, 4),
        ("s2", {}, 4),
        ("s3", {"sugar": 300}, 4),
        ("s4", {}, 4),
        ("s5", {}, 0),
        ("s6", {}, 0),
    ):
        at = (now - timedelta(days=days)).isoformat()
        weighed = (event("weighed", at=at, line=line, mass_g=grams) for line, grams in lines.items())
        assert send(place, run, *weighed, event("step_done", at=at, step=step)).status_code == 200
    assert finish(place, run, by_products=[{"name": "pulp", "to": "lot", "rest": "weighed wet"}]).status_code == 200
    product, pulp = Lot.objects.order_by("code")
    assert (product.cooled_at - pulp.cooled_at).days == 4, "the syrup from its cooling, the pulp from the sieve"


def test_a_batch_that_is_old_before_it_is_ready_is_not_started(place):
    body = form(s5={"id": "s5", "verb": "rest", "minutes": 1440 * 4, "temperature_c": 4})
    body["steps"].append({"id": "s6", "verb": "bottle"})
    spec = place.spec(body=body)
    entry = {"days": 3, "source": "house", "dated": "2026-11-25"}
    house = {"format": "ulsek.rules", "version": 1, "classes": {"fresh_juice": entry | {"days": 2}}}
    place.apis["lead"].put("/rules", {"rules": house}, 1)
    refused = place.apis["maker"].post("/runs", {"id": str(uuid4()), "spec": str(spec.pk)})
    assert (refused.status_code, refused.data["code"]) == (422, "turns_before_ready")
    assert "It would be out of date before it is ready: Ready on " in refused.data["detail"]


def test_a_by_product_becomes_a_lot_or_is_binned_with_a_reason(place, strained):
    bare = finish(place, strained, by_products=[{"name": "pressed quince", "to": "bin"}])
    assert (bare.status_code, bare.data["detail"]) == (422, "pressed quince goes into the bin without a reason. Say why in a few words.")
    none = finish(place, strained, by_products=[{"name": "gold", "to": "lot"}])
    assert none.data["detail"] == "“gold” did not come of this batch."
    kept = finish(place, strained, by_products=[{"name": "pressed quince", "to": "lot", "mass_g": 210, "rest": "in the cloth"}])
    assert kept.status_code == 200, kept.content
    product, other = Lot.objects.order_by("code")
    assert (other.code, other.unit, other.amount, other.what) == (f"{product.code}-1", "g", 210, "pressed quince")
    assert other.name == "Pressed quince, from Sea buckthorn cordial"
    row = place.apis["reader"].get(f"/lots/{other.code}").data
    assert (row["final"], row["unit"], row["left"]) == (None, "g", 210)
    answer = place.apis["reader"].client.get(f"/api/runs/{strained}/labels.pdf?size=60x40")
    pages = PdfReader(io.BytesIO(answer.content)).pages
    assert len(pages) == 5, "four bottles of 500 mL, filled to 475 mL each, and one tub"
    assert "Pressed quince" in pages[-1].extract_text()
    assert [round(float(side) / 72 * 25.4) for side in pages[0].mediabox[2:]] == [60, 40]


def test_what_lies_outside_its_spec_is_signed_and_said_on_the_lot(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    run = place.run()
    found = place.apis["maker"].get(f"/runs/{run}").data["state"]
    for step in found["steps"]:
        for line in step["lines"]:
            send(place, run, event("weighed", line=line["id"], mass_g=line["planned_g"]["value"] * (1.3 if line["id"] == "sugar" else 1)))
        send(place, run, event("step_done", step=step["id"]))
    unsigned = send(place, run, event("finished", volume_ml=1500, rest="in the pot"))
    assert (unsigned.status_code, unsigned.data["code"]) == (422, "unsigned")
    assert unsigned.data["detail"].startswith("Outside its spec:")
    assert finish(place, run).status_code == 200
    assert Lot.objects.get().off_spec.text().startswith("Outside its spec:")


def test_the_next_batch_begins_from_what_this_one_taught(place, strained):
    held = place.apis["maker"].get(f"/runs/{strained}").data["state"]["evaluation"]["final"]["mass_g"]
    half = (held["high"] - held["low"]) / 2
    send(place, strained, event("read", property="mass_g", value=held["value"] - 0.6 * half))
    told = finish(place, strained).data["state"]["lessons"]
    assert any(item["kept"] for item in told)
    assert Learned.objects.count() == 1
    spec = Run.objects.get(pk=strained).version.spec
    again = place.run(spec)
    after = place.apis["maker"].get(f"/runs/{again}").data["state"]["evaluation"]["final"]["mass_g"]
    assert after["value"] < held["value"], "less comes through here"
    assert after["high"] - after["low"] < held["high"] - held["low"]


def test_a_browser_folds_to_the_same_digits(place, strained):
    pinned = place.apis["maker"].get(f"/runs/{strained}/offline").data
    run = place.apis["maker"].get(f"/runs/{strained}").data
    assert encode(run_result(fold_pinned(pinned, [read_event(item) for item in run["events"]]))) == run["state"]
    for item in run["events"]:
        jsonschema.validate(item, event_schema(received=True))


def test_an_event_kept_by_looser_rules_opens_and_stays_as_it_was_kept(place):
    """Rehearsals were once finished without a look at their figures, and weighings with anything beside them."""
    run = str(uuid4())
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    place.apis["maker"].post("/runs", {"id": run, "spec": str(place.spec().pk), "rehearsal": True})
    bodies = {
        "weighed": {"line": "juice", "mass_g": 1000, "planned_g": "a kilo", "colour": "amber"},
        "finished": {"volume_ml": 0, "signed": "yes", "by_products": [3]},
    }
    for n, (kind, body) in enumerate(bodies.items(), 1):
        data = {**event(kind, **body), "lamport": n, "by": "Maker", "proof": ""}
        assert send(place, run, data).status_code == 422, "today it is refused"
        RunEvent.objects.create(id=data["id"], run_id=run, data=data, person=place.members["maker"].person, received_at=timezone.now())
        again = send(place, run, data)
        assert (again.status_code, RunEvent.objects.filter(run=run).count()) == (200, n + 1), "sent again, it is passed over"
    shown = place.apis["maker"].get(f"/runs/{run}")
    assert shown.status_code == 200
    assert [item["body"] for item in shown.data["events"][1:]] == [{"line": "juice", "mass_g": 1000.0}, {}]
    assert shown.data["state"]["status"] == "finished"
    for item in shown.data["events"]:
        jsonschema.validate(item, event_schema(received=True))
    kept = RunEvent.objects.filter(run=run).values_list("data", flat=True)
    assert {data["kind"]: data["body"] for data in kept if data["kind"] in bodies} == bodies


def test_a_rehearsal_is_its_makers_alone_scored_and_touches_nothing(place):
    item = place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    spec = place.spec()
    run = str(uuid4())
    started = place.apis["maker"].post("/runs", {"id": run, "spec": str(spec.pk), "rehearsal": True})
    assert (started.status_code, started.data["code"]) == (201, "R0001")
    shown = place.apis["maker"].get(f"/runs/{run}/rehearsal").data
    assert shown["line"] == "juice"
    assert shown["pour"]["rate_g_s"] > 0
    assert place.apis["lead"].get(f"/runs/{run}").status_code == 404
    assert run not in [row["id"] for row in place.apis["lead"].get("/runs").data["items"]]
    assert place.apis["maker"].get("/shift").data["runs"] == []
    weigh_all(place, run)
    done = send(place, run, event("finished")).data
    assert done["score"]["points"] == 90
    assert (done["lots"], Lot.objects.count(), RunStock.objects.count(), Drawn.objects.count()) == ([], 0, 0, 0)
    item.refresh_from_db()
    assert item.remaining_g == 4000
    assert place.apis["lead"].post(f"/runs/{run}/share").status_code == 404
    assert place.apis["maker"].post(f"/runs/{run}/share").status_code == 204
    assert place.apis["lead"].get(f"/runs/{run}").data["shared"] is True
    assert (
        send(place, run, event("noted", text="x"), role="lead").data["detail"]
        == "This rehearsal is somebody else's. Start one of your own."
    )
    real = place.run(spec)
    assert place.apis["maker"].get(f"/runs/{real}/rehearsal").data["code"] == "not_a_rehearsal"


def test_a_container_remembers_what_was_in_it_and_who_cleaned_it(place, strained):
    api = place.apis["maker"]
    tub = api.post("/containers", {"name": "tub 4", "tare_g": 312.5, "capacity_ml": 4000}).data
    assert api.post("/containers", {"name": "tub 4", "tare_g": 1}).data["where"] == "name"
    assert api.post("/containers", {"name": "tub 5", "tare_g": -1}).data["where"] == "tare_g"
    assert finish(place, strained, containers=[tub["id"] + 999]).data["where"] == "body/containers"
    finish(place, strained, containers=[tub["id"]])
    (row,) = api.get("/containers").data["items"]
    assert (row["holds"], row["last_contents"], row["cleaned_at"]) == ("L0001", "Sea buckthorn cordial", None)
    clean = api.post(f"/containers/{tub['id']}/cleaned").data
    assert (clean["holds"], clean["last_contents"], clean["cleaned_by"]) == (None, "Sea buckthorn cordial", "Maker")
    assert place.apis["stranger"].post(f"/containers/{tub['id']}/cleaned").status_code == 404
    assert Container.objects.count() == 1


def test_a_picture_is_kept_and_a_false_one_refused(place, strained):
    api = place.apis["maker"]
    kept = api.post(f"/runs/{strained}/photos", {"step": "s4", "media_type": "image/png", "data": PNG})
    assert kept.status_code == 201
    assert api.client.get(f"/api/runs/{strained}/photos/{kept.data['id']}").content.startswith(b"\x89PNG")
    for media_type, data in (("image/svg+xml", PNG), ("image/jpeg", PNG), ("image/png", "***")):
        assert api.post(f"/runs/{strained}/photos", {"step": "s4", "media_type": media_type, "data": data}).status_code == 422
    assert place.apis["stranger"].client.get(f"/api/runs/{strained}/photos/{kept.data['id']}").status_code == 404


def test_a_picture_of_the_size_that_is_stated_is_kept_and_a_larger_one_refused_as_a_picture(place, strained):
    api, begins = place.apis["maker"], b"\xff\xd8\xff"
    for size, status, words in (
        (MOST_BYTES, 201, None),
        (MOST_BYTES + 1, 422, "The picture is too large: at most 900 kB. Take a smaller one."),
        (2 * MOST_BYTES, 413, "The picture is too large: at most 900 kB. Take a smaller one."),
    ):
        data = base64.b64encode(begins + b"x" * (size - len(begins))).decode()
        answer = api.post(f"/runs/{strained}/photos", {"step": "s4", "media_type": "image/jpeg", "data": data})
        assert (answer.status_code, answer.data.get("detail")) == (status, words)
    too_long = api.post(f"/runs/{strained}/events", {"events": [event("noted", text="x" * 1_500_000)]})
    assert (too_long.status_code, too_long.data["detail"]) == (413, "That is too long to take in: at most 1 MB. Send one spec at a time.")


def test_what_was_settled_by_taste_goes_into_the_next_draft(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    spec = place.spec()
    run = place.run(spec, mass_g=2000)
    send(place, run, event("weighed", line="juice", mass_g=2000), event("step_done", step="s1"))
    line = {"id": "pinch.malic_acid", "material": "malic_acid", "amount": {"kind": "fixed", "written": "1 g"}}
    send(
        place,
        run,
        event("step_added", step={"id": "pinch", "verb": "combine", "lines": [line]}),
        event("weighed", line="pinch.malic_acid", mass_g=8),
    )
    assert place.apis["maker"].post(f"/runs/{run}/into-draft").status_code == 403
    taken = place.apis["lead"].post(f"/runs/{run}/into-draft").data
    assert taken["taken"] == 1
    steps = place.apis["lead"].get(f"/specs/{spec.pk}/draft").data["body"]["steps"]
    assert [step["id"] for step in steps][:2] == ["s1", "pinch"]
    assert steps[1]["lines"][0]["amount"]["written"] == "4 g", "half of it: this batch was twice the spec"
    assert place.apis["lead"].post(f"/runs/{run}/into-draft").data["detail"] == "The draft has this step already."


def test_a_waiting_vessel_has_its_label_and_the_calendar_its_alarm(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    run = place.run()
    refused = place.apis["maker"].get(f"/runs/{run}/labels.pdf")
    assert refused.data["detail"] == "B0001 does not wait. Start its clock first."
    for line, mass, step in (("juice", 1000, "s1"), ("sugar", 519, "s2"), ("malic", 4, "s3")):
        send(place, run, event("weighed", line=line, mass_g=mass), event("step_done", step=step))
    send(place, run, event("step_begun", step="s4", at=datetime.now(UTC).isoformat()))
    label = place.apis["maker"].client.get(f"/api/runs/{run}/labels.pdf")
    text = " ".join(PdfReader(io.BytesIO(label.content)).pages[0].extract_text().split())
    assert "NOT FINISHED: do not pour" in text
    assert "B0001" in text
    calendar = Calendar.from_ical(place.apis["reader"].client.get("/api/waits.ics").content)
    (waits,) = calendar.walk("VEVENT")
    assert "Sea buckthorn cordial" in waits["SUMMARY"]
    assert len(waits.walk("VALARM")) == 1


def test_a_by_product_is_never_drawn_on_as_the_product(place, strained):
    assert (
        finish(place, strained, by_products=[{"name": "pressed quince", "to": "lot", "mass_g": 210, "rest": "in the cloth"}]).status_code
        == 200
    )
    product, tub = Lot.objects.order_by("code")
    key = output_key(product.run.version.spec.key)
    by_product = output_key(product.run.version.spec.key, "pressed quince")
    assert lots_for(place.house, [key, by_product]) == {key: product, by_product: tub}
    Lot.objects.filter(pk=product.pk).update(left=0)
    assert lots_for(place.house, [key]) == {}, "the tub of pressed fruit is no cordial"
    Lot.objects.filter(pk=product.pk).update(left=900, ready_at=timezone.now() + timedelta(hours=2))
    assert lots_for(place.house, [key]) == {}, "what still rests is not poured"
    (row,) = place.apis["reader"].get("/specs").data["items"]
    assert row["on_shelf_ml"] == 900, "grams of pressed fruit are no litres on the shelf"


def test_a_rehearsal_stands_in_for_no_question_and_counts_as_no_batch(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    spec = place.spec()
    Spec.objects.filter(pk=spec.pk).update(asks_questions=True)
    run = str(uuid4())
    assert place.apis["maker"].post("/runs", {"id": run, "spec": str(spec.pk), "rehearsal": True}).status_code == 201
    weigh_all(place, run)
    assert send(place, run, event("finished")).status_code == 200
    refused = place.apis["maker"].post("/runs", {"id": str(uuid4()), "spec": str(spec.pk)})
    assert refused.data["code"] == "questions_open"
    (row,) = place.apis["reader"].get("/specs").data["items"]
    assert (row["batches"], row["last_made"]) == (0, None)
    assert place.apis["lead"].post(f"/specs/{spec.pk}/versions/1/withdraw", {"why": "too sharp"}).status_code == 200
    again = place.apis["maker"].post("/runs", {"id": str(uuid4()), "spec": str(spec.pk), "version": 1, "rehearsal": True})
    assert again.data["code"] == "withdrawn", "nobody rehearses what must not be made"


def test_something_extra_from_stores_is_pinned_taken_and_traced(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    salt = receive_delivery(
        place.members["maker"], "salt", Delivery(product="Salt", supplier="Hagedorn", price=Decimal(2), pack_g=Decimal(500))
    )
    run = place.run()
    line = {"id": "pinch.salt", "material": "salt", "amount": {"kind": "fixed", "written": "1 g"}}
    added = event("step_added", step={"id": "pinch", "verb": "combine", "lines": [line]})
    taken = send(place, run, added, event("weighed", line="pinch.salt", mass_g=3), event("step_done", step="pinch"))
    assert taken.status_code == 200, taken.content
    unknown = {**line, "id": "x", "material": "moon_dust"}
    refused = send(place, run, event("step_added", step={"id": "dust", "verb": "combine", "lines": [unknown]}))
    assert refused.data["detail"] == "Nothing is known about “moon_dust”. Describe it in Stores first."
    weigh_all(place, run)
    assert finish(place, run).status_code == 200
    salt.refresh_from_db()
    assert salt.remaining_g == 497
    assert "L0001" in [node["code"] for node in place.apis["reader"].get(f"/stock/{salt.pk}/trace").data]


@pytest.mark.parametrize("containers", [5, "tub", [1, 1], [{}], ["1"]])
def test_containers_that_are_none_are_refused(place, strained, containers):
    refused = finish(place, strained, containers=containers)
    assert (refused.status_code, refused.data["where"]) == (422, "body/containers")
    assert not Lot.objects.exists(), "nothing is half finished"


@pytest.mark.parametrize("by_products", ["all", [3], [{"name": "pressed quince"}], [{"name": "pressed quince", "to": "lot", "mass_g": -1}]])
def test_by_products_that_cannot_be_are_refused(place, strained, by_products):
    refused = finish(place, strained, by_products=by_products)
    assert refused.status_code == 422
    assert refused.data["where"].startswith("body/by_products")
    assert not Lot.objects.exists()


def test_lists_are_worked_out_again_from_the_events(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    run = place.run()
    send(place, run, event("weighed", line="juice", mass_g=700))
    kept = Run.objects.get(pk=run).projection
    assert kept["taken_g"]
    Run.objects.filter(pk=run).update(projection={})
    call_command("refold", stdout=io.StringIO())
    assert Run.objects.get(pk=run).projection == kept
