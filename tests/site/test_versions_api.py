"""Versions: never changed, worded better, scored, compared, branched, promoted, withdrawn; and what staff have to do with them."""

from copy import deepcopy
from datetime import timedelta

import pytest
from django.utils import timezone

from tests.core.cordial import FORM
from ulsek.core.results.quiz import questions
from ulsek.specs.actions.withdraw_version import withdraw_version
from ulsek.specs.models import Draft, Score, Spec, Version
from ulsek.specs.queries import version_evaluated
from ulsek.stores.models import HouseMaterial


def bent(value=2.4, **more):
    body = deepcopy(FORM)
    body["steps"][2]["lines"][0]["amount"]["value"] = value
    body["goals"] = []
    return {**body, **more}


def next_version(place, spec, body, why="next", critical=False):
    api = place.apis["lead"]
    revision = Draft.objects.get(spec=spec).revision
    assert api.put(f"/specs/{spec.pk}/draft", {"spec": body}, revision).status_code == 200
    return api.post(f"/specs/{spec.pk}/publish", {"revision": revision + 1, "why": why, "critical": critical})


def test_better_words_are_no_new_version(place):
    spec = place.spec()
    worded = deepcopy(FORM)
    worded["steps"][0]["note"] = "through the fine sieve"
    refused = next_version(place, spec, worded)
    assert (refused.status_code, refused.data["code"]) == (422, "wording_only")
    corrected = place.apis["lead"].post(f"/specs/{spec.pk}/correct")
    assert (corrected.status_code, corrected.data["number"]) == (200, 1)
    assert Version.objects.get(spec=spec).body["steps"][0].get("note") is None, "what was published stays"
    assert place.apis["reader"].get(f"/specs/{spec.pk}/card").data["steps"][0]["note"] == "through the fine sieve"
    next_version(place, spec, bent())
    place.apis["lead"].put(f"/specs/{spec.pk}/draft", {"spec": bent(2.6)}, Draft.objects.get(spec=spec).revision)
    assert place.apis["lead"].post(f"/specs/{spec.pk}/correct").data["code"] == "not_wording"


def test_any_two_are_compared(place):
    spec = place.spec()
    next_version(place, spec, bent())
    found = place.apis["reader"].get(f"/compare?left={spec.pk}&left_version=1&right={spec.pk}&right_version=2").data
    assert any(text.startswith("sharper: 2.10") for text in found["did"])
    assert [row["same"] for row in found["rows"]] == [True, True, False, True, True]
    assert found["left"]["name"] == "Sea buckthorn cordial, version 1"
    assert place.apis["reader"].get(f"/compare?left={spec.pk}&left_version=7&right={spec.pk}").status_code == 404


def test_scores_and_copies_stand_at_their_version(place):
    spec = place.spec()
    path = f"/specs/{spec.pk}/versions/1"
    for score in (0, 11):
        assert place.apis["maker"].post(f"{path}/scores", {"score": score}).data["where"] == "score"
    assert place.apis["reader"].get(f"/specs/{spec.pk}/versions").data["items"][0]["scored"] is None
    row = place.apis["maker"].post(f"{path}/scores", {"score": 8, "reference": "shop-bought", "note": "rounder"}).data
    (score,) = row["scored"]["scores"]
    assert (score["taster"], score["reference"], score["score"]) == ("Maker", "shop-bought", 8)
    assert row["scored"]["headline"] == "Maker gave 8 of 10, against shop-bought."
    assert place.apis["maker"].post(f"{path}/copies", {"to": ""}).data["where"] == "to"
    assert place.apis["maker"].post(f"{path}/copies", {"to": "Pim"}).data["copies"][0]["to"] == "Pim"
    assert Score.objects.count() == 1


def test_what_was_scored_openly_is_a_result_with_its_decimals(place):
    spec = place.spec()
    assert place.apis["reader"].get("/panels/openly").data["items"] == []
    old = timezone.now() - timedelta(days=200)
    for taster, score in (("Noor", "7.25"), ("Jonas", "6.50"), ("Noor", "9.00")):
        Score.objects.create(version=spec.versions.get(), taster=taster, score=score, reference="version 0", at=old)
    (row,) = place.apis["reader"].get("/panels/openly?find=buckthorn").data["items"]
    assert (row["name"], row["version"]) == ("Sea buckthorn cordial", 1)
    assert row["result"]["headline"] == "7.6 of 10 on average, 6.5 to 9, by 2 tasters, against version 0."
    assert row["result"]["mean"] == pytest.approx(22.75 / 3)
    assert sorted(score["score"] for score in row["result"]["scores"]) == [6.5, 7.25, 9.0]
    assert "shows nothing of guests" in row["result"]["about"]
    assert place.apis["reader"].get("/panels/openly?find=quince").data["items"] == []
    # In the library it stands as long as no panel has said more.
    (newest,) = place.apis["reader"].get("/panels/newest").data
    assert (newest["spec"], newest["version"], newest["panel"], newest["is_shown"]) == (str(spec.pk), 1, None, False)


def test_a_trial_stays_aside_until_it_is_promoted(place):
    spec = place.spec()
    trial = place.apis["lead"].post(f"/specs/{spec.pk}/versions/1/branch", {"name": "Sharper trial"}).data
    row = Spec.objects.get(pk=trial["id"])
    assert (trial["state"], trial["trial_of"]) == ("trial", "Sea buckthorn cordial, version 1")
    assert place.apis["lead"].post(f"/specs/{row.pk}/promote").data["code"] == "not_published"
    assert next_version(place, row, bent(2.5, id="sharper", name="Sharper trial")).status_code == 201
    assert not HouseMaterial.objects.filter(key=row.key.replace("-", "_")).exists(), "nobody draws on a trial"
    place.apis["lead"].post(f"/specs/{row.pk}/promote")
    draft = Draft.objects.get(spec=spec)
    assert draft.body["steps"][2]["lines"][0]["amount"]["value"] == 2.5
    assert (draft.body["name"], draft.body["id"]) == ("Sea buckthorn cordial", "cordial")
    assert Version.objects.filter(spec=spec).count() == 1, "it is checked and published there like any draft"
    assert place.apis["lead"].post(f"/specs/{spec.pk}/promote").data["code"] == "not_a_trial"


def test_a_variant_follows_its_base(place):
    base = place.spec()
    made = place.apis["lead"].post("/specs", {"name": "Cordial, less sweet", "variant_of": str(base.pk)}).data
    variant = Spec.objects.get(pk=made["id"])
    own = deepcopy(Draft.objects.get(spec=variant).body)
    own["steps"][1]["lines"][0]["amount"]["ratio"] = 0.7
    own["goals"] = []
    next_version(place, variant, own)
    next_version(place, base, bent(2.3))
    followed = Draft.objects.get(spec=variant).body
    assert followed["steps"][2]["lines"][0]["amount"]["value"] == 2.3, "follows the base"
    assert followed["steps"][1]["lines"][0]["amount"]["ratio"] == 0.7, "keeps its own"
    assert followed["name"] == "Cordial, less sweet"
    assert Version.objects.filter(spec=variant).count() == 1, "what staff make changes only when somebody publishes"


def test_a_withdrawal_reaches_start_open_run_lot_and_whoever_draws_on_it(place):
    spec = place.spec()
    run = place.run(spec)
    next_version(place, spec, bent())
    api = place.apis["lead"]
    assert api.post(f"/specs/{spec.pk}/versions/1/withdraw", {"why": " "}).data["where"] == "why"
    assert api.post(f"/specs/{spec.pk}/versions/1/withdraw", {"why": "turned", "successor": 9}).data["where"] == "successor"
    row = api.post(f"/specs/{spec.pk}/versions/1/withdraw", {"why": "it turned in a day", "successor": 2}).data
    assert (row["withdrawn"], row["successor"]) == ("it turned in a day", 2)
    assert api.post(f"/specs/{spec.pk}/versions/1/withdraw", {"why": "again"}).data["code"] == "twice"
    assert api.get("/runs?state=open").data["items"][0]["withdrawn"] == "it turned in a day"
    refused = place.apis["maker"].post("/runs", {"id": "7d9f1f0e-0000-4000-8000-000000000001", "spec": str(spec.pk), "version": 1})
    assert (refused.data["code"], "Make version 2" in refused.data["detail"]) == ("withdrawn", True)
    assert api.get(f"/specs/{spec.pk}/card").data["number"] == 2
    assert api.get(f"/specs/{spec.pk}/card?number=1").data["successor"] == 2
    withdraw_version(place.members["lead"], Version.objects.get(spec=spec, number=2), "this one too")
    assert "Withdrawn: this one too" in HouseMaterial.objects.get(key="cordial").body["cautions"]
    assert Spec.objects.get(pk=spec.pk).state == "withdrawn"
    assert run


def test_a_critical_change_is_read_before_it_is_made_and_asked_once(place):
    spec = place.spec()
    next_version(place, spec, bent(), critical=True)
    start = {"id": "7d9f1f0e-0000-4000-8000-000000000002", "spec": str(spec.pk)}
    assert place.apis["maker"].post("/runs", start).data["code"] == "unread"
    for _ in range(2):
        assert place.apis["maker"].post(f"/specs/{spec.pk}/versions/2/acknowledge").data["acknowledged"]
    assert place.apis["maker"].post("/runs", start).status_code == 201
    assert place.apis["reader"].get(f"/specs/{spec.pk}/versions").data["items"][0]["acknowledged"] == ["Maker"]


def test_a_first_make_waits_for_three_answers_and_the_lead_can_switch_them_off(place):
    spec = place.spec()
    api, lead = place.apis["maker"], place.apis["lead"]
    assert lead.put(f"/specs/{spec.pk}/settings", {"asks_questions": True}, 1).status_code == 200
    start = {"id": "7d9f1f0e-0000-4000-8000-000000000003", "spec": str(spec.pk)}
    assert api.post("/runs", start).data["code"] == "questions_open"
    asked = api.get(f"/specs/{spec.pk}/versions/1/reading").data["questions"]
    assert len(asked) == 3
    right = {item.id: item.right for item in questions(version_evaluated(Version.objects.get(spec=spec)))}
    wrong = {**right, asked[0]["id"]: (right[asked[0]["id"]] + 1) % 2}
    told = api.post(f"/specs/{spec.pk}/versions/1/answers", {"answers": wrong}).data
    assert ([item["id"] for item in told["wrong"]], told["passed"]) == ([asked[0]["id"]], False)
    assert api.post(f"/specs/{spec.pk}/versions/1/answers", {"answers": right}).data["passed"]
    assert api.post("/runs", start).status_code == 201
    lead.put(f"/specs/{spec.pk}/settings", {"asks_questions": False}, 1)
    assert place.apis["reader"].get(f"/specs/{spec.pk}/versions/1/reading").data["questions"] == []


def test_a_card_at_any_batch_and_what_it_refuses(place):
    spec = place.spec()
    api = place.apis["reader"]
    plain, doubled = api.get(f"/specs/{spec.pk}/card").data, api.get(f"/specs/{spec.pk}/card?have_g=2000").data
    assert plain["steps"][0]["lines"][0]["amount"] == "1\u00a0000\u00a0g"
    assert doubled["steps"][0]["lines"][0]["amount"] == "2\u00a0000\u00a0g"
    assert doubled["volume_ml"] == pytest.approx(2 * plain["volume_ml"], rel=1e-3)
    for query, where in (
        ("serves=4&volume_ml=9", "volume_ml"),
        ("language=tlh", "language"),
        ("have_g=-1", "have_g"),
        ("chosen=spice", "chosen"),
        ("chosen=a=b", "options/a"),
        ("number=7", "number"),
    ):
        assert api.get(f"/specs/{spec.pk}/card?{query}").data["where"] == where, query
    booklet = api.client.get(f"/api/booklet.pdf?specs={spec.pk}")
    assert booklet.content[:4] == b"%PDF"
    assert api.get("/booklet.pdf?specs=moon").data["where"] == "specs"


def test_a_run_records_which_alternative_was_made(place):
    body = deepcopy(FORM)
    body["options"] = [{"id": "acid", "name": "Acid", "choices": [{"id": "malic"}, {"id": "none"}]}]
    body["steps"][2]["only"] = "acid/malic"
    body["goals"] = []
    spec = place.spec(body=body)
    run = place.run(spec, chosen={"acid": "none"})
    shown = place.apis["maker"].get(f"/runs/{run}").data
    assert "s3" not in [step["id"] for step in shown["state"]["steps"]]
    refused = place.apis["maker"].post(
        "/runs", {"id": "7d9f1f0e-0000-4000-8000-000000000004", "spec": str(spec.pk), "chosen": {"acid": "lemon"}}
    )
    assert refused.status_code == 422


def test_lists_of_versions_count_their_queries(place, django_assert_max_num_queries):
    spec = place.spec()
    for value in (2.2, 2.3, 2.4):
        next_version(place, spec, bent(value))
    with django_assert_max_num_queries(11):
        assert len(place.apis["reader"].get(f"/specs/{spec.pk}/versions").data["items"]) == 4
