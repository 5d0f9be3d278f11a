"""Take in a signed action: done for whoever signed it, or held for a lead."""

from __future__ import annotations

from ulsek.core.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Device, House, Person

from ..envelope import Proved
from ..kinds import Arrival, kind_of
from ..models import SignedAction, State


def arrived(
    proved: Proved, house: House, arrival: Arrival, carrier: Person | None, device: Device | None, state: State, why: str = ""
) -> SignedAction:
    """The row of an action that has just arrived, not yet saved."""
    return SignedAction(
        id=proved.id,
        house=house,
        kind=proved.kind,
        subject=proved.subject,
        text=proved.signed.text,
        signature=proved.signed.signature,
        key=proved.key,
        person_id=proved.person,
        carried_by=carrier,
        carried_from=device,
        received_at=arrival.received,
        state=state,
        why=why,
    )


def known(proved: Proved) -> SignedAction | None:
    """The action of this id where it has arrived before. Raises Refusal if another action has it."""
    found = SignedAction.objects.filter(pk=proved.id).first()
    if found is not None and found.text != proved.signed.text:
        raise Refusal("Another action has this id", "text/id", remedy="Do it again", code="twice")
    return found


@action(receipt=False)
def take_in(member: Member, proved: Proved, arrival: Arrival, carrier: Person | None, device: Device | None) -> SignedAction:
    """Does an action for the member who signed it and returns its row; an id that was taken in before does nothing. Raises NotAllowed, Refusal, Http404."""
    found = known(proved)
    if found is not None:
        return found
    kind = kind_of(proved.kind)
    member.must_be(kind.needed)
    kind.do(member, proved.subject, proved.body, arrival)
    row = arrived(proved, member.house, arrival, carrier, device, State.DONE)
    row.save(force_insert=True)
    return row


@action(receipt=False)
def hold(
    member: Member,
    proved: Proved,
    arrival: Arrival,
    carrier: Person | None,
    device: Device | None,
    why: str,
) -> SignedAction:
    """Keeps an action for a lead of the member's house to decide. The row itself is the record: the history tells what was decided."""
    found = known(proved)
    if found is not None:
        return found
    kind_of(proved.kind)
    row = arrived(proved, member.house, arrival, carrier, device, State.HELD, why)
    row.save(force_insert=True)
    return row
