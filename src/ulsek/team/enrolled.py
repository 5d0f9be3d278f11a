"""Which enrolled device asks: by a secret in a cookie that no script can read."""

from __future__ import annotations

import hashlib
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare

from .models import Device

COOKIE = "ulsek_enrolled"
AGE_S = 400 * 24 * 3600
"""As long as browsers keep a cookie at most."""


class NotEnrolled(Exception):
    """A device that is none of a house's, or is so no more, asks for what only such a one may."""

    text = "This device is not enrolled for a house. Sign in with your name and password."


def digest(secret: str) -> str:
    """What the database keeps of a device's secret: 256 random bits need no slow hash."""
    return hashlib.sha256(secret.encode()).hexdigest()


def hand_out(response: HttpResponse, device: Device, secret: str) -> None:
    """Puts the device's secret into the answer's cookie."""
    response.set_cookie(
        COOKIE,
        f"{device.pk}.{secret}",
        max_age=AGE_S,
        httponly=True,
        secure=settings.SESSION_COOKIE_SECURE,
        samesite="Lax",
        path="/api",
    )


def device_of(request: HttpRequest) -> Device | None:
    """The enrolled device that asks; None for any other, and once it is revoked."""
    key, _, secret = request.COOKIES.get(COOKIE, "").partition(".")
    try:
        found = Device.objects.select_related("house").filter(pk=UUID(key), revoked_at=None).first()
    except ValueError:
        return None
    return found if found is not None and constant_time_compare(digest(secret), found.secret) else None
