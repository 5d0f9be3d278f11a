"""What a vague word, a missing amount or an unknown material is taken as: data that ships, dated."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def usual() -> Mapping[str, Any]:
    """Returns, by section, what is usual: g, mL or pieces as (value, least, largest) of a word or a kind of material, kinds and keys of which nothing is assumed, and
    stand-ins for unknown materials. Source: house experience, ``data/reading/usual.json``, which says its date.
    """
    loaded: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "reading" / "usual.json").read_text(encoding="utf-8"))
    return loaded
