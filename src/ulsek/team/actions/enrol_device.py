"""Enrol a device for a house, and revoke it."""

from __future__ import annotations

import secrets
from uuid import UUID

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member
from ..action import action
from ..enrolled import digest
from ..models import Device, SignIn, SigningKey
from ..sessions import end

MOST = 200


@action(receipt=False)
def enrol_device(member: Member, name: str) -> tuple[Device, str]:
    """Returns a new device of the house, and its secret, of which only a hash is stored. Raises Refusal for an empty name and after `MOST` devices."""
    named = free_text(name, "name", 60)
    if not named:
        raise Refusal(message("The device has no name"), "name", remedy=message("Name it by where it stands: bench tablet"), code="missing")
    if Device.objects.filter(house=member.house, revoked_at=None).count() >= MOST:
        raise Refusal(
            message("There are too many devices"),
            "name",
            message("at most {most}", most=MOST),
            message("Revoke those that are gone"),
            "out_of_bounds",
        )
    secret = secrets.token_urlsafe(32)
    device = Device.objects.create(
        house=member.house, name=named, secret=digest(secret), enrolled_by=member.person, enrolled_at=timezone.now()
    )
    if member.sign_in:
        # The session in which it is enrolled runs on it from now on.
        SignIn.objects.filter(pk=member.sign_in).update(device=device)
    member.wrote("enrol_device", named, device=str(device.pk))
    return device, secret


@action(receipt=False)
def revoke_device(member: Member, device_id: UUID) -> Device:
    """Ends every session on a device of the house, revokes its keys and returns it. Actions they signed that arrive later are held for a lead."""
    device = get_object_or_404(Device, pk=device_id, house=member.house)
    if device.revoked_at is None:
        device.revoked_at = timezone.now()
        device.save(update_fields=["revoked_at"])
        end(SignIn.objects.filter(device=device), SignIn.Ended.ELSEWHERE)
        SigningKey.objects.filter(sign_in__device=device, revoked_at=None).update(revoked_at=device.revoked_at)
        member.wrote("revoke_device", device.name, device=str(device.pk))
    return device
