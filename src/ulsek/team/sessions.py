"""Sessions: begun on a device, ended there or from elsewhere, and the keys that sign in them."""

from __future__ import annotations

import re
from datetime import datetime, timedelta

from django.contrib.auth import login
from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import QuerySet
from django.dispatch import Signal
from django.http import HttpRequest
from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .models import Device, House, Person, SignIn, SigningKey
from .signatures import read_public, thumbprint, to_text

switched = Signal()
"""Signal, sent inside the transaction when another person signs in on an enrolled device. Arguments: `before`, the id of the earlier SignIn; `after`, the new SignIn."""
BACKEND = "django.contrib.auth.backends.ModelBackend"
KEY_AGE = timedelta(days=30)
"""Validity of a signing key. Actions signed by an older key are held for a lead."""
MOST_KEYS = 20
"""Most keys of one session [count]: tabs that begin it at the same time make one each."""
CONFIRMED = timedelta(minutes=10)
"""How long a password confirmation lasts in a session that began with a PIN."""
SEEN_EVERY = timedelta(minutes=10)
_BROWSERS = (("Edg", "Edge"), ("Firefox", "Firefox"), ("Chrom", "Chromium"), ("Safari", "Safari"))
_SYSTEMS = (
    ("Android", "Android"),
    ("iPhone", "a phone"),
    ("iPad", "a tablet"),
    ("Windows", "Windows"),
    ("Mac OS", "macOS"),
    ("Linux", "Linux"),
)


def browser_of(request: HttpRequest) -> str:
    """Returns the browser and system of a request in words: “Firefox on Android”."""
    said = request.headers.get("User-Agent", "")
    name, system = (next((word for part, word in known if re.search(part, said)), "") for known in (_BROWSERS, _SYSTEMS))
    return f"{name or 'A browser'} on {system}" if system else (name or "A browser")


def begin(request: HttpRequest, person: Person, house: House, device: Device | None, *, by_pin: bool = False) -> SignIn:
    """Signs a person in on the browser that sent the request and returns the new SignIn. An earlier session of that browser is ended."""
    now = timezone.now()
    before = request.session.get("sign_in")
    with transaction.atomic():
        if before:
            end(SignIn.objects.filter(pk=before), SignIn.Ended.SWITCHED)
        # The session of the person before is gone with all that it held; the same person's would be carried over.
        request.session.flush()
        login(request, person, backend=BACKEND)
        row = SignIn.objects.create(
            house=house,
            person=person,
            device=device if device is not None and device.house_id == house.pk else None,
            session_key=request.session.session_key or "",
            browser=browser_of(request),
            started_at=now,
            seen_at=now,
            by_pin=by_pin,
        )
        request.session.update({"sign_in": str(row.pk), "house": house.pk, "by_pin": by_pin})
        request.session.save()
        if before and row.device_id is not None:
            switched.send(SignIn, before=before, after=row)
    return row


def end(rows: QuerySet[SignIn], how: SignIn.Ended) -> int:
    """Ends open sessions and returns how many [count]. If they are ended from elsewhere their keys are revoked: actions that arrive later are held for a lead."""
    now = timezone.now()
    found = list(rows.filter(ended_at=None))
    if how == SignIn.Ended.ELSEWHERE:
        # Also of a session that its own device has ended before: the key may still be in the wrong hands.
        SigningKey.objects.filter(sign_in__in=rows.values("pk"), revoked_at=None).update(revoked_at=now)
    SignIn.objects.filter(pk__in=[row.pk for row in found]).update(ended_at=now, ended=how)
    Session.objects.filter(session_key__in=[row.session_key for row in found if row.session_key]).delete()
    return len(found)


def seen(request: HttpRequest) -> None:
    """Notes that a session is in use, at most every `SEEN_EVERY`."""
    now = timezone.now()
    last = request.session.get("seen_at")
    if "sign_in" not in request.session or (last and now - datetime.fromisoformat(last) < SEEN_EVERY):
        return
    request.session["seen_at"] = now.isoformat()
    SignIn.objects.filter(pk=request.session["sign_in"]).update(seen_at=now)


def keep_key(sign_in: SignIn, public: str) -> SigningKey:
    """Stores a session's public key and returns its row. Raises Refusal if it is not a point of P-256, or if the session has `MOST_KEYS` already."""
    point = read_public(public)
    if sign_in.keys.count() >= MOST_KEYS:
        raise Refusal(
            message("This session has too many keys"),
            "public",
            message("at most {most}", most=MOST_KEYS),
            message("Sign out and in again"),
            "out_of_bounds",
        )
    now = timezone.now()
    key, _ = SigningKey.objects.get_or_create(
        pk=thumbprint(point),
        defaults={"sign_in": sign_in, "public": to_text(point), "made_at": now, "expires_at": now + KEY_AGE},
    )
    return key
