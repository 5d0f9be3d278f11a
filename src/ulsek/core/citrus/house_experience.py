"""House experience with citrus: dated figures that ship with Ulsek as data, with their ranges."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.ranges import Range


@cache
def experience() -> dict[str, Any]:
    """Everything in `data/citrus.json`: how juice keeps, what peel gives, how a cut fruit behaves. Source: house experience, not a standard."""
    found: dict[str, Any] = json.loads((files("ulsek.core") / "data" / "citrus.json").read_text(encoding="utf-8"))
    return found


def prior(*path: str) -> Range:
    """One figure of it with its 5 and 95 % points, by its path [its own unit]. Source: house experience, not a standard."""
    found: Any = experience()
    for key in path:
        found = found[key]
    low, value, high = found
    return Range(value, low, high)


def figure(*path: str) -> float:
    """One plain figure of it, by its path [its own unit]. Source: house experience, not a standard."""
    found: Any = experience()
    for key in path:
        found = found[key]
    return float(found)
