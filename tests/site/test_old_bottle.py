"""A panel on an old bottle: the shorter date that it proposes, and what that does to the bottles and batches of its spec."""

from datetime import timedelta

import pytest
from django.utils import timezone

from tests.site.panels import BOUGHT, Table, odd, plan_of
from tests.site.test_lots_api import bottled, does, finished, today_at
from ulsek.batches.models import Lot, LotEvent
from ulsek.tasting.models import Panel
from ulsek.team.models import HistoryRow

KEEPS, OLD, YOUNG, GOOD = 28, 20, 4, 3


def aged(place, day, spec=None):
    """A bottle on this day of its life, that is good for 28 by its own evidence."""
    lot = bottled(place, spec)
    made = timezone.now() - timedelta(days=day - 1)
    Lot.objects.filter(pk=lot.pk).update(cooled_at=made, made_at=made, use_by=today_at(place) + timedelta(days=KEEPS - day))
    return Lot.objects.get(pk=lot.pk)


def old_and_young(place):
    old = aged(place, OLD)
    return old, aged(place, YOUNG, old.run.version.spec)


@pytest.fixture
def bottles(place):
    return old_and_young(place)


def told(place, old, young, *, right):
    """A triangle of the two, told, in which as many of six tasters as `right` found the odd one."""
    table = Table(place, plan_of(old, {"kind": "lot", "lot": young.code}, rounds=1))
    key = table.key()
    for n, phone in enumerate(table.seated("Ada", "Ben", "Cleo", "Dov", "Edda", "Finn")):
        page = phone.get("/seat").data["pages"][0]
        right_one = odd(page, key)
        phone.says(1, code=right_one if n < right else next(code for code in page["codes"] if code != right_one))
    return table


def test_an_old_bottle_that_is_told_shortens_the_date_of_all_of_its_spec(place, bottles):
    old, young = bottles
    lead = place.apis["lead"]
    before = lead.post("/panels/beforehand", {"aim": "difference", "design": {"method": "triangle"}, "samples": [{"kind": "lot", "lot": old.code}, {"kind": "lot", "lot": young.code}]})  # fmt: skip
    assert before.data["sentences"][-1] == "Day 20 against day 4: if age is shown, a shorter date is proposed. No panel makes one longer."
    table = told(place, old, young, right=6)
    found = table.seen()["age"]
    assert found["days"] == OLD - 1
    assert found["words"].startswith("Day 20 was told from day 4: good for 19")
    assert found["caution"].startswith("They are of different batches")
    safety = found["stands"].partition("safety at ")[2]
    path = f"{table.path}/shorter-date"
    assert place.apis["maker"].post(path, {"days": 19, "why": "x"}).status_code == 403
    for days in (0, OLD):
        refused = lead.post(path, {"days": days, "why": "x"})
        assert (refused.status_code, refused.data["where"]) == (422, "days")
    assert lead.post(path, {"days": GOOD, "why": " "}).data["where"] == "why"
    assert not LotEvent.objects.filter(kind="redated").exists(), "nothing of a refused date stands"

    done = lead.post(path, {"days": GOOD, "why": "six of six told it"})
    assert done.status_code == 200, done.content
    assert done.data["lots"] == sorted([old.code, young.code])
    today = today_at(place)
    for lot, day in ((old, OLD), (young, YOUNG)):
        lot.refresh_from_db()
        assert lot.use_by == today + timedelta(days=GOOD - day)
        assert "six of six told it (Lead)" in lot.use_by_reason.text()
    assert old.standing(place.house, timezone.now()).state == "past"
    seen = table.seen()
    assert (seen["decision"], seen["decision_why"]) == (f"{old.name} is good for 3 days", "six of six told it")
    assert (seen["age"]["days"], seen["age"]["stands"]) == (None, f"Quality stands at 3 days, safety at {safety}")
    # Whatever is made from now on turns as soon, and the rule says whose it is.
    (row,) = lead.get("/rules/sheet").data["spec_quality"]
    assert (row["days"], row["by"], row["source"]) == (GOOD, "Lead", f"panel {seen['code']}")
    fresh = bottled(place, old.run.version.spec)
    assert (fresh.use_by - today).days == GOOD - 1
    assert HistoryRow.objects.get(action="shorten_quality").detail["lots"] == sorted([old.code, young.code])
    # Shorter once more, never longer; and a lead may take it off.
    assert lead.post(path, {"days": GOOD, "why": "x"}).status_code == 422
    assert lead.post("/rules/one/drop", {"table": "spec_quality", "key": row["key"]}).data["spec_quality"] == []
    old.refresh_from_db()
    assert old.use_by == today + timedelta(days=GOOD - OLD), "a bottle's date stays"


def test_a_batch_under_way_turns_as_soon(place, bottles):
    old, young = bottles
    run = place.run(old.run.version.spec)
    table = told(place, old, young, right=6)
    assert place.apis["lead"].post(f"{table.path}/shorter-date", {"days": 2, "why": "flat"}).status_code == 200
    lot = finished(place, run)
    assert (lot.use_by - today_at(place)).days == 1


def test_a_mixture_turns_by_its_oldest_part(place, bottles):
    old, young = bottles
    mixed = aged(place, 2, old.run.version.spec)
    assert does(place, mixed, "topped_up", **{"from": old.code, "amount": 10}).status_code < 300
    table = told(place, old, young, right=6)
    assert mixed.code in place.apis["lead"].post(f"{table.path}/shorter-date", {"days": 19, "why": "flat"}).data["lots"]
    mixed.refresh_from_db()
    assert mixed.use_by == today_at(place) + timedelta(days=19 - OLD)


def test_what_shows_nothing_of_age_shortens_nothing(place, bottles):
    old, young = bottles
    lead = place.apis["lead"]
    table = told(place, old, young, right=2)
    assert table.seen()["age"] == {"words": "No harm of age was shown on day 20 against day 4. That makes no date longer.", "days": None, "stands": "", "caution": ""}  # fmt: skip
    assert lead.post(f"{table.path}/shorter-date", {"days": 5, "why": "x"}).data["detail"].startswith("This panel shortens no date")
    other = Table(place, plan_of(old, BOUGHT, tasters=1, rounds=1))
    assert other.seen()["age"] is None
    lead.post(f"{other.path}/seal", {"why": "nobody came"})
    assert other.seen()["age"] is None
    # What was told before this was looked at has no such figure.
    row = Panel.objects.get(pk=table.row.pk)
    del row.results["age"]
    row.save()
    assert table.seen()["age"] is None
