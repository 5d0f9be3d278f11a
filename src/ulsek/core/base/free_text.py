"""Texts in people's own words: stored whole, or refused; never cut."""

from __future__ import annotations

from typing import Any

from .messages import NOTHING, Message, message
from .refusals import Refusal


def free_text(value: Any, where: str, most: int, needed: Message = NOTHING, remedy: Message = NOTHING) -> str:
    """Returns a text without the blanks around it; an empty one for None.

    Raises Refusal for a value that is not a text, for more than `most` [letters], and for an empty one if it is `needed`, with those words and their `remedy`.
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
