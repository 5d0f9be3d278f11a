"""Materials found by what people call them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..base.vocabulary import aliases, plain


def called(bodies: Mapping[str, Mapping[str, Any]], find: str) -> list[str]:
    """Returns the keys of the materials that a text names, by the house's names and by words and aliases of the vocabulary in every language."""
    wanted = plain(find)
    by_alias = {key for name, key in aliases("materials").items() if wanted in name}
    return [key for key, body in bodies.items() if wanted in plain(body["name"]) or key in by_alias]
