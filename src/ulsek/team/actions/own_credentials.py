"""Set one's own password or PIN, and set a password by a lead's one-time code."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.db.models import F
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja.errors import HttpError

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member, membership_of
from ..action import action
from ..models import Membership, OneTimeCode, Person, Role, SignIn
from ..passwords import checked_password, must_know
from ..pins import hashed
from ..sessions import end
from ..spoken_codes import as_typed, spoken_code

CODE_AGE = timedelta(hours=24)
MOST_WRONG = 5
_CODE_LETTERS = 10


@action(receipt=False)
def change_password(member: Member, old: str, new: str) -> Person:
    """Sets a new password, ends the person's other sessions and revokes their keys. Raises HttpError 403 for a wrong old password, Refusal for a weak new one."""
    must_know(member.person, old)
    person = member.person
    person.set_password(checked_password(new, person))
    person.save(update_fields=["password"])
    others = SignIn.objects.filter(person=person)
    end(others.exclude(pk=member.sign_in) if member.sign_in else others, SignIn.Ended.ELSEWHERE)
    member.wrote("change_password", person.display_name)
    return person


@action(receipt=False)
def set_pin(member: Member, password: str, pin: str) -> Person:
    """Sets the PIN for enrolled devices; an empty one removes it. Raises HttpError 403 for a wrong password, Refusal for a PIN that is easily guessed."""
    must_know(member.person, password)
    person = member.person
    person.pin = hashed(pin) if pin else ""
    person.save(update_fields=["pin"])
    member.wrote("set_pin" if pin else "drop_pin", person.display_name)
    return person


@action(receipt=False)
def issue_code(member: Member, person_id: int) -> str:
    """Returns a code of ten letters with which a person of the house can set a new password once within `CODE_AGE`. It replaces an earlier code.

    Raises Refusal if the person also works in a house that this lead does not lead, because the code would give access to that house.
    """
    person = get_object_or_404(Membership.objects.select_related("person"), house=member.house, person=person_id).person
    led = Membership.objects.filter(person=member.person, role=Role.LEAD).values_list("house", flat=True)
    if Membership.objects.filter(person=person).exclude(house__in=list(led)).exists():
        raise Refusal(
            message("{person} works in another house too", person=person.display_name),
            "person",
            remedy=message("Ask whoever runs Ulsek: manage.py one_time_code"),
            code="elsewhere",
        )
    code = fresh_code(person, member.person)
    member.wrote("issue_code", person.display_name)
    return code


def fresh_code(person: Person, by: Person) -> str:
    """Makes a one-time code for a person, stores its hash and returns the code."""
    code = spoken_code(1, _CODE_LETTERS)
    OneTimeCode.objects.update_or_create(
        person=person, defaults={"code": make_password(code), "by": by, "expires_at": timezone.now() + CODE_AGE, "wrong": 0}
    )
    return code


def use_code(name: str, code: str, password: str) -> Person:
    """Sets a new password for the person who has this name and one-time code, and returns them. Raises HttpError 401 for any other, and after `MOST_WRONG` codes."""
    no = HttpError(401, "Name and code do not match, or the code is older than a day. Ask your lead for another.")
    kept = OneTimeCode.objects.select_related("person").filter(person__username=name, expires_at__gt=timezone.now()).first()
    # Counted before it is looked at: codes tried at once are that many tries.
    if kept is None or not OneTimeCode.objects.filter(pk=kept.pk, wrong__lt=MOST_WRONG).update(wrong=F("wrong") + 1):
        raise no
    membership = membership_of(kept.person_id)
    if membership is None or not check_password(as_typed(code), kept.code):
        raise no
    # The right code: a password that is too short may be typed again.
    OneTimeCode.objects.filter(pk=kept.pk).update(wrong=0)
    return _set_by_code(Member(kept.person, membership.house, membership.role), password)


@action(receipt=False)
def _set_by_code(member: Member, password: str) -> Person:
    person = member.person
    person.set_password(checked_password(password, person))
    person.save(update_fields=["password"])
    OneTimeCode.objects.filter(person=person).delete()
    end(SignIn.objects.filter(person=person, ended_at=None), SignIn.Ended.ELSEWHERE)
    member.wrote("use_code", person.display_name)
    return person
