"""Signatures of devices: ECDSA over P-256 with SHA-256 (FIPS 186-5), as browsers make them (Web Cryptography API, 23)."""

from __future__ import annotations

import hashlib
from base64 import urlsafe_b64decode, urlsafe_b64encode
from datetime import datetime
from typing import TypedDict
from uuid import UUID

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.asymmetric.utils import encode_dss_signature
from django.core import signing

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .models import Device, House, Person, SignIn, SigningKey

_SALT = "ulsek.signing-key"
POINT_BYTES, SIGNATURE_BYTES = 65, 64
"""An uncompressed point of the curve [bytes]; r and s, 32 bytes each."""


def to_text(data: bytes) -> str:
    """Returns bytes as base64url without padding (RFC 4648, 5)."""
    return urlsafe_b64encode(data).decode().rstrip("=")


def to_bytes(text: str, where: str, length: int | None = None) -> bytes:
    """Returns the bytes of a base64url text. Raises Refusal if it is not base64url, or not `length` [bytes] long."""
    try:
        found = urlsafe_b64decode(text + "=" * (-len(text) % 4))
    except ValueError:
        found = b""
    if not found or to_text(found) != text or (length is not None and len(found) != length):
        raise Refusal(
            message("That cannot be read"),
            where,
            message("base64url of {n} bytes", n=length) if length else message("base64url of some bytes"),
            code="unreadable",
        )
    return found


def read_public(text: str) -> bytes:
    """Returns the point of a public key. Raises Refusal if the text is not a point of P-256."""
    point = to_bytes(text, "public", POINT_BYTES)
    try:
        ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), point)
    except ValueError:
        raise Refusal(message("This is no public key"), "public", message("an uncompressed point of P-256"), code="unreadable") from None
    return point


def thumbprint(point: bytes) -> str:
    """Returns the id of a key: the base64url SHA-256 of its point."""
    return to_text(hashlib.sha256(point).digest())


def is_signed(public: str, text: str, signature: str) -> bool:
    """Returns True if `signature` is the key's signature of the UTF-8 bytes of `text`."""
    try:
        raw = to_bytes(signature, "signature", SIGNATURE_BYTES)
    except Refusal:
        return False
    half = SIGNATURE_BYTES // 2
    encoded = encode_dss_signature(int.from_bytes(raw[:half]), int.from_bytes(raw[half:]))
    key = ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), read_public(public))
    try:
        key.verify(encoded, text.encode(), ec.ECDSA(hashes.SHA256()))
    except InvalidSignature:
        return False
    return True


class _Certificate(TypedDict):
    """Content of a certificate: the key, and the session that it belongs to. Times are in ISO 8601."""

    public: str
    sign_in: str
    person: int
    house: int
    device: str | None
    by_pin: bool
    made_at: str
    expires_at: str


def certificate(key: SigningKey) -> str:
    """Returns a key and its session, signed by the site. The device keeps it, so that a database restored to an earlier moment can accept the key again."""
    of = key.sign_in
    said = _Certificate(
        public=key.public,
        sign_in=str(of.pk),
        person=of.person_id,
        house=of.house_id,
        device=str(of.device_id) if of.device_id else None,
        by_pin=of.by_pin,
        made_at=key.made_at.isoformat(),
        expires_at=key.expires_at.isoformat(),
    )
    return signing.dumps(said, salt=_SALT)


def certified(text: str) -> SigningKey | None:
    """Returns the key of a certificate, added to the database again if it is missing there. None if the certificate is not this site's, or names rows that are
    gone.
    """
    try:
        said: _Certificate = signing.loads(text, salt=_SALT)
    except signing.BadSignature:
        return None
    made, expires = datetime.fromisoformat(said["made_at"]), datetime.fromisoformat(said["expires_at"])
    rows = (Person.objects.filter(pk=said["person"]), House.objects.filter(pk=said["house"]))
    if not all(row.exists() for row in rows):
        return None
    device = Device.objects.filter(pk=said["device"]).first() if said["device"] else None
    sign_in, _ = SignIn.objects.get_or_create(
        pk=UUID(said["sign_in"]),
        defaults={
            "person_id": said["person"],
            "house_id": said["house"],
            "device": device,
            "by_pin": said["by_pin"],
            "started_at": made,
            "seen_at": made,
            "ended_at": made,
            "ended": SignIn.Ended.OUT,
        },
    )
    key, _ = SigningKey.objects.get_or_create(
        pk=thumbprint(read_public(said["public"])),
        defaults={"sign_in": sign_in, "public": said["public"], "made_at": made, "expires_at": expires},
    )
    return key
