"""Leftovers of today for one house, with its prices and its deliveries that expire soon."""

from __future__ import annotations

from collections.abc import Mapping

from ulsek.core.planning.left_over import LeftOver, TurningDelivery, left_over
from ulsek.core.planning.prep_facts import PrepFacts
from ulsek.core.planning.schedule import Schedule
from ulsek.core.planning.situation import Situation
from ulsek.core.safety.on_the_shelf import expires_soon_until
from ulsek.core.safety.shelf_life_rules import last_day
from ulsek.stores.queries import described, prices_per_kg
from ulsek.team.models import House

from .calendar import minutes_from


def left_overs(house: House, situation: Situation, made: Schedule, preps: Mapping[str, PrepFacts]) -> tuple[LeftOver, ...]:
    """Returns the leftovers of today with the preps that could use them, as `left_over` does."""
    deliveries = _turning_deliveries(house, situation)
    keys = {leftover.key for facts in situation.preps.values() for leftover in facts.leftovers} | {one.key for one in deliveries}
    return left_over(situation, made, preps, prices_per_kg(house, keys | situation.preps.keys()), deliveries)


def _turning_deliveries(house: House, situation: Situation) -> tuple[TurningDelivery, ...]:
    """Returns the open deliveries that expire soon and have not expired, without those that were recalled."""
    bodies = described(house)
    keeps = {key: int(body["keeps_days"]) for key, body in bodies.items() if body.get("keeps_days") is not None}
    soon = expires_soon_until(house.day(situation.now))
    found = []
    for item in house.stockitem_set.filter(material__in=keeps, gone_at=None, recalled="", remaining_g__gt=0):
        use_by = last_day(house.day(item.received_at), keeps[item.material])
        if use_by <= soon:
            past = minutes_from(situation.now, house.day_ends(use_by))
            found.append(TurningDelivery(item.material, item.product, item.code, float(item.remaining_g), past))
    return tuple(found)
