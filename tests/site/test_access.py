"""Who may do what, and nothing of another house."""

from axes.utils import reset
from django.test import Client

from tests.site.conftest import PASSWORD, event
from ulsek.team.models import HistoryRow


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
