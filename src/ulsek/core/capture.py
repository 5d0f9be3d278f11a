"""Capture: a draft spec grown from weighings, for people who never write an amount: put the vessel on the scale, name what goes in, pour, next."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

from .amounts import MOST_G
from .operations.catalogue import VERBS
from .refusals import Refusal
from .spec_file import FORMAT, FORMAT_VERSION

_WEIGHING = ("material", "mass_g", "shown_g", "verb")
_LEAST_RATIO, _MOST_RATIO = 1e-6, 1000.0
"""What a ratio of a spec may be; a weight beyond it stays in grams."""


def _grams(item: Mapping[str, Any], shown_g: float, where: str) -> float:
    """What went in [g]: `mass_g` on a tared scale, or the rise of `shown_g` on one that was not."""
    tared = item.get("mass_g")
    given = tared if tared is not None else item.get("shown_g")
    if isinstance(given, bool) or not isinstance(given, int | float) or not math.isfinite(given) or not 0 < given <= MOST_G:
        raise Refusal(
            "A weighing needs its grams", where, "above 0 g and at most a tonne", "Give mass_g, or shown_g of an untared scale", "missing"
        )
    grams = float(given) if tared is not None else float(given) - shown_g
    if grams <= 0:
        raise Refusal(
            f"The scale went from {shown_g:g} to {given:g} g",
            where,
            "what is put in makes it rise",
            "Tare it and weigh again, or write down what was taken out",
            "not_positive",
        )
    return grams


def _step_of(item: Mapping[str, Any], where: str) -> tuple[str, dict[str, Any]]:
    """The verb of a weighing with that verb's own figures. Refuses what a weighing does not have: nothing that was sent is dropped."""
    verb = str(item.get("verb") or "")
    if verb and verb not in VERBS:
        raise Refusal(f"“{verb}” is no verb", f"{where}/verb", remedy="Choose one of the list", code="unknown_verb")
    own = tuple(VERBS[verb].params()) if verb else ()
    for key in item:
        if key not in (*_WEIGHING, *own):
            bound = f"a weighing has {', '.join((*_WEIGHING, *own))}"
            raise Refusal(f"“{key}” is not known here", f"{where}/{key}", bound, "Leave it out, or spell it so")
    if item.get("mass_g") is not None and item.get("shown_g") is not None:
        raise Refusal("The grams are given twice", where, remedy="Give mass_g of a tared scale, or shown_g of one that was not")
    return verb, {key: value for key, value in item.items() if key in own}


def captured(name: str, weighings: Sequence[Any]) -> dict[str, Any]:
    """The draft that these weighings and steps make, in order, its first material as the driver and every other by ratio to it.

    Each item has `material` with `mass_g` or `shown_g` [g], and may have `verb` with that verb's figures; an item without a material is a step alone.
    Weighings without a verb join the step before. 1000 g, then the scale at 1 620: the second is 0.62 of the first. Refuses grams that are none, a
    scale that falls and verbs that are not known, each at its place.
    """
    if not name.strip():
        raise Refusal("What is made needs a name", "name", remedy="Name it as it will stand on the label", code="missing")
    if not weighings:
        raise Refusal("Nothing was weighed", "weighings", remedy="Weigh one thing", code="empty")
    steps: list[dict[str, Any]] = []
    shown, first_g = 0.0, 0.0
    for n, item in enumerate(weighings, 1):
        where = f"weighings/{n - 1}"
        if not isinstance(item, Mapping):
            raise Refusal("A weighing must be an object", where, code="unreadable")
        verb, figures = _step_of(item, where)
        if verb or not steps:
            steps.append({"id": f"s{len(steps) + 1}", "verb": verb or "combine", "vessel": "pot", **figures})
        material = str(item.get("material") or "")
        if not material:
            if not verb:
                raise Refusal("Neither a material nor a step", where, remedy="Name what went in, or what was done", code="missing")
            continue
        grams = _grams(item, shown, where)
        shown = float(item["shown_g"]) if item.get("mass_g") is None else shown + grams
        amount: dict[str, Any] = {"kind": "fixed", "mass_g": grams}
        if first_g and _LEAST_RATIO <= grams / first_g <= _MOST_RATIO:
            amount = {"kind": "ratio", "to": {"line": "l1"}, "basis": "weight", "ratio": float(f"{grams / first_g:.9g}")}
        first_g = first_g or grams
        number = 1 + sum(len(step.get("lines", ())) for step in steps)
        steps[-1].setdefault("lines", []).append({"id": f"l{number}", "material": material, "amount": amount})
    if not first_g:
        raise Refusal("Nothing was weighed", "weighings", remedy="Weigh one thing", code="empty")
    return {
        "format": FORMAT,
        "version": FORMAT_VERSION,
        "name": name.strip(),
        "family": "other",
        "driver": "l1",
        "vessels": [{"id": "pot", "name": "pot"}],
        "steps": steps,
    }
