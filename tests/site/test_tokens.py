"""Tokens of a house's own scripts: what each scope reaches, and how it ends."""

import hashlib
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from tests.site.conftest import Api
from ulsek.specs.models import Spec
from ulsek.team.models import ApiToken, HistoryRow, Membership


class Script(Api):
    """A script's calls: by its token alone, without a cookie and without a page."""

    def __init__(self, token):
        self.client = Client(headers={"Authorization": f"Bearer {token}"}, enforce_csrf_checks=True)


def token(place, scope, **more):
    made = place.apis["lead"].post("/tokens", {"name": f"to {scope}", "scope": scope, **more})
    assert made.status_code == 201, made.content
    return made.data["token"]


@pytest.fixture
def scripts(place):
    return {scope: Script(token(place, scope)) for scope in ("read", "make", "lead")}


def test_each_scope_reaches_what_its_role_does_and_nothing_about_people(place, scripts):
    spec = place.spec()
    for script in scripts.values():
        assert script.get("/specs").data["total"] == 1
        assert script.get("/house").data["name"] == "Tern House"
    container = {"name": "white tub", "tare_g": 200}
    assert scripts["read"].post("/containers", container).data["code"] == "not_for_scripts"
    assert scripts["make"].post("/containers", container).status_code == 201
    assert HistoryRow.objects.filter(action="keep_container").get().person == place.members["lead"].person, "for the lead who made it"
    new = {"name": "Another", "family": "cordial"}
    assert scripts["make"].post("/specs", new).status_code == 403
    assert scripts["lead"].post("/specs", new).status_code == 201
    assert Spec.objects.count() == 2
    for path, body in (
        ("/tokens", {"name": "x"}),
        ("/invitations", {"name": "x", "role": "lead"}),
        ("/devices", {"name": "x"}),
        ("/house/closing", {"name": "Tern House", "password": "x"}),
        ("/jobs", {"kind": "house"}),
        ("/group", {"name": "x"}),
        ("/own/leave", {}),
    ):
        assert scripts["lead"].post(path, body).data["code"] == "not_for_scripts", path
    for path in ("/people", "/tokens", "/own/sessions"):
        assert scripts["lead"].get(path).status_code == 403, path
    assert place.apis["stranger"].get(f"/specs/{spec.pk}/draft").status_code == 404
    assert Script(token(place, "lead")).get(f"/specs/{spec.pk}/draft").status_code == 200


def test_a_token_ends_when_it_is_revoked_when_it_is_past_and_with_its_person(place, scripts):
    rows = place.apis["lead"].get("/tokens").data["items"]
    read = next(row for row in rows if row["scope"] == "read")
    scripts["read"].get("/specs")
    assert ApiToken.objects.get(pk=read["id"]).used_at is not None
    assert place.apis["stranger"].post(f"/tokens/{read['id']}/revoke").status_code == 404
    assert place.apis["lead"].post(f"/tokens/{read['id']}/revoke").data["open"] is False
    assert scripts["read"].get("/specs").status_code == 401
    ApiToken.objects.filter(scope="make").update(expires_at=timezone.now() - timedelta(seconds=1))
    assert scripts["make"].get("/specs").status_code == 401
    Membership.objects.filter(person=place.members["lead"].person).update(role="reader")
    assert scripts["lead"].post("/containers", {"name": "tub", "tare_g": 1}).status_code == 403, "no more than its person may"
    Membership.objects.filter(person=place.members["lead"].person).update(left_at=timezone.now())
    assert scripts["lead"].get("/specs").status_code == 401


def test_only_the_hash_is_stored_and_what_is_no_token_is_nobody(place):
    text = token(place, "read")
    row = ApiToken.objects.get()
    assert (row.digest, text.startswith("ulsek_")) == (hashlib.sha256(text.encode()).hexdigest(), True)
    assert text not in place.apis["lead"].client.get("/api/tokens").content.decode()
    for header in (f"Bearer {text[:-1]}", f"Basic {text}", text, "Bearer ", "Bearer " + "x" * 5000):
        assert Client(headers={"Authorization": header}).get("/api/specs").status_code == 401, header[:30]
    signed_in = place.apis["lead"].client.get("/api/specs", headers={"Authorization": "Bearer nothing"})
    assert signed_in.status_code == 401, "a header that says who asks goes before the cookie"
    proxied = place.apis["lead"].client.get("/api/specs", headers={"Authorization": "Basic YTpi"})
    assert proxied.status_code == 200, "a proxy's own password is no token of ours"


@pytest.mark.parametrize(
    ("said", "where", "words"),
    [
        ({"name": " "}, "name", "The token has no name"),
        ({"name": "x", "scope": "all"}, "scope", "There is no scope “all”"),
        ({"name": "x", "days": 0}, "days", "A token cannot hold for 0 days: from 1 to 400"),
        ({"name": "x", "days": 401}, "days", "from 1 to 400"),
    ],
)
def test_what_a_token_cannot_be_is_refused_at_its_place(place, said, where, words):
    answer = place.apis["lead"].post("/tokens", said)
    assert (answer.status_code, answer.data["where"], words in answer.data["detail"]) == (422, where, True), answer.content
    assert place.apis["maker"].post("/tokens", {"name": "x"}).status_code == 403


def test_the_description_says_of_each_operation_who_may(place, scripts):
    described = scripts["read"].client.get("/api/openapi.json").json()
    specs = described["paths"]["/api/specs"]
    assert (specs["get"]["x-role"], specs["get"]["x-scripts"], specs["post"]["x-role"]) == ("reader", True, "lead")
    assert described["paths"]["/api/people"]["get"]["x-scripts"] is False
