"""Verbs of `operations/finish.py`: what each makes of a vessel, what leaves, what it says."""

import pytest

from tests.core.kitchen import SYRUP, after, codes, left, line, pour, worked
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal
from ulsek.core.properties import sugar
from ulsek.core.results.evaluation_result import evaluation_result


def cool():
    done = worked(SYRUP, {"verb": "bring_to"}, {"verb": "cool", "to_c": 4, "minutes": 600})
    assert after(done).temperature_c == 4.0
    assert "slow_cooling" in codes(done)
    assert "slow_cooling" not in codes(worked(SYRUP, {"verb": "bring_to"}, {"verb": "cool", "minutes": 60}))


def carbonate():
    done = worked(pour(line("water", 900.0)), {"verb": "carbonate", "temperature_c": 4, "gauge_kpa": 130})
    gas = after(done).liquid.of("carbon_dioxide")
    assert gas == pytest.approx(6.6 * 0.9 * 0.85 * 0.8, rel=0.01)
    assert "pressure" in codes(done)
    warm = next(
        remark
        for remark in worked(pour(line("water", 900.0)), {"verb": "carbonate", "temperature_c": 4}).remarks
        if remark.code == "warm_gas"
    )
    assert printed(warm.text).replace("\u00a0", " ") == "It stands at 20 °C: warm liquid takes little gas."
    flat = worked(pour(line("water", 900.0)), {"verb": "carbonate"}, {"verb": "bring_to"})
    assert after(flat).liquid.of("carbon_dioxide") == 0.0
    assert [stream.kind for stream in left(flat)] == ["steam", "gas"]


def rest():
    done = worked(pour(line("gooseberries", 500.0), line("water", 500.0)), {"verb": "rest", "minutes": 2880, "temperature_c": 20})
    assert sugar.brix(after(done).liquid) > 2.0
    assert done.flow.steps[1].ends_min - done.flow.steps[1].begins_min == pytest.approx(2881.0)


def store():
    assert after(worked(SYRUP, {"verb": "store", "place": "cold room"})).temperature_c == 4.0


def split():
    done = worked(SYRUP, {"verb": "split", "share": 0.25, "into": "jug"})
    assert done.flow.vessels["jug"].mass_g == pytest.approx(500.0)
    assert worked(SYRUP, {"verb": "split", "mass_g": 300, "by_product": "for later"}).flow.streams["for later"].mass_g == pytest.approx(
        300.0
    )
    with pytest.raises(Refusal, match="3\u00a0000 g cannot be drawn off: the vessel holds 2\u00a0000 g"):
        worked(SYRUP, {"verb": "split", "mass_g": 3000})


def bottle():
    done = worked(SYRUP, {"verb": "bottle", "bottle_ml": 500, "head_room_percent": 10})
    assert next(printed(remark.text) for remark in done.remarks if remark.code == "fills").startswith("Fills 3 × 500")
    assert "sealed_hot" in codes(worked(SYRUP, {"verb": "bring_to"}, {"verb": "bottle"}))
    assert "no_head_room" in codes(worked(SYRUP, {"verb": "bottle", "keep_c": -18}))


def hot_fill():
    hot = worked(SYRUP, {"verb": "bring_to", "temperature_c": 88}, {"verb": "hot_fill"})
    assert {"hot_fill"} <= codes(hot)
    assert "not_hot_enough" not in codes(hot)
    assert "sealed_hot" not in codes(hot)
    assert "not_hot_enough" in codes(worked(SYRUP, {"verb": "hot_fill"}))


def label():
    assert after(worked(SYRUP, {"verb": "label"})).mass_g == pytest.approx(2000.0)


def clean():
    done = worked(SYRUP, {"verb": "clean", "gear": ["sieve"], "sanitised": "sanitised"})
    assert evaluation_result(done).steps[1].gear == ("sieve",)


def discard():
    done = worked(SYRUP, {"verb": "discard"})
    assert after(done).mass_g == 0.0
    assert left(done)[0].contents.mass_g == pytest.approx(2000.0)
