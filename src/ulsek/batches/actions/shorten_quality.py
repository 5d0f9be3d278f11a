"""Shorten the quality date of a spec as the house tasted it, on every bottle that stands there and on all that are made."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from django.utils import timezone

from ulsek.core.safety.house_rules import read_rules
from ulsek.core.safety.rule_sheet import with_rule
from ulsek.core.safety.spec_quality import TABLE, lot_dated
from ulsek.specs.models import Spec
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.actions.set_rules import set_rules

from ..models import Lot, LotEvent, LotMix


@dataclass(frozen=True, slots=True)
class Tasted:
    """For how many days [days] a product was found good, why, and where that was found."""

    days: int
    why: str
    source: str


@action(whole_house=True)
def shorten_quality(member: Member, spec: Spec, tasted: Tasted, at: datetime | None = None) -> list[str]:
    """Stores the date among the house's rules, in the member's name, and returns the codes of the lots on the shelf whose last day it brings forward.

    Safety dates stay. A bottle of unknown making, which no spec is recorded of, stays too. That the date is shorter than what stands is for the caller to see to.
    """
    when = at or timezone.now()
    entry = {
        "days": tasted.days,
        "name": spec.name,
        "by": member.person.display_name,
        "why": tasted.why,
        "source": tasted.source,
        "dated": member.day(when).isoformat(),
    }
    rules = with_rule(member.house.rules, TABLE, spec.key, entry)
    set_rules(member, rules)
    said = read_rules(rules).spec_quality[spec.key]
    changed = []
    for lot in Lot.objects.filter(house=member.house, run__version__spec=spec, what="", gone_at=None).order_by("code"):
        found = lot_dated(lot.use_by, member.day(_oldest(lot)), said)
        if found is None:
            continue
        before = lot.use_by
        lot.use_by, lot.use_by_reason = found
        lot.save(update_fields=["use_by", "use_by_reason"])
        LotEvent.objects.create(
            lot=lot, kind="redated", body={"from": before.isoformat(), "to": lot.use_by.isoformat()}, by=member.person, at=when
        )
        changed.append(lot.code)
    member.wrote("shorten_quality", spec.name, at=at, days=tasted.days, why=tasted.why, lots=changed)
    return changed


def _oldest(lot: Lot) -> datetime:
    """Returns the moment from which the oldest part of a lot keeps: of what was poured into it, too."""
    found, wave, seen = lot.cooled_at, {lot.pk}, {lot.pk}
    while wave:
        parts = list(LotMix.objects.filter(into__in=wave).select_related("lot"))
        found = min([found, *(part.lot.cooled_at for part in parts)])
        wave = {part.lot_id for part in parts} - seen
        seen |= wave
    return found
