"""Signed actions over HTTP: carried here, decided about by their person and by a lead."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router
from ninja.errors import HttpError

from ulsek.core.strict_json import read_json
from ulsek.team.access import PasswordWanted, member_of
from ulsek.team.models import Role
from ulsek.team.schema import Schema

from .actions.decide import accept, settle_refused, throw_away
from .envelope import Altered, SignedText, altered, proved
from .intake import Answer, carrier_of, seen_after, take_all
from .kinds import Arrival
from .models import SignedAction, State, epoch_now

router = Router(tags=["sync"])
MOST_AT_ONCE = 50


class SignedTextIn(Schema):
    """An action: its text exactly as it was signed, the signature (r and s, base64url) and what the site certified of the key."""

    text: str
    signature: str = ""
    certificate: str = ""


class WishIn(Schema):
    """What the device wants to see afterwards: a batch by its id."""

    kind: str
    subject: str


class SignedActionsIn(Schema):
    """What a device carries, in the order in which it was done. `now` is what its clock shows as it sends: times are corrected by it."""

    actions: list[SignedTextIn]
    now: str
    view: WishIn | None = None


class CarriedAnswer(Schema):
    """What became of one action, in the order sent: done, held (for a lead) or refused."""

    id: str
    outcome: str
    status: int
    code: str
    detail: str
    where: str


class CarriedOut(Schema):
    """The answers, the epoch of the database, and what the device wanted to see."""

    epoch: str
    answers: list[CarriedAnswer]
    view: dict[str, Any] | None


class SyncOut(Schema):
    """The epoch of the database, whether it has the action that was asked for, and how many wait for this lead."""

    epoch: str
    has_last: bool
    held: int


@router.get("/sync", auth=None, response=SyncOut)
def sync(request: HttpRequest, last: str = "") -> SyncOut:
    """Whether the database is the one that the device knows. `last` is the last action that it was told is done."""
    carrier = carrier_of(request)
    held = SignedAction.objects.filter(house=carrier.house, state=State.HELD).count() if carrier.leads else 0
    return SyncOut(epoch=epoch_now(), has_last=not last or SignedAction.objects.filter(pk=last[:64]).exists(), held=held)


@router.post("/signed-actions", auth=None, response=CarriedOut)
def carry(request: HttpRequest, payload: SignedActionsIn) -> dict[str, Any]:
    """Takes in what people did on a device, each credited to whoever signed it, whoever carries it."""
    carrier = carrier_of(request)
    if len(payload.actions) > MOST_AT_ONCE:
        raise HttpError(413, f"At most {MOST_AT_ONCE} at once: send them in parts.")
    items = [SignedText(item.text, item.signature, item.certificate) for item in payload.actions]
    answers: list[Answer] = take_all(carrier, items, payload.now, timezone.now())
    seen = seen_after(carrier, payload.view.kind, payload.view.subject) if payload.view else None
    return {"epoch": epoch_now(), "answers": [vars(answer) for answer in answers], "view": seen}


class RefusedIn(SignedTextIn):
    """An action that the site refused, why, and what becomes of it: keep (for the lead), again (done again), throw_away."""

    decision: str
    why: str = ""


class DecidedOut(Schema):
    id: str
    state: str


@router.post("/signed-actions/refused", auth=None, response=DecidedOut)
def settle(request: HttpRequest, payload: RefusedIn) -> SignedAction:
    """Its own person, or a lead, has seen why an action was refused, and says what becomes of it."""
    carrier = carrier_of(request)
    if carrier.member is None:
        raise HttpError(401, "Sign in first: only its own person decides this.")
    signed, now = SignedText(payload.text, payload.signature, payload.certificate), timezone.now()
    try:
        found = proved(signed, carrier.member.person.pk, carrier.member.house.pk, now)
    except Altered:
        found = altered(payload.text, carrier.member.house.pk)
    if found.person not in (None, carrier.member.person.pk) and carrier.leads and carrier.member.role != Role.LEAD:
        raise PasswordWanted
    return settle_refused(carrier.member, found, Arrival(now, "", ""), payload.decision, payload.why)


class HeldOut(Schema):
    """An action that waits for a lead: what it is, by whom if that can be said, when it arrived and why it waits."""

    id: str
    kind: str
    subject: str
    what: str
    by: str
    claimed: str
    at: str
    received_at: datetime
    carried_by: str
    device: str
    why: str
    body: dict[str, Any]


def _held(row: SignedAction) -> dict[str, Any]:
    said = read_json(row.text.encode(), "text")
    return {
        "id": row.pk,
        "kind": row.kind,
        "subject": row.subject,
        "what": str(said.get("what") or ""),
        "by": row.person.display_name if row.person else "",
        "claimed": str(said.get("by") or ""),
        "at": str(said.get("at") or ""),
        "received_at": row.received_at,
        "carried_by": row.carried_by.display_name if row.carried_by else "",
        "device": row.carried_from.name if row.carried_from else "",
        "why": row.why,
        "body": said["body"],
    }


@router.get("/signed-actions/held", response=list[HeldOut])
def held(request: HttpRequest) -> list[dict[str, Any]]:
    """What waits for a lead of this house, the oldest first, a hundred at most."""
    rows = SignedAction.objects.filter(house=member_of(request).house, state=State.HELD)
    found = [_held(row) for row in rows.select_related("person", "carried_by", "carried_from").order_by("received_at")[:100]]
    # What one device brought at once stands in the order in which it was done.
    return sorted(found, key=lambda item: (item["received_at"], item["body"].get("lamport") or 0))


class AcceptIn(Schema):
    """Who did it, where nobody can be named."""

    person: int | None = None


@router.post("/signed-actions/{action_id}/accept", response=DecidedOut)
def accept_held(request: HttpRequest, action_id: str, payload: AcceptIn) -> SignedAction:
    """Accepts a held action: it is done for its person, with the proof “lead”."""
    return accept(member_of(request), action_id, payload.person)


@router.post("/signed-actions/{action_id}/throw-away", response=DecidedOut)
def throw_held_away(request: HttpRequest, action_id: str) -> SignedAction:
    """Throws a held action away. Its text is kept."""
    return throw_away(member_of(request), action_id)
