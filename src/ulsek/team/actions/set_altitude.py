"""Set how high the house lies: things boil by it."""

from __future__ import annotations

from ulsek.core.safety.house_rules import FORMAT, VERSION, read_rules

from ..access import Member
from ..action import action
from ..models import House


@action(whole_house=True)
def set_altitude(member: Member, altitude_m: float) -> House:
    """The house with its height above the sea [m] in its rules, which every batch pins at its start. Raises Refusal for what is no place for a bar."""
    house = member.house
    rules = {**(house.rules or {"format": FORMAT, "version": VERSION}), "altitude_m": altitude_m}
    read_rules(rules)
    house.rules = rules
    house.save(update_fields=["rules"])
    member.wrote("set_altitude", house.name, altitude_m=altitude_m)
    return house
