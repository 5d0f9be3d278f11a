"""Connect an instrument, or take it away."""

from __future__ import annotations

import re
from uuid import UUID

from django.conf import settings
from django.shortcuts import get_object_or_404

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action

from ..addresses import is_allowed
from ..lines import KINDS
from ..models import Instrument

_ADDRESS = re.compile(r"socket://[\w.-]+:\d{2,5}|/dev/tty[\w.-]+|COM\d{1,3}")


@action
def connect_instrument(member: Member, name: str, kind: str, address: str) -> Instrument:
    """Adds an instrument to the house and returns it.

    Raises Refusal for an empty or taken name, an unknown kind, and an address that cannot be read or that the operator does not allow.
    """
    name = name.strip()
    if not 0 < len(name) <= 60:
        raise Refusal(
            message("An instrument needs a name"),
            "name",
            message("at most 60 letters"),
            message("Say where it stands: bench scale"),
            "missing",
        )
    if kind not in KINDS:
        raise Refusal(
            message("“{kind}” is no kind of instrument", kind=kind),
            "kind",
            message("the kinds are {kinds}", kinds=listed(KINDS, "comma")),
            code="unknown_kind",
        )
    if not _ADDRESS.fullmatch(address):
        raise Refusal(
            message("“{address}” is no address of an instrument", address=address),
            "address",
            message("/dev/ttyUSB0, COM3 or socket://host:port"),
            code="unreadable",
        )
    if not is_allowed(address):
        raise Refusal(
            message("“{address}” is not allowed here", address=address),
            "address",
            message("whoever runs Ulsek allows {addresses}", addresses=listed(settings.INSTRUMENT_ADDRESSES, "comma"))
            if settings.INSTRUMENT_ADDRESSES
            else message("whoever runs Ulsek allows none"),
            message("Ask them to add it to ULSEK_INSTRUMENT_ADDRESSES"),
            "not_allowed",
        )
    if Instrument.objects.filter(house=member.house, name=name).exists():
        raise Refusal(message("“{name}” is connected already", name=name), "name", remedy=message("Choose another name"), code="twice")
    made = Instrument.objects.create(house=member.house, name=name, kind=kind, address=address)
    member.wrote("connect_instrument", str(made), address=address)
    return made


@action
def take_away(member: Member, instrument: UUID) -> None:
    """Deletes an instrument."""
    found = get_object_or_404(Instrument, pk=instrument, house=member.house)
    member.wrote("take_away", str(found))
    found.delete()
