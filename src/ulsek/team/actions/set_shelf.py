"""Store which of two materials a house means by an ambiguous name."""

from __future__ import annotations

from ulsek.core.safety.house_rules import FORMAT, VERSION, read_rules
from ulsek.core.safety.shelf_choices import material_meant

from ..access import Member
from ..action import action
from ..models import House


@action(whole_house=True)
def set_shelf(member: Member, answer: str) -> House:
    """Stores in the house's rules which material it means by an ambiguous name, by the word of the answer, and returns the house. Raises Refusal for another word."""
    name, material = material_meant(answer)
    house = member.house
    rules = house.rules or {"format": FORMAT, "version": VERSION}
    rules = {**rules, "shelf": {**rules.get("shelf", {}), name: material}}
    read_rules(rules)
    house.rules = rules
    house.save(update_fields=["rules"])
    member.wrote("set_shelf", house.name, name=name, material=material)
    return house
