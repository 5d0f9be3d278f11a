"""Swap the draft with a side draft, so that neither is lost."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Draft, SideDraft, Spec
from ..projection import project
from .save_draft import DraftConflict


@action
def swap_draft(member: Member, side_id: int, revision: int) -> Draft:
    """Returns the draft with the body of the side draft; its own body becomes the side draft. Raises Refusal if somebody saved in between."""
    side = get_object_or_404(SideDraft, pk=side_id, spec__house=member.house)
    # Locked: a save between the comparison and the swap would be lost.
    locked(Spec.objects.filter(pk=side.spec_id))
    draft = Draft.objects.select_related("spec", "saved_by").get(spec=side.spec_id)
    if draft.revision != revision:
        raise DraftConflict(draft.body, side.body, side.name, draft.saved_by.display_name)
    now = timezone.now()
    name = f"{draft.saved_by.display_name}, {member.local(draft.saved_at):%d %B %H:%M:%S}"
    SideDraft.objects.create(spec=draft.spec, name=name, body=draft.body, saved_by=draft.saved_by, saved_at=draft.saved_at)
    draft.body, draft.revision, draft.saved_by, draft.saved_at, draft.writer = side.body, draft.revision + 1, member.person, now, ""
    draft.save()
    project(draft.spec, draft.body)
    member.wrote("swap_draft", draft.spec.name, took=side.name)
    side.delete()
    return draft
