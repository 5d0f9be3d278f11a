"""What stands on a house's shelf where a name leaves it open: which of two citric acids."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..base.messages import listed, message
from ..base.refusals import Refusal

ON_THE_SHELF: Mapping[str, Mapping[str, str]] = {"citric_acid": {"citric_acid": "anhydrous", "citric_acid_monohydrate": "monohydrate"}}
"""Names that two materials have, by the key that they are read as: which of them a house may keep, each in a word."""


def read_shelf(data: Any) -> dict[str, str]:
    """Returns which material a house means by a name that two have. Raises Refusal, at its place, for another name or material."""
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
