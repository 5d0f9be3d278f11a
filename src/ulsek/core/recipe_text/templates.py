"""Templates: the first spec of a family, one for each school of making it, with what each costs and gains."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from ..base.messages import listed, message
from ..base.refusals import Refusal
from ..base.units import LOCALES
from ..base.vocabulary import keys, plain
from ..spec.json_form import FORMAT, FORMAT_VERSION


@cache
def _templates() -> tuple[Mapping[str, Any], ...]:
    data = json.loads((files("ulsek.core") / "data" / "frames.json").read_text(encoding="utf-8"))
    return tuple(data["frames"])


@dataclass(frozen=True, slots=True)
class School:
    """A school of making a family: the question on which it differs from the others, what it costs and what it gains."""

    school: str
    question: str
    costs: str
    gains: str


def schools_of(family: str) -> tuple[School, ...]:
    """Returns the schools of a family. Raises Refusal for an unknown family."""
    if family not in keys("families"):
        raise Refusal(
            message("“{family}” is no family", family=family),
            "family",
            message("choose one of {keys}", keys=listed(keys("families"), "comma")),
            code="out_of_bounds",
        )
    names = ("school", "question", "costs", "gains")
    return tuple(School(*(frame[name] for name in names)) for frame in _templates() if frame["family"] == family)


def file_id(name: str) -> str:
    """Returns a name as the id of a file: "Bergamot–kumquat mix" is "bergamot-kumquat-mix"."""
    return "-".join("".join(letter if letter.isalnum() else " " for letter in plain(name)).split())[:60] or "spec"


_MOST_KEY = 80


def output_key(own: str, by_product: str = "") -> str:
    """Returns the material key [80 letters at most] of what a spec with the material key `own` makes, or of one of its by-products."""
    return f"{own}_{file_id(by_product).replace('-', '_')}"[:_MOST_KEY] if by_product else own


def from_template(name: str, family: str, school: str = "", locale: str = "metric") -> dict[str, Any]:
    """Returns a spec file that begins as the template of its family and `school`; the first school if that is empty. Raises Refusal for a school that the
    family does not have.
    """
    if locale not in LOCALES:
        raise Refusal(
            message("“{locale}” is no locale", locale=locale),
            "locale",
            message("choose one of {locales}", locales=listed(LOCALES, "comma")),
        )
    known = schools_of(family)
    found = next((frame for frame in _templates() if frame["family"] == family and school in ("", frame["school"])), None)
    if found is None:
        schools = ", ".join(item.school for item in known)
        raise Refusal(
            message("There is no school “{school}” of it", school=school),
            "school",
            message("there are {schools}", schools=schools),
            message("Choose one of them"),
            "unknown_reference",
        )
    return {
        "format": FORMAT,
        "version": FORMAT_VERSION,
        "id": file_id(name),
        "name": name.strip(),
        "family": family,
        "locale": locale,
        **json.loads(json.dumps(found["spec"])),
    }
