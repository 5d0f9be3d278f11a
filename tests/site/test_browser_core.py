"""The browser's own core, asked as its worker asks it, gives what the site answers: with the house's bundle as the site sends it."""

import json
from copy import deepcopy

import pytest

from tests.core.cordial import FORM
from ulsek.computing.core_digest import core_digest
from ulsek.core.browser.requests import Requests


class Browser:
    """A browser's core with the bundle of a house, asked in JSON."""

    def __init__(self, api):
        self.core = Requests()
        self.ask("use_bundle", api.get("/house-bundle").data)

    def ask(self, name, *given):
        return json.loads(self.core.ask(name, json.dumps(given)))

    def draft(self, body, above=()):
        """(The plain flow, everything) of a draft."""
        plain = self.ask("begin_draft", body, list(above))["ok"]
        while (whole := self.ask("go_on_with_draft")["ok"]) is None:
            pass
        return plain, whole


def without_others(result):
    return {key: value for key, value in result.items() if key != "by_others"}


def scaled(**amounts):
    """The cordial with amounts changed by line."""
    body = deepcopy(FORM)
    for step in body["steps"]:
        for line in step.get("lines", ()):
            line["amount"].update(amounts.get(line["id"], {}))
    return body


def test_every_edit_gives_what_the_site_answers(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    place.house.rules = {
        "format": "ulsek.rules",
        "version": 1,
        "altitude_m": 900,
    }
    place.house.beside = "cups"
    place.house.save()
    api, spec = place.apis["lead"], place.spec()
    browser, revision = Browser(api), api.get(f"/specs/{spec.pk}/draft").data["revision"]
    own = spec.key.replace("-", "_")
    broken = deepcopy(FORM)
    broken["steps"][1]["lines"][0]["amount"]["ratio"] = "0,"
    edits = (
        FORM,
        scaled(sugar={"ratio": 0.61}),
        scaled(sugar={"ratio": 0.61}, malic={"value": 1.9}),
        broken,
        scaled(juice={"mass_g": 1000}),
        {**FORM, "steps": [*FORM["steps"], {"id": "x", "verb": "combine", "lines": [{"id": "m", "material": own, "amount": {"kind": "fixed", "mass_g": 5}}]}]},
    )  # fmt: skip
    for body in edits:
        saved = api.put(f"/specs/{spec.pk}/draft", {"spec": body}, revision).data
        revision = saved["revision"]
        plain, whole = browser.draft(body, saved["made_with_it"])
        assert whole["by_others"] == []
        assert without_others(whole) == without_others(saved["result"])
        assert [step["bands"] for step in plain["steps"]] == [step["bands"] for step in whole["steps"]]
        assert plain["words"] == whole["words"]
    assert saved["result"]["refusals"][-1]["code"] == "circle", "the last edit made it with itself"


def test_quick_sums_go_by_the_scale_and_the_dropper_of_the_house_without_the_site_too(place):
    lead, asked = place.apis["lead"], ("acid_solution", {"strength": 6, "volume": 100, "citric": 100})
    usual = Browser(lead)
    for kind, figures in (("scale", {"resolution_g": 0.5}), ("dropper", {"drop_ml": 0.04})):
        assert lead.post("/register", {"kind": kind, "name": "ours", "figures": figures}).status_code == 201
    browser, answer = Browser(lead), lead.post(f"/sums/{asked[0]}", {"figures": asked[1]}).data
    assert browser.ask("sums")["ok"] == lead.get("/sums").data
    assert browser.ask("sum_up", *asked)["ok"] == answer
    assert usual.ask("sum_up", *asked)["ok"] != answer


def test_the_questions_of_the_workbench_are_answered_as_the_site_answers_them(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    api = place.apis["lead"]
    browser = Browser(api)
    asked = [
        ("evaluate", "/evaluate", {"spec": FORM}),
        ("working", "/working", {"spec": FORM, "step": "s2", "name": "brix"}),
        ("working", "/working", {"spec": FORM, "step": "s2", "name": "line:sugar"}),
        ("flag", "/solve", {"spec": FORM, "sugar_g_100ml": 45.0, "acid_g_100ml": 2.4}),
        ("take", "/take", {"spec": FORM, "material": "white_sugar", "mass_g": 20.0}),
        ("step_line", "/step-line", {"text": "steep birch tips 9 g 25 min 72 C"}),
    ]
    for name, address, body in asked:
        answer = api.post(address, body)
        assert answer.status_code == 200, address
        here = browser.ask(name, *body.values())["ok"]
        assert {**here, "by_others": ()} == {**answer.data, "by_others": ()}, name
    sum_, figures = "acid_to_target", {"liquid": "sea_buckthorn_juice", "volume": 1000, "have": 2.4, "want": 5, "citric": 2, "malic": 1}
    answer = api.post(f"/sums/{sum_}", {"figures": figures})
    assert (answer.status_code, browser.ask("sum_up", sum_, figures)["ok"]) == (200, answer.data)
    names = [item["key"] for item in api.get("/materials?find=quince").data["items"]]
    assert {item["key"] for item in browser.ask("materials", "quince")["ok"]} == set(names) != set()
    refused = api.post("/step-line", {"text": "the moon is out"}).data
    assert browser.ask("step_line", "the moon is out")["refused"] == {key: refused[key] for key in ("detail", "where", "code")}


def test_the_bundle_is_sent_again_only_when_something_in_it_has_changed(place):
    api, neighbour = place.apis["maker"], place.apis["stranger"]

    def tag(of=api):
        return of.get("/house-bundle")["ETag"]

    tags = [tag()]
    theirs = tag(neighbour)
    place.delivery()
    tags.append(tag())
    place.delivery(brix_reading=8.0, acid_g_100ml=2.2)
    tags.append(tag())
    spec = place.spec()
    tags.append(tag())
    place.house.beside = "volume"
    place.house.save()
    tags.append(tag())
    assert len(set(tags)) == len(tags), "each of these changes what a draft comes to"
    assert api.call("get", "/house-bundle", **{"If-None-Match": tags[-1]}).status_code == 304
    assert api.call("get", "/house-bundle", **{"If-None-Match": tags[-2]}).status_code == 200
    assert tag(neighbour) == theirs
    basis = api.get(f"/specs/{spec.pk}/draft").data["basis"]
    assert basis == {"core": core_digest(), "bundle": tags[-1].strip('"')}


def test_a_difference_that_a_browser_found_is_written_down(place, caplog):
    spec = place.spec(published=False)
    told = {"spec": FORM, "differed": "final/brix/value: 40.1 here,\n40.2 there"}
    assert place.apis["lead"].put(f"/specs/{spec.pk}/draft", told, 1).status_code == 200
    assert [record.getMessage() for record in caplog.records if record.name == "ulsek.core"] == [
        f"spec {spec.pk}: the browser's core differs: 'final/brix/value: 40.1 here,\\n40.2 there'"
    ]
    assert place.apis["lead"].put(f"/specs/{spec.pk}/draft", {**told, "differed": "x" * 401}, 2).status_code == 422


def test_an_abandoned_edit_leaves_the_next_one_right(place):
    browser = Browser(place.apis["lead"])
    _, first = browser.draft(FORM)
    browser.ask("begin_draft", scaled(sugar={"ratio": 0.1}), [])
    browser.ask("go_on_with_draft")
    _, whole = browser.draft(scaled(sugar={"ratio": 0.6}))
    with pytest.raises(KeyError, match="no draft was begun"):
        browser.ask("go_on_with_draft")
    _, alone = Browser(place.apis["lead"]).draft(scaled(sugar={"ratio": 0.6}))
    assert whole == alone
    assert whole["final"]["brix"]["value"] > first["final"]["brix"]["value"] + 1
