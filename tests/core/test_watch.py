"""Watches: how far a step has come, when it is there, what to do when it went past; each by hand."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.kitchen import known, line, pour
from ulsek.core.base.messages import printed
from ulsek.core.properties.measure import PROPERTY
from ulsek.core.run.end_point_watch import watch_of
from ulsek.core.run.events.catalogue import read_event
from ulsek.core.run.fold import fold
from ulsek.core.run.pace import minutes_left, pace
from ulsek.core.spec.json_form import read_spec

BEGUN = datetime(2026, 11, 25, 18, 0, tzinfo=UTC)


class Pot:
    """A run of one pour and one watched step, begun; readings are added by the minute."""

    def __init__(self, step, *lines):
        lines = lines or (line("gooseberry_juice", 2000.0),)
        data = {
            "format": "ulsek.spec",
            "version": 1,
            "name": "watched",
            "vessels": [{"id": "pot"}],
            "steps": [{"id": "s0", "vessel": "pot", **pour(*lines)}, {"id": "s1", "vessel": "pot", **step}],
        }
        self.spec = read_spec(data)
        self.events = []
        for item in self.spec.lines.values():
            self.does("weighed", 0, line=item.id, mass_g=item.amount.quantity)
        self.does("step_done", 0, step="s0")
        self.does("step_begun", 0, step="s1")

    def does(self, kind, minute, **body):
        n = len(self.events)
        at = (BEGUN + timedelta(minutes=minute)).isoformat()
        self.events.append(read_event({"id": f"e{n}", "kind": kind, "at": at, "lamport": n, "device": "d", "sequence": n, "body": body}))
        return self

    def reads(self, minute, prop, value):
        return self.does("read", minute, step="s1", property=prop, value=value)

    @property
    def state(self):
        return fold(self.spec, known(self.spec), self.events)

    @property
    def watch(self):
        return self.state.watch


HALF = {"verb": "reduce", "to_fraction": 0.5}


def test_a_pot_is_forecast_from_its_ring_until_it_is_weighed():
    pot = Pot(HALF)
    low, best, high = pot.watch.expected_min
    # 1000 g of steam at 2257 J/g and 1200 W: 31.3 min.
    assert best == pytest.approx(1000 * 2256.5 / 1200 / 60, rel=2e-3)
    assert low < best < high
    pot.reads(10, "mass_g", 1800)
    low, best, high = pot.watch.expected_min
    # −20 g/min: 800 g more are 40 min, at 10.
    assert best == pytest.approx(50.0)
    assert (low, high) == pytest.approx((10 + 40 / 1.25, 10 + 40 / 0.75))
    pot.reads(20, "mass_g", 1600)
    low, best, high = pot.watch.expected_min
    assert best == pytest.approx(50.0)
    assert high - low < 8, "a second reading on the line narrows it"


def test_brix_tells_the_weight_since_the_solids_stay():
    pot = Pot(HALF)
    end = PROPERTY["brix_reading"](pot.state.evaluation.flow.steps[1].state.liquid)
    pot.reads(20, "brix_reading", end / 1.25)
    assert pot.watch.points[-1].value == pytest.approx(1250.0)


@pytest.mark.parametrize(("mass", "state"), [(1500, "going"), (1060, "near"), (1015, "there"), (990, "there"), (940, "past")])
def test_the_bell_rings_at_the_mark(mass, state):
    watch = Pot(HALF).reads(25, "mass_g", mass).watch
    assert watch.state == state
    assert watch.warns is (state == "past")
    assert watch.rings_at_min == (0.0 if state in ("there", "past") else pytest.approx(watch.expected_min[1]))
    assert watch.figure == pytest.approx(abs(mass - 1000))


def test_the_time_left_is_counted_from_the_last_reading():
    assert printed(minutes_left((10, 20, 31), ((4, 1.0),))) == "16\u00a0min more (6 to 27)"
    assert printed(minutes_left((1, 2, 3), ((4, 1.0),))) == "0\u00a0min more (0 to 0)"
    assert printed(minutes_left(None, ())) == "read it once, and the rest is told"


def test_readings_stand_in_place_of_a_countdown_once_there_are_any():
    thaw = Pot({"verb": "freeze_drip", "kept": 0.4, "minutes": 600})
    assert not thaw.watch.charted, "a wait by the clock keeps its countdown"
    assert thaw.reads(60, "mass_g", 300).watch.charted
    assert Pot(HALF).watch.charted, "a pot has no clock"
    steep = Pot({"verb": "steep", "minutes": 40, "temperature_c": 70}).watch
    assert (steep.charted, steep.over_at_min, steep.rings_at_min) == (False, 40.0, None)
    assert Pot({"verb": "cool", "to_c": 4, "minutes": 45}).reads(5, "temperature_c", 61.0).watch.figure == 61.0, "what the probe shows"


def test_what_went_past_can_come_back_or_be_left_and_the_rest_follows():
    pot = Pot(HALF).reads(30, "mass_g", 900)
    assert "100\u00a0g past the mark. Add 100\u00a0g of water to come back" in printed(pot.watch.advice)
    changes = pot.watch.changes
    assert changes == {"to_fraction": pytest.approx(0.45)}
    pot.does("step_changed", 30, step="s1", changes=dict(changes))
    pot.does("step_done", 30, step="s1")
    assert pot.state.evaluation.flow.steps[1].state.mass_g == pytest.approx(900.0)


def test_a_state_that_was_meant_gives_way_to_the_one_that_was_reached():
    pot = Pot({"verb": "reduce", "to_brix": 30}).reads(40, "mass_g", 800)
    assert pot.watch.changes == {"to_fraction": pytest.approx(0.4), "to_brix": None}
    pot.does("step_changed", 40, step="s1", changes=dict(pot.watch.changes))
    assert pot.state.evaluation.flow.steps[1].state.mass_g == pytest.approx(800.0)


def test_a_reading_on_the_way_is_no_vanished_mass():
    assert Pot(HALF).reads(10, "mass_g", 1700).state.readings == ()


def test_a_thaw_stops_at_its_share_or_its_strength():
    thaw = {"verb": "freeze_drip", "kept": 0.3}
    pot = Pot(thaw).reads(60, "mass_g", 200)
    assert "10 % is caught; by the usual thaw it reads" in printed(pot.watch.text)
    assert pot.watch.expected_min[1] == pytest.approx(180.0)
    assert Pot(thaw).reads(60, "mass_g", 600).watch.state == "there"
    planned = PROPERTY["brix_reading"](pot.state.evaluation.flow.steps[1].state.liquid)
    assert pot.reads(60, "brix_reading", planned).watch.state == "there"
    assert pot.reads(61, "brix_reading", planned * 0.9).watch.state == "past"
    assert pot.watch.changes == {"kept": pytest.approx(0.1)}


def test_cooling_warns_as_soon_as_the_pace_says_so():
    hot = ({"verb": "cool", "method": "fridge", "to_c": 4}, line("water", 1000.0))
    pot = Pot(*hot).reads(0, "temperature_c", 80)
    assert pot.watch.warns, "a fridge's usual half time of two hours is too slow from the start"
    # 80 → 42 °C towards 4 in 30 min is one half time; 57 to 21 °C takes 30·log2(53/17) = 49 min.
    quick = Pot(*hot).reads(0, "temperature_c", 80).reads(30, "temperature_c", 42)
    assert not quick.watch.warns
    slow = Pot(*hot).reads(0, "temperature_c", 80).reads(60, "temperature_c", 60)
    assert slow.watch.warns
    assert "21 °C takes" in printed(slow.watch.advice)
    assert "3-501.14" in printed(slow.watch.advice)
    assert Pot(*hot).reads(0, "temperature_c", 18).watch.warns is False, "what never was warm has no stages"
    cold = Pot(*hot).reads(0, "temperature_c", 80).reads(30, "temperature_c", 42).reads(400, "temperature_c", 4.0)
    assert cold.watch.state == "there", "a probe as cold as the fridge tells nothing of the pace, and is no fault"


def test_enzyme_counts_the_warmth_that_was_held():
    step = {"verb": "enzyme", "minutes": 90, "temperature_c": 45}
    pot = Pot(step)
    assert pot.watch.expected_min[1] == pytest.approx(90.0, rel=1e-3)
    # Ten degrees colder: half the pace.
    assert pot.reads(30, "temperature_c", 35).watch.expected_min[1] == pytest.approx(180.0, rel=0.35)
    assert Pot(step).reads(30, "temperature_c", 20).watch.warns


def test_a_filter_that_stops_is_told():
    pot = Pot({"verb": "filter"})
    target = pot.watch.target
    pot.reads(10, "mass_g", 800).reads(20, "mass_g", 820)
    assert "nearly stopped" in printed(pot.watch.text)
    assert Pot({"verb": "filter"}).reads(30, "mass_g", target).watch.state == "there"


def test_a_steep_has_its_moments_and_amounts_for_too_strong_and_too_weak():
    watch = Pot({"verb": "steep", "minutes": 20, "temperature_c": 65}, line("water", 500.0), line("white_sugar", 400.0)).watch
    assert watch.moments_min == (12, 16, 20)
    assert "100\u00a0g of plain syrup at 44.4\u00a0°Bx" in printed(watch.advice)


def test_what_needs_no_watch_has_none():
    assert Pot({"verb": "rest", "minutes": 60}).watch is None
    spec = Pot(HALF)
    assert watch_of(spec.state.evaluation.flow.steps[0], BEGUN.isoformat(), ()) is None


@given(slope=st.floats(-50, -0.5), start=st.floats(500, 5000), times=st.lists(st.integers(1, 300), min_size=2, max_size=6, unique=True))
def test_a_straight_pace_is_found_exactly(slope, start, times):
    points = tuple((float(t), start + slope * t) for t in sorted(times))
    found, unsure = pace(start, points)
    assert found == pytest.approx(slope, rel=1e-6)
    assert unsure == pytest.approx(0.08, abs=1e-3)


def test_handing_over_is_kept():
    pot = Pot(HALF).does("handed_over", 5, to="Noor")
    assert pot.state.handed_to == ["Noor"]


def test_two_readings_half_a_minute_apart_tell_a_pace_and_two_at_one_moment_none():
    assert pace(80.0, ((0.5, 79.0),))[0] == pytest.approx(-2.0)
    assert pace(80.0, ((0.0, 79.0),))[0] == 0.0
