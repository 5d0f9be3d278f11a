"""Materials found by what people call them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..base.vocabulary import aliases, plain


def called(bodies: Mapping[str, Mapping[str, Any]], find: str) -> list[str]:
    """Returns the keys of all materials that match the text `find`: by a part of their name, or by a word of the vocabulary in any language.

    Case and accents are ignored. Empty if none matches.
    """
    wanted = plain(find)
    by_alias = {key for name, key in aliases("materials").items() if wanted in name}
    return [key for key, body in bodies.items() if wanted in plain(body["name"]) or key in by_alias]
