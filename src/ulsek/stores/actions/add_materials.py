"""Add materials that came with a file to the house's own."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action

from ..queries import described
from .keep_own_material import keep_own_material

_KEY = re.compile(r"[a-z0-9_-]{1,80}")
MOST_ADDED = 60
"""Materials that are added at once [count]."""


@action
def add_materials(member: Member, bodies: Mapping[str, Mapping[str, Any]]) -> None:
    """Stores materials that the house does not have. Raises Refusal for a key that it has, so that no file changes what the house's specs are made of; for what is not a
    material; and for more than 60. Nothing is stored then.
    """
    if len(bodies) > MOST_ADDED:
        raise Refusal(message("Too many materials at once"), "materials", message("at most {most}", most=MOST_ADDED), code="too_long")
    known = described(member.house)
    for key in bodies:
        if not _KEY.fullmatch(key):
            raise Refusal(
                message("“{key}” is no key of a material", key=key[:80]),
                "materials",
                message("small letters, digits, _ and -, at most 80"),
                code="out_of_bounds",
            )
        if key in known:
            raise Refusal(
                message("“{key}” is in Stores already", key=key), f"materials/{key}", remedy=message("Use the house's own"), code="taken"
            )
    keep_own_material(member.house, bodies)
    member.wrote("add_materials", f"{len(bodies)} materials")
