"""Supplies: the delivery or own lot that a line is taken from, and how much it still makes.

Two deliveries of one material differ in composition and price, so each has a key of its own in a run: the key of the material with the supply behind it.
"""

from __future__ import annotations

import re

from ..base.messages import message
from ..base.refusals import Refusal

_BEHIND = "~"
SUPPLY_PATTERN = "(delivery|lot):[A-Za-z0-9-]{1,40}"
"""How events name a supply, as a regular expression that Python and JSON Schema read alike."""
_SUPPLY = re.compile(SUPPLY_PATTERN)


def read_supply(text: object, where: str) -> str:
    """Returns a supply as events name it: `delivery:` with its id, or `lot:` with its code. Raises Refusal, placed at `where`, for anything else."""
    if not isinstance(text, str) or not _SUPPLY.fullmatch(text):
        raise Refusal(
            message("“{text}” names no supply", text=str(text)),
            where,
            message("delivery: with its id, or lot: with its code"),
            message("Scan or choose it again"),
            "unreadable",
        )
    return text


def key_from(material: str, supply: str) -> str:
    """Returns the key of a material from one supply. It holds no colon, which separates the parts of the key of a group."""
    return f"{material_of_key(material)}{_BEHIND}{supply.replace(':', '.')}"


def key_of_blend(material: str, line: str) -> str:
    """Returns the key of what went into one line from several supplies."""
    return f"{material_of_key(material)}{_BEHIND}line.{line.replace(':', '.')}"


def material_of_key(key: str) -> str:
    """Returns the key of the material, without the supply."""
    return key.partition(_BEHIND)[0]


def supply_behind(key: str) -> str | None:
    """Returns the supply in a key of `key_from`, as events name it; None if there is none."""
    behind = key.partition(_BEHIND)[2]
    return behind.replace(".", ":", 1) or None


def code_on_label(text: str) -> str:
    """Returns the code of a delivery or a lot, typed or scanned from its label: that is an address whose last part is the code."""
    return text.strip().rstrip("/").rpartition("/")[2].upper()


def makes_more_ml(left_g: float, batch_g: float, batch_ml: float) -> float:
    """Returns how much more [mL] of a product a supply makes, of which `left_g` [g] are left and a batch of `batch_ml` [mL] takes `batch_g` [g].

    left / batch × mL; 800 g of which 1 L takes 400 g: 2 L. Negative by what is missing. Error: the count of what is left. Raises Refusal for a batch that takes
    nothing of it. Source: mass balance.
    """
    if not batch_g > 0:
        raise Refusal(
            message("A batch that takes nothing of it says nothing about what it makes"),
            "batch_g",
            message("above 0 g"),
            code="not_positive",
        )
    return left_g / batch_g * batch_ml
