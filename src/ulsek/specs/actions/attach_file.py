"""Attach a small file to a spec, or take it away."""

from __future__ import annotations

from datetime import datetime

from django.shortcuts import get_object_or_404
from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Attachment, Spec

MOST_BYTES, MOST_FILES = 2_000_000, 20
KINDS = {"image/png": b"\x89PNG", "image/jpeg": b"\xff\xd8\xff", "application/pdf": b"%PDF", "text/plain": b""}
"""What may be attached, and how such a file begins. Nothing that a browser would run."""


@action
def attach_file(member: Member, spec: Spec, name: str, media_type: str, data: bytes, at: datetime | None = None) -> Attachment:
    """Stores a file. Raises Refusal for another type, content of another type, more than 2 MB, and more than twenty."""
    if media_type not in KINDS or not data.startswith(KINDS[media_type]) or (media_type == "text/plain" and b"\0" in data):
        raise Refusal(
            message("This kind of file is not kept"),
            "file",
            message("a picture (PNG or JPEG), a PDF or plain text"),
            message("Save it as one of them"),
            "not_ours",
        )
    if not 0 < len(data) <= MOST_BYTES:
        raise Refusal(message("The file is too large"), "file", message("at most 2 MB"), message("Take a smaller picture"), "too_long")
    locked(Spec.objects.filter(pk=spec.pk))
    if spec.attachments.count() >= MOST_FILES:
        raise Refusal(message("This spec holds twenty files already"), "file", remedy=message("Take one away first"), code="out_of_bounds")
    found = Attachment.objects.create(
        spec=spec, name=free_text(name, "name", 120) or "file", media_type=media_type, data=data, by=member.person, at=at or timezone.now()
    )
    member.wrote("attach_file", spec.name, at=at, file=found.name)
    return found


@action
def remove_attachment(member: Member, attachment_id: int) -> None:
    """Deletes a file of a spec."""
    item = get_object_or_404(Attachment.objects.select_related("spec").defer("data"), pk=attachment_id, spec__house=member.house)
    member.wrote("remove_attachment", item.spec.name, file=item.name)
    item.delete()
