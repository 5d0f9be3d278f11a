"""What people write in their own words: kept whole, or refused; never cut."""

from __future__ import annotations

from typing import Any

from .refusals import Refusal


def free_text(value: Any, where: str, most: int, needed: str = "", remedy: str = "") -> str:
    """A text without the blanks around it. None is empty.

    Raises Refusal for what is no text, for more than `most` [letters], and for an empty one where it is `needed`, in those words with their `remedy`.
    """
    if value is None:
        value = ""
    if not isinstance(value, str):
        raise Refusal("This is no text", where, remedy="Write it in words", code="unreadable")
    text = value.strip()
    if needed and not text:
        raise Refusal(needed, where, remedy=remedy, code="missing")
    if len(text) > most:
        raise Refusal(f"That is {len(text)} letters", where, f"at most {most}", "Say it shorter; nothing is cut off", "too_long")
    return text
