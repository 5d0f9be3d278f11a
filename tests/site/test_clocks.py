"""Tablets whose clocks are wrong: what they did is kept, in its order, at a time that can be true, and no date comes out later for it."""

from datetime import UTC, datetime, timedelta

import pytest

from tests.site.conftest import event
from tests.site.test_batches_api import send, state
from ulsek.batches.models import Lot, Run, RunEvent

YEAR = timedelta(days=365)
WEIGHED = (("juice", 1340, "s1"), ("sugar", 695, "s2"), ("malic", 5.5, "s3"))


def bottled(place, run, off, says_now):
    """Makes and finishes a batch with a tablet whose clock is `off`; it says what its clock shows as it sends, or does not."""
    shows = lambda: datetime.now(UTC) + off  # noqa: E731 # a clock
    done = [
        item
        for line, mass, step in WEIGHED
        for item in (
            event("weighed", at=shows().isoformat(), line=line, mass_g=mass),
            event("step_done", at=shows().isoformat(), step=step),
        )
    ]
    done += [event("step_done", at=shows().isoformat(), step=step) for step in ("s4", "s5")]
    body = {"events": [*done, event("finished", at=shows().isoformat(), volume_ml=1700, signed=True)]}
    answer = place.apis["maker"].post(f"/runs/{run}/events", {**body, **({"now": shows().isoformat()} if says_now else {})})
    assert answer.status_code == 200, answer.content
    return Lot.objects.get(run=run), answer.data["events"]


@pytest.fixture
def right(place):
    place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
    return bottled(place, place.run(mass_g=1340), timedelta(0), says_now=True)[0]


@pytest.mark.parametrize("off", [YEAR, -YEAR, timedelta(hours=5), timedelta(days=7000 * 365)])
@pytest.mark.parametrize("says_now", [True, False])
def test_a_tablet_with_a_wrong_clock_gives_no_other_date(place, right, off, says_now):
    lot, events = bottled(place, place.run(right.run.version.spec, mass_g=1340), off, says_now)
    assert lot.use_by <= right.use_by, "never later"
    assert right.use_by - lot.use_by <= timedelta(days=1)
    assert abs(lot.made_at - datetime.now(UTC)) < timedelta(minutes=2)
    told = [item for item in events if item["kind"] != "started"]
    assert {item["clock"] for item in told} == {"corrected" if says_now else "estimated"}
    (note,) = place.apis["reader"].get(f"/runs/{lot.run_id}").data["state"]["notes"]
    assert note.startswith("A tablet's clock was off: 9 times were" if says_now else "A tablet's clock cannot have been right: 9 times")
    assert all(abs(datetime.fromisoformat(item["said_at"]) - off - datetime.now(UTC)) < timedelta(minutes=2) for item in told), (
        "what the device said is kept"
    )


def test_a_right_clock_is_left_alone_and_events_of_an_hour_without_network_keep_their_times(place, right):
    run = place.run(right.run.version.spec, ago=timedelta(hours=3), mass_g=1340)
    then = datetime.now(UTC) - timedelta(hours=1)
    told = (
        place.apis["maker"]
        .post(
            f"/runs/{run}/events",
            {"events": [event("noted", at=then.isoformat(), text="clear")], "now": (datetime.now(UTC) + timedelta(seconds=1)).isoformat()},
        )
        .data["events"][-1]
    )
    assert (told["at"], told["clock"], told["said_at"]) == (then.isoformat(), "", "")


def test_a_clock_that_was_set_right_in_between_is_not_believed_about_before(place, right):
    run = place.run(right.run.version.spec, ago=timedelta(hours=3), mass_g=1340)
    noted = datetime.now(UTC) - timedelta(minutes=90)
    place.apis["maker"].post(
        f"/runs/{run}/events", {"events": [event("noted", at=noted.isoformat(), text="clear")], "now": datetime.now(UTC).isoformat()}
    )
    ahead = event("step_begun", at=(datetime.now(UTC) + YEAR).isoformat(), step="s1")
    told = place.apis["maker"].post(f"/runs/{run}/events", {"events": [ahead], "now": datetime.now(UTC).isoformat()}).data["events"][-1]
    assert (told["clock"], told["at"]) == ("estimated", noted.isoformat()), (
        "no earlier than what it did before, and perhaps later: the safe side"
    )


def test_a_counter_that_was_never_seen_is_given_another_and_the_run_goes_on(place, right):
    run = place.run(right.run.version.spec, mass_g=1340)
    mad = {**event("weighed", line="juice", mass_g=1340), "lamport": 2**53 - 1}
    found = send(place, run, mad)
    assert found.status_code == 200
    assert found.data["lamport"] < 10_000, "what follows is not bricked"
    assert RunEvent.objects.get(pk=mad["id"]).data["said_lamport"] == 2**53 - 1
    after = {**event("weighed", line="juice", mass_g=1350, replaces=mad["id"]), "lamport": found.data["lamport"] + 1}
    assert state(send(place, run, after))["steps"][0]["lines"][0]["actual_g"] == 1350
    assert send(place, run, mad).data["lamport"] == found.data["lamport"] + 1, "sent again it is passed over"


def test_what_a_client_says_of_corrections_is_not_taken(place, right):
    run = place.run(right.run.version.spec, mass_g=1340)
    forged = {**event("noted", text="x"), "clock": "estimated", "said_at": "2020-01-01T00:00:00Z", "said_lamport": 5}
    told = send(place, run, forged).data["events"][-1]
    assert (told["clock"], told["said_at"]) == ("", "")
    refused = place.apis["maker"].post(f"/runs/{run}/events", {"events": [event("noted", text="y")], "now": "soon"})
    assert (refused.status_code, refused.data["where"]) == (422, "now")
    assert Run.objects.get(pk=run).events.count() == 2
