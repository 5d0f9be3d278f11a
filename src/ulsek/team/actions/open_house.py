"""Open a house: its row, and its first lead with a password of their own."""

from __future__ import annotations

import re
from dataclasses import asdict, dataclass

from django.contrib.contenttypes.models import ContentType
from django.db import transaction

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.units import LOCALES

from ..access import Member
from ..models import House, Membership, Person, Role
from ..opening import check_opening
from ..passwords import checked_password
from .set_house import HouseFacts, checked_facts, rules_with

MOST_SIGN_IN, MOST_NAME = 60, 60
_SIGN_IN = re.compile(r"[\w.@+-]+")


@dataclass(frozen=True)
class NewPerson:
    """Somebody who comes to Ulsek: the name they sign in by, the name that labels show, and their password."""

    sign_in: str
    name: str
    password: str


def made_person(new: NewPerson) -> Person:
    """Stores a new person and returns them. Raises Refusal for a sign-in name that somebody has or that cannot be one, and for a weak password."""
    sign_in = free_text(new.sign_in, "sign_in", MOST_SIGN_IN, message("The name to sign in by is missing"), message("Write a short one"))
    if not _SIGN_IN.fullmatch(sign_in):
        raise Refusal(
            message("“{name}” cannot be signed in by", name=sign_in),
            "sign_in",
            message("letters, digits and . @ + - _"),
            message("Leave blanks out"),
            "unreadable",
        )
    if Person.objects.filter(username=sign_in).exists():
        raise Refusal(
            message("Somebody signs in by “{name}” already", name=sign_in),
            "sign_in",
            remedy=message("Take another one, or sign in if it is you"),
            code="twice",
        )
    person = Person(username=sign_in, display_name=free_text(new.name, "name", MOST_NAME) or sign_in)
    person.set_password(checked_password(new.password, person))
    person.save()
    return person


def open_first_house(facts: HouseFacts, lead: NewPerson, opening_code: str, *, locale: str = "metric") -> Member:
    """Opens a house from a browser, as `open_house` does. Raises Refusal if a house stands here already beside the demo, and without the site's code on a network."""
    with transaction.atomic():
        # One row that always exists is locked first: of two first visits at once, the second finds the first one's house.
        ContentType.objects.select_for_update().get(pk=ContentType.objects.get_for_model(House).pk)
        check_opening(opening_code)
        return open_house(facts, lead, locale=locale)


def open_house(facts: HouseFacts, lead: NewPerson, *, locale: str = "metric") -> Member:
    """Stores a new house with its first lead, and returns that lead as its member. Both are stored or neither.

    Raises Refusal, at its place, for what a house or a person cannot be, and for cups (`locale`) that are not known.
    """
    if locale not in LOCALES:
        raise Refusal(
            message("“{value}” is not known here", value=locale[:40]),
            "locale",
            message("there are {allowed}", allowed=listed(LOCALES, "comma")),
            message("Choose one of them"),
        )
    with transaction.atomic():
        house = House.objects.create(**checked_facts(facts), rules=rules_with(None, facts), locale=locale)
        member = Member(made_person(lead), house, Role.LEAD)
        Membership.objects.create(house=house, person=member.person, role=Role.LEAD)
        member.wrote("open_house", house.name, **asdict(facts))
    return member
