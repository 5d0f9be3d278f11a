"""Verbs of `operations/combine.py`: what each makes of a vessel, what leaves, what it says."""

import pytest

from tests.core.kitchen import SYRUP, after, codes, line, pour, worked
from ulsek.core.base.messages import printed
from ulsek.core.properties import density, sugar


def combine():
    assert sugar.brix(after(worked(SYRUP)).liquid) == pytest.approx(50.0, abs=0.05)


def dry_mix():
    assert "wet_dry_mix" in codes(worked(pour(line("water", 100.0)), {"verb": "dry_mix", "lines": [line("gum_arabic", 10.0)]}))
    assert "wet_dry_mix" not in codes(worked({"verb": "dry_mix", "lines": [line("gum_arabic", 10.0), line("white_sugar", 10.0)]}))


def off_heat():
    hot = worked(
        SYRUP, {"verb": "bring_to", "temperature_c": 95}, {"verb": "off_heat", "below_c": 50, "lines": [line("bergamot_juice", 20.0)]}
    )
    assert "too_hot_to_add" in codes(hot)
    cold = worked(SYRUP, {"verb": "off_heat", "below_c": 50, "lines": [line("bergamot_juice", 20.0)]})
    assert "too_hot_to_add" not in codes(cold)


def make_up():
    to_line = {"kind": "target", "property": "volume_ml", "value": 1000}
    done = worked(pour(line("citric_acid", 60.0)), {"verb": "make_up", "lines": [{"id": "w", "material": "water", "amount": to_line}]})
    # Added to 100 mL it would be weaker: made up, 6 g stand in 100 mL.
    assert done.figures[1]["acid_g_100ml"] == pytest.approx(6.0 * 0.998, abs=0.005)
    assert done.flow.masses["w"] == pytest.approx(963.05, abs=1.5)
    hot = worked(
        SYRUP, {"verb": "bring_to"}, {"verb": "make_up", "lines": [{"id": "w", "material": "water", "amount": {**to_line, "value": 3000}}]}
    )
    assert "line_read_hot" in codes(hot)
    read_hot = worked(
        SYRUP, {"verb": "make_up", "read_at_c": 60, "lines": [{"id": "w", "material": "water", "amount": {**to_line, "value": 3000}}]}
    )
    assert density.volume_at_ml(after(read_hot).liquid, 60.0) == pytest.approx(3000.0, abs=0.01)
    assert read_hot.figures[1]["volume_ml"] < 2960.0, "the line read hot holds less"


def emulsify():
    thin = worked(pour(line("gum_arabic", 5.0), line("water", 60.0)), {"verb": "emulsify", "lines": [line("kumquat_oil", 10.0)]})
    assert {"thin_emulsion", "oil_load"} <= codes(thin)
    (said,) = [remark for remark in thin.remarks if remark.code == "thin_emulsion"]
    # 10 g of oil less its own trace want as much gum as oil; 5 g less its water are there.
    missing = after(thin).liquid.of("oil") - after(thin).liquid.of("gum")
    assert printed(said.remedy).replace("\u00a0", " ") == f"Add {missing:.2f} g more gum"
    assert "thin_emulsion" not in codes(
        worked(pour(line("gum_arabic", 15.0), line("water", 60.0)), {"verb": "emulsify", "lines": [line("kumquat_oil", 10.0)]})
    )
