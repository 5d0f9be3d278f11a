"""Recognises enrolled devices by a secret in an HttpOnly cookie."""

from __future__ import annotations

import hashlib
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare

from .models import Device

COOKIE = "ulsek_enrolled"
AGE_S = 400 * 24 * 3600
"""Age of the cookie [s]: the longest that browsers accept."""


class NotEnrolled(Exception):
    """Raised when an operation needs an enrolled device, and the device is not enrolled or has been revoked."""

    text = "This device is not enrolled for a house. Sign in with your name and password."


def digest(secret: str) -> str:
    """Returns the SHA-256 of a device's secret in hex. The secret has 256 random bits, so it needs no slow hash."""
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
    """Returns the enrolled device that sent a request; None if it is not enrolled or has been revoked."""
    key, _, secret = request.COOKIES.get(COOKIE, "").partition(".")
    try:
        found = Device.objects.select_related("house").filter(pk=UUID(key), revoked_at=None).first()
    except ValueError:
        return None
    return found if found is not None and constant_time_compare(digest(secret), found.secret) else None
