"""Perform a signed action for its signer, or hold it for a lead."""

from __future__ import annotations

from typing import NamedTuple

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Device, House, Person

from ..envelope import Proved
from ..kinds import Arrival, kind_of
from ..models import SignedAction, State


class Sender(NamedTuple):
    """Who sent a signed action, on which device; None if that is not known."""

    person: Person | None
    device: Device | None


def arrived(proved: Proved, house: House, arrival: Arrival, sender: Sender, state: State, why: str = "") -> SignedAction:
    """Returns the unsaved row of an action that has just arrived."""
    return SignedAction(
        id=proved.id,
        house=house,
        kind=proved.kind,
        subject=proved.subject,
        text=proved.signed.text,
        signature=proved.signed.signature,
        key=proved.key,
        person_id=proved.person,
        carried_by=sender.person,
        carried_from=sender.device,
        received_at=arrival.received,
        state=state,
        why=why,
    )


def known(proved: Proved) -> SignedAction | None:
    """Returns the stored row with this action's id, or None. Raises Refusal if that row holds another text."""
    found = SignedAction.objects.filter(pk=proved.id).first()
    if found is not None and found.text != proved.signed.text:
        raise Refusal(message("Another action has this id"), "text/id", remedy=message("Do it again"), code="twice")
    return found


@action(receipt=False)
def take_in(member: Member, proved: Proved, arrival: Arrival, sender: Sender) -> SignedAction:
    """Performs an action for the member who signed it and returns its row. A repeated id returns the first row. Raises NotAllowed, Refusal or Http404."""
    found = known(proved)
    if found is not None:
        return found
    kind = kind_of(proved.kind)
    member.must_be(kind.needed)
    kind.do(member, proved.subject, proved.body, arrival)
    row = arrived(proved, member.house, arrival, sender, State.DONE)
    row.save(force_insert=True)
    return row


@action(receipt=False)
def hold(member: Member, proved: Proved, arrival: Arrival, sender: Sender, why: str) -> SignedAction:
    """Stores an action for a lead of the member's house to decide, and returns its row. No history row is written until the decision."""
    found = known(proved)
    if found is not None:
        return found
    kind_of(proved.kind)
    row = arrived(proved, member.house, arrival, sender, State.HELD, why)
    row.save(force_insert=True)
    return row
