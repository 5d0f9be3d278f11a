"""What people write in their own words: kept whole, or refused; never cut."""

from __future__ import annotations

from typing import Any

from .messages import NOTHING, Message, message
from .refusals import Refusal


def free_text(value: Any, where: str, most: int, needed: Message = NOTHING, remedy: Message = NOTHING) -> str:
    """A text without the blanks around it. None is empty.

    Raises Refusal for what is no text, for more than `most` [letters], and for an empty one where it is `needed`, in those words with their `remedy`.
    """
    if value is None:
        value = ""
    if not isinstance(value, str):
        raise Refusal(message("This is no text"), where, remedy=message("Write it in words"), code="unreadable")
    text = value.strip()
    if needed and not text:
        raise Refusal(needed, where, remedy=remedy, code="missing")
    if len(text) > most:
        raise Refusal(
            message("That is {n} letters", n=len(text)),
            where,
            message("at most {most}", most=most),
            message("Say it shorter; nothing is cut off"),
            "too_long",
        )
    return text
