"""Tea and coffee by weight or volume: the dry leaves, or what was brewed of them."""

from __future__ import annotations

from dataclasses import replace

from .doubts import to_material
from .ingredient import Ingredient
from .text_reading import TextReading

A_CUP = 100.0
"""Smallest volume of coffee or tea that may be a drink instead of dry leaves [mL]. House judgement."""
_MOST_DRY = {"leaf": 0.12, "other": 0.6}
"""Largest ratio of dry tea or coffee to the liquid it is brewed in [g/g]. House judgement."""
_WET = ("water", "juice", "vinegar", "dairy", "wine", "spirit")
"""Kinds of material that something may be brewed in."""


def brewed_if_dry(reading: TextReading, made: Ingredient) -> None:
    """Changes an amount of coffee or tea to the brewed drink, and adds a doubt about it, if the list has no other liquid or far too little to brew it in."""
    others = [item for item in reading.listed if item is not made and reading.material(item.key).kind in _WET]
    most = _MOST_DRY["other" if made.named.key == "coffee_beans" else "leaf"]
    wet = sum(reading.grams(item) or 0.0 for item in others)
    # By weight it is dry, unless what it would be brewed in is listed and is too little.
    dry = bool(others) if made.amount.kind == "volume" else not others or (reading.grams(made) or 0.0) <= most * wet
    if dry:
        return
    leaves, made.key = made.key, reading.key_of(replace(made.named, form="tea"), volume=True)
    made.own = reading.own.get(made.key)
    answers = (to_material("brewed", made.key), to_material("dry, as it is bought", leaves))
    reading.ask("vague_material", made, f"Is {made.named.said} brewed here, or dry?", *answers)
