"""Who may do what, and nothing of another house."""

from datetime import timedelta
from decimal import Decimal
from uuid import uuid4

import pytest
from axes.utils import reset
from django.test import Client
from django.utils import timezone

from tests.core.cordial import FORM
from tests.site.conftest import PASSWORD, event
from ulsek.citrus.actions.receive_case import receive_case
from ulsek.team.models import HistoryRow

OUT, NO, MISSING = 401, 403, 404


@pytest.fixture
def doors(place):
    """Every door with what it answers to: nobody, reader, maker, lead, a lead of another house."""
    item = place.delivery()
    spec = place.spec()
    run = place.run(spec)
    reading = {"brix_reading": 8.2}
    case = receive_case(place.members["maker"], "lemon", supplier="Osterlund Pantry", count=30, weight_g=3200, price=Decimal(9))
    by = (timezone.now() + timedelta(hours=3)).isoformat()
    plan = {"cases": [{"case": str(case.pk)}], "wants": [{"what": "juice", "fruits": ["lemon"], "amount": 200, "by": by}]}
    flag = {"spec": FORM, "sugar_g_100ml": 40.0, "acid_g_100ml": 2.4}
    return [
        ("get", "/stock", None, (OUT, 200, 200, 200, 200)),
        ("get", "/materials", None, (OUT, 200, 200, 200, 200)),
        ("post", f"/stock/{item.pk}/readings", reading, (OUT, NO, 200, 200, MISSING)),
        ("post", "/stock", {"material": "water", "product": "x", "price": "1", "pack_g": "1"}, (OUT, NO, 201, 201, 201)),
        ("get", "/specs", None, (OUT, 200, 200, 200, 200)),
        ("get", "/words", None, (OUT, 200, 200, 200, 200)),
        ("post", "/specs", {"name": "New", "family": "syrup"}, (OUT, NO, NO, 201, 201)),
        ("get", f"/specs/{spec.pk}/draft", None, (OUT, 200, 200, 200, MISSING)),
        ("put", f"/specs/{spec.pk}/draft", {"spec": FORM}, (OUT, NO, NO, 200, MISSING)),
        ("post", f"/specs/{spec.pk}/publish", {"revision": 2, "why": "y"}, (OUT, NO, NO, 422, MISSING)),
        ("get", f"/specs/{spec.pk}/versions", None, (OUT, 200, 200, 200, MISSING)),
        ("get", "/families/cordial/schools", None, (OUT, 200, 200, 200, 200)),
        ("post", "/read", {"text": "Mix\n1 kg honey"}, (OUT, 200, 200, 200, 200)),
        ("post", "/step-line", {"text": "strain"}, (OUT, NO, NO, 200, 200)),
        ("get", f"/specs/{spec.pk}/tree", None, (OUT, 200, 200, 200, MISSING)),
        ("put", f"/specs/{spec.pk}/settings", {"asks_questions": False}, (OUT, NO, NO, 200, MISSING)),
        ("get", f"/specs/{spec.pk}/export", None, (OUT, 200, 200, 200, MISSING)),
        ("post", "/jobs", {"kind": "library"}, (OUT, 202, 202, 202, 202)),
        ("get", "/materials.csv", None, (OUT, 200, 200, 200, 200)),
        ("post", "/materials.csv", {"text": "key,name\n"}, (OUT, NO, NO, 200, 200)),
        ("get", f"/specs/{spec.pk}/attachments", None, (OUT, 200, 200, 200, MISSING)),
        ("get", f"/compare?left={spec.pk}&right={spec.pk}", None, (OUT, 200, 200, 200, MISSING)),
        ("post", f"/specs/{spec.pk}/versions/1/scores", {"score": 7}, (OUT, NO, 201, 201, MISSING)),
        ("post", f"/specs/{spec.pk}/versions/1/copies", {"to": "Pim"}, (OUT, NO, 201, 201, MISSING)),
        ("post", f"/specs/{spec.pk}/versions/1/branch", {"name": "Trial"}, (OUT, NO, NO, 201, MISSING)),
        ("post", f"/specs/{spec.pk}/versions/1/acknowledge", {}, (OUT, 200, 200, 200, MISSING)),
        ("get", f"/specs/{spec.pk}/versions/1/reading", None, (OUT, 200, 200, 200, MISSING)),
        ("post", f"/specs/{spec.pk}/versions/1/answers", {"answers": {}}, (OUT, NO, 200, 200, MISSING)),
        ("post", f"/specs/{spec.pk}/promote", {}, (OUT, NO, NO, 422, MISSING)),
        ("post", f"/specs/{spec.pk}/correct", {}, (OUT, NO, NO, 200, MISSING)),
        ("get", f"/specs/{spec.pk}/card", None, (OUT, 200, 200, 200, MISSING)),
        ("get", f"/specs/{spec.pk}/card.pdf", None, (OUT, 200, 200, 200, MISSING)),
        ("get", f"/specs/{spec.pk}/start-by?at=2026-11-27T18:00", None, (OUT, 200, 200, 200, MISSING)),
        ("get", "/instruments", None, (OUT, 200, 200, 200, 200)),
        ("post", "/instruments", {"name": "x", "kind": "scale", "address": "socket://127.0.0.1:9711"}, (OUT, NO, NO, 201, 201)),
        ("delete", f"/instruments/{uuid4()}", None, (OUT, NO, NO, MISSING, MISSING)),
        ("get", "/duty", None, (OUT, 200, 200, 200, 200)),
        ("get", "/containers", None, (OUT, 200, 200, 200, 200)),
        ("post", "/containers", {"name": "tub", "tare_g": 1}, (OUT, NO, 201, 422, 201)),
        ("get", f"/runs/{run}/offline", None, (OUT, 200, 200, 200, MISSING)),
        ("get", f"/runs/{run}/rehearsal", None, (OUT, 422, 422, 422, MISSING)),
        ("post", f"/runs/{run}/share", {}, (OUT, 422, 422, 422, MISSING)),
        ("post", f"/runs/{run}/print", {"printer": str(uuid4())}, (OUT, NO, 422, 422, MISSING)),
        ("post", f"/runs/{run}/into-draft", {}, (OUT, NO, NO, 422, MISSING)),
        ("get", f"/runs/{run}/draft?name=x", None, (OUT, 422, 422, 422, MISSING)),
        ("get", "/rules", None, (OUT, 200, 200, 200, 200)),
        ("put", "/house/units", {"beside": "cups", "locale": "us"}, (OUT, NO, NO, 200, 200)),
        ("put", "/rules", {"rules": {}}, (OUT, NO, NO, 200, 200)),
        ("post", "/evaluate", {"spec": FORM}, (OUT, 200, 200, 200, 200)),
        ("post", "/solve", flag, (OUT, 200, 200, 200, 200)),
        ("post", "/take", {"spec": FORM, "material": "water", "mass_g": 9}, (OUT, NO, NO, 200, 200)),
        ("get", "/sums", None, (OUT, 200, 200, 200, 200)),
        ("post", "/sums/dilute", {"figures": {"mass": 9, "have": 60, "want": 50}}, (OUT, 200, 200, 200, 200)),
        ("get", "/sums/recent", None, (OUT, 200, 200, 200, 200)),
        ("post", "/sums/dilute/kept", {"figures": {"mass": 9, "have": 60, "want": 50}}, (OUT, 201, 201, 201, 201)),
        ("get", "/sums/dilute/label.pdf", None, (OUT, 422, 422, 422, 422)),
        ("get", "/sums/liquids/L0099", None, (OUT, MISSING, MISSING, MISSING, MISSING)),
        ("get", "/citrus/varieties", None, (OUT, 200, 200, 200, 200)),
        ("get", "/citrus/cases", None, (OUT, 200, 200, 200, 200)),
        ("post", "/citrus/cases", {"fruit": "lemon", "supplier": "x", "count": 9, "weight_g": 900}, (OUT, NO, 201, 201, 201)),
        ("post", f"/citrus/cases/{case.pk}/samples", {"count": 2, "juice_ml": 80}, (OUT, NO, 201, 201, MISSING)),
        ("post", f"/citrus/cases/{case.pk}/samples/0/aside", {"why": "x"}, (OUT, MISSING, MISSING, MISSING, MISSING)),
        ("get", "/citrus/record/lemon", None, (OUT, 200, 200, 200, 200)),
        ("post", "/citrus/plan", plan, (OUT, 200, 200, 200, 422)),
        ("get", "/citrus/plans", None, (OUT, 200, 200, 200, 200)),
        ("post", "/citrus/plans", plan, (OUT, NO, 201, 201, 422)),
        ("put", f"/citrus/plans/{uuid4()}", plan, (OUT, MISSING, MISSING, MISSING, MISSING)),
        ("post", f"/citrus/plans/{uuid4()}/cuts", {"row": "x", "count": 1}, (OUT, MISSING, MISSING, MISSING, MISSING)),
        ("post", "/citrus/stretch", {"fruit": "lemon"}, (OUT, 200, 200, 200, 200)),
        ("post", "/citrus/oil-sugar", {"fruit": "lemon", "peel_g": 90}, (OUT, 200, 200, 200, 200)),
        ("post", "/citrus/packed-peel", {"fruit": "lemon", "ml": 250, "grams": 95}, (OUT, NO, 201, 201, 201)),
        ("post", "/citrus/spent-peel", {"fruit": "lemon", "peel_g": 100, "spent_g": 72, "hours": 18}, (OUT, NO, 201, 201, 201)),
        ("get", "/citrus/keeps", None, (OUT, 200, 200, 200, 200)),
        ("get", "/citrus/trials", None, (OUT, 200, 200, 200, 200)),
        ("post", "/citrus/trials", {"fruit": "lemon", "first": "a", "second": "b", "pairs": [[1, 2]]}, (OUT, NO, 201, 201, 201)),
        ("get", "/citrus/ledger", None, (OUT, 200, 200, 200, 200)),
        ("post", "/desk", {"material": "pear_juice", "mass_g": 900}, (OUT, 200, 200, 200, 200)),
        ("post", "/ways", {"spec": FORM, "aims": [{"property": "brix", "value": 45}]}, (OUT, 200, 200, 200, 200)),
        ("post", "/keeping", {"spec": FORM}, (OUT, 200, 200, 200, 200)),
        ("post", "/scale", {"spec": FORM, "serves": 40}, (OUT, 200, 200, 200, 200)),
        ("post", "/cost", {"spec": FORM}, (OUT, 200, 200, 200, 200)),
        ("post", "/gear", {"specs": [FORM]}, (OUT, 200, 200, 200, 200)),
        ("post", "/parse", {"text": "Mix\n1 kg honey"}, (OUT, 200, 200, 200, 200)),
        ("post", "/capture", {"name": "x", "weighings": [{"material": "honey", "mass_g": 9}]}, (OUT, 200, 200, 200, 200)),
        ("post", "/working", {"spec": FORM, "step": "s2", "name": "brix"}, (OUT, 200, 200, 200, 200)),
        ("get", "/runs", None, (OUT, 200, 200, 200, 200)),
        ("post", "/runs", {"id": str(uuid4()), "spec": str(spec.pk)}, (OUT, NO, 201, 201, 422)),
        ("get", f"/runs/{run}", None, (OUT, 200, 200, 200, MISSING)),
        ("post", f"/runs/{run}/events", {"events": []}, (OUT, NO, 200, 200, MISSING)),
        ("get", f"/runs/{run}/supplies", None, (OUT, 200, 200, 200, MISSING)),
        ("get", f"/runs/{run}/supplies/scanned?line=juice&code={item.code}", None, (OUT, 200, 200, 200, MISSING)),
        ("get", f"/stock/{item.pk}/events", None, (OUT, 200, 200, 200, MISSING)),
        ("post", f"/stock/{item.pk}/events", {"kind": "counted", "body": {"left_g": 900}}, (OUT, NO, 200, 200, MISSING)),
        ("get", "/lots", None, (OUT, 200, 200, 200, 200)),
        ("post", "/lots/L0099/events", {"kind": "opened"}, (OUT, NO, MISSING, MISSING, MISSING)),
        ("get", "/lots/L0099/trace", None, (OUT, MISSING, MISSING, MISSING, MISSING)),
        ("post", "/lots/L0099/recall", {"why": "x"}, (OUT, NO, NO, MISSING, MISSING)),
        ("post", "/citrus/stretch/spec", {"fruit": "lemon"}, (OUT, NO, NO, 201, 201)),
        ("get", f"/stock/{item.pk}/label.pdf", None, (OUT, 200, 200, 200, MISSING)),
        ("post", f"/stock/{item.pk}/print", {"printer": str(uuid4())}, (OUT, NO, MISSING, MISSING, MISSING)),
        ("get", f"/stock/{item.pk}/trace", None, (OUT, 200, 200, 200, MISSING)),
        ("post", f"/specs/{spec.pk}/versions/1/recall", {"why": "x"}, (OUT, NO, NO, 200, MISSING)),
        ("get", "/lots/L0099", None, (OUT, MISSING, MISSING, MISSING, MISSING)),
        ("get", "/shift", None, (OUT, 200, 200, 200, 200)),
        ("post", f"/specs/{spec.pk}/versions/1/withdraw", {"why": "x"}, (OUT, NO, NO, 200, MISSING)),
        ("post", f"/stock/{item.pk}/recall", {"why": "x"}, (OUT, NO, NO, 200, MISSING)),
    ]


def test_permission_matrix(place, doors):
    who = ("nobody", "reader", "maker", "lead", "stranger")
    for method, path, body, expected in doors:
        for role, status in zip(who, expected, strict=True):
            api = place.apis[role]
            answer = api.get(path) if method == "get" else api.put(path, body, 1) if method == "put" else api.call(method, path, body)
            assert answer.status_code == status, (role, method, path, answer.content[:200])
            if status >= 400:
                assert answer["Content-Type"] == "application/problem+json"
                assert set(answer.data) >= {"title", "status", "detail", "code"}


def test_a_stranger_sees_nothing_of_this_house(place):
    place.delivery()
    place.run()
    for path in ("/stock", "/specs", "/runs", "/lots"):
        assert place.apis["stranger"].get(path).data["items"] == []
    shift = place.apis["stranger"].get("/shift").data
    assert (shift["runs"], shift["turns"], shift["shelf"]) == ([], [], [])


def test_writes_leave_history(place):
    place.delivery(brix_reading=8.2)
    place.run()
    actions = list(HistoryRow.objects.filter(house=place.house).order_by("pk").values_list("action", "person__display_name"))
    assert actions == [
        ("receive_delivery", "Maker"),
        ("read_delivery", "Maker"),
        ("start_spec", "Lead"),
        ("publish_spec", "Lead"),
        ("start_run", "Maker"),
    ]


def _sign_in(client, name, password):
    client.get("/api/session")
    token = client.cookies["csrftoken"].value
    return client.post(
        "/api/session", {"name": name, "password": password}, content_type="application/json", headers={"X-CSRFToken": token}
    )


def test_sign_in_and_out(place):
    client = Client(enforce_csrf_checks=True)
    assert client.get("/api/session").json() == {**client.get("/api/session").json(), "signed_in": False}
    bare = Client(enforce_csrf_checks=True).post("/api/session", {"name": "lead", "password": PASSWORD}, content_type="application/json")
    assert bare.status_code == 403
    wrong = _sign_in(client, "lead", "nope")
    assert (wrong.status_code, wrong.json()["detail"]) == (401, "Name and password do not match. Check both and try again.")
    right = _sign_in(client, "lead", PASSWORD)
    assert (right.status_code, right.json()["role"], right.json()["house"]) == (200, "lead", "Tern House")
    assert client.get("/api/specs").status_code == 200
    assert client.post("/api/specs", {"name": "x"}, content_type="application/json").status_code == 403, (
        "a write without the token is refused"
    )


def test_wrong_tries_lock_the_name_for_a_while(place):
    client = Client(enforce_csrf_checks=True)
    answers = [_sign_in(client, "maker", "nope").status_code for _ in range(7)]
    assert answers[:5] == [401] * 5
    locked = _sign_in(client, "maker", PASSWORD)
    assert locked.status_code == 429
    assert locked.json()["detail"].startswith("Too many wrong tries with this name.")
    assert _sign_in(client, "lead", PASSWORD).status_code == 200, "another name is not locked"
    reset()


def test_the_page_is_sent_with_a_strict_policy(client, db):
    answer = client.get("/shift")
    policy = answer["Content-Security-Policy"]
    assert "default-src 'none'" in policy
    assert "script-src 'self'" in policy
    assert "unsafe" not in policy
    assert answer["X-Frame-Options"] == "DENY"
    assert answer["X-Content-Type-Options"] == "nosniff"
    assert "STYLE_NONCE" not in answer.content.decode()


def test_argon2_keeps_the_passwords(place):
    assert place.members["lead"].person.password.startswith("argon2$")


def test_the_signer_is_who_is_signed_in_whatever_the_device_says(place):
    run = place.run()
    forged = {**event("noted", text="hello"), "by": "Somebody else"}
    place.apis["maker"].post(f"/runs/{run}/events", {"events": [forged]})
    from ulsek.batches.models import RunEvent

    assert RunEvent.objects.get(pk=forged["id"]).data["by"] == "Maker"


def test_a_session_names_who_a_batch_can_be_handed_to(place):
    assert place.apis["maker"].get("/session").data["others"] == ["Lead"], "neither oneself, nor who only reads, nor another house"
    assert place.apis["nobody"].get("/session").data["others"] == []
