"""Sums as steps of a spec: every gram and parameter arrives, and the core computes the same from it."""

import pytest

from tests.core.kitchen import line, pour, worked
from ulsek.core.sums.catalogue import work_out

# Sum, figures, and the step that goes to a spec: its verb, every gram of it, its parameters.
SENT = [
    ("acid_solution", {"strength": 28, "volume": 500, "citric": 3, "malic": 1}, "combine", {"citric_acid": 105, "malic_acid": 35}, {}),
    ("mimic", {"citrus": "bergamot_juice", "volume": 1000}, "combine", {"citric_acid": 45.24, "malic_acid": 2.888}, {}),
    ("balance", {"volume": 1000, "sugar": 50, "acid": 2.5, "by": 25}, "combine", {"water": 246.7, "citric_acid": 6.25}, {}),
    ("cut_infusion", {"mass": 1000, "too_strong": 25, "brix": 50}, "combine", {"white_sugar": 125, "water": 125}, {}),
    ("sugar_to_target", {"mass": 1000, "have": 10, "want": 50, "sweetener": "honey"}, "dissolve", {"honey": 1220}, {}),
    ("dilute", {"mass": 1000, "have": 60, "want": 40}, "combine", {"water": 500}, {}),
    ("enzyme_dose", {"mass": 1000}, "enzyme", {"pectin_enzyme": 1.5}, {"minutes": 35, "temperature_c": 45}),
    ("drip", {"mass": 1000, "have": 15, "want": 30}, "freeze_drip", {}, {"kept": 0.456, "block_c": -18}),
    ("reduction", {"mass": 2000, "have": 15.5, "want": 40}, "reduce", {}, {"to_mass_g": 775}),
    ("ascorbic_dose", {"mass": 1040}, "combine", {"ascorbic_acid": 1}, {}),
    ("cups_to_grams", {"amount": 2, "material": "white_sugar"}, "combine", {"white_sugar": 422.65}, {}),
]


@pytest.mark.parametrize(("name", "figures", "verb", "grams", "parameters"), SENT, ids=[item[0] for item in SENT])
def test_a_sum_goes_to_a_spec_whole_and_the_core_works_it_out(name, figures, verb, grams, parameters):
    step = work_out(name, figures).step
    assert step["verb"] == verb
    assert {line["material"]: line["amount"]["mass_g"] for line in step.get("lines", [])} == pytest.approx(grams, rel=2e-3)
    assert {key: step[key] for key in parameters} == pytest.approx(parameters)
    done = worked(pour(line("pear_juice", 2000)), step)
    assert {added.material: added.mass_g for added in done.flow.steps[1].added} == pytest.approx(grams, rel=2e-3)


def test_a_dose_of_a_stock_that_no_spec_knows_is_not_sent_as_something_else():
    assert work_out("acid_dose", {"volume": 60, "want": 1.5, "solution": 28}).step is None
    assert work_out("same_as_citrus", {"citrus": "lemon_juice", "serve": 20, "solution": 28}).step is None
