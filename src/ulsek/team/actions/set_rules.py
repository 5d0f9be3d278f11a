"""Set the house's rules: its own limits, keeping rules, names and imprecise words."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.house_rules import read_rules

from ..access import Member
from ..action import action
from ..models import House

MOST_BYTES = 64_000


@action(whole_house=True)
def set_rules(member: Member, data: Mapping[str, Any]) -> None:
    """Stores the rules of the house. Published specs are judged by them and never edited; an open run keeps those it started with.

    Raises Refusal, at its place, for what a house may not set, and for a file above 64 kB.
    """
    if len(json.dumps(data)) > MOST_BYTES:
        raise Refusal(
            message("The rules are too long"),
            "rules",
            message("at most 64 kB"),
            message("Keep what the house really changes"),
            "out_of_bounds",
        )
    read_rules(data)
    House.objects.filter(pk=member.house.pk).update(rules=data)
    member.wrote("set_rules", member.house.name, rules=data)
