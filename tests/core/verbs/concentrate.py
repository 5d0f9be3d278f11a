"""Verbs of `operations/concentrate.py`: what each makes of a vessel, what leaves, what it says."""

import pytest

from tests.core.kitchen import JUICE, after, codes, line, pour, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.properties import sugar


def freeze_drip():
    done = worked(pour(line("water", 850.0), line("white_sugar", 150.0)), {"verb": "freeze_drip", "kept": 0.25, "block_c": -18})
    drip = after(done).liquid
    assert drip.mass_g == pytest.approx(250.0)
    assert drip.of("sucrose") / 149.93 == pytest.approx(1 - 0.75**4, rel=1e-3)
    # Frozen hardly at all, the drip is no stronger than what stands beside that ice.
    mild = worked(pour(line("water", 850.0), line("white_sugar", 150.0)), {"verb": "freeze_drip", "kept": 0.25, "block_c": -3})
    assert sugar.brix(after(mild).liquid) < sugar.brix(drip)
    with pytest.raises(Refusal, match="Only a liquid with something in it"):
        worked(pour(line("water", 500.0)), {"verb": "freeze_drip"})


def vacuum_reduce():
    done = worked(JUICE, {"verb": "vacuum_reduce", "to_fraction": 0.4})
    assert after(done).mass_g == pytest.approx(400.0)
    assert "distilling" in codes(worked(pour(line("neutral_spirit_40", 500.0)), {"verb": "vacuum_reduce"}))
