"""Supplies: the delivery or the house's own lot that a line is taken from, and what it still makes.

Two deliveries of one material are not the same thing: each has its own composition and price, so each stands in a run under a key of its own, which is the
material's key with the supply behind it.
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
    """The key of a material that comes out of one supply. A colon parts the names of doubts, so none stands in it."""
    return f"{material_of_key(material)}{_BEHIND}{supply.replace(':', '.')}"


def key_of_blend(material: str, line: str) -> str:
    """The key of what went into one line out of several supplies."""
    return f"{material_of_key(material)}{_BEHIND}line.{line.replace(':', '.')}"


def material_of_key(key: str) -> str:
    """The material itself, whatever supply it comes out of."""
    return key.partition(_BEHIND)[0]


def supply_behind(key: str) -> str | None:
    """The supply that stands behind a key of `key_from`, as events name it; None where there is none."""
    behind = key.partition(_BEHIND)[2]
    return behind.replace(".", ":", 1) or None


def code_on_label(text: str) -> str:
    """The code of a delivery or a lot, typed or as its label says it: that is an address, and what stands last in it is the code."""
    return text.strip().rstrip("/").rpartition("/")[2].upper()


def makes_more_ml(left_g: float, batch_g: float, batch_ml: float) -> float:
    """How much more [mL] of a product a supply makes, of which `left_g` [g] are there and a batch of `batch_ml` [mL] takes `batch_g` [g].

    left / batch × mL; 800 g of what 1 L takes 400 g of makes 2 L. Below zero it is short by so much. Error: the count of what is left. Refuses
    a batch that takes nothing of it. Source: mass balance.
    """
    if not batch_g > 0:
        raise Refusal(
            message("A batch that takes nothing of it says nothing about what it makes"),
            "batch_g",
            message("above 0 g"),
            code="not_positive",
        )
    return left_g / batch_g * batch_ml
