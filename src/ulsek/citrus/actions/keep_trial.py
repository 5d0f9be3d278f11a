"""Store measurements of the house: a yield trial, a measure of packed peel, the spent peel of a jar."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.citrus.fruit import variety
from ulsek.core.citrus.oleo_saccharum import checked_packed, draw_plateau
from ulsek.core.citrus.yields import check_pairs
from ulsek.planners.trial import paired
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import PeelMeasure, SpentPeel, YieldTrial


@action
def keep_trial(
    member: Member, fruit: str, first: str, second: str, pairs: list[tuple[float, float]], at: datetime | None = None
) -> YieldTrial:
    """Stores the pairs [mL of juice per kilogram] of two ways. Raises Refusal for two equal ways, and for yields that no fruit has."""
    of = variety(fruit)
    if not first.strip() or not second.strip() or first.strip().lower() == second.strip().lower():
        raise Refusal(
            message("A trial needs two different ways"), "second", remedy=message("Name what is done differently"), code="missing"
        )
    check_pairs(pairs)
    paired([a for a, _ in pairs], [b for _, b in pairs], (first, second), "mL/kg")
    trial = YieldTrial.objects.create(
        house=member.house,
        fruit=of.key,
        first=free_text(first, "first", 60),
        second=free_text(second, "second", 60),
        pairs=[list(pair) for pair in pairs],
        at=at or timezone.now(),
        by=member.person,
    )
    member.wrote("keep_trial", str(trial), at=trial.at)
    return trial


@action
def weigh_packed_peel(member: Member, fruit: str, ml: float, grams: float, at: datetime | None = None) -> PeelMeasure:
    """Stores the mass of a measure packed with peel. Raises Refusal for a mass that it cannot have."""
    of = variety(fruit)
    checked_packed(grams, ml)
    kept = PeelMeasure.objects.create(house=member.house, fruit=of.key, ml=ml, grams=grams, at=at or timezone.now(), by=member.person)
    member.wrote("weigh_packed_peel", str(kept), at=kept.at)
    return kept


@dataclass(frozen=True, slots=True)
class SpentJar:
    """A jar of `peel_g` [g] of peel that weighed `spent_g` [g] after `hours` [h] in sugar at `warm_c` [°C]."""

    peel_g: float
    spent_g: float
    hours: float
    warm_c: float


@action
def weigh_spent_peel(member: Member, fruit: str, jar: SpentJar, at: datetime | None = None) -> SpentPeel:
    """Records what sugar drew out of this house's peel. Raises Refusal for peel that cannot weigh so."""
    of = variety(fruit)
    draw_plateau(jar.peel_g, jar.spent_g, jar.hours, jar.warm_c)
    kept = SpentPeel.objects.create(
        house=member.house,
        fruit=of.key,
        peel_g=jar.peel_g,
        spent_g=jar.spent_g,
        hours=jar.hours,
        warm_c=jar.warm_c,
        at=at or timezone.now(),
        by=member.person,
    )
    member.wrote("weigh_spent_peel", str(kept), at=kept.at)
    return kept
