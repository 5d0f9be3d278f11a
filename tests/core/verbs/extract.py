"""Verbs of `operations/extract.py`: what each makes of a vessel, what leaves, what it says."""

import math

import pytest

from tests.core.kitchen import after, codes, line, pour, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.properties import sugar


def macerate():
    peel_in_sugar = pour(line("bergamot_peel", 100.0), line("white_sugar", 100.0))
    drawn = [after(worked(peel_in_sugar, {"verb": "macerate", "minutes": n})).liquid.mass_g - 100.0 for n in (360, 1080, 4000)]
    assert drawn[0] == pytest.approx(100 * 0.30 * (1 - math.exp(-1)), rel=1e-6), "63 % of the plateau after one time constant"
    assert drawn[0] < drawn[1] < drawn[2] < 30.0
    warm = worked(peel_in_sugar, {"verb": "macerate", "minutes": 360, "temperature_c": 30})
    assert after(warm).liquid.mass_g - 100.0 > drawn[0]
    assert "sugar_stays_dry" in codes(warm)
    soft, firm = (
        after(worked(pour(line(fruit, 100.0), line("white_sugar", 60.0)), {"verb": "macerate", "minutes": 1440}))
        for fruit in ("raspberry", "pineapple")
    )
    assert 40.0 < soft.liquid.mass_g - 60.0 < 70.0, "soft skins give 0.4 to 0.7 of their mass"
    assert 20.0 < firm.liquid.mass_g - 60.0 < soft.liquid.mass_g - 60.0
    with pytest.raises(Refusal, match="Without sugar nothing is drawn"):
        worked(pour(line("bergamot_peel", 100.0)), {"verb": "macerate"})


def steep():
    fruit = (pour(line("gooseberries", 500.0), line("water", 500.0)),)
    shares = [sugar.brix(after(worked(*fruit, {"verb": "steep", "minutes": 60, "temperature_c": t})).liquid) for t in (10, 20, 60, 90)]
    assert shares == sorted(shares), "faster warm"
    long = worked(*fruit, {"verb": "steep", "minutes": 100000, "temperature_c": 20})
    piece = after(long).pieces[0].contents
    assert sugar.brix(after(long).liquid) == pytest.approx(sugar.brix(piece), rel=1e-6), "in the end both are equal"


def infuse():
    in_spirit = pour(line("neutral_spirit_60", 1000.0), line("damson", 1000.0))
    done = worked(in_spirit, {"verb": "infuse", "minutes": 20000})
    assert {"weaker_spirit", "flammable"} <= codes(done)
    assert after(done).pieces[0].contents.of("ethanol") > 200.0, "solids keep spirit back"
    assert done.figures[1]["abv"] < 35.0
    assert "no_spirit" in codes(worked(pour(line("water", 100.0), line("damson", 10.0)), {"verb": "infuse"}))


def vacuum_infuse():
    start = pour(line("neutral_spirit_40", 500.0), line("kumquat_peel", 100.0))
    once, often = (worked(start, {"verb": "vacuum_infuse", "cycles": n}) for n in (1, 6))
    assert after(often).pieces[0].contents.of("ethanol") > after(once).pieces[0].contents.of("ethanol") > 0
    assert "vacuum_glass" in codes(once)


def press():
    done = worked(pour(line("gooseberries", 1000.0)), {"verb": "press", "by_product": "cake"})
    inside = 1000.0 - done.flow.steps[0].state.contents.of("insolubles")
    assert after(done).liquid.mass_g == pytest.approx(0.5 * inside, rel=1e-6)
    assert done.flow.streams["cake"].mass_g == pytest.approx(1000.0 - 0.5 * inside, rel=1e-6)
