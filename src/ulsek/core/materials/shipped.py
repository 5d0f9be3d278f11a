"""The materials that ship, made once for a process, and what of them most bars have."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from .material import Material, read_material
from .reference_materials import typical_materials


@cache
def shipped_bodies() -> Mapping[str, Mapping[str, Any]]:
    """Returns every material that ships, in the open form, by key. The same object each time: it must not be changed."""
    return typical_materials()


@cache
def usual_shelf() -> Mapping[str, Mapping[str, str]]:
    """Returns what most bars have on their shelf: by the name of a group, the keys of materials with the pack that each is usually bought in."""
    found: Mapping[str, Mapping[str, str]] = json.loads((files("ulsek.core") / "data" / "usual_shelf.json").read_text(encoding="utf-8"))
    return found


@cache
def shipped_material(key: str) -> Material:
    """Returns a material as it ships. The same object each time. Raises KeyError for a key that does not ship."""
    return read_material(key, shipped_bodies()[key])
