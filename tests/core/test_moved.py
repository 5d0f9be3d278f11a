"""Ranges whose end cannot be made: a wider input never gives a narrower answer, and it is said."""

import itertools

import pytest

from tests.core.kitchen import line, pour, worked
from ulsek.core.base.messages import printed
from ulsek.core.results.evaluation_result import evaluation_result


def held(high, low=200.0):
    steam = {"value": 300.0, "low": low, "high": high}
    return worked(pour(line("water", 500.0), line("white_sugar", 200.0)), {"verb": "hold", "temperature_c": 80, "steam_g": steam})


def test_a_wider_range_never_gives_a_narrower_answer():
    ranges = [held(high).range(1, "mass_g") for high in (380.0, 420.0, 480.0, 499.0, 520.0, 600.0, 2000.0)]
    lows = [found.low for found in ranges]
    assert all(later <= earlier + 2.0 for earlier, later in itertools.pairwise(lows)), lows
    assert lows[-1] == pytest.approx(200.0, abs=2.0), "all the water can go and no more"
    assert held(2000.0).range(1, "brix").high == pytest.approx(100.0, abs=1.0)


def test_an_end_that_cannot_be_made_is_said_with_its_bound():
    (said,) = held(600.0).end_remarks
    assert (said.code, said.severity) == ("range_at_bound", "check")
    assert "600 g of water cannot leave: the vessel holds 500.1 g of it" in printed(said.text) and "steam" in printed(said.text)
    assert said in evaluation_result(held(600.0)).remarks
    assert not held(420.0).end_remarks


def test_a_range_that_breaks_at_once_on_one_side_takes_the_other_one():
    edge = held(2000.0, low=0.0)
    assert edge.range(1, "mass_g").low < edge.range(1, "mass_g").value < edge.range(1, "mass_g").high


def test_a_figure_that_its_model_loses_at_an_end_reaches_to_the_bound():
    spread = {"value": 55.0, "low": 45.0, "high": 75.0}
    syrup = {"name": "Syrup", "kind": "own", "makeup": {"by": "substance", "g_per_100g": {"sucrose": spread}, "source": "read"}}
    done = worked(pour(line("own_syrup", 500.0)), own_syrup=syrup)
    found = done.range(0, "freezing_c")
    assert found.low == pytest.approx(-13.9, abs=0.8), "to the eutectic, past which there is no freezing point"
    assert found.high > -7.0
    (said,) = done.end_remarks
    assert (said.code, said.severity) == ("figure_at_bound", "note") and "comes out as crystals before ice does" in printed(said.text)


def test_dry_powder_alone_in_a_vessel_does_not_stop_the_spec():
    for material in ("citric_acid", "salt", "gum_arabic", "erythritol", "agar", "cream_of_tartar", "white_sugar"):
        pot = {"id": "x", "material": "vessel:jug", "amount": {"kind": "all"}}
        dry = [pour(line(material, 10.0), vessel="jug"), {"verb": "bring_to", "vessel": "jug"}]
        done = worked(*dry, {"verb": "combine", "lines": [line("water", 500.0), pot]})
        assert len(done.flow.steps) == 3 and evaluation_result(done).final.mass_g.value == pytest.approx(510.0), material
