"""Set what a house is: its name, place, clock, currency and hours."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from datetime import time
from typing import Any
from zoneinfo import available_timezones

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.house_rules import FORMAT, VERSION, read_rules
from ulsek.core.safety.on_the_shelf import LATEST_DAY_TURN

from ..access import Member
from ..action import action
from ..models import House

MOST_NAME = 80
_CURRENCY = re.compile(r"[A-Z]{3}")
_CLOCK = re.compile(r"([01]\d|2[0-3]):[0-5]\d")


@dataclass(frozen=True)
class HouseFacts:
    """What a lead says of a house. Times are written as HH:MM; `place` is the place whose law names are judged by, empty for every one; `altitude_m` is the
    height above the sea [m], None if nobody has said it.
    """

    name: str
    zone: str
    currency: str
    place: str = ""
    altitude_m: float | None = None
    service_from: str = "18:00"
    service_until: str = "02:00"
    day_turns: str = "05:00"


def _time(value: str, where: str) -> time:
    if not isinstance(value, str) or not _CLOCK.fullmatch(value):
        raise Refusal(
            message("“{value}” is no time of day", value=str(value)[:20]), where, remedy=message("Write it as 18:30"), code="unreadable"
        )
    return time.fromisoformat(value)


def checked_facts(facts: HouseFacts, *, apart_from: House | None = None) -> Mapping[str, Any]:
    """Returns `facts` as the columns of a house's row, by name; height and place belong to its rules and are not among them.

    Raises Refusal, at its place, for the name of another house (`apart_from` is this one), an unknown zone, a currency or time that cannot be read, and a day that
    turns after `LATEST_DAY_TURN`.
    """
    name = free_text(facts.name, "name", MOST_NAME, message("The house has no name"), message("Write what it is called"))
    # The database's collation decides which names are the same: TERN house is Tern House.
    others = House.objects.filter(name=name)
    if (others.exclude(pk=apart_from.pk) if apart_from else others).exists():
        raise Refusal(
            message("There is a house called “{name}” here already", name=name),
            "name",
            remedy=message("Add the street or the town to it"),
            code="twice",
        )
    if facts.zone not in available_timezones():
        raise Refusal(
            message("“{zone}” is no time zone", zone=str(facts.zone)[:64]),
            "zone",
            remedy=message("Choose one, such as Europe/Lisbon"),
            code="unknown_reference",
        )
    if not _CURRENCY.fullmatch(facts.currency):
        raise Refusal(
            message("“{currency}” is no currency", currency=str(facts.currency)[:20]),
            "currency",
            remedy=message("Write its three letters, such as EUR"),
            code="unreadable",
        )
    turns = _time(facts.day_turns, "day_turns")
    if turns > LATEST_DAY_TURN:
        raise Refusal(
            message("A day cannot turn at {time}", time=facts.day_turns),
            "day_turns",
            message("from 00:00 to {latest}", latest=f"{LATEST_DAY_TURN:%H:%M}"),
            message("It is the hour at which the last of the night have gone home"),
            "out_of_bounds",
        )
    return {
        "name": name,
        "zone": facts.zone,
        "currency": facts.currency,
        "day_turns": turns,
        "service_from": _time(facts.service_from, "service_from"),
        "service_until": _time(facts.service_until, "service_until"),
    }


def rules_with(rules: Mapping[str, Any] | None, facts: HouseFacts) -> Mapping[str, Any]:
    """Returns a house's rules file with the height and the place of `facts`, without those that nobody has said. Raises Refusal for those that cannot be."""
    kept = {name: rule for name, rule in (rules or {"format": FORMAT, "version": VERSION}).items() if name not in ("place", "altitude_m")}
    place = {"place": facts.place} if facts.place else {}
    height = {} if facts.altitude_m is None else {"altitude_m": facts.altitude_m}
    said: Mapping[str, Any] = {**kept, **place, **height}
    read_rules(said)
    return said


@action(whole_house=True)
def set_house(member: Member, facts: HouseFacts) -> House:
    """Sets what a house is, and returns it. Open batches keep the rules that they started with. Raises Refusal as `checked_facts` does."""
    house = member.house
    for name, value in checked_facts(facts, apart_from=house).items():
        setattr(house, name, value)
    house.rules = rules_with(house.rules, facts)
    house.save()
    member.wrote("set_house", house.name, **asdict(facts))
    return house
