"""Drafts, conflicts, publishing, and the workbench's sums over HTTP."""

import json
from copy import deepcopy

import pytest
from django.conf import settings

from tests.core.cordial import FORM
from ulsek.core.operations.catalogue import VERBS
from ulsek.site.management.commands.openapi import description
from ulsek.specs.models import SideDraft, Version


def renamed(name):
    return {**deepcopy(FORM), "name": name}


def test_a_draft_is_kept_as_typed_even_where_it_cannot_be_read(place):
    spec = place.spec(published=False)
    half = deepcopy(FORM)
    half["steps"][1]["lines"][0]["amount"]["ratio"] = "0,"
    saved = place.apis["lead"].put(f"/specs/{spec.pk}/draft", {"spec": half}, 1)
    assert saved.status_code == 200
    assert saved["ETag"] == '"2"'
    assert saved.data["result"]["refusals"][0]["where"] == "steps/s2/lines/sugar/amount/ratio"
    again = place.apis["lead"].get(f"/specs/{spec.pk}/draft").data
    assert again["body"]["steps"][1]["lines"][0]["amount"]["ratio"] == "0,"
    assert again["revision"] == 2


def test_two_tabs_that_write_at_once_lose_nothing(place):
    spec = place.spec(published=False)
    lead = place.apis["lead"]
    assert lead.put(f"/specs/{spec.pk}/draft", {"spec": renamed("Hers")}, 1).status_code == 200
    lost = lead.put(f"/specs/{spec.pk}/draft", {"spec": renamed("His")}, 1)
    assert lost.status_code == 412
    assert lost.data["detail"].startswith("Lead saved this draft while you were writing. Yours is kept beside it as “Lead,")
    assert (lost.data["theirs"]["name"], lost.data["mine"]["name"]) == ("Hers", "His")
    assert SideDraft.objects.get(name=lost.data["kept_as"]).body["name"] == "His"
    assert lead.get(f"/specs/{spec.pk}/draft").data["body"]["name"] == "Hers"


def test_a_save_whose_answer_was_lost_is_known_again(place):
    """The tab saved, the power went before the answer: it sends again from the revision it knows, and that is no conflict."""
    spec = place.spec(published=False)
    lead = place.apis["lead"]
    path = f"/specs/{spec.pk}/draft"
    assert lead.put(path, {"spec": renamed("One"), "writer": "tab-a"}, 1).status_code == 200
    assert lead.put(path, {"spec": renamed("Two"), "writer": "tab-a"}, 1).data["revision"] == 3
    assert lead.put(path, {"spec": renamed("Three"), "writer": "tab-b"}, 3).status_code == 200
    assert lead.put(path, {"spec": renamed("Four"), "writer": "tab-a"}, 3).status_code == 412


def test_publishing_makes_a_version_that_never_changes(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    spec = place.spec(published=False)
    done = place.apis["lead"].post(f"/specs/{spec.pk}/publish", {"revision": 1, "why": "first"})
    assert (done.status_code, done.data["number"]) == (201, 1)
    version = Version.objects.get(spec=spec)
    assert version.materials["sea_buckthorn_juice"]["makeup"]["brix_read"] is True
    assert version.final["brix"]["value"] == pytest.approx(40.1, abs=0.2)
    with pytest.raises(TypeError, match="a published version is never changed"):
        version.save()
    again = place.apis["lead"].post(f"/specs/{spec.pk}/publish", {"revision": 1, "why": "again"})
    assert (again.status_code, again.data["detail"]) == (422, "Nothing has changed since version 1. Change something, or leave it.")


def test_publishing_in_two_tabs_is_told(place):
    spec = place.spec(published=False)
    lead = place.apis["lead"]
    lead.put(f"/specs/{spec.pk}/draft", {"spec": renamed("Changed")}, 1)
    stale = lead.post(f"/specs/{spec.pk}/publish", {"revision": 1, "why": "stale"})
    assert stale.status_code == 412
    assert not Version.objects.exists()


def test_what_stops_a_spec_stops_its_publishing(place):
    rich = deepcopy(FORM)
    rich["steps"][1]["lines"][0]["amount"]["ratio"] = 2.5
    spec = place.spec(published=False, body=rich)
    stopped = place.apis["lead"].post(f"/specs/{spec.pk}/publish", {"revision": 1, "why": "sweet"})
    assert (stopped.status_code, stopped.data["code"], stopped.data["where"]) == (422, "sugar_undissolved", "steps/s2")
    nameless = place.apis["lead"].post(f"/specs/{spec.pk}/publish", {"revision": 1, "why": " "})
    assert nameless.data["detail"] == "A version needs its why. Say in one line what is new."


@pytest.mark.parametrize(
    ("body", "where"),
    [
        ({"spec": {"format": "other"}}, "format"),
        ({"spec": {"format": "ulsek.spec", "steps": "x"}}, "format"),
        ({}, "spec"),
        ({"spec": 4}, "spec"),
    ],
)
def test_what_is_no_spec_is_not_saved(place, body, where):
    spec = place.spec(published=False)
    refused = place.apis["lead"].put(f"/specs/{spec.pk}/draft", body, 1)
    assert refused.status_code == 422
    assert where in refused.data["where"]
    huge = {"spec": {**FORM, "note": "x" * 300_000}}
    assert place.apis["lead"].put(f"/specs/{spec.pk}/draft", huge, 1).status_code == 422


def test_the_flag_and_taking_what_it_asks_for(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    lead = place.apis["lead"]
    way = lead.post("/solve", {"spec": FORM, "sugar_g_100ml": 42.0, "acid_g_100ml": 2.4}).data
    assert [item["material"] for item in way["additions"]] == ["water", "malic_acid"]
    body = FORM
    for item in way["additions"]:
        body = lead.post("/take", {"spec": body, "material": item["material"], "mass_g": item["mass_g"]}).data["spec"]
    final = lead.post("/evaluate", {"spec": body}).data["final"]
    assert final["sugar_g_100ml"]["value"] == pytest.approx(42.0, abs=0.6)
    nowhere = lead.post("/solve", {"spec": FORM, "sugar_g_100ml": 129.0, "acid_g_100ml": 0.0})
    assert nowhere.status_code == 422
    assert "closest is" in nowhere.data["detail"]


def test_the_working_of_a_number(place):
    sheet = place.apis["reader"].post("/working", {"spec": FORM, "step": "s5", "name": "acid_g_100ml"}).data
    assert sheet["name"] == "Titratable acid"
    assert [line["name"] for line in sheet["inputs"]][-2:] == ["titratable, as citric", "volume"]


def test_the_list_counts_its_queries(place, django_assert_max_num_queries):
    for _ in range(3):
        place.spec()
    with django_assert_max_num_queries(8):
        assert len(place.apis["lead"].get("/specs").data["items"]) == 3


def test_the_api_description_in_docs_is_current():
    assert (settings.FORMATS / "openapi.json").read_text(encoding="utf-8") == description(), "run bin/types"


def test_a_missing_if_match_is_told(place):
    spec = place.spec(published=False)
    bare = place.apis["lead"].call("put", f"/specs/{spec.pk}/draft", {"spec": FORM})
    assert bare.status_code == 422
    odd = place.apis["lead"].put(f"/specs/{spec.pk}/draft", {"spec": FORM}, "newest")
    assert odd.data["detail"].startswith("The save does not say which revision it was written from")
    assert json.dumps(odd.data)


def test_the_words_offer_every_verb_with_its_bounds(place):
    answer = place.apis["reader"].get("/words").json()
    verbs = {verb["verb"]: verb for verb in answer["verbs"]}
    assert set(verbs) == set(VERBS)
    kept = next(param for param in verbs["freeze_drip"]["params"] if param["name"] == "kept")
    assert (kept["label"], kept["unit"], kept["usual"]) == ("keep the first", "of its weight", 0.3)
    assert {"key": "shrub", "word": "Shrubs"} in answer["families"]


def test_materials_are_found_by_what_people_call_them_and_what_the_house_has_stands_first(place):
    place.delivery()

    def found(words):
        return [item["key"] for item in place.apis["reader"].get(f"/materials?find={words}").json()["items"]]

    assert found("vitamin c")[0] == "ascorbic_acid"
    assert "bergamot" in found("bergamota")
    assert found("")[0] in found("sea buckthorn"), "the house has had that"
    assert found("moonlight") == []


def test_a_spec_of_many_vessels_is_worked_out_over_http(place):
    body = json.loads((settings.ROOT / "demo" / "specs" / "stretched-bergamot.json").read_text(encoding="utf-8"))
    answer = place.apis["lead"].post("/evaluate", {"spec": body}).json()
    assert answer["refusals"] == []
    turns = [step["id"] for step in answer["steps"] if not step["continues"]]
    assert turns == ["s1", "s5", "s9"], "board, bowl, jug"
    assert answer["by_products"][0]["left_g"] == 0
    assert answer["final"]["ph"]["low"] < answer["final"]["ph"]["value"] < answer["final"]["ph"]["high"]


def test_a_draft_that_lost_is_taken_or_thrown_away_and_nothing_else_is_lost(place):
    spec = place.spec(published=False)
    api, path = place.apis["lead"], f"/specs/{spec.pk}/draft"
    api.put(path, {"spec": renamed("Hers"), "writer": "a"}, 1)
    api.put(path, {"spec": renamed("His"), "writer": "b"}, 1)
    beside = api.put(path, {"spec": renamed("Hers again"), "writer": "a"}, 2).data["beside"]
    assert len(beside) == 1, "whoever saved first is told too"
    side = f"/side-drafts/{beside[0]['id']}"
    assert api.call("post", f"{side}/take", {}, **{"If-Match": '"1"'}).status_code == 412
    assert place.apis["maker"].call("post", f"{side}/take", {}, **{"If-Match": '"3"'}).status_code == 403
    assert api.call("post", f"{side}/take", {}, **{"If-Match": '"3"'}).data["revision"] == 4
    now = api.get(path).data
    assert now["body"]["name"] == "His"
    kept = SideDraft.objects.get(pk=now["beside"][0]["id"])
    assert kept.body["name"] == "Hers again"
    assert place.apis["stranger"].call("delete", f"/side-drafts/{kept.pk}").status_code == 404
    assert api.call("delete", f"/side-drafts/{kept.pk}").status_code == 204
    assert SideDraft.objects.count() == 0
