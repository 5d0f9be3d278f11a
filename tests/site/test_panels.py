"""Panels over HTTP: planned, sealed, poured, answered on phones and on paper, told, decided; and whoever tries to see the key, or to answer twice."""

import io
import json
import re
import zipfile
from datetime import timedelta
from uuid import uuid4

import pytest
from django.utils import timezone
from pypdf import PdfReader

from tests.site.conftest import Phone
from tests.site.test_lots_api import bottled
from ulsek.archives.writing import write_archive
from ulsek.batches.models import Lot
from ulsek.specs.models import Spec
from ulsek.tasting.codes import MOST_WRONG
from ulsek.tasting.models import Panel, PanelAnswer, WrongCode
from ulsek.team.models import HistoryRow

NAMES = ("Ada", "Ben", "Cleo", "Dov", "Edda", "Finn")
BOUGHT = {"kind": "bought", "name": "Harbour cordial", "sugar_g_100ml": 48, "acid_g_100ml": 1.9, "abv": 0, "allergens": ["sulphites"]}


def plan_of(lot, *others, method="triangle", **design):
    samples = [{"kind": "lot", "lot": lot.code}, *(others or (BOUGHT,))]
    return {
        "question": "Can anybody tell the cheaper version?",
        "design": {"method": method, "tasters": 6, "rounds": 2, **design},
        "samples": samples,
    }


@pytest.fixture
def lot(place):
    return bottled(place)


class Table:
    """A panel of the house that is open, and what its people reach for."""

    def __init__(self, place, plan):
        self.place, self.lead, self.pourer = place, place.apis["lead"], place.apis["maker"]
        plan = {**plan, "poured_by": place.members["maker"].person.pk}
        made = self.lead.post("/panels", plan)
        assert made.status_code == 201, made.content
        self.path = f"/panels/{made.data['id']}"
        opened = self.lead.post(f"{self.path}/open")
        assert opened.status_code == 200, opened.content
        self.link, self.letters = opened.data["link"].partition("#")[2], opened.data["letters"]
        self.row = Panel.objects.get(pk=made.data["id"])

    def seated(self, *names):
        phones = [Phone() for _ in names]
        for phone, name in zip(phones, names, strict=True):
            assert phone.sits(self.link, name).status_code == 201
        return phones

    def key(self):
        """Which sample stands behind each code."""
        sheet = self.pourer.get(f"{self.path}/pouring").data
        return {glass["code"]: glass["sample"] for served in sheet["sets"] for glass in served["glasses"]}

    def seen(self):
        return self.lead.get(self.path).data


def odd(page, key):
    held = [key[code] for code in page["codes"]]
    return next(code for code, sample in zip(page["codes"], held, strict=True) if held.count(sample) == 1)


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


def reached(answer):
    return json.dumps(answer.data, ensure_ascii=False) if answer.data is not None else ""


def test_no_answer_names_a_sample_or_its_order_before_the_seal_is_broken(place, lot):
    """Everything that the site answers, to everybody but who pours, is searched for a glass beside what it holds."""
    from tests.site.doors import Doors

    other = {**BOUGHT, "name": "Quay bottle no. 7"}
    table = Table(place, plan_of(lot, other, method="scores", rounds=1))
    key = table.key()
    phone = table.seated("Ada")[0]
    doors = Doors(place, 9711, 9712).doors
    asked = [door[0] for name, door in doors.items() if name.startswith("GET ") and "panels" not in name]
    tasting = [table.path, "/panels", f"/panels?spec={Spec.objects.first().pk}", f"/panels?lot={lot.code}", "/history", "/history.csv"]
    for role in ("lead", "reader"):
        api = place.apis[role]
        for path in [*(made() if callable(made) else made for made in asked), *tasting]:
            answer = api.client.get(f"/api{path}")
            text = b"".join(answer.streaming_content) if answer.streaming else answer.content
            said = text.decode(errors="replace")
            assert other["name"] not in said, f"{role} reads it at {path}"
            assert not any(f'"{code}"' in said for code in key), f"{role} reads a code at {path}"
    seat = phone.get("/seat")
    said = reached(seat)
    assert not any(word in said for word in (other["name"], lot.name, lot.code, "samples", str(table.row.seed)))
    assert "sulphites" in seat.data["first"]
    # No archive that goes elsewhere holds the key, and on paper stand the codes alone.
    archive = io.BytesIO()
    write_archive(place.house, archive)
    rows = map(json.loads, zipfile.ZipFile(archive).read("rows/tasting.panel.jsonl").decode().splitlines())
    (row,) = (row["fields"] for row in rows if row["pk"] == str(table.row.pk))
    assert [row[name] for name in ("seed", "link_digest", "letters_digest", "results")] == ["", "", "", None]
    paper = "".join(
        page.extract_text() for page in PdfReader(io.BytesIO(table.pourer.client.get(f"/api{table.path}/sheets.pdf").content)).pages
    )
    assert all(code in paper for code in key)
    assert other["name"] not in paper
    assert "Harbour" not in paper


def test_the_key_is_for_who_pours_alone(place, lot):
    table = Table(place, plan_of(lot))
    assert table.pourer.get(f"{table.path}/pouring").status_code == 200
    for role in ("lead", "stranger", "reader"):
        assert place.apis[role].get(f"{table.path}/pouring").status_code in (403, 404)
    # Who pours does not taste, by whatever name.
    assert Phone(place.members["maker"].person).sits(table.link, "Somebody").data["code"] == "pours"
    assert Phone().sits(table.link, " maker ").data["code"] == "pours"
    table.seated(*NAMES)
    assert Phone().sits(table.link, "Gwen").data["detail"] == "All 6 seats are taken. Ask who leads it."


def test_codes_are_guessed_eight_times_and_a_seat_is_taken_once(place, lot):
    table = Table(place, plan_of(lot))
    ada = Phone()
    assert ada.sits(table.letters.upper().replace("-", " "), "Ada").status_code == 201
    assert Phone().sits(table.link, "ada").data["code"] == "twice"
    assert Phone().sits(table.link, " ").data["where"] == "name"
    assert Phone().get("/seat").status_code == 401
    for _ in range(MOST_WRONG):
        assert Phone().sits("aaaa-bbbb", "Eve").status_code == 404
    assert Phone().sits(table.link, "Eve").status_code == 429
    WrongCode.objects.update(at=timezone.now() - timedelta(minutes=16))
    assert Phone().sits(table.link, "Eve").status_code == 201


def test_a_lost_phone_hands_its_seat_on_and_answers_no_more(place, lot):
    table = Table(place, plan_of(lot))
    (ada,) = table.seated("Ada")
    page = ada.get("/seat").data["pages"][0]
    assert ada.says(1, code=page["codes"][0]).status_code == 200
    again = table.lead.post(f"{table.path}/seats/1/again").data["code"]
    assert ada.get("/seat").status_code == 401
    other = Phone()
    seat = other.sits(again, "whoever").data
    assert (seat["name"], seat["answered"]) == ("Ada", [1])
    assert Phone().sits(again, "Eve").status_code == 404
    assert place.apis["maker"].post(f"{table.path}/seats/1/again").status_code == 403
    assert table.lead.post(f"{table.path}/seats/4/again").data["detail"] == "Nobody sits there."


def test_an_answer_counts_once_and_after_the_seal_not_at_all(place, lot):
    table = Table(place, plan_of(lot, tasters=2, rounds=1))
    ada, ben = table.seated("Ada", "Ben")
    codes = ada.get("/seat").data["pages"][0]["codes"]
    sent = {"id": str(uuid4()), "turn": 1, "answer": {"code": codes[0], "word": "greener"}}
    assert [ada.post("/seat/answers", sent).status_code for _ in range(2)] == [200, 200]
    assert ada.says(1, code=codes[1]).data["detail"] == "These glasses are answered already. The first answer counts."
    assert ada.says(2, code=codes[1]).data["code"] == "unknown_reference"
    assert ben.says(1, code=codes[0]).data["where"] == "code"
    assert ben.post("/seat/answers", {**sent, "answer": {"code": "x"}}).data["code"] == "id_used"
    assert table.lead.post(f"{table.path}/seal", {"why": " "}).data["where"] == "why"
    assert place.apis["maker"].post(f"{table.path}/seal", {"why": "curious"}).status_code == 403
    told = table.lead.post(f"{table.path}/seal", {"why": "Ben was called to the bar"}).data
    assert (told["unsealed_by"], told["verdict"]["figures"][0]["name"]) == ("Lead", "guests who can tell")
    assert "of 1 right" in told["verdict"]["headline"]
    assert HistoryRow.objects.get(action="break_seal").detail["why"] == "Ben was called to the bar"
    late = ben.says(1, code=ben.get("/seat").data["pages"][0]["codes"][0])
    assert (late.status_code, late.data["state"]) == (200, "told")
    after = table.seen()
    assert (after["late"], after["answered"], after["verdict"]) == (1, 1, told["verdict"])
    assert after["results"]["words"] == [{"seat": 1, "codes": codes, "word": "greener"}]
    assert table.lead.post(f"{table.path}/seal", {"why": "again"}).data["code"] == "closed"


def test_a_recall_stops_it_at_once_and_nothing_is_counted(place, lot):
    table = Table(place, plan_of(lot, tasters=2, rounds=1))
    ada, ben = table.seated("Ada", "Ben")
    codes = ada.get("/seat").data["pages"][0]["codes"]
    assert ada.says(1, code=codes[0]).data["stop"] == ""
    assert table.lead.post(f"/lots/{lot.code}/recall", {"why": "glass in it"}).status_code == 200
    assert ben.get("/seat").data["stop"].startswith("Stop: do not taste any more.")
    assert lot.name not in reached(ben.get("/seat"))
    assert ben.says(1, code=ben.get("/seat").data["pages"][0]["codes"][0]).status_code == 200
    told = table.seen()
    assert told["verdict"]["headline"].startswith("Stop: do not taste any more.")
    assert (told["verdict"]["is_shown"], told["answered"], PanelAnswer.objects.count()) == (False, 2, 2)


def test_stepping_out_is_nobodys_business_and_ends_the_waiting(place, lot):
    table = Table(place, plan_of(lot, tasters=2, rounds=1))
    ada, ben = table.seated("Ada", "Ben")
    assert ada.post("/seat/out").data["state"] == "out"
    assert table.seen()["seats"][0]["is_out"] is True
    ben.says(1, code=ben.get("/seat").data["pages"][0]["codes"][0])
    assert table.seen()["state"] == "told"


def test_sheets_of_paper_are_typed_in_after(place, lot):
    table = Table(place, plan_of(lot, tasters=2, rounds=1, method="paired"))
    (ada,) = table.seated("Ada")
    ada.says(1, code=ada.get("/seat").data["pages"][0]["codes"][0])
    key, maker = table.key(), place.apis["maker"]
    wrong = maker.post(f"{table.path}/sheets", {"number": 2, "name": "Ben", "answers": {"1": {"code": "999"}}})
    assert wrong.data["where"] == "answers/1/code"
    assert maker.post(f"{table.path}/sheets", {"number": 1, "name": "Ben", "answers": {}}).data["detail"].startswith("Seat 1 is Ada's.")
    second = table.row.pages[1].codes
    assert set(second) <= set(key)
    told = maker.post(f"{table.path}/sheets", {"number": 2, "name": "Ben", "answers": {"1": {"code": second[0]}}}).data
    assert (told["state"], told["aim"]) == ("told", "preference")


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
    assert (given, table.seen()["verdict"]["is_shown"]) == (4, True)


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


def test_who_made_a_sample_is_marked(place, lot):
    table = Table(place, {**plan_of(lot)})
    Phone(place.members["lead"].person).sits(table.link, "Lead")
    assert [(seat["name"], seat["is_maker"]) for seat in table.seen()["seats"]] == [("Lead", False)]
    assert table.seen()["i_taste"] is True


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
