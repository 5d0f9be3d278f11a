"""Set the units of the house: the second measure of a mass, and the size of its cups."""

from __future__ import annotations

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.units import LOCALES
from ulsek.core.results.spec_card import SECOND_MEASURES

from ..access import Member
from ..action import action
from ..models import House


@action(whole_house=True)
def set_units(member: Member, beside: str, locale: str) -> House:
    """Sets the units of the house and returns it. Raises Refusal for an unknown second measure, and for unknown cups."""
    for value, where, allowed in ((beside, "beside", SECOND_MEASURES), (locale, "locale", LOCALES)):
        if value not in allowed:
            raise Refusal(
                message("“{value}” is not known here", value=value),
                where,
                message("there are {allowed}", allowed=listed(allowed, "comma")),
                message("Choose one of them"),
            )
    house = member.house
    house.beside, house.locale = beside, locale
    house.save(update_fields=["beside", "locale"])
    member.wrote("set_units", house.name, beside=beside, locale=locale)
    return house
