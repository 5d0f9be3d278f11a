"""`manage.py backup_age`: whether a backup was missed."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.utils import timezone

from ulsek.team.backups_api import OLD
from ulsek.team.models import BackupMade


class Command(BaseCommand):
    help = "Says that the last good backup is too old, in one line; nothing if it is not"

    def handle(self, *_args: Any, **_options: Any) -> None:
        last = BackupMade.objects.order_by("-at").first()
        if last is None:
            self.stdout.write("none has been made yet")
        elif timezone.now() - last.at > OLD:
            self.stdout.write(f"the last good one is of {last.at:%Y-%m-%d %H:%M} UTC")
