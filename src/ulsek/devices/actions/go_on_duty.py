"""Go on duty, so that alerts come to this device, or off duty."""

from __future__ import annotations

from uuid import UUID

from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.models import SignIn

from ..models import AlertAddress
from ..push import Subscription, checked


@action
def go_on_duty(member: Member, device: Subscription, *, on_duty: bool) -> AlertAddress:
    """Stores the push subscription of a device, and whether its person is on duty. Raises Refusal for an address or keys that nothing is sent to."""
    said = checked(device)
    kept, _ = AlertAddress.objects.update_or_create(
        endpoint=said.endpoint,
        defaults={
            "house": member.house,
            "person": member.person,
            "sign_in_id": member.sign_in,
            "on_duty": on_duty,
            "p256dh": said.p256dh,
            "auth": said.auth,
        },
    )
    member.wrote("go_on_duty" if on_duty else "leave_duty", member.person.display_name)
    return kept


def stay_on_duty(sender: object, *, before: str, after: SignIn, **_more: object) -> None:
    """Keeps the alerts of a device of the house when another person takes over on it."""
    del sender
    AlertAddress.objects.filter(sign_in=UUID(before), house=after.house, on_duty=True).update(sign_in=after, person=after.person)
