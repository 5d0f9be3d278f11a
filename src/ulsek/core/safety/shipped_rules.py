"""The rules that ship with Ulsek and that a house may replace, besides the limits and the keeping rules: legal names, leftovers, imprecise words."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.messages import listed, message
from ..base.refusals import Refusal


@cache
def starting_names() -> Mapping[str, Any]:
    """Returns the names with a legal meaning that ship with Ulsek."""
    found: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "legal_names.json").read_text(encoding="utf-8"))
    return found


def read_place(value: Any) -> str:
    """Returns the place whose law the names of a house are judged by, as `legal_names.json` lists them; empty for every place. Raises Refusal for another."""
    places: list[str] = list(starting_names()["places"])
    if value and value not in places:
        raise Refusal(
            message("No rules of “{place}” ship with Ulsek", place=str(value)[:40]),
            "place",
            message("there are {places}", places=listed(places, "comma")),
            message("Choose one of them, or none to be judged by all"),
            "unknown_reference",
        )
    return str(value or "")


@cache
def starting_offers() -> Mapping[str, Any]:
    """Returns the rules on leftovers that ship with Ulsek: how to store each kind and what to make of it."""
    found: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "leftovers.json").read_text(encoding="utf-8"))
    return found


@cache
def kitchen_words() -> Mapping[str, Any]:
    """Returns the amounts of imprecise words, as “a handful”, that ship with Ulsek."""
    loaded: Mapping[str, Any] = json.loads((files("ulsek.core") / "data" / "kitchen_words.json").read_text(encoding="utf-8"))
    return loaded
