"""Web push: who the site is to a push service (VAPID, RFC 8292), what is sent encrypted for one device (RFC 8291), and to which addresses anything is sent at all."""

from __future__ import annotations

import hashlib
import hmac
import http.client
import ipaddress
import json
import re
import socket
import ssl
import time
from base64 import urlsafe_b64decode, urlsafe_b64encode
from dataclasses import asdict, dataclass
from functools import cache
from urllib.parse import SplitResult, urlsplit

from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from django.conf import settings
from py_vapid import Vapid02

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

TTL_S = 4 * 3600
_WAIT_S = 3.0
_TOKEN_S = 3600
_LINE = re.compile(r"[!-~]{1,300}")
"""Visible letters of ASCII: what a request line can carry."""
_ORDER = 0xFFFFFFFF00000000FFFFFFFFFFFFFFFFBCE6FAADA7179E84F3B9CAC2FC632551
"""The order of P-256 (FIPS 186-4, D.1.2.3)."""


@dataclass(frozen=True)
class Alert:
    """What a device shows: a title, a line, and the path that a touch leads to."""

    title: str
    body: str
    path: str


@dataclass(frozen=True)
class Subscription:
    """A device at its push service: its address, its public key (`p256dh`) and its secret (`auth`), both base64url as the browser gives them."""

    endpoint: str
    p256dh: str
    auth: str


@cache
def _keys(secret: str) -> Vapid02:
    """Returns the site's key pair. It follows from the secret key, so that a restored backup has it too and nothing more is stored."""
    drawn = int.from_bytes(hmac.new(secret.encode(), b"ulsek.vapid", hashlib.sha512).digest(), "big")
    return Vapid02(ec.derive_private_key(drawn % (_ORDER - 1) + 1, ec.SECP256R1()))


def public_key() -> str:
    """Returns the site's public key for `PushManager.subscribe`: the uncompressed point, base64url."""
    point = _keys(settings.SECRET_KEY).public_key.public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
    return urlsafe_b64encode(point).rstrip(b"=").decode()


def _bytes(text: str) -> bytes:
    return urlsafe_b64decode(text + "=" * (-len(text) % 4))


def _is_stand_in(where: SplitResult) -> bool:
    """Returns True for the one service that the operator allows besides those of the public network."""
    allowed = urlsplit(settings.PUSH_SERVICE)
    return (
        bool(settings.PUSH_SERVICE) and (where.scheme, where.netloc) == (allowed.scheme, allowed.netloc) and where.path.startswith("/push/")
    )


def _numbers(host: str, port: int) -> list[str]:
    """Returns the addresses of a host. Raises OSError if it has none."""
    return [str(found[4][0]) for found in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)]


def reached_at(endpoint: str) -> tuple[SplitResult, str]:
    """Returns a push address in its parts, and the number at which its host is reached.

    Raises Refusal for what a request line cannot carry, for an address without TLS, and for a host of a private network, of this machine, or of none: nobody makes
    the site knock at a door of the house's own network.
    """
    refused = Refusal(
        message("This is no address of a push service"),
        "endpoint",
        message("https, at a host of the public network"),
        message("Allow alerts in the browser anew"),
        "unreadable",
    )
    try:
        where = urlsplit(endpoint)
        host, port = where.hostname or "", where.port
    except ValueError:
        raise refused from None
    if not _LINE.fullmatch(endpoint) or not host:
        raise refused
    if _is_stand_in(where):
        return where, host
    if where.scheme != "https" or port not in (None, 443):
        raise refused
    try:
        numbers = _numbers(host, 443)
    except OSError:
        raise Refusal(
            message("The push service of this browser cannot be found from here"),
            "endpoint",
            remedy=message("Does this site reach the internet? Alerts go through the browser's own service"),
            code="lost",
        ) from None
    if not numbers or not all(ipaddress.ip_address(number).is_global for number in numbers):
        raise refused
    return where, numbers[0]


def _with_keys(said: Subscription) -> Subscription:
    """Returns a subscription whose keys something can be encrypted for. Raises Refusal for keys that are none."""
    try:
        ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), _bytes(said.p256dh))
        fits = len(_bytes(said.auth)) == 16
    except ValueError:
        fits = False
    if not fits:
        raise Refusal(
            message("The keys of this device cannot be read"), "keys", remedy=message("Allow alerts in the browser anew"), code="unreadable"
        )
    return said


def checked(said: Subscription) -> Subscription:
    """Returns a subscription that something can be sent to. Raises Refusal for its address as `reached_at`, and for keys that are none."""
    reached_at(said.endpoint)
    return _with_keys(said)


class _At(http.client.HTTPSConnection):
    """A connection over TLS to a host at a number that was checked: the name is not asked for a second time, when it might mean another machine."""

    def __init__(self, host: str, number: str) -> None:
        super().__init__(host, 443, timeout=_WAIT_S, context=ssl.create_default_context())
        self._number = number

    def connect(self) -> None:
        line = socket.create_connection((self._number, self.port), self.timeout)
        self.sock = self._context.wrap_socket(line, server_hostname=self.host)  # type: ignore[attr-defined]


def push(to: Subscription, topic: str, alert: Alert) -> int:
    """Sends an alert, encrypted for one device, and returns the status of the service; 0 if it cannot be reached, and for an address that nothing is sent to."""
    # It brings a client for HTTP of its own, which the site's other programs need not load.
    from pywebpush import WebPusher

    try:
        where, number = reached_at(_with_keys(to).endpoint)
        sealed = WebPusher({"endpoint": to.endpoint, "keys": {"p256dh": to.p256dh, "auth": to.auth}}).encode(
            json.dumps(asdict(alert)).encode()
        )
    except Refusal:
        return 0
    claims = {"aud": f"{where.scheme}://{where.netloc}", "exp": int(time.time()) + _TOKEN_S, "sub": settings.PUSH_CONTACT}
    headers = {
        "TTL": str(TTL_S),
        "Urgency": "high",
        # At most 32 letters of the URL-safe alphabet (RFC 8030, 5.4): a newer alert takes the place of an unread one.
        "Topic": re.sub(r"[^\w-]", "", topic, flags=re.ASCII)[:32],
        "Content-Encoding": "aes128gcm",
        "Content-Type": "application/octet-stream",
        **_keys(settings.SECRET_KEY).sign(claims),
    }
    line = _At(where.hostname or "", number) if where.scheme == "https" else http.client.HTTPConnection(number, where.port, timeout=_WAIT_S)
    try:
        line.request("POST", where.path + (f"?{where.query}" if where.query else ""), sealed["body"], headers)
        return line.getresponse().status
    except (OSError, http.client.HTTPException, ValueError):
        return 0
    finally:
        line.close()
