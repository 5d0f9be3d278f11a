"""Describe a material of the house: a new one, or the house's own figures in place of typical ones."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import plain
from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.own_material import checked_material, kept_form
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import HouseMaterial
from ..queries import described
from .keep_own_material import keep_own_material

_LONGEST = 70
"""Letters of a key, with room for a number behind it."""


@action(whole_house=True)
def keep_material(member: Member, body: Mapping[str, Any], key: str = "") -> str:
    """Stores a material of the house and returns its key: that of `key`, or without one a new key by its name.

    Specs and open drafts are judged by it from now on; open batches keep what they started with. Raises Refusal for what `checked_material` refuses, for a name that
    another material has, an unknown `key`, and for what a spec makes: that is changed in the spec.
    """
    house, known = member.house, described(member.house)
    if key and key not in known:
        raise Refusal(message("Nothing is known about “{key}”", key=key[:80]), "key", code="unknown_material")
    if known.get(key, {}).get("made_by"):
        raise Refusal(
            message("{name} is made by a spec of the house", name=str(known[key]["name"])),
            "key",
            remedy=message("Change the spec, and publish it"),
            code="made_here",
        )
    new = key or _free_key(str(body.get("name") or ""), known)
    made = checked_material(new, body, read_rules(house.rules))
    same = next((other for other, item in known.items() if other != new and plain(str(item.get("name"))) == plain(made.name)), None)
    if same is not None:
        raise Refusal(
            message("“{name}” is in Stores already", name=made.name),
            "name",
            remedy=message("Change that one, or name this apart"),
            code="taken",
        )
    keep_own_material(house, {new: kept_form(new, body)})
    member.wrote("keep_material", made.name, key=new)
    return new


def _free_key(name: str, known: Mapping[str, Any]) -> str:
    """Returns a key that nothing has, by a name."""
    # Apart from what a spec of that name would make.
    stem = "own_" + re.sub(r"[^a-z0-9]+", "_", plain(name)).strip("_")[:_LONGEST]
    free = (stem, *(f"{stem}_{n}" for n in range(2, len(known) + 3)))
    return next(key for key in free if key not in known)


def own_keys(member: Member) -> frozenset[str]:
    """Returns the keys of the materials that the house has described itself."""
    return frozenset(HouseMaterial.objects.filter(house=member.house).values_list("key", flat=True))
