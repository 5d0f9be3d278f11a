"""How long citrus keeps in each form: how good it stays, told apart from how long it is safe."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..base.messages import Computed, Given, Message, days, message, term
from ..base.ranges import Range
from ..safety.shelf_life_rules import starting_rules
from .house_experience import experience


@dataclass(frozen=True, slots=True)
class Keeps:
    """How long one form of a juice stays good, quality [h] told from safety [days, none while frozen], with the reasons."""

    form: str
    quality_h: Range
    safe_days: float | None
    words: Message
    how: Message
    why_safe: Message


def keeps_words(item: Keeps) -> Message:
    """Returns how long one form of juice is at its best, and how long it is safe where a rule says so."""
    best = Computed(item.quality_h.value, "h", 0)
    if item.safe_days is None:
        return message("{form}: {hours} at its best", form=item.form, hours=best)
    safe = days(round(item.safe_days))
    return message("{form}: {hours} at its best, {days} by the safety rule", form=item.form, hours=best, days=safe)


def keeps(rules: Mapping[str, Any] | None = None) -> tuple[Keeps, ...]:
    """How long citrus keeps in each form: quality by house experience, safety by the keeping rules' class. A house's own `rules` win. No reading lengthens it here."""
    said = rules or starting_rules()
    found = []
    for form in experience()["forms"]:
        group = said["classes"][form["class"]]
        low, value, high = form["quality_h"]
        frozen = form.get("frozen", False)
        why = message(
            "{reason}: {days} at {c} °C", reason=term(group["words"]), days=days(int(group["days"])), c=Given(float(group["at_most_c"]))
        )
        found.append(
            Keeps(
                form["form"],
                Range(value, low, high),
                None if frozen else float(group["days"]),
                term(form["words"]),
                term(form["how"]),
                message("safe while frozen; from the thaw {why}", why=why)
                if frozen
                else message("{why}; a shown barrier may lengthen it on its own spec", why=why),
            )
        )
    return tuple(found)
