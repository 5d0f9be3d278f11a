"""Withdraw a version: the reason is shown on every card, open run and lot."""

from __future__ import annotations

from datetime import datetime

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.stores.actions.keep_own_material import keep_own_material
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Spec, Version, Withdrawal
from ..outputs import withdrawn_outputs
from ..projection import settle_state


@action
def withdraw_version(member: Member, version: Version, why: str, successor: int | None = None, at: datetime | None = None) -> Withdrawal:
    """Withdraws a version; the `successor` (a version number of the same spec) takes its place, if there is one.

    What is made with it carries the reason as a caution until another version counts. Raises Refusal for an empty reason, a second withdrawal, and a successor
    that is withdrawn or does not exist.
    """
    reason = free_text(
        why, "why", 300, message("A withdrawal needs its reason"), message("Say what is wrong with it: it stands on every card and bottle")
    )
    # The spec's row is locked so that a start of a batch, which shares it, sees either before or after.
    spec = locked_or_404(Spec.objects.filter(pk=version.spec_id, house=member.house))
    if Withdrawal.objects.filter(version=version).exists():
        raise Refusal(message("Version {number} is withdrawn already", number=version.number), "number", code="twice")
    next_one = Version.objects.filter(spec=spec, number=successor, withdrawal=None).exclude(pk=version.pk).first() if successor else None
    if successor and next_one is None:
        raise Refusal(
            message("Version {successor} cannot take its place", successor=successor),
            "successor",
            remedy=message("Choose one that staff may make"),
            code="unknown_reference",
        )
    when = at or timezone.now()
    withdrawal = Withdrawal.objects.create(version=version, why=reason, successor=next_one, by=member.person, at=when)
    settle_state(spec)
    if spec.trial_of_id is None and spec.newest is not None:
        gone = spec.newest_id == version.pk
        keep_own_material(member.house, withdrawn_outputs(version.outputs, withdrawal.why) if gone else spec.newest.outputs)
    member.wrote("withdraw_version", str(version), at=at, why=withdrawal.why)
    return withdrawal
