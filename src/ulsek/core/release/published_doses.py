"""Doses that published practice keeps to, by family and material: data that ships, dated, for a house that has no specs of its own yet."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def _doses() -> Mapping[str, Any]:
    loaded: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "usual_doses.json").read_text(encoding="utf-8"))
    return loaded


def published_dose(family: str, key: str, kind: str) -> tuple[float, float] | None:
    """Returns the least and the largest usual dose [g/L of the finished prep] of a material, by its key and kind, in a family; None where nothing is known of it.

    Source: ``data/usual_doses.json``, which says its date.
    """
    doses = _doses()
    if family in doses["exempt_families"]:
        return None
    found = doses["families"].get(family, {}).get(key) or doses["materials"].get(key) or doses["kinds"].get(kind)
    return (float(found[0]), float(found[1])) if found else None
