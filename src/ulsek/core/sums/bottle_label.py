"""The label of a sum's answer in a bottle: title, contents, and whether it is too strong to drink."""

from __future__ import annotations

from dataclasses import dataclass

from ..base.messages import NOTHING, Computed, Message, listed, message, verbatim
from ..base.refusals import Refusal
from .acid_solution import CONCENTRATE_G_100ML
from .sheet import Sum, SumAnswer


@dataclass(frozen=True, slots=True)
class BottleWords:
    """What a bottle must say: its title, the warnings, its contents by amount, and the acids by name (empty if there are none)."""

    title: Message
    warnings: tuple[Message, ...]
    inside: Message
    acids: Message


def bottle_words(item: Sum, answer: SumAnswer) -> BottleWords:
    """Returns what the label of a sum's answer says. An acid stock is named by its strength; from `CONCENTRATE_G_100ML` [g/100 mL, as citric] on it has a
    warning.

    Raises Refusal for a sum that puts nothing in a bottle. Source: house experience, stricter than labelling law.
    """
    if not answer.parts:
        raise Refusal(
            message("This sum makes nothing to label"), "name", remedy=message("Label the batch instead"), code="nothing_to_label"
        )
    amounts = (message("{material} {amount}", material=part.name, amount=Computed(part.amount, part.unit, 1)) for part in answer.parts)
    inside = verbatim(listed(amounts, "comma"))
    names = [part.name for part in answer.parts if part.kind == "acid"]
    acids = message("Acids: {names}", names=listed(names, "comma")) if names else NOTHING
    if not item.acid_stock:
        return BottleWords(item.about, (), inside, acids)
    strength = answer.of("acid_g_100ml")
    warnings = (
        (message("CONCENTRATE, NOT A DRINK"), message("Own dosing tool; goggles and gloves")) if strength >= CONCENTRATE_G_100ML else ()
    )
    title = message("Acid stock {strength}", strength=Computed(strength, "g/100 mL", 0))
    return BottleWords(title, warnings, inside, acids)
