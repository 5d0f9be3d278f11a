"""What a browser does with its keys, in Python: a key for a session, signed actions, a PIN sealed for the site."""

import json
import os
from base64 import urlsafe_b64encode
from datetime import UTC, datetime
from hashlib import sha256

from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.asymmetric.utils import decode_dss_signature
from cryptography.hazmat.primitives.ciphers.aead import AESGCM
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat


def text_of(data):
    return urlsafe_b64encode(data).decode().rstrip("=")


def _point(key):
    return key.public_key().public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)


class Key:
    """A browser's key pair. `register` tells the site of it; then what it signs is its person's."""

    def __init__(self):
        self._private = ec.generate_private_key(ec.SECP256R1())
        self.public = text_of(_point(self._private))
        self.id = text_of(sha256(_point(self._private)).digest())
        self.certificate = ""
        self.person = self.house = None

    def register(self, api):
        answer = api.post("/session/key", {"public": self.public})
        assert answer.status_code == 200, answer.content
        assert answer.data["id"] == self.id
        self.certificate = answer.data["certificate"]
        session = api.get("/session").data
        self.person, self.house = session["person"], session["house_id"]
        return self

    def signature(self, text):
        r, s = decode_dss_signature(self._private.sign(text.encode(), ec.ECDSA(hashes.SHA256())))
        return text_of(r.to_bytes(32) + s.to_bytes(32))

    def signed(self, run, event, **other):
        """An event as a browser sends it: its text, exactly as it was signed, and the signature."""
        said = {
            "body": event,
            "format": "ulsek.action",
            "house": self.house,
            "id": event["id"],
            "key": self.id,
            "kind": "run_event",
            "person": self.person,
        }
        text = json.dumps({**said, "subject": run, "version": 1, **other}, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
        return {"text": text, "signature": self.signature(text), "certificate": self.certificate}


def sealed(site_key, **said):
    """What only the site reads: an ephemeral key agrees with the site's on a secret."""
    raw = site_key + "=" * (-len(site_key) % 4)
    from base64 import urlsafe_b64decode

    mine = ec.generate_private_key(ec.SECP256R1())
    shared = mine.exchange(ec.ECDH(), ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), urlsafe_b64decode(raw)))
    secret, iv = HKDF(algorithm=hashes.SHA256(), length=32, salt=None, info=b"ulsek sealed").derive(shared), os.urandom(12)
    return text_of(_point(mine) + iv + AESGCM(secret).encrypt(iv, json.dumps(said).encode(), None))


def carried(*actions, **more):
    return {"actions": list(actions), "now": datetime.now(UTC).isoformat(), **more}
