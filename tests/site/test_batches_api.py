"""Runs, readings, lots, labels and the shift over HTTP."""

import io
from copy import deepcopy
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from uuid import uuid4

import pytest
from pypdf import PdfReader

from tests.core.cordial import FORM
from tests.site.conftest import event
from ulsek.batches.models import Lot, Run, RunEvent
from ulsek.stores.models import StockItem


@pytest.fixture
def cordial(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    return place.run(mass_g=1340, ago=timedelta(hours=2))


def send(place, run, *events, role="maker"):
    return place.apis[role].post(f"/runs/{run}/events", {"events": list(events)})


def state(answer):
    assert answer.status_code == 200, answer.content
    return answer.data["state"]


def weigh_all(place, run):
    """Every step with its planned weights, to the last one done."""
    found = place.apis["maker"].get(f"/runs/{run}").data["state"]
    while (step := next((s for s in found["steps"] if s["state"] == "now"), None)) is not None:
        for line in step["lines"]:
            found = state(
                send(
                    place,
                    run,
                    event(
                        "weighed",
                        line=line["id"],
                        mass_g=round(
                            next(item["planned_g"]["value"] for s in found["steps"] for item in s["lines"] if item["id"] == line["id"]), 1
                        ),
                    ),
                )
            )
        found = state(send(place, run, event("step_done", step=step["id"])))
    return found


def test_a_run_is_scaled_to_what_was_weighed_and_pins_its_inputs(place, cordial):
    run = Run.objects.get(pk=cordial)
    assert run.code == "B0001"
    assert run.snapshot["materials"]["sea_buckthorn_juice"]["makeup"]["brix_reading"]["value"] == 8.2
    view = place.apis["reader"].get(f"/runs/{cordial}").data["state"]
    assert view["factor"] == pytest.approx(1.34)
    later = place.delivery(brix_reading=12.0, acid_g_100ml=3.0)
    assert later
    assert place.apis["reader"].get(f"/runs/{cordial}").data["state"]["evaluation"] == view["evaluation"], (
        "a later delivery changes no running batch"
    )


def test_the_same_event_sent_fifty_times_counts_once(place, cordial):
    once = event("weighed", line="juice", mass_g=1340)
    first = send(place, cordial, once).data
    for _ in range(49):
        assert send(place, cordial, once).data == first
    assert RunEvent.objects.filter(run=cordial, data__kind="weighed").count() == 1


def test_starting_twice_with_one_id_is_one_batch(place, cordial):
    spec = Run.objects.get(pk=cordial).version.spec
    again = place.apis["maker"].post("/runs", {"id": cordial, "spec": str(spec.pk), "mass_g": 99})
    assert again.data["code"] == "B0001"
    assert Run.objects.count() == 1


def test_from_fruit_to_bottle(place, cordial):
    weigh_all(place, cordial)
    done = send(place, cordial, event("finished", volume_ml=1700, place="cold room", signed=True))
    assert state(done)["status"] == "finished"
    lot = Lot.objects.get()
    assert (lot.code, lot.amount, lot.place, lot.version_number) == ("L0001", 1700.0, "cold room", 1)
    cooled = datetime.now(UTC).astimezone()
    assert lot.use_by in {cooled.date() + timedelta(days=d) for d in (3, 4, 5)}
    assert (
        lot.use_by_reason.text()
        == "5 days at 5 °C or colder, counted from the mixing: a sharp cordial, not heated through, no barrier shown (Sea buckthorn juice)."
    )
    assert StockItem.objects.get().remaining_g == Decimal("2660.0"), "the delivery falls by what was used"
    late = event("noted", text="late")
    for _ in range(2):
        after = send(place, cordial, late).data
    assert (after["late"], after["state"]) == (1, done.data["state"]), "what comes after the finish is kept, and changes nothing"


@pytest.mark.parametrize(
    ("steps", "moments", "use_by"),
    [
        # Mixed at 23:10 UTC on the 2nd, which is the 3rd in Berlin: five days, the 3rd counted, end on the 7th.
        ({}, {"s1": "23:10", "s2": "23:20", "s3": "23:25", "s4": "23:30"}, "2026-03-07"),
        # Mixed on the 2nd, heated, and cooled at 23:30 UTC.
        ({"s3": {"verb": "dissolve", "temperature_c": 75}}, {"s1": "20:00", "s2": "20:10", "s3": "20:20", "s4": "23:30"}, "2026-03-07"),
        ({}, {"s1": "20:00", "s2": "20:10", "s3": "20:20", "s4": "23:30"}, "2026-03-06"),
    ],
)
def test_use_by_counts_from_the_mixing_or_from_the_logged_cool_down_in_the_house_zone(place, steps, moments, use_by):
    body = deepcopy(FORM)
    body["steps"] = [{**step, **steps.get(step["id"], {})} for step in body["steps"]]
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    cordial = place.run(place.spec(body=body), ago=timedelta(days=400), mass_g=1340)
    for step, lines in {"s1": ["juice"], "s2": ["sugar"], "s3": ["malic"], "s4": []}.items():
        at = f"2026-03-02T{moments[step]}:00+00:00"
        for line in lines:
            state(send(place, cordial, event("weighed", at=at, line=line, mass_g={"juice": 1340, "sugar": 695, "malic": 5.5}[line])))
        state(send(place, cordial, event("step_done", at=at, step=step)))
    send(
        place,
        cordial,
        event("step_done", at="2026-03-03T08:00:00+00:00", step="s5"),
        event("finished", at="2026-03-03T08:05:00+00:00", volume_ml=1700, signed=True),
    )
    assert Lot.objects.get().use_by.isoformat() == use_by


def test_finishing_early_or_with_nothing_is_refused(place, cordial):
    early = send(place, cordial, event("finished", volume_ml=900))
    assert (early.status_code, early.data["detail"]) == (422, "5 steps are not done. Do them or skip them, then finish.")
    weigh_all(place, cordial)
    for volume in (0, -3, "much"):
        refused = send(place, cordial, event("finished", volume_ml=volume, signed=True))
        assert refused.status_code == 422
        assert refused.data["where"] == "body/volume_ml"
    assert not Lot.objects.exists()


def test_one_bad_event_keeps_none(place, cordial):
    refused = send(place, cordial, event("weighed", line="juice", mass_g=1300), event("weighed", line="juice", mass_g=-1))
    assert refused.status_code == 422
    assert RunEvent.objects.filter(run=cordial).count() == 1, "only the start"


@pytest.mark.parametrize(
    ("bad", "text"),
    [
        ({"kind": "read", "property": "brix_reading", "value": 400}, "400 cannot be: a refractometer reads from 0 to 85 °Bx."),
        ({"kind": "weighed", "line": "gin", "mass_g": 4}, "There is no line “gin” in this run."),
        ({"kind": "dance"}, "“dance” is no kind of event"),
        ({"kind": "noted", "text": "x", "at": "yesterday"}, "“yesterday” is no time"),
    ],
)
def test_bad_events_are_refused_in_words(place, cordial, bad, text):
    refused = send(place, cordial, event(bad.pop("kind"), at=bad.pop("at", None), **bad))
    assert refused.status_code == 422
    assert refused.data["detail"].startswith(text)


@pytest.mark.parametrize(
    ("scale", "where"),
    [
        ({"mass_g": 0}, "mass_g"),
        ({"mass_g": -5}, "mass_g"),
        ({"volume_ml": 0}, "volume_ml"),
        ({"mass_g": 5, "volume_ml": 5}, "mass_g"),
        ({"mass_g": 1e12}, "mass_g"),
    ],
)
def test_a_batch_of_nothing_is_not_started(place, scale, where):
    spec = place.spec()
    refused = place.apis["maker"].post("/runs", {"id": str(uuid4()), "spec": str(spec.pk), **scale})
    assert (refused.status_code, refused.data["where"]) == (422, where)
    assert not Run.objects.exists()


def test_what_was_never_published_cannot_be_made(place):
    spec = place.spec(published=False)
    refused = place.apis["maker"].post("/runs", {"id": str(uuid4()), "spec": str(spec.pk)})
    assert refused.data["detail"] == "This spec has never been published. Ask your lead to check and publish it."


def test_the_label_says_what_a_bottle_must_say(place, cordial):
    weigh_all(place, cordial)
    send(place, cordial, event("finished", volume_ml=1700, place="cold room", signed=True))
    lot = Lot.objects.get()
    answer = place.apis["reader"].client.get(f"/api/lots/{lot.code}/label.pdf")
    assert answer["Content-Type"] == "application/pdf"
    pages = PdfReader(io.BytesIO(answer.content)).pages
    assert len(pages) == 1
    text = " ".join(pages[0].extract_text().split())
    for part in (
        "Sea buckthorn cordial",
        "L0001",
        "version 1",
        "1 700 mL",
        f"Use by {lot.use_by:%a %d %b %Y}",
        "by Maker",
        "Allergens:",
        "none listed. Answer for the drink; ask the lead.",
        "a sharp cordial",
        "local food code",
        "Tern House",
    ):
        assert part in text, (part, text)
    assert place.apis["stranger"].client.get(f"/api/lots/{lot.code}/label.pdf").status_code == 404


def test_the_shift_shows_what_waits_what_is_over_and_what_turns(place, cordial):
    weigh_all_but_cooling = [("juice", 1340, "s1"), ("sugar", 695, "s2"), ("malic", 5.5, "s3")]
    for line, mass, step in weigh_all_but_cooling:
        send(place, cordial, event("weighed", line=line, mass_g=mass), event("step_done", step=step))
    begun = datetime.now(UTC) - timedelta(minutes=50)
    send(place, cordial, event("step_begun", at=begun.isoformat(), step="s4"))
    shift = place.apis["reader"].get("/shift").data
    (row,) = shift["runs"]
    assert row["waiting"]["kind"] == "cool"
    assert datetime.fromisoformat(row["waiting"]["until"]) - begun == pytest.approx(timedelta(minutes=45), abs=timedelta(seconds=1))
    assert shift["hands"] == cordial, "five minutes over: it needs hands"
    send(place, cordial, event("step_done", step="s4"), event("step_done", step="s5"), event("finished", volume_ml=1700, signed=True))
    shift = place.apis["reader"].get("/shift").data
    assert shift["runs"] == []
    assert [lot["code"] for lot in shift["turns"] + shift["shelf"]] == ["L0001"]
    assert shift["shelf_more"] == 0


def test_the_shift_shows_all_that_turns_and_says_how_much_it_leaves_out(place, cordial):
    weigh_all(place, cordial)
    send(place, cordial, event("finished", volume_ml=1700, signed=True))
    lot, today = Lot.objects.get(), datetime.now(UTC).date()
    for n in range(130):
        lot.pk, lot.code, lot.use_by = None, f"L9{n:03}", today + timedelta(days=1 if n < 62 else 9)
        lot.save(force_insert=True)
    shift = place.apis["reader"].get("/shift").data
    assert (len(shift["turns"]), len(shift["shelf"])) == (62, 60)
    assert len(shift["turns"]) + len(shift["shelf"]) + shift["shelf_more"] == 131


def test_lists_count_their_queries(place, django_assert_max_num_queries):
    spec = place.spec()
    for _ in range(4):
        place.run(spec)
    for path in ("/runs", "/shift", "/lots", "/stock"):
        with django_assert_max_num_queries(8):
            place.apis["maker"].get(path)


def test_a_delivery_read_out_of_range_changes_nothing(place):
    item = place.delivery()
    for body, where in (
        ({"brix_reading": 120}, "brix_reading"),
        ({"brix_reading": -1}, "brix_reading"),
        ({"acid_g_100ml": 99}, "acid_g_100ml"),
        ({}, "brix_reading"),
    ):
        refused = place.apis["maker"].post(f"/stock/{item.pk}/readings", body)
        assert (refused.status_code, refused.data["where"]) == (422, where)
    both = place.apis["maker"].post(f"/stock/{item.pk}/readings", {"brix_reading": 3.0, "acid_g_100ml": 6.0})
    assert both.data["code"] == "readings_disagree"
    item.refresh_from_db()
    assert item.makeup is None
    assert item.readings.count() == 0


def test_a_reading_replaces_the_typical_value_for_that_delivery_alone(place):
    first, second = place.delivery(), place.delivery()
    place.apis["maker"].post(f"/stock/{first.pk}/readings", {"brix_reading": 8.2})
    rows = {row["id"]: row["view"] for row in place.apis["reader"].get("/stock").data["items"]}
    assert rows[str(first.pk)]["brix_read"] is True
    assert rows[str(first.pk)]["figures"]["brix_reading"]["value"] == pytest.approx(8.2)
    assert rows[str(second.pk)]["brix_read"] is False
    assert rows[str(second.pk)]["figures"]["brix_reading"]["value"] == pytest.approx(10.0)


def test_what_went_in_by_mistake_is_pinned_to_the_run(place, cordial):
    send(
        place,
        cordial,
        event("weighed", line="juice", mass_g=1340),
        event("step_done", step="s1"),
        event("weighed", line="sugar", mass_g=695),
    )
    found = state(send(place, cordial, event("wrong_jar", line="sugar", material="demerara")))
    assert found["notes"][0].startswith("Demerara went in instead of white sugar")
    assert Run.objects.get(pk=cordial).snapshot["materials"]["demerara"]["name"] == "Demerara"
    refused = send(place, cordial, event("wrong_jar", line="sugar", material="moon_dust"))
    assert (refused.status_code, refused.data["where"]) == (422, "body/material")


def test_clocks_that_are_wrong_change_no_order(place, cordial):
    """Two devices, one a day ahead and one a day behind: what counts is what each had seen, not what its clock says."""
    ahead, behind = (datetime.now(UTC) + timedelta(days=days) for days in (1, -1))
    first = {**event("weighed", at=ahead.isoformat(), line="juice", mass_g=1000), "device": "ahead", "lamport": 1}
    second = {**event("weighed", at=behind.isoformat(), line="juice", mass_g=1340, replaces=first["id"]), "device": "behind", "lamport": 2}
    found = state(send(place, cordial, second, first))
    juice = found["steps"][0]["lines"][0]
    assert (juice["actual_g"], found["conflicts"]) == (1340, [])
    waits = {**event("step_begun", at=ahead.isoformat(), step="s1"), "lamport": 3}
    read = {**event("read", at=behind.isoformat(), property="temperature_c", value=12, step="s1"), "lamport": 4}
    assert state(send(place, cordial, waits, read))["current"]["step"] == "s1", "a reading before its step began is taken at its beginning"


def test_the_longest_name_goes_all_the_way_to_the_bottle_its_papers_and_a_trial(place):
    lead, name = place.apis["lead"], ("Sea buckthorn and roasted dandelion root " * 3)[:119] + "w"
    made = lead.post("/specs", {"name": name, "family": "cordial", "body": {**FORM, "name": name}}).data
    assert lead.post(f"/specs/{made['id']}/publish", {"revision": 1, "why": "first"}).status_code == 201
    run = str(uuid4())
    assert lead.post("/runs", {"id": run, "spec": made["id"]}).status_code == 201
    weigh_all(place, run)
    state(send(place, run, event("finished", volume_ml=1250, signed=True)))
    lot = Lot.objects.get(run=run)
    assert lot.name == name
    papers = (f"/specs/{made['id']}/card.pdf", f"/lots/{lot.code}/label.pdf", f"/specs/{made['id']}/export")
    assert [lead.get(path).status_code for path in papers] == [200, 200, 200]
    assert lead.post(f"/specs/{made['id']}/versions/1/branch", {"name": name}).status_code == 201
    assert lead.post(f"/specs/{made['id']}/versions/1/withdraw", {"why": "too sharp"}).status_code == 200
