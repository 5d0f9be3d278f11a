"""Set the units of the house: the second measure of a mass, the size of its cups, and the language of its cards."""

from __future__ import annotations

from ulsek.core.base.catalogue import languages
from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.units import LOCALES
from ulsek.core.results.spec_card import SECOND_MEASURES

from ..access import Member
from ..action import action
from ..models import House


@action(whole_house=True)
def set_units(member: Member, beside: str, locale: str, language: str = "") -> House:
    """Sets the units of the house and returns it; without a `language` that of its cards stays. Raises Refusal for an unknown measure, cups or language."""
    house = member.house
    language = language or house.language
    for value, where, allowed in ((beside, "beside", SECOND_MEASURES), (locale, "locale", LOCALES), (language, "language", languages())):
        if value not in allowed:
            raise Refusal(
                message("“{value}” is not known here", value=value),
                where,
                message("there are {allowed}", allowed=listed(allowed, "comma")),
                message("Choose one of them"),
            )
    house.beside, house.locale, house.language = beside, locale, language
    house.save(update_fields=["beside", "locale", "language"])
    member.wrote("set_units", house.name, beside=beside, locale=locale, language=language)
    return house
