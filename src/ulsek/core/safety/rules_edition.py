"""Which edition of the rules a batch was started with, and which its dates are computed by now."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..base.messages import Message, message
from .house_rules import DATED_TABLES, shipped


def edition(data: Any) -> dict[str, str]:
    """Returns the dates of the rules of a batch: of the keeping rules and the limits that ship, and of the newest entry of the house's own file (empty if it
    has none).
    """
    base = shipped()
    tables_ = [data.get(name, {}) for name in DATED_TABLES] if isinstance(data, dict) else []
    own = [str(entry["dated"]) for table in tables_ if isinstance(table, dict) for entry in table.values() if entry.get("dated")]
    return {"keeping": str(base.keeping["dated"]), "limits": str(base.limits["dated"]), "house": max(own, default="")}


def edition_words(started: Mapping[str, str] | None, data: Any) -> Message:
    """Returns which rules a batch was started with, and which its dates are computed by now, if those differ. `started` is the edition that it pinned, None if
    it began before that was stored; `data` are the rules that it pinned.
    """
    now = edition(data)
    if now["house"]:
        by_now = message("the rules of {shipped} and the house's of {house}", shipped=now["keeping"], house=now["house"])
    else:
        by_now = message("the rules of {shipped}", shipped=now["keeping"])
    if started is None:
        return message("Started before its rules were noted. Its dates go by {rules}.", rules=by_now)
    if started == now:
        return message("Started with {rules}.", rules=by_now)
    return message("Started with the rules of {started}. Its dates go by {rules}.", started=started["keeping"], rules=by_now)
