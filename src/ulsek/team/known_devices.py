"""Devices on which a person has signed in before. Wrong passwords tried elsewhere never lock a person out of these."""

from __future__ import annotations

import hashlib
from typing import Any
from uuid import uuid4

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse

COOKIE, _SALT = "ulsek_device", "ulsek.device"
AGE_S = 365 * 24 * 3600
TRIES, TRIES_KNOWN = 6, 30
"""Wrong passwords in a row that lock a name at one address; and on a device that knows this person, which are counted apart."""
_MOST_NAMES = 20


def _names(request: HttpRequest) -> tuple[str, list[str]]:
    """Returns the device's own id, and the sign-in names that it knows."""
    try:
        found = signing.loads(request.COOKIES.get(COOKIE, ""), salt=_SALT, max_age=AGE_S)
        return str(found["device"]), [str(name) for name in found["names"]]
    except (signing.BadSignature, KeyError, TypeError):
        return "", []


def remember(request: HttpRequest, response: HttpResponse, name: str) -> None:
    """Stores on the device, signed, that this person has signed in there."""
    device, names = _names(request)
    known = [name, *(other for other in names if other != name)][:_MOST_NAMES]
    value = signing.dumps({"device": device or uuid4().hex, "names": known}, salt=_SALT)
    response.set_cookie(
        COOKIE, value, max_age=AGE_S, httponly=True, secure=settings.SESSION_COOKIE_SECURE, samesite="Lax", path="/api/session"
    )


def _tried_name(request: HttpRequest) -> str:
    return str(getattr(request, "tried_name", ""))


def client_address(request: HttpRequest) -> str:
    """Returns the address by which wrong tries are counted: the client's; for a name on a device that knows it an address of that device (RFC 4193)."""
    device, names = _names(request)
    if device and _tried_name(request) in names:
        digest = hashlib.sha256(device.encode()).hexdigest()
        return "fd" + digest[:2] + "".join(f":{digest[n : n + 4]}" for n in range(2, 30, 4))
    return str(request.META.get("REMOTE_ADDR") or "0.0.0.0")  # noqa: S104 # an address that nobody has, not one to listen on


def failure_limit(request: HttpRequest, credentials: Any) -> int:
    """Returns how many wrong tries in a row lock this name here [count]."""
    del credentials
    return TRIES_KNOWN if _tried_name(request) in _names(request)[1] else TRIES
