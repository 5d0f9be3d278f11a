"""Verbs of `operations/serve.py`: what ice gives to a drink."""

import pytest

from tests.core.kitchen import after, codes, line, pour, worked
from ulsek.core.base.answer import fields_of
from ulsek.core.chemistry.contents import Contents
from ulsek.core.materials.vessel_state import VesselState
from ulsek.core.operations.serve import least_melt_g
from ulsek.core.results.evaluation_result import evaluation_result

GLASS = pour(line("bergamot_juice", 25.0), line("honey", 20.0), line("water", 55.0))


def _melts(verb, share, **figures):
    done = worked(GLASS, {"verb": verb, **figures})
    assert after(done).mass_g == pytest.approx(100.0 * (1 + share))
    assert [added.material for added in done.flow.steps[1].added] == ["melt:ice"]
    assert "dilution" in codes(done)
    step = evaluation_result(done).steps[1]
    assert step.mass_g.high > step.mass_g.value, "how much melts is a doubt"
    assert sum(fields_of(step.bands_before).values()) == pytest.approx(100.0), "what melted was not there before"
    assert "melt:ice" not in done.went_in_g
    return done


def build():
    _melts("build", 0.14)


def stir_ice():
    _melts("stir_ice", 0.22)
    assert "too_little_melt" in codes(worked(GLASS, {"verb": "stir_ice", "melt_percent": 10}))
    assert least_melt_g(VesselState(Contents({"water": 100.0})), 0.0) == pytest.approx(100 * 4.19 * 20 / 333.6)


def shake():
    done = _melts("shake", 0.3)
    assert after(done).temperature_c == -4.0


def blend_ice():
    _melts("blend_ice", 1.1)


def dry_shake():
    done = worked(GLASS, {"verb": "dry_shake"})
    assert after(done).mass_g == pytest.approx(100.0)
