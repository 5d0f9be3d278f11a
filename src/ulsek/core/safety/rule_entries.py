"""Entries of a house's rules file, checked: words, figures, where a rule comes from and since when."""

from __future__ import annotations

import math
from collections.abc import Mapping
from datetime import date
from typing import Any

from ..base.messages import Message, message
from ..base.refusals import Refusal

_MOST_WORDS = 400


def words_of(entry: Mapping[str, Any], name: str, where: str, why: Message) -> str:
    """Returns the words `name` of an entry. Raises Refusal, with `why` as its remedy, if they are missing or have more than 400 letters."""
    value = entry.get(name)
    if not isinstance(value, str) or not value.strip() or len(value) > _MOST_WORDS:
        raise Refusal(
            message("“{name}” is missing", name=name),
            f"{where}/{name}",
            message("in words, at most {most} letters", most=_MOST_WORDS),
            why,
            "missing",
        )
    return value


def figure_of(value: Any, where: str) -> float:
    """Returns a figure of a rule. Raises Refusal for what is no number, and outside −60 to 100 000."""
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value) or not -60 <= value <= 100_000:
        raise Refusal(
            message("“{value}” is no figure for a rule", value=value),
            where,
            message("from −60 to 100 000"),
            message("Write a number"),
            "out_of_bounds",
        )
    return float(value)


def check_provenance(entry: Mapping[str, Any], where: str) -> None:
    """Raises Refusal for an entry without its source or the day from which it holds [ISO 8601]."""
    words_of(entry, "source", where, message("Say where the rule comes from"))
    written = words_of(entry, "dated", where, message("Write the day as 2026-11-25"))
    try:
        date.fromisoformat(written)
    except ValueError:
        raise Refusal(
            message("“{written}” is no day", written=written), f"{where}/dated", remedy=message("Write it as 2026-11-25"), code="unreadable"
        ) from None


def entries_of(data: Any, where: str) -> Mapping[str, Any]:
    """Returns the entries of a table by name. Raises Refusal for what is no table."""
    if not isinstance(data, dict) or not all(isinstance(entry, dict) for entry in data.values()):
        raise Refusal(message("House rules are kept by name"), where, remedy=message("See docs/formats/rules.md"), code="unreadable")
    return data
