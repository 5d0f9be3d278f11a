"""The house: what it is, its units, its height, its rules; closed after a waiting time; and the demo, wiped."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import Field

from ulsek.core.base.answer import OpenForm
from ulsek.core.safety.house_rules import Rules, read_rules, tables
from ulsek.core.safety.rule_sheet import RuleSheet, rule_sheet

from .access import member_of
from .actions.close_house import WAITING, close_house, keep_house
from .actions.set_altitude import set_altitude
from .actions.set_house import set_house
from .actions.set_rule import set_rule
from .actions.set_rules import set_rules
from .actions.set_shelf import set_shelf
from .actions.set_units import set_units
from .actions.wipe_demo import wipe_demo_from_inside
from .answer import answers
from .joining_api import HouseIn
from .models import House
from .schema import Schema
from .session_api import Session, session_out

router = Router(tags=["team"])


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseOut:
    """What a house is. Times are HH:MM on its own clock; `place` is the place whose law names are judged by, empty for every place."""

    name: str
    zone: str
    currency: str
    place: str
    altitude_m: float | None
    service_from: str
    service_until: str
    day_turns: str
    is_demo: bool
    closes_at: datetime | None
    waiting_days: int
    """How long a house that is closed goes on before it is deleted [d]."""


def _house(house: House) -> HouseOut:
    rules = house.rules or {}
    return HouseOut(
        name=house.name,
        zone=house.zone,
        currency=house.currency,
        place=rules.get("place", ""),
        altitude_m=rules.get("altitude_m"),
        service_from=f"{house.service_from:%H:%M}",
        service_until=f"{house.service_until:%H:%M}",
        day_turns=f"{house.day_turns:%H:%M}",
        is_demo=house.is_demo,
        closes_at=house.closes_at,
        waiting_days=WAITING.days,
    )


@router.get("/house", response=answers(HouseOut))
def house(request: HttpRequest) -> HouseOut:
    """What the house is."""
    return _house(member_of(request).house)


@router.put("/house", response=answers(HouseOut))
def change_house(request: HttpRequest, payload: HouseIn) -> HouseOut:
    """Sets what the house is. Open batches keep the rules that they started with."""
    return _house(set_house(member_of(request), payload.facts()))


class WipeIn(Schema):
    """The name of the demo house, written out."""

    name: str


@router.post("/house/wipe", response={204: None})
def wipe(request: HttpRequest, payload: WipeIn) -> Status[None]:
    """Wipes the made-up houses that ship, with everything in them. A house of one's own is never wiped."""
    wipe_demo_from_inside(member_of(request), payload.name)
    return Status(204, None)


class CloseIn(Schema):
    """Request to delete the house after the waiting time, confirmed by the house's name and the sender's password."""

    name: str
    password: str


@router.post("/house/closing", response=answers(HouseOut))
def close(request: HttpRequest, payload: CloseIn) -> HouseOut:
    """Sets the moment at which the house is deleted for good, fourteen days from now."""
    return _house(close_house(member_of(request), payload.name, payload.password))


@router.delete("/house/closing", response=answers(HouseOut))
def keep(request: HttpRequest) -> HouseOut:
    """Calls off that the house is deleted."""
    return _house(keep_house(member_of(request)))


class UnitsIn(Schema):
    """The second measure of masses, the size of the cup, and the language of cards; empty to leave it."""

    beside: str
    locale: str
    language: str = ""


@router.get("/may-attach", response={204: None})
def may_attach(request: HttpRequest) -> Status[None]:
    """Whether the sender may attach files; the proxy asks this before it accepts one."""
    member_of(request)
    return Status(204, None)


@router.put("/house/units", response=answers(Session))
def change_units(request: HttpRequest, payload: UnitsIn) -> Session:
    """Sets the second measure of masses on cards and at the workbench, and the size of the cup."""
    member = member_of(request)
    set_units(member, payload.beside, payload.locale, payload.language)
    return session_out(request)


class AltitudeIn(Schema):
    """The house's height above the sea [m]."""

    altitude_m: float


@router.put("/house/altitude", response=answers(Session))
def change_altitude(request: HttpRequest, payload: AltitudeIn) -> Session:
    """Sets the height of the house. Open batches keep what they started with."""
    member = member_of(request)
    set_altitude(member, payload.altitude_m)
    return session_out(request)


class ShelfIn(Schema):
    """The word of an answer to the question which of two materials the house means by a name."""

    answer: str


@router.put("/house/shelf", response={204: None})
def change_shelf(request: HttpRequest, payload: ShelfIn) -> Status[None]:
    """Sets which material the house means by a name that two have: which citric acid stands on its shelf."""
    set_shelf(member_of(request), payload.answer)
    return Status(204, None)


class RulesIn(Schema):
    """A house's rules file, as docs/formats/rules.md has it."""

    rules: dict[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class RulesOut:
    """The house's own file, and every rule with it applied, by table and key."""

    rules: OpenForm
    standing: Mapping[str, OpenForm]


def _rules(own: Mapping[str, Any], rules: Rules) -> RulesOut:
    return RulesOut(rules=own, standing=tables(rules))


@router.get("/rules", response=answers(RulesOut))
def rules(request: HttpRequest) -> RulesOut:
    """Limits, keeping rules, legal names and imprecise words of this house, each dated and sourced."""
    own = member_of(request).house.rules
    return _rules(own, read_rules(own))


@router.put("/rules", response=answers(RulesOut))
def change_rules(request: HttpRequest, payload: RulesIn) -> RulesOut:
    """Stores the house's rules file. Anything may be stricter; looser needs what its table asks for."""
    set_rules(member_of(request), payload.rules)
    return _rules(payload.rules, read_rules(payload.rules))


class RuleIn(Schema):
    """The house's figures for one rule, where they come from, and what loosening takes: the word of an authority, or who decided it and why. A procedure names its cap and
    glass, an imprecise word its unit.
    """

    table: str
    key: str = Field(max_length=200)
    figures: dict[str, float]
    source: str = ""
    authority: str = ""
    by: str = ""
    why: str = ""
    cap: str = ""
    glass: str = ""
    unit: str = ""


class RuleKey(Schema):
    """One rule by its table and key."""

    table: str
    key: str = Field(max_length=200)


@router.get("/rules/sheet", response=answers(RuleSheet))
def rules_sheet(request: HttpRequest) -> RuleSheet:
    """The rules of the house, each figure that it may set beside the one that ships."""
    return rule_sheet(member_of(request).house.rules)


@router.put("/rules/one", response=answers(RuleSheet))
def change_rule(request: HttpRequest, payload: RuleIn) -> RuleSheet:
    """Sets one rule of the house. Stricter is always allowed; looser takes what its table asks for."""
    member = member_of(request)
    words = {
        name: text for name in ("source", "authority", "by", "why", "cap", "glass", "unit") if (text := getattr(payload, name).strip())
    }
    set_rule(member, payload.table, payload.key, {**payload.figures, **words})
    return rule_sheet(House.objects.get(pk=member.house.pk).rules)


@router.post("/rules/one/drop", response=answers(RuleSheet))
def drop_rule(request: HttpRequest, payload: RuleKey) -> RuleSheet:
    """Lets one rule be as it ships."""
    member = member_of(request)
    set_rule(member, payload.table, payload.key, None)
    return rule_sheet(House.objects.get(pk=member.house.pk).rules)
