"""House experience with planning a day: dated figures, shipped as data."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def _experience() -> Mapping[str, Any]:
    found: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "planning.json").read_text(encoding="utf-8"))
    return found


def figure(*path: str) -> float:
    """Returns one figure of `data/planning.json` by its path [its own unit]. Source: house experience, not a standard."""
    found: Any = _experience()
    for key in path:
        found = found[key]
    return float(found)
