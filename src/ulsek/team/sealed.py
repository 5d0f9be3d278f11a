"""What a device seals for this site alone: a PIN typed without the network, kept on the device until the site can check it.

ECIES: an ephemeral P-256 key agrees with the site's on a secret (SP 800-56A), HKDF-SHA256 makes of it an AES-256-GCM key. The site's key follows from
ULSEK_SECRET_KEY, so that every process has it and nothing is stored.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.ciphers.aead import AESGCM
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from django.conf import settings

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .signatures import POINT_BYTES, to_bytes, to_text

_ORDER = 0xFFFFFFFF00000000FFFFFFFFFFFFFFFFBCE6FAADA7179E84F3B9CAC2FC632551
"""The order of P-256 (SP 800-186, 3.2.1.3)."""
_IV_BYTES = 12


def _derived(secret: bytes, info: bytes, length: int) -> bytes:
    return HKDF(algorithm=hashes.SHA256(), length=length, salt=None, info=info).derive(secret)


@cache
def _private() -> ec.EllipticCurvePrivateKey:
    # 48 bytes make the remainder even to 2^-128 (FIPS 186-5, A.2.1).
    wide = int.from_bytes(_derived(settings.SECRET_KEY.encode(), b"ulsek sealing key", 48))
    return ec.derive_private_key(wide % (_ORDER - 1) + 1, ec.SECP256R1())


def sealing_key() -> str:
    """Returns the site's public key as base64url of its uncompressed point. Devices encrypt with it what only the site may read."""
    encoding, form = serialization.Encoding.X962, serialization.PublicFormat.UncompressedPoint
    return to_text(_private().public_key().public_bytes(encoding, form))


@dataclass(frozen=True)
class SealedPin:
    """A PIN typed without the network: on which device [id], for which signing key [thumbprint], by which person [id]."""

    device: str
    key: str
    person: int
    pin: str


def opened(text: str) -> SealedPin:
    """Returns the PIN that a device sealed. Raises Refusal if the text was not sealed for this site, was changed, or holds anything else."""
    raw = to_bytes(text, "sealed")
    point, iv, body = raw[:POINT_BYTES], raw[POINT_BYTES : POINT_BYTES + _IV_BYTES], raw[POINT_BYTES + _IV_BYTES :]
    try:
        shared = _private().exchange(ec.ECDH(), ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), point))
        found = json.loads(AESGCM(_derived(shared, b"ulsek sealed", 32)).decrypt(iv, body, None))
    except (ValueError, InvalidTag):
        found = None
    names = ("device", "key", "pin")
    if not isinstance(found, dict) or type(found.get("person")) is not int or not all(isinstance(found.get(name), str) for name in names):
        raise Refusal(message("That was not sealed for this site"), "sealed", remedy=message("Type the PIN again"), code="unreadable")
    return SealedPin(found["device"], found["key"], found["person"], found["pin"])
