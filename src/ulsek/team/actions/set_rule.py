"""Set one of the house's rules, or let it be as it ships."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.utils import timezone

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.rule_sheet import SHEET_TABLES, with_rule

from ..access import Member
from ..action import action
from .set_rules import set_rules


@action(whole_house=True)
def set_rule(member: Member, table: str, key: str, entry: Mapping[str, Any] | None) -> None:
    """Stores the house's entry for one rule, dated by today; None lets it be as it ships. Raises Refusal, at its place, for what a house may not set."""
    if table not in SHEET_TABLES:
        raise Refusal(
            message("There is no table “{table}”", table=table[:40]),
            "table",
            message("there are {known}", known=listed(SHEET_TABLES, "comma")),
            code="unknown_field",
        )
    dated = None if entry is None else {**entry, "dated": member.day(timezone.now()).isoformat()}
    set_rules(member, with_rule(member.house.rules, table, key, dated))
