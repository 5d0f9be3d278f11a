"""End one of one's own sessions from elsewhere."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404

from ..access import Member
from ..action import action
from ..models import SignIn
from ..sessions import end


@action(receipt=False)
def end_session(member: Member, sign_in_id: UUID) -> int:
    """Ends one of the member's sessions and revokes its keys. Returns how many ended [count]: 0 if it had ended before. Raises Http404 for another's session."""
    found = get_object_or_404(SignIn, pk=sign_in_id, person=member.person)
    count = end(SignIn.objects.filter(pk=found.pk), SignIn.Ended.ELSEWHERE)
    if count:
        member.wrote("end_session", found.browser)
    return count
