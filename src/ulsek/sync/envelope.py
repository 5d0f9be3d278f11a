"""Reads signed actions (docs/formats/signed-action.md) and checks whose signature they carry."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.strict_json import read_json
from ulsek.team.access import membership_of
from ulsek.team.models import Membership, SigningKey
from ulsek.team.signatures import certified, is_signed

FORMAT, VERSION = "ulsek.action", 1
MOST_TEXT = 60_000
"""The longest text of one action [letters]."""
_TEXTS = {"id": 64, "kind": 40, "subject": 64}


class Altered(Exception):
    """A text that its signature does not fit."""

    text = "This was changed after it was signed, so nobody can say who did it."


@dataclass(frozen=True)
class ActionText:
    """The fields of a signed text. `house`, `person` and `key` are None or empty for an action from before actions were signed; `by` is a name for display."""

    id: str
    kind: str
    subject: str
    at: str
    what: str
    by: str
    house: int | None
    person: int | None
    key: str
    body: Mapping[str, Any]


@dataclass(frozen=True)
class SignedText:
    """A signed action as received: `text` exactly as it was signed, its `signature`, and the `certificate` that the site issued for the key."""

    text: str
    signature: str = ""
    certificate: str = ""


@dataclass(frozen=True)
class Proved:
    """The content of a signed action, and the person who signed it. `doubt` says why a lead must decide about it; empty if it may be performed.

    `key` is None for an action without a signature; `membership` is None where nobody can be named, or the person works in that house no more.
    """

    id: str
    kind: str
    subject: str
    house: int
    body: Mapping[str, Any]
    signed: SignedText
    key: SigningKey | None
    person: int | None
    membership: Membership | None
    doubt: str


def altered(text: str, house: int) -> Proved:
    """Returns an action whose signature does not fit, to be held for a lead of `house`. Its id is a hash of its text, so that it cannot take the id of the
    unaltered action. Raises Refusal if the text is not an action.
    """
    said = read_text(text)
    own_id = f"altered-{hashlib.sha256(text.encode()).hexdigest()[:48]}"
    body = {**said.body, "id": own_id} if "id" in said.body else said.body
    return Proved(own_id, said.kind, said.subject, house, body, SignedText(text), None, None, None, Altered.text)


def read_text(text: str) -> ActionText:
    """Returns the fields of a signed text. Raises Refusal if it is not an action, or longer than `MOST_TEXT` [letters]."""
    if len(text) > MOST_TEXT:
        raise Refusal(message("This is too long to take in"), "text", message("at most {most} letters", most=MOST_TEXT), code="too_long")
    said = read_json(text.encode(), "text")
    if not isinstance(said, dict) or said.get("format") != FORMAT:
        raise Refusal(
            message("This is no signed action"), "text/format", message("format must be “{format}”", format=FORMAT), code="not_ours"
        )
    if said.get("version") != VERSION:
        raise Refusal(
            message("This action is of a version that is not known"),
            "text/version",
            message("version {version}", version=VERSION),
            message("Reload the page"),
            "too_new",
        )
    for name, most in _TEXTS.items():
        if not isinstance(said.get(name), str) or not 0 < len(said[name]) <= most:
            raise Refusal(
                message("A signed action needs its {name}", name=name),
                f"text/{name}",
                message("at most {most} letters", most=most),
                code="missing",
            )
    if not isinstance(said.get("body"), dict):
        raise Refusal(message("The body must be an object"), "text/body", code="unreadable")
    if said["body"].get("id", said["id"]) != said["id"]:
        raise Refusal(message("The body has an id of its own"), "text/body/id", message("the action's id"), code="unreadable")
    for name in ("house", "person"):
        if name in said and (not isinstance(said[name], int) or isinstance(said[name], bool) or not 0 <= said[name] < 2**53):
            raise Refusal(message("{name} must be a number", name=name), f"text/{name}", code="unreadable")
    words = {name: str(said.get(name) or "") for name in ("at", "what", "by", "key")}
    return ActionText(
        said["id"], said["kind"], said["subject"], house=said.get("house"), person=said.get("person"), body=said["body"], **words
    )


def _key_of(name: str, certificate: str) -> SigningKey | None:
    found = SigningKey.objects.select_related("sign_in").filter(pk=name).first()
    if found is None and certificate:
        made = certified(certificate)
        found = SigningKey.objects.select_related("sign_in").get(pk=made.pk) if made is not None and made.pk == name else None
    return found


def _doubt(key: SigningKey, now: datetime) -> str:
    if key.revoked_at is not None:
        return "The session or the device on which this was signed has been ended from elsewhere."
    if now >= key.expires_at:
        return "The key that signed this is older than thirty days."
    return ""


def proved(signed: SignedText, session_person: int | None, session_house: int | None, now: datetime) -> Proved:
    """Returns what an action says and who did it. `session_person` and `session_house` [ids] belong to the session that sent it: an action without a
    signature is accepted only from the session of the person it names.

    Raises Altered if the signature is not the key's signature of this text, and Refusal if the text is not an action.
    """
    said = read_text(signed.text)
    person, house, name = said.person, said.house, said.key
    key = _key_of(name, signed.certificate) if name else None
    doubt = ""
    if key is not None:
        if not is_signed(key.public, signed.text, signed.signature) or person != key.sign_in.person_id or house != key.sign_in.house_id:
            raise Altered
        doubt = _doubt(key, now)
    elif name:
        doubt, person = "Nobody has shown whose key signed this: a PIN typed without the network was not confirmed.", None
    elif person is None:
        doubt = "This was done before actions were signed, so nobody can say by whom."
    elif person != session_person:
        raise Refusal(
            message("This was not signed, and somebody else is signed in"),
            "text/person",
            remedy=message("Its person signs in"),
            code="not_yours",
        )
    whose = house if house is not None else session_house
    if whose is None:
        raise Refusal(message("This says no house"), "text/house", code="missing")
    membership = membership_of(person, whose) if person is not None else None
    return Proved(said.id, said.kind, said.subject, whose, said.body, signed, key, person, membership, doubt)
