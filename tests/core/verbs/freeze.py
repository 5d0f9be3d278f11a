"""Verbs of `operations/freeze.py`: what each makes of a vessel, what leaves, what it says."""

import pytest

from tests.core.kitchen import JUICE, after, codes, line, pour, worked
from ulsek.core.base.refusals import Refusal


def freeze():
    done = worked(JUICE, {"verb": "freeze"})
    assert after(done).temperature_c == -18.0
    assert "freezes" in codes(done)
    with pytest.raises(Refusal, match="mL as ice: the vessel holds 1\u00a0000 mL"):
        worked(JUICE, {"verb": "freeze"}, capacity=1000)


def thaw():
    done = worked(pour(line("gooseberries", 500.0)), {"verb": "freeze"}, {"verb": "thaw"})
    assert after(done).pieces[0].cut == 3.0
    assert after(done).temperature_c == 4.0
    assert "thaws" in codes(worked(JUICE, {"verb": "freeze"}, {"verb": "thaw", "minutes": 60}))
    raspberries = pour(line("raspberry", 100.0))
    sugared = pour(line("raspberry", 100.0), line("white_sugar", 60.0))
    dry, drawn = (after(worked(lines, {"verb": "freeze"}, {"verb": "thaw", "minutes": 720})) for lines in (raspberries, sugared))
    assert (dry.liquid.mass_g, 20.0 < drawn.liquid.mass_g - 60.0 < 70.0) == (0.0, True), "sugar draws juice from thawing fruit"
