"""What may be tried of a spec: the figures that decide, each within its verb's own bounds."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.kitchen import line, pour, worked
from ulsek.core.advice.what_if import MOST_KNOBS, knobs, span_of

JUICE = line("sea_buckthorn_juice", 1000.0)


def test_ratios_percents_targets_and_deciding_parameters_are_offered_in_the_order_of_the_steps():
    done = worked(
        pour(JUICE, line("white_sugar", kind="ratio", ratio=0.6, to={"line": "sea_buckthorn_juice"}, basis="weight")),
        pour(line("malic_acid", kind="target", property="acid_g_100ml", value=2.6)),
        {"verb": "steep", "minutes": 20, "temperature_c": 70, "lines": [line("allspice", kind="percent", percent=0.4, basis="w/w")]},
        {"verb": "reduce", "to_fraction": 0.8},
    )
    assert [(knob.label.text(), knob.unit, knob.value, knob.step, knob.line, knob.field) for knob in knobs(done)] == [
        ("white sugar", "ratio", 0.6, "s0", "white_sugar", "ratio"),
        ("target with malic acid", "", 2.6, "s1", "malic_acid", "value"),
        ("allspice", "%", 0.4, "s2", "allspice", "percent"),
        ("steeped", "min", 20.0, "s2", None, "minutes"),
        ("reduced to", "of its weight", 0.8, "s3", None, "to_fraction"),
    ]
    assert knobs(done)[-1].high == 0.999, "half as much again is 1.2: the verb's own bound holds"
    assert all(knob.low < knob.value < knob.high and knob.stride > 0 for knob in knobs(done))


def test_no_more_are_offered_than_a_hand_looks_at():
    many = [line(f"m{n}", kind="percent", percent=1, basis="w/w") | {"material": "white_sugar"} for n in range(MOST_KNOBS + 2)]
    assert len(knobs(worked(pour(JUICE, *many)))) == MOST_KNOBS


@given(st.floats(1e-4, 1e5))
def test_a_span_goes_from_half_to_half_as_much_again_in_strides_that_a_hand_tells_apart(value):
    low, high, stride = span_of(value)
    assert low == pytest.approx(value / 2, abs=stride)
    assert high == pytest.approx(1.5 * value, abs=stride)
    assert 10 < (high - low) / stride < 220
