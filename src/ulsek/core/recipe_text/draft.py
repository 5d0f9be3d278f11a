"""The draft of a recipe that was read: its lines and steps in the spec's open form, what was read beside them."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ..base.answer import encode
from ..base.units import Locale
from ..base.vocabulary import plain
from ..operations.catalogue import VERBS
from ..spec.json_form import FORMAT, FORMAT_VERSION
from .amounts import Written
from .steps import figures, own_words


@dataclass
class Ingredient:
    """One line of the list: its text, what it names, how much, as a line of the spec."""

    line: int
    text: str
    name: str
    material: str | None
    written: Written
    id: str = ""
    called: tuple[str, ...] = ()
    """Words by which the method may call it; set once the whole list is read, since “the juice” is clear only where there is one."""
    per: tuple[Ingredient, float] | None = None
    """Grams of this for each gram of another line, where it was written so."""


def names_of(item: Ingredient) -> list[str]:
    """Words by which a method may call an ingredient."""
    words = [
        word
        for word in re.findall(r"[a-zà-ÿ]{3,}", plain(item.name))
        if word not in ("fresh", "dried", "whole", "juice", "and", "the", "with")
    ]
    return words or [plain(item.name)]


def _says(item: Ingredient, text: str) -> bool:
    return any(re.search(rf"\b{re.escape(word)}", text) for word in item.called or names_of(item))


def draft_of(
    name: str, text: str, locale: Locale, ingredients: Sequence[Ingredient], read: Sequence[tuple[str, str, str]]
) -> dict[str, Any]:
    """The spec in its open form: what was read, where it was read, the text beside it."""
    for n, item in enumerate(ingredients, 1):
        item.id = f"l{n}"
    steps: list[dict[str, Any]] = []
    waiting = list(ingredients)
    for n, (verb, sentence, rest) in enumerate(read, 1):
        # “Everything but the sugar”: what stands behind the “but” waits for its own step.
        named, *left_out = re.split(r"\b(?:but|except(?: for)?)\b", plain(sentence), maxsplit=1)
        takes = [
            item
            for item in waiting
            if VERBS[verb].takes_lines
            and not any(_says(item, text) for text in left_out)
            and (_says(item, named) or re.search(r"\b(?:all|everything)\b", named))
        ]
        waiting = [item for item in waiting if item not in takes]
        steps.append(
            {
                "id": f"s{n}",
                "verb": verb,
                "vessel": "pot",
                "note": sentence,
                **figures(verb, f"{sentence} {rest}"),
                **own_words(verb, rest),
                **({"lines": [_line(item, ingredients) for item in takes]} if takes else {}),
            }
        )
    if waiting or not steps:
        steps.insert(0, {"id": "s0", "verb": "combine", "vessel": "pot", "lines": [_line(item, ingredients) for item in waiting]})
    driver = next((item for item in ingredients if item.written.kind in ("mass", "volume") and not item.written.imprecise), None)
    return {
        "format": FORMAT,
        "version": FORMAT_VERSION,
        "name": name or "Pasted recipe",
        "family": "other",
        "locale": locale,
        "vessels": [{"id": "pot", "name": "pot"}],
        "note": text,
        "steps": steps,
        **({"driver": driver.id} if driver else {}),
    }


def _line(item: Ingredient, ingredients: Sequence[Ingredient]) -> dict[str, Any]:
    written, amount = item.written, item.written.amount
    key = {"mass": "mass_g", "volume": "volume_ml", "count": "count"}.get(written.kind)
    form: dict[str, Any] = {"kind": "fixed", "written": ""}
    if item.per is not None:
        form = {"kind": "ratio", "to": {"line": item.per[0].id}, "basis": "weight", "ratio": item.per[1]}
    elif key is not None:
        form = {"kind": "fixed", key: amount.value if amount.is_exact else encode(amount)}
    elif written.kind == "percent":
        form = {"kind": "percent", "percent": amount.value, "basis": written.unit if written.unit != "%" else "w/w"}
    elif written.kind == "state":
        form = (
            {"kind": "target", "property": "volume_ml", "value": amount.value}
            if written.unit == "line"
            else {"kind": "state", "state": "cover"}
        )
    elif written.kind == "parts":
        form = _parts(item, ingredients)
    return {"id": item.id, "material": item.material or plain(item.name).replace(" ", "_") or "unknown", "amount": form, "note": item.text}


def _parts(item: Ingredient, ingredients: Sequence[Ingredient]) -> dict[str, Any]:
    """Parts measured against the first part's line, by weight until it is said otherwise."""
    first = next(other for other in ingredients if other.written.kind == "parts")
    if first is item:
        return {"kind": "fixed", "mass_g": 100.0 * item.written.amount.value}
    return {
        "kind": "ratio",
        "to": {"line": first.id},
        "basis": "weight",
        "ratio": item.written.amount.value / first.written.amount.value,
    }
