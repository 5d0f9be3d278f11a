"""Verbs of `operations/strain.py`: what each makes of a vessel, what leaves, what it says."""

import pytest

from tests.core.kitchen import SYRUP, after, left, line, pour, worked
from ulsek.core.base.refusals import Refusal


def strain():
    tips = {"verb": "steep", "minutes": 20, "lines": [line("birch_tips", 20.0)]}
    done, pressed = worked(SYRUP, tips, {"verb": "strain"}), worked(SYRUP, tips, {"verb": "strain", "pressed": True})
    held = 20.0 * 0.75
    solids = 20.0 * 0.26
    assert left(done)[0].contents.mass_g == pytest.approx(held + solids, rel=1e-6)
    assert left(pressed)[0].contents.mass_g == pytest.approx(held / 2 + solids, rel=1e-6)
    half = worked(SYRUP, tips, {"verb": "strain", "passes_percent": 50})
    assert after(half).liquid.of("insolubles") == pytest.approx(solids / 2, rel=1e-6)
    assert not after(worked(pour(line("gooseberries", 100.0), line("water", 300.0)), {"verb": "strain"})).pieces


def filter_():
    cloudy = (pour(line("water", 1000.0), line("medlar_puree", 100.0)),)
    done = worked(*cloudy, {"verb": "filter", "filters": 2, "by_product": "papers"})
    assert done.flow.streams["papers"].mass_g == pytest.approx(2 * 14.0 + 0.97 * 7.0, rel=1e-3)
    with pytest.raises(Refusal, match="Pieces clog a filter"):
        worked(pour(line("gooseberries", 100.0), line("water", 300.0)), {"verb": "filter"})
