"""The second factor: six digits of an authenticator (RFC 6238), or a recovery code, beside the password."""

from __future__ import annotations

import base64
import hashlib
import io
from urllib.parse import quote, urlencode

import segno
from django.db import transaction
from django_otp.models import Device
from django_otp.plugins.otp_static.models import StaticDevice
from django_otp.plugins.otp_totp.models import TOTPDevice

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .models import Person
from .spoken_codes import as_typed, spoken_code

RECOVERY_CODES = 8
"""How many recovery codes are made at a time [count]."""
_GROUPS, _GROUP = 2, 5
_ISSUER = "Ulsek"


class CodeWanted(Exception):
    """Raised if a password was right and the person's authenticator is asked for; `wrong` if a code was given and is not right."""

    def __init__(self, *, wrong: bool) -> None:
        self.wrong = wrong
        self.text = (
            "That is not the code, or it was used a moment ago. Wait for the next one, or take a recovery code."
            if wrong
            else "Type the six digits of your authenticator, or a recovery code."
        )
        super().__init__(self.text)


def has_authenticator(person: Person) -> bool:
    """Returns True if a person's sign-in asks for an authenticator."""
    return bool(TOTPDevice.objects.filter(user=person, confirmed=True).exists())


def check_second(person: Person, code: str) -> None:
    """Raises CodeWanted if the person has an authenticator and `code` is neither its digits now nor an unused recovery code. After a wrong code every code is
    refused for a time that doubles with each failure [1 s, 2 s, 4 s …].
    """
    if not has_authenticator(person):
        return
    said = as_typed(code)
    if not said:
        raise CodeWanted(wrong=False)
    kind: type[Device] = TOTPDevice if said.isdecimal() else StaticDevice
    with transaction.atomic():
        # Locked: the same code, sent twice at once, is taken once.
        device = kind.objects.select_for_update().filter(user=person, confirmed=True).first()
        right = device is not None and device.verify_is_allowed()[0] and device.verify_token(said if said.isdecimal() else _kept(said))
    if not right:
        raise CodeWanted(wrong=True)


def _kept(code: str) -> str:
    """Returns what is stored of a recovery code: the first 64 bits of its SHA-256 in hex. The code has 49 random bits and is tried slowly."""
    return hashlib.sha256(code.encode()).hexdigest()[:16]


def begun_authenticator(person: Person) -> tuple[str, str]:
    """Stores a new authenticator that does not count yet, and returns (its secret in base32, a picture of it as SVG)."""
    TOTPDevice.objects.filter(user=person, confirmed=False).delete()
    secret = _base32(TOTPDevice.objects.create(user=person, name=_ISSUER, confirmed=False))
    label = quote(f"{_ISSUER}:{person.username}")
    picture = io.BytesIO()
    segno.make(f"otpauth://totp/{label}?{urlencode({'secret': secret, 'issuer': _ISSUER})}", error="m").save(
        picture, kind="svg", scale=5, border=2, xmldecl=False, svgclass=None, lineclass=None
    )
    return secret, picture.getvalue().decode()


def _base32(device: TOTPDevice) -> str:
    return base64.b32encode(device.bin_key).decode().rstrip("=")


def shown_right(person: Person, code: str) -> TOTPDevice:
    """Returns the unconfirmed authenticator of a person if `code` is its current six digits. Raises Refusal for other digits, after a wait that doubles with each
    failure, and if the person has no unconfirmed one.
    """
    device = TOTPDevice.objects.filter(user=person, confirmed=False).first()
    if device is None:
        raise Refusal(message("No authenticator was begun"), "code", remedy=message("Begin anew"), code="missing")
    if not device.verify_is_allowed()[0] or not device.verify_token(as_typed(code)):
        raise Refusal(
            message("Those are not its digits now"),
            "code",
            remedy=message("Check the clock of that device, and type the next ones"),
            code="wrong_code",
        )
    return device


def recovery_codes(person: Person) -> list[str]:
    """Stores new recovery codes of a person in place of the earlier ones, as hashes, and returns them."""
    StaticDevice.objects.filter(user=person).delete()
    device = StaticDevice.objects.create(user=person, name="recovery")
    codes = [spoken_code(_GROUPS, _GROUP) for _ in range(RECOVERY_CODES)]
    device.token_set.bulk_create([device.token_set.model(device=device, token=_kept(as_typed(code))) for code in codes])
    return codes


def forget_authenticator(person: Person) -> None:
    """Takes a person's authenticator and recovery codes away, by whoever runs the machine."""
    with transaction.atomic():
        TOTPDevice.objects.filter(user=person).delete()
        StaticDevice.objects.filter(user=person).delete()
