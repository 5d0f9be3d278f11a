"""The codes that lead to a seat: a link of 128 bits and eight letters, both of which follow from the panel's seed, and the secret of each seat."""

from __future__ import annotations

import base64
import hashlib
import hmac
import secrets
from datetime import datetime, timedelta

from django.conf import settings
from django.http import HttpRequest
from ninja.errors import HttpError

from ulsek.team.spoken_codes import LETTERS, code_digest

from .models import Panel, WrongCode

_LINK_BYTES, _GROUPS, _GROUP = 16, 2, 4
MOST_WRONG = 8
"""Wrong codes from one address in `WITHIN`; after them none is looked at until some of them are older."""
WITHIN = timedelta(minutes=15)


def _derived(seed: str, purpose: str) -> bytes:
    return hmac.new(settings.SECRET_KEY.encode(), f"ulsek.tasting {purpose} {seed}".encode(), hashlib.sha256).digest()


def link_token(seed: str) -> str:
    """Returns the 128 bits of a panel's link in base64url, 22 letters."""
    return base64.urlsafe_b64encode(_derived(seed, "link")[:_LINK_BYTES]).decode().rstrip("=")


def letters(seed: str) -> str:
    """Returns the eight letters of a panel, in two groups: 39 random bits, typed by hand while it is open."""
    drawn = _derived(seed, "letters")
    # Eight bytes a letter: the remainder favours none of 31 letters by more than one in 10^18.
    picked = hashlib.shake_256(drawn).digest(8 * _GROUPS * _GROUP)
    chosen = [LETTERS[int.from_bytes(picked[at : at + 8]) % len(LETTERS)] for at in range(0, len(picked), 8)]
    return "-".join("".join(chosen[at : at + _GROUP]) for at in range(0, len(chosen), _GROUP))


def link_of(panel: Panel) -> str:
    """Returns the address that leads to a seat of an open panel. What stands after the # is never sent with the page's own request, so that no log holds it."""
    return f"{settings.BASE_ADDRESS}/taste/seat#{link_token(panel.seed)}"


def link_digest(token: str) -> str:
    """Returns the SHA-256 of a link's token in hex. It has 128 random bits, so it needs no slow hash."""
    return hashlib.sha256(token.strip().encode()).hexdigest()


def digests(code: str) -> tuple[str, str]:
    """Returns the digests of a typed code as a link and as letters."""
    return link_digest(code), code_digest(code)


def new_secret() -> tuple[str, str]:
    """Returns a new secret of a seat, and its digest."""
    secret = secrets.token_urlsafe(32)
    return secret, link_digest(secret)


def address_of(request: HttpRequest) -> str:
    """Returns the IP address that a request came from: behind our own proxy the one that the proxy names; empty if there is none."""
    return str(request.META.get("REMOTE_ADDR", ""))[:45]


def check_tries(address: str, now: datetime) -> None:
    """Raises HttpError 429 after too many wrong codes from an address."""
    if WrongCode.objects.filter(address=address, at__gt=now - WITHIN).count() >= MOST_WRONG:
        raise HttpError(429, "Too many wrong codes from this device. Ask for the link, or wait a quarter of an hour.")
