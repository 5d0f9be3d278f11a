"""Verbs of `operations/prepare.py`: what each makes of a vessel, what leaves, what it says."""

import pytest

from tests.core.kitchen import FRUIT, SYRUP, after, codes, left, line, pour, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.properties import sugar


def wash():
    assert after(worked(FRUIT, {"verb": "wash"})).mass_g == pytest.approx(1000.0)


def warm_roll():
    cold = worked(FRUIT, {"verb": "juice"})
    warm = worked(FRUIT, {"verb": "warm_roll"}, {"verb": "juice"})
    assert after(warm).mass_g == pytest.approx(1.06 * after(cold).mass_g, rel=1e-3)


def zest():
    done = worked(FRUIT, {"verb": "zest", "by_product": "zest"})
    # 7 % of the fruit is zest, three quarters of it come off.
    assert left(done)[0].contents.mass_g == pytest.approx(0.75 * 70.0, rel=1e-6)
    assert done.flow.streams["zest"].contents.of("oil") == pytest.approx(52.5 * 0.022, rel=1e-6)


def peel():
    done = worked(FRUIT, {"verb": "peel"})
    assert left(done)[0].contents.mass_g == pytest.approx(0.9 * 350.0, rel=1e-6)


def core():
    done = worked(pour(line("damson", 1000.0)), {"verb": "core", "by_product": "stones"})
    assert done.flow.streams["stones"].mass_g == pytest.approx(90.0, rel=1e-6)


def cut():
    whole = worked(pour(line("quince_fruit", 500.0)), pour(line("water", 500.0), vessel="pot"), {"verb": "steep", "minutes": 60})
    diced = worked(pour(line("quince_fruit", 500.0)), {"verb": "cut"}, {"verb": "steep", "minutes": 60, "lines": [line("water", 500.0)]})
    assert sugar.brix(after(diced).liquid) > 1.5 * sugar.brix(after(whole).liquid)


def separate():
    done = worked(pour(line("egg", 580.0)), {"verb": "separate", "part": "white", "by_product": "whites"})
    assert done.flow.streams["whites"].mass_g == pytest.approx(348.0)
    with pytest.raises(Refusal, match="Nothing here has a part called “wings”: its parts are shell, white, yolk"):
        worked(pour(line("egg", 580.0)), {"verb": "separate", "part": "wings"})


def juice():
    done = worked(FRUIT, {"verb": "juice", "method": "reamer", "into": "jug", "by_product": "pressed"})
    assert done.flow.vessels["jug"].mass_g == pytest.approx(360.0, rel=1e-6), "36 % of a bergamot is juice"
    assert done.flow.vessels["pot"].mass_g == 0.0
    assert sugar.brix_reading(after(done).liquid) == pytest.approx(8.5, abs=0.05)
    harder = worked(FRUIT, {"verb": "juice", "method": "extractor"})
    assert after(harder).mass_g > 1.1 * 360.0
    with pytest.raises(Refusal, match="There is nothing in the vessel to juice"):
        worked(SYRUP, {"verb": "juice"})


def crush():
    done = worked(pour(line("kumquat", 1000.0)), {"verb": "crush"})
    assert after(done).liquid.mass_g == pytest.approx(0.45 * 300.0, rel=1e-6)


def muddle():
    done = worked(pour(line("kumquat", 1000.0)), {"verb": "muddle"})
    assert after(done).liquid.mass_g == pytest.approx(0.25 * 300.0, rel=1e-6)


def whip():
    assert after(worked(SYRUP, {"verb": "whip"})).mass_g == pytest.approx(2000.0)


def toast():
    done = worked(pour(line("bergamot_peel", 100.0)), {"verb": "toast"})
    assert left(done)[0].contents.grams == {"water": pytest.approx(4.0)}
    assert (after(done).temperature_c, after(done).hottest_c) == (20.0, 160.0), "it has cooled when it is taken on"


def dehydrate():
    done = worked(pour(line("bergamot_peel", 100.0)), {"verb": "dehydrate"})
    dry = after(done).contents
    assert dry.of("water") / dry.mass_g == pytest.approx(0.12, abs=1e-6)
    with pytest.raises(Refusal, match="It is drier than 12 % water already"):
        worked(pour(line("bergamot_peel", 100.0)), {"verb": "dehydrate", "moisture_percent": 5}, {"verb": "dehydrate"})


def blend():
    done = worked(pour(line("gooseberries", 500.0), line("water", 500.0)), {"verb": "blend"})
    assert not after(done).pieces
    assert after(done).liquid.of("insolubles") == pytest.approx(25.0, rel=0.01)
    hot = worked(pour(line("water", 500.0)), {"verb": "bring_to", "temperature_c": 90}, {"verb": "blend"})
    assert "hot_blending" in codes(hot)
    assert "hot_blending" not in codes(worked(pour(line("water", 500.0)), {"verb": "bring_to"}, {"verb": "blend", "vented": True}))
