"""Stand-ins: what a material that nobody knows is taken as, by its words, until somebody says."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from ..base.vocabulary import plain
from .doubts import Form
from .material_names import Named
from .usual import usual


def stand_in(named: Named, key: str, *, volume: bool) -> Form:
    """Returns a material in the open form for words that name none: a syrup, a liqueur, a spice, by what its words say; by volume a thin liquid.

    `taken_as` says as what. Its ranges are wide. Source: house experience, ``data/reading/usual.json``.
    """
    entry = _entry(named.said, volume=volume)
    name = (named.said or key)[:80]
    composition = {substance: _spread(values) for substance, values in entry["makeup"].items()}
    return {
        "name": name.capitalize() if name.islower() else name,
        "kind": entry["kind"],
        "taken_as": entry["as"],
        "allergens_unknown": True,
        "makeup": {"by": "substance", "g_per_100g": composition, "source": f"taken as {entry['as']} until somebody says"},
    }


def _entry(said: str, *, volume: bool) -> Mapping[str, Any]:
    words = plain(said)
    padded = f" {words} "
    for entry in usual()["stand_ins"]:
        wanted = [plain(word) for word in entry["words"]]
        needed = [plain(word) for word in entry.get("and", ())]
        hit = any(f" {word} " in padded or f" {word}s " in padded for word in wanted) if wanted else (not entry.get("liquid") or volume)
        if hit and (not needed or any(word in words for word in needed)):
            return dict(entry)
    # The last entry takes whatever is left.
    return dict(usual()["stand_ins"][-1])


def _spread(values: Sequence[float]) -> dict[str, float]:
    return {"value": float(values[0]), "low": float(values[1]), "high": float(values[2])}


def may_be(own: Mapping[str, Any]) -> tuple[tuple[str, Form], ...]:
    """Returns what a stand-in may be, as (words, material in the open form): the strengths of its kind, or the kinds of things that its words leave open.

    A material that is made so is no stand-in any more: it may be kept in Stores. Source: house experience, ``data/reading/usual.json``.
    """
    entries = usual()["may_be"].get(str(own.get("taken_as") or ""), ())
    return tuple((word, _kept(own, word, kind, makeup)) for word, kind, makeup in entries)


def _kept(own: Mapping[str, Any], word: str, kind: str, makeup: Mapping[str, float]) -> Form:
    return {
        "name": own["name"],
        "kind": kind,
        "allergens_unknown": True,
        "makeup": {"by": "substance", "g_per_100g": dict(makeup), "source": f"as {word}, told when a recipe was read"},
    }
