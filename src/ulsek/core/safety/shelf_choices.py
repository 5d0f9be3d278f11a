"""Which material a house means by an ambiguous name, such as citric acid: anhydrous or monohydrate."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..base.messages import listed, message
from ..base.refusals import Refusal

ON_THE_SHELF: Mapping[str, Mapping[str, str]] = {"citric_acid": {"citric_acid": "anhydrous", "citric_acid_monohydrate": "monohydrate"}}
"""By the key of the material that an ambiguous name is read as: the keys of the materials that it may mean, each with the word that answers the question."""


def material_meant(answer: str) -> tuple[str, str]:
    """Returns (key that the ambiguous name is read as, key of the material that is meant) for the word of an answer. Raises Refusal for another word."""
    for name, kinds in ON_THE_SHELF.items():
        for key, word in kinds.items():
            if word == answer:
                return name, key
    words = listed((word for kinds in ON_THE_SHELF.values() for word in kinds.values()), "comma")
    raise Refusal(
        message("“{answer}” is none of the answers: {words}", answer=answer, words=words),
        "answer",
        remedy=message("Choose one of them"),
        code="unknown_reference",
    )


def read_shelf(data: Any) -> dict[str, str]:
    """Returns the material that a house means by each ambiguous name, both by key. Raises Refusal, with its place, for an unknown name or material."""
    for name, key in (data if isinstance(data, dict) else {"": None}).items():
        if key not in ON_THE_SHELF.get(name, ()):
            raise Refusal(
                message("“{key}” cannot stand for “{name}”", key=str(key), name=name),
                f"shelf/{name}",
                message("{names}", names=listed((key for keys in ON_THE_SHELF.values() for key in keys), "comma")),
                message("Choose one of them"),
                "unknown_reference",
            )
    return dict(data)
