"""Keep a picture of a batch: the sample that was set aside."""

from __future__ import annotations

from django.utils import timezone

from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked

from ..models import Run, RunPhoto

MOST_BYTES, MOST_PHOTOS = 900_000, 30
KINDS = {"image/png": b"\x89PNG", "image/jpeg": b"\xff\xd8\xff"}


@action
def keep_photo(member: Member, run: Run, step: str, media_type: str, data: bytes) -> RunPhoto:
    """Stores a picture at a step. Raises Refusal for another type, content of another type, one that is too large, and more than thirty."""
    if media_type not in KINDS or not data.startswith(KINDS[media_type]):
        raise Refusal(message("This kind of picture is not kept"), "file", message("PNG or JPEG"), message("Take it again"), "not_ours")
    if len(data) > MOST_BYTES:
        raise Refusal(message("The picture is too large"), "file", message("at most 900 kB"), message("Take a smaller one"), "too_long")
    locked(Run.objects.filter(pk=run.pk))
    if run.photos.count() >= MOST_PHOTOS:
        raise Refusal(message("This batch holds thirty pictures already"), "file", code="out_of_bounds")
    kept = RunPhoto.objects.create(
        run=run, step=free_text(step, "step", 60), media_type=media_type, data=data, by=member.person, at=timezone.now()
    )
    member.wrote("keep_photo", str(run), step=step)
    return kept
