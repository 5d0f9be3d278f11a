"""Set the height of the house above the sea."""

from __future__ import annotations

from ulsek.core.safety.house_rules import FORMAT, VERSION, read_rules

from ..access import Member
from ..action import action
from ..models import House


@action(whole_house=True)
def set_altitude(member: Member, altitude_m: float) -> House:
    """Sets the house's height above the sea [m] in its rules, which every batch pins at its start, and returns the house. Raises Refusal outside its bounds."""
    house = member.house
    rules = {**(house.rules or {"format": FORMAT, "version": VERSION}), "altitude_m": altitude_m}
    read_rules(rules)
    house.rules = rules
    house.save(update_fields=["rules"])
    member.wrote("set_altitude", house.name, altitude_m=altitude_m)
    return house
