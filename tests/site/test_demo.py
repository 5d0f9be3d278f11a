"""The demo house: its recorded history is what the actions make of its data today."""

import io
import json
import math
import re
from collections import defaultdict
from datetime import date, datetime
from zoneinfo import ZoneInfo

import pytest
from django.core.management import call_command

from ulsek.batches.models import Lot, Run
from ulsek.site.demo.history import History
from ulsek.site.demo.rows import as_lines, load_record, moved_by, same_ids
from ulsek.site.demo.setting import Setting
from ulsek.team.models import Person

LATER = datetime.fromisoformat("2091-08-03T06:20:00+00:00")
"""Another summer's day, early in the morning: nothing of the record may depend on the hour at which it is loaded."""


def differences(one, other, where=""):
    """Returns the places where two JSON values differ, figures by more than a billionth."""
    if isinstance(one, dict) and isinstance(other, dict):
        return [text for key in one.keys() | other.keys() for text in differences(one.get(key), other.get(key), f"{where}/{key}")]
    if isinstance(one, list) and isinstance(other, list) and len(one) == len(other):
        return [text for n, (a, b) in enumerate(zip(one, other, strict=True)) for text in differences(a, b, f"{where}/{n}")]
    same = math.isclose(one, other, rel_tol=1e-9) if isinstance(one, float) and isinstance(other, float) else one == other
    return [] if same else [f"{where}: {one} and {other}"]


def rows_of_the_house():
    """Returns the recorded rows of the database, with the ids of a plan's cuts, which are drawn by chance, counted instead."""
    counted = defaultdict(lambda: f"cut {len(counted)}")
    return [json.loads(re.sub(r'(?<="row": ")[0-9a-f]{12}', lambda found: counted[found[0]], line)) for line in as_lines()]


@pytest.mark.django_db(transaction=True, reset_sequences=True)
def test_the_recorded_history_is_what_the_actions_make_of_the_demo_s_data():
    with same_ids():
        History(Setting(LATER)).play()
    played = rows_of_the_house()
    call_command("flush", interactive=False, verbosity=0)
    load_record(Setting(LATER))
    loaded = rows_of_the_house()
    assert len(loaded) > 1500
    found = [text for one, other in zip(played, loaded, strict=True) for text in differences(one, other, one["model"])]
    assert found[:9] == [], "after a change of the demo, an action or the core: bin/demo"


def test_a_date_moves_by_whole_days_and_keeps_its_hour_over_a_change_of_the_clock():
    moved = moved_by(date(2091, 1, 9) - date(2090, 5, 20), ZoneInfo("Europe/Copenhagen"))
    assert (
        moved("at 2090-05-20T15:00:00Z, 2090-05-20T17:00:00+02:00, use by 2090-05-21, read on 19 May 2090; a source of 2026-11-27")
        == "at 2091-01-09T16:00:00Z, 2091-01-09T17:00:00+01:00, use by 2091-01-10, read on 08 January 2091; a source of 2026-11-27"
    )


@pytest.mark.django_db
def test_the_demo_is_loaded_once_with_batches_that_run_now_and_lots_in_date():
    call_command("load_demo", as_of="2026-03-02T09:30:00+00:00")
    assert Run.objects.filter(finished_at=None).count() == 6
    assert Lot.objects.filter(gone_at=None, use_by__gte="2026-03-02").exists()
    assert not Lot.objects.filter(gone_at=None, use_by__lt="2026-03-02").exists()
    assert not Run.objects.filter(started_at__gt="2026-03-02T09:30:00Z").exists()
    rows = Run.objects.count()
    call_command("load_demo")
    assert Run.objects.count() == rows


@pytest.mark.django_db
@pytest.mark.parametrize("as_of", ["2026-03-02T11:00:00+00:00", "2026-03-02T22:30:00+00:00", "2026-03-03T01:30:00+00:00"])
def test_at_any_hour_of_a_day_of_the_house_its_bottles_are_as_old(as_of):
    """Until five in the morning it is still the day before: nobody finds the demo a day younger who looks at it in the night."""
    call_command("load_demo", as_of=as_of)
    bottles = Lot.objects.filter(house__is_demo=True, gone_at=None, name="Sea buckthorn cordial").select_related("house")
    now = datetime.fromisoformat(as_of)
    assert sorted((lot.house.day(now) - lot.house.day(lot.made_at)).days for lot in bottles) == [1, 4]


@pytest.mark.django_db
def test_the_published_passwords_are_replaced_once_and_shown_once():
    call_command("load_demo", as_of="2026-03-02T09:30:00+00:00")
    shown = [io.StringIO(), io.StringIO()]
    for out in shown:
        call_command("private_passwords", stdout=out)
    made = re.findall(r"^ {4}(\w+) +(\S{5}-\S{5}-\S{5})$", shown[0].getvalue(), re.MULTILINE)
    assert len(made) == Person.objects.count() == 5
    assert all(Person.objects.get(username=name).check_password(words) for name, words in made)
    assert (shown[1].getvalue(), Person.objects.exclude(pin="").count()) == ("", 0)
