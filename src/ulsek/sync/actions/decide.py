"""Actions on signed actions that were refused or held: a person or a lead decides whether each is held, discarded or performed."""

from __future__ import annotations

from dataclasses import replace

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import Membership, Person, Role

from ..envelope import Proved, read_text
from ..kinds import Arrival, kind_of
from ..models import SignedAction, State
from .take_in import Sender, arrived, known

DECISIONS = {"keep": "kept for the lead", "again": "done again", "throw_away": "thrown away"}


@action(receipt=False)
def settle_refused(member: Member, proved: Proved, arrival: Arrival, decision: str, why: str) -> SignedAction:
    """Stores the decision about a refused action and returns its row: held for "keep", else dropped. The text is kept, and a history row is written.

    Raises Refusal if the member is neither the action's person nor a lead, if it belongs to another house, or if `decision` is not in `DECISIONS`.
    """
    if decision not in DECISIONS:
        raise Refusal(
            message("“{decision}” is no decision", decision=decision),
            "decision",
            message("one of {decisions}", decisions=listed(DECISIONS, "comma")),
            code="out_of_bounds",
        )
    if proved.person is not None and proved.person != member.person.pk and member.role != Role.LEAD:
        raise Refusal(
            message("Only its own person decides this"),
            "text/person",
            remedy=message("They sign in, or your lead decides"),
            code="not_yours",
        )
    if proved.house != member.house.pk:
        raise Refusal(message("This belongs to another house"), "text/house", remedy=message("Sign in there"), code="not_yours")
    found = known(proved)
    if found is not None:
        return found
    state = State.HELD if decision == "keep" else State.DROPPED
    row = arrived(proved, member.house, arrival, Sender(member.person, None), state, why or proved.doubt)
    if state == State.DROPPED:
        row.decided_by, row.decided_at = member.person, arrival.received
    row.save(force_insert=True)
    member.wrote("settle_refused", proved.id, kind=proved.kind, decision=DECISIONS[decision], why=why)
    return row


def _held(member: Member, action_id: str) -> SignedAction:
    found = get_object_or_404(SignedAction.objects.filter(house=member.house).select_related("person"), pk=action_id)
    if found.state != State.HELD:
        raise Refusal(message("This has been decided already"), "action", remedy=message("Reload the page"), code="gone")
    return found


@action(whole_house=True, receipt=False)
def accept(member: Member, action_id: str, person_id: int | None = None) -> SignedAction:
    """Performs a held action in the name of the person who signed it and returns its row. `person_id` names the person of an unsigned action.

    Raises Refusal if it has been decided already, if nobody can be named, or if the action itself is refused; Http404 if it is not in this house.
    """
    row = _held(member, action_id)
    credited = row.person or _named(member, person_id)
    # An altered action has an id of its own, and so has its event.
    body = {**read_text(row.text).body, "id": row.pk}
    arrival = Arrival(received=row.received_at, device_now="", proof="lead")
    signer = replace(member, person=credited, role=Role.MAKER, request_id="", sign_in=None)
    kind_of(row.kind).do(signer, row.subject, body, arrival)
    return _decided(member, row, State.ACCEPTED, credited)


def _named(member: Member, person_id: int | None) -> Person:
    found = (
        Person.objects.filter(pk=person_id, memberships__in=Membership.objects.filter(house=member.house)).first() if person_id else None
    )
    if found is None:
        raise Refusal(message("Nobody can be named as who did this"), "person", remedy=message("Say who it was"), code="missing")
    return found


@action(receipt=False)
def throw_away(member: Member, action_id: str) -> SignedAction:
    """Marks a held action as discarded and returns its row; the text is kept. Raises Refusal if it has been decided already."""
    row = _held(member, action_id)
    return _decided(member, row, State.DROPPED, row.person)


def _decided(member: Member, row: SignedAction, state: State, person: Person | None) -> SignedAction:
    row.state, row.person, row.decided_by, row.decided_at = state, person, member.person, timezone.now()
    row.save(update_fields=["state", "person", "decided_by", "decided_at"])
    member.wrote("accept_action" if state == State.ACCEPTED else "throw_away_action", row.pk, kind=row.kind, why=row.why)
    return row
