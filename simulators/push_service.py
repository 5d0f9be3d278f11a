"""A stand-in for a push service (RFC 8030) and for the devices that listen there: it holds their keys, checks who sends (RFC 8292), and opens what is sent (RFC 8291)."""

from __future__ import annotations

import argparse
import json
import os
import threading
import time
from base64 import urlsafe_b64decode, urlsafe_b64encode
from collections import defaultdict
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import ClassVar
from uuid import uuid4

import http_ece
from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.asymmetric.utils import encode_dss_signature
from cryptography.hazmat.primitives.hashes import SHA256
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat

MOST_KEPT, MOST_BYTES = 100, 4096
_DAY_S = 86_400


def written(data: bytes) -> str:
    """Returns bytes as base64url without padding."""
    return urlsafe_b64encode(data).rstrip(b"=").decode()


def read(text: str) -> bytes:
    """Returns the bytes of base64url without padding. Raises ValueError for anything else."""
    return urlsafe_b64decode(text + "=" * (-len(text) % 4))


class Device:
    """A browser's side of a subscription: its key pair and its secret."""

    def __init__(self) -> None:
        self.private, self.auth = ec.generate_private_key(ec.SECP256R1()), os.urandom(16)

    @property
    def keys(self) -> dict[str, str]:
        """What the browser gives to whoever may send."""
        point = self.private.public_key().public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
        return {"p256dh": written(point), "auth": written(self.auth)}

    def opened(self, body: bytes) -> str:
        """Returns what was sent. Raises ValueError and http_ece.ECEException for what was not encrypted for this device."""
        return str(http_ece.decrypt(body, private_key=self.private, auth_secret=self.auth, version="aes128gcm").decode())


def doubt(said: str, audience: str, now: float) -> str:
    """Returns what is wrong with an `Authorization` of a sender, in words; empty if it proves who sends."""
    try:
        scheme, parts = said.split(" ", 1)
        told = dict(part.strip().split("=", 1) for part in parts.split(","))
        head, claims, signature = told["t"].split(".")
        raw = read(signature)
        proof = encode_dss_signature(int.from_bytes(raw[:32], "big"), int.from_bytes(raw[32:], "big"))
        key = ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), read(told["k"]))
        key.verify(proof, f"{head}.{claims}".encode(), ec.ECDSA(SHA256()))
        stands = json.loads(read(claims))
        if scheme != "vapid" or json.loads(read(head)).get("alg") != "ES256":
            return "it is no vapid"
        if stands["aud"] != audience:
            return f"it is for {stands['aud']}"
        if not now < stands["exp"] <= now + _DAY_S:
            return "it is past its time, or lasts too long"
        return "" if str(stands.get("sub", "")).startswith(("mailto:", "https:")) else "nobody can be asked about it"
    except (ValueError, KeyError, TypeError):
        return "it cannot be read"
    except InvalidSignature:
        return "it is not signed by its key"


class PushService(BaseHTTPRequestHandler):
    """POST /subscriptions makes a device; POST /push/ID keeps a message for its TTL; GET /push/ID hands over, opened, what waits; DELETE /push/ID ends the subscription
    (410 from then on).
    """

    devices: ClassVar[dict[str, Device]] = {}
    kept: ClassVar[dict[str, list[dict[str, object]]]] = defaultdict(list)
    gone: ClassVar[set[str]] = set()
    lock: ClassVar[threading.Lock] = threading.Lock()

    def _answer(self, status: int, said: object = None) -> None:
        body = b"" if said is None else json.dumps(said).encode()
        self.send_response(status)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    @property
    def _here(self) -> str:
        return f"http://127.0.0.1:{self.server.server_address[1]}"  # type: ignore[index]

    def do_POST(self) -> None:
        """Makes a device, or keeps a message for one; a message of the same topic takes the place of the one before."""
        size = int(self.headers.get("Content-Length") or 0)
        body = self.rfile.read(min(size, MOST_BYTES + 1))
        if self.path == "/subscriptions":
            device, path = Device(), f"/push/{uuid4().hex}"
            self.devices[path] = device
            self._answer(201, {"endpoint": self._here + path, "keys": device.keys})
            return
        status, why, text = self._judged(body)
        if status != 201:
            self._answer(status, {"error": why})
            return
        topic = self.headers.get("Topic", "")
        until = time.time() + int(self.headers["TTL"])
        message = {"topic": topic, "urgency": self.headers.get("Urgency", "normal"), "until": until, "said": text}
        with self.lock:
            kept = [item for item in self.kept[self.path] if not topic or item["topic"] != topic]
            self.kept[self.path] = [*kept, message][-MOST_KEPT:]
        self._answer(201)

    def _judged(self, body: bytes) -> tuple[int, str, str]:
        """Returns the status of a message with why, and its text once it is opened."""
        ttl = self.headers.get("TTL", "")
        device = self.devices.get(self.path)
        if self.path in self.gone:
            return 410, "gone", ""
        if device is None:
            return 404, "nobody listens here", ""
        if not ttl.isdigit() or len(body) > MOST_BYTES or self.headers.get("Content-Encoding") != "aes128gcm":
            return 400, "TTL, size or encoding", ""
        if wrong := doubt(self.headers.get("Authorization", ""), self._here, time.time()):
            return 403, wrong, ""
        try:
            return 201, "", device.opened(body)
        except (ValueError, http_ece.ECEException):
            return 400, "not for this device", ""

    def do_GET(self) -> None:
        """What waits for this subscription, and is not too old."""
        with self.lock:
            found = [item for item in self.kept.pop(self.path, []) if float(str(item["until"])) > time.time()]
        self._answer(200, found)

    def do_DELETE(self) -> None:
        """Nobody listens here any more."""
        with self.lock:
            self.gone.add(self.path)
        self._answer(204)

    def log_message(self, *_words: object) -> None:
        """Says nothing."""


if __name__ == "__main__":
    words = argparse.ArgumentParser(description=__doc__)
    words.add_argument("--port", type=int, default=9717)
    ThreadingHTTPServer(("127.0.0.1", words.parse_args().port), PushService).serve_forever()
