"""Panels over HTTP: planned, opened, told, decided, and the trial that follows."""

import json
import re
from datetime import timedelta
from uuid import uuid4

import pytest
from django.utils import timezone

from tests.site.panels import BOUGHT, NAMES, Table, odd, plan_of
from tests.site.test_lots_api import bottled
from ulsek.batches.models import Lot
from ulsek.specs.models import Spec
from ulsek.tasting.models import Panel
from ulsek.team.models import HistoryRow


@pytest.fixture
def lot(place):
    return bottled(place)


def test_from_a_plan_to_a_decision_with_six_phones(place, lot):
    table = Table(place, plan_of(lot))
    key = table.key()
    phones = table.seated(*NAMES)
    for turn in (1, 2):
        for n, phone in enumerate(phones):
            page = phone.get("/seat").data["pages"][turn - 1]
            right = odd(page, key)
            chosen = right if n < 5 else next(code for code in page["codes"] if code != right)
            answered = phone.says(turn, code=chosen)
            assert answered.status_code == 200, answered.content
            assert table.seen()["state"] == ("told" if (turn, n) == (2, 5) else "open")
    told = table.seen()
    assert told["verdict"]["headline"] == "A difference was shown: 10 of 12 right, where chance gives 4."
    assert told["verdict"]["sentences"] == [
        "At least 27\xa0% of guests may notice, up to 99\xa0%.",
        "Your line was 20\xa0%: it is crossed.",
        "The risk of a switch: of 100 guests, up to 99 may notice.",
    ]
    assert told["verdict"]["caution"] == "6 tasters only: this says more of them than of guests."
    assert [sample["name"] for sample in told["samples"]] == [f"{lot.name}, {lot.code}", "Harbour cordial"]
    assert sum(dot["value"] for dot in told["results"]["standings"][0]["dots"]) == 10
    assert all(key[code] == at for served in told["results"]["sets"] for code, at in zip(served["codes"], served["samples"], strict=True))
    decided = table.lead.call("put", f"{table.path}/decision", {"decision": "The house's own stays", "why": "Five of six can tell"}).data
    assert (decided["decision"], decided["decided_by"]) == ("The house's own stays", "Lead")
    kinds = list(HistoryRow.objects.order_by("at").values_list("action", flat=True))
    assert [kind for kind in kinds if "panel" in kind] == ["plan_panel", "open_panel", "decide_panel"]
    # It stands with the versions and bottles that were tasted.
    spec = Spec.objects.get()
    assert [row["versions"] for row in table.lead.get(f"/panels?spec={spec.pk}").data["items"]] == [[1]]
    assert len(table.lead.get(f"/panels?lot={lot.code}").data["items"]) == 1
    assert table.lead.get("/panels?lot=L9999").data["items"] == []


def test_six_coded_glasses_are_scored_and_say_why(place, lot):
    others = [{**BOUGHT, "name": f"Bottle {n}", "sugar_g_100ml": 40 + n} for n in range(5)]
    table = Table(place, plan_of(lot, *others, method="scores", tasters=3, rounds=1, attributes=["sweet", "tart"], line=1.5))
    key = table.key()
    assert len(key) == 6
    for phone in table.seated("Ada", "Ben", "Cleo"):
        for page in phone.get("/seat").data["pages"]:
            sample = key[page["codes"][0]]
            given = (
                {"score": 8.0 - sample + 0.1 * (page["turn"] % 3)}
                if page["asks"] == "liking"
                else {"marks": {"sweet": 5 if sample == 5 else 3, "tart": 3}}
            )
            assert phone.says(page["turn"], **given).status_code == 200
    told = table.seen()
    assert [row["sample"] for row in told["results"]["standings"]] == [0, 1, 2, 3, 4, 5]
    assert len(told["results"]["standings"][0]["dots"]) == 3
    assert re.match(rf"{lot.name}, {lot.code} is liked more than Bottle 4 by [45]\.\d points", told["verdict"]["sentences"][0])


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"samples": [{"kind": "lot", "lot": "{lot}"}]}, "samples"),
        ({"samples": [{"kind": "lot", "lot": "{lot}"}] * 2}, "samples/1"),
        ({"samples": [{"kind": "lot", "lot": "L9999"}, BOUGHT]}, "samples/0"),
        ({"samples": [{"kind": "version", "spec": str(uuid4()), "version": 1}, BOUGHT]}, "samples/0"),
        ({"samples": [BOUGHT, {**BOUGHT, "name": " "}]}, "samples/1/name"),
        ({"samples": [BOUGHT, {**BOUGHT, "name": "x", "sugar_g_100ml": 400}]}, "samples/1/sugar_g_100ml"),
        ({"design": {"method": "triangle", "tasters": 41}}, "tasters"),
        ({"design": {"method": "triangle", "tasters": 0}}, "tasters"),
        ({"design": {"method": "triangle", "rounds": 5}}, "rounds"),
        ({"design": {"method": "triangle", "line": 0}}, "line"),
        ({"design": {"method": "triangle", "glass_ml": 500}}, "glass_ml"),
        ({"design": {"method": "triangle", "attributes": ["sweet"]}}, "attributes"),
        ({"design": {"method": "scores", "attributes": ["loud"]}}, "attributes"),
        ({"design": {"method": "triangle", "rounds": 2, "is_sequential": True}}, "is_sequential"),
        ({"design": {"method": "guesswork"}}, "method"),
        ({"question": ""}, "question"),
        ({"poured_by": 0}, "poured_by"),
        (
            {"serving": {"drink": "a long one", "equal": "acid", "pour_ml": 20}, "samples": [BOUGHT, {"kind": "bought", "name": "x"}]},
            "equal",
        ),
    ],
)
def test_what_cannot_be_tasted_so_is_refused_at_its_place(place, lot, change, where):
    change = json.loads(json.dumps(change).replace("{lot}", lot.code))
    refused = place.apis["lead"].post("/panels", {**plan_of(lot), **change})
    assert (refused.status_code, refused.data["where"]) == (422, where)
    assert Panel.objects.count() == 0


def test_a_bottle_that_nobody_may_taste_is_not_opened(place, lot):
    lead = place.apis["lead"]
    made = lead.post("/panels", plan_of(lot)).data
    assert lead.post(f"/panels/{made['id']}/open").data["where"] == "poured_by"
    pours = {**plan_of(lot), "poured_by": place.members["maker"].person.pk}
    assert lead.call("put", f"/panels/{made['id']}", pours).status_code == 200
    Lot.objects.filter(pk=lot.pk).update(use_by=timezone.now().date() - timedelta(days=2))
    past = lead.post(f"/panels/{made['id']}/open").data
    assert (past["where"], past["code"]) == ("samples/0", "past")
    assert lead.call("delete", f"/panels/{made['id']}").status_code == 204


def test_a_plan_is_the_leads_own_until_it_is_told(place, lot):
    made = place.apis["lead"].post("/panels", plan_of(lot)).data
    assert len(made["samples"]) == 2
    assert place.apis["maker"].get(f"/panels/{made['id']}").data["samples"] == []
    assert place.apis["maker"].post("/panels", plan_of(lot)).status_code == 403
    table = Table(place, plan_of(lot))
    assert table.seen()["samples"] == []
    assert place.apis["reader"].get(table.path).data["link"] == ""
    changed = table.lead.call("put", table.path, plan_of(lot))
    assert changed.data["code"] == "sealed"
    assert table.lead.call("delete", table.path).data["code"] == "sealed"


def test_what_it_can_show_is_said_before_anybody_drinks(place, lot):
    asked = {"aim": "difference", "design": {"method": "triangle"}, "samples": [{"kind": "lot", "lot": lot.code}]}
    told = place.apis["maker"].post("/panels/beforehand", asked).data
    assert told["sentences"][0] == "12 tastings can hardly show that at most 20\xa0% can tell: that takes about 100."
    assert told["sentences"][2] == "A difference is shown from 8 right of 12; four times in five if 63\xa0% of guests can tell."
    assert (told["reaches_line"], [item["key"] for item in told["methods"]]) == (False, ["triangle", "same_different"])
    drink = {
        **asked,
        "samples": [BOUGHT, {**BOUGHT, "name": "x", "sugar_g_100ml": 24, "abv": 20}],
        "serving": {"drink": "soda", "equal": "sugar", "pour_ml": 20, "drink_ml": 80},
    }
    dosed = place.apis["maker"].post("/panels/beforehand", drink).data
    assert [dose["ml"] for dose in dosed["pours"]] == [20, 40]
    assert dosed["pours"][1]["differs"] == ["100\xa0% more acid", "alcohol in one of them only", "100\xa0% more volume"]
    assert "pure alcohol" in dosed["poured"]


def test_a_rule_that_was_fixed_ends_it_as_soon_as_it_is_decided(place, lot):
    table = Table(place, plan_of(lot, tasters=40, rounds=1, is_sequential=True, line=0.6))
    key = table.key()
    given = 0
    for phone in table.seated(*(f"Guest {n}" for n in range(1, 13))):
        phone.says(1, code=odd(phone.get("/seat").data["pages"][0], key))
        given += 1
        if table.seen()["state"] == "told":
            break
    told = table.seen()["verdict"]
    assert (given, told["is_shown"]) == (4, True)
    assert told["caution"].startswith("It ended by its rule after 4.")


def test_a_panel_that_was_open_when_its_house_was_moved_is_closed_in_words(place, lot):
    """Elsewhere the archive's rows come without the seed."""
    table = Table(place, plan_of(lot))
    table.seated("Ada")
    Panel.objects.update(seed="", link_digest="", letters_digest="")
    assert (table.seen()["link"], table.seen()["state"]) == ("", "open")
    for path in ("pouring", "sheets.pdf"):
        assert table.pourer.client.get(f"/api{table.path}/{path}").status_code == 422
    told = table.lead.post(f"{table.path}/seal", {"why": "we moved"}).data
    assert told["verdict"]["headline"] == "Nothing can be told: the key stayed on the site that this house was moved from."


def test_answers_are_counted_once_where_two_samples_are_of_one_spec(place, lot):
    spec = Spec.objects.get()
    table = Table(place, plan_of(lot, {"kind": "version", "spec": str(spec.pk), "version": 1}, tasters=1, rounds=1))
    (ada,) = table.seated("Ada")
    ada.says(1, code=ada.get("/seat").data["pages"][0]["codes"][0])
    (row,) = table.lead.get(f"/panels?spec={spec.pk}").data["items"]
    assert (row["answered"], row["of"], row["versions"]) == (1, 1, [1])


def test_the_trial_worth_making_next_is_drafted_by_one_press(place, lot):
    spec = Spec.objects.get()
    lead = place.apis["lead"]
    trial = lead.post(f"/specs/{spec.pk}/versions/1/branch", {"name": "More sugar"}).data["id"]
    draft = lead.get(f"/specs/{trial}/draft").data
    steps = [
        {
            **step,
            "lines": [
                {**line, "amount": {**line["amount"], "ratio": 0.6}} if line["id"] == "sugar" else line for line in step.get("lines", [])
            ],
        }
        if step.get("lines")
        else step
        for step in draft["body"]["steps"]
    ]
    saved = lead.put(f"/specs/{trial}/draft", {"spec": {**draft["body"], "steps": steps, "goals": []}, "writer": "tab"}, draft["revision"])
    published = lead.post(f"/specs/{trial}/publish", {"revision": saved.data["revision"], "why": "more"})
    assert published.status_code == 201, published.content
    other = {"kind": "version", "spec": trial, "version": 1}
    table = Table(place, plan_of(lot, other, tasters=1, rounds=1))
    (ada,) = table.seated("Ada")
    page = ada.get("/seat").data["pages"][0]
    ada.says(1, code=next(code for code in page["codes"] if code != odd(page, table.key())))
    told = table.seen()
    house, more = told["samples"]
    found = told["results"]["next"]
    assert found["sugar"] > more["sugar_g_100ml"] > house["sugar_g_100ml"]
    assert found["why"].startswith("One noticeable step past it")
    assert told["results"]["liked_words"] == "2 spots show no surface: 5 more that differ only in sugar and acid would."
    assert told["next_how"].startswith("Into each litre: ")
    made = lead.post(f"{table.path}/next-trial")
    assert made.status_code == 201
    drafted = Spec.objects.get(pk=made.data["spec"])
    assert (drafted.name, drafted.trial_of.spec_id) == (f"More sugar, after {told['code']}", Spec.objects.get(pk=trial).pk)
    result = lead.get(f"/specs/{drafted.pk}/draft").data["result"]["final"]
    assert result["sugar_g_100ml"]["value"] == pytest.approx(found["sugar"], rel=0.02)
    assert result["acid_g_100ml"]["value"] == pytest.approx(found["acid"], rel=0.02)
    newest = {row["spec"]: row for row in lead.get("/panels/newest").data}
    assert (newest[str(spec.pk)]["version"], newest[trial]["version"]) == (1, 1)
    assert place.apis["maker"].post(f"{table.path}/next-trial").status_code == 403
    nothing = Table(place, plan_of(lot, tasters=1, rounds=1))
    lead.post(f"{nothing.path}/seal", {"why": "nobody came"})
    assert lead.post(f"{nothing.path}/next-trial").data["detail"].startswith("This panel found no trial worth making")
