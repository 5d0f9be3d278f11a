"""Signed actions over HTTP: sent here, decided about by their person or a lead."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router
from ninja.errors import HttpError

from ulsek.core.base.answer import OpenForm
from ulsek.core.base.refusals import Refusal
from ulsek.core.run.device_clocks import moment
from ulsek.team.access import PasswordWanted, member_of
from ulsek.team.answer import answers
from ulsek.team.listing import ListQuery, Slice, holding, slice_of_values
from ulsek.team.models import Role
from ulsek.team.schema import Schema

from .actions.decide import accept, settle_refused, throw_away
from .envelope import Altered, SignedText, altered, proved, read_text
from .intake import carrier_of, seen_after, take_all
from .kinds import Arrival
from .models import SignedAction, State, epoch_now

router = Router(tags=["sync"])
MOST_AT_ONCE = 50


class SignedTextIn(Schema):
    """A signed action: its exact text, the signature (r and s, base64url), and the certificate that the site issued for the key."""

    text: str
    signature: str = ""
    certificate: str = ""


class WishIn(Schema):
    """The subject that the answer should contain as it is after the actions, for example a batch by its id."""

    kind: str
    subject: str


class SignedActionsIn(Schema):
    """Signed actions in the order in which they were done. `now` is the device's clock when it sends; the actions' times are corrected by it."""

    actions: list[SignedTextIn]
    now: str
    view: WishIn | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class CarriedAnswer:
    """The outcome of one action, in the order sent: done, held (for a lead) or refused."""

    id: str
    outcome: str
    status: int
    code: str
    detail: str
    where: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CarriedOut:
    """One answer for each action, the epoch of the database, and the subject that was asked for (null if it cannot be shown)."""

    epoch: str
    answers: tuple[CarriedAnswer, ...]
    view: Mapping[str, object] | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SyncOut:
    """The epoch of the database, whether it has the action that was asked for, and how many wait for this lead."""

    epoch: str
    has_last: bool
    held: int


@router.get("/sync", auth=None, response=answers(SyncOut))
def sync(request: HttpRequest, last: str = "") -> SyncOut:
    """Whether the database is the one that the device knows. `last` is the last action that it was told is done."""
    carrier = carrier_of(request)
    held = SignedAction.objects.filter(house=carrier.house, state=State.HELD).count() if carrier.leads else 0
    return SyncOut(epoch=epoch_now(), has_last=not last or SignedAction.objects.filter(pk=last[:64]).exists(), held=held)


@router.post("/signed-actions", auth=None, response=answers(CarriedOut))
def carry(request: HttpRequest, payload: SignedActionsIn) -> CarriedOut:
    """Takes in the actions that a device sends. Each is credited to the person who signed it, not to the sender."""
    carrier = carrier_of(request)
    if len(payload.actions) > MOST_AT_ONCE:
        raise HttpError(413, f"At most {MOST_AT_ONCE} at once: send them in parts.")
    items = [SignedText(item.text, item.signature, item.certificate) for item in payload.actions]
    taken = take_all(carrier, items, payload.now, timezone.now())
    seen = seen_after(carrier, payload.view.kind, payload.view.subject) if payload.view else None
    return CarriedOut(epoch=epoch_now(), answers=tuple(CarriedAnswer(**vars(answer)) for answer in taken), view=seen)


class RefusedIn(SignedTextIn):
    """An action that the site refused, why, and what becomes of it: keep (for the lead), again (done again), throw_away."""

    decision: str
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class DecidedOut:
    """The outcome of a decision about an action."""

    id: str
    state: str


def _decided(row: SignedAction) -> DecidedOut:
    return DecidedOut(id=row.pk, state=row.state)


@router.post("/signed-actions/refused", auth=None, response=answers(DecidedOut))
def settle(request: HttpRequest, payload: RefusedIn) -> DecidedOut:
    """Stores what the action's own person, or a lead, decided about an action that was refused."""
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
    return _decided(settle_refused(carrier.member, found, Arrival(now, "", ""), payload.decision, payload.why))


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldOut:
    """An action that waits for a lead. `by` is its proven person (empty if unknown), `claimed` the name and `at` the time in its text, `why` the reason it waits."""

    id: str
    kind: str
    subject: str
    what: str
    by: str
    claimed: str
    at: datetime | None
    received_at: datetime
    carried_by: str
    device: str
    why: str
    body: OpenForm


def _time(text: str) -> datetime | None:
    """Returns the time that an action says it was done at; None for a text that is not a time."""
    try:
        return moment(text)
    except Refusal:
        return None


def _held(row: SignedAction) -> HeldOut:
    said = read_text(row.text)
    return HeldOut(
        id=row.pk,
        kind=row.kind,
        subject=row.subject,
        what=said.what,
        by=row.person.display_name if row.person else "",
        claimed=said.by,
        at=_time(said.at),
        received_at=row.received_at,
        carried_by=row.carried_by.display_name if row.carried_by else "",
        device=row.carried_from.name if row.carried_from else "",
        why=row.why,
        body=dict(said.body),
    )


@router.get("/signed-actions/held", response=answers(Slice[HeldOut]))
def held(request: HttpRequest, asked: Query[ListQuery]) -> Slice[HeldOut]:
    """Returns the actions of this house that wait for a lead's decision, the oldest first."""
    matching = holding(asked.find, "kind", "person__display_name", "carried_by__display_name", "carried_from__name")
    rows = SignedAction.objects.filter(matching, house=member_of(request).house, state=State.HELD)
    found = map(_held, rows.select_related("person", "carried_by", "carried_from"))
    return slice_of_values(found, _held_order, asked, "held actions")


def _held_order(row: HeldOut) -> tuple[float, int, str]:
    """Returns the place of a held action: what one device brought at once stands in the order in which it was done, which only its text tells."""
    return row.received_at.timestamp(), _counter(row.body), row.id


def _counter(body: Mapping[str, object]) -> int:
    """Returns the device's counter of an event; 0 if the body, which nothing has checked yet, has none."""
    lamport = body.get("lamport")
    return lamport if isinstance(lamport, int) else 0


class AcceptIn(Schema):
    """Who did it, where nobody can be named."""

    person: int | None = None


@router.post("/signed-actions/{action_id}/accept", response=answers(DecidedOut))
def accept_held(request: HttpRequest, action_id: str, payload: AcceptIn) -> DecidedOut:
    """Performs a held action in the name of its person. What it records carries the proof “lead”."""
    return _decided(accept(member_of(request), action_id, payload.person))


@router.post("/signed-actions/{action_id}/throw-away", response=answers(DecidedOut))
def throw_held_away(request: HttpRequest, action_id: str) -> DecidedOut:
    """Discards a held action. Its text is kept."""
    return _decided(throw_away(member_of(request), action_id))
