"""Verbs of `operations/inversion.py`: sugar split by acid and heat."""

import pytest

from tests.core.kitchen import after, codes, line, pour, worked
from ulsek.core.base.refusals import Refusal
from ulsek.core.operations.inversion import inverted_share

SYRUP = pour(line("water", 400.0), line("white_sugar", 600.0), line("citric_acid", 2.0))


def invert():
    short, long = (worked(SYRUP, {"verb": "invert", "minutes": m, "steam_g": 0}) for m in (15, 60))
    before, done = after(short, 0).liquid, after(long).liquid
    split = before.of("sucrose") - done.of("sucrose")
    assert done.of("glucose") == pytest.approx(split * 180.156 / 342.296) == done.of("fructose")
    assert before.of("water") - done.of("water") == pytest.approx(split * 18.016 / 342.296, rel=1e-3), "water goes into the sugar"
    assert after(short).liquid.of("glucose") < done.of("glucose") and "inverted" in codes(long)
    assert long.range(1, "sugar_g_100ml").value > short.range(0, "sugar_g_100ml").value
    # Published half-lives: about 11 min at pH 2.5 and 35 at pH 3.0 and 100 °C; lime cordial in the cold takes months.
    assert inverted_share(11.0, 100.0, 2.5) == pytest.approx(0.5, abs=0.06)
    assert inverted_share(35.0, 100.0, 3.0) == pytest.approx(0.5, abs=0.06)
    assert inverted_share(30 * 1440.0, 4.0, 2.4) < 0.1
    with pytest.raises(Refusal, match="Without acid nothing inverts"):
        worked(pour(line("water", 400.0), line("white_sugar", 600.0)), {"verb": "invert"})
    with pytest.raises(Refusal, match="There is no sucrose"):
        worked(pour(line("water", 400.0), line("citric_acid", 6.0)), {"verb": "invert"})
