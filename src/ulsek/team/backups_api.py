"""When the last good backup of the site was made."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from .access import member_of
from .answer import answers
from .models import BackupMade

router = Router(tags=["backups"])
OLD = timedelta(hours=36)
"""Age from which the last backup is too old: one was missed, of those made every day."""


@dataclass(frozen=True, slots=True, kw_only=True)
class BackupState:
    """The last backup that was read back and encrypted: when, its file, its size [bytes]; None and empty if there is none. `too_old` if one was missed since."""

    at: datetime | None
    name: str
    size: int
    too_old: bool


@router.get("/backup", response=answers(BackupState))
def backup(request: HttpRequest) -> BackupState:
    """The last good backup of the whole site."""
    member_of(request)
    last = BackupMade.objects.order_by("-at").first()
    if last is None:
        return BackupState(at=None, name="", size=0, too_old=True)
    return BackupState(at=last.at, name=last.name, size=last.size, too_old=timezone.now() - last.at > OLD)
