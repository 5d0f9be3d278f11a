"""Set up one's own authenticator, renew its recovery codes, and give it up."""

from __future__ import annotations

from django_otp.plugins.otp_totp.models import TOTPDevice

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal

from ..access import Member
from ..action import action
from ..authenticators import begun_authenticator, forget_authenticator, has_authenticator, recovery_codes


@action(receipt=False)
def begin_authenticator(member: Member) -> tuple[str, str]:
    """Creates an unconfirmed authenticator (RFC 6238); returns (its secret in base32, a QR code of it as SVG). It is asked for at sign-in only once confirmed."""
    return begun_authenticator(member.person)


@action(receipt=False)
def set_authenticator(member: Member, device: TOTPDevice) -> list[str]:
    """Makes a begun authenticator count, in place of an earlier one, and returns recovery codes, which are not stored."""
    TOTPDevice.objects.filter(user=member.person).exclude(pk=device.pk).delete()
    device.confirmed = True
    device.save()
    codes = recovery_codes(member.person)
    member.wrote("set_authenticator", member.person.display_name)
    return codes


@action(receipt=False)
def renew_recovery_codes(member: Member) -> list[str]:
    """Returns new recovery codes in place of the earlier ones. Raises Refusal without an authenticator."""
    if not has_authenticator(member.person):
        raise Refusal(message("You have no authenticator"), "password", remedy=message("Set one up first"), code="missing")
    member.wrote("renew_recovery_codes", member.person.display_name)
    return recovery_codes(member.person)


@action(receipt=False)
def drop_authenticator(member: Member) -> None:
    """Takes the member's authenticator and recovery codes away: signing in takes the password alone."""
    forget_authenticator(member.person)
    member.wrote("drop_authenticator", member.person.display_name)
