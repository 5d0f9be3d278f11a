"""Lists: one way to ask for each of them, and a walk by cursor that neither misses a row nor shows one twice."""

import copy
import itertools
import json
from datetime import timedelta
from uuid import uuid4

import pytest
from django.db import models
from django.utils import timezone

from tests.instruments import simulated
from tests.site import published
from tests.site.conftest import Place
from tests.site.doors import Doors
from ulsek.batches.models import Container, Lot, Run
from ulsek.citrus.models import Case, CutPlan, YieldTrial
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.models import Attachment, Score, Spec, Version
from ulsek.stores.models import StockEvent, StockItem
from ulsek.sums.models import RecentSum
from ulsek.sync.models import SignedAction
from ulsek.tasting.models import Panel, Standard
from ulsek.team.listing import ListQuery, slice_of
from ulsek.team.models import ApiToken, Device, HistoryRow, Invitation, Membership, Person, RegisterRow, SignIn

NO_LISTS = {
    "/citrus/keeps": "one row for each form of storage that the core knows",
    "/citrus/ledger": "sums of the last twelve weeks",
    "/citrus/record/{fruit}": "the last cases that an estimate is made from",
    "/register/kinds": "one row for each kind that the core knows",
    "/citrus/varieties": "one row for each citrus that the core knows",
    "/families/{family}/schools": "the schools of one family",
    "/group/houses": "the houses of one group, a hundred at most",
    "/history/kinds": "the kinds of act that stand in a house's history",
    "/plan/days": "the days from today on that are not usual, one for each day",
    "/plan/orders": "the orders that are still to come and those of the last two weeks, each with its lines",
    "/plan/pars": "one row for each published prep, computed as a whole",
    "/plan/people": "one row for each person who makes things",
    "/plan/suppliers": "one row for each supplier of the register",
    "/panels/newest": "one row for each spec that was tasted",
    "/runs/{run_id}/supplies": "what one batch can be made from, computed as a whole",
    "/specs/{spec_id}/followers": "the copies of one spec, one in each house that follows it",
    "/specs/{spec_id}/start-by": "the start times of one spec and what it is made with",
    "/stock/{stock_id}/trace": "one tree, computed as a whole",
    "/stock/usual": "the materials that most bars have",
    "/sums": "one row for each quick sum that the core knows",
}
"""Endpoints that answer with an array and list nothing stored, each with what its rows are."""
KINDS = (
    Run,
    Lot,
    StockItem,
    StockEvent,
    Container,
    Case,
    CutPlan,
    YieldTrial,
    Version,
    Attachment,
    RecentSum,
    SignedAction,
    SignIn,
    Device,
    HistoryRow,
    Invitation,
    ApiToken,
    RegisterRow,
    Panel,
    Standard,
)
UNIQUE = {
    RegisterRow: "name",
    Invitation: "digest",
    ApiToken: "digest",
    Run: "code",
    Panel: "code",
    Standard: "code",
    Lot: "code",
    Container: "name",
    Version: "number",
    SignedAction: "id",
}


def crowd(kind):
    """Four more of the first row of a kind: alike in every column, times too, but for what must be unique."""
    first = kind.objects.order_by("pk").first()
    for n in range(2, 6):
        other = copy.copy(first)
        other.pk = uuid4() if isinstance(kind._meta.pk, models.UUIDField) else None
        if name := UNIQUE.get(kind):
            setattr(other, name, n if name == "number" else f"{getattr(first, name)[:10]}{n}")
        models.Model.save_base(other, force_insert=True)


def full_house():
    """A house in which every list has several rows, many of them alike, some with no value in a column that the list is in order of."""
    place = Place()
    with simulated("scale") as scale, simulated("label_printer") as paper:
        doors = Doors(place, scale, paper)
    lead, maker = place.apis["lead"], place.apis["maker"]
    doors.attach(lead, f"/specs/{doors.spec}/attachments")
    for path, body in (
        (f"/stock/{doors.item.pk}/events", {"kind": "counted", "body": {"left_g": 900}}),
        ("/citrus/trials", {"fruit": "lemon", "first": "a", "second": "b", "pairs": [[1, 2]]}),
        ("/sums/dilute/kept", {"figures": {"mass": 9, "have": 60, "want": 50}}),
    ):
        assert maker.post(path, body).status_code < 300
    assert lead.post("/invitations", {"name": "Kaja", "role": "reader"}).status_code == 201
    now = timezone.now()
    SignIn.objects.create(house=place.house, person=place.members["maker"].person, started_at=now, seen_at=now)
    for kind in KINDS:
        crowd(kind)
    Score.objects.bulk_create(
        Score(version=version, taster="Noor", score=7, at=now - timedelta(hours=version.number // 2)) for version in Version.objects.all()
    )
    assert lead.post(f"/specs/{doors.spec}/versions/2/withdraw", {"why": "too sweet"}).status_code == 200
    for n in range(3):
        another = start_spec(place.members["lead"], NewSpec("Sea buckthorn cordial", "cordial"))
        if n:
            # Published, for the matrix of who makes what; the first has only a draft.
            Spec.objects.filter(pk=another.pk).update(newest=Version.objects.order_by("number").first())
        person = Person.objects.create(username=f"p{n}", display_name="Maker")
        Membership.objects.create(house=place.house, person=person, role="maker")
    for kind, column in (
        (Device, "revoked_at"),
        (Invitation, "used_at"),
        (ApiToken, "revoked_at"),
        (CutPlan, "done_at"),
        (Lot, "gone_at"),
        (StockItem, "gone_at"),
        (Case, "gone_at"),
        (Run, "finished_at"),
    ):
        some = list(kind.objects.order_by("pk").values_list("pk", flat=True)[:3])
        # Keys are random: the others have no value, whichever row was copied.
        kind.objects.exclude(pk__in=some).update(**{column: None})
        for n, key in enumerate(some):
            kind.objects.filter(pk=key).update(**{column: now - timedelta(hours=n // 2)})
    return place, {f"GET {name.removeprefix('GET ')}": door[0] for name, door in doors.doors.items() if name.startswith("GET ")}


def described_lists():
    """(path, parameters) of every GET that takes a cursor."""
    for path, methods in published.described()["paths"].items():
        asked = {item["name"]: item["schema"] for item in methods.get("get", {}).get("parameters", ()) if item["in"] == "query"}
        if "cursor" in asked:
            yield path.removeprefix("/api"), asked


def answer_schema(said):
    described = published.described()
    schema = said["responses"]["200"].get("content", {}).get("application/json", {}).get("schema", {})
    name = schema.get("$ref", "").rpartition("/")[2]
    return described["components"]["schemas"][name] if name else schema


def with_query(path, **more):
    return f"{path}?{'&'.join(f'{name}={value}' for name, value in more.items() if value != '')}"


def walked(api, path, limit, **more):
    """All rows of a list, fetched a few at a time."""
    rows, cursor = [], ""
    while cursor is not None:
        told = api.get(with_query(path, limit=limit, cursor=cursor, **more))
        assert told.status_code == 200, told.data
        assert len(told.data["items"]) <= limit
        rows, cursor = rows + told.data["items"], told.data["next"]
        assert len(rows) < 2000, f"{path} has no end"
    return rows


def test_every_list_is_asked_for_in_the_same_words_and_nothing_else_is_a_list():
    lists = dict(described_lists())
    first = lists["/stock"]
    for path, asked in lists.items():
        assert {name: asked[name] for name in ("find", "limit", "cursor")} == {name: first[name] for name in ("find", "limit", "cursor")}, (
            path
        )
        assert not {"page", "offset", "q", "search", "size"} & set(asked), path
    for path, methods in published.described()["paths"].items():
        for method, said in methods.items():
            if "200" not in said["responses"]:
                continue
            schema, name = answer_schema(said), path.removeprefix("/api")
            assert ("next" in schema.get("properties", {})) == (method == "get" and name in lists), f"{method} {name}"
            if method == "get" and schema.get("type") == "array":
                assert name in NO_LISTS, f"{name} answers with an array: list it by cursor, or say in NO_LISTS what its rows are"
    assert len(lists) == 25


@pytest.mark.django_db
def test_every_list_is_walked_by_cursor_without_a_row_missing_or_twice():
    place, doors = full_house()
    for path, asked in described_lists():
        address = doors[f"GET {path}"]
        api = place.apis[
            "lead" if path in ("/signed-actions/held", "/devices", "/people", "/invitations", "/history", "/tokens") else "maker"
        ]
        longest = 0
        for state in asked.get("state", {}).get("enum", [""]):
            more = {"state": state} if "state" in asked else {}
            whole = walked(api, address, 200, **more)
            for limit in (1, 2, 3) if len(whole) < 20 else (37,):
                assert walked(api, address, limit, **more) == whole, (path, state, limit)
            said = [json.dumps(row, sort_keys=True) for row in whole]
            assert len(set(said)) == len(said) or path in ("/citrus/trials", "/sums/recent", "/stock/{stock_id}/events"), (path, state)
            longest = max(longest, len(said))
            if "state" in asked and state and asked["state"]["enum"][0] == "":
                assert len(said) < len(api.get(with_query(address, limit=200)).data["items"]), (path, state)
        assert longest > 2, f"{path} has too few rows for a walk"
        assert api.get(with_query(address, find="nothing-is-called-that")).data["items"] == [], path
        first = api.get(with_query(address, limit=1)).data["next"]
        other = "/containers" if path != "/containers" else "/stock"
        assert api.get(with_query(other, cursor=first)).data["code"] == "cursor", path


@pytest.mark.django_db
@pytest.mark.parametrize("order", [("gone_at", "pk"), ("-gone_at", "pk"), ("-received_at", "-gone_at", "-pk")])
def test_rows_without_a_value_have_their_place_in_either_order(order):
    place = Place()
    now = timezone.now()
    for n in range(7):
        came, went = now - timedelta(days=n // 4), None if n % 3 == 0 else now - timedelta(hours=n % 2)
        StockItem.objects.filter(pk=place.delivery().pk).update(received_at=came, gone_at=went)
    found, cursor = [], ""
    while cursor is not None:
        told = slice_of(StockItem.objects.all(), order, ListQuery(limit=1, cursor=cursor))
        found, cursor = [*found, *told.items], told.next
        assert len(found) < 50, "the walk has no end"
    assert found == list(StockItem.objects.order_by(*order))


@pytest.mark.django_db
def test_a_row_that_comes_in_meanwhile_moves_none_of_the_others():
    place = Place()
    api = place.apis["maker"]
    crate = {"material": "water", "product": "crate", "price": "1", "pack_g": "1000"}
    for _ in range(5):
        api.post("/stock", crate)
    before = [row["id"] for row in walked(api, "/stock", 200)]
    first = api.get("/stock?limit=2").data
    came = api.post("/stock", crate).data["id"]
    StockItem.objects.filter(pk=before[0]).update(gone_at=timezone.now())
    rest = api.get(f"/stock?limit=200&cursor={first['next']}").data["items"]
    assert [row["id"] for row in (*first["items"], *rest)] == before
    assert walked(api, "/stock", 2)[0]["id"] == came


@pytest.mark.django_db
def test_what_a_list_does_not_know_is_refused_at_its_name():
    api = Place().apis["reader"]
    for asked, where in itertools.chain(
        ((f"limit={limit}", "query/limit") for limit in (0, 201, -1, "many")),
        ((f"find={'x' * 201}", "query/find"), ("state=lost", "query/state"), ("page=2", "page"), ("gone=true", "gone")),
        ((f"cursor={cursor}", "cursor") for cursor in ("x", "W10:1vOx:AAAA", "%00", "%F0%9F%8D%8B", "é" * 50)),
    ):
        refused = api.get(f"/stock?{asked}")
        assert (refused.status_code, refused.data["where"]) == (422, where), asked
    assert "it has cursor, find, limit, material and state" in api.get("/stock?page=2").data["detail"]
