"""Messages of the core in the database: template and values, never what was rendered of them; and what was stored before them."""

import json

import pytest
from django.db import connection

from tests.site.conftest import event
from ulsek.batches.models import Lot, Run

WEIGHED = [event("weighed", line=line, mass_g=mass) for line, mass in (("juice", 500), ("sugar", 259.5), ("malic", 4.0))]


@pytest.fixture
def finished(place):
    """The batch and its lot, finished outside its spec."""
    run = place.run(place.spec(), mass_g=500)
    done = [*WEIGHED, *(event("step_done", step=f"s{n}") for n in range(1, 6))]
    end = event("finished", volume_ml=600, rest="spoon", signed=True)
    assert place.apis["maker"].post(f"/runs/{run}/events", {"events": [*done, end]}).status_code == 200
    return Run.objects.get(pk=run), Lot.objects.get(run=run)


def column(lot, name):
    """What stands in a column of the lot's row."""
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {name} FROM batches_lot WHERE id = %s", [lot.pk])
        return cursor.fetchone()[0]


def rendered(value):
    """Every text of stored JSON that holds a whole sentence outside a template."""
    if isinstance(value, dict):
        inner = [item for key, item in value.items() if key not in ("template", "plural")]
        return [text for item in inner for text in rendered(item)]
    if isinstance(value, list):
        return [text for item in value for text in rendered(item)]
    return [value] if isinstance(value, str) and value.count(" ") > 3 and value.endswith(".") else []


def test_a_lot_and_its_batch_keep_template_and_values(place, finished):
    run, lot = finished
    reason = json.loads(column(lot, "use_by_reason"))
    assert reason["template"] == "{days} at {c} °C or colder, counted from {start}: {because}."
    assert reason["values"]["days"] == {"template": "{n} day", "values": {"n": 5}, "plural": "{n} days"}
    assert json.loads(column(lot, "off_spec"))["template"] == "Outside its spec: {figures}."
    assert column(lot, "ready_why") == ""
    assert run.result["off_spec"]["template"] == "Outside its spec: {figures}."
    assert run.projection["step"] == {"template": "Finished", "values": {}}
    seeds = [line["note"] for step in run.snapshot["spec"]["steps"] for line in step.get("lines", ()) if line.get("note")]
    assert set(rendered(run.result)) <= {*seeds, *lot.cautions}
    answer = place.apis["maker"].get(f"/lots/{lot.code}").data
    assert answer["use_by_reason"].startswith("5 days at 5 °C or colder, counted from the mixing: ")
    assert lot.use_by_reason.text("es").startswith("5 días")


def test_what_was_stored_before_is_shown_as_it_was(place, finished):
    run, lot = finished
    with connection.cursor() as cursor:
        cursor.execute(
            "UPDATE batches_lot SET use_by_reason = 'it {was} so', off_spec = 'too sour', ready_why = 'it rests' WHERE id = %s", [lot.pk]
        )
    Run.objects.filter(pk=run.pk).update(projection={**run.projection, "step": "Steep birch tips"})
    answer = place.apis["maker"].get(f"/lots/{lot.code}").data
    assert [answer[name] for name in ("use_by_reason", "off_spec", "ready_why")] == ["it {was} so", "too sour", "it rests"]
    rows = place.apis["maker"].get("/runs").data["items"]
    assert [row["step"] for row in rows if row["id"] == str(run.pk)] == ["Steep birch tips"]
    old = Lot.objects.get(pk=lot.pk)
    old.save()
    assert column(lot, "off_spec") == '{"template":"{value}","values":{"value":"too sour"}}'
    assert Lot.objects.get(pk=lot.pk).off_spec.text() == "too sour"


def test_a_text_that_was_rendered_is_not_taken_in(finished):
    _, lot = finished
    lot.off_spec = "too sour"
    with pytest.raises(TypeError, match="off_spec keeps a message, not str"):
        lot.save()
