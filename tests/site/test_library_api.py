"""The library: found by any word, by what it uses, by state and shelf; nested preps; open forms in and out; hostile files."""

import io
import json
import zipfile
from copy import deepcopy
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from tests.core.cordial import FORM, JUICE
from tests.site.conftest import event
from ulsek.core.spec.json_form import canonical
from ulsek.jobs.models import Job
from ulsek.jobs.work import Progress
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.export import library_archive
from ulsek.specs.models import Draft, Spec
from ulsek.stores.models import HouseMaterial
from ulsek.team.models import HistoryRow

DRINK = {
    "format": "ulsek.spec",
    "version": 1,
    "id": "long",
    "name": "Sea buckthorn long",
    "family": "drink",
    "serve_ml": 150,
    "vessels": [{"id": "glass"}],
    "steps": [
        {
            "id": "s1",
            "verb": "build",
            "vessel": "glass",
            "lines": [
                {"id": "cordial", "material": "cordial", "amount": {"kind": "fixed", "mass_g": 40}},
                {"id": "water", "material": "water", "amount": {"kind": "fixed", "mass_g": 100}},
            ],
        }
    ],
}


def made(place, body=DRINK, publish=True):
    spec = start_spec(place.members["lead"], NewSpec(body["name"], body["family"]), body)
    return (spec, publish_spec(place.members["lead"], spec.pk, 1, "first")) if publish else (spec, None)


def names(answer):
    return [item["name"] for item in answer.data["items"]]


def test_the_library_finds_by_word_material_family_and_state(place):
    place.spec()
    made(place)
    api = place.apis["reader"]
    assert names(api.get("/specs?find=sea+LONG")) == ["Sea buckthorn long"]
    assert names(api.get("/specs?find=malic")) == ["Sea buckthorn cordial"]
    assert names(api.get(f"/specs?material={JUICE}")) == ["Sea buckthorn cordial"]
    assert names(api.get("/specs?material=cordial")) == ["Sea buckthorn long"]
    assert names(api.get("/specs?family=drink")) == ["Sea buckthorn long"]
    assert names(api.get("/specs?state=draft")) == []
    assert api.get("/specs?on_shelf=true").data["total"] == 0
    assert place.apis["stranger"].get("/specs?find=sea").data["total"] == 0


def test_a_family_is_found_by_every_name_that_people_have_for_it(place):
    api = place.apis["lead"]
    assert api.get("/specs?find=oleo+saccharum").data["total"] == 0
    made_ = api.post("/specs", {"name": "Skins in sugar", "family": "oil_sugar", "school": "peel packed in sugar"})
    assert made_.status_code == 201, made_.data
    for said in ("oleo saccharum", "oleo", "Oleo-Saccharum", "skins sugar"):
        assert names(place.apis["reader"].get(f"/specs?find={said}")) == ["Skins in sugar"], said


def test_what_a_draft_uses_follows_its_edits(place):
    spec = place.spec()
    body = deepcopy(FORM)
    body["steps"][1]["lines"][0]["material"] = "honey"
    place.apis["lead"].put(f"/specs/{spec.pk}/draft", {"spec": body}, 1)
    assert names(place.apis["lead"].get("/specs?material=honey")) == ["Sea buckthorn cordial"]
    assert names(place.apis["lead"].get("/specs?find=white+sugar")) == []


def test_a_drink_draws_on_what_the_house_makes(place):
    place.spec()
    spec, version = made(place)
    assert version.final["keeps_days"] == 5, "the cordial's date caps it"
    tree = place.apis["reader"].get(f"/specs/{spec.pk}/tree").data
    assert [item["name"] for item in tree["draws_on"]] == ["Sea buckthorn cordial"]
    above = place.apis["reader"].get(f"/specs/{tree['draws_on'][0]['id']}/tree").data
    assert [item["name"] for item in above["drawn_on_by"]] == ["Sea buckthorn long"]


def test_a_spec_that_nests_itself_is_refused_at_its_line(place):
    cordial = place.spec()
    made(place)
    body = deepcopy(FORM)
    body["steps"][1]["lines"].append({"id": "round", "material": "long", "amount": {"kind": "fixed", "mass_g": 10}})
    saved = place.apis["lead"].put(f"/specs/{cordial.pk}/draft", {"spec": body}, 1)
    fault = next(item for item in saved.data["result"]["refusals"] if item["code"] == "circle")
    assert fault["where"] == "steps/s2/lines/round/material"
    refused = place.apis["lead"].post(f"/specs/{cordial.pk}/publish", {"revision": 2, "why": "x"})
    assert (refused.status_code, refused.data["code"]) == (422, "circle")


def test_to_pour_at_counts_back_and_writes_a_calendar(place):
    place.spec()
    spec, _ = made(place)
    at = (timezone.now() + timedelta(hours=5)).strftime("%Y-%m-%dT%H:%M")
    found = place.apis["reader"].get(f"/specs/{spec.pk}/start-by?at={at}%2B00:00").data
    assert [item["name"] for item in found] == ["Sea buckthorn cordial", "Sea buckthorn long"]
    assert found[0]["ready_by"] == found[1]["start_by"]
    assert not found[1]["too_late"]
    soon = place.apis["reader"].get(f"/specs/{spec.pk}/start-by?at=2020-01-01T18:00").data
    assert all(item["too_late"] for item in soon)
    calendar = place.apis["reader"].client.get(f"/api/specs/{spec.pk}/start-by.ics?at={at}").content.decode()
    assert calendar.count("BEGIN:VEVENT") == 2
    assert "SUMMARY:Start Sea buckthorn cordial (for Sea buckthorn long)" in calendar
    assert place.apis["reader"].get(f"/specs/{spec.pk}/start-by?at=friday").data["where"] == "at"


def test_each_way_to_start_begins_from_what_there_is(place):
    api = place.apis["lead"]
    schools = api.get("/families/cordial/schools").data
    assert len(schools) == 2
    from_template = api.post("/specs", {"name": "Frame", "family": "cordial", "school": schools[1]["school"]}).data
    assert Draft.objects.get(spec=from_template["id"]).body["steps"][0]["verb"] == "blend"
    copied = api.post("/specs", {"name": "Copy", "family": "cordial", "body": FORM}).data
    again = api.post("/specs", {"name": "Copy", "family": "cordial", "body": FORM}).data
    assert (copied["key"], again["key"]) == ("cordial", "cordial-2"), "a file's id stays where nobody has it"
    read = api.post("/read", {"text": "Mix\n1 kg honey\n500 g water\n\nStir the honey into the water."}).data
    assert (read["kind"], read["not_understood"]) == ("recipe text", [])
    run = place.run()
    place.apis["maker"].post(f"/runs/{run}/events", {"events": [event("weighed", line="juice", mass_g=900), event("step_done", step="s1")]})
    draft = api.get(f"/runs/{run}/draft?name=Caught").data["spec"]
    assert draft["steps"][0]["lines"][0]["amount"]["mass_g"] == 900
    assert api.post("/specs", {"name": "x", "family": "cordial", "school": "by moonlight"}).data["where"] == "school"
    assert api.post("/specs", {"name": "x", "body": {"format": "else"}}).data["where"] == "body/format"


def test_two_recipes_of_one_text_are_asked_and_answered_together(place):
    api = place.apis["lead"]
    text = "Mint syrup\n1.500 g sugar\n1 kg water\na handful of mint\nStir, strain.\n\nHoney syrup\n1.200 g honey\n500 g water\nStir."
    bodies = [part["read"]["body"] for part in api.post("/read-many", {"text": text}).data]
    assert [body["name"] for body in bodies] == ["Mint syrup", "Honey syrup"]
    asked = api.post("/shared-questions", {"specs": bodies}).data
    assert [(question["key"].split("|")[0], question["drafts"]) for question in asked] == [("thousands", [0, 1]), ("imprecise", [0])]
    made = api.post("/answered-together", {"specs": bodies, "key": "thousands", "answer": 0}).data
    assert [question["drafts"] for question in api.post("/shared-questions", {"specs": [item["spec"] for item in made]}).data] == [[0]]
    gone = api.post("/answered-together", {"specs": [item["spec"] for item in made], "key": "thousands", "answer": 0})
    assert (gone.status_code, gone.data["where"]) == (422, "key")
    assert api.post("/shared-questions", {"specs": bodies * 31}).status_code == 422
    assert not Spec.objects.filter(house=place.house).exists()


def test_a_file_out_and_in_again_is_the_same_bytes(place):
    spec = place.spec()
    api = place.apis["lead"]
    out = api.client.get(f"/api/specs/{spec.pk}/export").content.decode()
    read = api.post("/read", {"text": out}).data
    assert (read["kind"], read["not_understood"], canonical(read["body"])) == ("spec file", [], out)
    Spec.objects.filter(pk=spec.pk).update(key="elsewhere")
    started = api.post("/specs", {"name": read["body"]["name"], "family": "cordial", "body": read["body"]}).data
    assert canonical(Draft.objects.get(spec=started["id"]).body) == out
    for form, begins in (("recipe", '{\n  "@context": "https://schema.org"'), ("markdown", "# Sea buckthorn cordial")):
        assert api.client.get(f"/api/specs/{spec.pk}/export?form={form}").content.decode().startswith(begins)
    assert api.get(f"/specs/{spec.pk}/export?form=stone").data["where"] == "form"


def test_a_house_s_library_is_readable_without_ulsek(place):
    place.spec()
    start_spec(place.members["lead"], NewSpec("Empty", "other"))
    job = Job.objects.create(house=place.house, person=place.members["reader"].person, kind="library", asked_at=timezone.now())
    archive = zipfile.ZipFile(io.BytesIO(library_archive(place.members["reader"], Progress(job)).data))
    assert set(archive.namelist()) == {
        "specs/cordial.json",
        "specs/empty.json",
        "cards/cordial.md",
        "cards/empty.md",
        "materials.csv",
        "README.txt",
    }
    embedded = json.loads(archive.read("specs/cordial.json"))["materials"]
    assert set(embedded) == {JUICE, "white_sugar", "malic_acid"}
    assert "Nothing is made yet" in archive.read("cards/empty.md").decode()
    assert archive.read("materials.csv").decode().splitlines()[0].startswith("key,name,kind")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{" + '"a":{' * 60 + "}" * 61, "levels deep"),
        ('{"format": "ulsek.spec", "version": 1, "name"', "cut off"),
        ('{"format": "ulsek.spec", "version": 9, "name": "x", "steps": []}', "Version 9 of the spec file is not known here"),
        ('{"format": "other.recipe", "name": "x"}', "This is no Ulsek spec file"),
        ("x" * 1_000_001, "too long"),
        ("q w e r t y", "No ingredient and no step can be read"),
        ("", "nothing to read"),
    ],
)
def test_files_that_are_not_ours_are_refused_in_words(place, text, words):
    answer = place.apis["lead"].post("/read", {"text": text})
    assert answer.status_code in (413, 422)
    assert words in answer.data["detail"]


def test_fifty_megabytes_are_refused_before_they_are_read(place):
    answer = place.apis["lead"].client.post("/api/read", data='{"text": "' + "x" * 50_000_000 + '"}', content_type="application/json")
    assert (answer.status_code, answer.json()["code"]) == (413, "too_long")


def test_attachments_are_kept_given_back_and_never_run(place):
    spec = place.spec()
    client = place.apis["lead"].client
    png = SimpleUploadedFile("colour.png", b"\x89PNG\r\n" + b"0" * 40, content_type="image/png")
    kept = client.post(f"/api/specs/{spec.pk}/attachments", {"file": png})
    assert kept.status_code == 201
    given = client.get(f"/api/attachments/{kept.json()['id']}")
    assert (given.content[:4], given["Content-Disposition"], given["Content-Security-Policy"]) == (b"\x89PNG", "attachment", "sandbox")
    assert place.apis["stranger"].client.get(f"/api/attachments/{kept.json()['id']}").status_code == 404
    for name, data, kind in (
        ("x.html", b"<script>1</script>", "text/html"),
        ("x.png", b"<script>1</script>", "image/png"),
        ("x.svg", b"<svg onload=1>", "image/svg+xml"),
        ("big.txt", b"a" * 2_000_001, "text/plain"),
    ):
        refused = client.post(f"/api/specs/{spec.pk}/attachments", {"file": SimpleUploadedFile(name, data, content_type=kind)})
        assert refused.status_code == 422, name
    assert client.delete(f"/api/attachments/{kept.json()['id']}").status_code == 204
    assert place.apis["lead"].get(f"/specs/{spec.pk}/attachments").data["items"] == []


def test_materials_come_in_as_a_table_and_a_bad_row_is_named(place):
    table = "key,name,kind,sugar_g\nhouse_gum,House gum syrup,sweetener,62\nbad,Bad,sweetener,much\n"
    seen = place.apis["lead"].post("/materials.csv", {"text": table})
    assert (list(seen.data["materials"]), seen.data["not_understood"]) == (["house_gum"], ["row 3: a number cannot be read"])
    assert place.apis["lead"].get("/materials?find=gum+syrup").data["items"] == [], "nothing is kept before it is told"
    place.apis["lead"].post("/materials.csv", {"text": table, "keep": True})
    assert [item["key"] for item in place.apis["lead"].get("/materials?find=gum+syrup").data["items"]] == ["house_gum"]


def test_materials_that_came_with_a_file_are_added_and_change_none_that_the_house_has(place):
    api = place.apis["lead"]
    gum = {
        "name": "House gum",
        "kind": "sweetener",
        "makeup": {"by": "substance", "g_per_100g": {"sucrose": 62, "water": 38}, "source": "its label"},
    }
    body = {**FORM, "materials": {"house_gum": gum, "white_sugar": gum, "broken": {"makeup": 3}, "guess": {**gum, "taken_as": "a syrup"}}}
    read = api.post("/read-many", {"text": json.dumps(body)}).data[0]["read"]
    assert read["new_materials"] == [{"key": "house_gum", "name": "House gum"}]
    assert any("makeup" in text or "composition" in text.lower() for text in read["not_understood"])
    assert set(read["body"]["materials"]) == {"house_gum", "white_sugar", "guess"}, (
        "what cannot be used is named, and is no part of the draft"
    )
    refused = api.post("/new-materials", {"materials": {"house_gum": gum, "white_sugar": gum}})
    assert (refused.status_code, refused.data["where"]) == (422, "materials/white_sugar")
    assert not HouseMaterial.objects.filter(house=place.house).exists(), "refused whole"
    assert api.post("/new-materials", {"materials": {"x" * 81: gum}}).status_code == 422
    assert api.post("/new-materials", {"materials": {"house_gum": gum}}).status_code == 204
    assert HouseMaterial.objects.get(house=place.house).body == gum
    assert api.post("/read-many", {"text": json.dumps(body)}).data[0]["read"]["new_materials"] == []


def test_which_citric_acid_stands_on_the_shelf_is_asked_once_in_a_house(place):
    api, text = place.apis["lead"], {"text": "Base\n500 g water\n20 g citric acid\nStir."}
    assert [doubt["code"] for doubt in api.post("/read", text).data["doubts"]] == ["on_the_shelf"]
    shelf = {"answer": "monohydrate"}
    assert place.apis["maker"].put("/house/shelf", shelf, 1).status_code == 403
    refused = api.put("/house/shelf", {"answer": "salt"}, 1)
    assert (refused.status_code, refused.data["where"]) == (422, "answer")
    assert api.put("/house/shelf", shelf, 1).status_code == 204
    read = api.post("/read", text).data
    assert (read["doubts"], read["body"]["steps"][0]["lines"][1]["material"]) == ([], "citric_acid_monohydrate")
    assert HistoryRow.objects.filter(action="set_shelf").count() == 1


def test_a_phrase_is_given_to_a_step_by_hand(place):
    api = place.apis["lead"]
    text = "Base\n500 g water\n20 g sugar\nStir. Bottle.\nLovely with 5 g of salt as well."
    body, start = api.post("/read", {"text": text}).data["body"], text.index("5 g")
    found = api.post("/given", {"spec": body, "start": start, "end": start + 11, "step": "s1"}).data
    assert [line["material"] for line in found["spec"]["steps"][0]["lines"]] == ["water", "white_sugar", "salt"]
    assert found["phrases"] == [{"start": start, "end": start + 11, "kind": "line", "at": "l3"}]
    assert api.post("/given", {"spec": body, "start": start, "end": 9999, "step": "s1"}).status_code == 422
    assert place.apis["maker"].post("/given", {"spec": body, "start": 0, "end": 4, "step": "s1"}).status_code == 403


def test_a_typed_step_is_read_and_nonsense_is_told(place):
    read = place.apis["lead"].post("/step-line", {"text": "steep birch tips 9 g 25 min 72 C"}).data
    assert read["step"]["minutes"] == 25
    assert read["step"]["lines"][0]["amount"] == {"kind": "fixed", "written": "9 g"}
    assert read["title"] == "Steep birch tips 25\u00a0min at 72\u00a0°C"
    refused = place.apis["lead"].post("/step-line", {"text": "the moon is out"})
    assert "does not begin with a verb" in refused.data["detail"]


def test_a_material_that_specs_use_is_not_deleted(place):
    api = place.apis["lead"]
    api.post("/materials.csv", {"text": "key,name,kind,sugar_g\nhouse_gum,House gum,sweetener,62\n", "keep": True})
    body = deepcopy(FORM)
    body["steps"][1]["lines"].append({"id": "gum", "material": "house_gum", "amount": {"kind": "fixed", "mass_g": 10}})
    spec = place.spec(published=False, body=body)
    refused = api.call("delete", "/materials/house_gum")
    assert (refused.status_code, refused.data["detail"]) == (422, "House gum is used by Sea buckthorn cordial. Take it out of them first.")
    assert place.apis["maker"].call("delete", "/materials/house_gum").status_code == 403
    api.put(f"/specs/{spec.pk}/draft", {"spec": FORM}, 1)
    assert api.call("delete", "/materials/house_gum").status_code == 204
    assert api.call("delete", "/materials/house_gum").status_code == 404


def test_the_last_made_comes_first_where_that_is_asked_for(place):
    first = start_spec(place.members["lead"], NewSpec("Almond milk", "cordial"), {**FORM, "id": "almond-milk"})
    publish_spec(place.members["lead"], first.pk, 1, "first")
    made = place.spec()
    place.run(made)
    api = place.apis["maker"]
    assert [item["name"] for item in api.get("/specs?state=published").data["items"]] == ["Almond milk", "Sea buckthorn cordial"]
    begun = api.get("/specs?state=published&order=made&limit=1").data
    then = api.get(f"/specs?state=published&order=made&limit=1&cursor={begun['next']}").data
    assert [item["name"] for item in (*begun["items"], *then["items"])] == ["Sea buckthorn cordial", "Almond milk"]
    assert (begun["items"][0]["last_made"] is not None, then["items"][0]["last_made"], then["next"]) == (True, None, None)
    assert api.get(f"/specs/{made.pk}/card").data["driver"] == "Sea buckthorn juice"
