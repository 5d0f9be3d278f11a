"""Random codes that people read aloud, write down and type."""

from __future__ import annotations

import hashlib
import secrets

LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
"""Without those that are mistaken for one another on paper. One letter has 4.95 random bits."""


def spoken_code(groups: int, letters: int) -> str:
    """Returns a new random code of so many groups of so many letters [count], with hyphens between the groups."""
    return "-".join("".join(secrets.choice(LETTERS) for _ in range(letters)) for _ in range(groups))


def as_typed(code: str) -> str:
    """Returns a typed code in lower case, without the blanks and hyphens between its letters."""
    return "".join(code.split()).replace("-", "").lower()


def code_digest(code: str) -> str:
    """Returns the SHA-256 of a typed code in hex. A code of sixteen letters has 79 random bits, which need no slow hash."""
    return hashlib.sha256(as_typed(code).encode()).hexdigest()
