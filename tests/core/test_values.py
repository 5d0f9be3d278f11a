"""Values of the core cannot be changed: a result that is shared, cached or compared is the same for everybody who holds it."""

import dataclasses
import importlib
import pkgutil

import pytest

import ulsek.core
from ulsek.core.run.events.event import Event

CHANGING = {
    "Action",
    "BatchRecord",
    "Evaluation",
    "FlowFigures",
    "Ingredient",
    "Refusal",
    "RunState",
    "TextReading",
    "WeightComparison",
    "_Draft",
    "_Pool",
    "_Shelf",
}
"""Classes that are built up step by step, or that compute their members when they are asked for."""
CACHING = {"Estimate", "Material"}
"""Frozen classes that keep what they have computed, for which they need a place besides their members."""


def classes():
    for module in pkgutil.walk_packages(ulsek.core.__path__, "ulsek.core."):
        for found in vars(importlib.import_module(module.name)).values():
            if isinstance(found, type) and dataclasses.is_dataclass(found) and found.__module__ == module.name:
                yield found


@pytest.mark.parametrize("cls", sorted(classes(), key=lambda cls: cls.__qualname__), ids=lambda cls: cls.__qualname__)
def test_a_value_is_frozen_and_has_its_members_alone(cls):
    assert cls.__dataclass_params__.frozen is (cls.__name__ not in CHANGING)
    assert ("__slots__" in vars(cls)) is (cls.__name__ not in CHANGING | CACHING)
    # The members of an event are what is stored and sent, by name: a new one may come anywhere.
    assert not issubclass(cls, Event) or all(member.kw_only for member in dataclasses.fields(cls))
