"""Verbs of `operations/prebatch.py`: drinks made by the bottle before service."""

import re

import pytest

from tests.core.kitchen import after, codes, line, pour, worked
from ulsek.core.base.messages import printed
from ulsek.core.base.refusals import Refusal

DRINK = pour(line("neutral_spirit_40", 3000.0), line("dry_vermouth", 800.0))


def _water(percent):
    return {"id": "w", "material": "water", "amount": {"kind": "percent", "percent": percent, "basis": "w/w"}}


def _kept(percent, **bottle):
    return worked(DRINK, {"verb": "dilute_ahead", "lines": [_water(percent)]}, {"verb": "bottle_ahead", **bottle})


def _said(done, code):
    return next(printed(remark.text).replace("\u00a0", " ") for remark in done.remarks if remark.code == code)


def dilute_ahead():
    done = worked(DRINK, {"verb": "dilute_ahead", "served": "shake", "lines": [_water(30)]})
    assert after(done).mass_g == pytest.approx(1.3 * 3800.0)
    assert "It pours at 27.6 % vol. Shaking on ice gives 22 to 42 %" in _said(done, "diluted_ahead")
    with pytest.raises(Refusal, match="There is nothing to dilute"):
        worked({"verb": "dilute_ahead"})


def bottle_ahead():
    fridge = _kept(22, stands="fridge", keep_c=4)
    assert after(fridge).temperature_c == 4 and "first ice at −14.8 °C, so it pours at 4 °C" in _said(fridge, "stays_liquid")
    slush = _kept(22, keep_c=-18)
    assert "16 % of its water is ice" in _said(slush, "slush") and "sets_solid" not in codes(slush)
    solid = _kept(150, keep_c=-18)
    assert {remark.severity for remark in solid.remarks if remark.code == "sets_solid"} == {"stop"}
    assert "no_head_room" in codes(_kept(60, keep_c=-18, head_room_percent=3)) and "no_head_room" not in codes(_kept(60, keep_c=-18))
    full = next(remark for remark in _kept(60, keep_c=-18, head_room_percent=3).remarks if remark.code == "no_head_room")
    grows = int(re.search(r"takes (\d+)", printed(full.text))[1])
    assert int(re.search(r"\d+", printed(full.remedy))[0]) == pytest.approx(grows + 3, abs=1), "what the ice takes, and two to spare"
    strong = worked(pour(line("neutral_spirit_60", 1000.0)), {"verb": "bottle_ahead"})
    assert "does not freeze above" in _said(strong, "stays_liquid")
    assert "Fills 7 × 700 mL and 145 mL over" in _said(slush, "fills")
    with pytest.raises(Refusal, match=r"A fridge does not stand at −18.°C"):
        _kept(22, stands="fridge", keep_c=-18)


def pour_ahead():
    done = worked(DRINK, {"verb": "dilute_ahead", "lines": [_water(22)]}, {"verb": "pour_ahead", "serve_ml": 90})
    assert _said(done, "serves") == (
        "50 serves of 90 mL, 7 from each of 7 full bottles with 35 mL left in it; the last one holds 145 mL: 1 serves and 55 mL left."
    )
    assert "pours_nothing" in codes(worked({"verb": "pour_ahead"}, DRINK))
    juice = worked(
        pour(line("neutral_spirit_40", 200.0), line("bergamot_juice", 500.0)), {"verb": "bottle_ahead", "stands": "fridge", "keep_c": 4}
    )
    assert juice.keeping.days < _kept(22, stands="fridge", keep_c=4).keeping.days, "it keeps by its weakest part"
