"""Checks passwords: new ones, and the one that a person types again."""

from __future__ import annotations

from django.contrib.auth.hashers import check_password
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from ninja.errors import HttpError

from ulsek.core.base.messages import message, verbatim
from ulsek.core.base.refusals import Refusal

from .hashers import a_turn
from .models import Person

MOST = 200


def checked_password(password: str, person: Person) -> str:
    """Returns a new password of a person. Raises Refusal for one that is too weak or longer than `MOST` [letters]."""
    try:
        validate_password(password, person)
    except ValidationError as refused:
        raise Refusal(verbatim(refused.messages[0].rstrip(".")), "password", remedy=message("Take a longer one"), code="too_weak") from None
    if len(password) > MOST:
        raise Refusal(message("The password is too long"), "password", message("at most {most} letters", most=MOST), code="out_of_bounds")
    return password


def must_know(person: Person, password: str) -> None:
    """Raises HttpError 403 unless the password is the person's, and TooMany."""
    with a_turn():
        right = check_password(password, person.password)
    if not right:
        raise HttpError(403, "That is not your password.")
