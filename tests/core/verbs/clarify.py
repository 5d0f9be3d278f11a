"""Verbs of `operations/clarify.py`: what each makes of a vessel, what leaves, what it says."""

import math

import pytest

from tests.core.kitchen import JUICE, after, codes, left, line, pour, worked
from ulsek.core.chemistry.contents import Contents
from ulsek.core.materials.vessel_state import VesselState
from ulsek.core.operations.clarify import Settle
from ulsek.core.operations.step import Outcome


def enzyme():
    dosed = pour(line("greengage_juice", 1000.0), line("pectin_enzyme", 1.5))
    warm, cold = (worked(dosed, {"verb": "enzyme", "minutes": 120, "temperature_c": t}) for t in (45, 10))
    assert after(warm).liquid.of("pectin") < 0.4 * after(cold).liquid.of("pectin")
    assert "enzyme_slow" in codes(cold)
    thin, usual = (
        worked(pour(line("greengage_juice", 1000.0), line("pectin_enzyme", grams)), {"verb": "enzyme", "minutes": 60})
        for grams in (0.5, 1.5)
    )
    cut = [1 - after(done).liquid.of("pectin") / 0.92 / done.flow.steps[0].state.liquid.of("pectin") for done in (thin, usual)]
    assert math.log(1 - cut[1]) == pytest.approx(3 * math.log(1 - cut[0]), rel=0.01), "a third of the dose takes three times as long"
    assert "enzyme_killed" in codes(worked(dosed, {"verb": "enzyme", "temperature_c": 58}))
    assert "enzyme_in_spirit" in codes(worked(dosed, pour(line("neutral_spirit_60", 600.0)), {"verb": "enzyme"}))
    assert left(warm)[0].contents.mass_g == pytest.approx(0.08 * 1001.5, rel=0.02)


def egg_raft():
    cloudy = pour(line("gooseberry_juice", 1000.0), line("medlar_puree", 50.0))
    done = worked(cloudy, {"verb": "egg_raft", "lines": [line("egg_white", 66.0)]})
    assert after(done).liquid.of("insolubles") < 0.04 * (3.5 + 66 * 0.105)
    assert "egg" in done.hazards.allergens, "clear is not free from egg"
    assert "raft_not_cooked" in codes(worked(cloudy, {"verb": "egg_raft", "temperature_c": 60, "lines": [line("egg_white", 66.0)]}))
    assert "thin_raft" in codes(worked(JUICE, {"verb": "egg_raft"}))


def agar():
    done = worked(pour(line("lemon_juice", 1000.0)), {"verb": "agar", "lines": [line("agar", 2.0)]})
    assert "agar_in_acid" in codes(done)
    assert left(done)[0].contents.of("insolubles") == pytest.approx(0.95 * 1.7, rel=1e-6)


def gelatin():
    done = worked(pour(line("grape_juice", 1000.0)), {"verb": "gelatin", "lines": [line("gelatin", 5.0)]})
    assert after(done).liquid.of("protein") < 0.1
    assert "animal products" not in done.hazards.free_from
    assert "no_jelly" in codes(worked(pour(line("kiwi_juice", 1000.0), line("kiwi", 10.0)), {"verb": "blend"}, {"verb": "gelatin"}))


def milk_clarify():
    sharp = worked(pour(line("whole_milk", 200.0), line("lemon_juice", 400.0)), {"verb": "milk_clarify"})
    assert "milk" in sharp.hazards.allergens
    assert after(sharp).liquid.of("fat") < 0.05 * 7.2
    assert "no_curd" in codes(worked(pour(line("whole_milk", 200.0), line("coconut_water", 400.0)), {"verb": "milk_clarify"}))


def settle():
    cloudy = pour(line("gooseberry_juice", 1000.0), line("medlar_puree", 50.0))
    done = worked(cloudy, {"verb": "settle"})
    assert after(done).liquid.of("insolubles") == pytest.approx(0.30 * 3.5, rel=1e-3)
    assert "pectin_holds_haze" in codes(done)
    thin = VesselState(liquid=Contents({"water": 99.8, "pectin": 0.2}))
    assert not list(Settle("s1", "pot").remarks(thin, Outcome(thin))), "more than 0.2 % holds it up"
