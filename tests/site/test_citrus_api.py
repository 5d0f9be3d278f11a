"""Citrus over HTTP: a case from its counting to the ledger, plans that are edited and carried out, and what a bad figure meets."""

from datetime import UTC, datetime, timedelta
from decimal import Decimal

import pytest

from tests.site.test_lots_api import bottled
from ulsek.batches.models import Lot
from ulsek.citrus.models import Case, CutDone, CutPlan
from ulsek.citrus.queries import LOOKED_AT, records
from ulsek.core.materials.reference_materials import typical_materials
from ulsek.specs.models import Version
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.stores.models import StockItem
from ulsek.team.models import HistoryRow

CASE = {"fruit": "bergamot", "supplier": "Calder Citrus Yard", "size": "40 in the case", "count": 40, "weight_g": 5600, "price": "28.00"}


def soon(hours=4.0):
    return (datetime.now(UTC) + timedelta(hours=hours)).isoformat()


def want(what, amount, hours=4.0, fruits=("bergamot",), **more):
    return {"what": what, "amount": amount, "by": soon(hours), "fruits": list(fruits), **more}


@pytest.fixture
def api(place):
    return place.apis["maker"]


@pytest.fixture
def case(api):
    return api.post("/citrus/cases", CASE).data


def plan_of(case, *wants, **more):
    return {"name": "Friday", "cases": [{"case": case["id"]}], "wants": list(wants), **more}


def test_a_case_begins_with_typical_values_and_one_figure_is_enough(api, case):
    assert (case["source"], case["left"], case["fruit_g"]) == ("typical", 40, 140)
    assert case["each"]["juice_ml"]["value"] == pytest.approx(48.6, abs=0.1)
    assert StockItem.objects.get(material="bergamot").remaining_g == 5600
    sampled = api.post(f"/citrus/cases/{case['id']}/samples", {"count": 10, "juice_ml": 380}).data
    assert (sampled["source"], sampled["from_count"]) == ("sample", 10)
    assert 38 < sampled["each"]["juice_ml"]["value"] < 43
    fuller = {"count": 5, "juice_ml": 200, "weight_g": 700, "peel_g": 240, "brix": 8.4, "acid_g_100ml": 4.6}
    full = api.post(f"/citrus/cases/{case['id']}/samples", fuller).data
    assert (full["from_count"], full["each"]["peel_g"], full["brix"], full["acid_g_100ml"]) == (15, 48, 8.4, 4.6)


def test_a_slip_is_set_aside_with_its_reason_and_counts_no_more(api, case):
    sample = api.post(f"/citrus/cases/{case['id']}/samples", {"count": 10, "juice_ml": 90}).data["samples"][0]
    aside = f"/citrus/cases/{case['id']}/samples/{sample['id']}/aside"
    assert api.post(aside, {"why": " "}).data["where"] == "why"
    after = api.post(aside, {"why": "half of it went over the edge"}).data
    assert (after["source"], after["samples"][0]["set_aside"]) == ("typical", "half of it went over the edge")


def test_the_houses_own_record_is_where_the_next_case_begins(place, api):
    for days, juice in ((30, 490), (20, 500), (10, 510)):
        old = api.post("/citrus/cases", CASE).data
        Case.objects.filter(pk=old["id"]).update(came_at=datetime.now(UTC) - timedelta(days=days))
        api.post(f"/citrus/cases/{old['id']}/samples", {"count": 10, "juice_ml": juice})
    new = api.post("/citrus/cases", CASE).data
    assert (new["source"], new["from_count"]) == ("record", 3)
    dry = api.post(f"/citrus/cases/{new['id']}/samples", {"count": 10, "juice_ml": 330}).data
    assert dry["unlike"].startswith("These are dry: 24 % juice, where the last 3 cases gave 37 %.")
    assert [round(point["ml_kg"]) for point in api.get("/citrus/record/bergamot").data] == [236, 364, 357, 350]
    row = next(item for item in api.get("/citrus/varieties").data if item["key"] == "bergamot")
    assert (row["source"], row["cases"]) == ("record", 4)
    assert place.apis["stranger"].get("/citrus/record/bergamot").data == []


@pytest.mark.parametrize(
    ("changed", "where"),
    [
        ({"count": 0}, "count"),
        ({"count": -3}, "count"),
        ({"count": 20_000}, "count"),
        ({"weight_g": 12}, "weight_g"),
        ({"fruit": "moonfruit"}, "fruit"),
        ({"supplier": " "}, "supplier"),
        ({"price": "-2"}, "price"),
    ],
)
def test_a_case_that_cannot_be_is_refused_at_its_figure(api, changed, where):
    refused = api.post("/citrus/cases", {**CASE, **changed})
    assert (refused.status_code, refused.data["where"]) == (422, where)
    assert Case.objects.count() == StockItem.objects.count() == 0


def test_a_plan_uses_a_fruit_for_skin_and_juice_and_is_told_beside_the_naive_order(api, case):
    answer = api.post("/citrus/plan", plan_of(case, want("juice", 470), want("zest", 90))).data
    # Ten fruits give the zest; an eleventh is only juiced.
    assert {cut["way"]: cut["count"] for cut in answer["cuts"]} == {"zest, then juice": 10, "juice": 1}
    assert answer["naive"]["fruits"] > answer["fruits"]
    assert answer["naive"]["bin_g"] > answer["bin_g"]
    assert answer["text"] == f"11 fruits do it, {answer['naive']['fruits'] - 11} fewer than each on its own."
    assert answer["short"] == []
    grams = sum(item["grams"] for item in answer["shares"]) + sum(item["grams"] for item in answer["over"]) + answer["bin_g"]
    assert grams == pytest.approx(sum(item["grams"] for item in answer["sources"]))
    assert sum(item["grams"] for item in answer["bins"]) == pytest.approx(answer["bin_g"]), "the bin, case by case"


def test_a_plan_that_cannot_be_met_says_what_is_short_by_when_and_what_would_do(api, case):
    answer = api.post("/citrus/plan", plan_of(case, want("juice", 4000), want("wheels", 14))).data
    (short,) = answer["short"]
    assert short["text"].startswith(f"{short['amount']:,.0f}".replace(",", "\u00a0"))
    assert "of juice are short for Bergamot juice." in short["text"]
    assert "more fruits would do it" in short["text"]
    assert answer["text"].startswith("Not all of it: short for Bergamot juice. This is the nearest")
    ordered = api.post("/citrus/plan", plan_of(case, want("juice", 4000), want("wheels", 14), order=True)).data
    assert (ordered["short"], [(pack["packs"], pack["each"]) for pack in ordered["packs"]]) == ([], [(2, 40)])


def test_stretched_juice_and_a_spec_are_wants_too(place, api, case):
    answer = api.post("/citrus/plan", plan_of(case, want("stretched", 2000, times=4))).data
    assert {share["kind"] for share in answer["shares"]} == {"juice", "zest"}
    assert sum(share["amount"] for share in answer["shares"] if share["kind"] == "juice") == pytest.approx(500, abs=0.5)
    refused = api.post("/citrus/plan", plan_of(case, want("spec", 1, fruits=(), spec=str(place.spec().pk))))
    assert (refused.status_code, refused.data["where"]) == (422, "wants/0/spec")
    assert "takes no citrus" in refused.data["detail"]


def test_zest_has_a_range_that_narrows_once_this_house_has_weighed_some(api, case):
    def spread(of):
        return of["each"]["zest_range"]["high"] / of["each"]["zest_range"]["low"]

    assert spread(case) > 2.0, "twofold apart by hand and fruit"
    answer = api.post("/citrus/plan", plan_of(case, want("zest", 90))).data
    (cut,) = answer["cuts"]
    assert cut["gives_range"]["zest"]["low"] < 0.7 * cut["gives"]["zest"] < cut["gives_range"]["zest"]["high"]
    assert any("zest differs by hand and fruit" in note and "g are short" in note for note in answer["notes"])
    assert any("of juice are still in them, pressed within 6 h" in text for text in answer["could"]), "juice of zested fruit is offered"
    sampled = api.post(f"/citrus/cases/{case['id']}/samples", {"count": 10, "juice_ml": 480, "zest_g": 70}).data
    assert (sampled["each"]["zest_g"], spread(sampled) < 1.3) == (7.0, True)
    other = api.post("/citrus/cases", {**CASE, "supplier": "Other yard"}).data
    assert other["each"]["zest_range"]["value"] == pytest.approx(7.0), "what one case gave is this house's own hand"
    assert 1.3 < spread(other) < 1.6


def test_day_old_juice_is_a_choice_and_why_it_is_pressed_again_is_said(api, case):
    first, later = want("juice", 460), want("juice", 20, hours=26.0)
    answer = api.post("/citrus/plan", plan_of(case, first, later)).data
    assert len({cut["then"] for cut in answer["cuts"]}) == 2
    (note,) = [note for note in answer["notes"] if "day-old" in note]
    assert "it would be 22\u00a0h old, and juice serves 18 h here. Say that day-old juice will do, and up to 30 h are allowed." in note
    old = api.post("/citrus/plan", plan_of(case, first, {**later, "day_old": True})).data
    assert (len({cut["then"] for cut in old["cuts"]}), old["notes"]) == (1, [])


def test_whole_fruit_is_a_want_and_counted(api, case):
    answer = api.post("/citrus/plan", plan_of(case, want("whole", 6), want("juice", 240))).data
    assert {(cut["way"], cut["count"]) for cut in answer["cuts"]} == {("whole", 6), ("juice", 5)}


@pytest.mark.parametrize(
    ("bad", "where"),
    [
        (want("juice", 100, hours=-3), "wants/0/by"),
        (want("juice", 0), "wants/0/amount"),
        (want("juice", -5), "wants/0/amount"),
        (want("juice", 100, fruits=("moonfruit",)), "wants/0/fruits"),
        (want("stretched", 100, fruits=()), "wants/0/fruits"),
        (want("spec", 1, spec="not-one"), "wants/0/spec"),
    ],
)
def test_a_want_that_cannot_be_is_refused_at_its_place(api, case, bad, where):
    refused = api.post("/citrus/plan", plan_of(case, bad))
    assert (refused.status_code, refused.data["where"]) == (422, where)


def test_more_fruit_than_there_is_is_refused_and_another_houses_case_is_unknown(place, api, case):
    body = plan_of(case, want("juice", 100))
    for count, where in ((-1, "cases/0/count"), (41, "cases/0/count")):
        refused = api.post("/citrus/plan", {**body, "cases": [{"case": case["id"], "count": count}]})
        assert (refused.status_code, refused.data["where"]) == (422, where)
    assert place.apis["stranger"].post("/citrus/plan", body).data["where"] == "cases/0"


def test_a_kept_plan_is_replanned_after_a_bad_sample_and_carried_out_into_the_ledger(place, api, case):
    kept = api.post("/citrus/plans", plan_of(case, want("juice", 470), want("zest", 90)))
    assert kept.status_code == 201
    plan = kept.data
    row = CutPlan.objects.get()
    before = {name: value for name, value in row.answer.items() if name != "bins"} | {"text": "as it was said then", "notes": ["a note"]}
    CutPlan.objects.filter(pk=row.pk).update(answer=before)
    (shown,) = api.get("/citrus/plans").data["items"]
    told = shown["answer"]
    assert (told["bins"], told["text"], told["notes"]) == (plan["answer"]["bins"], "as it was said then", ["a note"]), "one kept before"
    CutPlan.objects.filter(pk=row.pk).update(answer=row.answer)
    api.post(f"/citrus/cases/{case['id']}/samples", {"count": 10, "juice_ml": 300})
    body = {"name": "Friday", "cases": plan["cases"], "wants": plan["wants"]}
    again = api.call("put", f"/citrus/plans/{plan['id']}", body).data
    assert again["id"] == plan["id"]
    assert again["answer"]["fruits"] > plan["answer"]["fruits"]
    for cut in again["answer"]["cuts"]:
        done = {"row": cut["row"], "count": cut["count"], "juice_ml": 33.0 * cut["count"] if "juice" in cut["gives"] else 0.0}
        if "zest" in cut["gives"]:
            done |= {"skin_g": 95.0, "skin_binned_g": 5.0}
        answer = api.post(f"/citrus/plans/{plan['id']}/cuts", done)
        assert answer.status_code == 200, answer.content
    assert answer.data["done_at"]
    twice = api.post(f"/citrus/plans/{plan['id']}/cuts", done)
    assert (twice.status_code, twice.data["detail"]) == (422, "That was carried out already. Nothing to do.")
    assert api.call("put", f"/citrus/plans/{plan['id']}", body).data["code"] == "finished"
    fruits = sum(cut["count"] for cut in again["answer"]["cuts"])
    assert Case.objects.get().left == 40 - fruits
    (row,) = api.get("/citrus/ledger").data
    juiced = sum(cut["count"] for cut in again["answer"]["cuts"] if "juice" in cut["gives"])
    assert row["litres"] == pytest.approx(33.0 * juiced / 1000)
    assert (row["fruits"], row["kg"], row["skin_used_g"]) == (fruits, pytest.approx(fruits * 0.14), 90)
    assert row["money"] == pytest.approx(28.0 * fruits / 40)
    assert place.apis["stranger"].get("/citrus/ledger").data == []
    assert "carry_out_cut" in HistoryRow.objects.filter(house=place.house).values_list("action", flat=True)


def test_what_is_cut_already_is_used_first_when_a_plan_goes_on(api, case):
    plan = api.post("/citrus/plans", plan_of(case, want("zest", 90), want("juice", 900))).data
    cut = next(item for item in plan["answer"]["cuts"] if item["way"] == "zest, then juice")
    api.post(f"/citrus/plans/{plan['id']}/cuts", {"row": cut["row"], "count": cut["count"], "juice_ml": 480, "skin_g": 92})
    again = api.call("put", f"/citrus/plans/{plan['id']}", {"name": "", "cases": plan["cases"], "wants": plan["wants"]}).data
    assert again["done_rows"] == [cut["row"]]
    fresh = [item for item in again["answer"]["cuts"] if item["row"] not in again["done_rows"]]
    assert {item["way"] for item in fresh} == {"juice"}
    assert sum(item["gives"]["juice"] for item in fresh) < 900 - 480 + 60


def test_carrying_out_refuses_what_the_fruit_cannot_have_given(api, case):
    plan = api.post("/citrus/plans", plan_of(case, want("juice", 200))).data
    row = plan["answer"]["cuts"][0]["row"]
    path = f"/citrus/plans/{plan['id']}/cuts"
    for body, where in (
        ({"row": "none"}, "row"),
        ({"count": -2}, "count"),
        ({"juice_ml": 9000}, "juice_ml"),
        ({"skin_g": 9000}, "skin_g"),
        ({"skin_g": 5, "skin_binned_g": 9}, "skin_binned_g"),
    ):
        refused = api.post(path, {"row": row, "count": 4, **body})
        assert (refused.status_code, refused.data["where"]) == (422, where)
    assert CutDone.objects.count() == 0


def test_stretching_reckons_with_the_house_s_own_case_and_its_sours(place, api, case):
    unpriced = api.post("/citrus/stretch", {"fruit": "bergamot", "case": case["id"], "times": 4}).data
    # Nobody has bought citric acid yet: what the acid costs is not made up.
    assert (unpriced["cost_litre"], unpriced["fresh_litre"] > 0) == (None, True)
    receive_delivery(
        place.members["maker"],
        "citric_acid",
        Delivery(product="Citric", supplier="Meridian", price=Decimal(11), pack_g=Decimal(1000), packs=1),
    )
    made = api.post("/citrus/stretch", {"fruit": "bergamot", "case": case["id"], "times": 4}).data
    assert made["from_what"] == "Bergamot from Calder Citrus Yard"
    assert made["fresh_litre"] > 3 * made["cost_litre"] > 0
    assert [item["name"] for item in made["equal_acid"]][:2] == ["fresh", "stretched"]
    assert made["equal_acid"][1]["acid_g"] == pytest.approx(made["equal_acid"][0]["acid_g"])
    assert place.apis["reader"].post("/citrus/stretch", {"fruit": "yuzu"}).data["from_what"] == "typical values"
    assert place.apis["stranger"].post("/citrus/stretch", {"fruit": "bergamot", "case": case["id"]}).status_code == 404


def test_a_stretch_becomes_a_draft_that_the_house_can_make(place, api):
    """The juice as it was read goes into it; the draft's own figures reach the acid that was asked for."""
    receive_delivery(
        place.members["maker"],
        "lemon_juice",
        Delivery(product="Lemon", supplier="Meridian", price=Decimal(4), pack_g=Decimal(1000), packs=1),
    )
    StockItem.objects.update(makeup={**typical_materials()["lemon_juice"]["makeup"], "acid_g_100ml": 6.1, "acid_read": True})
    asked = {"fruit": "lemon", "juice_ml": 800, "times": 3, "school": "blend", "target": 5.0}
    assert api.post("/citrus/stretch/spec", asked).status_code == 403, "specs are the lead's"
    made = place.apis["lead"].post("/citrus/stretch/spec", asked)
    assert made.status_code == 201, made.content
    draft = place.apis["lead"].get(f"/specs/{made.data['spec']}/draft").data
    final = draft["result"]["final"]
    assert final["acid_g_100ml"]["value"] == pytest.approx(5.0, rel=5e-3)
    assert final["volume_ml"]["value"] == pytest.approx(2400, rel=5e-3)
    assert draft["body"]["name"] == "Stretched lemon, 3 times"
    assert place.apis["lead"].post("/citrus/stretch/spec", {**asked, "target": 0.5}).data["where"] == "target"


def test_a_cup_of_packed_peel_is_weighed_once_and_counts_from_then(api):
    body = {"fruit": "bergamot", "peel_g": 100, "measure": "volume", "ratio": 1}
    before = api.post("/citrus/oil-sugar", body).data
    assert api.post("/citrus/packed-peel", {"fruit": "bergamot", "ml": 250, "grams": 100}).status_code == 201
    after = api.post("/citrus/oil-sugar", body).data
    assert after["sugar_g"] == pytest.approx(250 * 200 / 236.6)
    assert after["sugar_g"] != pytest.approx(before["sugar_g"])
    assert api.post("/citrus/packed-peel", {"fruit": "bergamot", "ml": 250, "grams": 900}).data["where"] == "grams"


def test_spent_peel_teaches_what_sugar_draws_out_of_this_house_s_peel(api):
    body = {"fruit": "bergamot", "peel_g": 100, "hours": 18}
    before = api.post("/citrus/oil-sugar", body).data
    # 100 × 0.38 × (1 − e⁻³) = 36.1 g drawn: more than the 28.5 g of the prior.
    for _ in range(6):
        assert api.post("/citrus/spent-peel", {**body, "spent_g": 63.9}).status_code == 201
    after = api.post("/citrus/oil-sugar", body).data
    assert (before["jars"], after["jars"]) == (0, 6)
    assert before["drawn_g"]["value"] < after["drawn_g"]["value"] <= 36.2
    assert api.post("/citrus/spent-peel", {**body, "spent_g": 120}).data["where"] == "spent_g"
    assert api.post("/citrus/spent-peel", {**body, "spent_g": 80, "hours": 0}).data["where"] == "hours"


def test_a_trial_keeps_its_pairs_and_says_what_they_can(api):
    body = {"fruit": "bergamot", "first": "as it comes", "second": "warmed", "pairs": [[352, 371], [340, 366], [361, 372], [347, 369]]}
    verdict = api.post("/citrus/trials", body).data["verdict"]
    assert verdict["text"].startswith("Warmed gives more: between")
    assert verdict["low"] > 0
    assert api.post("/citrus/trials", {**body, "second": "As it comes"}).data["where"] == "second"
    assert api.post("/citrus/trials", {**body, "pairs": [[352, 9371]]}).data["where"] == "pairs/0"
    assert len(api.get("/citrus/trials").data["items"]) == 1


def test_a_desk_ranks_ways_for_the_juice_as_it_was_read(place, api):
    place.delivery(brix_reading=9.0, acid_g_100ml=2.6)
    desk = api.post("/desk", {"material": "sea_buckthorn_juice", "mass_g": 800, "missing": ["agar"]}).data
    assert (desk["name"], desk["acid_g_100ml"]) == ("Pressed, Hagedorn", pytest.approx(2.6))
    assert desk["ways"][-1]["verb"] == "agar"
    strong = api.post("/desk", {"material": "sea_buckthorn_juice", "mass_g": 800, "want_brix": 30}).data
    assert {"freeze_drip", "reduce"} <= {way["verb"] for way in strong["ways"]}
    assert api.post("/desk", {"material": "moon_juice", "mass_g": 800}).status_code == 404
    assert api.post("/desk", {"material": "sea_buckthorn_juice", "mass_g": -8}).data["where"] == "mass_g"


def test_a_desk_and_a_stretch_know_what_the_house_did_and_has(place, api):
    """The last batch that was fined with agar is named; what stands on the shelf and is sharp is offered beside the stretched juice."""
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    lot = bottled(place)
    assert all(not way["last_time"] for way in api.post("/desk", {"material": "sea_buckthorn_juice", "mass_g": 800}).data["ways"])
    Version.objects.filter(pk=lot.run.version_id).update(body={**lot.run.version.body, "steps": [{"id": "s1", "verb": "agar"}]})
    ways = {way["verb"]: way for way in api.post("/desk", {"material": "sea_buckthorn_juice", "mass_g": 800}).data["ways"]}
    assert ways["agar"]["last_time"].startswith(f"{lot.name}, batch {lot.run.code}, ")
    assert [verb for verb, way in ways.items() if way["last_time"]] == ["agar"]
    names = [item["name"] for item in api.post("/citrus/stretch", {"fruit": "bergamot", "times": 4}).data["equal_acid"]]
    assert lot.name in names
    Lot.objects.filter(pk=lot.pk).update(recalled="glass in it")
    names = [item["name"] for item in api.post("/citrus/stretch", {"fruit": "bergamot", "times": 4}).data["equal_acid"]]
    assert lot.name not in names, "nobody pours what was recalled"


def test_a_fruit_that_comes_every_day_does_not_crowd_out_a_rare_one(place, api, django_assert_max_num_queries):
    rare = api.post("/citrus/cases", CASE).data
    api.post(f"/citrus/cases/{rare['id']}/samples", {"count": 10, "juice_ml": 500})
    now = datetime.now(UTC)
    Case.objects.filter(pk=rare["id"]).update(came_at=now - timedelta(days=300))
    daily = {"fruit": "lemon", "supplier": "Calder Citrus Yard", "count": 100, "left": 100, "weight_g": 11000, "price": 28}
    Case.objects.bulk_create(Case(house=place.house, came_at=now - timedelta(days=n), **daily) for n in range(3 * LOOKED_AT))
    with django_assert_max_num_queries(4):
        found = records(place.house, ["bergamot", "lemon", "lime_key"])
    assert [point.case for point in found["bergamot"]] == [Case.objects.get(pk=rare["id"]).pk]


def test_listing_cases_asks_a_fixed_number_of_questions(api, case, django_assert_max_num_queries):
    for _ in range(4):
        more = api.post("/citrus/cases", CASE).data
        api.post(f"/citrus/cases/{more['id']}/samples", {"count": 10, "juice_ml": 480})
    with django_assert_max_num_queries(12):
        assert len(api.get("/citrus/cases").data["items"]) == 5
