"""House experience with citrus: dated figures with their ranges, shipped as data."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.ranges import Range


@cache
def experience() -> Mapping[str, Any]:
    """Returns the whole of `data/citrus.json`: how juice keeps, what peel yields, how cut fruit behaves. Source: house experience, not a standard."""
    found: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "citrus.json").read_text(encoding="utf-8"))
    return found


def prior(*path: str) -> Range:
    """Returns one figure with its 5 and 95 % points, by its path [its own unit]. Source: house experience, not a standard."""
    found: Any = experience()
    for key in path:
        found = found[key]
    low, value, high = found
    return Range(value, low, high)


def figure(*path: str) -> float:
    """Returns one figure without its range, by its path [its own unit]. Source: house experience, not a standard."""
    found: Any = experience()
    for key in path:
        found = found[key]
    return float(found)
