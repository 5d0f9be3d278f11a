"""PINs: six digits that change the person on an enrolled device."""

from __future__ import annotations

import re

from django.contrib.auth.hashers import check_password, make_password
from django.db.models import F

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from .hashers import a_turn
from .models import Device, Person, PinTries

MOST_WRONG = 5
"""Wrong PINs in a row [count] after which a person must use the password on that device."""
_PIN = re.compile(r"[0-9]{6}")
_STEPS = ("01234567890", "09876543210")


class WrongPin(Exception):
    """Raised for a wrong PIN; `left` is the number of tries left on this device [count]."""

    def __init__(self, left: int) -> None:
        self.left = left
        self.text = (
            f"That is not the PIN. {left} {'try' if left == 1 else 'tries'} left."
            if left
            else "Five wrong PINs on this device: sign in with your password."
        )
        super().__init__(self.text)


def hashed(pin: str) -> str:
    """Returns the argon2 hash of a PIN. Raises Refusal unless it is six digits, and for repeated or consecutive digits."""
    if not _PIN.fullmatch(pin):
        raise Refusal(message("A PIN is six digits"), "pin", code="unreadable")
    if len(set(pin)) == 1 or any(pin in steps for steps in _STEPS) or pin[:3] == pin[3:] or pin[:2] * 3 == pin:
        raise Refusal(message("That PIN is guessed at once"), "pin", remedy=message("Take six digits without a pattern"), code="too_weak")
    return make_password(pin)


def check_pin(person: Person, device: Device, pin: str) -> None:
    """Raises WrongPin if this is not the person's PIN, or if too many were tried on this device."""
    row, _ = PinTries.objects.get_or_create(device=device, person=person)
    # Counted before it is looked at: a hundred guesses sent at once are a hundred tries.
    if not person.pin or not PinTries.objects.filter(pk=row.pk, wrong__lt=MOST_WRONG).update(wrong=F("wrong") + 1):
        raise WrongPin(0)
    with a_turn():
        right = check_password(pin, person.pin)
    if not right:
        row.refresh_from_db()
        raise WrongPin(max(0, MOST_WRONG - row.wrong))
    forgive(person, device)


def forgive(person: Person, device: Device) -> None:
    """Sets the count of a person's wrong PINs on a device back to 0."""
    PinTries.objects.filter(device=device, person=person).update(wrong=0)
