"""Pars computed from the use of each prep, recorded or derived from sales."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from datetime import date, datetime, timedelta
from uuid import UUID

from ulsek.batches.models import LotEvent
from ulsek.core.planning.prep_facts import PrepFacts
from ulsek.core.planning.used import WINDOW_DAYS, BottleNote, ParFromUse, daily_use, par_from_use, used_by_notes
from ulsek.team.models import House

from .sales import used_by_till

_EVEN = (1.0,) * 7


def _notes(house: House, preps: Mapping[UUID, PrepFacts], earliest: date) -> dict[UUID, list[BottleNote]]:
    """Returns the use and count records of the lots of each prep since a day, in order of time, by the id of its spec."""
    rows = LotEvent.objects.filter(
        lot__house=house,
        lot__what="",
        lot__run__version__spec__in=list(preps),
        kind__in=("used", "counted"),
        at__gte=house.day_ends(earliest),
    )
    notes: dict[UUID, list[BottleNote]] = defaultdict(list)
    for lot, made_at, spec, kind, body, at in rows.order_by("at").values_list(
        "lot", "lot__made_at", "lot__run__version__spec", "kind", "body", "at"
    ):
        notes[spec].append(BottleNote(lot, house.day(made_at), house.day(at), kind == "counted", float(body["amount"]), body.get("before")))
    return notes


def pars_by_use(
    house: House, preps: Mapping[UUID, PrepFacts], pars: Mapping[UUID, tuple[float, ...]], now: datetime
) -> dict[UUID, ParFromUse]:
    """Returns the par that follows from the use of each prep in the last 56 days, by the id of its spec; preps with fewer than three days of use are omitted.

    The use is derived from sales or recorded for the lots, whichever covers more days. Use in other batches does not count: a schedule adds the demand of nested preps itself.
    """
    today = house.day(now)
    earliest = today - timedelta(days=WINDOW_DAYS)
    notes, sold = _notes(house, preps, earliest), used_by_till(house, preps, now)
    found = {}
    for spec, facts in preps.items():
        usual = pars.get(spec, _EVEN)
        noted = daily_use(used_by_notes(notes.get(spec, ()), earliest), usual, today)
        by_use = par_from_use(max((noted, sold.get(spec, {})), key=len), usual, facts.lasts_days)
        if by_use is not None:
            found[spec] = by_use
    return found
