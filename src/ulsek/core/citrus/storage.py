"""Storage of citrus: how long each form keeps its quality, and how long it is safe."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..base.messages import Computed, Given, Message, days, message, term
from ..base.ranges import Range
from ..safety.shelf_life_rules import starting_rules
from .house_experience import experience


@dataclass(frozen=True, slots=True)
class StorageForm:
    """How long one form of a juice keeps: quality [h] and safety [days; None while frozen], with the reasons."""

    form: str
    quality_h: Range
    safe_days: float | None
    words: Message
    how: Message
    why_safe: Message


def keeps_words(item: StorageForm) -> Message:
    """Returns how long one form of juice keeps its quality, and how long it is safe if a rule says so."""
    best = Computed(item.quality_h.value, "h", 0)
    if item.safe_days is None:
        return message("{form}: {hours} at its best", form=item.form, hours=best)
    safe = days(round(item.safe_days))
    return message("{form}: {hours} at its best, {days} by the safety rule", form=item.form, hours=best, days=safe)


def keeps(rules: Mapping[str, Any] | None = None) -> tuple[StorageForm, ...]:
    """Returns each form of citrus with how long it keeps: quality by house experience, safety by its class in the keeping rules, a house's own `rules` included."""
    said = rules or starting_rules()
    found = []
    for form in experience()["forms"]:
        # Safety follows the house's own rules, quality the tables: a stricter house shortens only the former.
        group = said["classes"][form["class"]]
        low, value, high = form["quality_h"]
        frozen = form.get("frozen", False)
        why = message(
            "{reason}: {days} at {c} °C", reason=term(group["words"]), days=days(int(group["days"])), c=Given(float(group["at_most_c"]))
        )
        found.append(
            StorageForm(
                form["form"],
                Range(value, low, high),
                # Cold stops growth but does not kill: frozen it has no date, thawed it has that of its class.
                None if frozen else float(group["days"]),
                term(form["words"]),
                term(form["how"]),
                message("safe while frozen; from the thaw {why}", why=why)
                if frozen
                else message("{why}; a shown barrier may lengthen it on its own spec", why=why),
            )
        )
    return tuple(found)
