"""Tasters at a panel over HTTP: who sits down, what they may see, what counts; and whoever tries to see the key, or to answer twice."""

import io
import json
import zipfile
from datetime import timedelta
from uuid import uuid4

import pytest
from django.utils import timezone
from pypdf import PdfReader

from tests.site.conftest import Phone
from tests.site.panels import BOUGHT, NAMES, Table, plan_of
from tests.site.test_lots_api import bottled
from ulsek.archives.writing import write_archive
from ulsek.batches.models import Lot
from ulsek.core.base.refusals import Refusal
from ulsek.specs.models import Spec
from ulsek.tasting.actions.take_seat import go_on
from ulsek.tasting.codes import MOST_WRONG
from ulsek.tasting.models import PanelAnswer, WrongCode
from ulsek.tasting.panels import as_host
from ulsek.team.models import HistoryRow


@pytest.fixture
def lot(place):
    return bottled(place)


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
    # Of two phones that bring one code at once, both found its seat: under the lock the second is too late.
    code = table.lead.post(f"{table.path}/seats/1/again").data["code"]
    host, row = as_host(table.row), table.row.seats.get(number=1)
    go_on(host, row.pk, code, "a" * 64)
    with pytest.raises(Refusal, match="This code was used"):
        go_on(host, row.pk, code, "b" * 64)
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


def test_a_version_that_is_withdrawn_stops_it_as_well(place, lot):
    spec = Spec.objects.get()
    table = Table(place, {**plan_of(lot), "samples": [{"kind": "version", "spec": str(spec.pk), "version": 1}, BOUGHT]})
    (ada,) = table.seated("Ada")
    assert ada.get("/seat").data["stop"] == ""
    assert table.lead.post(f"/specs/{spec.pk}/versions/1/withdraw", {"why": "it turns cloudy"}).status_code == 200
    assert ada.get("/seat").data["stop"].startswith("Stop: do not taste any more.")


def test_a_bottle_with_a_long_name_is_tasted_too(place, lot):
    Lot.objects.filter(pk=lot.pk).update(name="x" * 300)
    assert len(Table(place, plan_of(lot)).row.samples.get(place=0).name) == 307


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
    # Who pours does not taste on paper either, and nobody sits twice.
    assert maker.post(f"{table.path}/sheets", {"number": 2, "name": "Maker", "answers": {}}).data["code"] == "pours"
    assert maker.post(f"{table.path}/sheets", {"number": 2, "name": "ada", "answers": {}}).data["code"] == "twice"
    wrong = maker.post(f"{table.path}/sheets", {"number": 2, "name": "Ben", "answers": {"1": {"code": "999"}}})
    assert wrong.data["where"] == "answers/1/code"
    assert maker.post(f"{table.path}/sheets", {"number": 1, "name": "Ben", "answers": {}}).data["detail"].startswith("Seat 1 is Ada's.")
    second = table.row.pages[1].codes
    assert set(second) <= set(key)
    told = maker.post(f"{table.path}/sheets", {"number": 2, "name": "Ben", "answers": {"1": {"code": second[0]}}}).data
    assert (told["state"], told["aim"]) == ("told", "preference")


def test_who_made_a_sample_is_marked(place, lot):
    table = Table(place, {**plan_of(lot)})
    Phone(place.members["lead"].person).sits(table.link, "Lead")
    assert [(seat["name"], seat["is_maker"]) for seat in table.seen()["seats"]] == [("Lead", False)]
    assert table.seen()["i_taste"] is True
