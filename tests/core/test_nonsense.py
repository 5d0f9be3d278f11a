"""Nothing answers nonsense: every public function of the properties refuses NaN, infinity and less than nothing in words, or gives finite figures."""

import importlib
import inspect
import math
import pkgutil
from collections.abc import Mapping
from dataclasses import fields, is_dataclass

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ulsek.core import properties
from ulsek.core.base.ranges import Range
from ulsek.core.base.refusals import Refusal
from ulsek.core.chemistry.contents import Contents
from ulsek.core.chemistry.substances import ACIDS, SUBSTANCES

NAN, INF = math.nan, math.inf


def _public():
    for module in pkgutil.iter_modules(properties.__path__):
        if module.name == "bounds":
            continue  # the checks themselves
        loaded = importlib.import_module(f"{properties.__name__}.{module.name}")
        for name, found in vars(loaded).items():
            if inspect.isfunction(found) and found.__module__ == loaded.__name__ and not name.startswith("_"):
                yield pytest.param(found, id=f"{module.name}.{name}")


grams = st.one_of(st.floats(0, 2000), st.sampled_from([0.0, 1e-12, 1e-6, 1e7]))
wild = st.one_of(
    st.floats(allow_nan=True, allow_infinity=True), st.floats(-200, 2000), st.sampled_from([NAN, INF, -INF, 0.0, -1.0, 20.0, 1e300])
)
contents = st.dictionaries(st.sampled_from(sorted(SUBSTANCES)), grams, max_size=7).map(Contents)
words = st.one_of(st.sampled_from([*ACIDS, "sucrose", "off", "on", "half", "brix", "ph", "freezing_c", "nonsense", ""]))
ranges = st.tuples(wild, wild, wild).map(lambda three: Range(*three))
VALUES = {
    "float": wild,
    "int": st.integers(-4, 4),
    "bool": st.booleans(),
    "str": words,
    "Contents": contents,
    "Range": ranges,
    "list[float]": st.lists(wild, max_size=3),
    "Mapping[str, float]": st.dictionaries(st.sampled_from([*ACIDS, "nonsense"]), wild, max_size=3),
}


def _finite(found):
    if isinstance(found, complex):
        return False
    if isinstance(found, int | float):
        return math.isfinite(found)
    if isinstance(found, Mapping):
        return all(_finite(value) for value in found.values())
    if isinstance(found, tuple | list):
        return all(_finite(value) for value in found)
    if is_dataclass(found):
        return all(_finite(getattr(found, item.name)) for item in fields(found))
    return isinstance(found, str)


@pytest.mark.parametrize("function", _public())
@given(data=st.data())
@settings(max_examples=120, derandomize=True)
def test_any_input_gives_finite_figures_or_a_refusal(function, data):
    asked = {name: data.draw(VALUES[item.annotation], label=name) for name, item in inspect.signature(function).parameters.items()}
    try:
        found = function(**asked)
    except Refusal as refusal:
        assert len(refusal.text) > 10
        return
    assert _finite(found), f"{found} for {asked}"
    unread = {name for name in asked if name.startswith("_")}
    plain = [value for name, value in asked.items() if isinstance(value, float) and name not in unread]
    assert all(math.isfinite(value) for value in plain), f"{found} answers {asked}"


@pytest.mark.parametrize("function", _public())
@pytest.mark.parametrize("bad", [NAN, INF, -1.0])
def test_a_vessel_that_cannot_be_is_refused_everywhere(function, bad):
    takes = inspect.signature(function).parameters
    if not any(item.annotation == "Contents" for item in takes.values()):
        return
    broken = Contents({"water": 500.0, "sucrose": 100.0, "citric_acid": bad})
    usual = {"t_c": 20.0, "value": 0.9, "read_ml": 100.0, "known_c": -1.0, "name": "brix", "kelvin": 298.15, "pressure_kpa": 101.325}
    asked = {name: broken if item.annotation == "Contents" else usual.get(name, 5.0) for name, item in takes.items()}
    with pytest.raises(Refusal):
        function(**asked)
