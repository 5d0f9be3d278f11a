"""Verbs of `operations/heat.py`: what each makes of a vessel, what leaves, what it says."""

import pytest

from tests.core.kitchen import JUICE, SYRUP, after, left, line, pour, worked
from ulsek.core.base.refusals import Refusal


def dissolve():
    done = worked(SYRUP, {"verb": "dissolve", "steam_g": 40})
    assert left(done)[0].contents.grams == {"water": pytest.approx(40.0)}
    assert sum(stream.contents.mass_g for stream in left(worked(SYRUP, {"verb": "dissolve", "steam_g": 40}, factor=2.0))) == pytest.approx(
        80.0
    )


def bring_to():
    assert after(worked(SYRUP, {"verb": "bring_to", "temperature_c": 85})).temperature_c == 85.0


def hold():
    short, long = (worked(SYRUP, {"verb": "hold", "minutes": n}) for n in (5, 20))
    assert left(long)[0].contents.mass_g == pytest.approx(4 * left(short)[0].contents.mass_g, rel=1e-9)


def simmer():
    done = worked(SYRUP, {"verb": "simmer", "minutes": 10, "power_w": 400, "lid": "off"})
    # 400 W for 10 min at 2252 J/g (101.8 °C): 106.6 g.
    assert left(done)[0].contents.of("water") == pytest.approx(106.6, abs=0.5)
    vinegar = worked(pour(line("white_wine_vinegar", 1000.0)), {"verb": "simmer", "steam_g": 300})
    kept = after(vinegar).liquid.of("acetic_acid") / 59.5
    water = after(vinegar).liquid.of("water") / (after(vinegar).liquid.of("water") + 300.0)
    assert kept == pytest.approx(water**0.65, rel=1e-6), "its acid leaves with the steam"
    spirit = worked(
        pour(line("neutral_spirit_40", 500.0), line("water", 500.0)), {"verb": "simmer", "minutes": 15, "lid": "off", "steam_g": 60}
    )
    assert after(spirit).liquid.of("ethanol") == pytest.approx(0.40 * 500 * 0.33300, rel=1e-3)


def reduce():
    half = worked(JUICE, {"verb": "reduce", "to_fraction": 0.5})
    assert after(half).mass_g == pytest.approx(500.0)
    assert after(half).liquid.of("malic_acid") == pytest.approx(half.flow.steps[0].state.liquid.of("malic_acid"))
    by_brix = worked(pour(line("water", 1690.0), line("white_sugar", 310.0)), {"verb": "reduce", "to_brix": 40})
    assert after(by_brix).mass_g == pytest.approx(775.0, abs=0.5)
    assert worked(JUICE, {"verb": "reduce", "to_volume_ml": 400}).figures[1]["volume_ml"] == pytest.approx(400.0, abs=0.01)
    assert after(worked(JUICE, {"verb": "reduce", "to_mass_g": 300}, factor=2.0)).mass_g == pytest.approx(600.0)
    with pytest.raises(Refusal, match="It is further than that already"):
        worked(JUICE, {"verb": "reduce", "to_brix": 5})
    with pytest.raises(Refusal, match="A reduction cannot stop at two states"):
        worked(JUICE, {"verb": "reduce", "to_brix": 40, "to_fraction": 0.5})
    with pytest.raises(Refusal, match="g of steam cannot leave"):
        worked(JUICE, {"verb": "reduce", "to_fraction": 0.05})


def caramelise():
    done = worked(pour(line("white_sugar", 200.0), line("water", 50.0)), {"verb": "caramelise"})
    assert after(done).liquid.of("sucrose") == pytest.approx(0.85 * 199.91, rel=1e-3)
    assert after(done).liquid.of("water") == 0.0
    with pytest.raises(Refusal, match="There is no sugar in the vessel to brown"):
        worked(pour(line("water", 50.0)), {"verb": "caramelise"})
