"""A till's file over HTTP: its columns said once, the same file twice, another till's, formulas, and the par that follows from what was sold."""

import json
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.site.drinks import published_drink
from tests.site.test_planning import par, planned
from ulsek.planning.models import Sale
from ulsek.specs.projection import material_key_of

__all__ = ["planned"]


def table(rows, heads="Date,Item,Qty"):
    return "\n".join([heads, *(",".join(map(str, row)) for row in rows)]).encode()


def send(api, path, data, **said):
    file = SimpleUploadedFile("till.csv", data, "text/csv")
    return api.told("post", path, api.client.post(f"/api{path}", {"file": file, **said}))


@pytest.fixture
def selling(planned):
    """A drink of the cordial, 50 g of it in each."""
    planned.drink = published_drink(planned.members["lead"], "Bergamot long", material_key_of(planned.cordial.key))
    planned.day = planned.members["lead"].day(planned.item.received_at)
    return planned


def weeks(place, count=21, each=10):
    """So many days that are over, with a drink sold on each, and something that is none of ours."""
    days = [place.day - timedelta(days=n) for n in range(1, count + 1)]
    return table([row for day in days for row in ((day, "bergamot long", each), (day, "Crisps", 2))])


def test_what_the_till_sold_gives_a_par_and_the_same_file_twice_changes_nothing(selling):
    lead = selling.apis["lead"]
    data = weeks(selling)
    found = send(lead, "/plan/till/read", data).data
    assert [column["meaning"] for column in found["columns"]] == ["day", "product", "count"]
    assert [(one["name"], one["count"], one["is_known"]) for one in found["names"]] == [
        ("Crisps", 42.0, False),
        ("bergamot long", 210.0, True),
    ]
    assert not Sale.objects.exists(), "nothing is stored by looking"
    taken = send(lead, "/plan/till", data, names=json.dumps({"Crisps": None})).data
    assert (taken["days"], taken["new_days"], taken["sold"], taken["left_out"]) == (21, 21, 210.0, ["Crisps"])
    assert send(lead, "/plan/till/read", data).data["names"][0]["is_known"], "what it is was said once"
    again = send(lead, "/plan/till", data).data
    assert (again["new_days"], Sale.objects.count()) == (0, 21)
    assert "nothing changed" in again["said"]
    (row,) = [one for one in lead.get("/plan/pars").data if one["by_use"]]
    # Ten drinks of 50 g: some 450 mL a day, and a par above it.
    assert row["spec"] == str(selling.cordial.pk) and row["by_use"]["days"] == 21
    assert min(row["by_use"]["must_ml"]) > 400 and max(row["by_use"]["must_ml"]) < 700
    assert par(selling, [1] * 7).status_code == 204 and lead.post(f"/plan/pars/{selling.cordial.pk}/by-use").status_code == 204


def test_a_day_that_is_told_again_replaces_what_it_was_told_before(selling):
    lead = selling.apis["lead"]
    assert send(lead, "/plan/till", weeks(selling, 3)).data["new_days"] == 3
    corrected = table([(selling.day - timedelta(days=1), "Bergamot long", 7)])
    assert send(lead, "/plan/till", corrected).data["new_days"] == 1
    assert sorted(Sale.objects.values_list("count", flat=True)) == [7.0, 10.0, 10.0]


def test_another_till_s_columns_are_asked_for_and_remembered(selling):
    lead = selling.apis["lead"]
    foreign = table([(selling.day - timedelta(days=1), "=Bergamot long", 3)], "Wann,Was,Wieviel")
    asked = send(lead, "/plan/till/read", foreign).data
    assert (asked["needs"], asked["where"], asked["names"]) == ("No column says when it was sold", "columns", [])
    assert [(one["head"], one["meaning"]) for one in asked["columns"]] == [("Wann", ""), ("Was", ""), ("Wieviel", "")]
    assert send(lead, "/plan/till", foreign).data["where"] == "columns", "nothing is taken in by guessing"
    said = {"columns": "day,product,count"}
    names = send(lead, "/plan/till/read", foreign, **said).data["names"]
    assert [(one["name"], one["is_known"]) for one in names] == [("=Bergamot long", False)], "a formula is a name that nobody knows"
    drink = str(selling.drink.pk)
    assert send(lead, "/plan/till", foreign, names=json.dumps({"=Bergamot long": drink}), **said).data["sold"] == 3.0
    # The columns and the name were said once.
    assert send(lead, "/plan/till/read", foreign).data["names"][0]["spec"] == drink


def test_files_that_cannot_be_are_refused(selling):
    lead = selling.apis["lead"]

    def refused(data, **said):
        answer = send(lead, "/plan/till", data, **said)
        assert answer.status_code == 422, answer.content
        return answer.data["where"]

    assert refused(b"") == "text"
    assert refused(b"\x00\x01\x02") in ("text", "columns", "file")
    assert refused(table([("03/04/2026", "Bergamot long", 1)])) == "order"
    good = weeks(selling, 1)
    assert refused(good, names="[]") == "names"
    assert refused(good, names=json.dumps({"Crisps": str(selling.cordial.pk)})) == "names/Crisps", "a prep is no drink"
    assert refused(good, names=json.dumps({"x" * 81: None})) == "names/" + "x" * 80
    assert refused(good, columns="day,colour,count") == "columns"
    assert not Sale.objects.exists()
    assert send(selling.apis["maker"], "/plan/till", good).status_code == 403


def test_what_the_bar_pours_itself_is_ordered_before_it_runs_out(selling):
    lead = selling.apis["lead"]
    spirit = {"material": "neutral_spirit_40", "product": "Neutral 40", "supplier": "Stillroom", "price": "20", "pack_g": "700", "packs": 1}
    assert lead.post("/stock", spirit).status_code == 201
    published_drink(selling.members["lead"], "Clear long", "neutral_spirit_40", 40.0)
    assert par(selling, [900] * 7).status_code == 204
    assert not [one for order in lead.get("/plan/today").data["orders"] for one in order["lines"] if one["material"] == "neutral_spirit_40"]
    rows = [(selling.day - timedelta(days=n), "Clear long", 20) for n in range(1, 15)]
    assert send(lead, "/plan/till", table(rows)).data["left_out"] == []
    (line,) = [one for order in lead.get("/plan/today").data["orders"] for one in order["lines"] if one["material"] == "neutral_spirit_40"]
    # Some 790 g an evening, two evenings before the delivery after the next: 700 g do not last through the first.
    assert line["needed_for"] == ["Clear long"] and line["wanted_g"] > 1500.0
    assert line["lacking_g"] == pytest.approx(line["wanted_g"] - 700.0) and line["packs"] * 700 >= line["lacking_g"]
