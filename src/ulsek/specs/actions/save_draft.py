"""Save a draft as it is typed. A conflict of two tabs is reported, and both bodies are kept."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Any
from uuid import UUID

from django.utils import timezone

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.core.spec.json_form import FORMAT
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked_or_404

from ..models import Draft, SideDraft, Spec
from ..origins import not_followed
from ..projection import project

MOST_BYTES = 256_000


class DraftConflict(Exception):
    """Somebody saved in between: both bodies, and the name under which the later one was kept."""

    def __init__(self, theirs: dict[str, Any], mine: dict[str, Any], kept_as: str, by: str) -> None:
        self.theirs, self.mine, self.kept_as = theirs, mine, kept_as
        self.text = f"{by} saved this draft while you were writing. Yours is kept beside it as “{kept_as}”. Reload to see theirs."
        super().__init__(self.text)


def save_draft(
    member: Member, spec_id: UUID, body: dict[str, Any], revision: int, writer: str = "", *, at: datetime | None = None
) -> Draft:
    """Stores `body` as the draft if `revision` is the one it was written from; else stores it as a side draft, and raises DraftConflict.

    If the newest save came from the same tab (`writer`), only its acknowledgement was lost, so that is no conflict. Raises Refusal for what is not a spec file,
    and for more than 256 kB.
    """
    saved = _save_or_keep_aside(member, spec_id, body, revision, writer, at or timezone.now())
    if isinstance(saved, SideDraft):
        # Raised after the action: the kept side draft must survive the refusal.
        draft = Draft.objects.select_related("saved_by").get(spec=spec_id)
        raise DraftConflict(draft.body, body, saved.name, draft.saved_by.display_name)
    return saved


@action
def _save_or_keep_aside(
    member: Member, spec_id: UUID, body: dict[str, Any], revision: int, writer: str, now: datetime
) -> Draft | SideDraft:
    if body.get("format") != FORMAT or not isinstance(body.get("steps"), list):
        raise Refusal(message("This is no Ulsek spec file"), "format", message("format must be “{format}”", format=FORMAT), code="not_ours")
    if len(json.dumps(body)) > MOST_BYTES:
        raise Refusal(
            message("The draft is too long"), "steps", message("at most 256 kB"), message("Split it into two specs"), "out_of_bounds"
        )
    # The spec's row is locked so that two saves with one revision cannot both pass the comparison.
    locked_or_404(Spec.objects.filter(pk=spec_id, house=member.house))
    draft = Draft.objects.select_related("spec").get(spec=spec_id)
    not_followed(draft.spec)
    if draft.revision != revision and not (writer and draft.writer == writer):
        name = f"{member.person.display_name}, {member.local(now):%d %B %H:%M:%S}"
        return SideDraft.objects.create(spec=draft.spec, name=name, body=body, saved_by=member.person, saved_at=now)
    draft.body, draft.revision, draft.saved_by, draft.saved_at = body, draft.revision + 1, member.person, now
    draft.writer = writer[:40]
    draft.save()
    project(draft.spec, body)
    return draft
