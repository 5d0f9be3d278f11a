"""The materials that ship, made once for a process."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import Any

from .material import Material, read_material
from .reference_materials import typical_materials


@cache
def shipped_bodies() -> Mapping[str, Mapping[str, Any]]:
    """Returns every material that ships, in the open form, by key. The same object each time: it must not be changed."""
    return typical_materials()


@cache
def shipped_material(key: str) -> Material:
    """Returns a material as it ships. The same object each time. Raises KeyError for a key that does not ship."""
    return read_material(key, shipped_bodies()[key])
